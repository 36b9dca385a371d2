"""A run without a link: volts and current are read off and typed, and everything else is the same.

The same file, the same fit and limit, the same stop rules; what the program cannot switch it asks for, and "safe" is said only
of volts that were typed.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Generic, TypeVar

from candor.core.errors import CandorError, RangeError
from candor.core.live import Reading, Watch
from candor.core.worded import worded
from candor.links import live_run
from candor.links.live_run import NOT_SAFE, Status
from candor.links.recorder import Recorder

S = TypeVar("S")
BY_HAND = "by hand"


class HandRun(Generic[S]):
    """One run by hand.

    Parameters
    ----------
    watch : Watch
    file : Path
        Where every reading goes as CSV, at once.
    clock : callable
        Seconds, rising.
    """

    def __init__(self, watch: Watch[S], file: Path, clock: Callable[[], float] = time.monotonic) -> None:
        self.watch, self.file, self._clock = watch, file, clock
        self._begun = clock()
        self._safe_since: float | None = None
        self._status: Status[S] = Status("running", level=watch.level)

    def start(self) -> None:
        """Begin: the clock runs, the file has its heading.

        Raises
        ------
        CandorError
            Where the file cannot be written.
        """
        self._begun = self._clock()
        self._keep(None)

    def status(self) -> Status[S]:
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
        if not -5000 <= volts <= 5000 or not 0 <= amperes <= 1:
            raise RangeError(worded("links.v_and_a_were_typed_expected", volts=volts, amperes=amperes))
        values = {"volts": volts, "amperes": amperes}
        if self._status.phase == "discharging":
            last, now = Reading(self._seconds, values), self._clock()
            if not self.watch.is_safe(last):
                self._safe_since = None
            elif self._safe_since is None:
                self._safe_since = now
            safe = self._safe_since is not None and now - self._safe_since >= live_run.STILL_SAFE_S
            self._status = replace(self._status, last=last, safe=safe, phase="ended" if safe else "discharging")
            return
        reading = Reading(max(self._clock() - self._begun, self._seconds + 0.001), values)
        self._keep(reading)
        advice = self.watch.take(reading)
        self._status = replace(
            self._status, last=reading, level=advice.level, seen=self.watch.seen(), readings=self._status.readings + 1
        )
        if advice.stop:
            self._end(advice.stop, advice.outcome)

    def cancel(self) -> None:
        """End it: turn the source to zero, discharge, and type what is left on the part."""
        if self._status.phase == "running":
            self._end("stopped by hand", "stopped")

    def close(self) -> Status[S]:
        """End it as the window closes: what was typed is kept."""
        if self._status.phase == "running":
            self._end("stopped by hand", "stopped")
        warning = (
            ""
            if self._status.safe
            else worded("links.the_part_on_the_clips_was", not_safe=NOT_SAFE, unproved=self.watch.unproved).strip()
        )
        self._status = replace(self._status, phase="ended", warning=warning)
        return self._status

    def _end(self, why: str, outcome: str) -> None:
        self._status = replace(
            self._status, phase="discharging", why=why, outcome=outcome, seen=self.watch.seen(), level=0.0
        )

    def _keep(self, reading: Reading | None) -> None:
        """Append a reading to the file, or its heading; on the disk at once, as nobody types twenty a second."""
        try:
            with Recorder(self.file, self.watch.channels, self.watch.level_name, heading=reading is None) as recorder:
                if reading is not None:
                    recorder.keep(reading, self.watch.level)
                recorder.sync()
        except OSError as error:
            raise CandorError(worded("links.the_reading_could_not_be_written", strerror=error.strerror)) from None
