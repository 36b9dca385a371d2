"""The shelf: all jobs by what each waits for, and the rooms beside the route."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QGridLayout, QPushButton, QVBoxLayout, QWidget

from candor.core.quantities.show import countdown
from candor.desktop.bench.benches import Benches
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.keeper import Keeper
from candor.desktop.bench.plan_in_hand import PlanInHand
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.desktop.frame.route import TITLES as STOPS
from candor.desktop.frame.theme import Theme, label, plain_tip, retint
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.field import SearchField
from candor.desktop.widgets.order_choice import OrderChoice
from candor.desktop.widgets.row_list import Row, RowList
from candor.desktop.widgets.row_menu import Offer
from candor.notebook.shelf import GROUPS, SHELF_ORDERS, TITLES, ShelfLine, shelf_found

ROOMS = (("day", "Today", "Alt+0"),
         ("new job", "New job", "Ctrl+N"), ("standards", "Standards", "Alt+1"), ("stock", "Stock", "Alt+2"),
         ("order", "Order", "Alt+3"), ("packs", "Packs", "Alt+4"), ("entries", "Entries", "Alt+5"),
         ("look", "Settings", "Alt+6"), ("waveform", "Waveforms", "Alt+7"),
         ("tubes", "Tubes", "Alt+8"), ("notebook", "Notebook", "Alt+9"))  # fmt: skip


MANY = 8  # jobs from which one looks for one
ROOM_FOR_ORDER = 480  # px at 100 %: in a lower panel the jobs have the room


class Today(RowList):
    """What is next by the plan, as high as its words are."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme, "Today", wrap=True)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width():
            self.fit(1)


class ShelfPanel(QWidget):
    """The list of jobs.

    Signals
    -------
    job(str)
        A job was chosen.
    room(str)
        A room was chosen.
    stopAsked(str, str)
        A job is asked for at a stop of its route.
    """

    job = Signal(str)
    room = Signal(str)
    stopAsked = Signal(str, str)

    def __init__(
        self, theme: Theme, *, in_hand: JobInHand, shelf: Shelf, clock: Clock, keeper: Keeper, plan: PlanInHand,
        benches: Benches,
    ) -> None:  # fmt: skip
        super().__init__()
        self.setObjectName("page")
        self._theme = theme
        self._in_hand, self._shelf, self._clock, self._keeper, self._plan = in_hand, shelf, clock, keeper, plan
        self._benches = benches
        self.today = Today(theme)
        self.missed = label("", "note", tint="brick")
        self.missed.setContentsMargins(theme.px(16), 0, theme.px(8), 0)
        self.missed.hide()
        self.others = label("", "note", tint="brick")
        self.others.setContentsMargins(theme.px(16), 0, theme.px(8), 0)
        self.others.hide()
        tip = "Words of a job: maker, type, serial number, what it waits for"
        self.search = SearchField("Find a job", "find a job", tip)
        self.order = OrderChoice("Order of the jobs", SHELF_ORDERS)
        self.list = RowList(theme, "Shelf")
        self.list.offers = self._offers
        self.rooms: dict[str, QPushButton] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, theme.px(8), 0, theme.px(10))
        above = QVBoxLayout()
        above.setContentsMargins(theme.px(14), 0, theme.px(10), theme.px(2))
        above.addWidget(self.search)
        above.addWidget(self.order)
        column.addWidget(self.today)
        column.addLayout(above)
        column.addWidget(self.list, 1)
        grid = QGridLayout()
        grid.setContentsMargins(theme.px(16), 0, theme.px(8), 0)
        for index, (key, title, keys) in enumerate(ROOMS[1:]):  # the day stands above the jobs
            made = button(title, f"{title}, {keys}", name="quiet")
            made.clicked.connect(lambda _=False, room=key: self.room.emit(room))
            grid.addWidget(made, index // 2, index % 2)
            self.rooms[key] = made
        self.help, self.menus = (
            button("Help", "Help for where you are, F1", name="quiet"),
            button("Menus", "Every place and every deed with its key, F10", name="quiet"),
        )
        for index, made in enumerate((self.help, self.menus)):
            grid.addWidget(made, len(ROOMS) // 2, index)
        column.addWidget(self.others)
        column.addWidget(self.missed)
        column.addLayout(grid)
        self._wire()
        self.show_shelf()

    def _wire(self) -> None:
        self.list.picked.connect(self.job)
        self.today.picked.connect(self.room)
        self._plan.changed.connect(self.show_today)
        self._theme.changed.connect(self.show_today)
        self.search.textChanged.connect(self.show_shelf)
        self.order.changed.connect(self.show_shelf)
        self.search.returnPressed.connect(self._open_first)
        self.search.wentDown.connect(self.list.setFocus)
        self._keeper.changed.connect(self.show_missed)
        self._benches.changed.connect(self.show_others)
        self._clock.ticked.connect(self.show_others)
        self._in_hand.changed.connect(self.show_others)
        self.show_missed()
        self.show_others()
        self.show_today()
        for signal in (self._shelf.changed, self._clock.ticked, self._theme.changed):
            signal.connect(self.show_shelf)

    def show_shelf(self) -> None:
        """Show every job under what it waits for; of many those that are looked for."""
        rows: list[Row] = []
        many = len(self._shelf.lines) >= MANY
        self.search.setVisible(many)
        self.order.setVisible(many and self.height() >= self._theme.px(ROOM_FOR_ORDER))
        found = self._found()
        for group in GROUPS:
            lines = [line for line in found if line.group == group]
            if lines:
                rows.append(Row("", TITLES[group]))
                rows += [self._row(line) for line in lines]
        if not rows:
            rows.append(Row("", f"no job has “{self.search.text().strip()}”" if self._shelf.lines else "no job yet"))
        self.list.show_rows(tuple(rows), self._in_hand.job.id if self._in_hand.job else "")

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.show_shelf()

    def _found(self) -> tuple[ShelfLine, ...]:
        if len(self._shelf.lines) < MANY:
            return self._shelf.lines
        return shelf_found(self._shelf.lines, self.search.text(), self.order.choice)

    def _open_first(self) -> None:
        if self.search.text().strip() and (found := self._found()):
            self.job.emit(found[0].job)

    def _offers(self, job: str) -> tuple[Offer, ...]:
        """Open it where it was left, or at a stop."""
        at_stops = (
            (f"Open at {title}", "", partial(self.stopAsked.emit, job, stop)) for stop, title in STOPS.items()
        )
        return ("Open where it was left", "Enter", lambda: self.job.emit(job)), *at_stops

    def show_today(self) -> None:
        """Say above the jobs what is next by the plan."""
        said = self._plan.words() or "what to do when, and whether promises are kept"
        self.today.show_rows((Row("day", "Today", said),), "")
        self.today.fit(1)

    def show_missed(self) -> None:
        """Say above the rooms that backups are missed."""
        words = self._keeper.missed_words()
        self.missed.setText(words)
        self.missed.setVisible(bool(words))

    def show_others(self) -> None:
        """Say above the rooms what must be known of the other benches."""
        words = self._benches.words
        if words != self.others.text():
            self.others.setText(words)
            self.others.setToolTip(plain_tip(self._benches.words_whole))
            retint(self.others, "brick" if self._benches.is_away else "petrol")
            self.others.setVisible(bool(words))

    def _row(self, line: ShelfLine) -> Row:
        under = line.text
        if line.timers:
            timer = min(line.timers, key=lambda t: t.ends)
            left = round(timer.left(self._clock.now()))
            under = f"{timer.label} · {countdown(left)} left"
        return Row(line.job, f"{line.name}   {line.serial}".rstrip(), under)
