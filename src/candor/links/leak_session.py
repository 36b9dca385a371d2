"""A run on the tester, in a thread of its own: whatever ends it, the source goes to zero first and the readings are kept."""

from __future__ import annotations

import os
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import IO, Literal

from candor.core.errors import CandorError
from candor.core.parts.leak_run import Outcome, Plan, Reckoned, Sample, Watch
from candor.links.errors import LinkError
from candor.links.tester import LeakageTester

Phase = Literal["connecting", "running", "discharging", "ended"]
HEADER = "seconds,volts,amperes,source_volts\n"
_DISCHARGE_AT_MOST_S = 600.0


@dataclass(frozen=True)
class Status:
    """How a run stands.

    Attributes
    ----------
    phase : Phase
    last : Sample
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
        The part was measured under the safe voltage after the source was off.
    readings : int
    discharge_ohms : float
        Of the tester's own resistor.
    """

    phase: Phase
    last: Sample = field(default_factory=lambda: Sample(0.0, 0.0, 0.0))
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
        return self.status()

    @property
    def alive(self) -> bool:
        """Whether its thread runs."""
        return self._thread.is_alive()

    # --- in the thread ----------------------------------------------------------------------------------

    def _show(self, **changes: object) -> None:
        with self._lock:
            self._status = Status(**{**self._status.__dict__, **changes})

    def _run(self) -> None:
        try:
            tester = self._connect()
        except CandorError as error:
            self._show(phase="ended", why=str(error))
            return
        plan = Plan(**{**self.plan.__dict__, "series_ohms": tester.series_ohms})
        self._show(discharge_ohms=tester.discharge_ohms)
        with tester:
            try:
                with self.file.open("a", encoding="ascii") as file:
                    file.write(HEADER)
                    self._measure(tester, Watch(plan), file)
            except LinkError as error:
                self._show(phase="ended", why=str(error), safe=False)
            except OSError as error:
                self._off(tester, f"The readings could not be written ({error.strerror}); the source is at zero.")
            else:
                self._discharge(tester, plan)

    def _measure(self, tester: LeakageTester, watch: Watch, file: IO[str]) -> None:
        try:
            tester.set_volts(watch.volts)
            tester.switch(True)
            self._follow(tester, watch, file)
        except LinkError:
            self._keep_end(watch)
            self._try_off(tester)
            raise
        except OSError:
            self._keep_end(watch)
            raise
        tester.set_volts(0.0)
        tester.switch(False)
        self._keep_end(watch)

    def _follow(self, tester: LeakageTester, watch: Watch, file: IO[str]) -> None:
        started, synced, reckoned = tester.read().seconds, time.monotonic(), 0.0
        readings, volts, next_at = 0, watch.volts, time.monotonic()
        while not self._cancelled.is_set():
            read = tester.read()
            sample = Sample(read.seconds - started, read.volts, read.amperes)
            file.write(f"{sample.seconds:.3f},{sample.volts:.6g},{sample.amperes:.6g},{volts:.6g}\n")
            readings += 1
            advice = watch.take(sample)
            now = time.monotonic()
            if now - synced >= 1.0:
                synced = now
                file.flush()
                os.fsync(file.fileno())
            changes: dict[str, object] = {
                "phase": "running",
                "last": sample,
                "source_volts": volts,
                "readings": readings,
            }
            if now - reckoned >= 0.5:
                reckoned = now
                changes |= {"reckoned": watch.reckon(), "curve": tuple(watch.curve)}
            self._show(**changes)
            if advice.stop:
                self._show(why=advice.stop, outcome=advice.outcome)
                return
            if advice.volts != volts:
                volts = advice.volts
                tester.set_volts(volts)
            next_at = max(next_at + self._interval, now)
            self._cancelled.wait(max(next_at - time.monotonic(), 0.0))
        self._show(why="stopped by hand", outcome="stopped")

    def _keep_end(self, watch: Watch) -> None:
        amperes, scatter = watch.leakage()
        last = watch.curve[-1] if watch.curve else Sample(0.0, 0.0, 0.0)
        still = max(last.seconds - watch.still_since, 0.0)
        self._show(
            curve=tuple(watch.curve), reckoned=watch.reckon(), leakage=amperes, leakage_scatter=scatter,
            leakage_volts=last.volts, dwell_s=still,
        )  # fmt: skip

    def _discharge(self, tester: LeakageTester, plan: Plan) -> None:
        """Wait for the discharge and measure it: "safe" is said of a reading, never of a countdown."""
        begun = time.monotonic()
        self._show(phase="discharging", source_volts=0.0)
        try:
            while True:
                sample = tester.read()
                safe = abs(sample.volts) <= plan.safe_volts
                shown = Sample(self._status.last.seconds, sample.volts, sample.amperes)
                self._show(last=shown, safe=safe)
                if safe or self._hurry.is_set() or time.monotonic() - begun > _DISCHARGE_AT_MOST_S:
                    break
                self._hurry.wait(self._interval)
        except LinkError as error:
            self._show(phase="ended", why=str(error), safe=False)
            return
        self._show(phase="ended")

    def _off(self, tester: LeakageTester, why: str) -> None:
        self._try_off(tester)
        self._show(phase="ended", why=why, safe=False)

    def _try_off(self, tester: LeakageTester) -> None:
        try:
            tester.set_volts(0.0)
            tester.switch(False)
        except LinkError:
            return  # a dead link cannot be switched: the sentence says to do it by hand
