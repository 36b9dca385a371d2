"""Where a point will be: a line with a prior, a random walk about it, one offset for each standard; robust against outliers.

Within a segment the true error is e(t) = a + b t + W(t): a free offset a, a slope b that all segments share, and a random walk W.
The prior of b is normal about 0 with L/10 a year, that of W is L/20 a root year (common practice, no source; the first is pooled by
kind as histories grow). How large both really are nobody knows: four sizes, a third to four times the usual, stand beside each
other, weighed by the evidence of the history and of all histories asked with it. A result adds what its standard is off by, one
offset for all results by that standard, and its own noise.

All of it is Gaussian, so the posterior is a linear solve (Rasmussen and Williams, Gaussian Processes for Machine Learning, 2006,
2.2). Where a result lies more than three standard deviations off, its point's noise is made Student's with three degrees of
freedom by weighting anew until it holds still (Lange, Little and Taylor 1989), so that one outlier does not carry it. The noise
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
from candor.core.drift.prior import COUNTS_AS, USUAL, Prior
from candor.core.errors import RangeError
from candor.core.worded import worded

OFFSET = 10.0  # of the limit: the offset of a segment is as good as free
TAILS = 3.0  # degrees of freedom of the noise
WIDER = 1.2  # variance of the noise over what was stated
OUTLIER = 3.0  # standard deviations
ROUNDS = 12
JUMPED = 0.3  # weight of the newest result
SHARED = (
    0.5  # share of U that calibrations by one standard have in common, where nobody says (common practice, no source)
)
NEGLIGIBLE = 1e-3
HOLDS = 1.959964  # standard deviations of a normal either side: 95 %
LEAST_U, HOLDS_STILL = 1e-6, 1e-3
Floats = NDArray[np.float64]


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
        The newest result lies so far from its history that it was weighed down: an outlier, or something happened.
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
class _Scale:
    """The solve of one point with slope and walk of one size, limits a year and a root year, and its probability."""

    slope: float
    walk: float
    chance: float
    solved: Floats
    inverse: Floats


@dataclass(frozen=True)
class Posterior:
    """Of the true error in limits, given the results of one point: their years, which are of the last segment, and the solves."""

    years: Floats
    last: NDArray[np.bool_]
    scales: tuple[_Scale, ...]

    def over(self, years: Floats) -> tuple[Floats, Floats]:
        """Return means and variances at years since the start of the last segment, in limits and their square.

        The variance is that of the normal whose 95 per cent reach as far as those of all sizes of slope and walk together.
        """
        found = [self._of(scale, years) for scale in self.scales]
        if len(found) == 1:
            return found[0]
        chances = np.array([scale.chance for scale in self.scales])[:, None]
        means, spreads = np.array([m for m, _ in found]), np.sqrt(np.array([v for _, v in found]))
        mean = (chances * means).sum(axis=0)
        return mean, (_reach(mean - means, spreads, chances) / HOLDS) ** 2

    def _of(self, scale: _Scale, years: Floats) -> tuple[Floats, Floats]:
        walk = scale.walk**2 * np.maximum(np.minimum(years[:, None], self.years[None, :]), 0.0)
        across = self.last[None, :] * (OFFSET**2 + walk) + scale.slope**2 * years[:, None] * self.years[None, :]
        own = OFFSET**2 + scale.walk**2 * np.maximum(years, 0.0) + scale.slope**2 * years**2
        variance = own - ((across @ scale.inverse) * across).sum(axis=1)
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
        Whether one outlier is weighed down; off to compare with published fits.

    Raises
    ------
    RangeError
        Where a point has no result or no limit.
    """
    empty = next((limit for segments, limit in histories if not segments or not limit > 0), None)
    if empty is not None:
        raise RangeError(
            worded("drift.a_forecast_needs_a_result_and"),
            value=f"{empty:g}",
            expected=worded("drift.a_limit_above_zero"),
        )
    found: list[PointForecast | None] = [None] * len(histories)
    by_count: dict[int, list[int]] = {}
    for place, (segments, _) in enumerate(histories):
        by_count.setdefault(sum(len(s.results) for s in segments), []).append(place)
    asked = [_of_one_count([histories[p] for p in places], prior, shared, robust) for places in by_count.values()]
    chances = _chances_of_scales([solved for solved, _ in asked], prior)
    for places, (solved, data), chance in zip(by_count.values(), asked, chances, strict=True):
        made = _forecasts([histories[p] for p in places], prior, shared, solved=solved, data=data, chance=chance)
        for place, one in zip(places, made, strict=True):
            found[place] = one
    return tuple(f for f in found if f is not None)


@dataclass(frozen=True)
class _Table:
    """The results of points of one count, in limits: years, segments and standard uncertainties, all of shape (points, results)."""

    years: Floats
    segment: Floats
    u: Floats


@dataclass(frozen=True)
class _Solved:
    """The solves of all points of one count with one size of slope and walk, the weights of their results, and the log evidence:
    of the results as they are, and with what lies far off weighed down."""

    solved: Floats
    inverse: Floats
    weights: Floats
    evidence: Floats
    without_outliers: Floats


