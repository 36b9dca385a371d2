"""A figure of a waveform with its uncertainty, or why it cannot be told."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import pair

COVERAGE = 2.0  # U = 2 u: about 95 % where many terms add up (JCGM 100:2008, 6.3.3)

SURELY_MORE = 1.5  # times what is known of each, that a scatter is not by chance
T_PROBABILITY = 0.97725  # one-sided, of 95.45 per cent two-sided


@dataclass(frozen=True)
class Figure:
    """What a waveform comes to.

    Attributes
    ----------
    name : str
    value : float
        In `unit`.
    unit : str
        SI; "1" for a share.
    u : float
        Standard uncertainty from noise, resolution and sampling, in `unit`: what scale and time base of the oscilloscope may be off
        is not in it.
    count : int
        Of how many edges or periods it is the mean.
    words : str
        By what definition.
    """

    name: str
    value: float
    unit: str
    u: float
    count: int = 1
    words: str = ""

    @property
    def expanded(self) -> float:
        """U = 2 u, in `unit`."""
        return COVERAGE * self.u

    @property
    def shown(self) -> str:
        """Value and U, rounded."""
        return pair(self.value, self.expanded, self.unit).removeprefix("+")


@dataclass(frozen=True)
class Untold:
    """A figure that cannot be told, and why."""

    name: str
    why: str


def mean_of(values: Sequence[float], u_each: float, common: float = 0.0) -> tuple[float, float]:
    """Return the mean of repeats of one figure and its u, in their unit: u² = (s² or u_each²)/n + common².

    The greater of the scatter seen and of what each may be off is taken; `common` is what all share (JCGM 100:2008, 4.2.3, 5.2.2).
    """
    known = np.asarray(values, dtype=float)
    scatter = float(known.std(ddof=1)) if len(known) > 1 else 0.0
    return float(known.mean()), math.hypot(greater(scatter, u_each, len(known)) / math.sqrt(len(known)), common)


def greater(scatter: float, known: float, count: int) -> float:
    """Return the greater of the scatter of `count` repeats and what is known of each, in their unit.

    Where the scatter is surely the greater it is all there is: it is widened so that 2 u is Student's t (JCGM 100:2008, G.3.2).
    """
    if scatter <= SURELY_MORE * known or count < 2:
        return max(scatter, known)
    from scipy.special import stdtrit  # imported here: slow to load

    return scatter * float(stdtrit(count - 1, T_PROBABILITY)) / 2
