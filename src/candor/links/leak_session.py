"""A run on the tester, in a thread of its own: whatever ends it, the source goes to zero first and the readings are kept.

However it ends, by its plan, by hand, by a dead link, a full disk or an error nobody thought of, the same follows: the source is
told to go to zero and off, each command by itself and where it fails by a link opened anew; then the part is measured. What was
not measured safe is warned of.
"""

from __future__ import annotations

import math
import os
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import IO, Literal

from candor.core.errors import CandorError
from candor.core.leakage.run import Outcome, Plan, Reckoned, Sample, Watch
from candor.core.quantities.show import trimmed
from candor.links.errors import LinkError, StoppedError
from candor.links.tester import LeakageTester

Phase = Literal["connecting", "running", "discharging", "ended"]
HEADER = "seconds,volts,amperes,source_volts\n"
SWITCH_OFF = "Its source may still be on: switch it off by hand, discharge, and measure before you touch."
NOT_SAFE = "not measured safe. Discharge it and measure before you touch."
UNFORESEEN = "an error that was not foreseen ended it; the log beside the notebook holds it"
_DISCHARGE_AT_MOST_S = 600.0
_NO_READING_S = 5.0  # by the program's own clock: after so long without a reading that counts, the link is dead
_LATE_S = 5.0  # a plan's longest time may be over by so much (and 5 %) on the program's own clock


@dataclass(frozen=True)
class Status:
    """How a run stands.

    Attributes
    ----------
    phase : Phase
    last : Sample or None
        The last reading; None before there is one.
    source_volts : float
        What the source is asked for.
    curve : tuple of Sample
        Thinned.
    reckoned : Reckoned or None
    why : str
        Why it is over.
    outcome : Outcome
    leakage, leakage_scatter : float
        A, when it ended; the second is U (k = 2) from scatter.
    leakage_volts, dwell_s : float
        What the leakage was read at.
    safe : bool
        The part was measured under the safe voltage, twice, after the source was off.
    warning : str
        What must be known before anybody touches: the source may be on, or the part is not measured safe.
    readings : int
    discharge_ohms : float
        Of the tester's own resistor.
    """

    phase: Phase
    last: Sample | None = None
    source_volts: float = 0.0
    curve: tuple[Sample, ...] = ()
    reckoned: Reckoned | None = None
    why: str = ""
    outcome: Outcome = ""
    leakage: float = 0.0
    leakage_scatter: float = 0.0
    leakage_volts: float = 0.0
    dwell_s: float = 0.0
    safe: bool = False
    warning: str = ""
    readings: int = 0
    discharge_ohms: float = 4.7e3


