"""A new job: which type of instrument came to the bench."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout

from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.rows import Row, RowList
from candor.notebook.pack_choice import pack_at_hand, packs_at_hand
from candor.notebook.store import Notebook


class NewJobPage(Page):
    """Choose a pack, write the serial number if there is one, and begin.

    Signals
    -------
    begun(object, str)
        A job is to be opened: its Pack and the serial number.
    """

    begun = Signal(object, str)

    def __init__(self, theme: Theme, *, notebook: Notebook) -> None:
        super().__init__()
        self._notebook = notebook

        self._chosen = ""
        self.packs = RowList(theme, "Types of instrument")
        self.serial = QLineEdit()
        self.serial.setPlaceholderText("serial number, if there is one")
        self.serial.setAccessibleName("Serial number")
        self.begin = button("Put it on the bench", "Open a job for this instrument", "Enter", "main")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(9))
        column.addWidget(label("What came to the bench?", "heading", bold=True))
        words = (
            "Choose its type. A type that is missing here is described in a pack: Packs, at the left, takes one in."
        )
        column.addWidget(label(words, "soft"))
        column.addWidget(self.packs, 1)
        row = QHBoxLayout()
        row.addWidget(self.serial, 1)
        row.addWidget(self.begin)
        column.addLayout(row)
        self.packs.picked.connect(self._choose)
        self.serial.returnPressed.connect(self._begin)
        self.begin.clicked.connect(self._begin)

    def enter(self) -> None:
        """Show the packs there are."""
        packs = packs_at_hand(self._notebook)
        if self._chosen not in [p.digest for p in packs]:
            self._chosen = packs[0].digest if packs else ""
        self._show()
        self.serial.setFocus()

    def _show(self) -> None:
        rows = [Row(p.digest, p.name, f"{p.kind}: {p.summary}") for p in packs_at_hand(self._notebook)]
        self.packs.show_rows(tuple(rows), self._chosen)

    def _choose(self, digest: str) -> None:
        self._chosen = digest
        self._show()
        self.serial.setFocus()

    def _begin(self) -> None:
        pack = pack_at_hand(self._notebook, self._chosen)
        if pack is not None:
            self.begun.emit(pack, self.serial.text())

    def explain(self, because: Because) -> None:
        """Say what a job is."""
        because.show_whole(None)
        because.show_words("A job", ["One instrument's stay on the bench, from arrival to certificate. Its pack is kept "
                                     "with it, so the job reads the same when the pack has moved on."])  # fmt: skip
