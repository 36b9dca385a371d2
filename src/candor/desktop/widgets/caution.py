"""A caution: a triangle, always with its words."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QHBoxLayout, QWidget

from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.elided import Elided
from candor.desktop.widgets.glyphs import Glyph, draw_glyph


class Caution(QWidget):
    """A caution in full; it is not there when there is nothing to say."""

    def __init__(self, theme: Theme, bold: bool = False, role: str = "text") -> None:
        super().__init__()
        self.glyph = Glyph(theme, 13)
        self.glyph.show_shape("hazard")
        self.words = label("", role, bold=bold, tint="brick")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(theme.px(6))
        row.addWidget(self.glyph, 0, Qt.AlignmentFlag.AlignTop)
        row.addWidget(self.words, 1)
        self.say("")

    def text(self) -> str:
        """Return what it says."""
        return self.words.text()

    def say(self, text: str) -> None:
        """Say a caution, or nothing."""
        self.words.setText(text)
        self.words.setAccessibleName(f"Caution: {text}" if text else "")
        self.setVisible(bool(text))


class CautionLine(Elided):
    """A caution in one line at the right, its triangle before it."""

    def __init__(self, theme: Theme, role: str = "text") -> None:
        super().__init__(theme, role, tint="brick", right=True)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(120), self._theme.px(28 if self._role.startswith("arm") else 19))

    def room(self) -> int:
        """The triangle keeps its place, however long the words."""
        return max(self.width() - round(3.6 * self._radius()), 0)

    @property
    def is_cut(self) -> bool:
        """Whether its words do not fit into its line: they must stand elsewhere too, whole."""
        return bool(self._text) and self._theme.width_of(self._text, self._role) > self.room()

    def _radius(self) -> int:
        return self._theme.px(9 if self._role.startswith("arm") else 5.5)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        radius = self._radius()
        width = min(self._theme.width_of(self._text, self._role), self.room())
        centre = QPointF(self.width() - width - radius * 2.2, self.height() / 2)
        draw_glyph(QPainter(self), self._theme, "hazard", centre, radius)
