"""The views for a hand that holds a probe or a plug: they fill the screen, each made when it is first asked for."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Protocol

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QStackedWidget, QWidget

from candor.core.severity import Severity
from candor.desktop.frame.asking import asked

if TYPE_CHECKING:  # made when they are first asked for
    from candor.desktop.bench.bench import Bench
    from candor.desktop.bench.live_now import LiveThing
    from candor.desktop.frame.jotbar import JotBar
    from candor.desktop.frame.window_layout import Table
    from candor.desktop.stops.calibrate.armslength import ArmsLength
    from candor.desktop.stops.power.afar import PowerAfar
    from candor.desktop.stops.power.power_page import PowerPage


class Bearer(Protocol):
    """The window that shows them."""

    bench: Bench
    views: QStackedWidget
    table: Table
    jot: JotBar

    @property
    def power(self) -> PowerPage: ...

    def show_stop(self) -> None: ...

    def windowState(self) -> Qt.WindowState: ...

    def setWindowState(self, state: Qt.WindowState) -> None: ...


class Afar:
    """The views from across the bench, of one window."""

    def __init__(self, window: Bearer, given: Mapping[str, object]) -> None:
        self._window, self._given = window, given
        self._calibrate: ArmsLength | None = None
        self._power: PowerAfar | None = None

    @property
    def calibrate(self) -> ArmsLength:
        """The step in hand, filling the screen."""
        if self._calibrate is None:
            from candor.desktop.stops.calibrate.armslength import ArmsLength

            self._calibrate = ArmsLength(**asked(ArmsLength, self._given))
            self._calibrate.left.connect(self.toggle)
            self._join(self._calibrate)
        return self._calibrate

    @property
    def power(self) -> PowerAfar:
        """The way up, filling the screen."""
        if self._power is None:
            from candor.desktop.stops.power.afar import PowerAfar

            self._power = PowerAfar(going=self._window.power.going, **asked(PowerAfar, self._given))
            self._power.left.connect(self.toggle)
            self._join(self._power)
        return self._power

    def toggle(self) -> None:
        """Fill the screen with what is in hand, or come back to the bench."""
        window, bench = self._window, self._window.bench
        if window.views.currentWidget() is not window.table:
            window.views.setCurrentWidget(window.table)
            window.setWindowState(window.windowState() & ~Qt.WindowState.WindowFullScreen)
            window.show_stop()
        elif bench.in_hand.job is not None and bench.place.stop == "power":
            self._fill(self.power)
            self.power.show_job()
        elif bench.in_hand.job is not None and "calibrate" in bench.place.stops:
            bench.place.go("calibrate")
            if bench.place.step is None:
                window.show_stop()
                window.jot.tell("Which range? Add the range first. Example: range 30 V 30 div 3%fs", Severity.ASK)
                return
            self._fill(self.calibrate)
            self.calibrate.show_hand()

    def _fill(self, view: QWidget) -> None:
        self._window.views.setCurrentWidget(view)
        self._window.setWindowState(self._window.windowState() | Qt.WindowState.WindowFullScreen)
        view.setFocus()

    def _join(self, view: ArmsLength | PowerAfar) -> None:
        view.warning.understood.connect(self._window.bench.voice.understood)
        self.show_warnings()
        self.show_live(self._window.bench.live_now.things())
        self._window.views.addWidget(view)

    def show_warnings(self) -> None:
        """Show there too what warns."""
        for view in (self._calibrate, self._power):
            if view is not None:
                view.warning.show_warnings(self._window.bench.voice.warnings)

    def show_live(self, things: Sequence[LiveThing]) -> None:
        """Show there too what is live."""
        for view in (self._calibrate, self._power):
            if view is not None:
                view.live.show_things(things)
