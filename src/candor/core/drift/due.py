"""When an instrument is due: by the probability that it is still in tolerance, by the staircase, or by the custom of its kind.

ILAC-G24/OIML D 10 lists the methods (from memory): automatic or staircase, control chart, calendar time, in-use time.
What is said first here is the day on which the probability of being in tolerance falls under the target.
"""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from candor.core.drift.forecast import PointForecast, forecast
from candor.core.drift.history import DAYS, Calibration, Segment
from candor.core.drift.prior import USUAL, Prior
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

Method = Literal["forecast", "staircase", "custom"]
TARGET = 0.95
LONGEST, SHORTEST = 10.0, 1 / 12  # years: beyond nobody knows, below nobody comes
Floats = NDArray[np.float64]
STEP_DAYS = 30.0
NODES = 12  # of the quadrature over what the points have in common
LONGER, TIGHTER = 1.2, 0.7  # the staircase's steps; common practice, no source
CUSTOM = {
    "meter": 12,
    "tube tester": 12,
    "calibrator": 12,
    "oscilloscope": 12,
    "tube as a standard": 12,
    "generator": 12,
}
ADJUST_BELOW = 0.7  # |e| + U under so much of the limit is left alone, where there is no history


@dataclass(frozen=True)
class DueReason:
    """Why a day: by the forecast, the staircase, or the custom of its kind.

    Attributes
    ----------
    kind : str
        "falls" under the target on that day; "holds" as long as anybody knows; "under" it today; the newest result "jumped"; the
        interval is "cut", "longer" or "kept"; "custom".
    point : str
        That decides, where one does.
    target, chance : float
        The probability asked for, and that of the point today.
    share, spread : float
        Its expected error on the day and how wide 95 per cent of it is, in its limit.
    months : float
        Of the custom.
    left_out : tuple of str
        Points whose readings are too coarse to be told at the target on any day.
    """

    kind: Literal["falls", "holds", "under", "jumped", "cut", "longer", "kept", "custom"]
    point: str = ""
    target: float = TARGET
    chance: float = math.nan
    share: float = math.nan
    spread: float = math.nan
    months: float = 0.0
    left_out: tuple[str, ...] = ()


@dataclass(frozen=True)
class Due:
    """A day and why.

    Attributes
    ----------
    on : date
    why : DueReason
    worst : str
        The point that decides it, or nothing.
    probability : float
        That all are in tolerance on that day; not a number where no method says so.
    """

    on: dt.date
    why: DueReason
    worst: str = ""
    probability: float = math.nan


def all_in(points: Sequence[PointForecast], on: dt.date) -> float:
    """Return the probability that all points are in tolerance on a day; see chances."""
    return float(chances(points, on, np.zeros(1))[0])


def chances(points: Sequence[PointForecast], start: dt.date, days: Floats) -> Floats:
    """Return the probability that all points are in tolerance, at days after a start, from 0 to 1.

    What they have in common, the offset of one standard, is integrated over (Gauss and Hermite, 12 nodes, by definition of the
    expectation); given it they are taken as independent.
    """
    from scipy.special import erf

    nodes, weights = np.polynomial.hermite_e.hermegauss(NODES)
    of_all = np.ones((len(days), NODES))
    for p in points:
        mean, variance = p.over(((start - p.start).days + days) / DAYS)
        common = np.minimum(p.common, 0.95 * np.sqrt(variance))
        at = mean[:, None] - common[:, None] * nodes[None, :]
        root = np.sqrt(2 * (variance - common**2))[:, None]
        of_all *= 0.5 * (erf((p.limit - at) / root) - erf((-p.limit - at) / root))
    found: Floats = of_all @ weights / math.sqrt(2 * math.pi)
    return found


def due_of_all(
    points: Mapping[str, PointForecast], today: dt.date, otherwise: Due, target: float = TARGET
) -> tuple[Due, tuple[str, ...]]:
    """Return the day by forecast of the points that can be told at all, and the names of those that cannot and are not counted.

    A point whose U is near its limit or over it is in doubt on the day it is read, however it stands: it says nothing of how long
    the others will hold. The coarsest are left out until the rest, had all read right, would be in tolerance with the target on
    the day they were read. `otherwise` holds where none is left. Raises as due_by_forecast.
    """
    best = {name: p.at_best() for name, p in points.items()}
    finest = sorted(points, key=best.__getitem__, reverse=True)
    together = np.cumprod(
        [best[name] for name in finest]
    )  # it only falls: where it is under the target, the rest is too coarse
    left_out = finest[int(np.sum(together >= target)) :][::-1]
    told = {name: p for name, p in points.items() if name not in left_out}
    found = due_by_forecast(told, today, target) if told else otherwise
    if not left_out:
        return found, ()
    return replace(found, why=replace(found.why, target=target, left_out=tuple(left_out))), tuple(left_out)


