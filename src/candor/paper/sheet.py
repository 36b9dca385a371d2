"""What every sheet of paper has in common: its type and the plain style of its tables."""

from __future__ import annotations

import io
import re
from functools import cache, lru_cache
from importlib import resources
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Table, TableStyle

from candor.core.quantities.show import unparted
from candor.paper.drawn_ribbon import INK, SOFT

_NO_PLACE = re.compile(
    r"[\x00-\x08\x0b-\x1f\x7f-\x9f\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff\ufffe\uffff\ud800-\udfff]"
)
LEADING = 1.38  # of the size of the type, from line to line
TALL = 300.0  # points of a row: from there it may be split


@cache
def register_fonts() -> None:
    """Make the shipped type known to the library of pages; once is enough."""
    folder = resources.files("candor.assets") / "fonts"
    for name, file in (("B612", "B612-Regular.ttf"), ("B612-Bold", "B612-Bold.ttf")):
        pdfmetrics.registerFont(Type(name, io.BytesIO((folder / file).read_bytes())))
    pdfmetrics.registerFontFamily("B612", normal="B612", bold="B612-Bold", italic="B612", boldItalic="B612-Bold")


class Type(TTFont):
    """A typeface that remembers how wide words are: a table asks it of the same words again and again."""

    def __init__(self, name: str, file: io.BytesIO) -> None:
        super().__init__(name, file)
        self.stringWidth = lru_cache(maxsize=20_000)(super().stringWidth)


@cache
def style(size: float = 9, colour: Any = INK, bold: bool = False, **more: Any) -> ParagraphStyle:
    """Return the style of a paragraph; size in points."""
    font = "B612-Bold" if bold else "B612"
    return ParagraphStyle("", fontName=font, fontSize=size, leading=size * LEADING, textColor=colour, **more)


def printable(words: str) -> str:
    """Return words without characters that no paper has a place for: control characters, and marks that turn the direction."""
    return _NO_PLACE.sub("", words)


def text(words: str, size: float = 9, colour: Any = INK, bold: bool = False, **more: Any) -> Paragraph:
    """Return a paragraph of plain words."""
    return Paragraph(escape(unparted(printable(words))), style(size, colour, bold, **more))


def pages(story: list[Flowable], title: str, size: tuple[float, float] = A4, margin: float = 18 * mm) -> bytes:
    """Return plain pages with a number at each foot, of a size and with a margin in points."""

    def foot(canvas: Canvas, document: Any) -> None:
        canvas.setFont("B612", 7.5)
        canvas.setFillColor(SOFT)
        canvas.drawString(margin, margin * 0.55, title[:100])
        canvas.drawRightString(size[0] - margin, margin * 0.55, f"page {document.page}")

    out = io.BytesIO()
    margins = {
        "leftMargin": margin,
        "rightMargin": margin,
        "topMargin": margin * 0.9,
        "bottomMargin": max(margin, 9 * mm),
    }
    document = SimpleDocTemplate(out, pagesize=size, title=title, creator="Candor", initialFontName="B612", **margins)
    document.build(story, onFirstPage=foot, onLaterPages=foot)
    return out.getvalue()


class Rows(Table):
    """A table whose rows stay whole, but for one that is taller than a good part of a page: that is printed over pages."""

    def split(self, available_width: float, available_height: float) -> list[Flowable]:
        """Split at rows, and within those too tall."""
        self.splitInRow = 1 if any((height or 0) > TALL for height in self._rowHeights) else 0
        return list(super().split(available_width, available_height))


def laid(table: Table, padding: float, vertical: str, *more: tuple[Any, ...]) -> Table:
    """Give a table its plain style: our own type, no side padding, lines only where asked for."""
    everywhere = ((0, 0), (-1, -1))
    plain_style = [
        ("FONT", *everywhere, "B612", 8, 8 * LEADING),
        ("VALIGN", *everywhere, vertical),
        ("LEFTPADDING", *everywhere, 0),
        ("TOPPADDING", *everywhere, padding),
        ("BOTTOMPADDING", *everywhere, padding),
    ]
    table.setStyle(TableStyle([*plain_style, *more]))
    return table
