"""The notes that were written on this page, over the jot line: each can be made an entry by one press, and keeps its time."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.elided import Elided
from candor.notebook.entries.entry import AnyEntry
from candor.notebook.entries.stay_entries import note_text, notes_at

SHOWN = 2  # notes; the rest stand in Entries


class NoteStrip(QWidget):
    """A strip over the jot line, there only where notes were written at this stop.

    Signals
    -------
    factAsked(object)
        A note is to become an entry of its own kind: the note's Entry.
    """

    factAsked = Signal(object)

    def __init__(self, theme: Theme, *, in_hand: JobInHand, place: PlaceInHand, writer: Writer) -> None:
        super().__init__()
        self._theme, self._in_hand, self._place, self._writer = theme, in_hand, place, writer
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(theme.px(16), theme.px(2), theme.px(16), theme.px(2))
        self._column.setSpacing(theme.px(2))
        self._shown: tuple[str, ...] = ()
        self.hide()
        in_hand.changed.connect(self.show_notes)
        place.changed.connect(self.show_notes)
        self.show_notes()

    def show_notes(self) -> None:
        """Show the newest notes of the stop in hand; nothing where there are none."""
        job = self._in_hand.job
        notes = notes_at(job.stay, self._place.stop) if job is not None else ()
        asked = tuple(note.id for note in notes)
        if asked == self._shown:
            return
        self._shown = asked
        while (item := self._column.takeAt(0)) is not None:
            row = item.widget()
            if row is not None:
                row.hide()
                row.deleteLater()
        for note in notes[-SHOWN:]:
            self._column.addWidget(self._row(note))
        if len(notes) > SHOWN:
            self._column.addWidget(label(f"and {len(notes) - SHOWN} more notes in Entries", "soft"))
        self.setVisible(bool(notes))

    def _row(self, note: AnyEntry) -> QWidget:
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(self._theme.px(8))
        words = Elided(self._theme, "text")
        words.say(f"note {note.at.astimezone():%H:%M}: {note_text(note)}")
        fact = button(
            "Make it an entry", "Puts the note in the line below; what you enter then keeps the time of the note"
        )
        strike = button("Strike", "The note stays readable in Entries")
        fact.clicked.connect(lambda: self.factAsked.emit(note))
        strike.clicked.connect(lambda: self._writer.strike(note))
        for made in (fact, strike):
            made.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        line.addWidget(words, 1)
        line.addWidget(fact)
        line.addWidget(strike)
        return row
