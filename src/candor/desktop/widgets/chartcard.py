"""What the charts have in common: a card with a plot in it, and words at its edge."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.card import caption_height


class ChartCard(QWidget):
    """A card with a plot in it."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self._theme = theme
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(name)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(560), self._theme.px(250))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(240), self._theme.px(170))

    def plot(self, left: float = 64) -> QRectF:
        """Return where the plot is, `left` px (of the text's size) of room for the values beside it."""
        px = self._theme.px
        return QRectF(
            px(left),
            px(14),
            self.width() - px(left + 16),
            self.height() - caption_height(self._theme, False) - px(40),
        )

    def words(self, painter: QPainter, at: QPointF, words: str, right: bool = False) -> None:
        """Write words under, or to the left of, a place."""
        painter.setFont(self._theme.font("note"))
        painter.setPen(self._theme.colour("soft"))
        width = painter.fontMetrics().horizontalAdvance(words)
        painter.drawText(at - QPointF(width if right else width / 2, 0), words)
