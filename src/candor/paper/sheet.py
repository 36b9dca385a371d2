"""What every sheet of paper has in common: its type and the plain style of its tables."""

from __future__ import annotations

import io
from functools import cache
from importlib import resources
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.styles import ParagraphStyle
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Paragraph, Table, TableStyle

from candor.paper.figure import INK


@cache
def register_fonts() -> None:
    """Make the shipped type known to the library of pages; once is enough."""
    folder = resources.files("candor.assets") / "fonts"
    for name, file in (("B612", "B612-Regular.ttf"), ("B612-Bold", "B612-Bold.ttf")):
        pdfmetrics.registerFont(TTFont(name, io.BytesIO((folder / file).read_bytes())))
    pdfmetrics.registerFontFamily("B612", normal="B612", bold="B612-Bold", italic="B612", boldItalic="B612-Bold")


def style(size: float = 9, colour: Any = INK, bold: bool = False, **more: Any) -> ParagraphStyle:
    """Return the style of a paragraph; size in points."""
    font = "B612-Bold" if bold else "B612"
    return ParagraphStyle("", fontName=font, fontSize=size, leading=size * 1.38, textColor=colour, **more)


def text(words: str, size: float = 9, colour: Any = INK, bold: bool = False, **more: Any) -> Paragraph:
    """Return a paragraph of plain words."""
    return Paragraph(escape(words), style(size, colour, bold, **more))


def laid(table: Table, padding: float, vertical: str, *more: tuple[Any, ...]) -> Table:
    """Give a table its plain style: our own type, no side padding, lines only where asked for."""
    everywhere = ((0, 0), (-1, -1))
    plain_style = [
        ("FONT", *everywhere, "B612", 8),
        ("VALIGN", *everywhere, vertical),
        ("LEFTPADDING", *everywhere, 0),
        ("TOPPADDING", *everywhere, padding),
        ("BOTTOMPADDING", *everywhere, padding),
    ]
    table.setStyle(TableStyle([*plain_style, *more]))
    return table
