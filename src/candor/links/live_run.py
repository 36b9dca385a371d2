"""A live run, in a thread of its own: whatever ends it, the source goes to zero first and the readings are kept.

However it ends, by its plan, by hand, by a dead link, a full disk or an error nobody thought of, the same follows: the source is
told to go to zero and off, each command by itself and where it fails by a link opened anew; then what is on the clips is
measured. What was not measured safe is warned of.
"""

from __future__ import annotations

import math
import threading
import time
from collections.abc import Callable, Mapping
from dataclasses import field, replace
from pathlib import Path
from typing import Generic, Literal, TypeVar

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.live import Reading, Watch
from candor.core.power.safe import WAIT_S
from candor.core.quantities.show import in_unit
from candor.core.worded import worded
from candor.links.link_errors import LinkError, StoppedError
from candor.links.recorder import Recorder
from candor.links.rig import Rig

S = TypeVar("S")
RunPhase = Literal["connecting", "running", "discharging", "ended"]
SWITCH_OFF = worded("links.its_source_may_still_be_on")
NOT_SAFE = worded("links.not_measured_safe_discharge_it_and")
UNFORESEEN = worded("links.an_error_that_was_not_foreseen")
_DISCHARGE_AT_MOST_S = 600.0
_NO_READING_S = 5.0  # by the program's own clock: after so long without a reading that counts, the link is dead
STILL_SAFE_S = WAIT_S  # by the program's own clock: dielectric absorption brings volts back
CLOCKS_AGREE = 0.1  # of the time that went by, between the meter's clock and the program's own
_FAST_SLACK_S, _SLOW_SLACK_S = 0.3, 2.0  # a late answer makes the meter's clock look slow, never fast
_UNPROVED_S = 10.0  # that a meter which was not seen to follow is still read after the source is off
_LATE_S = 5.0  # a plan's longest time may be over by so much (and 5 %) on the program's own clock


@dataclass(frozen=True)
class Status(Generic[S]):
    """How a run stands.

    Attributes
    ----------
    phase : RunPhase
    last : Reading or None
        The last reading; None before there is one.
    level : float
        What the source is asked for, SI.
    seen : S or None
        What its watch has seen; None before it has seen anything.
    why : str
        Why it is over.
    outcome : str
        What it came to, in the words of its kind.
    safe : bool
        What is on the clips was measured safe, twice, after the source was off.
    warning : str
        What must be known before anybody touches: the source may be on, or the part is not measured safe.
    readings : int
    traits : mapping of str to float
        What the rig says of itself.
    """

    phase: RunPhase
    last: Reading | None = None
    level: float = 0.0
    seen: S | None = None
    why: str = ""
    outcome: str = ""
    safe: bool = False
    warning: str = ""
    readings: int = 0
    traits: Mapping[str, float] = field(default_factory=dict)


