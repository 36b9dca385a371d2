"""Small parts used on many pages: a rule, a scrolled column, a button with its key."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
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


class Column(QScrollArea):
    """A column of widgets that scrolls when the window is too low, and never sideways."""

    def __init__(self, margin: int, spacing: int) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.body = QWidget()
        self.body.setObjectName("body")
        self.body.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.column = QVBoxLayout(self.body)
        self.column.setContentsMargins(margin, margin, margin, margin)
        self.column.setSpacing(spacing)
        self.setWidget(self.body)
