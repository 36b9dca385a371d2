"""Power from across the bench: the state, every rail large between band and cut line, and the alarm filling the screen."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from candor.core.quantities.show import countdown, trimmed
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.live_now import LiveNow
from candor.desktop.bench.meters_in_hand import PowerMeters
from candor.desktop.frame.theme import Theme, label
from candor.desktop.stops.power.powering_up import Going
from candor.desktop.stops.power.strips import Strips
from candor.desktop.widgets.caution import Caution
from candor.desktop.widgets.livestrip import LiveStrip
from candor.desktop.widgets.warning import WarningStrip
from candor.words.power_words import say_watched

AFAR = 1.6  # times the text size of the bench, at 1280 x 800
PEDAL_KEYS = (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_PageDown, Qt.Key.Key_F13)


class PowerAfar(QWidget):
    """The way up for a hand on the plug.

    Signals
    -------
    left()
        Back to the bench (Esc or F11).
    """

    left = Signal()

    def __init__(
        self, theme: Theme, going: Going, *, in_hand: JobInHand, clock: Clock, meters: PowerMeters, live_now: LiveNow,
    ) -> None:  # fmt: skip
        super().__init__()
        self.setObjectName("page")
        self._shared, self._going, self._in_hand, self._live_now = theme, going, in_hand, live_now
        # Its own size: it fills whatever screen there is, whatever the text size on the bench.
        self._theme = theme = Theme(theme.mode, AFAR)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Power, arm's length")
        self.top = label("", "soft")
        self.alarm = label("", "arm-hand", bold=True, tint="brick")
        self.alarm_words = label("", "arm-title", tint="brick")
        self.title = label("", "arm-title", bold=True)
        self.time = label("", "text")
        self.strips = Strips(theme, high=64)
        self.events = label("", "text")
        self.caution = Caution(theme, bold=True)
        self.warning, self.live = WarningStrip(theme), LiveStrip(theme)
        self.keys = label(
            "pedal or Space: the caution is read, then the next state; where it says plug out: it is out     Esc back",
            "soft",
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(20), theme.px(14), theme.px(20), theme.px(14))
        column.setSpacing(theme.px(6))
        for widget in (
            self.top,
            self.live,
            self.alarm,
            self.alarm_words,
            self.title,
            self.time,
            self.strips,
            self.events,
            self.caution,
        ):
            column.addWidget(widget)
        column.addStretch()
        column.addWidget(self.warning)
        column.addWidget(self.keys)
        in_hand.changed.connect(self.show_job)
        clock.ticked.connect(self.show_job)
        meters.changed.connect(self.show_job)
        self._shared.changed.connect(self._dress)
        self._dress()

    def _dress(self) -> None:
        """Scale everything with the window, as designed at 1280 x 800."""
        self._theme.mode = self._shared.mode
        self._theme.scale = max(AFAR * min(self.width() / 1280, self.height() / 800), 0.5)
        self._theme.dress(self)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._dress()

    def show_job(self) -> None:
        """Show the state in hand; quietly nothing while the bench is looked at."""
        job, way, step = self._in_hand.job, self._going.way(), self._going.step()
        if not self.isVisible() or job is None or way is None or step is None:
            return
        self.top.setText(f"{job.name} · power")
        cut = way.cut
        self.alarm.setText("Plug out" if cut is not None else "")
        self.alarm.setVisible(cut is not None)
        self.alarm_words.setText(say_watched(cut) if cut is not None else "")
        self.alarm_words.setVisible(cut is not None)
        # Under alarm nothing else stands there: what to do is whole at every size.
        for widget in (self.title, self.time, self.events, self.warning):
            widget.setVisible(cut is None and (widget is not self.warning or bool(self.warning.words.text())))
        if way.step is None:
            self.title.setText(
                "The plug is out" if job.power.out else f"First: {step.title}, line {trimmed(step.line_volts)} V"
            )
            self.time.setText("; ".join(f"set {words}" for words in step.settings))
        else:
            self.title.setText(f"{way.step.title}, line {trimmed(way.step.line_volts)} V")
            left = way.step.hold_s - way.since_s
            rest = f", {countdown(left)} to go" if left > 0 else f"; then {way.step.then}" if way.step.then else ""
            self.time.setText(f"since {countdown(way.since_s)}{rest}")
        self.caution.say(self._going.asks(self._going.next_step()) if cut is None else "")
        strips = self._going.strips_of(way)
        self.strips.show_strips(way.step, strips, way.since_s)
        self.strips.setVisible(bool(strips) and cut is None)
        self.events.setText(" · ".join(f"{e.words} {e.state}" for e in way.events))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        stops = [thing.stop for thing in self._live_now.things() if thing.deed]
        if key == Qt.Key.Key_Escape and stops:
            for stop in stops:
                stop()
        elif key in (Qt.Key.Key_Escape, Qt.Key.Key_F11):
            self.left.emit()
        elif key in PEDAL_KEYS and not event.isAutoRepeat():
            self._going.press()
            self.show_job()
        else:
            super().keyPressEvent(event)
