"""A new job: what came to the bench, by nothing more than its name."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QEvent, QObject, QProcess, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from candor.core.errors import CandorError
from candor.core.jot.name_line import Named, read_name
from candor.core.severity import Severity
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.because import Because
from candor.desktop.frame.file_names import open_name
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.row_list import Row, RowList
from candor.desktop.widgets.worker import Work
from candor.notebook.arrive.instruments import (
    Instrument,
    Offer,
    ask_which,
    chosen_first,
    instruments,
    known_makers,
    offers,
)
from candor.notebook.arrive.pack_choice import pack_at_hand, packs_at_hand
from candor.notebook.store import Notebook
from candor.packs.kinds_of_instrument import Kinds, kinds_at_hand


class NewJobPage(Page):
    """Write what stands there, and begin: an earlier job, a pack or a kind is offered while it is typed.

    Signals
    -------
    begun(object, object, object)
        A job is to be opened: what it is opened as, its Pack or None, and the job it is set up as or None.
    standardAsked()
        A standard is to be written down.
    manualAsked()
        The manual is to be shown.
    takenIn(str)
        A travelling job was taken in: its id.
    """

    begun = Signal(object, object, object)
    standardAsked = Signal()
    manualAsked = Signal()
    takenIn = Signal(str)

    def __init__(self, theme: Theme, *, notebook: Notebook, shelf: Shelf, voice: Voice) -> None:
        super().__init__()
        self._notebook, self._shelf, self._voice = notebook, shelf, voice
        self._known: tuple[Instrument, ...] = ()
        self._makers: tuple[str, ...] = ()
        self._kinds = Kinds({})
        self._offers: tuple[Offer, ...] = ()
        self._chosen, self._by_hand = "", False
        self.put = button("My instrument", "What is on the bench: its name is enough")
        self.standard = button(
            "My meter", "What you compare with, and how good it is: nothing is decided without one"
        )
        self.demo = button("The demo", "An invented shop in a window of its own; this notebook stays as it is")
        self.manual = button("My first voltmeter, step by step", "The manual, beside the work", "Shift+F1")
        self.travelled = button("Take in a travelling job …", "A job that came as a zip from another notebook")
        self.work = Work(self)
        self.ways = QWidget()
        self.ways.setLayout(flow(theme.px(8), self.put, self.standard, self.demo, self.manual))
        self.name = QLineEdit()
        self.name.setPlaceholderText("maker, type, serial number, as they stand on it")
        self.name.setAccessibleName("What stands on the bench")
        self.name.setMaxLength(1000)
        self.understood = label("", "soft")
        self.list = RowList(theme, "How it is opened")
        self.begin = button("Start job", "Open a job for this instrument", "Enter", "main")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(9))
        column.addWidget(label("New job", "heading", bold=True))
        column.addWidget(self.ways)
        column.addWidget(
            label("Type what is marked on it. A name is enough; ↑ and ↓ choose how it is opened.", "soft")
        )
        row = QHBoxLayout()
        row.addWidget(self.name, 1)
        row.addWidget(self.begin)
        column.addLayout(row)
        column.addWidget(self.understood)
        column.addWidget(self.list, 1)
        column.addLayout(flow(theme.px(8), self.travelled))
        self.name.installEventFilter(self)
        self.name.textChanged.connect(self._follow)
        self.name.returnPressed.connect(self._begin)
        self.list.picked.connect(self._choose)
        self.begin.clicked.connect(self._begin)
        self.put.clicked.connect(self.name.setFocus)
        self.demo.clicked.connect(self._start_demo)
        self.travelled.clicked.connect(self._ask_for_one)
        self.work.failed.connect(self._voice.refuse)
        self.work.answered.connect(self._show_taken)
        self.standard.clicked.connect(self.standardAsked)
        self.manual.clicked.connect(self.manualAsked)

    def enter(self) -> None:
        """Look at what there is to offer."""
        self._known = instruments(self._notebook)
        self._makers = known_makers(self._notebook, self._known)
        self._kinds = kinds_at_hand(self._notebook.kinds_folder)
        self.ways.setVisible(not self._shelf.lines)
        for fault in self._kinds.faults:
            self._voice.warn(f"A kind of instrument of yours cannot be used as it is; all else works. {fault}")
        self._follow()
        self.name.setFocus()

    def _start_demo(self) -> None:
        """Open the demo in a window of its own: the notebook in hand stays as it is."""
        if not QProcess.startDetached(sys.executable, ["-m", "candor", "demo"]):
            self._voice.refuse("The demo could not be started; from a terminal it is: candor demo.")

    def finish(self) -> None:
        """Stop the work in hand."""
        self.work.finish()

    def _ask_for_one(self) -> None:
        name = open_name(self, "Take in a travelling job", "Travelling job (*.zip)")
        if name:
            self.take_in(Path(name))

    def take_in(self, path: Path) -> None:
        """Take a travelling job in, beside the window."""
        from candor.notebook.exchange.travel import (  # the window is up before it is needed
            Taken,
            read_travelling,
            take_in,
        )

        target, who = self._notebook.path, self._notebook.who

        def take(_: Callable[[], bool]) -> Taken:
            found, held = read_travelling(path), Notebook(target, who)
            try:
                return take_in(held, found)
            finally:
                held.close()

        self.work.start(take)

    def _show_taken(self, taken: object) -> None:
        from candor.notebook.exchange.travel import Taken

        if isinstance(taken, Taken):
            self._voice.say(taken.sentence, Severity.DONE)
            self.takenIn.emit(taken.job)

    def clear(self) -> None:
        """Forget what was typed: it is on the bench."""
        self._by_hand = False
        self.name.clear()

    def _named(self) -> Named | None:
        try:
            text = self.name.text()
            return read_name(text, self._makers, self._kinds.fitting(text)[1])
        except CandorError:
            return None

    def _follow(self) -> None:
        text, named = self.name.text(), self._named()
        self._offers = offers(text, named, known=self._known, heads=packs_at_hand(self._notebook), kinds=self._kinds)
        keys = [o.key for o in self._offers]
        if not self._by_hand or self._chosen not in keys:
            self._by_hand = False
            self._chosen = chosen_first(self._offers)
        self._show()

    def _show(self) -> None:
        rows: list[Row] = []
        heading = ""
        for offer in self._offers:
            if offer.heading != heading:
                heading = offer.heading
                rows.append(Row("", heading))
            rows.append(Row(offer.key, offer.text, offer.under, strong=offer.key == self._chosen))
        self.list.show_rows(tuple(rows), self._chosen)
        self._say_understood()
        self.explainAsked.emit()

    def _say_understood(self) -> None:
        offer, question = self._offer(), ask_which(self._offers)
        if offer is None and question:
            self.understood.setText(question)
            return
        try:
            read_name(self.name.text(), self._makers)
        except CandorError as error:
            self.understood.setText(str(error) if self.name.text() else "")
            return
        if offer is not None:
            o = offer.opened
            self.understood.setText(" · ".join(Named(o.maker, o.type, o.serial).chips))

    def _offer(self) -> Offer | None:
        return next((o for o in self._offers if o.key == self._chosen), None)

    def _choose(self, key: str) -> None:
        self._chosen, self._by_hand = key, True
        self._show()
        self.name.setFocus()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Up and down walk the list while the line is typed."""
        if watched is self.name and isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            by = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()), 0)
            keys = [o.key for o in self._offers]
            if by and self._chosen in keys:
                self._choose(keys[min(max(keys.index(self._chosen) + by, 0), len(keys) - 1)])
                return True
        return super().eventFilter(watched, event)

    def _begin(self) -> None:
        offer = self._offer()
        try:
            if offer is not None and not (offer.head is not None and not self.name.text().strip()):
                read_name(self.name.text(), self._makers)
            pack = pack_at_hand(self._notebook, offer.head.digest) if offer and offer.head else None
        except CandorError as error:
            self._voice.refuse(error)
            return
        if offer is not None:
            self.begun.emit(offer.opened, pack, offer.like)
        else:
            self._voice.refuse(ask_which(self._offers) or "Choose what it is in the list.")

    def explain(self, because: Because) -> None:
        """Say what a job is, and what is known of the kind chosen."""
        because.show_whole(None)
        offer = self._offer()
        kind = self._kinds.kinds.get(offer.opened.instrument_kind) if offer is not None else None
        if kind is not None:
            because.show_words(kind.title.capitalize(), [
                f"Usual functions: {', '.join(kind.usual)}." if kind.usual else "You add its functions as you find them.",
                f"Usually weak: {'; '.join(kind.weak[:4])}." if kind.weak else "",
                "Add ranges, test points and parts as you go; Candor makes a pack of them.",
            ])  # fmt: skip
            return
        because.show_words("A job", ["One instrument's stay on the bench, from arrival to certificate. Its pack is kept "
                                     "with it, so the job reads the same when the pack has moved on."])  # fmt: skip
