"""Where a description is made: its outline, the fields of what is chosen, its text, and how its steps will read."""

from __future__ import annotations

import pathlib
from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QSplitter, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.reading.dial import DialRange
from candor.core.severity import Severity
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.file_names import save_name
from candor.desktop.frame.theme import Theme, label
from candor.desktop.rooms.pack_chain import PackChain
from candor.desktop.rooms.pack_form import PackForm
from candor.desktop.widgets.controls import Column, button, shortcut
from candor.desktop.widgets.drawn import Drawn
from candor.desktop.widgets.error_ribbon import Ribbon
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.needle_dial import Dial
from candor.desktop.widgets.row_list import Row, RowList
from candor.desktop.widgets.text_editor import TextEditor
from candor.desktop.widgets.worker import Work
from candor.durably import write_durably
from candor.notebook.arrive.workshop import Moving, Workshop, moving
from candor.notebook.store import Notebook
from candor.packs.borrowing import Lender
from candor.packs.bundled import lend_from
from candor.packs.described import Judged, judge, steps_as_read
from candor.packs.draft_fields import DraftField, OutlineLine, added, fields_of, outline, with_field
from candor.packs.draft_text import DraftText, Path
from candor.packs.procedure import ProcedureStep
from candor.packs.reproduces import RangeMiss, range_misses, ribbon_of, say_misses
from candor.sitting.commands import stay_commands
from candor.words.workshop_words import say_judged, say_moving

PAUSE_MS = 200  # of the hand, before what was typed is looked at and kept
MOST_STEPS = 40  # shown as they will read


@dataclass(frozen=True)
class Looked:
    """What a text is, looked at beside the window."""

    judged: Judged
    text: DraftText | None
    lines: tuple[OutlineLine, ...]
    misses: tuple[RangeMiss, ...]


