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

    def undo(self) -> bool:
        """Take back what was last done on the page itself; False where it has no undoing of its own."""
        return False

    def redo(self) -> bool:
        """Bring back what `undo` took back; False where the page has no undoing of its own."""
        return False

    def finish(self) -> None:
        """Stop what goes on beside the window: it closes."""
