"""Find anything: a place, a job, a step, a part, a standard, a tube, a line, an entry, by some of its words."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import QLineEdit, QVBoxLayout

from candor.core.word_search import Thing, found
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.things import things
from candor.desktop.frame.because import Because
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import button, shortcut
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.long_list import LongList
from candor.desktop.widgets.row_list import Row


class FindPage(Page):
    """What Ctrl+K shows.

    Signals
    -------
    chosen(str, str)
        A thing was chosen: its kind and its key.
    left()
        Back to where one was.
    """

    chosen = Signal(str, str)
    left = Signal()

    def __init__(self, theme: Theme, *, in_hand: JobInHand, shelf: Shelf, shop: Shop, clock: Clock) -> None:
        super().__init__()
        self._in_hand, self._shelf, self._shop, self._clock = in_hand, shelf, shop, clock
        self._known: tuple[Thing, ...] = ()
        self._found: tuple[Thing, ...] = ()
        self.title = label("Find anything", "heading", bold=True)
        self.words = label(
            "Some words of it: a job, a step, a part, a standard, a tube, a line, an entry, a room, a key.", "soft"
        )
        self.search = QLineEdit()
        self.search.setPlaceholderText("words, in any order")
        self.search.setAccessibleName("Find anything")
        self.search.setClearButtonEnabled(True)
        self.none = label("", "text")
        self.list = LongList(theme, "Found")
        self.back = button("Back", "Back to where you were", "Esc")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.setSpacing(theme.px(8))
        for widget in (self.title, self.words, self.search, self.none):
            column.addWidget(widget)
        column.addWidget(self.list, 1)
        column.addLayout(flow(theme.px(8), self.back))
        self.search.textChanged.connect(lambda _: self._look())
        self.search.returnPressed.connect(lambda: self._choose(0))
        self.list.picked.connect(lambda key: self._choose(int(key)))
        self.list.offers = lambda key: (("Go there", "Enter", lambda: self._choose(int(key))),)
        self.back.clicked.connect(self.left)
        shortcut(self, "Esc", self.left.emit)
        shortcut(self, "Down", self._into_list)

    def enter(self) -> None:
        """Gather what can be found now, once the page is seen; the keyboard is where one types."""
        self._known = ()
        self.search.selectAll()
        self.search.setFocus(Qt.FocusReason.OtherFocusReason)
        QTimer.singleShot(0, self, self._look)

    def _look(self) -> None:
        if not self._known:
            self._known = tuple(things(self._in_hand, self._shelf, self._shop, self._clock.now().date()))
        sought = self.search.text()
        self._found = found(self._known, sought)
        self.list.show_rows(range(len(self._found)), self._row, None)
        self.none.setText(f"Nothing has these words: {sought.strip()}" if sought.strip() and not self._found else "")
        self.none.setVisible(bool(self.none.text()))

    def _row(self, index: int) -> Row:
        thing = self._found[index]
        return Row(str(index), thing.says, ": ".join(filter(None, (thing.kind, thing.detail))))

    def _into_list(self) -> None:
        self.list.setFocus(Qt.FocusReason.OtherFocusReason)
        self.list.setCurrentIndex(self.list.model().index(0, 0))

    def _choose(self, index: int) -> None:
        if index < len(self._found):
            thing = self._found[index]
            self.chosen.emit(thing.kind, thing.key)

    def explain(self, because: Because) -> None:
        """Say how to use it."""
        because.show_whole(None)
        because.show_words(
            "Find anything",
            [
                "Enter goes to the first that is found; Down goes into the list.",
                "All words must be in it. Where nothing fits, the nearest words are tried.",
                "Of the job in hand the newest 2,000 entries are looked through; older ones are found in the room Entries.",
            ],
        )