class PackBench(QWidget):
    """A description on the bench.

    Signals
    -------
    left()
        It is to be left; its text is kept.
    """

    left = Signal()

    def __init__(self, theme: Theme, *, writer: Writer, voice: Voice, notebook: Notebook) -> None:
        super().__init__()
        self._theme, self._writer, self._voice, self._notebook = theme, writer, voice, notebook
        self._workshop = Workshop(notebook)
        self._name = self._digest = ""
        self._path: Path = ()
        self._looked: Looked | None = None
        self._moving: tuple[Moving, ...] = ()
        self._opened: str | None = None  # as it was before anything was changed, where none of it is kept
        self._kept: str | None = None  # as it was last written
        self.work = Work(self)
        self.title, self.state = label("", "heading", bold=True, wrap=False), label("", "soft")
        self.outline = RowList(theme, "Outline of the description")
        self.form = PackForm(theme)
        self.text = TextEditor(theme, "Text of the description")
        self.faults = RowList(theme, "What bars its use", wrap=True)
        self.steps = RowList(theme, "As its steps will read", wrap=True)
        self.dial, self.made, self.chain = Dial(theme), Ribbon(theme), PackChain(theme)
        self.jobs = RowList(theme, "Open jobs on another edition", wrap=True)
        self.edition = button(
            "Make an edition", "Keep it as the next edition of its pack; faults bar that", name="main"
        )
        self.save = button("Save as a file …", "Write its text to a file, to go to another shop")
        self.undo = button("Undo", "Take back the last change of the text")
        self.redo = button("Redo", "Bring back what was undone")
        self.leave = button("Back", "To the packs; its text is kept as it is", "Alt+Left")
        self.add = button("Add", "One more at the end of this list")
        self.copy = button("Copy", "The same once more below, to be changed")
        self.up, self.down = button("Up", "One place up"), button("Down", "One place down")
        self.remove = button("Take out", "Take it out of the description; Undo brings it back")
        self.turn = button("Text", "The text in place of the fields, where there is no room for both")
        self.turn.setCheckable(True)
        self._is_narrow = False
        self.go_over = button("Move this job to it", "The job goes on with this edition")
        self._timer = QTimer(self, singleShot=True, interval=PAUSE_MS)
        self._lay_out()
        self.text.textChanged.connect(self._timer.start)
        self._timer.timeout.connect(self._look)
        self.work.answered.connect(self._take)
        self.work.failed.connect(self._voice.refuse)
        self.outline.picked.connect(self._choose)
        self.text.stoodOn.connect(self._stand)
        self.form.said.connect(self._said)
        self.faults.picked.connect(lambda key: self.text.go_to_line(int(key)))
        for made, deed in (
            (self.edition, self._make), (self.save, self._save), (self.undo, self.text.undo), (self.redo, self.text.redo),
            (self.leave, self._leave), (self.turn, self._turn),
            (self.add, self._add), (self.copy, lambda: self._change(lambda t: t.copied(self._path), self._path)),
            (self.up, lambda: self._shift(-1)), (self.down, lambda: self._shift(1)), (self.go_over, self._move_job),
            (self.remove, lambda: self._change(lambda t: t.without(self._path), self._path)),
        ):  # fmt: skip
            made.clicked.connect(deed)
        shortcut(self, "Alt+Left", self._leave)

    def _lay_out(self) -> None:
        px = self._theme.px
        column = QVBoxLayout(self)
        column.setContentsMargins(px(18), px(12), px(16), px(12))
        column.setSpacing(px(9))
        column.addWidget(self.title)
        column.addWidget(self.state)
        parts = QSplitter(Qt.Orientation.Horizontal)
        parts.setChildrenCollapsible(False)
        columns, self._parts = [], [QWidget() for _ in range(3)]
        for part in self._parts:
            inside = QVBoxLayout(part)
            inside.setContentsMargins(0, 0, 0, 0)
            inside.setSpacing(px(6))
            parts.addWidget(part)
            columns.append(inside)
        left, middle, right = columns
        left.addWidget(self.outline)
        left.addLayout(flow(px(6), self.add, self.copy, self.up, self.down, self.remove))
        scrolled = Column(0, px(6))
        scrolled.column.addWidget(self.chain)
        scrolled.column.addWidget(self.form)
        middle.addWidget(scrolled, 3)
        self.dial.setFixedHeight(px(170))
        self.made.setFixedHeight(px(170))
        for shown, share in ((self.dial, 0), (self.made, 0), (self.steps, 2)):
            middle.addWidget(shown, share)
        right.addWidget(self.text)
        right.addWidget(self.faults)
        right.addWidget(self.jobs)
        for number, share in enumerate((23, 38, 39)):
            parts.setStretchFactor(number, share)
        parts.setSizes([px(230), px(380), px(390)])
        column.addWidget(parts, 1)
        column.addLayout(
            flow(px(8), self.edition, self.save, self.undo, self.redo, self.turn, self.go_over, self.leave)
        )
        self._turn()

    # --- the text -----------------------------------------------------------------------------------

    def open(self, name: str, text: str) -> None:
        """Put a description on the bench, by the id of its pack."""
        self._name, self._path, self._looked, self._moving = name, (), None, ()
        self._kept = self._workshop.text(name)
        self._opened = text if self._kept is None else None  # nothing is kept of what was only looked at
        self.text.begin(text)
        self.form.forget()
        self.jobs.hide()
        self.go_over.hide()
        self._look()
        self.outline.setFocus()

    def finish(self) -> None:
        """Keep what stands in the window, and stop looking at it."""
        if self._timer.isActive():
            self._timer.stop()
            self._keep()
        self.work.finish()

    def _keep(self) -> None:
        text = self.text.toPlainText()
        if text == (self._opened if self._kept is None else self._kept):
            return
        try:
            if self._workshop.text(self._name) != self._kept:
                other, self._name, self._kept = self._name, self._workshop.free_name(self._name), None
                self._voice.refuse(
                    f"Another window works on {other} too. What is written here goes on as {self._name}."
                )
            if text == self._opened:
                self._workshop.drop(self._name)
                self._kept = None
            else:
                self._workshop.keep(self._name, text)
                self._kept = text
        except CandorError as error:
            self._voice.refuse(error)

    def _look(self) -> None:
        self._keep()
        text, lend = self.text.toPlainText(), lend_from(self._notebook.kept_packs)
        self.work.start(lambda should_stop: _looked(text, lend, should_stop))

    def _take(self, looked: Looked) -> None:
        if looked is None or looked.judged.text != self.text.toPlainText():
            return
        self._looked = looked
        self.state.setText(say_judged(looked.judged))
        self.edition.setEnabled(looked.judged.pack is not None)
        self.text.show_faults({fault.line: f"{fault.where}: {fault.message}" for fault in looked.judged.faults})
        rows = [Row(str(f.line), f.place, f"{f.where}: {f.message}", "cross") for f in looked.judged.faults]
        self.faults.show_rows(tuple(rows), "")
        self.faults.setVisible(bool(rows))
        self.faults.setFixedHeight(self._theme.px(130))
        if looked.text is not None:
            self.title.setText(looked.text.words(("maker",)) + " " + looked.text.words(("type",)))
            self._show(anew=False)

    # --- what is chosen -----------------------------------------------------------------------------

    def _show(self, anew: bool = True) -> None:
        looked = self._looked
        if looked is None or looked.text is None:
            return
        if (
            self._path
            and looked.text.piece(self._path) is None
            and not any(n.path == self._path for n in looked.lines)
        ):
            self._path, anew = self._path[:-1] if self._path else (), True
        rows = tuple(
            Row(_key(n.path), "   " * n.depth + n.title, strong=n.path == self._path)
            for n in looked.lines
            if not n.depth
            or n.path[:-1] == self._path[: len(n.path) - 1]  # of what is chosen all, of the rest its heading
        )
        self.outline.show_rows(rows, _key(self._path))
        here = next((n for n in looked.lines if n.path == self._path), None)
        self.add.setEnabled(here is not None and here.is_list)
        for made in (self.copy, self.up, self.down):
            made.setEnabled(here is not None and here.in_list)
        self.remove.setEnabled(here is not None and bool(self._path) and here.line > 0)
        self.form.show_fields(fields_of(looked.text, self._path), anew)
        steps = steps_as_read(looked.judged.pack, looked.text, self._path) if looked.judged.pack else ()
        self._show_steps(steps)
        of_circuit = self._path[:1] in (("circuit",), ("parts",), ("adjusters",)) and bool(looked.misses)
        self.made.setVisible(of_circuit and not self._is_narrow)
        self.made.show_laid(ribbon_of(looked.misses), say_misses(looked.misses))
        self.chain.show_of(looked.judged.pack if not self._is_narrow else None, self._path)

    def _show_steps(self, steps: tuple[ProcedureStep, ...]) -> None:
        rows = [
            Row(str(n), s.title, " ".join(filter(None, (s.set_words and f"Set {s.set_words}.", s.do, s.aim))))
            for n, s in enumerate(steps[:MOST_STEPS])
        ]
        if len(steps) > MOST_STEPS:
            rows.append(Row("", f"and {len(steps) - MOST_STEPS} more"))
        self.steps.show_rows(tuple(rows), "")
        self.steps.setVisible(bool(rows) and not self._is_narrow)
        pack = self._looked.judged.pack if self._looked else None
        face = pack.dial if pack is not None else None
        point = next(
            (s.point for s in steps if s.point is not None and isinstance(s.point.indicator, DialRange)), None
        )
        self.dial.setVisible(point is not None and face is not None and not self._is_narrow)
        if point is not None and face is not None:
            self.dial.show_face(face)
            self.dial.show_reading(point, Drawn(point.nominal, None, float("nan"), float("nan")))

    def choose(self, path: Path) -> None:
        """Choose a thing by its path."""
        self._choose(_key(path))

    def _choose(self, key: str) -> None:
        self._path = _path(key)
        self._show()
        if (
            self._looked is not None
            and self._looked.text is not None
            and (line := self._looked.text.line_of(self._path))
        ):
            self.text.go_to_line(line)

    def _stand(self, line: int) -> None:
        """Choose what the cursor stands in, of what the outline has."""
        if self._looked is None:
            return
        known = [n for n in self._looked.lines if 0 < n.line <= line]
        here = max(known, key=lambda n: (n.line, len(n.path)), default=None)
        if here is not None and here.path != self._path:
            self._path = here.path
            self._show()

    # --- changes ------------------------------------------------------------------------------------

    def _change(self, made: Callable[[DraftText], str], at: Path = ()) -> None:
        try:
            text, looked = self.text.toPlainText(), self._looked.text if self._looked is not None else None
            read = looked if looked is not None and looked.text == text else DraftText(text)
            if at and read.piece(at) is None:  # the text was changed since, and not looked at yet
                raise CandorError("What was chosen is gone from the text: choose it again in the outline.")
            self.text.show_text(made(read))
        except CandorError as error:
            self._voice.refuse(error)
            self._show(anew=True)

    def _said(self, field: DraftField, value: str) -> None:
        self._change(lambda text: with_field(text, field, value))

    def _add(self) -> None:
        self._change(lambda text: added(text, self._path))

    def _shift(self, by: int) -> None:
        *above, place = self._path or ((), 0)
        before = self.text.toPlainText()
        self._change(lambda text: text.moved(self._path, by), self._path)
        if self.text.toPlainText() != before and isinstance(place, int):
            self._path = (*above, place + by)

    # --- editions -----------------------------------------------------------------------------------

    def _make(self) -> None:
        self._keep()
        try:
            pack, text = self._workshop.make_edition(self.text.toPlainText())
            self._moving = moving(self._notebook, pack)
        except CandorError as error:
            self._voice.refuse(error)
            return
        self._name, self._opened, self._kept = pack.id, text, self._workshop.text(pack.id)
        self.text.show_text(text)
        self._voice.say(f"{pack.name}, edition {pack.edition}, is kept in this notebook.", Severity.DONE)
        self._digest = pack.digest
        self._show_jobs()

    def _show_jobs(self) -> None:
        rows = [Row(m.job, f"{m.name} is on another edition", say_moving(m), "half") for m in self._moving]
        self.jobs.show_rows(tuple(rows), rows[0].key if rows else "")
        self.jobs.setVisible(bool(rows))
        self.jobs.setFixedHeight(self._theme.px(130))
        self.go_over.setVisible(bool(rows))

    def _move_job(self) -> None:
        here = self.jobs.currentRow()
        if 0 <= here < len(self._moving):
            job = self._moving[here].job
            if self._writer.write_for(job, stay_commands.take_pack(self._digest)) is not None:
                self._moving = tuple(m for m in self._moving if m.job != job)
                self._show_jobs()

    def _save(self) -> None:
        name = save_name(self, "The description", f"{self._name}.yaml", "Packs (*.yaml)")
        if name:
            try:
                write_durably(pathlib.Path(name), self.text.toPlainText().encode())
            except OSError as error:
                self._voice.refuse(f"{name} cannot be written: {error.strerror}. The text is kept in this notebook.")

    def _leave(self) -> None:
        self._timer.stop()
        self._keep()
        self.left.emit()

    def narrow(self, is_narrow: bool) -> None:
        """Show fields or text where there is no room for both, and leave face and steps to a wider window."""
        if is_narrow != self._is_narrow:
            self._is_narrow = is_narrow
            self.turn.setChecked(False)
            self._turn()
            self._show()

    def _turn(self) -> None:
        outline, fields, text = self._parts
        self.turn.setVisible(self._is_narrow)
        shows_text = self._is_narrow and self.turn.isChecked()
        self.turn.setText("Fields" if shows_text else "Text")
        outline.setVisible(not shows_text)
        fields.setVisible(not shows_text)
        for shown in (text, self.save, self.redo):
            shown.setVisible(not self._is_narrow or shows_text)


def _looked(text: str, lend: Lender, should_stop: Callable[[], bool]) -> Looked | None:
    try:
        draft: DraftText | None = DraftText(text)
    except CandorError:
        draft = None
    if should_stop():
        return None
    judged, lines = judge(text, lend), outline(draft) if draft is not None else ()
    return Looked(judged, draft, lines, range_misses(judged.pack) if judged.pack is not None else ())


def _key(path: Path) -> str:
    return "/".join(str(part) for part in path) or "."


def _path(key: str) -> Path:
    return tuple(int(part) if part.isdigit() else part for part in key.split("/")) if key != "." else ()
