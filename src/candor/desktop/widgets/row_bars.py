"""A figure with its U as a bar against what is nominal, at the right of a row: for the eye that goes down a list."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter, QPen

from candor.core.late_dataclass import dataclass
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.glyphs import COLOURS

ENDS_AT = 1.4  # of nominal: what lies beyond stands at the end, with a mark that it goes on
WIDE, NARROWEST = 200, 460  # px at the text size as designed: of the bar, and of a row that has room for one


@dataclass(frozen=True)
class Bar:
    """One figure.

    Attributes
    ----------
    at, reach : float
        What it is of nominal, and its U, both as a share of it.
    limit : float
        Below what it is too little, as a share of nominal; 0 where nobody said.
    shape : str
        The state shape of `widgets.glyphs` that its colour is of.
    """

    at: float
    reach: float
    limit: float
    shape: str


def room_for(theme: Theme, box: QRectF, bars: tuple[Bar, ...]) -> float:
    """Return how much of a row's width, px, its bars take: nothing where there are none, or no room."""
    return theme.px(WIDE) if bars and box.width() >= theme.px(NARROWEST) else 0


def draw_bars(painter: QPainter, theme: Theme, box: QRectF, bars: tuple[Bar, ...]) -> None:
    """Draw the bars of a row into a box, one above the other."""
    height = box.height() / len(bars)
    for place, bar in enumerate(bars):
        _draw(painter, theme, QRectF(box.left(), box.top() + place * height, box.width(), height), bar)


def _draw(painter: QPainter, theme: Theme, box: QRectF, bar: Bar) -> None:
    def across(share: float) -> float:
        return box.left() + box.width() * min(max(share, 0.0), ENDS_AT) / ENDS_AT

    middle, half = box.center().y(), min(box.height() * 0.4, theme.px(8))
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    if bar.limit > 0:
        painter.fillRect(
            QRectF(across(0), middle - half, across(bar.limit) - across(0), 2 * half), theme.colour("rule")
        )
    painter.setPen(QPen(theme.colour("soft"), 1))
    painter.drawLine(QPointF(across(0), middle), QPointF(across(ENDS_AT), middle))
    painter.drawLine(QPointF(across(1), middle - half), QPointF(across(1), middle + half))
    colour = theme.colour(COLOURS[bar.shape])
    thick = theme.px(4)
    least, most = across(bar.at - bar.reach), across(bar.at + bar.reach)
    painter.fillRect(QRectF(least, middle - thick / 2, max(most - least, 2.0), thick), colour)
    painter.fillRect(QRectF(across(bar.at) - 1, middle - half * 0.8, 2, 1.6 * half), colour)
    if bar.at + bar.reach > ENDS_AT:  # it goes on
        painter.setPen(QPen(colour, 1.5))
        end, tip = QPointF(across(ENDS_AT), middle), theme.px(4)
        painter.drawLine(end, end + QPointF(-tip, -tip))
        painter.drawLine(end, end + QPointF(-tip, tip))
    painter.restore()
