"""The reference on a link: a meter that is read, a source that is applied by a deed of its own; neither freezes the window."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import IO, TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.reading.repeated import Captured
from candor.core.severity import Severity
from candor.desktop.bench.live_in_hand import Write
from candor.desktop.bench.voice import Voice
from candor.desktop.widgets.worker import Work
from candor.notebook.power.left_on import may_be_on, source_file_name
from candor.notebook.runs.run_files import hold
from candor.notebook.store import Notebook
from candor.sitting.commands import live_commands

if TYPE_CHECKING:  # loaded when a standard on a link is used: the window is up before
    from candor.links.held_source import HeldSource, SourceState
    from candor.links.simulated_standards import SimulatedStandards

SIMULATED = "simulated"
POLL_MS = 50
TOLD_EACH_S = 0.25  # how often the volts of a ramp are told; a change of what it is at is told at once


@dataclass(frozen=True)
class _Applied:
    """What a source on a link was told last."""

    link: str
    value: float
    unit: str


class Capture(QObject):
    """One meter or source on a link, for the point in hand.

    Signals
    -------
    captured(object)
        What the meter showed, a Captured.
    applied(float)
        What the source was ramped to and stands at.
    changed()
        The source stands elsewhere, goes off, or is off.
    began(), ended()
        The meter is being read; it is not any more, whatever came of it.
    """

    captured = Signal(object)
    applied = Signal(float)
    changed = Signal()
    began = Signal()
    ended = Signal()

    def __init__(self, notebook: Notebook, voice: Voice, write: Write) -> None:
        super().__init__()
        self._notebook, self._voice, self._write = notebook, voice, write
        self._work = Work(self)
        self._work.answered.connect(self._answer)
        self._work.failed.connect(self._fail)
        self._simulated: SimulatedStandards | None = None
        self._source: HeldSource | None = None
        self._held: IO[bytes] | None = None
        self._on: _Applied | None = None
        self._job = ""
        self._seen: SourceState | None = None
        self._told_at = 0.0
        self._warned = ""
        self.running = False
        self._timer = QTimer(self)
        self._timer.setInterval(POLL_MS)
        self._timer.timeout.connect(self._poll)

    # --- a meter --------------------------------------------------------------------------------------

    def read(self, link: str, point: TestPoint, expected: float, unit: str = "") -> None:
        """Read the meter on a link until it stands still, and several times more; the answer comes by itself."""
        bench = self._bench(expected) if link == SIMULATED else None

        def work(stopped: Callable[[], bool]) -> Captured:
            from candor.links.linked_reference import read_settled

            return read_settled(bench.meter if bench is not None else link, stopped, unit=unit)

        self.running = True
        self.began.emit()
        self._voice.say(
            f"Reading the reference for {point.name}; it is taken once it stands still. Esc gives it up.",
            Severity.NOTE,
        )
        self._work.start(work)

    def give_up(self) -> None:
        """Stop what is being read, and switch the source off; nothing is written of a reading."""
        if self.running:
            self._work.cancel()
            self.running = False
            self._voice.say("The reading was given up; nothing was written.", Severity.NOTE)
            self.ended.emit()
        self.off()

    # --- a source -------------------------------------------------------------------------------------

    @property
    def live(self) -> bool:
        """Whether a source was switched on here and has not said since that it is at zero."""
        return self._on is not None

    @property
    def source(self) -> SourceState | None:
        """How the source stands; None where none was switched on."""
        return self._seen if self._on is not None else None

    @property
    def stands_at(self) -> float | None:
        """What the source stands at, by its own answer; None where it does not stand at anything."""
        state = self.source
        return state.volts if state is not None and state.phase == "standing" and not state.fault else None

    @property
    def words(self) -> str:
        """How the source stands, in a sentence; empty where none is on."""
        state, on = self.source, self._on
        if state is None or on is None:
            return ""
        volts = engineering(abs(state.volts), on.unit, 4)
        said = {
            "ramping": f"Source going to {engineering(on.value, on.unit, 4)}, up to {volts} on it now",
            "standing": f"Source on: {engineering(state.volts, on.unit, 4)}",
            "going off": f"Source going off, up to {volts} on it",
            "unknown": f"The source may still be on, at up to {volts}: switch it off by hand",
        }
        return said.get(state.phase, "")

    def apply(self, link: str, value: float, most: float, unit: str = "V", point: str = "", job: str = "") -> bool:
        """Ramp the source on a link to a value; it stays there until it is taken off. False, with a sentence, where it is not done.

        That it is on is on disk before it is told.
        """
        from candor.links.held_source import HeldSource

        if self._on is not None and self._on.link != link:
            self._voice.refuse(f"{self.words}. Switch it off first (Esc).")
            return False
        simulated = link == SIMULATED
        name = source_file_name(link)
        if self._held is None:
            try:
                self._held = hold(self._notebook.run_folder / name)
            except CandorError:
                self._voice.refuse(f"Another window drives the source at {link}. Nothing was applied.")
                return False
        applying = live_commands.apply_source(link, value, unit, point=point, file=name, simulated=simulated)
        if self._write(self._job if self._on is not None else job, applying) is None:
            if self._on is None:
                self._let_go()
            return False
        if self._on is None:
            self._job = job
        self._on = _Applied(link, value, unit)
        try:
            if self._source is None:
                bench = self._bench(None) if simulated else None
                self._source = HeldSource(bench.source if bench is not None else link)
        except CandorError as error:  # an address that cannot be read: no word went out
            self._voice.refuse(error)
            self._release("read back")
            return False
        self._source.apply(value, most)
        self._seen = self._source.state()
        self._voice.say("The source is ramping up. Press Esc to bring it to zero.", Severity.NOTE)
        self._timer.start()
        self.changed.emit()
        return True

    def off(self) -> None:
        """Switch the source off: at once, and before anything that was asked of it."""
        if self._source is not None:
            self._source.off()
            self._poll()

    def close(self, timeout_s: float = 12.0) -> str:
        """Switch the source off, wait for its answer, let go of every link; return what must be known, empty where nothing."""
        source, warning = self._source, ""
        if source is not None:
            source.off()  # before anything is waited for
        self._work.finish()
        self._timer.stop()
        if source is not None and self._on is not None:
            state = source.close(timeout_s)
            if state.may_be_on:
                warning = may_be_on(self._on.link, state.volts or self._on.value, self._on.unit)
                self._let_go()  # it stands in the notebook as on: who opens it next is told
            else:
                self._release("read back")
        if self._simulated is not None:
            self._simulated.close()
            self._simulated = None
        return warning

    def _poll(self) -> None:
        source, before = self._source, self._seen
        if source is None or self._on is None:
            return
        state = source.state()
        if state == before:
            return
        same = before is not None and (before.phase, before.fault) == (state.phase, state.fault)
        if same and time.monotonic() - self._told_at < TOLD_EACH_S:
            return  # a step of a ramp: what is drawn for it would keep the link waiting
        self._seen, self._told_at = state, time.monotonic()
        if state.phase == "off":
            self._at_zero(state.fault)
        elif state.phase == "unknown" and not self._warned:
            on = self._on
            self._warned = may_be_on(on.link, state.volts or on.value, on.unit)
            self._voice.warn(f"{self._warned} {state.fault}".strip(), self._understood)
        elif state.phase == "standing" and (before is None or before.phase != "standing"):
            self.applied.emit(state.volts)
        elif state.fault and (before is None or before.fault != state.fault):
            self._voice.refuse(state.fault)
        self.changed.emit()

    def _at_zero(self, fault: str) -> None:
        for warning in [w for w in self._voice.warnings if self._warned and w.startswith(self._warned)]:
            self._voice.take_back(warning)
        self._release("read back")
        said = "The source is at zero; it said so when asked."
        self._voice.say(f"{fault} {said}".strip(), Severity.REFUSED if fault else Severity.DONE)

    def _understood(self) -> None:
        """Somebody knows that it may be on: it stands in the notebook, and is no longer asked here."""
        if self._on is not None and self._seen is not None and self._seen.phase == "unknown":
            self._release("understood")
            self.changed.emit()

    def _release(self, how: str) -> None:
        on, source, self._source, self._warned = self._on, self._source, None, ""
        self._on, self._seen = None, None
        self._timer.stop()
        if on is not None:
            self._write(self._job, live_commands.release_source(on.link, how))
        if source is not None:
            source.close(0.0)  # told to go to zero again, where it still hears; its thread ends by itself
        self._let_go()

    def _let_go(self) -> None:
        self._on, self._seen, self._source = None, None, None
        held, self._held = self._held, None
        if held is not None:
            held.close()  # only now may another window drive it

    # --- what both have -------------------------------------------------------------------------------

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
        self.ended.emit()

    def _fail(self, sentence: str) -> None:
        self.running = False
        self._voice.refuse(sentence)
        self.off()
        self.ended.emit()
