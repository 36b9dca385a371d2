"""The pages of a certificate as they are printed, drawn beside the window."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from threading import Lock

from PySide6.QtGui import QImage

from candor.paper.record import CertificateRecord

_ONE_AT_A_TIME = Lock()  # the library that draws pages may be entered once


def draw_pages(
    record: CertificateRecord,
    digest: str,
    width: int,
    should_stop: Callable[[], bool],
    second: str = "",
    photos: Path | None = None,
) -> tuple[bytes, list[QImage]]:
    """Set a certificate and draw its pages, `width` px wide each."""
    from candor.paper.certificate import certificate_pdf  # imported here: it is slow to load

    pdf = certificate_pdf(record, digest, should_stop, second, photos)
    with _ONE_AT_A_TIME:
        return pdf, _draw(pdf, width, should_stop)


def _draw(pdf: bytes, width: int, should_stop: Callable[[], bool]) -> list[QImage]:
    import pypdfium2

    images = []
    document = pypdfium2.PdfDocument(pdf)
    try:
        for page in document:
            if should_stop():
                break
            scale = width / page.get_width()
            bitmap = page.render(scale=scale, rev_byteorder=True)
            data = bytes(bitmap.buffer)
            kind = QImage.Format.Format_RGB888 if bitmap.n_channels == 3 else QImage.Format.Format_RGBX8888
            images.append(QImage(data, bitmap.width, bitmap.height, bitmap.stride, kind).copy())
            bitmap.close()
            page.close()
    finally:
        document.close()
    return images