def _of_one_count(
    histories: Sequence[tuple[Sequence[Segment], float]], prior: Prior, shared: float, robust: bool
) -> tuple[tuple[_Solved, ...], _Table]:
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
    shorter = same * np.minimum(years[:, :, None], years[:, None, :])
    product = years[:, :, None] * years[:, None, :]
    alike = standard[:, :, None] == standard[:, None, :]
    fixed = same * OFFSET**2 + alike * u[:, :, None] * u[:, None, :] * shared**2
    own = (WIDER if robust else 1.0) * u**2 * (1 - shared**2)
    found = []
    for of_slope, of_walk, _ in prior.scales:
        between = fixed + (prior.walk * of_walk) ** 2 * shorter + (prior.slope * of_slope) ** 2 * product
        found.append(_weighed(between, own, error, robust))
    return tuple(found), _Table(years, segment, u)


def _weighed(between: Floats, own: Floats, error: Floats, robust: bool) -> _Solved:
    """Solve, weigh down what lies far off until it holds still, and say how well the results go with it.

    How well is said before anything is weighed down: a walk of many steps must not pass for a quiet one with many outliers.
    """
    solved, inverse, off = _solve(between, own, error)
    evidence = _evidence(solved, inverse, error)
    outlying = np.flatnonzero((off > OUTLIER**2).any(axis=1)) if robust else np.zeros(0, np.int64)
    weights, weighed = np.ones_like(error), outlying
    for _ in range(ROUNDS):
        if not len(outlying):
            break
        again = np.minimum((TAILS + 1) / (TAILS + off[outlying]), 1.0)
        moved = np.max(np.abs(again - weights[outlying]), axis=1)
        weights[outlying] = again
        outlying = outlying[moved > HOLDS_STILL]
        solved[outlying], inverse[outlying], off[outlying] = _solve(
            between[outlying], own[outlying], error[outlying], weights[outlying]
        )
    without = evidence.copy()  # only of those that were weighed down is it another
    without[weighed] = _evidence(solved[weighed], inverse[weighed], error[weighed])
    return _Solved(
        solved=solved, inverse=inverse, weights=weights, evidence=evidence, without_outliers=without,
    )  # fmt: skip


def _evidence(solved: Floats, inverse: Floats, error: Floats) -> Floats:
    found: Floats = 0.5 * np.linalg.slogdet(inverse)[1] - 0.5 * (error * solved).sum(axis=1)
    return found


def _chances_of_scales(asked: Sequence[tuple[_Solved, ...]], prior: Prior) -> list[Floats]:
    """Return for the points of each count, shape (scales, points), how probable each size of slope and walk is.

    What all points asked together say of it stands before each one's own evidence, the usual counting as five of them.
    """
    usual = np.array([chance for _, _, chance in prior.scales])
    logs = [np.array([s.evidence for s in solved]) for solved in asked]
    before = usual
    for _ in range(ROUNDS if len(usual) > 1 else 1):
        found = [_normed(log + np.log(before)[:, None]) for log in logs]
        together = sum(f.sum(axis=1) for f in found)
        before = (COUNTS_AS * usual + together) / (COUNTS_AS + sum(f.shape[1] for f in found))
    return found


def _normed(logs: Floats) -> Floats:
    of_all = np.exp(logs - logs.max(axis=0))
    return np.asarray(of_all / of_all.sum(axis=0), np.float64)


def _forecasts(
    histories: Sequence[tuple[Sequence[Segment], float]], prior: Prior, shared: float, *, solved: tuple[_Solved, ...], data: _Table,
    chance: Floats,
) -> list[PointForecast]:  # fmt: skip
    made = []
    whole = np.where(chance > NEGLIGIBLE, chance, 0.0).sum(axis=0)
    for p, (segments, half) in enumerate(histories):
        scales = tuple(
            _Scale(
                slope=prior.slope * of_slope, walk=prior.walk * of_walk, chance=float(chance[i, p] / whole[p]), solved=s.solved[p],
                inverse=s.inverse[p],
            )
            for i, ((of_slope, of_walk, _), s) in enumerate(zip(prior.scales, solved, strict=True))
            if chance[i, p] > NEGLIGIBLE
        )  # fmt: skip
        slope, u_slope = _slope_of(scales, data.years[p])
        # Whether the newest jumped is asked of what those before it are like: it must not make its own walk.
        quiet = _normed(np.array([[s.without_outliers[p]] for s in solved]))[:, 0]
        newest = float(sum(q * s.weights[p][-1] for q, s in zip(quiet, solved, strict=True)))
        posterior = Posterior(years=data.years[p], last=data.segment[p] == len(segments) - 1, scales=scales)
        made.append(
            PointForecast(
                limit=half, start=segments[-1].start, slope=half * slope, u_slope=half * u_slope,
                common=half * shared * float(data.u[p][-1]), jumped=newest < JUMPED, posterior=posterior,
            )
        )  # fmt: skip
    return made


def _slope_of(scales: Sequence[_Scale], years: Floats) -> tuple[float, float]:
    """Return mean and standard deviation of the slope, in limits a year, of all sizes together."""
    means, squares = [], []
    for scale in scales:
        with_slope = scale.slope**2 * years
        mean = float(with_slope @ scale.solved)
        variance = scale.slope**2 - float(with_slope @ scale.inverse @ with_slope)
        means.append(scale.chance * mean)
        squares.append(scale.chance * (max(variance, 0.0) + mean**2))
    whole = sum(means)
    return whole, math.sqrt(max(sum(squares) - whole**2, 0.0))


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
