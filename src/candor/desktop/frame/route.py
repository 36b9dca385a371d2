"""The route: the stops of a job as a line with stations, timers and the caution in force."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from candor.core.parts.reasons import Action
from candor.core.quantities.show import trimmed
from candor.desktop.bench.bench import Bench
from candor.desktop.frame.theme import Theme, plain_tip
from candor.desktop.widgets.caution import CautionLine
from candor.desktop.widgets.elided import Elided
from candor.desktop.widgets.glyphs import draw_glyph
from candor.desktop.widgets.parts import button
from candor.notebook.assessment import unfinished
from candor.notebook.barriers import barrier
from candor.packs.procedure import procedure

TITLES = {"arrive": "Arrive", "parts": "Parts", "calibrate": "Calibrate", "release": "Release"}
WORDS = {"ring": "untouched", "begun": "begun", "full": "done", "barred": "barred"}


@dataclass(frozen=True)
class StationState:
    """How a stop stands: a shape, a count of what is open, and why."""

    shape: str
    count: str
    why: str


def station_states(bench: Bench) -> dict[str, StationState]:
    """Return how each stop of the job in hand stands."""
    job, pack, found = bench.job, bench.pack, bench.found
    if job is None or pack is None or found is None:
        return {stop: StationState("ring", "", "") for stop in TITLES}
    loose = [f for f in job.arrive.findings if f.open]
    walked = bool(job.arrive.findings) or len(job.stay.details) > 1
    arrive = StationState(
        "ring" if not walked else "begun" if loose else "full",
        f"{len(loose)} open" if loose else "",
        "; ".join(f.text for f in loose) or "nothing is open",
    )
    missing = unfinished(job, pack, bench.now())
    begun = bool(job.calibrate.readings or job.calibrate.done or job.calibrate.timers)
    bar = barrier(job, bench.parts())
    barred = bar.sentence if bar else ""
    needed = [s for s in procedure(pack) if s.kind == "point" and s.phase == "as found"]
    calibrate = StationState(
        "barred" if barred else "ring" if not begun else "begun" if missing else "full",
        "barred" if barred else f"{found.measured} of {len(needed)}" if begun else "",
        barred or (f"{len(missing)} steps to go" if missing else "every step is done"),
    )
    issued = bool(job.release.certificates)
    return {
        "arrive": arrive,
        "parts": _parts_state(bench),
        "calibrate": calibrate,
        "release": StationState("full" if issued else "ring", "", ""),
    }


def _parts_state(bench: Bench) -> StationState:
    parts, job = bench.parts(), bench.job
    if parts is None or job is None or not parts.lines:
        return StationState("ring", "", "no part is listed yet")
    begun = bool(job.parts.measured or job.parts.decided or job.parts.replaced or job.parts.policy_entry)
    open_ = [x for x in parts.lines if x.action is Action.CANNOT_TELL and not x.fate]
    waiting = [x for x in parts.lines if x.action is Action.REPLACE and not x.fate]
    shape = "ring" if not begun else "begun" if open_ or waiting else "full"
    count = f"{parts.known} of {len(parts.lines)}" if begun else ""
    return StationState(
        shape, count, f"{len(open_)} cannot be told yet, {len(waiting)} to replace. {parts.sample_words}".strip()
    )


class Station(QAbstractButton):
    """One stop on the line."""

    def __init__(self, theme: Theme, stop: str) -> None:
        super().__init__()
        self._theme = theme
        self._state = StationState("ring", "", "")
        self._current = False
        self.stop = stop
        self.setText(TITLES[stop])
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_state(self, state: StationState, current: bool, number: int) -> None:
        """Show how the stop stands."""
        self._state, self._current = state, current
        count = f", {state.count}" if state.count and state.count != WORDS[state.shape] else ""
        words = f"{self.text()}: {WORDS[state.shape]}{count}"
        self.setAccessibleName(words)
        self.setToolTip(plain_tip(f"{words}\n{state.why}\nCtrl+{number}".replace("\n\n", "\n")))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(92), self._theme.px(64))

    def minimumSizeHint(self) -> QSize:
        return QSize(self._theme.px(66), self._theme.px(64))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        theme, middle = self._theme, self.width() / 2
        height = theme.px(16)
        radius = theme.px(8.5 if self._current else 6.5)
        draw_glyph(painter, theme, self._state.shape, QPointF(middle, height), radius)
        painter.setFont(theme.font("text", bold=self._current))
        painter.setPen(theme.colour("ink" if self._current or self._state.shape != "ring" else "soft"))
        metrics = painter.fontMetrics()
        painter.drawText(QPointF(middle - metrics.horizontalAdvance(self.text()) / 2, theme.px(40)), self.text())
        if self.hasFocus():
            painter.setPen(QPen(theme.colour("petrol"), 1.5))
            half = metrics.horizontalAdvance(self.text()) / 2
            painter.drawLine(QPointF(middle - half, theme.px(44)), QPointF(middle + half, theme.px(44)))
        if self._state.count:
            painter.setFont(theme.font("note"))
            painter.setPen(theme.colour("brick" if self._state.shape == "barred" else "soft"))
            width = painter.fontMetrics().horizontalAdvance(self._state.count)
            painter.drawText(QPointF(middle - width / 2, theme.px(56)), self._state.count)


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
    """

    chosen = Signal(str)
    shelfAsked = Signal()

    def __init__(self, theme: Theme, bench: Bench) -> None:
        super().__init__()
        self.setObjectName("page")
        self._theme, self._bench = theme, bench
        self.name = Elided(theme, "heading", bold=True)
        self.under = Elided(theme, "soft", tint="soft")
        self.times = Elided(theme, "text", right=True)
        self.caution = CautionLine(theme)
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
        self._wire()
        self.resize_to_theme()

    def _wire(self) -> None:
        self.line.chosen.connect(self.chosen)
        self.shelf.clicked.connect(self.shelfAsked)
        self._bench.jobChanged.connect(self.show_job)
        self._bench.placeChanged.connect(self.show_job)
        self._bench.ticked.connect(self.show_times)
        self._theme.changed.connect(self.resize_to_theme)

    def resize_to_theme(self) -> None:
        """Take the height of the text size in force."""
        self.setFixedHeight(self._theme.px(66))
        self._row.setContentsMargins(self._theme.px(16), 0, self._theme.px(16), 0)
        self.show_job()

    def show_job(self) -> None:
        """Show the job in hand."""
        job, pack = self._bench.job, self._bench.pack
        self.line.setVisible(job is not None)
        if job is None or pack is None:
            self.name.say("Candor")
            self.under.say("a bench notebook that reckons")
        else:
            parts = [f"no. {job.serial}" if job.serial else "no serial number yet"]
            step = self._bench.step
            if step is not None and self._bench.stop == "calibrate":
                parts.append(step.phase)
            parts.append(pack.kind)
            self.name.say(job.name)
            self.under.say(" · ".join(parts))
        states = station_states(self._bench)
        for number, station in enumerate(self.line.stations, 1):
            station.setVisible(station.stop in self._bench.stops)
            station.show_state(states[station.stop], station.stop == self._bench.stop, number)
        self.line.update()
        self.show_times()

    def show_times(self) -> None:
        """Show timers, line volts and the caution of the step in hand."""
        parts = []
        for name, timer in self._bench.running_timers()[:2]:
            left = round(timer.left(self._bench.now()))
            own = self._bench.job is not None and timer.entry.job == self._bench.job.id
            parts.append(f"{left // 60}:{left % 60:02d} {timer.label if own else name}")
        job = self._bench.job
        if job is not None:
            for which, unit in (("line_volts", "V line"), ("celsius", "°C")):
                if which in job.calibrate.conditions:
                    parts.append(f"{trimmed(job.calibrate.conditions[which].body.value)} {unit}")
        self.times.say("   ".join(parts))
        step = self._bench.step
        words = ""
        if job is not None and job.arrive.open_hazards:
            words = f"hazard: {job.arrive.open_hazards[0].text}"
        elif job is not None and self._bench.live_caution():
            words = self._bench.live_caution()
        elif step is not None and self._bench.stop == "calibrate" and step.cautions:
            words = step.cautions[0].short
        elif self._bench.stop == "parts" and (parts := self._bench.parts()) is not None and parts.sample == "bad":
            words = "no power: the sample is bad"
        elif self._bench.stop == "parts" and self._bench.pack is not None:
            words = next((c.short for c in self._bench.pack.cautions if c.level == "danger"), "")
        self.caution.say(words)
