"""A simulated meter on something that warms up: it comes to its end like e to the minus t, with noise."""

from __future__ import annotations

import math
import random

from candor.links.loopback import LoopbackMeter

TAU_S = 90.0  # invented, as are the others
OFF = 4e-3  # of the value, when it is switched on
NOISE = 1e-5


class SimulatedSoak(LoopbackMeter):
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
        def shows(seconds: float, chance: random.Random) -> str:
            return f"{end * (1 + OFF * math.exp(-seconds / tau_s) + chance.gauss(0, NOISE)):.9g}"

        super().__init__(shows, seed)
