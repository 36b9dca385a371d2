"""From a file: what each line was understood to say, before anything is written."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import Protocol

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QApplication, QHBoxLayout, QVBoxLayout, QWidget

from candor.core.calibration.point import Phase, TestPoint
from candor.core.late_dataclass import dataclass
from candor.core.reference.chains import Chain
from candor.core.reference.reference import Reference
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import Column, button, shortcut
from candor.desktop.widgets.edit_table import EditTable
from candor.desktop.widgets.row_list import Row, RowList
from candor.notebook.entries.body import Body
from candor.notebook.exchange.mending import RawTable, only_rows, raw_table, with_rows
from candor.notebook.storage.files import FileError, read_bytes_of
from candor.notebook.work.barriers import barrier
from candor.notebook.work.csv_readings import preview_csv
from candor.packs.model import Pack

MOST_MENDED = 200  # rows that are mended at once
MOST_SHOWN = 4  # of them on screen
READINGS = (
    "Readings from a file",
    [
        "Every line is shown as it is understood. What is not is mended here, cell by cell; the others can be written meanwhile.",
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
    """What is shown before it is written.

    Attributes
    ----------
    title, noun : str
        Of the file, and what a line of it is called.
    lines : sequence of Line
    faults : tuple of str
    bodies : sequence of Body
        The entries of the lines without a fault.
    why : tuple
        What *Because* says.
    of_shop : bool
        Whether they are the shop's, not the job's.
    source : bytes
        The table as it was read.
    again : callable, optional
        Previews it with rows mended.
    has_heads : bool
        Whether its first line names its columns.
    """

    title: str
    noun: str
    lines: Sequence[Line]
    faults: tuple[str, ...]
    bodies: Sequence[Body]
    why: tuple[str, list[str]]
    of_shop: bool = False
    source: bytes = b""
    again: Callable[[bytes], Preview] | None = None
    has_heads: bool = True


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
        self.mend = EditTable(theme, "Rows to be mended")
        self.mend.grows = False
        self.mend.hide()
        self.faults = label("", "text", tint="brick")
        self.faults.hide()
        self._mended: tuple[int, ...] = ()  # the lines that stand in it
        self.lines = RowList(theme, "Lines of the file", wrap=True)
        self.write = button("Write them", "Write all that is understood, at once", name="main")
        self.leave = button("Leave it", "Write nothing", "Esc")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.addWidget(self.title)
        self.area = Column(theme.px(2), theme.px(6))  # scrolled as a whole where the window is low
        for widget in (self.words, self.mend, self.faults):
            self.area.column.addWidget(widget)
        self.area.column.addWidget(self.lines, 1)
        self.lines.setMinimumHeight(theme.px(150))
        column.addWidget(self.area, 1)
        row = QHBoxLayout()
        row.addWidget(self.write)
        row.addWidget(self.leave)
        row.addStretch()
        column.addLayout(row)
        self.write.clicked.connect(self._write)
        self.mend.edited.connect(self._again)
        self.mend.currentCellChanged.connect(lambda *_: self._say_fault())
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
        self.show_preview(self._of_readings(name, pack, phase, content))
        return True

    def _of_readings(self, name: str, pack: Pack, phase: Phase, content: bytes) -> Preview:
        in_hand = self._in_hand

        def standard(point: TestPoint) -> tuple[str, Reference | Chain | None]:
            found = in_hand.standard(point)
            return found.entry.id if found else "", in_hand.served(point)

        preview = preview_csv(content, pack, phase, standard)
        return Preview(
            title=f"{name}: {preview.count} lines, {phase} unless a line says otherwise", noun="reading", lines=preview.lines,
            faults=preview.faults, bodies=preview.good, why=READINGS, source=content,
            again=partial(self._of_readings, name, pack, phase),
        )  # fmt: skip

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
        of_all = [f for f in preview.faults if not any(line.fault and line.fault in f for line in preview.lines)]
        self.title.setText(preview.title)
        self._show_mend()
        if of_all:
            self.words.setText(f"Nothing can be written until the file is mended. {' '.join(of_all)}")
        elif faults and self._mended:
            said = "1 row is" if faults == 1 else f"{faults} rows are"
            self.words.setText(f"{said} not understood: mend the cells here. The others can be written meanwhile.")
        elif faults:
            said = "1 line is" if faults == 1 else f"{faults} lines are"
            self.words.setText(f"{said} not understood. The others can be written.")
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
            if line.number and not (line.fault and line.number in self._mended)
        ]
        self.lines.show_rows(tuple(rows), "")
        self.write.setEnabled(not of_all and bool(preview.bodies))
        count = sum(not line.fault and bool(line.number) for line in preview.lines)
        self.write.setText(f"Write {count} {preview.noun}{'' if count == 1 else 's'}")
        if not self.mend.isVisibleTo(self):
            (self.leave if faults else self.write).setFocus()
        elif not self.mend.hasFocus() and QApplication.focusWidget() not in self.mend.findChildren(QWidget):
            self.mend.setFocus()

    def _show_mend(self) -> None:
        """Show the rows that are not understood, to be mended where they stand; those in hand stay until they are right."""
        preview = self._preview
        faults = {line.number: line.fault for line in preview.lines if line.fault and line.number}
        marks: dict[int, tuple[str, str]] = {}
        bad = tuple(sorted(faults)[:MOST_MENDED]) if preview.again is not None else ()
        if bad != self._mended:
            table = raw_table(preview.source, preview.has_heads) if bad else RawTable((), {})
            heads = [(str(n), head, "") for n, head in enumerate(table.heads)]
            self._mended = bad if set(bad) <= set(table.rows) else ()
            self.mend.show_columns(heads)
            self.mend.show_rows(
                [dict(zip(map(str, range(len(heads))), table.rows[n], strict=False)) for n in self._mended]
            )
            self.mend.setVerticalHeaderLabels([str(n) for n in self._mended])
            self.mend.fit(MOST_SHOWN)
        for row, number in enumerate(self._mended):
            quoted = (
                key for key, cell in self.mend.rows()[row].items() if cell and f"“{cell}”" in faults.get(number, "")
            )
            marks[row] = (next(quoted, ""), faults.get(number, ""))
        self.mend.mark(marks)
        self.mend.setVisible(bool(self._mended))
        self._say_fault()

    def _say_fault(self) -> None:
        """Say what is wrong with the row in hand, whole."""
        faults = {line.number: line.fault for line in self._preview.lines if line.fault}
        row = min(max(self.mend.currentRow(), 0), len(self._mended) - 1)
        number = self._mended[row] if self._mended else 0
        self.faults.setText(f"line {number}: {faults[number]}" if number in faults else "")
        self.faults.setAccessibleName(self.faults.text())
        self.faults.setVisible(bool(self._mended))

    def _again(self) -> None:
        """Understand the table anew with the rows as they are mended now."""
        preview = self._preview
        if preview.again is None:
            return
        rows = {number: tuple(row.values()) for number, row in zip(self._mended, self.mend.rows(), strict=False)}
        self.show_preview(preview.again(with_rows(preview.source, rows, preview.has_heads)))

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
            written = "1 entry" if len(preview.bodies) == 1 else f"{len(preview.bodies)} entries"
            bad = [line.number for line in preview.lines if line.fault]
            if not bad or preview.again is None:
                self._voice.say(f"{written} written.", Severity.DONE)
                self.finished.emit()
                return
            rest = "1 row is" if len(bad) == 1 else f"{len(bad)} rows are"
            self._voice.say(f"{written} written. {rest} still to be mended.", Severity.DONE)
            self.show_preview(preview.again(only_rows(preview.source, bad, preview.has_heads)))
