"""What every sheet of paper has in common: its type and the plain style of its tables."""

from __future__ import annotations

import io
from functools import cache
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
from candor.paper.figure import INK, SOFT


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
    return Paragraph(escape(unparted(words)), style(size, colour, bold, **more))


def pages(story: list[Flowable], title: str) -> bytes:
    """Return plain pages with a number at each foot."""

    def foot(canvas: Canvas, document: Any) -> None:
        canvas.setFont("B612", 7.5)
        canvas.setFillColor(SOFT)
        canvas.drawString(18 * mm, 10 * mm, title[:100])
        canvas.drawRightString(A4[0] - 18 * mm, 10 * mm, f"page {document.page}")

    out = io.BytesIO()
    margins = {"leftMargin": 18 * mm, "rightMargin": 18 * mm, "topMargin": 16 * mm, "bottomMargin": 18 * mm}
    document = SimpleDocTemplate(out, pagesize=A4, title=title, creator="Candor", initialFontName="B612", **margins)
    document.build(story, onFirstPage=foot, onLaterPages=foot)
    return out.getvalue()


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