class LiveRun(Generic[S]):
    """One run.

    Parameters
    ----------
    watch : Watch
        Says what comes next, and what the readings say.
    connect : callable
        Opens the rig; called in the run's thread.
    file : Path
        Where every reading goes as CSV, written through once a second.
    per_second : float
        Readings a second.
    rate : float
        How much faster than the clock everything is timed: 1 but on the simulated bench.
    """

    def __init__(
        self, watch: Watch[S], connect: Callable[[], Rig], file: Path, per_second: float = 20.0, rate: float = 1.0
    ) -> None:
        self.watch, self.file, self._rate = watch, file, rate
        self._connect, self._interval = connect, 1 / per_second
        self._cancelled, self._hurry = threading.Event(), threading.Event()
        self._lock = threading.Lock()
        self._status: Status[S] = Status("connecting")
        self._thread = threading.Thread(target=self._run, name="candor-live-run", daemon=True)

    def start(self) -> None:
        """Begin."""
        self._thread.start()

    def status(self) -> Status[S]:
        """Return how it stands."""
        with self._lock:
            return self._status

    def cancel(self) -> None:
        """End it: source to zero, then discharge and measure."""
        self._cancelled.set()

    def close(self, timeout_s: float = 5.0) -> Status[S]:
        """End it now, as the window closes: source to zero, one last reading, no wait for the discharge."""
        self._hurry.set()
        self._cancelled.set()
        if self._thread.ident is not None:
            self._thread.join(timeout_s)
        status = self.status()
        return replace(status, safe=False, warning=SWITCH_OFF) if self.alive else status

    @property
    def alive(self) -> bool:
        """Whether its thread runs."""
        return self._thread.is_alive()

    # --- in the thread ----------------------------------------------------------------------------------

    def _show(self, **changes: object) -> None:
        with self._lock:
            self._status = Status(**{**self._status.__dict__, **changes})

    def _run(self) -> None:
        self._show(why=UNFORESEEN)  # what stands if nothing below gets to say better
        try:
            self._from_start_to_end()
        finally:
            now = self._status
            if now.phase != "ended":
                unknown = now.phase != "connecting" and not now.safe and not now.warning
                self._show(phase="ended", warning=SWITCH_OFF if unknown else now.warning)

    def _from_start_to_end(self) -> None:
        try:
            rig = self._connect()
        except CandorError as error:
            self._show(phase="ended", why=str(error))
            return
        rig.stopped = self._cancelled.is_set
        with rig:
            self._show(phase="running", traits=rig.traits)
            self.watch.begin(rig.traits)
            guard = _Guard(self.watch.longest_s, self._rate)
            try:
                self._measure(rig, guard)
            except StoppedError:
                self._show(why="stopped by hand", outcome="stopped")
            except LinkError as error:
                self._show(why=str(error))
            except OSError as error:
                self._show(why=worded("links.the_readings_could_not_be_written", strerror=error.strerror))
            finally:
                self._make_safe(rig, guard)
                self._show(seen=self.watch.seen())
            self._show(phase="ended")

    def _measure(self, rig: Rig, guard: _Guard) -> None:
        with Recorder(self.file, self.watch.channels, self.watch.level_name) as recorder:
            self._first(rig, guard)  # it answers and its clock goes, before the source is on
            if rig.source is not None:
                rig.source.set_level(self.watch.level)
                rig.source.switch(True)
            # Time counts from the first reading with the source on: what lies before it is not a part of the run.
            self._follow(rig, guard, recorder, self._first(rig, guard).seconds)

    def _first(self, rig: Rig, guard: _Guard) -> Reading:
        while (reading := guard.take(rig)) is None:
            self._pause(0.0)
        return reading

    def _follow(self, rig: Rig, guard: _Guard, recorder: Recorder, started: float) -> None:
        seen_at, readings, level, next_at = 0.0, 0, self.watch.level, time.monotonic()
        while not self._cancelled.is_set():
            read = guard.take(rig)
            now = time.monotonic()
            next_at = max(next_at + self._interval, now)
            if read is None:
                self._pause(next_at)
                continue
            reading = Reading(read.seconds - started, read.values)
            readings += 1
            recorder.keep(reading, level)
            advice = self.watch.take(reading)
            self._show(last=reading, level=level, readings=readings)
            if now - seen_at >= 0.5:  # a fit costs a millisecond; twice a second is as fast as anybody reads
                seen_at = now
                self._show(seen=self.watch.seen())
            if advice.stop or guard.over:
                self._show(why=advice.stop or guard.over, outcome=advice.outcome or "stopped")
                return
            if advice.level != level:
                level = advice.level
                if rig.source is not None:
                    rig.source.set_level(level)
            self._pause(next_at)
        self._show(why="stopped by hand", outcome="stopped")

    def _pause(self, until: float) -> None:
        self._cancelled.wait(max(until - time.monotonic(), 0.0))

    def _make_safe(self, rig: Rig, guard: _Guard) -> None:
        """Switch off and measure, by the link there is and, where that fails, by one opened anew."""
        self._show(phase="discharging", level=0.0)
        paths: tuple[Callable[[], Rig], ...] = (lambda: rig, self._connect)
        for path in paths:
            try:
                with path() as link:
                    link.stopped = lambda: False
                    _switch_off(link)
                    guard.switched_off()
                    last = self._discharge(link, guard)
            except CandorError as error:
                if self._status.why == UNFORESEEN:
                    self._show(why=str(error))
            else:
                break
        else:
            self._show(safe=False, warning=SWITCH_OFF)
            return
        if not self._status.safe:
            stood = worded("links.after_the_source_was_off", stood=self.watch.stood(last), not_safe=NOT_SAFE)
            self._show(warning=" ".join(filter(None, (stood, self.watch.unproved, guard.clock_fault))))

    def _discharge(self, rig: Rig, guard: _Guard) -> Reading | None:
        """Read until it is safe and still is a minute later, when what a capacitor gives back has come; return the last reading.

        None where none counted.
        """
        begun, last, safe, since = time.monotonic(), None, 0, 0.0
        while not self._status.safe:
            believed = not (self.watch.unproved or guard.clock_fault)
            if time.monotonic() - begun > (_DISCHARGE_AT_MOST_S if believed else _UNPROVED_S):
                break
            # One reading that is not safe is answer enough for a window that closes; a safe one needs its second.
            known = last is not None and safe == 0
            if self._hurry.is_set() and (known or time.monotonic() - begun > 1.0):
                break
            read = guard.take_after_off(rig)
            if read is not None:
                now = time.monotonic() * self._rate
                safe = safe + 1 if believed and self.watch.is_safe(read) else 0
                since = now if safe == 1 else since
                # The run's time stands still from here: what is read now belongs to its end.
                last = Reading(self._status.last.seconds if self._status.last else 0.0, read.values)
                self._show(last=last, safe=safe >= 2 and now - since >= STILL_SAFE_S)
            self._hurry.wait(self._interval)
        return last


