"""A simulated oscilloscope on loopback: an edge of a known rise, with noise, as a preamble and a block of bytes."""

from __future__ import annotations

import random

import numpy as np

from candor.links.loopback import LoopbackInstrument

POINTS, INTERVAL_S, STEP_V = 1200, 0.5e-9, 4e-3
RISE_S, HIGH_V, NOISE_V = 40e-9, 0.6, 2e-3
ADDRESS = '{resource}; preamble "WAV:PRE?" - points interval start step zero middle; data "WAV:DATA?" 8 bits'


class SimulatedScope(LoopbackInstrument):
    """An oscilloscope in a thread of its own; `with` ends it.

    Parameters
    ----------
    rise_s : float
        10 to 90 per cent of its edge, a Gaussian's.
    seed : int
    """

    def __init__(self, rise_s: float = RISE_S, seed: int = 1) -> None:
        from scipy.special import ndtr  # slow to load

        chance = np.random.default_rng(random.Random(seed).randrange(2**32))
        t = INTERVAL_S * np.arange(POINTS) - 200e-9
        volts = HIGH_V * ndtr(t / (rise_s / 2.563103)) - 0.1 + chance.normal(0, NOISE_V, POINTS)  # 2 x 1.28155 sigma
        self._counts: bytes = np.clip(np.round(volts / STEP_V) + 128, 0, 255).astype(np.uint8).tobytes()
        super().__init__(self._answers)

    @property
    def address(self) -> str:
        """Where it answers, and how."""
        return ADDRESS.format(resource=self.resource)

    def _answers(self, line: str) -> str | bytes | None:
        word = line.strip().upper()
        if word == "WAV:PRE?":
            return f"BYTE,{POINTS},{INTERVAL_S:.6E},{-200e-9:.6E},{STEP_V:.6E},{0.0:.6E},128"
        if word == "WAV:DATA?":
            size = str(len(self._counts))
            return b"#" + str(len(size)).encode() + size.encode() + self._counts
        return "CANDOR,SIMULATED OSCILLOSCOPE,0,0" if word == "*IDN?" else None
