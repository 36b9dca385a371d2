"""From a file: what each line was understood to say, before anything is written."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from candor.core.calibration.point import Phase, TestPoint
from candor.core.reference.chain import Chain
from candor.core.reference.reference import Reference
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button, shortcut
from candor.desktop.widgets.rows import Row, RowList
from candor.notebook.entries.body import Body
from candor.notebook.storage.files import FileError, read_bytes_of
from candor.notebook.work.barriers import barrier
from candor.notebook.work.csv_readings import preview_csv

READINGS = (
    "Readings from a file",
    [
        "Every line is shown as it is understood. One fault, and nothing is written: mend the file and open it again.",
        "Columns point, reading, reference; direction and phase may be added. A point is function/range/value, "
        "such as dc+/150/75. docs/formats.md has the whole.",
    ],
)


class Line(Protocol):
    """One line of a file: its number (0 for a remark), its text, what it says, or what is wrong with it."""

    @property
    def number(self) -> int: ...
    @property
    def text(self) -> str: ...
    @property
    def understood(self) -> str: ...
    @property
    def fault(self) -> str: ...


@dataclass(frozen=True)
class Preview:
    """What is shown before it is written: title, what a line is called, lines, faults, entries, why, and whose they are."""

    title: str
    noun: str
    lines: Sequence[Line]
    faults: tuple[str, ...]
    bodies: Sequence[Body]
    why: tuple[str, list[str]]
    of_shop: bool = False


class FromFilePage(Page):
    """The preview.

    Signals
    -------
    finished()
        Written or left.
    """

    finished = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand, place: PlaceInHand, writer: Writer, voice: Voice) -> None:
        super().__init__()
        self._in_hand, self._place, self._writer, self._voice = in_hand, place, writer, voice
        self._preview = Preview(title="", noun="line", lines=(), faults=(), bodies=(), why=READINGS)
        self.title = label("", "heading", bold=True)
        self.words = label("", "text")
        self.lines = RowList(theme, "Lines of the file", wrap=True)
        self.write = button("Write them", "Write all of it, at once", name="main")
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
        shortcut(self, "Esc", self.finished.emit)

    def show_file(self, path: Path) -> bool:
        """Preview a file of readings; False, with a sentence, where it cannot be read at all."""
        content = self.read(path) if self._in_hand.job is not None else b""
        return content is not None and self.show_readings(path.name, content)

    def show_readings(self, name: str, content: bytes) -> bool:
        """Preview readings from a file or the clipboard; False, with a sentence, where no job is open."""
        job, pack, step = self._in_hand.job, self._in_hand.pack, self._place.step
        if job is None or pack is None:
            self._voice.refuse("Open a job first: readings belong to an instrument.")
            return False
        phase: Phase = "as left" if step is not None and step.phase == "as left" else "as found"
        in_hand = self._in_hand

        def standard(point: TestPoint) -> tuple[str, Reference | Chain | None]:
            found = in_hand.standard(point)
            return found.entry.id if found else "", in_hand.served(point)

        preview = preview_csv(content, pack, phase, standard)
        title = f"{name}: {preview.count} lines, {phase} unless a line says otherwise"
        self.show_preview(
            Preview(
                title=title,
                noun="reading",
                lines=preview.lines,
                faults=preview.faults,
                bodies=preview.readings,
                why=READINGS,
            )
        )
        return True

    def read(self, path: Path) -> bytes | None:
        """Return what stands in a file; None, with a sentence, where it cannot be read."""
        try:
            return read_bytes_of(path, "a table")
        except FileError as error:
            self._voice.refuse(f"{error} Nothing was imported.")
            return None

    def show_preview(self, preview: Preview) -> None:
        """Show lines as they are understood."""
        self._preview = preview
        faults = len(preview.faults)
        self.title.setText(preview.title)
        if faults:
            noun = "fault" if faults == 1 else "faults"
            of_all = [f for f in preview.faults if not any(line.fault and line.fault in f for line in preview.lines)]
            self.words.setText(
                f"{faults} {noun}: nothing can be written until it is mended. {' '.join(of_all)}".strip()
            )
        else:
            remarks = [line.understood for line in preview.lines if not line.number]
            self.words.setText(" ".join(("This is how they are understood. Nothing is written yet.", *remarks)))
        rows = [
            Row(
                str(line.number),
                f"line {line.number}   {line.text}",
                line.understood or line.fault,
                "cross" if line.fault else "full",
            )
            for line in preview.lines
            if line.number
        ]
        self.lines.show_rows(tuple(rows), "")
        self.write.setEnabled(not faults and bool(preview.bodies))
        count = sum(not line.fault and bool(line.number) for line in preview.lines)
        self.write.setText(f"Write {count} {preview.noun}{'' if count == 1 else 's'}")
        (self.leave if faults else self.write).setFocus()

    def explain(self, because: Because) -> None:
        """Say how a file is understood."""
        because.show_whole(None)
        because.show_words(*self._preview.why, "cross" if self._preview.faults else "full")

    def _write(self) -> None:
        preview = self._preview
        if preview.bodies and self._writer.take_in(preview.title, preview.bodies, preview.of_shop):
            found = barrier(self._in_hand.job, self._in_hand.parts()) if preview.why is READINGS else None
            if found is not None:
                self._voice.warn(f"The readings were written. {found.sentence}")
            self._voice.say(f"{len(preview.bodies)} entries written.", Severity.DONE)
            self.finished.emit()
