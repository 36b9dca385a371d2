"""What the window asks of a page."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from candor.desktop.frame.because import Because


class Page(QWidget):
    """The page of a stop or a room; each answers what concerns it.

    Signals
    -------
    explainAsked()
        What is chosen on it is another: the reasons beside it are to be given anew.
    """

    explainAsked = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("page")

    def enter(self) -> None:
        """Come to it: show how things stand, and put the keyboard where the hands are."""

    def explain(self, because: Because) -> None:
        """Give the reasons for what is chosen on it."""

    def narrow(self, is_narrow: bool) -> None:
        """Let something give way where the window is narrow."""

    def finish(self) -> None:
        """Stop what goes on beside the window: it closes."""
