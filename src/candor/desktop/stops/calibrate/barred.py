"""That power is barred, said where it is needed; it is settled at Power."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QWidget

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.controls import button
from candor.notebook.work.barriers import barrier


class Barred(QWidget):
    """The first thing that bars power, and the way to where it is settled.

    Signals
    -------
    powerAsked()
        It is to be settled.
    """

    powerAsked = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand) -> None:
        super().__init__()
        self._in_hand = in_hand
        self.words = Caution(theme, bold=True)
        self.settle = button("To Power", "Where it is cleared, or overridden with a written reason")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, theme.px(8))
        row.addWidget(self.words, 1)
        row.addWidget(self.settle)
        self.settle.clicked.connect(self.powerAsked)

    def show_job(self) -> None:
        """Show what bars power first, or nothing."""
        found = barrier(self._in_hand.job, self._in_hand.parts())
        self.setVisible(found is not None)
        if found is not None:
            self.words.say(found.sentence)
