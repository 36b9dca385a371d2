"""A field whose figures are set smaller where they would not fit: a number that is cut off reads as another."""

from __future__ import annotations

from PySide6.QtGui import QFontMetricsF, QResizeEvent

from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.field import Field

EDGE = 14  # px of frame and padding beside the text, at both ends together
LEAST = 0.4  # of the size it is designed for


class FittingField(Field):
    """A field in the type of a role, smaller where its text is longer than the field is wide."""

    def __init__(self, theme: Theme, role: str) -> None:
        super().__init__()
        self._theme, self._role, self._size = theme, role, 0
        self.setObjectName(role)
        self.textChanged.connect(lambda _: self._fit())
        theme.changed.connect(self._fit)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        font = self._theme.font(self._role, True)
        wide = QFontMetricsF(font).horizontalAdvance(self.text())
        room = self.width() - self._theme.px(EDGE)
        share = max(min(room / wide, 1.0), LEAST) if wide > 0 and room > 0 else 1.0
        size = int(font.pixelSize() * share) if share < 1 else 0
        if size != self._size:  # dressing a widget anew costs a millisecond: only where it becomes another size
            self._size = size
            self.setStyleSheet(f"font-size: {size}px" if size else "")
