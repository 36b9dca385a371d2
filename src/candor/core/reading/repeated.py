"""A reading that is taken several times by itself: when it has settled, its mean, and what its scatter contributes."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean, stdev

from candor.core.errors import RangeError
from candor.core.quantities import engineering
from candor.core.uncertainty.budget import Contribution

WINDOW = 5  # readings over which it must stand still
STILL = 2.0  # times the scatter that is left, the drift over the window: more is still moving
FEWEST = 2


@dataclass(frozen=True)
class Captured:
    """What a meter on a link showed.

    Attributes
    ----------
    mean : float
        SI.
    deviation : float
        Experimental standard deviation s of a single reading, SI.
    count : int
    settled : bool
        Whether it stood still before it was read.
    waited_s : float
        How long that took, s.
    """

    mean: float
    deviation: float
    count: int
    settled: bool
    waited_s: float = 0.0

    @property
    def standard_uncertainty(self) -> float:
        """Of the mean: s/√n, in SI (JCGM 100:2008, 4.2.3)."""
        return self.deviation / math.sqrt(self.count)

    def sentence(self, unit: str) -> str:
        """Say it: what, how often, how sure, and whether it stood still."""
        words = f"{engineering(self.mean, unit, 7)}, {self.count} readings, s/√n {engineering(self.standard_uncertainty, unit, 2)}"
        return words if self.settled else f"{words}; it had not stood still after {self.waited_s:.0f} s"


def is_still(values: Sequence[float], floor: float = 0.0) -> bool:
    """Say whether the last readings stand still: the line through them moves less over the window than twice what they scatter.

    By definition of this house: slope x (n - 1) against 2 s about that line, and `floor`, SI, under which nothing is movement.

    Parameters
    ----------
    values : sequence of float, shape (n,)
        SI, evenly spaced in time.
    floor : float
        A count of the meter, SI.
    """
    if len(values) < WINDOW:
        return False
    last = list(values)[-WINDOW:]
    middle = (WINDOW - 1) / 2
    spread = sum((i - middle) ** 2 for i in range(WINDOW))
    mean = fmean(last)
    slope = sum((i - middle) * (v - mean) for i, v in enumerate(last)) / spread
    rest = [v - mean - slope * (i - middle) for i, v in enumerate(last)]
    scatter = math.sqrt(sum(r * r for r in rest) / (WINDOW - 2))
    return abs(slope) * (WINDOW - 1) <= max(STILL * scatter, floor)


def captured(values: Sequence[float], settled: bool, waited_s: float = 0.0) -> Captured:
    """Return the mean of repeats with their scatter, SI; `values` of shape (n,), seconds waited beside.

    Raises
    ------
    RangeError
        Where there are fewer than two.
    """
    if len(values) < FEWEST:
        raise RangeError(
            f"{len(values)} reading is not a repeat; at least {FEWEST} were expected.", value=str(len(values))
        )
    return Captured(fmean(values), stdev(values), len(values), settled=settled, waited_s=waited_s)


def reference_repeats(deviations: Sequence[tuple[float, int]]) -> list[Contribution]:
    """Return what the scatter of captured references contributes to their mean: u² = sum of (s_i²/n_i) / N², with sum of n_i - 1
    degrees of freedom, SI (JCGM 100:2008, 4.2.3 and G.4.1).

    Parameters
    ----------
    deviations : sequence of (float, int), shape (N, 2)
        Standard uncertainty of each captured mean, SI, and how many readings it is of; those typed are not among them.
    """
    taken = [(u, n) for u, n in deviations if n >= FEWEST]
    if not taken:
        return []
    whole = math.sqrt(sum(u * u for u, _ in taken)) / len(deviations)
    dof = float(sum(n - 1 for _, n in taken))
    reason = f"Scatter of the reference, captured {sum(n for _, n in taken)} times, over √n (JCGM 100, 4.2.3)."
    return [Contribution("reference, repeats", whole, dof=dof, reason=reason, kind="reference")]