class LeakSession:
    """One run.

    Parameters
    ----------
    plan : Plan
        Its series resistor is replaced by what the tester says.
    connect : callable
        Opens the tester; called in the run's thread.
    file : Path
        Where every reading goes as CSV, written through once a second.
    per_second : float
        Readings a second.
    """

    def __init__(
        self, plan: Plan, connect: Callable[[], LeakageTester], file: Path, per_second: float = 20.0
    ) -> None:
        self.plan, self.file = plan, file
        self._connect, self._interval = connect, 1 / per_second
        self._cancelled, self._hurry = threading.Event(), threading.Event()
        self._lock = threading.Lock()
        self._status = Status("connecting")
        self._thread = threading.Thread(target=self._run, name="candor-leakage", daemon=True)

    def start(self) -> None:
        """Begin."""
        self._thread.start()

    def status(self) -> Status:
        """Return how it stands."""
        with self._lock:
            return self._status

    def cancel(self) -> None:
        """End it: source to zero, then discharge and measure."""
        self._cancelled.set()

    def close(self, timeout_s: float = 5.0) -> Status:
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
            tester = self._connect()
        except CandorError as error:
            self._show(phase="ended", why=str(error))
            return
        tester.stopped = self._cancelled.is_set
        with tester:
            self._show(phase="running", discharge_ohms=tester.discharge_ohms)
            watch = Watch(replace(self.plan, series_ohms=tester.series_ohms))
            guard = _Guard(self.plan.most_s)
            try:
                self._measure(tester, watch, guard)
            except StoppedError:
                self._show(why="stopped by hand", outcome="stopped")
            except LinkError as error:
                self._show(why=str(error))
            except OSError as error:
                self._show(why=f"The readings could not be written ({error.strerror}).")
            finally:
                self._make_safe(tester, guard)
                self._keep_end(watch)
            self._show(phase="ended")

    def _measure(self, tester: LeakageTester, watch: Watch, guard: _Guard) -> None:
        with self.file.open("a", encoding="ascii") as file:
            file.write(HEADER)
            self._first(tester, guard)  # it answers and its clock goes, before the source is on
            tester.set_volts(watch.volts)
            tester.switch(True)
            # Time counts from the first reading with the source on: what lies before it is no charging.
            self._follow(tester, watch, guard, file, self._first(tester, guard).seconds)

    def _first(self, tester: LeakageTester, guard: _Guard) -> Sample:
        while (sample := guard.take(tester)) is None:
            self._pause(0.0)
        return sample

    def _follow(self, tester: LeakageTester, watch: Watch, guard: _Guard, file: IO[str], started: float) -> None:
        synced, reckoned = time.monotonic(), 0.0
        readings, volts, next_at = 0, watch.volts, time.monotonic()
        while not self._cancelled.is_set():
            read = guard.take(tester)
            now = time.monotonic()
            next_at = max(next_at + self._interval, now)
            if read is None:
                self._pause(next_at)
                continue
            sample = Sample(read.seconds - started, read.volts, read.amperes)
            file.write(f"{sample.seconds:.3f},{sample.volts:.6g},{sample.amperes:.6g},{volts:.6g}\n")
            readings += 1
            advice = watch.take(sample)
            if now - synced >= 1.0:
                synced = now
                file.flush()
                os.fsync(file.fileno())
            changes: dict[str, object] = {"last": sample, "source_volts": volts, "readings": readings}
            if now - reckoned >= 0.5:
                reckoned = now
                changes |= {"reckoned": watch.reckon(), "curve": tuple(watch.curve)}
            self._show(**changes)
            if advice.stop or guard.over:
                self._show(why=advice.stop or guard.over, outcome=advice.outcome or "stopped")
                return
            if advice.volts != volts:
                volts = advice.volts
                tester.set_volts(volts)
            self._pause(next_at)
        self._show(why="stopped by hand", outcome="stopped")

    def _pause(self, until: float) -> None:
        self._cancelled.wait(max(until - time.monotonic(), 0.0))

    def _keep_end(self, watch: Watch) -> None:
        amperes, scatter = watch.leakage()
        last = watch.curve[-1] if watch.curve else Sample(0.0, 0.0, 0.0)
        still = max(last.seconds - watch.still_since, 0.0)
        self._show(
            curve=tuple(watch.curve), reckoned=watch.reckon(), leakage=amperes, leakage_scatter=scatter,
            leakage_volts=last.volts, dwell_s=still,
        )  # fmt: skip

    def _make_safe(self, tester: LeakageTester, guard: _Guard) -> None:
        """Switch off and measure the part, by the link there is and, where that fails, by one opened anew."""
        self._show(phase="discharging", source_volts=0.0)
        paths: tuple[Callable[[], LeakageTester], ...] = (lambda: tester, self._connect)
        for path in paths:
            try:
                with path() as link:
                    link.stopped = lambda: False
                    _switch_off(link)
                    guard.switched_off()
                    volts = self._discharge(link, guard)
            except CandorError as error:
                if self._status.why == UNFORESEEN:
                    self._show(why=str(error))
            else:
                break
        else:
            self._show(safe=False, warning=SWITCH_OFF)
            return
        if not self._status.safe:
            seen = "Nothing was read" if volts is None else f"{trimmed(abs(volts), 3)} V stood on the part"
            self._show(warning=f"{seen} after the source was off: {NOT_SAFE}")

    def _discharge(self, tester: LeakageTester, guard: _Guard) -> float | None:
        """Read until two readings after the source was off are safe; return the last volts, None where none counted."""
        begun, volts, safe = time.monotonic(), None, 0
        while safe < 2 and time.monotonic() - begun <= _DISCHARGE_AT_MOST_S:
            # One reading over the safe voltage is answer enough for a window that closes; a safe one needs its second.
            known = volts is not None and safe == 0
            if self._hurry.is_set() and (known or time.monotonic() - begun > 1.0):
                break
            sample = guard.take_after_off(tester)
            if sample is not None:
                volts = sample.volts
                safe = safe + 1 if abs(volts) <= self.plan.safe_volts else 0
                seconds = self._status.last.seconds if self._status.last else 0.0
                self._show(last=Sample(seconds, volts, sample.amperes), safe=safe >= 2)
            self._hurry.wait(self._interval)
        return volts


class _Guard:
    """Which answers of a tester are readings: its clock must go on, and the program's own clock watches over it."""

    def __init__(self, most_s: float) -> None:
        self._begun = self._counted = time.monotonic()
        self._most_s = 1.05 * most_s + _LATE_S
        self._seconds = -math.inf  # of the last reading that counted, the tester's own
        self._off_at = math.inf  # of the tester's clock, the latest that the off-command can have come

    @property
    def over(self) -> str:
        """Why a run is over by the program's own clock, or nothing."""
        if time.monotonic() - self._begun <= self._most_s:
            return ""
        return "the longest time is over by the program's own clock; the tester's clock is behind it"

    def take(self, tester: LeakageTester) -> Sample | None:
        """Ask for a reading; None where it is none.

        Raises
        ------
        LinkError
            Where there was none for _NO_READING_S.
        """
        asked = time.monotonic()
        sample = tester.read()
        if sample is not None and sample.seconds > self._seconds:
            self._seconds, self._counted = sample.seconds, asked
            return sample
        if time.monotonic() - self._counted > _NO_READING_S:
            why = "overload, or not a number" if sample is None else "its clock stands still or goes back"
            raise LinkError(f"For {_NO_READING_S:g} s the tester gave no reading that counts: {why}.", expected=why)
        return None

    def switched_off(self) -> None:
        """Note that the off-command went out now."""
        now = time.monotonic()
        self._off_at = self._seconds + now - self._counted
        self._counted = now

    def take_after_off(self, tester: LeakageTester) -> Sample | None:
        """As `take`, and None where the reading may be from before the off-command, sent late."""
        sample = self.take(tester)
        return sample if sample is not None and sample.seconds > self._off_at else None


def _switch_off(tester: LeakageTester) -> None:
    """Tell it to go to zero and off: each is told, also where the other could not be."""
    # Zero before off: a tester whose output relay sticks is then harmless all the same.
    try:
        tester.set_volts(0.0)
    finally:
        tester.switch(False)
