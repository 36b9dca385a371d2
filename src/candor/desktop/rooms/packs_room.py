"""The packs Candor knows, and taking in one from a file."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QComboBox, QStackedLayout, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import open_name, save_name
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.rooms.pack_bench import PackBench
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.error_ribbon import Ribbon
from candor.desktop.widgets.field import SearchField
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.durably import write_durably
from candor.notebook.arrive.pack_choice import pack_at_hand, packs_at_hand
from candor.notebook.arrive.pack_from_job import grown_of_job
from candor.notebook.arrive.workshop import Workshop, text_of_kind, text_of_sister
from candor.notebook.store import Notebook
from candor.packs.borrowing import say_borrowed
from candor.packs.bundled import lend_from
from candor.packs.draft_text import DraftText
from candor.packs.kinds_of_instrument import kinds_at_hand
from candor.packs.load import Fault, PackError, read_pack
from candor.packs.missing import what_is_missing
from candor.packs.model import Pack
from candor.packs.procedure import procedure
from candor.packs.reproduces import RangeMiss, range_misses, ribbon_of, say_misses
from candor.packs.write import pack_yaml
from candor.sitting.commands import stay_commands

LIKE, GO_ON = "like", "go on:"
WORKSHOP = [
    "The outline has all that a description holds. Choose a thing: what can be said of it stands in fields, and its place in the "
    "text beside it.",
    "Fields and text are one: change either. A list gets one more by Add; a step or a range is copied, moved, taken out.",
    "Below the fields it says how its steps will read, and what their dial looks like.",
    "A fault never stops you; it bars only the use. It is kept as you write, also where the power fails.",
    "Make an edition keeps it in this notebook. Open jobs on another edition are named, with what becomes of their readings.",
]


class PacksPage(Page):
    """A list of packs with what each holds."""

    def __init__(self, theme: Theme, *, in_hand: JobInHand, writer: Writer, voice: Voice, notebook: Notebook) -> None:
        super().__init__()
        self._in_hand, self._writer, self._voice, self._notebook = in_hand, writer, voice, notebook
        self._chosen = ""
        self._misses: tuple[RangeMiss, ...] = ()
        self._faults: tuple[Fault, ...] = ()
        self.packs = RowList(theme, "Packs")
        self.faults = RowList(theme, "Faults of the file", wrap=True)
        self.words = label("", "soft")
        self.take_in = button("Take in a pack …", "Check a YAML file and keep it in this notebook")
        self.grow = button("Make one of this job …", "Make a pack of what this job has gathered, and keep it here")
        self.go_over = button("Go over to it", "This job continues with the chosen pack; every reading stays")
        self.packs.deeds = (self.go_over,)
        self.made_title, self.made = label("How well its circuit reproduces its ranges", "soft"), Ribbon(theme)
        self.work_on = button(
            "Work on it", "Change it in the workshop: what comes of it is another edition", name="main"
        )
        self.name = SearchField(
            "Maker and type of a new one", "maker and type of a new one", "Say what it is, then how it begins"
        )
        self.begin_with = QComboBox()
        self.begin_with.setAccessibleName("What a new one begins with")
        self.begin = button("Begin", "Begin the description of an instrument that no pack describes")
        self.bench = PackBench(theme, writer=writer, voice=voice, notebook=notebook)
        self.stack, first = QStackedLayout(self), QWidget()
        self.stack.addWidget(first)
        self.stack.addWidget(self.bench)
        column = QVBoxLayout(first)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(9))
        column.addWidget(label("Packs", "heading", bold=True))
        words = "A pack describes a type of instrument: dial, limits, procedure, cautions. Work on one, or begin one of your own."
        column.addWidget(label(words, "soft"))
        column.addWidget(self.packs, 2)
        column.addWidget(self.words)
        column.addWidget(self.faults, 1)
        column.addWidget(self.made_title)
        column.addWidget(self.made, 1)
        column.addLayout(flow(theme.px(8), self.work_on, self.take_in, self.grow, self.go_over))
        column.addLayout(flow(theme.px(8), self.name, self.begin_with, self.begin))
        self.name.setMinimumWidth(theme.px(240))
        self.work_on.clicked.connect(self._work_on)
        self.begin.clicked.connect(self._begin)
        self.name.returnPressed.connect(self._begin)
        self.bench.left.connect(self._back)
        self.packs.picked.connect(self._choose)
        self.take_in.clicked.connect(self._pick)
        self.grow.clicked.connect(self._grow)
        self.go_over.clicked.connect(self._go_over)

    def enter(self) -> None:
        """Show the packs there are; a description on the bench stays there."""
        if self.stack.currentWidget() is self.bench:
            return
        self._show_starts()
        packs = packs_at_hand(self._notebook)
        if self._chosen not in [p.digest for p in packs]:
            self._chosen = packs[0].digest if packs else ""
        rows = [Row(p.digest, p.name, f"edition {p.edition} · {p.summary}") for p in packs]
        self.packs.show_rows(tuple(rows), self._chosen)
        self.faults.setVisible(bool(self._faults))
        rows = []
        for number, fault in enumerate(self._faults):
            rows.append(Row(str(number), fault.place, f"{fault.where}: {fault.message}", "cross"))
        self.faults.show_rows(tuple(rows), "")
        self._show_misses()
        job = self._in_hand.job
        self.grow.setVisible(job is not None)
        self.go_over.setVisible(job is not None and bool(self._chosen) and self._chosen != job.pack_digest)
        self.packs.setFocus()

    def _show_misses(self) -> None:
        pack = self.pack()
        self._misses = range_misses(pack) if pack is not None else ()
        for widget in (self.made_title, self.made):
            widget.setVisible(bool(self._misses))
        self.made.show_laid(ribbon_of(self._misses), say_misses(self._misses))

    def _choose(self, digest: str) -> None:
        self._chosen = digest
        self.enter()
        self.explainAsked.emit()

    def choose(self, name: str) -> None:
        """Choose the newest edition of a pack by its id."""
        self._choose(next(head.digest for head in packs_at_hand(self._notebook) if head.id == name))

    def pack(self) -> Pack | None:
        """Return the pack chosen."""
        return pack_at_hand(self._notebook, self._chosen)

    def _pick(self) -> None:
        name = open_name(self, "A pack", "Packs (*.yaml *.yml)")
        if name:
            self.read(Path(name))

    def read(self, path: Path) -> bool:
        """Check a pack file and keep it; its faults are listed by line where it has any."""
        try:
            pack = read_pack(path, lend_from(self._notebook.kept_packs, path.parent))
            self._chosen = self._notebook.keep_pack(pack)
        except PackError as error:
            self._faults = error.faults
            count = "1 fault" if len(self._faults) == 1 else f"{len(self._faults)} faults"
            self.words.setText(f"{path.name} was not taken in: {count}.")
            self.enter()
            return False
        except CandorError as error:
            self._voice.refuse(str(error))
            return False
        self._faults = ()
        self.words.setText(f"{path.name} is kept in this notebook.")
        self.enter()
        return True

    # --- the workshop -------------------------------------------------------------------------------

    def _show_starts(self) -> None:
        begun = Workshop(self._notebook).begun()
        kept = self.begin_with.currentText()
        self.begin_with.clear()
        self.begin_with.addItem("like the pack chosen above, with what differs", LIKE)
        for key, kind in kinds_at_hand(self._notebook.kinds_folder).kinds.items():
            self.begin_with.addItem(f"with what is usual of a {kind.title}", key)
        for name in begun:
            self.begin_with.addItem(f"where {name} was left", f"{GO_ON}{name}")
        self.begin_with.setCurrentIndex(max(self.begin_with.findText(kept), 0))

    def _work_on(self) -> None:
        pack = self.pack()
        if pack is not None:
            self._open(pack.id, Workshop(self._notebook).text_of(pack))

    def _begin(self) -> None:
        """Begin a new description, or go on with one that was left."""
        start, name = str(self.begin_with.currentData()), self.name.text().strip()
        if start.startswith(GO_ON):
            name = start.removeprefix(GO_ON)
            self._open(name, Workshop(self._notebook).text(name) or "")
            return
        if not name:
            self._voice.refuse("Say what it is first: its maker and type. Example: Corvane AV-20")
            self.name.setFocus()
            return
        maker, _, type_ = name.rpartition(" ")
        pack = self.pack()
        try:
            if start == LIKE:
                text = text_of_sister(pack, type_) if pack is not None else ""
            else:
                kinds = kinds_at_hand(self._notebook.kinds_folder).kinds
                text = text_of_kind(kinds[start], maker, type_)
        except CandorError as error:
            self._voice.refuse(error)
            return
        self._open(DraftText(text).words(("id",)), text)

    def _open(self, name: str, text: str) -> None:
        self.stack.setCurrentWidget(self.bench)
        self.bench.open(name, text)
        self.explainAsked.emit()

    def _back(self) -> None:
        self.stack.setCurrentIndex(0)
        self.enter()
        self.explainAsked.emit()

    def undo(self) -> bool:
        """In the workshop the text is undone, never an entry of the notebook."""
        if self.stack.currentWidget() is not self.bench:
            return False
        self.bench.text.undo()
        return True

    def redo(self) -> bool:
        """Bring back what was undone in the workshop."""
        if self.stack.currentWidget() is not self.bench:
            return False
        self.bench.text.redo()
        return True

    def finish(self) -> None:
        """Keep what is on the bench."""
        if self.stack.currentWidget() is self.bench:
            self.bench.finish()

    def narrow(self, is_narrow: bool) -> None:
        """Let the workshop's steps give way."""
        self.bench.narrow(is_narrow)

    def _grow(self) -> None:
        """Write the job in hand as a pack: to a file, and kept in this notebook."""
        job = self._in_hand.job
        try:
            pack = grown_of_job(self._notebook, job.id) if job is not None else None
        except CandorError as error:
            self._voice.refuse(error)
            return
        if pack is None:
            return
        name = save_name(self, "The pack", f"{pack.id}.yaml", "Packs (*.yaml)")
        if name:
            self.write(pack, Path(name))

    def write(self, pack: Pack, path: Path) -> bool:
        """Write a pack to a file and keep it; False, with a sentence, where it cannot be."""
        try:
            write_durably(path, pack_yaml(pack).encode())
            self._chosen = self._notebook.keep_pack(pack)
        except CandorError as error:
            self._voice.refuse(error)
            return False
        except OSError as error:
            self._voice.refuse(f"{path} cannot be written: {error.strerror}. Nothing was kept.")
            return False
        missing = what_is_missing(pack)
        more = f" Not said yet: {'; '.join(missing[:4])}{' …' if len(missing) > 4 else ''}." if missing else ""
        self._faults = ()
        self.words.setText(f"{path.name} is written and kept in this notebook.{more}")
        self.enter()
        self.explainAsked.emit()
        return True

    def _go_over(self) -> None:
        """Let the job in hand go on with the pack chosen."""
        pack = self.pack()
        try:
            digest = self._notebook.keep_pack(pack) if pack is not None else ""
        except CandorError as error:
            self._voice.refuse(error)
            return
        if pack is not None and self._writer.do(stay_commands.take_pack(digest)):
            self._voice.say(
                f"This job goes on with {pack.name}, edition {pack.edition}. Every reading stays.", Severity.DONE
            )
            self.enter()

    def explain(self, because: Because) -> None:
        """Say what the chosen pack holds."""
        because.show_whole(None)
        if self.stack.currentWidget() is self.bench:
            because.show_words("The workshop", WORKSHOP)
            return
        pack = self.pack()
        if pack is None:
            because.show_words("No pack", [])
            return
        steps = procedure(pack)
        points = sum(s.kind == "point" for s in steps)
        arcs = len(pack.dial.scales) if pack.dial else 0
        ranges = sum(len(f.ranges) for f in pack.functions)
        words = [
            f"{len(pack.functions)} functions, {ranges} ranges, {arcs} arcs; {len(steps)} steps, "
            f"{points} of them test points; {len(pack.zones)} zones, {len(pack.cautions)} cautions."
            if steps
            else f"No procedure yet: arriving and parts only. {len(pack.zones)} zones, {len(pack.cautions)} cautions.",
            f"{len(pack.parts)} parts, {'with' if pack.circuit else 'without'} their circuit.",
            *([say_misses(self._misses)] if pack.circuit and steps else []),
            *([say_borrowed(pack.borrows)] if pack.borrows else []),
            f"Source: {pack.source or 'not stated'}",
            f"Digest {pack.digest[:16]} …",
        ]
        because.show_words(pack.name, words)
