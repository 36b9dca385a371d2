"""Today: the plan of the shop's days, hour by hour, with why each deed stands where it stands and how promises stand."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtGui import QHideEvent
from PySide6.QtWidgets import QVBoxLayout

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.plan_in_hand import PlanInHand
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.because import Because
from candor.desktop.frame.drawn_pdf import Printable
from candor.desktop.frame.file_names import save_name
from candor.desktop.frame.page import Page
from candor.desktop.frame.theme import Theme, label
from candor.desktop.widgets.controls import Column, button, line, shortcut
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.hours_strip import Block, HoursStrip
from candor.desktop.widgets.row_list import Row, RowList
from candor.durably import write_durably
from candor.notebook.plan.day import Day, PlannedDeed, lanes_of
from candor.notebook.store import Notebook
from candor.notebook.work.progress import STOP_OF
from candor.sitting.commands import plan_commands
from candor.words import plan_words
from candor.words.hours_words import say_hours

MOST = 60  # deeds that are listed before the list scrolls by itself
SHAPES = {"kept": "full", "at risk": "half", "late": "cross"}


class DayPage(Page):
    """The room.

    Signals
    -------
    openAsked(str, str)
        A job is to be opened at a stop.
    printAsked(object)
        A paper is to be looked at and printed: a Printable.
    """

    openAsked = Signal(str, str)
    printAsked = Signal(object)

    def __init__(
        self, theme: Theme, *, plan: PlanInHand, writer: Writer, voice: Voice, shop: Shop, clock: Clock,
        notebook: Notebook,
    ) -> None:  # fmt: skip
        super().__init__()
        self._plan, self._writer, self._voice, self._shop, self._clock = plan, writer, voice, shop, clock
        self._notebook = notebook
        self._chosen, self._ahead = "", 0  # the deed; days from the first that is planned
        self.title = label("Today", "heading", bold=True)
        self.words = label("", "text")
        self.risk = label("", "text", tint="brass")
        self.before, self.after = (
            button("Day before", "The day before"),
            button("Next day", "The next day that something is planned on"),
        )
        self.go = button("Go there", "Open the job at the stop of the deed chosen", name="main")
        self.at = Field()
        self.at.setPlaceholderText("at 14:30")
        self.at.setAccessibleName("Put the deed chosen at an hour of this day")
        self.at.setMaximumWidth(theme.px(90))
        self.put = button("Put it there", "Put the deed chosen at this hour by hand")
        self.free = button("Plan it freely", "Let a deed that was put by hand go again")
        self.anew = button("Plan all anew", "Without regard to where deeds stand now")
        self.print_ = button("Print …", "The day's sheet: deeds, and what they need", "Ctrl+P")
        self.all = button(
            "Print all …", "The day's sheet, what to fetch, and a blank worksheet of each instrument that is read"
        )
        self.calendar = button("Save as calendar …", "Every deed as iCalendar, for a telephone or a desk")
        self.strip = HoursStrip(theme)
        self.list = RowList(theme, "Deeds of the day", wrap=True)
        self.list.deeds = (self.go, self.free)
        self.owed = RowList(theme, "Promises", wrap=True)
        self.owed_title, self.left_title = (
            label("Promises", "heading", bold=True),
            label("Not planned", "heading", bold=True),
        )
        self.left = RowList(theme, "Not planned", wrap=True)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self.area = Column(theme.px(16), theme.px(7))
        column = self.area.column
        column.setContentsMargins(theme.px(18), theme.px(12), theme.px(16), theme.px(12))
        column.addLayout(flow(theme.px(8), self.title, self.before, self.after))
        column.addWidget(self.words)
        column.addWidget(self.risk)
        column.addWidget(self.strip)
        column.addLayout(
            flow(theme.px(8), self.go, self.at, self.put, self.free, self.anew, self.print_, self.all, self.calendar)
        )
        column.addWidget(self.list)
        self.rule = line()
        for widget in (self.rule, self.owed_title, self.owed, self.left_title, self.left):
            column.addWidget(widget)
        column.addStretch()
        outer.addWidget(self.area)
        self._wire()

    def _wire(self) -> None:
        self.before.clicked.connect(lambda: self._step(-1))
        self.after.clicked.connect(lambda: self._step(1))
        self.go.clicked.connect(lambda: self._open(self._chosen))
        self.put.clicked.connect(self._put_at)
        self.at.returnPressed.connect(self._put_at)
        self.free.clicked.connect(lambda: self._pin(self._chosen, None))
        self.anew.clicked.connect(lambda: self._plan.ask(anew=True))
        self.print_.clicked.connect(self._print)
        self.all.clicked.connect(self._print_all)
        self.calendar.clicked.connect(self._ask)
        shortcut(self, "Ctrl+P", self.print_.click)
        self.list.picked.connect(self._choose)
        self.list.itemDoubleClicked.connect(lambda _: self._open(self._chosen))
        self.strip.picked.connect(self._choose)
        self.strip.opened.connect(self._open)
        self.strip.dragged.connect(self._pin)
        self._plan.changed.connect(self._show)

    def enter(self) -> None:
        """Come to the room: the plan follows what is written from now on."""
        self._plan.enter()
        self._show()
        self.list.setFocus()

    def hideEvent(self, event: QHideEvent) -> None:
        self._plan.leave()
        super().hideEvent(event)

    def finish(self) -> None:
        self._plan.finish()

    # --- showing ----------------------------------------------------------------------------------------

    def days(self) -> tuple[dt.date, ...]:
        """Return the days that something is planned on, today in front whether there is or not."""
        day = self._plan.day
        today = self._clock.now().astimezone().date()
        planned = (d.begins.astimezone().date() for d in day.deeds) if day is not None else ()
        return tuple(dict.fromkeys((today, *planned)))

    def on(self) -> dt.date:
        """Return the day that is shown."""
        days = self.days()
        return days[min(self._ahead, len(days) - 1)]

    def _step(self, by: int) -> None:
        self._ahead = min(max(self._ahead + by, 0), len(self.days()) - 1)
        self._show()

    def _show(self) -> None:
        if not self.isVisible() and self._plan.watched:
            return
        day, on = self._plan.day, self.on()
        today = on == self._clock.now().astimezone().date()
        self.title.setText(f"{'Today, ' if today else ''}{on:%A} {on.day} {on:%B}")
        self.words.setText(self._head(day, on))
        deeds = day.of_day(on) if day is not None else ()
        if self._chosen not in {d.key for d in deeds}:
            self._chosen = deeds[0].key if deeds else ""
        self.list.show_rows(tuple(self._row(d) for d in deeds), self._chosen)
        self.list.setVisible(bool(deeds))
        self.list.fit(MOST)
        self._show_strip(day, on)
        self._show_owed(day)
        chosen = self.chosen()
        self.go.setEnabled(chosen is not None)
        for widget in (self.at, self.put):
            widget.setEnabled(chosen is not None and chosen.work in STOP_OF)  # a check of a standard is no job's
        self.free.setVisible(chosen is not None and chosen.why.because == "pinned")
        self.before.setEnabled(self._ahead > 0)
        self.after.setEnabled(self._ahead < len(self.days()) - 1)
        self.print_.setEnabled(day is not None)
        self.all.setEnabled(day is not None)
        self.calendar.setEnabled(day is not None)
        self.explainAsked.emit()

    def _head(self, day: Day | None, on: dt.date) -> str:
        busy = "Planning …" if self._plan.is_busy else ""
        if self._plan.problem:
            return self._plan.problem
        if day is None:
            return busy or "No plan yet."
        said = (plan_words.say_load(day, on), plan_words.say_moved(day), busy)
        return " ".join(filter(None, said))

    def _row(self, deed: PlannedDeed) -> Row:
        when = f"{deed.begins.astimezone():%H:%M}"
        by_hand = " · put there by hand" if deed.why.because == "pinned" else ""
        under = f"{plan_words.say_deed(deed)} · {plan_words.say_length(deed)}{by_hand}"
        return Row(deed.key, f"{when}   {deed.name}", under, "begun" if deed.why.because == "begun" else "")

    def _show_strip(self, day: Day | None, on: dt.date) -> None:
        if day is None:
            self.strip.show_day((), (), self._clock.now().astimezone(), "")
            return
        blocks = []
        for x in lanes_of(day, on):
            said = f"{x.deed.name}: {plan_words.say_deed(x.deed)}"
            told = f"{said} ({plan_words.say_length(x.deed)})"
            blocks.append(
                Block(
                    key=x.deed.key,
                    lane=x.lane,
                    begins=x.begins,
                    ends=x.ends,
                    text=said,
                    told=told,
                    runs=x.runs,
                    watched=x.deed.watched and x.runs,
                )
            )
        open_ = [(a.astimezone(), b.astimezone()) for a, b in day.open if a.astimezone().date() == on]
        self.strip.show_day(blocks, open_, self._clock.now().astimezone(), self._chosen)

    def _show_owed(self, day: Day | None) -> None:
        owed, left = (day.promises, day.unplanned) if day is not None else ((), ())
        rows = []
        for promise in owed:
            rescue = day.rescues.get(promise.job) if day is not None else None
            under = plan_words.say_promise(promise, day, named=False) if day is not None else ""
            saves = f" {plan_words.say_rescue(rescue, day)}" if rescue is not None and day is not None else ""
            rows.append(
                Row(promise.job, day.names[promise.job] if day else "", under + saves, SHAPES[promise.standing])
            )
        self.owed.show_rows(tuple(rows), "")
        self.left.show_rows(tuple(Row(u.job, u.name, plan_words.say_unplanned(u)) for u in left), "")
        for title, shown in ((self.owed_title, self.owed), (self.left_title, self.left)):
            title.setVisible(shown.count() > 0)
            shown.setVisible(shown.count() > 0)
            shown.fit(6)
        self.rule.setVisible(bool(owed or left))
        risk = plan_words.say_risk(day) if day is not None else ""
        self.risk.setText(risk)
        self.risk.setVisible(bool(risk))

    def chosen(self) -> PlannedDeed | None:
        """Return the deed that is chosen."""
        day = self._plan.day
        return next((d for d in day.deeds if d.key == self._chosen), None) if day is not None else None

    def _choose(self, key: str) -> None:
        self._chosen = key
        self._show()

    # --- doing ------------------------------------------------------------------------------------------

    def _open(self, key: str) -> None:
        day = self._plan.day
        deed = next((d for d in day.deeds if d.key == key), None) if day is not None else None
        if deed is not None:
            self.openAsked.emit(deed.job, STOP_OF.get(deed.work, ""))

    def _put_at(self) -> None:
        from candor.core.plan.shop_hours import read_clock

        deed = self.chosen()
        if deed is None:
            return
        try:
            minute = read_clock(self.at.text())
        except CandorError as error:
            self._voice.refuse(str(error))
            return
        at = dt.datetime.combine(self.on(), dt.time(minute // 60, minute % 60)).astimezone()
        if self._pin(deed.key, at):
            self.at.clear()

    def _pin(self, key: str, at: dt.datetime | None) -> bool:
        day = self._plan.day
        deed = next((d for d in day.deeds if d.key == key), None) if day is not None else None
        if deed is None or deed.work not in STOP_OF:
            return False
        if at is not None and at < self._clock.now():
            self._voice.refuse(f"{at:%H:%M} is over. Put it later.")
            return False
        return self._writer.do(plan_commands.pin(deed.job, deed.key.removeprefix(f"{deed.job} "), at))

    def _print(self) -> None:
        day, on, shop = self._plan.day, self.on(), self._shop.name
        if day is None:
            return

        def make(_should_stop: Callable[[], bool]) -> bytes:
            from candor.paper.day_sheet import day_pdf  # the library of pages is slow to load

            return day_pdf(day, on, shop)

        words = ("The day's deeds in their order, with what each needs.",)
        self.printAsked.emit(Printable(f"Plan of {on.isoformat()}", f"plan_{on.isoformat()}.pdf", make, words))

    def _print_all(self) -> None:
        day, on, shop, path, who = self._plan.day, self.on(), self._shop.name, self._notebook.path, self._notebook.who
        if day is None:
            return

        def make(_should_stop: Callable[[], bool]) -> bytes:
            from candor.paper.day_papers import day_papers

            held = Notebook(path, who)  # its own: a connection belongs to the thread that opened it
            try:
                return day_papers(held, day, on, shop)
            finally:
                held.close()

        words = (
            "The day's deeds, what to fetch from the drawers, and a blank worksheet of each instrument that is read.",
        )
        self.printAsked.emit(Printable(f"Papers of {on.isoformat()}", f"day_{on.isoformat()}.pdf", make, words))

    def _ask(self) -> None:
        name = save_name(self, "Plan", f"plan_{self.on().isoformat()}.ics", "*.ics")
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Write the plan as iCalendar."""
        from candor.paper.calendar_file import calendar_of

        day = self._plan.day
        if day is None:
            return
        try:
            write_durably(path, calendar_of(day))
        except OSError as error:
            self._voice.refuse(f"{path} could not be written: {error.strerror}.")
            return
        self._voice.say(f"The plan is in {path.name}.", Severity.DONE)

    def explain(self, because: Because) -> None:
        """Say why the deed chosen stands there, and what its minutes rest on."""
        because.show_whole(None)
        deed, day = self.chosen(), self._plan.day
        if deed is None or day is None:
            because.show_words("The plan", list(plan_words.ABOUT))
            return
        title = f"{deed.begins.astimezone():%H:%M} to {deed.hands_end.astimezone():%H:%M}"
        needs = [f"It needs: {', '.join(deed.needs)}."] if deed.needs else []
        words = [plan_words.say_why(deed, day), *needs, plan_words.say_rests(deed)]
        if deed.watched and deed.runs:
            words.append(plan_words.WATCHED)
        time = day.times.get(deed.job)
        hours = [(f"the hours of {deed.name}", say_hours(time))] if time is not None else []
        because.show_words(title, words, sections=(*hours, ("how it is planned", list(plan_words.ABOUT))))
