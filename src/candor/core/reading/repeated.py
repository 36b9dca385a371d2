"""A reading that is taken several times by itself: when it has settled, its mean, and what its scatter contributes."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from statistics import fmean, stdev

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.uncertainty.budget import Contribution
from candor.core.worded import worded

WINDOW = 25  # readings over which it must stand still at the least: a time constant of some thirty readings is then still seen
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
    left : float
        What it may still move by, SI: what it moved while it was read, and the standard uncertainty of that.
    waited_s : float
        How long that took, s.
    """

    mean: float
    deviation: float
    count: int
    settled: bool
    left: float = 0.0
    waited_s: float = 0.0

    @property
    def standard_uncertainty(self) -> float:
        """Of the mean, SI: s/√n (JCGM 100:2008, 4.2.3) with what it may still move by, a rectangle (4.3.7)."""
        return math.hypot(self.deviation / math.sqrt(self.count), self.left / math.sqrt(3))

    def sentence(self, unit: str) -> str:
        """Say it: what, how often, how sure, and whether it stood still."""
        words = f"{engineering(self.mean, unit, 7)}, {self.count} readings, u {engineering(self.standard_uncertainty, unit, 2)}"
        return (
            words
            if self.settled
            else worded("reading.it_had_not_stood_still_after", words=words, waited_s=self.waited_s)
        )


def window_of(count: int) -> int:
    """Return over how many of the last of `count` readings it must stand still: half of them, so that what settles slowly is
    watched longer, and WINDOW at the least."""
    return max(WINDOW, count // 2)


def is_still(values: Sequence[float], floor: float = 0.0) -> bool:
    """Say whether the last readings stand still: over the window the line through them moves by no more than its own u.

    Parameters
    ----------
    values : sequence of float, shape (n,)
        All since it was looked at, SI, evenly spaced in time.
    floor : float
        A count of the meter, SI, under which nothing is a movement.
    """
    if len(values) < WINDOW:
        return False
    moved, u = _movement(values[-window_of(len(values)) :])
    return abs(moved) <= max(u, floor)


def _movement(values: Sequence[float]) -> tuple[float, float]:
    """Return by how much the line through readings moves from the first to the last, and its u: neighbours that are tied, by r, are
    worth (1 - r)/(1 + r) as many."""
    n = len(values)
    middle, mean = (n - 1) / 2, fmean(values)
    squares = n * (n * n - 1) / 12
    slope = sum((i - middle) * (v - mean) for i, v in enumerate(values)) / squares
    about = [v - mean - slope * (i - middle) for i, v in enumerate(values)]
    scatter = math.sqrt(sum(r * r for r in about) / max(n - 2, 1))
    whole = sum(r * r for r in about)
    tied = min(max(sum(a * b for a, b in pairwise(about)) / whole, 0.0), 0.9) if whole > 0 else 0.0
    return slope * (n - 1), scatter * (n - 1) / math.sqrt(squares) * math.sqrt((1 + tied) / (1 - tied))


def captured(values: Sequence[float], settled: bool, waited_s: float = 0.0) -> Captured:
    """Return the mean of readings with their scatter, and what they may still move by, SI; seconds waited beside.

    Parameters
    ----------
    values : sequence of float, shape (n,)
        Those over which it stood still, and those that were read then.
    settled : bool
    waited_s : float

    Raises
    ------
    RangeError
        Where there are fewer than two.
    """
    if len(values) < FEWEST:
        raise RangeError(
            worded("reading.reading_is_not_a_repeat_at", values=len(values), fewest=FEWEST), value=str(len(values))
        )
    moved, u = _movement(values)
    left = abs(moved) + u if len(values) > FEWEST else 0.0
    return Captured(fmean(values), stdev(values), len(values), settled=settled, left=left, waited_s=waited_s)


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
    reason = worded("reading.scatter_of_the_reference_captured_times", n=sum((n for _, n in taken)))
    return [Contribution("reference, repeats", whole, dof=dof, reason=reason, kind="reference")]
