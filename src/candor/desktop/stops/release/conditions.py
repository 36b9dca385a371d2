"""The conditions that stand on a certificate, a field for each."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot import possible_condition
from candor.core.quantities import parse_number
from candor.core.quantities.show import trimmed
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.theme import Theme, label
from candor.notebook.work.job import Job
from candor.sitting.commands import calibrate_commands

CONDITIONS = (
    ("celsius", "Room, °C", "23.1", "temp"),
    ("humidity", "Humidity, %", "45", "rh"),
    ("line_volts", "Line, V", "118.6", "line"),
)


class Conditions(QWidget):
    """The room and the line, as they are noted for what is read from here on."""

    def __init__(self, theme: Theme, *, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._writer, self._voice = writer, voice
        self.fields: dict[str, QLineEdit] = {}
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        for key, title, hint, jot in CONDITIONS:
            part, edit = QVBoxLayout(), QLineEdit()
            edit.setPlaceholderText(in_field(hint))
            edit.setAccessibleName(title)
            edit.setToolTip(f"{title}. Jot: {jot} {hint}")
            edit.editingFinished.connect(lambda of=key: self._write(of))
            self.fields[key] = edit
            part.addWidget(label(title, "soft", wrap=False))
            part.addWidget(edit)
            row.addLayout(part)

    def show_job(self, job: Job) -> None:
        """Show what was noted last."""
        for key, edit in self.fields.items():
            if not edit.hasFocus():
                noted = job.calibrate.conditions.get(key)
                edit.setText(trimmed(noted.body.value) if noted is not None else "")
                edit.setModified(False)

    def _write(self, key: str) -> None:
        edit = self.fields[key]
        if not edit.isModified() or not edit.text().strip():
            return
        try:
            value = parse_number(edit.text(), "a number such as " + edit.placeholderText())
            possible_condition(key, value, edit.text())
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        edit.setModified(False)
        self._writer.do(calibrate_commands.note_condition(key, value))
