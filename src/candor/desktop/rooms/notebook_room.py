"""Notebook: whether it is as it was written, whether a paper proves it, and its backups."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QLineEdit, QVBoxLayout

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.benches import Benches
from candor.desktop.bench.files_of_job import FilesOfJob
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.keeper import Keeper
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import folder_name, open_name, save_name
from candor.desktop.frame.local_numbers import in_field
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label, retint
from candor.desktop.rooms.notebook_panels import OtherNotebooks, TroublePanel
from candor.desktop.rooms.server_panel import ServerPanel
from candor.desktop.widgets.controls import Column, button
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.desktop.widgets.worker import Work
from candor.notebook.storage.backup import backups, restore
from candor.notebook.storage.checking import Checked, check_notebook, find_head
from candor.notebook.store import Notebook
from candor.notebook.work.settings import READ
from candor.sitting.commands import stay_commands
from candor.words.faults import in_short, say_checked, say_fault, say_head, say_kept, say_missed


class NotebookPage(Page):
    """The notebook as a whole: it computes nothing, what is long is done beside it."""

    def __init__(
        self, theme: Theme, *, notebook: Notebook, in_hand: JobInHand, writer: Writer, voice: Voice, shop: Shop, keeper: Keeper,
        files: FilesOfJob, benches: Benches,
    ) -> None:  # fmt: skip
        super().__init__()
        self._notebook, self._in_hand, self._writer, self._voice = notebook, in_hand, writer, voice
        self._shop, self._keeper, self._files = shop, keeper, files
        self._checking, self._proving, self._restoring = Work(self), Work(self), Work(self)
        self._is_checking = False
        self.where = label("", "soft")
        self.gone = label("", "text")
        self.without = button(
            "Go on without them", "The job in hand goes on without these files; every paper of it says so"
        )
        self.reason = _field("Why it goes on without them", "why they are gone, such as: the stick broke")
        self.check = button(
            "Check it whole", "Every entry, pack and file is looked at; nothing is changed", name="main"
        )
        self.found = label("", "text")
        self.faults = RowList(theme, "Faults found", wrap=True)
        self.words = _field(
            "Eight words of a paper", "the eight words after “Proof”, from a certificate, label or worksheet"
        )
        self.proof = label("", "text")
        self.state = label("", "text")
        self.to = _field("Folder for a second backup", "a folder on another disk, such as /media/stick")
        self.choose = button("Choose …", "Choose the folder of the second backup")
        self.back_up = button(
            "Back up now", "Make a backup beside the notebook, and in the second folder where there is one"
        )
        self.restore = button("Restore one …", "Put a backup where no notebook is; this one stays as it is")
        self.others = OtherNotebooks(theme, notebook, voice)
        self.server = ServerPanel(theme, notebook, voice, benches)
        self.trouble = TroublePanel(theme, notebook, voice)
        self._build(theme)
        self._wire()

    def _build(self, theme: Theme) -> None:
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        area = Column(theme.px(16), theme.px(9))
        outer.addWidget(area)
        column = area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(9))
        for widget in (label("Notebook", "heading", bold=True), self.where, self.gone, self.reason):
            column.addWidget(widget)
        column.addLayout(flow(theme.px(8), self.without))
        column.addWidget(label("Is it as it was written?", "lead", bold=True))
        column.addLayout(flow(theme.px(8), self.check))
        column.addWidget(self.found)
        column.addWidget(self.faults, 1)
        column.addWidget(label("Does a paper prove it?", "lead", bold=True))
        column.addWidget(self.words)
        column.addWidget(self.proof)
        column.addWidget(label("Backups", "lead", bold=True))
        column.addWidget(self.state)
        column.addWidget(label("also to this folder, daily", "soft"))
        column.addWidget(self.to)
        column.addLayout(flow(theme.px(8), self.choose, self.back_up, self.restore))
        column.addWidget(label("Other notebooks", "lead", bold=True))
        column.addWidget(self.others)
        column.addWidget(label("One notebook for several benches", "lead", bold=True))
        column.addWidget(self.server)
        column.addWidget(label("If something went wrong", "lead", bold=True))
        column.addWidget(self.trouble)
        column.addStretch()
        self.faults.hide()

    def _wire(self) -> None:
        self.check.clicked.connect(self._check)
        self._checking.answered.connect(self._checked)
        self.words.returnPressed.connect(self.prove)
        self._proving.answered.connect(lambda said: self.proof.setText(str(said)))
        self._restoring.answered.connect(self._restored)
        for work in (self._checking, self._proving, self._restoring):
            work.failed.connect(self._refused)
        self.without.clicked.connect(self._go_on)
        self.back_up.clicked.connect(self._back_up)
        self.restore.clicked.connect(self._pick)
        self.choose.clicked.connect(self._choose)
        self.to.editingFinished.connect(self._write_folder)
        self._keeper.changed.connect(lambda: self.enter() if self.isVisible() else None)
        self._in_hand.changed.connect(self._show_gone)

    def enter(self) -> None:
        """Show where it lies and how it is kept."""
        lies = f"On {self._notebook.store.server}; the copy of this bench is " if self._notebook.is_shared else ""
        self.where.setText(
            f"{lies}{self._notebook.path}{', only read: ' + self._notebook.read_only if self._notebook.read_only else ''}"
        )
        self._show_gone()
        self.others.enter()
        self.server.enter()
        self.trouble.enter()
        missed = {m.folder: say_missed(m) for m in self._keeper.missed()}
        lines = [missed.get(f) or say_kept(f, backups(self._notebook.path, f)) for f in self._keeper.folders()]
        self.state.setText("\n".join(lines))
        retint(self.state, "brick" if missed else "")
        self.back_up.setText("Stop" if self._keeper.running else "Back up now")
        if not self.to.hasFocus():
            self.to.setText(self._shop.record.details.get("backup_to", ""))
            self.to.setModified(False)

    def finish(self) -> None:
        """Stop the work in hand."""
        for work in (self._checking, self._proving, self._restoring):
            work.finish()
        self.server.finish()

    def _refused(self, sentence: str) -> None:
        self._is_checking = False
        self.check.setText("Check it whole")
        self._voice.refuse(sentence)

    # --- as it was written ----------------------------------------------------------------------------

    def _check(self) -> None:
        path = self._notebook.path
        self._is_checking = not self._is_checking
        self.check.setText("Stop" if self._is_checking else "Check it whole")
        if self._is_checking:
            self.found.setText("Every entry is read …")
            self._checking.start(lambda should_stop: check_notebook(path, should_stop))
        else:
            self._checking.cancel()
            self.found.setText("")

    def _checked(self, found: object) -> None:
        self._is_checking = False
        self.check.setText("Check it whole")
        if isinstance(found, Checked):
            self.found.setText(say_checked(found, self._notebook.path.name)[0])
            retint(self.found, "brick" if found.faults else "petrol")
            rows = [Row(str(n), say_fault(fault), shape="cross") for n, fault in enumerate(found.faults)]
            self.faults.show_rows(tuple(rows), "")
            self.faults.setVisible(bool(rows))

    def prove(self) -> None:
        """Look for the eight words typed."""
        path, words = self._notebook.path, self.words.text()
        self.proof.setText("It is looked for …")
        self._proving.start(lambda _: say_head(find_head(path, words)))

    # --- files that are gone --------------------------------------------------------------------------

    def _show_gone(self) -> None:
        files = [fault for fault in self._in_hand.faults if fault.file]
        job = self._in_hand.job
        self.gone.setText("\n".join((f"Of {job.name}:", *map(in_short, files))) if files and job is not None else "")
        for widget in (self.gone, self.reason, self.without):
            widget.setVisible(bool(files))

    def _go_on(self) -> None:
        files = tuple(fault.file for fault in self._in_hand.faults if fault.file)
        try:
            command = stay_commands.go_on_without(files, self.reason.text())
        except CandorError as error:
            self._voice.refuse(str(error))
            self.reason.setFocus()
            return
        if self._writer.do(command):
            self.reason.clear()
            self._files.look(anew=True)
            self._show_gone()

    # --- backups --------------------------------------------------------------------------------------

    def _back_up(self) -> None:
        if self._keeper.running:
            self._keeper.cancel()
        else:
            self._keeper.back_up()

    def _choose(self) -> None:
        name = folder_name(self, "The folder of the second backup")
        if name:
            self.to.setText(name)
            self.to.setModified(True)
            self._write_folder()

    def _write_folder(self) -> None:
        text = self.to.text().strip()
        if not self.to.isModified() or text == self._shop.record.details.get("backup_to", ""):
            return
        try:
            folder = READ["backup_to"](text) if text else ""
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        self.to.setModified(False)
        if self._writer.do(stay_commands.shop_details(backup_to=folder)) and folder:
            self._keeper.back_up()

    def _pick(self) -> None:
        folder = str(self._keeper.folders()[0])
        name = open_name(self, "A backup", "Backups (*.candor)", folder)
        if not name:
            return
        kinds = "Notebooks (*.candor)"
        target = save_name(self, "Where it goes: a new name", "restored.candor", kinds)
        if target:
            self.put_back(Path(name), Path(target))

    def put_back(self, backup: Path, target: Path) -> None:
        """Restore a backup to a name where no notebook is."""
        self._restoring.start(lambda _: (target, restore(backup, target)))

    def _restored(self, found: object) -> None:
        if isinstance(found, tuple):
            self._voice.say(
                f"Restored to {found[0]}: {found[1]} entries. Open it from there; this one is as it was.",
                Severity.DONE,
            )

    def explain(self, because: Because) -> None:
        """Say what is promised of a notebook."""
        because.show_whole(None)
        because.show_words(
            "What can be proved",
            [
                "Every entry has a digest of itself and of all before it: a change, a gap or another file is found here.",
                "Whoever writes all digests anew deceives the notebook alone, not a paper. Its eight words stand for every entry "
                "of the job as it was then.",
                "A backup is made once a day while Candor is open. The newest of seven days and of four weeks stay; keep one on "
                "another disk.",
            ],
        )


def _field(name: str, hint: str) -> QLineEdit:
    made = QLineEdit()
    made.setAccessibleName(name)
    made.setPlaceholderText(in_field(hint))
    return made
