"""A run without a link: volts and current are read off and typed, and everything else is the same.

The same file, the same fit and limit, the same stop rules; what the program cannot switch it asks for, and "safe" is said only
of volts that were typed.
"""

from __future__ import annotations

import os
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from candor.core.errors import CandorError, RangeError
from candor.core.leakage.run import Outcome, Plan, Sample, Watch
from candor.links.leak_session import HEADER, NOT_SAFE, Status

BY_HAND = "by hand"


class HandSession:
    """One run by hand.

    Parameters
    ----------
    plan : Plan
    file : Path
        Where every reading goes as CSV, at once.
    clock : callable
        Seconds, rising.
    """

    def __init__(self, plan: Plan, file: Path, clock: Callable[[], float] = time.monotonic) -> None:
        self.plan, self.file, self._clock = plan, file, clock
        self._begun = clock()
        self._watch = Watch(plan)
        self._status = Status("running", source_volts=self._watch.volts)

    def start(self) -> None:
        """Begin: the clock runs, the file has its heading.

        Raises
        ------
        CandorError
            Where the file cannot be written.
        """
        self._begun = self._clock()
        self._append(HEADER)

    def status(self) -> Status:
        """Return how it stands."""
        return self._status

    @property
    def _seconds(self) -> float:
        return self._status.last.seconds if self._status.last else 0.0

    @property
    def alive(self) -> bool:
        """Whether it goes on, its discharge included."""
        return self._status.phase != "ended"

    def take(self, volts: float, amperes: float = 0.0) -> None:
        """Take a reading; while it discharges, the volts alone.

        Raises
        ------
        RangeError
            Where a figure cannot be.
        CandorError
            Where the file cannot be written; the reading is then not counted.
        """
        if not 0 <= volts <= 5000 or not 0 <= amperes <= 1:
            raise RangeError(f"{volts:g} V and {amperes:g} A were typed; expected up to 5 kV and up to 1 A.")
        if self._status.phase == "discharging":
            safe = volts <= self.plan.safe_volts
            last = Sample(self._seconds, volts, amperes)
            self._status = replace(self._status, last=last, safe=safe, phase="ended" if safe else "discharging")
            return
        sample = Sample(max(self._clock() - self._begun, self._seconds + 0.001), volts, amperes)
        self._append(f"{sample.seconds:.3f},{volts:.6g},{amperes:.6g},{self._watch.volts:.6g}\n")
        advice = self._watch.take(sample)
        self._status = replace(
            self._status, last=sample, source_volts=advice.volts, curve=tuple(self._watch.curve),
            reckoned=self._watch.reckon(), readings=self._status.readings + 1,
        )  # fmt: skip
        if advice.stop:
            self._end(advice.stop, advice.outcome)

    def cancel(self) -> None:
        """End it: turn the source to zero, discharge, and type what is left on the part."""
        if self._status.phase == "running":
            self._end("stopped by hand", "stopped")

    def close(self) -> Status:
        """End it as the window closes: what was typed is kept."""
        if self._status.phase == "running":
            self._end("stopped by hand", "stopped")
        warning = "" if self._status.safe else f"The part on the clips was {NOT_SAFE}"
        self._status = replace(self._status, phase="ended", warning=warning)
        return self._status

    def _end(self, why: str, outcome: Outcome) -> None:
        amperes, scatter = self._watch.leakage()
        last = self._status.last or Sample(0.0, 0.0, 0.0)
        still = max(last.seconds - self._watch.still_since, 0.0)
        self._status = replace(
            self._status, phase="discharging", why=why, outcome=outcome, leakage=amperes, leakage_scatter=scatter,
            leakage_volts=last.volts, dwell_s=still, source_volts=0.0,
        )  # fmt: skip

    def _append(self, text: str) -> None:
        try:
            with self.file.open("a", encoding="ascii") as file:
                file.write(text)
                file.flush()
                os.fsync(file.fileno())
        except OSError as error:
            raise CandorError(
                f"The reading could not be written ({error.strerror}); it is still where you typed it."
            ) from None
