"""Where a point will be: a line with a prior, a random walk about it, one offset for each standard; robust against outliers.

Within a segment the true error is e(t) = a + b t + W(t): a free offset a, a slope b that all segments share, and a random walk W.
The prior of b is normal about 0 with L/10 a year, that of W is L/20 a root year (common practice, no source; the first is pooled by
kind as histories grow). A result adds what its standard is off by, one offset for all results by that standard, and its own noise.

All of it is Gaussian, so the posterior is a linear solve (Rasmussen and Williams, Gaussian Processes for Machine Learning, 2006,
2.2). Where a result lies more than three standard deviations off, its point's noise is made Student's with three degrees of
freedom by weighting anew until it holds still (Lange, Little and Taylor 1989), so that one wild result does not carry it. The noise
is held a tenth wider than stated, which is what the weighting hides: by simulation the fans then hold what they say.
"""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from candor.core.drift.history import DAYS, Segment
from candor.core.errors import RangeError

SLOPE, WALK = 1 / 10, 1 / 20  # of the limit, a year and a root year
OFFSET = 10.0  # of the limit: the offset of a segment is as good as free
TAILS = 3.0  # degrees of freedom of the noise
WIDER = 1.2  # variance of the noise over what was stated
WILD = 3.0  # standard deviations
ROUNDS = 12
JUMPED = 0.3  # weight of the newest result
SHARED = (
    0.5  # share of U that calibrations by one standard have in common, where nobody says (common practice, no source)
)
COUNTS_AS = 5  # histories that the usual prior counts as
LEAST_U, HOLDS_STILL = 1e-6, 1e-3
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Prior:
    """Slope and random walk as shares of the limit: a year, and a root year; and whose they are.

    Attributes
    ----------
    slope, walk : float
    histories : int
        Of how many histories of the kind they were pooled; 0 where they are the usual ones.
    """

    slope: float = SLOPE
    walk: float = WALK
    histories: int = 0

    @property
    def words(self) -> str:
        """Whose they are."""
        own = (
            f"pooled from {self.histories} histories of this kind in the shop"
            if self.histories
            else "usual ones, common practice, no source"
        )
        return f"slope 0 ± {100 * self.slope:.2g} % of the limit a year, walk {100 * self.walk:.2g} % a root year ({own})"


USUAL = Prior()


@dataclass(frozen=True)
class PointForecast:
    """What a history says of one point.

    Attributes
    ----------
    limit : float
        Half the limit interval, in the unit of the errors.
    start : date
        Of the last segment.
    slope, u_slope : float
        Posterior mean and standard deviation, per year.
    jumped : bool
        The newest result lies so far from its history that it was weighed down: a wild reading, or something happened.
    common : float
        Standard uncertainty that it shares with other points read against its last standard, in the unit of the errors.
    """

    limit: float
    start: dt.date
    slope: float
    u_slope: float
    common: float
    jumped: bool
    posterior: Posterior = field(repr=False, compare=False)

    def at(self, on: dt.date) -> tuple[float, float]:
        """Return the true error expected on a day and its standard uncertainty, in the unit of the errors."""
        mean, variance = self.over(np.array([(on - self.start).days / DAYS]))
        return float(mean[0]), math.sqrt(float(variance[0]))

    def over(self, years: Floats) -> tuple[Floats, Floats]:
        """Return means and variances at years since the start of the last segment, in the unit of the errors and its square."""
        mean, variance = self.posterior.over(years)
        return self.limit * mean, self.limit**2 * variance

    def at_best(self) -> float:
        """Return the probability of being in tolerance on the day of its newest result, had it read right: 1 where it is out."""
        mean, variance = self.over(np.array([float(np.max(self.posterior.years[self.posterior.last]))]))
        return 1.0 if abs(float(mean[0])) > self.limit else inside(0.0, math.sqrt(float(variance[0])), self.limit)

    def in_tolerance(self, on: dt.date) -> float:
        """Return the probability that it is within its limit on a day, from 0 to 1."""
        mean, u = self.at(on)
        return inside(mean, u, self.limit)


@dataclass(frozen=True)
class Posterior:
    """Of the true error in limits, given the results of one point: their years, which are of the last segment, and the solve."""

    years: Floats
    last: NDArray[np.bool_]
    prior: Prior
    solved: Floats
    inverse: Floats

    def over(self, years: Floats) -> tuple[Floats, Floats]:
        """Return means and variances at years since the start of the last segment, in limits and their square."""
        walk = self.prior.walk**2 * np.maximum(np.minimum(years[:, None], self.years[None, :]), 0.0)
        across = self.last[None, :] * (OFFSET**2 + walk) + self.prior.slope**2 * years[:, None] * self.years[None, :]
        own = OFFSET**2 + self.prior.walk**2 * np.maximum(years, 0.0) + self.prior.slope**2 * years**2
        variance = own - np.einsum("ij,jk,ik->i", across, self.inverse, across)
        return across @ self.solved, np.maximum(variance, 1e-18)


def forecast(
    segments: Sequence[Segment], limit: float, prior: Prior = USUAL, shared: float = SHARED, robust: bool = True
) -> PointForecast:
    """Return what the history of one point says of its future; see forecast_all. Errors and limit in one unit. Raises as that."""
    return forecast_all([(segments, limit)], prior, shared, robust)[0]


