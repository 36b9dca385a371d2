"""The window: route above, shelf, work and because side by side, the jot line below."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QCloseEvent, QResizeEvent
from PySide6.QtWidgets import (
    QApplication,
    QMainWindow,
    QStackedWidget,
    QWidget,
)

from candor.core.jot import JotContext
from candor.core.severity import Severity
from candor.desktop.bench.bench import Bench
from candor.desktop.bench.jotting import JotWriter, expected_of
from candor.desktop.bench.reading_in_hand import Hand
from candor.desktop.frame.across_the_room import Afar
from candor.desktop.frame.asking import asked
from candor.desktop.frame.because import Because
from candor.desktop.frame.closing import Leaving
from candor.desktop.frame.filetaking import FileTaking
from candor.desktop.frame.firststrip import FirstStrip
from candor.desktop.frame.guide import ASIDE, Guide
from candor.desktop.frame.jotbar import JotBar
from candor.desktop.frame.notestrip import NoteStrip
from candor.desktop.frame.page import Page
from candor.desktop.frame.pages import ROOM_PAGES, STOP_PAGES, Pages
from candor.desktop.frame.preferences import Preferences
from candor.desktop.frame.route import TITLES, Route
from candor.desktop.frame.shelfpanel import ROOMS, ShelfPanel
from candor.desktop.frame.speech import Speech
from candor.desktop.frame.theme import Theme
from candor.desktop.frame.window_layout import Table
from candor.desktop.widgets.controls import shortcut
from candor.desktop.widgets.livestrip import LiveStrip
from candor.desktop.widgets.warning import WarningStrip
from candor.notebook.work.checklists import case_can_be_live, items_of

if TYPE_CHECKING:  # made when they are first entered
    from candor.desktop.rooms.from_file import Preview
    from candor.desktop.stops.calibrate.armslength import ArmsLength
    from candor.packs.model import Pack
    from candor.sitting.starting import Like, Opening


class Window(FileTaking, QMainWindow):
    """Candor's one window."""

    def __init__(self, theme: Theme, bench: Bench, preferences: Preferences) -> None:
        super().__init__()
        self._theme, self.bench, self._preferences = theme, bench, preferences
        self.setWindowTitle("Candor")
        self.setAcceptDrops(True)
        self.setMinimumSize(QSize(800, 520))
        given = vars(bench)
        self.hand = Hand(**asked(Hand, given))
        self.speech = Speech(self)
        given = {**given, "theme": theme, "hand": self.hand, "speech": self.speech}
        self._given = given
        self.route = Route(**asked(Route, given))
        self.shelf = ShelfPanel(**asked(ShelfPanel, given))
        self.because = Because(**asked(Because, given))
        self.jot = JotBar(theme)
        self.warning = WarningStrip(theme)
        self.live = LiveStrip(theme)
        self.first = FirstStrip(theme, writer=bench.writer, voice=bench.voice)
        self.notes = NoteStrip(**asked(NoteStrip, given))
        bench.writer.room = self._shop_room
        self.writer = JotWriter(self.jot, **asked(JotWriter, given))
        self.stops = Pages(STOP_PAGES, given, self._add_page)
        self.rooms = Pages(ROOM_PAGES, given, self._add_page)
        self.afar = Afar(self, given)
        self._came_from: QWidget | None = None
        self._may_close = False
        self.leaving = Leaving(self, theme, bench)
        self.leaving.leaving.connect(self.close_now)
        self._build()
        self._wire()
        self._shortcuts()
        self.resize_to_theme()

    def _build(self) -> None:
        self.work = QStackedWidget()
        self.table = Table(
            self._theme, route=self.route, shelf=self.shelf, work=self.work, because=self.because, warning=self.warning,
            live=self.live, jot=self.jot, first=self.first, notes=self.notes,
        )  # fmt: skip
        self.views = QStackedWidget()
        self.views.addWidget(self.table)
        self.setCentralWidget(self.views)

    def _wire(self) -> None:
        bench = self.bench
        self.route.chosen.connect(self.go_to_stop)
        self.route.shelfAsked.connect(self._focus_shelf)
        self.shelf.job.connect(self._open_job)
        self.shelf.room.connect(self.enter_room)
        self.because.rule.connect(lambda rule: self.calibrate.choose_rule(rule))
        self.because.strike.connect(lambda number: self.calibrate.strike_reading(number))
        self.jot.jotted.connect(self.writer.take)
        self.first.readAsked.connect(self._read_first)
        self.notes.factAsked.connect(self.writer.make_fact)
        self.jot.understood.connect(self.writer.preview)
        self.writer.chosen.connect(lambda ref: self.parts.choose(ref))
        bench.voice.told.connect(self.jot.tell)
        bench.voice.warned.connect(self._show_warnings)
        self._show_warnings()
        bench.live_now.changed.connect(self._show_live)
        bench.alarms.raised.connect(self._alarm)
        self.warning.understood.connect(bench.voice.understood)
        bench.shelf.timerEnded.connect(self._announce)
        bench.in_hand.changed.connect(self._explain_job)
        bench.place.changed.connect(self._follow)
        self.hand.changed.connect(self._explain_hand)
        self._theme.changed.connect(self.resize_to_theme)
        self.work.currentChanged.connect(lambda _: self.table.dress())

    def _add_page(self, name: str, page: Page) -> None:
        """Take in a page that was just made, and join what it asks for to what gives it."""
        self.work.addWidget(page)
        page.explainAsked.connect(self._explain)
        if hasattr(page, "previewAsked"):  # it takes in tables
            page.previewAsked.connect(self._show_preview)
        self.guide.join(page)
        wire: dict[str, Callable[[], object]] = {
            "parts": self._wire_parts, "calibrate": self._wire_calibrate, "stock": self._wire_stock,
            "new job": self._wire_new_job,
            "look": lambda: self.look.chosen.connect(self._remember),
            "from file": lambda: self.from_file.finished.connect(self._leave_preview),
            **{room: partial(lambda room: self.guide.wire(room), room) for room in ASIDE},
        }  # fmt: skip
        if name in wire:
            wire[name]()
        self._fit()

    def _wire_parts(self) -> None:
        page = self.parts
        page.combineAsked.connect(self._combine)
        page.orderAsked.connect(lambda: self.enter_room("order"))
        page.jotBegun.connect(self.jot.begin)

    def _wire_calibrate(self) -> None:
        page = self.calibrate
        page.jotBegun.connect(self.jot.begin)
        page.armsLength.connect(self.toggle_arms_length)
        page.importAsked.connect(self._ask_file)
        page.pasted.connect(self._paste_readings)
        page.powerAsked.connect(lambda: self.go_to_stop("power"))
        page.standardsAsked.connect(lambda: self.enter_room("standards"))

    def _wire_new_job(self) -> None:
        self.new_job.begun.connect(self._begin_job)
        self.new_job.standardAsked.connect(lambda: self.enter_room("standards"))
        self.new_job.manualAsked.connect(lambda: self.guide.manual())
        self.new_job.takenIn.connect(lambda _: self.bench.tick())  # it was written beside the window
        self.new_job.takenIn.connect(self.shelf.job)

    def _wire_stock(self) -> None:
        page = self.stock
        page.chosen.connect(lambda: self.go_to_stop("parts"))

    @property
    def arms_length(self) -> ArmsLength:
        """The step in hand, filling the screen."""
        return self.afar.calibrate

    def _shortcuts(self) -> None:
        keys: dict[str, Callable[[], object]] = {
            "Ctrl+Z": self._undo,
            "Ctrl+Shift+Z": self._redo,
            "F11": self.toggle_arms_length,
            "Ctrl+J": lambda: self.jot.edit.setFocus(Qt.FocusReason.ShortcutFocusReason),
            "Ctrl+L": self._focus_shelf,
            "Ctrl++": lambda: self._resize_text(0.1),
            "Ctrl+=": lambda: self._resize_text(0.1),
            "Ctrl+-": lambda: self._resize_text(-0.1),
            "Ctrl+0": lambda: self._resize_text(None),
        }
        for number, stop in enumerate(TITLES, 1):
            keys[f"Ctrl+{number}"] = partial(self.go_to_stop, stop)
        for room, _, key in ROOMS:
            keys[key] = partial(self.enter_room, room)
        for key, told in keys.items():
            shortcut(self, key, told)
        self.guide = Guide(self, self, keys)

    def open_last(self) -> None:
        """Open the job that was left last, or ask for the first one."""
        if self.bench.in_hand.job is not None or self.work.currentWidget() is not None:
            return  # somebody was quicker
        jobs = [ln.job for ln in self.bench.shelf.lines]
        last = [p.job for p in self.bench.notebook.places() if p.job in jobs]
        if not any(self._open_job(job) for job in dict.fromkeys((*last, *jobs))):
            self.enter_room("new job")
        if self.bench.notebook.read_only:
            self.jot.tell(f"This notebook can only be read: {self.bench.notebook.read_only}.", Severity.REFUSED)

    # --- where we are ---------------------------------------------------------------------------------

    def _open_job(self, job: str) -> bool:
        shown = self.work.currentWidget()
        if not self.bench.open_job(job):
            return False
        if self.bench.place.stops:
            self._show_stop_once(shown)
        else:
            self.enter_room("entries")
        if self.bench.in_hand.job is not None and self.bench.in_hand.job.power.is_live:
            self.power.show_job()  # it watches from now on, whatever page is shown
        self._fit()
        return True

    def _begin_job(self, opened: Opening, pack: Pack | None, like: Like | None) -> None:
        if self.bench.start_job(opened, pack, like):
            self.new_job.clear()
            self.show_stop()
            self._fit()

    def go_to_stop(self, stop: str) -> None:
        """Walk to a stop of the route."""
        if self.bench.in_hand.job is None:
            self.enter_room("new job")
            return
        if not self.bench.place.stops:
            self.enter_room("entries")
            return
        shown = self.work.currentWidget()
        self.bench.place.go(stop)
        self._show_stop_once(shown)

    def show_stop(self) -> None:
        """Show the page of the stop in hand."""
        page = self.stops[self.bench.place.stop]
        self.work.setCurrentWidget(page)
        page.enter()
        self._set_context()
        self._explain()

    def _show_stop_once(self, before: QWidget | None) -> None:
        """Show the stop in hand, unless the window has followed it there already from what it showed before."""
        if self.work.currentWidget() is before:
            self.show_stop()

    def enter_room(self, room: str) -> None:
        """Enter a room beside the route."""
        page = self.rooms[room]
        self.work.setCurrentWidget(page)
        page.enter()
        self._explain()

    def _follow(self) -> None:
        current = self.work.currentWidget()
        if self.bench.in_hand.job is not None and current in self.stops.made:
            if current is not self.stops[self.bench.place.stop]:
                self.show_stop()
            elif self.bench.place.stop == "calibrate" and self.views.currentWidget() is self.table:
                focus = QApplication.focusWidget()
                if focus is None or not self.calibrate.steps.hasFocus():
                    self.calibrate.take_focus()
        self._set_context()
        self._explain()

    def _set_context(self) -> None:
        in_hand, place = self.bench.in_hand, self.bench.place
        zones = tuple((z.key, z.title) for z in in_hand.pack.zones) if in_hand.pack else ()
        self.jot.show_examples(place.stop)
        step = place.step if place.stop == "calibrate" else None
        known = {x.part.ref: x.part for x in parts.lines} if (parts := in_hand.parts()) else {}
        point, makes = (step.point, step.kind == "next") if step is not None else (None, False)
        events = expected_of(in_hand.job)
        self.jot.set_context(
            JotContext(
                point,
                makes_points=makes,
                zones=zones,
                parts=known,
                events=events,
                served=self.bench.in_hand.served(point),
                items=items_of(in_hand.pack),
                case_can_be_live=in_hand.job is not None and case_can_be_live(in_hand.job, parts),
                stop=place.stop,
            )
        )

    def _explain_hand(self) -> None:
        if self.bench.place.stop == "calibrate" and self._at_stop():
            self._explain()

    def _explain_job(self) -> None:
        if not (self.bench.place.stop == "calibrate" and self._at_stop()):  # there the hand tells, once
            self._set_context()  # a part just listed is known to the next line
            self._explain()

    def _at_stop(self) -> bool:
        return self.work.currentWidget() in self.stops.made

    def _explain(self) -> None:
        page = self.work.currentWidget()
        if isinstance(page, Page):
            page.explain(self.because)

    def _show_preview(self, preview: Preview) -> None:
        if self.work.currentWidget() is not self.from_file:
            self._came_from = self.work.currentWidget()
        self.from_file.show_preview(preview)
        self.work.setCurrentWidget(self.from_file)
        self._explain()

    def _leave_preview(self) -> None:
        if self._came_from in self.rooms.made and self._came_from is not self.from_file:
            self.enter_room("stock")
        else:
            self.show_stop()

    def _combine(self, ref: str) -> None:
        self.stock.combine_for(ref)
        self.enter_room("stock")

    # --- views ----------------------------------------------------------------------------------------

    def toggle_arms_length(self) -> None:
        """Fill the screen with what is in hand, or come back to the bench."""
        self.afar.toggle()

    def _announce(self, text: str, name: str) -> None:
        self.jot.tell(f"{name}: {text} is over.", Severity.DONE)
        self.speech.say(f"{text} is over.")
        QApplication.beep()
        QApplication.alert(self)

    def _show_warnings(self) -> None:
        self.warning.show_warnings(self.bench.voice.warnings)
        self.afar.show_warnings()

    def _alarm(self, plug_out: bool) -> None:
        """An alarm is heard wherever the eyes are."""
        QApplication.beep()
        QApplication.alert(self)
        self.speech.say("Plug out." if plug_out else self.bench.voice.warnings[-1])

    def _show_live(self) -> None:
        things = self.bench.live_now.things()
        self.live.show_things(things)
        self.afar.show_live(things)

    def _focus_shelf(self) -> None:
        """Show the shelf; where there is no room for both, it stands in front until a job is chosen."""
        self.table.show_shelf()
        self.shelf.list.setFocus()

    def _resize_text(self, by: float | None) -> None:
        self._theme.set(scale=1.0 if by is None else self._theme.scale + by)
        self._remember()

    def _remember(self) -> None:
        self._preferences.mode, self._preferences.scale = self._theme.mode, self._theme.scale
        sentence = self._preferences.save()
        if sentence:
            self.jot.tell(sentence, Severity.REFUSED)

    def resize_to_theme(self) -> None:
        """Take the widths of the text size in force."""
        self.table.dress()
        self._fit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._fit()
        super().resizeEvent(event)

    def _fit(self) -> None:
        narrow = self.table.fit(self.width())
        for page in (*self.stops.made, *self.rooms.made):
            page.narrow(narrow)

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._may_close and self.leaving.live():
            event.ignore()
            self.leaving.ask()
            return
        self.leaving.done(0)
        self.bench.rest()  # what its end writes is still shown: only then is the work of pages finished
        self.bench.place.keep()
        self.because.finish()
        for page in (*self.rooms.made, *self.stops.made):
            page.finish()
        self.speech.stop()
        self.bench.close()
        super().closeEvent(event)

    def close_now(self) -> None:
        """Close without a question: every source goes to zero first."""
        self._may_close = True
        self.close()