class _Guard:
    """Which answers of a rig are readings: its clock must go on as the program's own does."""

    def __init__(self, most_s: float, rate: float) -> None:
        self._begun = self._counted = time.monotonic()
        self._rate, self._most_s = rate, 1.05 * most_s + _LATE_S * rate
        self._seconds = -math.inf  # of the last reading that counted, the meters' own
        self._off_at = math.inf  # of the meters' clock, the latest that the off-command can have come
        self._first: tuple[float, float] | None = (
            None  # reading that counted: the meters' clock and the program's own
        )
        self.clock_fault = ""  # why its clock is not believed

    @property
    def over(self) -> str:
        """Why a run is over by the program's own clock, or nothing."""
        if (time.monotonic() - self._begun) * self._rate <= self._most_s:
            return ""
        return worded("links.the_longest_time_is_over_by")

    def take(self, rig: Rig) -> Reading | None:
        """Ask for a reading; None where it is none. Its seconds are never ahead of the program's own clock.

        Raises
        ------
        LinkError
            Where there was none for _NO_READING_S, or where its clock goes too fast or too slow.
        """
        asked = time.monotonic()
        reading = rig.read()
        if reading is not None and reading.seconds > self._seconds:
            self._seconds, self._counted = reading.seconds, asked
            return self._timed(reading)
        if time.monotonic() - self._counted > _NO_READING_S:
            why = (
                worded("links.overload_or_not_a_number")
                if reading is None
                else worded("links.its_clock_stands_still_or_goes")
            )
            raise LinkError(
                worded("links.for_s_the_tester_gave_no", no_reading_s=_NO_READING_S, why=why), expected=why
            )
        return None

    def _timed(self, reading: Reading) -> Reading:
        """Hold the meters' clock to the program's own: a fast one would cut the dwell and the minute after it short."""
        now = time.monotonic() * self._rate
        if self._first is None:
            self._first = reading.seconds, now
        theirs, ours = reading.seconds - self._first[0], now - self._first[1]
        fast = theirs > (1 + CLOCKS_AGREE) * ours + _FAST_SLACK_S * self._rate
        slow = theirs < (1 - CLOCKS_AGREE) * ours - _SLOW_SLACK_S * self._rate
        if (fast or slow) and not self.clock_fault:  # said once; what is left on the part is still read
            which = "fast" if fast else "slow"
            self.clock_fault = worded("links.the_tester_s_clock_is_too", which=which, theirs=theirs, ours=ours)
            raise LinkError(
                worded("links.times_and_dwells_would_be_wrong", clock_fault=self.clock_fault),
                value=in_unit(theirs, "s", 3),
                expected=in_unit(ours, "s", 3),
            )
        return Reading(self._first[0] + min(theirs, ours), reading.values)

    def switched_off(self) -> None:
        """Note that the off-command went out now."""
        now = time.monotonic()
        self._off_at = self._seconds + now - self._counted
        self._counted = now

    def take_after_off(self, rig: Rig) -> Reading | None:
        """As `take`, and None where the reading may be from before the off-command, sent late."""
        reading = self.take(rig)
        return reading if reading is not None and self._seconds > self._off_at else None


def _switch_off(rig: Rig) -> None:
    """Tell the source to go to zero and off: each is told, also where the other could not be."""
    if rig.source is None:
        return
    # Zero before off: a source whose output relay sticks is then harmless all the same.
    try:
        rig.source.set_level(0.0)
    finally:
        rig.source.switch(False)
