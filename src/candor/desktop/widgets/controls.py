"""Small parts used on many pages: a rule, a scrolled column, a button with its key."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QFrame, QLayout, QPushButton, QScrollArea, QSizePolicy, QVBoxLayout, QWidget


def line(vertical: bool = False) -> QFrame:
    """Return a hair line."""
    made = QFrame()
    made.setObjectName("line")
    if vertical:
        made.setFixedWidth(1)
    else:
        made.setFixedHeight(1)
    return made


def button(text: str, tip: str, key: str = "", name: str = "") -> QPushButton:
    """Return a button that says its key beside its name and in its tooltip."""
    made = QPushButton(f"{text}  {key}" if key else text)
    made.setToolTip(f"{tip} ({key})" if key else tip)
    made.setAccessibleName(text)
    made.setAccessibleDescription(tip)
    if name:
        made.setObjectName(name)
    made.setAutoDefault(True)
    return made


def shortcut(page: QWidget, keys: str, told: Callable[[], object]) -> None:
    """Let keys do something wherever the focus is while `page` is shown."""
    made = QShortcut(QKeySequence(keys), page)
    made.activated.connect(told)


def empty(layout: QLayout) -> None:
    """Take everything out of a layout and let it go."""
    while (item := layout.takeAt(0)) is not None:
        widget, inner = item.widget(), item.layout()
        if widget is not None:
            widget.hide()
            widget.deleteLater()
        elif inner is not None:
            empty(inner)


class Tight(QVBoxLayout):
    """A column that a scroll area may press down to what it needs.

    A scroll area stretches a layout with wrapping words to its preferred height. So this one says that it
    has none, except while it works out what it needs itself.
    """

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self._asked = False

    def hasHeightForWidth(self) -> bool:
        return self._asked and super().hasHeightForWidth()

    def needed_height(self, width: int) -> int:
        """Return the least height at a width."""
        self._asked = True
        try:
            if not self.hasHeightForWidth():  # nothing in it wraps, such as pages of a preview
                return self.minimumSize().height()
            return self.minimumHeightForWidth(width)
        finally:
            self._asked = False


class Body(QWidget):
    """What scrolls in a column: asks for no more height than its width truly needs."""

    def event(self, event: QEvent) -> bool:
        done = super().event(event)
        layout = self.layout()
        if event.type() in (QEvent.Type.LayoutRequest, QEvent.Type.Resize) and isinstance(layout, Tight):
            self.setMinimumHeight(layout.needed_height(self.width()))
        return done


class Column(QScrollArea):
    """A column of widgets that scrolls when the window is too low, and never sideways."""

    def __init__(self, margin: int, spacing: int) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.body = Body()
        self.body.setObjectName("body")
        self.body.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.body.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.column = Tight(self.body)
        self.column.setContentsMargins(margin, margin, margin, margin)
        self.column.setSpacing(spacing)
        self.setWidget(self.body)
