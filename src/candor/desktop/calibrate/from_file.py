"""Readings from a CSV file: what each line was understood to say, before anything is written."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from candor.desktop.because import Because
from candor.desktop.bench import Bench
from candor.desktop.theme import Theme, label
from candor.desktop.widgets.parts import button
from candor.desktop.widgets.rows import Row, RowList
from candor.notebook.csv_readings import CsvPreview, preview_csv


class FromFilePage(QWidget):
    """The preview.

    Signals
    -------
    finished()
        Written or left.
    """

    finished = Signal()

    def __init__(self, theme: Theme, bench: Bench) -> None:
        super().__init__()
        self.setObjectName("page")
        self._bench = bench
        self._preview = CsvPreview(())
        self.title = label("", "heading", bold=True)
        self.words = label("", "text")
        self.lines = RowList(theme, "Lines of the file", wrap=True)
        self.write = button("Write them", "Write every reading, all at once", name="main")
        self.leave = button("Leave it", "Write nothing", "Esc")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.addWidget(self.title)
        column.addWidget(self.words)
        column.addWidget(self.lines, 1)
        row = QHBoxLayout()
        row.addWidget(self.write)
        row.addWidget(self.leave)
        row.addStretch()
        column.addLayout(row)
        self.write.clicked.connect(self._write)
        self.leave.clicked.connect(self.finished)

    def show_file(self, path: Path) -> bool:
        """Preview a file; False, with a sentence, where it cannot be read at all."""
        job, pack, step = self._bench.job, self._bench.pack, self._bench.step
        if job is None or pack is None:
            self._bench.told.emit("Open a job first: readings belong to an instrument.", "brick")
            return False
        try:
            content = path.read_bytes()
        except OSError as error:
            self._bench.told.emit(f"{path.name} cannot be read: {error.strerror}. Nothing was taken in.", "brick")
            return False
        phase = "as left" if step is not None and step.phase == "as left" else "as found"
        self._preview = preview_csv(content, pack, phase, job.standard)
        self._show(path.name, phase)
        return True

    def _show(self, name: str, phase: str) -> None:
        faults, count = len(self._preview.faults), len(self._preview.lines)
        self.title.setText(f"{name}: {count} lines, {phase} unless a line says otherwise")
        if faults:
            noun = "fault" if faults == 1 else "faults"
            self.words.setText(
                f"{faults} {noun}: nothing can be written until the file is mended. {self._preview.fault}"
            )
        else:
            self.words.setText("This is how they are understood. Nothing is written yet.")
        rows = [
            Row(
                str(line.number),
                f"line {line.number}   {line.text}",
                line.understood or line.fault,
                "cross" if line.fault else "full",
            )
            for line in self._preview.lines
        ]
        self.lines.show_rows(tuple(rows), "")
        self.write.setEnabled(not faults)
        self.write.setText(f"Write {len(self._preview.readings)} readings")
        (self.leave if faults else self.write).setFocus()

    def explain(self, because: Because) -> None:
        """Say how a file is understood."""
        because.show_whole(None)
        words = [
            "Every line is shown as it is understood. One fault, and nothing is written: mend the file and open it again.",
            "Columns point, reading, reference; direction and phase may be added. A point is function/range/value, "
            "such as dc+/150/75. docs/formats.md has the whole.",
        ]
        because.show_words("Readings from a file", words, "cross" if self._preview.faults else "full")

    def _write(self) -> None:
        readings = self._preview.readings
        if readings and self._bench.write(*readings):
            self._bench.told.emit(f"{len(readings)} readings written from the file.", "petrol")
            self.finished.emit()
