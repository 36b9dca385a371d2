"""A simulated meter on something that warms up: it comes to its end like e to the minus t, with noise."""

from __future__ import annotations

import math
import random
import threading
import time

from candor.links.loopback import LoopbackInstrument

TAU_S = 90.0  # invented, as are the others
OFF = 4e-3  # of the value, when it is switched on
NOISE = 1e-5


class SimulatedSoak(LoopbackInstrument):
    """A meter that reads something warming up since it was made; `with` ends it.

    Parameters
    ----------
    end : float
        Where it ends, SI.
    tau_s : float
        s.
    seed : int
    """

    def __init__(self, end: float, tau_s: float = TAU_S, seed: int = 1) -> None:
        self._end, self._tau, self._random = end, tau_s, random.Random(seed)
        self._since, self._lock = time.monotonic(), threading.Lock()
        super().__init__(self._read)

    def _read(self, line: str) -> str | None:
        if not line.endswith("?"):
            return None
        with self._lock:
            rest = OFF * math.exp(-(time.monotonic() - self._since) / self._tau)
            return f"{self._end * (1 + rest + self._random.gauss(0, NOISE)):.9g}"
