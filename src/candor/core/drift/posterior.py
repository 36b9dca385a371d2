"""What the results of a point say of any day: the mean and spread of its true error, over all sizes of slope and walk together."""

from __future__ import annotations

import math
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass

OFFSET = 10.0  # of the limit: the offset of a segment is as good as free
HOLDS = 1.959964  # standard deviations of a normal either side: 95 %
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Scale:
    """The solve of one point with slope and walk of one size, limits a year and a root year, its probability, and the variance of
    each result by itself."""

    slope: float
    walk: float
    chance: float
    solved: Floats
    noise: Floats


@dataclass(frozen=True)
class Posterior:
    """Of the true error in limits, given the results of one point: their years, their segments, the part of u that is their
    standard's (of each standard a number), and the solves."""

    years: Floats
    segment: Floats
    standard: Floats
    common: Floats
    scales: tuple[Scale, ...]

    @property
    def last(self) -> NDArray[np.bool_]:
        """Which results are of the last segment."""
        return np.asarray(self.segment == self.segment[-1])

    @cached_property
    def inverses(self) -> tuple[Floats, ...]:
        """K^-1 of each size, made where somebody asks for another day."""
        same = self.segment[:, None] == self.segment[None, :]
        alike = self.standard[:, None] == self.standard[None, :]
        shorter, product = np.minimum.outer(self.years, self.years), np.multiply.outer(self.years, self.years)
        fixed = same * OFFSET**2 + alike * np.multiply.outer(self.common, self.common)
        whole = [
            fixed + same * scale.walk**2 * shorter + scale.slope**2 * product + np.diag(scale.noise)
            for scale in self.scales
        ]
        return tuple(np.linalg.inv(np.array(whole)))

    def over(self, years: Floats) -> tuple[Floats, Floats]:
        """Return means and variances at years since the start of the last segment, in limits and their square.

        The variance is that of the normal whose 95 per cent reach as far as those of all sizes of slope and walk together.
        """
        found = [self._of(scale, inverse, years) for scale, inverse in zip(self.scales, self.inverses, strict=True)]
        if len(found) == 1:
            return found[0]
        chances = np.array([scale.chance for scale in self.scales])[:, None]
        means, spreads = np.array([m for m, _ in found]), np.sqrt(np.array([v for _, v in found]))
        mean = (chances * means).sum(axis=0)
        return mean, (_reach(mean - means, spreads, chances) / HOLDS) ** 2

    def _of(self, scale: Scale, inverse: Floats, years: Floats) -> tuple[Floats, Floats]:
        walk = scale.walk**2 * np.maximum(np.minimum(years[:, None], self.years[None, :]), 0.0)
        across = self.last[None, :] * (OFFSET**2 + walk) + scale.slope**2 * years[:, None] * self.years[None, :]
        own = OFFSET**2 + scale.walk**2 * np.maximum(years, 0.0) + scale.slope**2 * years**2
        variance = own - ((across @ inverse) * across).sum(axis=1)
        return across @ scale.solved, np.maximum(variance, 1e-18)


def _reach(off: Floats, spreads: Floats, chances: Floats) -> Floats:
    """Return h such that a mixture of normals, each so far off its mean, lies within ±h of it with 95 per cent (Newton's steps from
    outside, where the probability is concave)."""
    from scipy.special import ndtr  # imported here: slow to load

    h = (np.abs(off) + HOLDS * spreads).max(axis=0)
    for _ in range(6):
        above, below = (off + h) / spreads, (off - h) / spreads
        within = (chances * (ndtr(above) - ndtr(below))).sum(axis=0)
        rises = (chances * (np.exp(-0.5 * above**2) + np.exp(-0.5 * below**2)) / spreads).sum(axis=0) / math.sqrt(
            2 * math.pi
        )
        h = np.maximum(h - (within - 0.95) / np.maximum(rises, 1e-300), 0.2 * h)
    return np.asarray(h, np.float64)
