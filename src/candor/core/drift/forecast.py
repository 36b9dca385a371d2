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
from dataclasses import field

import numpy as np
from numpy.typing import NDArray

from candor.core.drift.history import DAYS, Segment
from candor.core.drift.posterior import OFFSET, Posterior, Scale
from candor.core.drift.prior import COUNTS_AS, USUAL, Prior
from candor.core.drift.walk_solve import Histories, WalkSolved, walk_solve
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

TAILS = 3.0  # degrees of freedom of the noise
WIDER = 1.2  # variance of the noise over what was stated
OUTLIER = 3.0  # standard deviations
ROUNDS = 12
JUMPED = 0.3  # weight of the newest result
SHARED = (
    0.5  # share of U that calibrations by one standard have in common, where nobody says (common practice, no source)
)
NEGLIGIBLE = 1e-3
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
        made = _forecasts([histories[p] for p in places], prior, solved=solved, data=data, chance=chance)
        for place, one in zip(places, made, strict=True):
            found[place] = one
    return tuple(f for f in found if f is not None)


@dataclass(frozen=True)
class _Table:
    """The results of points of one count, in limits: years, segments, standards, their part of u; of shape (points, results)."""

    years: Floats
    segment: Floats
    standard: Floats
    common: Floats


@dataclass(frozen=True)
class _Solved:
    """The solves of all points of one count with one size of slope and walk: K^-1 y, noise and weights of their results, shape
    (points, results); the slope and its u in limits a year; and the log evidence, of the results as they are, and with what lies
    far off weighed down."""

    solved: Floats
    noise: Floats
    weights: Floats
    slope: Floats
    u_slope: Floats
    evidence: Floats
    without_outliers: Floats


def _of_one_count(
    histories: Sequence[tuple[Sequence[Segment], float]], prior: Prior, shared: float, robust: bool
) -> tuple[tuple[_Solved, ...], _Table]:
    names: dict[str, int] = {}
    flat = [
        number
        for segments, _ in histories
        for i, s in enumerate(segments)
        for day in (s.start.toordinal(),)
        for r in s.results
        for number in (r.on.toordinal() - day, i, r.error, r.expanded, names.setdefault(r.standard, len(names)))
    ]
    table = np.array(flat, np.float64).reshape(len(histories), -1, 5)
    limit = np.array([limit for _, limit in histories])[:, None]
    years, segment, error, standard = table[..., 0] / DAYS, table[..., 1], table[..., 2] / limit, table[..., 4]
    u = np.maximum(table[..., 3] / 2 / limit, LEAST_U)
    data = _Table(years, segment, standard, shared * u)
    own = (WIDER if robust else 1.0) * u**2 * (1 - shared**2)
    columns, alone = _by_standard(data)
    sizes = np.array([(prior.slope * of_slope, prior.walk * of_walk) for of_slope, of_walk, _ in prior.scales])
    points, many = len(histories), len(sizes)
    slopes, walks = np.repeat(sizes[:, 0], points), np.repeat(sizes[:, 1], points)

    def each(of_points: Floats) -> Floats:  # for every size the same, results first
        return np.asarray(np.concatenate([of_points.swapaxes(0, 1)] * many, axis=1))

    begins = np.concatenate([np.ones((points, 1), bool), segment[:, 1:] != segment[:, :-1]], axis=1)
    asked = Histories(
        years=each(years), begins=each(begins) > 0, offset=OFFSET, error=each(error),
        columns=np.concatenate([(each(years) * slopes)[..., None], each(columns)], axis=2),
    )  # fmt: skip
    found, first, noise, weights = _weighed(asked, walks**2, own=each(own), alone=each(alone), robust=robust)
    solved = []
    for k in range(many):
        here = slice(k * points, (k + 1) * points)
        solved.append(
            _Solved(
                solved=found.solved[:, here].T, noise=noise[:, here].T, weights=weights[:, here].T,
                slope=slopes[here] * found.slope[here], u_slope=slopes[here] * np.sqrt(np.maximum(found.slope_left[here], 0.0)),
                evidence=first[here], without_outliers=found.evidence[here],
            )
        )  # fmt: skip
    return tuple(solved), data