def due_by_forecast(points: Mapping[str, PointForecast], today: dt.date, target: float = TARGET) -> Due:
    """Return the first day on which the probability that all points are in tolerance is under the target.

    Parameters
    ----------
    points : mapping of str to PointForecast
        By name, at least one.
    today : date
    target : float
        From 0 to 1.

    Raises
    ------
    RangeError
        Where there is no point.
    """
    if not points:
        raise RangeError(worded("drift.no_point_has_a_history_yet"))
    jumped = next((name for name, p in points.items() if p.jumped), "")
    if jumped:
        return Due(today, DueReason("jumped", jumped, target), jumped)
    every = list(points.values())
    coarse = np.arange(0.0, LONGEST * DAYS + STEP_DAYS, STEP_DAYS)
    under = np.flatnonzero(chances(every, today, coarse) < target)
    if not len(under):
        last = today + dt.timedelta(days=int(coarse[-1]))
        return Due(last, DueReason("holds", target=target))
    first = int(under[0])
    if first == 0:
        worst = _worst(points, today)
        chance = points[worst].in_tolerance(today)
        return Due(today, DueReason("under", worst, target, chance), worst, all_in(every, today))
    fine = np.arange(coarse[first - 1], coarse[first] + 1)
    of_days = chances(every, today, fine)
    place = int(np.flatnonzero(of_days < target)[0])
    on = today + dt.timedelta(days=int(fine[place]))
    worst = _worst(points, on)
    at, u = points[worst].at(on)
    limit = points[worst].limit
    why = DueReason("falls", worst, target, share=at / limit, spread=2 * u / limit)
    return Due(on, why, worst, float(of_days[place]))


def _worst(points: Mapping[str, PointForecast], on: dt.date) -> str:
    return min(points, key=lambda name: points[name].in_tolerance(on))


def due_by_staircase(last: Calibration, limit: float, interval_years: float) -> Due:
    """Return the day by the staircase: the last interval, years, a fifth longer where it came back well inside, else shorter.

    Well inside is |e| + U under 0.7 of the limit; outside it the interval is cut to 0.7 of itself (common practice, no source;
    ILAC-G24, method 1, from memory). Error, U and limit in one unit.
    """
    kind: Literal["cut", "longer", "kept"]
    if abs(last.error) > limit:
        times, kind = TIGHTER, "cut"
    elif abs(last.error) + last.expanded < ADJUST_BELOW * limit:
        times, kind = LONGER, "longer"
    else:
        times, kind = 1.0, "kept"
    years = min(max(interval_years * times, SHORTEST), LONGEST)
    return Due(last.on + dt.timedelta(days=round(years * DAYS)), DueReason(kind))


def due_by_custom(kind: str, since: dt.date) -> Due:
    """Return the day by what is usual for a kind of instrument: 12 months (common practice, no source)."""
    months = next((m for name, m in CUSTOM.items() if name in kind.casefold()), 12)
    return Due(since + dt.timedelta(days=round(months * DAYS / 12)), DueReason("custom", months=months))


@dataclass(frozen=True)
class Advice:
    """Whether to adjust a point that is in tolerance.

    Attributes
    ----------
    adjust : bool
    left, adjusted : date
        Due if it is left as it is, and if it is adjusted to nothing.
    kind : str
        The newest result "jumped"; the reading is too "coarse" to adjust by; by what is "likely"; or it stands "alone", without
        a history.
    share : float
        U of the newest result, in its limit.
    chance : float
        Of being in tolerance on the day `due`.
    due : date
    """

    adjust: bool
    left: dt.date
    adjusted: dt.date
    kind: Literal["jumped", "coarse", "likely", "alone"]
    share: float
    chance: float
    due: dt.date


def adjust_or_leave(
    segments: Sequence[Segment],
    limit: float,
    today: dt.date,
    due: dt.date,
    prior: Prior = USUAL,
    target: float = TARGET,
) -> Advice:
    """Say whether to adjust a point, with the day it is due either way.

    Leave it where the probability of being in tolerance on the day it is due reaches the target; where it has one result and no
    more, also where |e| + U is under 0.7 of the limit (common practice, no source). Leave it too where U alone is more than that
    and it would be no surer once adjusted: to adjust by such a reading is to move it about. Adjusting begins a new segment at
    nothing, known no better than it was read.

    Parameters
    ----------
    segments : sequence of Segment
    limit : float
    today, due : date
    prior : Prior
    target : float

    Raises
    ------
    RangeError
        As forecast_all.
    """
    last = segments[-1].results[-1]
    as_is = forecast(segments, limit, prior)
    begun = Segment((replace(last, on=today, error=0.0, when="left"),))
    after = forecast([*segments, begun], limit, prior)
    days = [due_by_forecast({"it": f}, today, target).on for f in (as_is, after)]
    share, chance = last.expanded / limit, as_is.in_tolerance(due)

    def advice(adjust: bool, kind: Literal["jumped", "coarse", "likely", "alone"]) -> Advice:
        left, adjusted = (today, today) if kind == "jumped" else days
        return Advice(adjust=adjust, left=left, adjusted=adjusted, kind=kind, share=share, chance=chance, due=due)

    if as_is.jumped:
        return advice(False, "jumped")
    alone = len(segments) == 1 and len(segments[0].results) == 1
    small = alone and abs(last.error) + last.expanded < ADJUST_BELOW * limit
    leave = chance >= target or small
    if not leave and last.expanded >= ADJUST_BELOW * limit and after.in_tolerance(due) < target:
        return advice(False, "coarse")
    return advice(not leave, "alone" if alone and chance < target else "likely")
