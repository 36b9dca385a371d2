"""The foot of a step, under what scrolls: however long a caution is, its buttons are on screen."""

from __future__ import annotations

from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.controls import line
from candor.desktop.widgets.flow import flow


class StepFoot(QWidget):
    """A line, the place of a reason, and the buttons of a step."""

    def __init__(self, theme: Theme, reason: QWidget, *actions: QWidget) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), 0, theme.px(16), theme.px(12))
        column.setSpacing(theme.px(6))
        column.addWidget(line())
        column.addWidget(reason)
        column.addLayout(flow(theme.px(8), *actions))
