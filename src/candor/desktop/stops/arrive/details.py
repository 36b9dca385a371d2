"""Who it is: what is known of the instrument and its stay, kept as each field is left."""

from __future__ import annotations

from PySide6.QtWidgets import QGridLayout, QLineEdit, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.arrive.unitcard import UnitCard, write_arrival
from candor.notebook.work.history_of import check_detail
from candor.sitting.commands import stay_commands

# Key, title, hint, and where it stands: row, column, columns.
FIELDS = (
    ("maker", "Maker", "as it stands on the front", 0, 0, 1),
    ("type", "Type", "as it stands on the front", 0, 1, 1),
    ("serial", "Serial number", "on the plate or the chassis", 2, 0, 1),
    ("mass", "Mass", "32 kg, 70 lb; over 20 kg two people lift", 2, 1, 1),
    ("owner", "Owner", "who owns it, how to reach them", 4, 0, 1),
    ("cost", "Price agreed", "for time and parts", 4, 1, 1),
    ("says", "What they say", "in their words", 6, 0, 2),
    ("stored", "How it was stored", "shelf, attic, damp cellar", 8, 0, 1),
    ("missing", "What is missing", "knobs, feet, probe, fuse cap", 8, 1, 1),
    ("repairs", "Earlier repairs", "diodes swapped, a capacitor tacked across", 10, 0, 2),
    ("sticker", "Old calibration sticker", "2015-06-01, by whom: history begins there", 12, 0, 2),
    ("drawing", "Drawing and edition", "which one, printed when", 14, 0, 1),
    ("mismatch", "What does not match it", "an added board, another value", 14, 1, 1),
)


class Details(QWidget):
    """The fields of the first sitting with an instrument."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, clock: Clock) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._clock = in_hand, writer, voice, clock
        self.fields: dict[str, QLineEdit] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        grid = QGridLayout()
        grid.setHorizontalSpacing(theme.px(14))
        grid.setVerticalSpacing(theme.px(2))
        for key, title, hint, row, place, columns in FIELDS:
            edit = QLineEdit()
            edit.setPlaceholderText(in_field(hint))
            edit.setAccessibleName(title)
            edit.setToolTip(f"{title}: {hint}. Jot: {key} …")
            grid.addWidget(label(title, "soft", wrap=False), row, place, 1, columns)
            grid.addWidget(edit, row + 1, place, 1, columns)
            edit.editingFinished.connect(lambda key=key: self._write(key))
            self.fields[key] = edit
        column.addLayout(grid)
        self.unit = UnitCard(theme, in_hand=in_hand, writer=writer, voice=voice)
        column.addWidget(self.unit)
        column.addStretch()

    def show_job(self) -> None:
        """Show what is known, leaving the field that is being typed into alone."""
        job = self._in_hand.job
        if job is None:
            return
        for key, edit in self.fields.items():
            if not edit.hasFocus():
                edit.setText(job.stay.details.get(key, ""))
                edit.setCursorPosition(0)
                edit.setModified(False)
        self.unit.show_job()

    def _write(self, key: str) -> None:
        edit, job = self.fields[key], self._in_hand.job
        text = edit.text().strip()
        if job is None or not edit.isModified() or text == job.stay.details.get(key, ""):
            return
        try:
            check_detail(key, text, self._clock.now().date())
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        if key == "mass" and text:
            written = write_arrival(f"mass {text}", self._in_hand, self._writer, self._voice)
            if not written:
                self._voice.refuse(f"“{text}” is not a mass. Examples: 32 kg, 70 lb")
        else:
            written = self._writer.do(stay_commands.detail(key, text))
        if written:
            edit.setModified(False)
