"""The line of a tube tester read by a meter on a link while tubes are tested: what it does, and where the button was held."""

from __future__ import annotations

import tempfile
import threading
from collections import deque
from pathlib import Path

from candor.core.errors import RangeError
from candor.core.tubes.held_line import HeldLine, held_in
from candor.links.meters import MeterPlan, Meters, MeterState
from candor.links.simulated_line import SimulatedLine

SIMULATED = "simulated"
KEPT_S = 60.0  # of the log that a press is looked for in: a hand and its tube take no longer
PER_SECOND = 5.0


class LineLog:
    """A line that is read until `close`.

    Parameters
    ----------
    resource : str
        Where its meter answers, or "simulated".

    Raises
    ------
    LinkError
        Where the address is none.
    """

    def __init__(self, resource: str) -> None:
        self._folder = tempfile.TemporaryDirectory(
            prefix="candor-line-", ignore_cleanup_errors=True
        )  # what counts of it goes with the test
        self._lock = threading.Lock()
        self._log: deque[tuple[float, float]] = deque()
        self._from = 0.0
        self._simulated = SimulatedLine() if resource == SIMULATED else None
        at = self._simulated.resource if self._simulated is not None else resource
        plan = MeterPlan("line", at, per_second=PER_SECOND)
        self._meters = Meters([plan], Path(self._folder.name), "line", self._hear)

    @property
    def is_simulated(self) -> bool:
        """Whether what it reads is invented: it goes into no test."""
        return self._simulated is not None

    def state(self) -> MeterState:
        """Return how the meter stands."""
        return self._meters.states()["line"]

    def log(self) -> tuple[tuple[float, float], ...]:
        """Return the last minute of it, s since the start and V."""
        with self._lock:
            return tuple(self._log)

    def held(self) -> HeldLine | None:
        """Return the newest press since the last test; None where none stands out, or there is too little yet."""
        try:
            found = held_in(self.log())
        except RangeError:
            return None
        return found if found is not None and found.begun_s >= self._from else None

    def forget(self) -> None:
        """A press is of one test alone: the next is looked for from here on."""
        self._from = self._meters.seconds()

    def close(self, patience_s: float = 1.0) -> None:
        """Read it no more; a meter that hangs is waited for so many s."""
        self._meters.close(patience_s)
        if self._simulated is not None:
            self._simulated.close()
        self._folder.cleanup()

    def _hear(self, _name: str, seconds: float, volts: float) -> None:
        with self._lock:
            self._log.append((seconds, volts))
            while self._log[0][0] < seconds - KEPT_S:
                self._log.popleft()
