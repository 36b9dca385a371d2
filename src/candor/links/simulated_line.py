"""A simulated meter on the line of a tube tester whose button is held for some seconds, again and again."""

from __future__ import annotations

import random
import threading
import time

from candor.links.loopback import LoopbackInstrument

VOLTS = 120.0  # invented, as are the others
FALL_V = 1.4
HELD_S, EVERY_S = 4.0, 10.0
NOISE_V = 0.02


class SimulatedLine(LoopbackInstrument):
    """A line that falls while a button is held; `with` ends it.

    Parameters
    ----------
    every_s, held_s : float
        The button is held for the last `held_s` of each `every_s`.
    seed : int
    """

    def __init__(self, every_s: float = EVERY_S, held_s: float = HELD_S, seed: int = 1) -> None:
        self._every, self._held, self._random = every_s, held_s, random.Random(seed)
        self._since, self._lock = time.monotonic(), threading.Lock()
        super().__init__(self._read)

    def _read(self, line: str) -> str | None:
        if not line.endswith("?"):
            return None
        with self._lock:
            into = (time.monotonic() - self._since) % self._every
            fall = FALL_V if into > self._every - self._held else 0.0
            return f"{VOLTS - fall + self._random.gauss(0, NOISE_V):.2f}"
