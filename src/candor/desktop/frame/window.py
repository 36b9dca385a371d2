"""The window: route above, shelf, work and because side by side, the jot line below."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QResizeEvent
from PySide6.QtWidgets import (
    QApplication,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from candor.core.jot import JotContext
from candor.desktop.bench.bench import Bench
from candor.desktop.bench.hand import Hand
from candor.desktop.bench.jotting import JotWriter
from candor.desktop.frame.because import Because
from candor.desktop.frame.jotbar import JotBar
from candor.desktop.frame.pages import ROOM_PAGES, STOP_PAGES, Pages
from candor.desktop.frame.preferences import Preferences
from candor.desktop.frame.route import TITLES, Route
from candor.desktop.frame.shelfpanel import ROOMS, ShelfPanel
from candor.desktop.frame.speech import Speech
from candor.desktop.frame.theme import Theme
from candor.desktop.rooms.from_file import FromFilePage, Preview
from candor.desktop.stops.arrive.page import ArrivePage
from candor.desktop.stops.calibrate.armslength import ArmsLength
from candor.desktop.stops.calibrate.page import CalibratePage, is_readings_file
from candor.desktop.widgets.parts import line, shortcut
from candor.desktop.widgets.warning import WarningStrip

if TYPE_CHECKING:
    from candor.desktop.stops.parts.page import PartsPage
    from candor.desktop.stops.release.page import ReleasePage

# Widths, in px at 100 %, below which something gives way to the work.
SHELF_NEEDS = 1130
STEPS_NEED = 790
BECAUSE_NEEDS = 640


class Window(QMainWindow):
    """Candor's one window."""

    def __init__(self, theme: Theme, bench: Bench, preferences: Preferences) -> None:
        super().__init__()
        self._theme, self.bench, self._preferences = theme, bench, preferences
        self.setWindowTitle("Candor")
        self.setAcceptDrops(True)
        self.setMinimumSize(QSize(800, 520))
        self.hand = Hand(bench)
        self.speech = Speech(self)
        self.route = Route(theme, bench)
        self.shelf = ShelfPanel(theme, bench)
        self.because = Because(theme)
        self.jot = JotBar(theme)
        self.warning = WarningStrip(theme)
        self.writer = JotWriter(bench, self.hand, self.jot)
        self.arrive = ArrivePage(theme, bench)
        self.calibrate = CalibratePage(theme, bench, self.hand)
        self.from_file = FromFilePage(theme, bench)
        self.rooms = Pages(ROOM_PAGES, theme, bench, self._add_room)
        self._came_from: QWidget | None = None
        there = {"arrive": self.arrive, "calibrate": self.calibrate}
        self.stops = Pages(STOP_PAGES, theme, bench, self._add_stop, there)
        self._arms_length: ArmsLength | None = None
        self._build()
        self._wire()
        self._shortcuts()
        self.resize_to_theme()
        self._open_last()

    def _build(self) -> None:
        self.work = QStackedWidget()
        for page in (*self.stops.made, self.from_file):
            self.work.addWidget(page)
        middle = QHBoxLayout()
        middle.setSpacing(0)
        self.shelf_line, self.because_line = line(vertical=True), line(vertical=True)
        middle.addWidget(self.shelf)
        middle.addWidget(self.shelf_line)
        middle.addWidget(self.work, 1)
        middle.addWidget(self.because_line)
        middle.addWidget(self.because)
        self.table = QWidget()
        self.table.setObjectName("page")
        column = QVBoxLayout(self.table)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.route)
        column.addWidget(line())
        column.addLayout(middle, 1)
        column.addWidget(self.warning)
        column.addWidget(line())
        column.addWidget(self.jot)
        self.views = QStackedWidget()
        self.views.addWidget(self.table)
        self.setCentralWidget(self.views)

    def _wire(self) -> None:
        bench = self.bench
        self.route.chosen.connect(self.go_to_stop)
        self.route.shelfAsked.connect(self._focus_shelf)
        self.shelf.job.connect(self._open_job)
        self.shelf.room.connect(self.enter_room)
        self.because.rule.connect(self.calibrate.choose_rule)
        self.because.strike.connect(self.calibrate.strike_reading)
        self.jot.jotted.connect(self.writer.take)
        self.jot.understood.connect(self.writer.preview)
        self.writer.chosen.connect(lambda ref: self.parts.choose(ref))
        self.calibrate.jotBegun.connect(self.jot.begin)
        self.calibrate.armsLength.connect(self.toggle_arms_length)
        self.calibrate.importAsked.connect(self._ask_file)
        self.calibrate.standardsAsked.connect(lambda: self.enter_room("standards"))
        self.from_file.finished.connect(self._leave_preview)
        bench.told.connect(self.jot.tell)
        bench.warned.connect(self._show_warnings)
        self.warning.understood.connect(bench.acknowledge)
        bench.timerEnded.connect(self._announce)
        bench.jobChanged.connect(self._explain_job)
        bench.placeChanged.connect(self._follow)
        self.hand.changed.connect(self._explain_hand)
        self._theme.changed.connect(self.resize_to_theme)
        self.work.currentChanged.connect(lambda _: self._dress())

    def _add_room(self, room: str, page: QWidget) -> None:
        self.work.addWidget(page)
        if room == "look":
            page.chosen.connect(self._remember)
        elif room == "stock":
            page.previewAsked.connect(self._show_preview)
            page.chosen.connect(lambda: self.go_to_stop("parts"))

    def _add_stop(self, stop: str, page: QWidget) -> None:
        self.work.addWidget(page)
        self._fit()
        if stop == "release":
            page.previewed.connect(self._explain)
            return
        page.previewAsked.connect(self._show_preview)
        page.combineAsked.connect(self._combine)
        page.orderAsked.connect(lambda: self.enter_room("order"))
        page.jotBegun.connect(self.jot.begin)

    @property
    def release(self) -> ReleasePage:
        """The page of the stop Release."""
        return self.stops["release"]

    @property
    def arms_length(self) -> ArmsLength:
        """The view that fills the screen, made when it is first asked for."""
        if self._arms_length is None:
            self._arms_length = ArmsLength(self._theme, self.bench, self.hand, self.speech)
            self._arms_length.left.connect(self.toggle_arms_length)
            self._arms_length.warning.understood.connect(self.bench.acknowledge)
            self._show_warnings()
            self.views.addWidget(self._arms_length)
        return self._arms_length

    @property
    def parts(self) -> PartsPage:
        """The page of the stop Parts."""
        return self.stops["parts"]

    def _shortcuts(self) -> None:
        keys = {
            "Ctrl+Z": self.bench.strike_last,
            "Ctrl+Shift+Z": self.bench.unstrike_last,
            "F11": self.toggle_arms_length,
            "Ctrl+J": lambda: self.jot.edit.setFocus(Qt.FocusReason.ShortcutFocusReason),
            "Ctrl+L": self._focus_shelf,
            "Ctrl++": lambda: self._resize_text(0.1),
            "Ctrl+=": lambda: self._resize_text(0.1),
            "Ctrl+-": lambda: self._resize_text(-0.1),
            "Ctrl+0": lambda: self._resize_text(None),
        }
        for number, stop in enumerate(TITLES, 1):
            keys[f"Ctrl+{number}"] = lambda stop=stop: self.go_to_stop(stop)
        for room, _, key in ROOMS:
            keys[key] = lambda room=room: self.enter_room(room)
        for key, told in keys.items():
            shortcut(self, key, told)
        shortcut(self.from_file, "Esc", self.from_file.finished.emit)

    def _open_last(self) -> None:
        places = self.bench.notebook.places()
        jobs = [ln.job for ln in self.bench.lines]
        last = [p.job for p in places if p.job in jobs]
        if any(self._open_job(job) for job in dict.fromkeys((*last, *jobs))):
            pass
        elif self.bench.standards:
            self.enter_room("new job")
        else:
            self.enter_room("standards")
            self.jot.tell("A new notebook. First the standard you compare with, then a new job.", "")
        if self.bench.notebook.read_only:
            self.jot.tell(f"This notebook can only be read: {self.bench.notebook.read_only}.", "brick")

    # --- where we are ---------------------------------------------------------------------------------

    def _open_job(self, job: str) -> bool:
        if not self.bench.open_job(job):
            return False
        self.show_stop()
        self._fit()
        return True

    def go_to_stop(self, stop: str) -> None:
        """Walk to a stop of the route."""
        if self.bench.job is None:
            self.enter_room("new job")
            return
        if stop not in self.bench.stops:
            self.jot.tell(
                f"The pack of this {self.bench.job.name} has no procedure: there is no {TITLES[stop]} yet.", ""
            )
            return
        self.bench.go(stop)
        self.show_stop()

    def show_stop(self) -> None:
        """Show the page of the stop in hand."""
        page = self.stops[self.bench.stop]
        self.work.setCurrentWidget(page)
        if page is self.calibrate:
            self.calibrate.show_step()
            self.calibrate.take_focus()
        elif self.bench.stop == "release":
            self.release.show_job()
            self.release.pdf.setFocus()
        else:
            page.enter()
        self._set_context()
        self._explain()

    def enter_room(self, room: str) -> None:
        """Enter a room beside the route."""
        page = self.rooms[room]
        self.work.setCurrentWidget(page)
        page.enter()
        self._explain()

    def _follow(self) -> None:
        current = self.work.currentWidget()
        if (
            self.bench.job is not None
            and self._is_on_the_way(current)
            and (current is not self.stops[self.bench.stop])
        ):
            self.show_stop()
        if current is self.calibrate and self.views.currentWidget() is self.table:
            focus = QApplication.focusWidget()
            if focus is None or not self.calibrate.steps.hasFocus():
                self.calibrate.take_focus()
        self._set_context()
        self._explain()

    def _is_on_the_way(self, page: QWidget | None) -> bool:
        return page in self.stops.made or (page in self.rooms.made and page is self.rooms["new job"])

    def _set_context(self) -> None:
        pack, step = self.bench.pack, self.bench.step
        zones = tuple((z.key, z.title) for z in pack.zones) if pack else ()
        at_points = self.bench.stop == "calibrate" and step is not None
        self.jot.show_examples(self.bench.stop)
        parts = self.bench.parts()
        known = {x.part.ref: x.part for x in parts.lines} if parts else {}
        self.jot.set_context(JotContext(step.point if at_points and step is not None else None, zones, known))

    def _explain_hand(self) -> None:
        if self.work.currentWidget() is self.calibrate:
            self._explain()

    def _explain_job(self) -> None:
        if self.work.currentWidget() is not self.calibrate:  # there the hand tells, once
            self._explain()

    def _explain(self) -> None:
        page = self.work.currentWidget()
        if hasattr(page, "explain"):
            page.explain(self.because)

    # --- files ----------------------------------------------------------------------------------------

    def _ask_file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Readings", "", "Readings (*.csv *.tsv *.txt)")
        if name:
            self.preview_file(Path(name))

    def preview_file(self, path: Path) -> None:
        """Show how a file of readings is understood."""
        self._came_from = None
        if self.bench.stop == "parts":
            self.parts.preview_file(path)
        elif self.from_file.show_file(path):
            self.work.setCurrentWidget(self.from_file)
            self._explain()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        paths = [Path(url.toLocalFile()) for url in event.mimeData().urls()]
        if paths and is_readings_file(paths[0]):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.preview_file(Path(event.mimeData().urls()[0].toLocalFile()))

    def _show_preview(self, preview: Preview) -> None:
        if self.work.currentWidget() is not self.from_file:
            self._came_from = self.work.currentWidget()
        self.from_file.show_preview(preview)
        self.work.setCurrentWidget(self.from_file)
        self._explain()

    def _leave_preview(self) -> None:
        if self._came_from in self.rooms.made:
            self.enter_room("stock")
        else:
            self.show_stop()

    def _combine(self, ref: str) -> None:
        self.rooms["stock"].combine_for(ref)
        self.enter_room("stock")

    # --- views ----------------------------------------------------------------------------------------

    def toggle_arms_length(self) -> None:
        """Fill the screen with the step in hand, or come back to the bench."""
        if self.views.currentWidget() is not self.table:
            self.views.setCurrentWidget(self.table)
            self.setWindowState(self.windowState() & ~Qt.WindowState.WindowFullScreen)
            self.show_stop()
        elif self.bench.job is not None and "calibrate" in self.bench.stops:
            self.bench.go("calibrate")
            self.views.setCurrentWidget(self.arms_length)
            self.setWindowState(self.windowState() | Qt.WindowState.WindowFullScreen)
            self.arms_length.setFocus()
            self.arms_length.show_hand()

    def _announce(self, text: str, name: str) -> None:
        self.jot.tell(f"{name}: {text} is over.", "petrol")
        self.speech.say(f"{text} is over.")
        QApplication.beep()
        QApplication.alert(self)

    def _show_warnings(self) -> None:
        self.warning.show_warnings(self.bench.warnings)
        if self._arms_length is not None:
            self._arms_length.warning.show_warnings(self.bench.warnings)

    def _focus_shelf(self) -> None:
        """Show the shelf; where there is no room for both, it stands in front until a job is chosen."""
        self.shelf.setVisible(True)
        self.shelf_line.setVisible(True)
        self.shelf.list.setFocus()

    def _resize_text(self, by: float | None) -> None:
        self._theme.set(scale=1.0 if by is None else self._theme.scale + by)
        self._remember()

    def _remember(self) -> None:
        self._preferences.mode, self._preferences.scale = self._theme.mode, self._theme.scale
        sentence = self._preferences.save()
        if sentence:
            self.jot.tell(sentence, "brick")

    def _dress(self) -> None:
        """Dress what is shown: the frame and the page in hand."""
        lines = self.table.findChildren(QFrame, "line", Qt.FindChildOption.FindDirectChildrenOnly)
        shown = (self.route, self.shelf, self.because, self.warning, self.jot, self.work.currentWidget())
        for part in (*lines, *shown):
            if part is not None:
                self._theme.dress(part)

    def resize_to_theme(self) -> None:
        """Take the widths of the text size in force."""
        self._dress()
        self.shelf.setFixedWidth(self._theme.px(200))
        self._fit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._fit()
        super().resizeEvent(event)

    def _fit(self) -> None:
        """Where the window is narrow for the text size, shelf, steps and reasons give way in turn."""
        wide = self.width() / self._theme.scale
        shelf = wide >= SHELF_NEEDS
        self.shelf.setVisible(shelf)
        self.route.shelf.setVisible(not shelf)
        self.shelf_line.setVisible(shelf)
        self.because.setVisible(wide >= BECAUSE_NEEDS)
        self.because_line.setVisible(wide >= BECAUSE_NEEDS)
        self.because.setFixedWidth(self._theme.px(300 if wide >= 980 else 250))
        for page in self.stops.made:
            page.narrow(wide < STEPS_NEED + (200 if shelf else 0))

    def closeEvent(self, event: QCloseEvent) -> None:
        self.bench.keep_place()
        busy = [page for page in (*self.rooms.made, *self.stops.made) if hasattr(page, "finish")]
        for part in (self.because, self.arrive.photos, self.arrive.map.photos, *busy):
            part.finish()
        self.speech.stop()
        self.bench.close()
        super().closeEvent(event)
