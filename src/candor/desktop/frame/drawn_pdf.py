"""Pages of paper drawn: on the screen, and on a printer; always beside the window."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from threading import Lock

from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter
from PySide6.QtPrintSupport import QPrinter

from candor.core.late_dataclass import dataclass

_ONE_AT_A_TIME = Lock()  # the library that draws pages may be entered once
INCH = 72.0  # points
PRINTED_DPI = 300.0  # finer than the eye and than most type
MM_OF_POINT = 25.4 / 72


@dataclass(frozen=True)
class Printable:
    """A paper that can be looked at and printed: its title, the name of its file, what makes it, and what it rests on."""

    title: str
    name: str
    make: Callable[[Callable[[], bool]], bytes]
    words: tuple[str, ...] = ()


def draw_pdf(pdf: bytes, width: int, should_stop: Callable[[], bool], most: int = 0) -> list[QImage]:
    """Draw the pages of a PDF, `width` px wide each; the first of them where `most` is given."""
    with _ONE_AT_A_TIME:
        return list(_drawn(pdf, lambda size: width / size[0], should_stop, 1, most))


def sizes_of(pdf: bytes) -> list[tuple[float, float]]:
    """Return the sizes of the pages of a PDF, mm."""
    import pypdfium2

    with _ONE_AT_A_TIME:
        document = pypdfium2.PdfDocument(pdf)
        try:
            return [tuple(MM_OF_POINT * side for side in document.get_page_size(n)) for n in range(len(document))]
        finally:
            document.close()


def print_pdf(pdf: bytes, printer: QPrinter, should_stop: Callable[[], bool]) -> int:
    """Print the pages of a PDF that a printer is asked for, each at its own size; return how many."""
    first, last = printer.fromPage() or 1, printer.toPage()
    dpi = min(float(printer.resolution()), PRINTED_DPI)
    count = 0
    painter = QPainter()
    try:
        with _ONE_AT_A_TIME:
            for image in _drawn(pdf, lambda _: dpi / INCH, should_stop, first, last - first + 1 if last else 0):
                if count == 0:
                    if not painter.begin(printer):
                        return 0
                else:
                    printer.newPage()
                scale = printer.resolution() / dpi
                painter.drawImage(QRectF(0, 0, image.width() * scale, image.height() * scale), image)
                count += 1
    finally:
        if painter.isActive():
            painter.end()
    return count


def _drawn(
    pdf: bytes,
    scale_of: Callable[[tuple[float, float]], float],
    should_stop: Callable[[], bool],
    first: int,
    most: int,
) -> Iterator[QImage]:
    import pypdfium2

    document = pypdfium2.PdfDocument(pdf)
    try:
        end = min(len(document), first - 1 + most) if most else len(document)
        for number in range(first - 1, end):
            if should_stop():
                return
            page = document[number]
            bitmap = page.render(scale=scale_of(page.get_size()), rev_byteorder=True)
            data = bytes(bitmap.buffer)
            kind = QImage.Format.Format_RGB888 if bitmap.n_channels == 3 else QImage.Format.Format_RGBX8888
            image = QImage(data, bitmap.width, bitmap.height, bitmap.stride, kind).copy()
            bitmap.close()
            page.close()
            yield image
    finally:
        document.close()
