"""The pages of a certificate as they are printed, drawn beside the window."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtGui import QImage

from candor.desktop.frame.drawn_pdf import draw_pdf
from candor.paper.record import CertificateRecord


def certificate_bytes(
    record: CertificateRecord, digest: str, second: str, photos: Path | None, should_stop: Callable[[], bool]
) -> bytes:
    """Set a certificate as PDF."""
    from candor.paper.certificate import certificate_pdf  # imported here: it is slow to load

    return certificate_pdf(record, digest, should_stop, second, photos)


def draw_pages(
    record: CertificateRecord,
    digest: str,
    width: int,
    should_stop: Callable[[], bool],
    second: str = "",
    photos: Path | None = None,
) -> tuple[bytes, list[QImage]]:
    """Set a certificate and draw its pages, `width` px wide each."""
    pdf = certificate_bytes(record, digest, second, photos, should_stop)
    return pdf, draw_pdf(pdf, width, should_stop)