def _by_standard(data: _Table) -> tuple[Floats, Floats]:
    """Return a column for every standard that a point was read against more than once, shape (points, results, columns), and the
    variance of what the others add, which each result has alone: shape (points, results)."""
    alike = data.standard[:, :, None] == data.standard[:, None, :]
    first = np.argmax(alike, axis=2)  # the place of the first result by the same standard
    alone = alike.sum(axis=2) == 1
    places = np.unique(first[~alone]) if not alone.all() else np.zeros(0, np.int64)
    columns = np.where((first[:, :, None] == places) & ~alone[:, :, None], data.common[:, :, None], 0.0)
    return columns, np.where(alone, data.common**2, 0.0)


def _weighed(
    asked: Histories, walks: Floats, own: Floats, alone: Floats, robust: bool
) -> tuple[WalkSolved, Floats, Floats, Floats]:
    """Solve, weigh down what lies far off until it holds still; return that, the first evidence, the own noise and the weights.

    How well the results go with it is said before anything is weighed down: a walk of many steps must not pass for a quiet one with
    many outliers.
    """
    weights = np.ones_like(own)
    found = walk_solve(asked, walks, own + alone)
    first = found.evidence.copy()
    off = _off(found, own, own)
    outlying = np.flatnonzero((off > OUTLIER**2).any(axis=0)) if robust else np.zeros(0, np.int64)
    for _ in range(ROUNDS):
        if not len(outlying):
            break
        again = np.minimum((TAILS + 1) / (TAILS + off[:, outlying]), 1.0)
        moved = np.max(np.abs(again - weights[:, outlying]), axis=0)
        outlying, again = outlying[moved > HOLDS_STILL], again[:, moved > HOLDS_STILL]
        weights[:, outlying] = again
        weighed = own[:, outlying] / again
        part = walk_solve(asked.of(outlying), walks[outlying], weighed + alone[:, outlying])
        off[:, outlying] = _off(part, weighed, own[:, outlying])
        for whole, of_part in (
            (found.solved, part.solved), (found.diagonal, part.diagonal), (found.evidence, part.evidence),
            (found.slope, part.slope), (found.slope_left, part.slope_left),
        ):  # fmt: skip
            whole[..., outlying] = of_part
    return found, first, own / weights, weights


def _off(found: WalkSolved, noise: Floats, own: Floats) -> Floats:
    """Return how far each result is off, squared, in its own noise: what is left of it once the line, the walk and the standard are
    taken out, with how well that is known beside it."""
    left, spread = noise * found.solved, noise - noise**2 * found.diagonal
    return np.asarray((left**2 + np.maximum(spread, 0.0)) / np.maximum(own, LEAST_U**2))


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
    histories: Sequence[tuple[Sequence[Segment], float]], prior: Prior, *, solved: tuple[_Solved, ...], data: _Table,
    chance: Floats,
) -> list[PointForecast]:  # fmt: skip
    made = []
    taken = np.where(chance > NEGLIGIBLE, chance, 0.0)
    taken /= taken.sum(axis=0)
    slopes, spreads = np.array([s.slope for s in solved]), np.array([s.u_slope for s in solved])
    slope = (taken * slopes).sum(axis=0)
    u_slope = np.sqrt(np.maximum((taken * (slopes**2 + spreads**2)).sum(axis=0) - slope**2, 0.0))
    # Whether the newest jumped is asked of what those before it are like: it must not make its own walk.
    quiet = _normed(np.array([s.without_outliers for s in solved]))
    newest = (quiet * np.array([s.weights[:, -1] for s in solved])).sum(axis=0)
    sizes = [(prior.slope * of_slope, prior.walk * of_walk) for of_slope, of_walk, _ in prior.scales]
    for p, (segments, half) in enumerate(histories):
        scales = tuple(
            Scale(slope=of_slope, walk=of_walk, chance=share, solved=s.solved[p], noise=s.noise[p])
            for (of_slope, of_walk), s, share in zip(sizes, solved, taken[:, p].tolist(), strict=True)
            if share > 0
        )
        posterior = Posterior(
            years=data.years[p],
            segment=data.segment[p],
            standard=data.standard[p],
            common=data.common[p],
            scales=scales,
        )
        made.append(
            PointForecast(
                limit=half, start=segments[-1].start, slope=half * float(slope[p]), u_slope=half * float(u_slope[p]),
                common=half * float(data.common[p][-1]), jumped=bool(newest[p] < JUMPED), posterior=posterior,
            )
        )  # fmt: skip
    return made


def inside(mean: float, u: float, limit: float) -> float:
    """Return the probability that a normal lies within ±limit, all in one unit (by definition)."""
    root = math.sqrt(2) * u
    return 0.5 * (math.erf((limit - mean) / root) - math.erf((-limit - mean) / root))
