"""A row of widgets that goes on in the next line where the window is narrow."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtWidgets import QLayout, QLayoutItem, QWidget


class Flow(QLayout):
    """Lays widgets out left to right, wrapping; hidden ones take no room."""

    def __init__(self, spacing: int) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self.setSpacing(spacing)
        self.setContentsMargins(0, 0, 0, 0)

    def addItem(self, item: QLayoutItem) -> None:
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._lay(QRect(0, 0, width, 0), place=False)

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._lay(rect, place=True)

    def sizeHint(self) -> QSize:
        widths = [i.sizeHint().width() for i in self._shown()]
        heights = [i.sizeHint().height() for i in self._shown()]
        return QSize(sum(widths) + self.spacing() * max(len(widths) - 1, 0), max(heights, default=0))

    def minimumSize(self) -> QSize:
        sizes = [i.sizeHint() for i in self._shown()]
        return QSize(max((s.width() for s in sizes), default=0), max((s.height() for s in sizes), default=0))

    def _shown(self) -> list[QLayoutItem]:
        return [i for i in self._items if not i.isEmpty()]

    def _lay(self, rect: QRect, place: bool) -> int:
        x, y, high = rect.x(), rect.y(), 0
        for item in self._shown():
            size = item.sizeHint()
            if x > rect.x() and x + size.width() > rect.right() + 1:
                x, y, high = rect.x(), y + high + self.spacing(), 0
            if place:
                item.setGeometry(QRect(QPoint(x, y), size))
            x += size.width() + self.spacing()
            high = max(high, size.height())
        return y + high - rect.y()


def flow(spacing: int, *widgets: QWidget) -> Flow:
    """Return a flow of widgets."""
    made = Flow(spacing)
    for widget in widgets:
        made.addWidget(widget)
    return made
