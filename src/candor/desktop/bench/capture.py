"""The reference on a link: captured when the reading is taken, or set and ramped; it never freezes the window."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from candor.core.calibration.point import TestPoint
from candor.core.reading.repeated import Captured
from candor.core.severity import Severity
from candor.desktop.bench.voice import Voice
from candor.desktop.widgets.worker import Work

if TYPE_CHECKING:  # loaded when a standard on a link is used: the window is up before
    from candor.links.simulated_standards import SimulatedStandards
    from candor.links.standards import RampedSource

SIMULATED = "simulated"


class Capture(QObject):
    """One meter or source on a link, for the point in hand.

    Signals
    -------
    captured(object)
        What the meter showed, a Captured.
    applied(float)
        What the source was ramped to and stands at.
    began(), ended()
        It is being read; it is not any more, whatever came of it.
    """

    captured = Signal(object)
    applied = Signal(float)
    began = Signal()
    ended = Signal()

    def __init__(self, voice: Voice) -> None:
        super().__init__()
        self._voice = voice
        self._work = Work(self)
        self._work.answered.connect(self._answer)
        self._work.failed.connect(self._fail)
        self._simulated: SimulatedStandards | None = None
        self._source: RampedSource | None = None
        self.running = False

    def read(self, link: str, point: TestPoint, expected: float) -> None:
        """Read the meter on a link until it stands still, and several times more; the answer comes by itself."""
        bench = self._bench(expected) if link == SIMULATED else None

        def work(stopped: Callable[[], bool]) -> Captured:
            from candor.links.standards import read_settled

            return read_settled(bench.meter if bench is not None else link, stopped)

        self.running = True
        self.began.emit()
        self._voice.say(
            f"Reading the reference for {point.name}; it is taken once it stands still. Esc gives it up.",
            Severity.NOTE,
        )
        self._work.start(work)

    def apply(self, link: str, value: float, most: float) -> None:
        """Ramp the source on a link to a value; it stays there until `rest`, and goes to zero first on whatever goes wrong."""
        bench = self._bench(None) if link == SIMULATED else None

        def work(stopped: Callable[[], bool]) -> float:
            from candor.links.standards import RampedSource

            if self._source is None:
                self._source = RampedSource(bench.source if bench is not None else link, most, stopped)
            self._source.watch(stopped)
            self._source.set(value)
            return value

        self.running = True
        self.began.emit()
        self._voice.say("The source is being ramped. Esc takes it to zero.", Severity.NOTE)
        self._work.start(work)

    def rest(self) -> None:
        """Take the source to zero and let go of it: the step is left, or the window is closed."""
        source, self._source = self._source, None
        if source is not None:
            self._work.start(lambda _: source.close())

    def give_up(self) -> None:
        """Stop what is being read or ramped; a source goes to zero, nothing is written."""
        if self.running:
            self._work.cancel()
            self.running = False
            self._voice.say("Given up; nothing was written, and a source is at zero.", Severity.NOTE)
            self.ended.emit()
        self.rest()

    def close(self) -> None:
        """Take the source to zero, then let go of every link."""
        source, self._source = self._source, None
        self._work.finish()
        if source is not None:
            source.close()
        if self._simulated is not None:
            self._simulated.close()
            self._simulated = None

    def _bench(self, expected: float | None) -> SimulatedStandards:
        from candor.links.simulated_standards import SimulatedStandards

        if self._simulated is None:
            self._simulated = SimulatedStandards(expected or 0.0)
        if expected is not None and self._source is None:
            self._simulated.apply(expected)  # set by hand, on the simulated bench
        return self._simulated

    def _answer(self, answer: object) -> None:
        self.running = False
        if isinstance(answer, Captured):
            self.captured.emit(answer)
        elif isinstance(answer, float):
            self.applied.emit(answer)
        self.ended.emit()

    def _fail(self, sentence: str) -> None:
        self.running = False
        self._voice.refuse(sentence)
        self.rest()
        self.ended.emit()
