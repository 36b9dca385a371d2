"""One line of text that ends in an ellipsis where there is no room; the tooltip has it whole."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme, plain_tip


class Elided(QWidget):
    """A line in one of the theme's roles."""

    def __init__(self, theme: Theme, role: str, bold: bool = False, tint: str = "ink", right: bool = False) -> None:
        super().__init__()
        self._theme, self._role, self._bold, self._right = theme, role, bold, right
        self._tint, self._text = tint, ""
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)

    def say(self, text: str, tint: str = "") -> None:
        """Show a text, in another colour of the theme where one is named."""
        self._text, self._tint = text, tint or self._tint
        self.setToolTip(plain_tip(text))
        self.setAccessibleName(text)
        self.setVisible(bool(text))
        self.update()

    def room(self) -> int:
        """Return how wide the words may be, px."""
        return self.width()

    def text(self) -> str:
        """Return the whole text."""
        return self._text

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(120), self._theme.px({"heading": 22, "arm-soft": 28}.get(self._role, 19)))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setFont(self._theme.font(self._role, self._bold))
        painter.setPen(self._theme.colour(self._tint))
        shown = painter.fontMetrics().elidedText(self._text, Qt.TextElideMode.ElideRight, self.room())
        side = Qt.AlignmentFlag.AlignRight if self._right else Qt.AlignmentFlag.AlignLeft
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter | side, local(shown))
