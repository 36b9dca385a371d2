"""A simulated meter on the line of a tube tester whose button is held for some seconds, again and again."""

from __future__ import annotations

import random

from candor.links.loopback import LoopbackMeter

VOLTS = 120.0  # invented, as are the others
FALL = 0.012  # of the line
HELD_S, EVERY_S = 4.0, 10.0
NOISE_V = 0.02


class SimulatedLine(LoopbackMeter):
    """A line that falls while a button is held; `with` ends it.

    Parameters
    ----------
    volts : float
        Of the line.
    every_s, held_s : float
        The button is held for the last `held_s` of each `every_s`.
    seed : int
    """

    def __init__(self, volts: float = VOLTS, every_s: float = EVERY_S, held_s: float = HELD_S, seed: int = 1) -> None:
        def shows(seconds: float, chance: random.Random) -> str:
            held = seconds % every_s > every_s - held_s
            return f"{volts * (1 - FALL * held) + chance.gauss(0, NOISE_V):.2f}"

        super().__init__(shows, seed)
