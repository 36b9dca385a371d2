"""The route: the stops of a job as a line with stations, timers and the caution in force."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import pairwise
from operator import is_

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from candor.core.quantities.show import countdown, trimmed
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.live_in_hand import Live
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Theme, plain_tip
from candor.desktop.widgets.caution import Caution, CautionLine
from candor.desktop.widgets.controls import button
from candor.desktop.widgets.elided import Elided
from candor.desktop.widgets.glyphs import draw_glyph
from candor.notebook.work.next_deed import next_deed
from candor.notebook.work.progress import Progress, Stop, caution_in_force, progress
from candor.packs.kinds_of_instrument import said_kind
from candor.words.next_deed_words import say_next

TITLES: dict[Stop, str] = {
    "arrive": "Arrive",
    "parts": "Parts",
    "power": "Power",
    "trace": "Trace",
    "calibrate": "Calibrate",
    "soak": "Soak",
    "release": "Release",
}
SHAPES = {"untouched": "ring", "begun": "begun", "done": "full", "barred": "barred"}


class Station(QAbstractButton):
    """One stop on the line."""

    def __init__(self, theme: Theme, stop: Stop) -> None:
        super().__init__()
        self._theme = theme
        self._state = Progress()
        self._current = False
        self.stop = stop
        self.setText(TITLES[stop])
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_state(self, state: Progress, current: bool, number: int) -> None:
        """Show how the stop stands."""
        self._state, self._current = state, current
        count = f", {state.count}" if state.count and state.count != state.standing else ""
        words = f"{self.text()}: {state.standing}{count}"
        self.setAccessibleName(words)
        self.setToolTip(plain_tip(f"{words}\n{state.why}\nCtrl+{number}".replace("\n\n", "\n")))
        self.updateGeometry()  # what it counts is never cut off
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(92), self._theme.px(64))

    def minimumSizeHint(self) -> QSize:
        words = round(self._theme.width_of(self._state.count, "note")) + self._theme.px(6) if self._state.count else 0
        return QSize(max(self._theme.px(66), words), self._theme.px(64))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        theme, middle = self._theme, self.width() / 2
        height = theme.px(16)
        radius = theme.px(8.5 if self._current else 6.5)
        draw_glyph(painter, theme, SHAPES[self._state.standing], QPointF(middle, height), radius)
        painter.setFont(theme.font("text", bold=self._current))
        painter.setPen(theme.colour("ink" if self._current or SHAPES[self._state.standing] != "ring" else "soft"))
        metrics = painter.fontMetrics()
        painter.drawText(
            QPointF(middle - metrics.horizontalAdvance(self.text()) / 2, theme.px(40)), local(self.text())
        )
        if self.hasFocus():
            painter.setPen(QPen(theme.colour("petrol"), 1.5))
            half = metrics.horizontalAdvance(self.text()) / 2
            painter.drawLine(QPointF(middle - half, theme.px(44)), QPointF(middle + half, theme.px(44)))
        if self._state.count:
            painter.setFont(theme.font("note"))
            painter.setPen(theme.colour("brick" if SHAPES[self._state.standing] == "barred" else "soft"))
            width = painter.fontMetrics().horizontalAdvance(self._state.count)
            painter.drawText(QPointF(middle - width / 2, theme.px(56)), local(self._state.count))


class Line(QWidget):
    """The stations with the line that joins them.

    Signals
    -------
    chosen(str)
        A station was pressed.
    """

    chosen = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.stations = [Station(theme, stop) for stop in TITLES]
        for station in self.stations:
            row.addWidget(station)
            station.clicked.connect(lambda _=False, stop=station.stop: self.chosen.emit(stop))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        centres = [s.x() + s.width() / 2 for s in self.stations if not s.isHidden()]
        gap = self._theme.px(13)
        painter.setPen(QPen(self._theme.colour("rule"), 2))
        for left, right in pairwise(centres):
            painter.drawLine(QPointF(left + gap, self._theme.px(16)), QPointF(right - gap, self._theme.px(16)))


class Route(QWidget):
    """The top of the window: what is on the bench, where it is on its way, what runs, what can hurt.

    Signals
    -------
    chosen(str)
        A stop was pressed.
    shelfAsked()
        The shelf is hidden for want of room and was asked for.
    nextKnown(str, str)
        What is next in the job is another: the stop where it is done, and a sentence.
    """

    chosen = Signal(str)
    shelfAsked = Signal()
    nextKnown = Signal(str, str)

    def __init__(
        self, theme: Theme, in_hand: JobInHand, place: PlaceInHand, shelf: Shelf, live: Live, clock: Clock
    ) -> None:
        super().__init__()
        self.setObjectName("page")
        self._theme = theme
        self._in_hand, self._place, self._shelf, self._live, self._clock = in_hand, place, shelf, live, clock
        self.name = Elided(theme, "heading", bold=True)
        self.under = Elided(theme, "soft", tint="soft")
        self.times = Elided(theme, "text", right=True)
        self.caution = CautionLine(theme)
        self.whole = Caution(theme, bold=True)  # below the route, where the line above is too short for it
        self.line = Line(theme)
        self._row = QHBoxLayout(self)
        left, right = QVBoxLayout(), QVBoxLayout()
        for column, widgets in ((left, (self.name, self.under)), (right, (self.times, self.caution))):
            column.setSpacing(theme.px(2))
            column.addStretch()
            for widget in widgets:
                column.addWidget(widget)
            column.addStretch()
        self.shelf = button("Shelf", "Show all jobs, Ctrl+L", name="quiet")
        self.shelf.hide()
        self._row.addWidget(self.shelf)
        self._row.addLayout(left, 4)
        self._row.addWidget(self.line, 5)
        self._row.addLayout(right, 4)
        self._asked: tuple[object, ...] = ()
        self._stands: Mapping[Stop, Progress] = {}
        self._wire()
        self.resize_to_theme()

    def _wire(self) -> None:
        self.line.chosen.connect(self.chosen)
        self.shelf.clicked.connect(self.shelfAsked)
        self._in_hand.changed.connect(self.show_job)
        self._place.changed.connect(self.show_job)
        self._clock.ticked.connect(self.show_times)
        self._theme.changed.connect(self.resize_to_theme)

    def resize_to_theme(self) -> None:
        """Take the height of the text size in force."""
        self.setFixedHeight(self._theme.px(66))
        self._row.setContentsMargins(self._theme.px(16), 0, self._theme.px(16), 0)
        self.show_job()

    def show_job(self) -> None:
        """Show the job in hand."""
        job, pack = self._in_hand.job, self._in_hand.pack
        self.line.setVisible(job is not None)
        if job is None or pack is None:
            self.name.say("Candor")
            self.under.say("a bench notebook that reckons")
        else:
            said = [f"no. {job.serial}" if job.serial else "no serial number yet"]
            step = self._place.step
            if step is not None and self._place.stop == "calibrate":
                said.append(step.phase)
            said += filter(None, [said_kind(pack.kind)])
            self.name.say(job.name)
            self.under.say(" · ".join(said))
        states = self._progress()
        for number, station in enumerate(self.line.stations, 1):
            station.setVisible(station.stop in self._place.stops)
            station.show_state(states.get(station.stop, Progress()), station.stop == self._place.stop, number)
        self.line.update()
        self.show_times()

    def _progress(self) -> Mapping[Stop, Progress]:
        """How each stop stands; walking along the steps alone changes nothing of it."""
        job, pack, found = self._in_hand.job, self._in_hand.pack, self._in_hand.found
        if job is None or pack is None or found is None:
            self.nextKnown.emit("", "")
            return {}
        now = self._clock.now()
        asked = (job, pack, found, self._in_hand.parts(), now.replace(second=0, microsecond=0))
        if len(asked) != len(self._asked) or asked[4] != self._asked[4] or not all(map(is_, asked[:4], self._asked)):
            self._asked = asked
            self._stands = progress(job=job, pack=pack, parts=asked[3], found=found, now=now)
            deed = next_deed(self._stands)
            self.nextKnown.emit(deed.stop, say_next(deed))
        return self._stands

    def show_times(self) -> None:
        """Show timers, line volts and the caution of the step in hand."""
        said = []
        for name, timer in self._shelf.running_timers()[:2]:
            left = round(timer.left(self._clock.now()))
            own = self._in_hand.job is not None and timer.entry.job == self._in_hand.job.id
            said.append(f"{countdown(left)} {timer.label if own else name}")
        job = self._in_hand.job
        if job is not None:
            for which, unit in (("line_volts", "V line"), ("celsius", "°C")):
                if which in job.calibrate.conditions:
                    said.append(f"{trimmed(job.calibrate.conditions[which].body.value)} {unit}")
        self.times.say("   ".join(said))
        self.caution.say(
            caution_in_force(
                job, self._in_hand.pack, stop=self._place.stop, step=self._place.step, parts=self._in_hand.parts(),
                on_the_clips=self._live.caution(),
            )
        )  # fmt: skip
        self._show_whole()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._show_whole()

    def _show_whole(self) -> None:
        """A caution is never cut off: what the line has no room for stands below, wrapped."""
        self.layout().activate()  # type: ignore[union-attr]
        words = self.caution.text() if self.caution.is_cut else ""
        self.whole.say(words if words != self._live.caution() else "")  # what is live has a strip of its own
