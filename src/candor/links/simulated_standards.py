"""A simulated bench meter and source on loopback: the meter shows what the source is set to, after a moment, with noise."""

from __future__ import annotations

import math
import random
import threading
import time
from types import TracebackType
from typing import Self

from candor.links.loopback import LoopbackInstrument

SETTLES_S = 0.15  # time constant with which the meter follows
NOISE = 4e-6  # of the value, on each reading
GAIN = 1.00002  # of the meter: invented


class SimulatedStandards:
    """A source and a meter that is on it; `with` ends both.

    Parameters
    ----------
    value : float
        What the meter shows before the source is set: somebody set it by hand.
    seed : int
    """

    def __init__(self, value: float = 0.0, seed: int = 1) -> None:
        self._lock = threading.Lock()
        self._random = random.Random(seed)
        self._from, self._to, self._since = value, value, time.monotonic()
        self._on = True
        self._meter = LoopbackInstrument(self._answer_meter)
        self._source = LoopbackInstrument(self._answer_source)

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    @property
    def meter(self) -> str:
        """The VISA name of the meter."""
        return self._meter.resource

    @property
    def source(self) -> str:
        """The VISA name of the source."""
        return self._source.resource

    @property
    def set_to(self) -> float:
        """What the source stands at; 0 where its output is off."""
        with self._lock:
            return self._to if self._on else 0.0

    def apply(self, value: float) -> None:
        """Set what is on the meter, as a hand does."""
        with self._lock:
            self._from, self._to, self._since, self._on = self._now(), value, time.monotonic(), True

    def close(self) -> None:
        """End both."""
        self._meter.close()
        self._source.close()

    def _now(self) -> float:
        rest = math.exp(-(time.monotonic() - self._since) / SETTLES_S)
        return self._to + (self._from - self._to) * rest

    def _answer_meter(self, line: str) -> str | None:
        if line.strip().upper() in ("READ?", "MEAS?", "FETC?"):
            with self._lock:
                value = self._now() if self._on else 0.0
                return f"{value * GAIN * (1 + self._random.gauss(0, NOISE)):+.9E}"
        return "CANDOR,SIMULATED METER,0,0" if line.strip().upper() == "*IDN?" else None

    def _answer_source(self, line: str) -> str | None:
        words = line.strip().upper()
        if words.startswith("SOUR:VOLT "):
            self.apply(float(words.split()[1]))
        elif words == "SOUR:VOLT?":
            return f"{self._to:.9E}"
        elif words == "OUTP OFF":
            with self._lock:
                self._on, self._to, self._from = False, 0.0, 0.0
        elif words == "*IDN?":
            return "CANDOR,SIMULATED SOURCE,0,0"
        return None