def forecast_all(
    histories: Sequence[tuple[Sequence[Segment], float]],
    prior: Prior = USUAL,
    shared: float = SHARED,
    robust: bool = True,
) -> tuple[PointForecast, ...]:
    """Return what the histories of many points say of their futures, in order.

    Parameters
    ----------
    histories : sequence of (sequence of Segment, float)
        At least one segment each, and half the limit interval in the unit of the errors, above zero.
    prior : Prior
    shared : float
        The share of each U that results against one standard have in common.
    robust : bool
        Whether one wild result is weighed down; off to compare with published fits.

    Raises
    ------
    RangeError
        Where a point has no result or no limit.
    """
    empty = next((limit for segments, limit in histories if not segments or not limit > 0), None)
    if empty is not None:
        raise RangeError(
            "A forecast needs a result, and a limit above zero.", value=f"{empty:g}", expected="a limit above zero"
        )
    found: list[PointForecast | None] = [None] * len(histories)
    by_count: dict[int, list[int]] = {}
    for place, (segments, _) in enumerate(histories):
        by_count.setdefault(sum(len(s.results) for s in segments), []).append(place)
    for places in by_count.values():
        for place, made in zip(
            places, _of_one_count([histories[p] for p in places], prior, shared, robust), strict=True
        ):
            found[place] = made
    return tuple(f for f in found if f is not None)


def _of_one_count(
    histories: Sequence[tuple[Sequence[Segment], float]], prior: Prior, shared: float, robust: bool
) -> list[PointForecast]:
    names: dict[str, int] = {}
    rows = [
        (r.on.toordinal() - day, i, r.error, r.expanded, names.setdefault(r.standard, len(names)))
        for segments, _ in histories
        for i, s in enumerate(segments)
        for day in (s.start.toordinal(),)
        for r in s.results
    ]
    table = np.array(rows, np.float64).reshape(len(histories), -1, 5)
    limit = np.array([limit for _, limit in histories])[:, None]
    years, segment, error, standard = table[..., 0] / DAYS, table[..., 1], table[..., 2] / limit, table[..., 4]
    u = np.maximum(table[..., 3] / 2 / limit, LEAST_U)
    same = segment[:, :, None] == segment[:, None, :]
    shorter = np.minimum(years[:, :, None], years[:, None, :])
    between = same * (OFFSET**2 + prior.walk**2 * shorter) + prior.slope**2 * years[:, :, None] * years[:, None, :]
    alike = standard[:, :, None] == standard[:, None, :]
    between += alike * u[:, :, None] * u[:, None, :] * shared**2
    own = (WIDER if robust else 1.0) * u**2 * (1 - shared**2)
    solved, inverse, off = _solve(between, own, error)
    wild = np.flatnonzero((off > WILD**2).any(axis=1)) if robust else np.zeros(0, np.int64)
    weights = np.ones_like(error)
    for _ in range(ROUNDS):
        if not len(wild):
            break
        again = np.minimum((TAILS + 1) / (TAILS + off[wild]), 1.0)
        moved = np.max(np.abs(again - weights[wild]), axis=1)
        weights[wild] = again
        wild = wild[moved > HOLDS_STILL]
        solved[wild], inverse[wild], off[wild] = _solve(between[wild], own[wild], error[wild], weights[wild])
    made = []
    for p, (segments, half) in enumerate(histories):
        with_slope = prior.slope**2 * years[p]
        slope = float(with_slope @ solved[p])
        variance = prior.slope**2 - float(with_slope @ inverse[p] @ with_slope)
        posterior = Posterior(
            years=years[p], last=segment[p] == len(segments) - 1, prior=prior, solved=solved[p], inverse=inverse[p]
        )
        made.append(
            PointForecast(
                limit=half, start=segments[-1].start, slope=half * slope, u_slope=half * math.sqrt(max(variance, 0.0)),
                common=half * shared * float(u[p][-1]), jumped=bool(weights[p][-1] < JUMPED), posterior=posterior,
            )
        )  # fmt: skip
    return made


def _solve(
    between: Floats, own: Floats, error: Floats, weights: Floats | float = 1.0
) -> tuple[Floats, Floats, Floats]:
    """Return K^-1 y and K^-1 of many points at once, and how far each result is off, squared, in its own noise.

    Off is what is left of a result once the line, the walk and the standard are taken out, with how well that is known beside it.
    """
    noise = own / weights
    whole = between.copy()
    diagonal = np.arange(error.shape[1])
    whole[:, diagonal, diagonal] += noise
    inverse = np.linalg.inv(whole)
    solved = np.einsum("pij,pj->pi", inverse, error)
    left, spread = noise * solved, noise - noise**2 * inverse[:, diagonal, diagonal]
    off: Floats = (left**2 + np.maximum(spread, 0.0)) / np.maximum(own, LEAST_U**2)
    return solved, np.asarray(inverse, np.float64), off


def inside(mean: float, u: float, limit: float) -> float:
    """Return the probability that a normal lies within ±limit, all in one unit (by definition)."""
    root = math.sqrt(2) * u
    return 0.5 * (math.erf((limit - mean) / root) - math.erf((-limit - mean) / root))


def pooled(slopes: Sequence[tuple[float, float]], walk: float = WALK) -> Prior:
    """Return the prior of a kind from the slopes of its histories, as shares of the limit a year, each with its u.

    The usual spread counts as five histories (common practice, no source); each adds what its slope is beyond its own u, as in the
    method of moments of DerSimonian and Laird (1986).
    """
    if not slopes:
        return USUAL
    beyond = sum(max(slope**2 - u**2, 0.0) for slope, u in slopes)
    spread = math.sqrt((COUNTS_AS * SLOPE**2 + beyond) / (COUNTS_AS + len(slopes)))
    return Prior(spread, walk, len(slopes))
