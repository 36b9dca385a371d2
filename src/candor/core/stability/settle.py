"""Settling after switching on: where it will end, when the rest is under what is asked, and whether that can be said at all.

y(t) = y_inf + A exp(-t/tau) is fitted robustly (soft L1, Holland and Welsch 1977, through SciPy's trust region) for its time
constant and for what lies far off. What is still to go, and when it is under a part of the limit, is of one process or two, weighed
over all time constants they may have (`processes`): a slow one that hides in the scatter is in what is said. Nothing is said before
the record spans two time constants of the slower one, nor where a fit in the logarithm of time, which never ends, fits as well and
moves on at another pace.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.stability.processes import processes_of
from candor.core.worded import worded

Floats = NDArray[np.float64]
LEAST = 6  # readings: three are fitted
SPANS = 2.0  # tau that the record must span
AGREES = 2.0  # times: how far the paces of both fits may be apart
OUTLIER = 5.0  # times the scatter: set aside
HIGH, SURE = 0.975, 0.975
MOSTLY = 0.7  # of what it may be: then it is said to be so
MOST_LOG = 100.0  # of a range of time constants: beyond it there is none
LARGEST = 1e100  # beyond it squares have no place among numbers


@dataclass(frozen=True)
class Settling:
    """What a record of settling says.

    Attributes
    ----------
    final, u_final : float
        Where it ends, and its standard uncertainty, in the unit of the readings; not numbers where nothing can be said.
    tau, tau_low, tau_high : float
        Time constant and its 95 per cent range, s.
    scatter : float
        Of the readings about the fit, in their unit.
    rest : float
        What is still to go at the end of the record, in their unit, signed.
    ready_s, ready_low, ready_high : float
        When the rest is under what was asked, s after the first reading: the middle, and between what it is with 95 per cent.
    settled : bool
        The rest is under what was asked with 95 per cent, whether by one process or by two.
    can_say : bool
    why : str
        Why nothing can be said, or what holds.
    """

    final: float
    u_final: float
    tau: float
    tau_low: float
    tau_high: float
    scatter: float
    rest: float
    ready_s: float
    ready_low: float
    ready_high: float
    settled: bool
    can_say: bool
    why: str


def fit_settling(
    seconds: Sequence[float], values: Sequence[float], robust: bool = True, from_zero: bool = False
) -> tuple[Floats, Floats, float]:
    """Return y_inf, A and tau of a record with their covariance, and the scatter about the fit.

    Parameters
    ----------
    seconds, values : sequence of float
        As many of both, in order of time; s, counted from the first.
    robust : bool
        Whether an outlier is weighed down; off to compare with published fits.
    from_zero : bool
        A = -y_inf and time counts from 0: y_inf (1 - exp(-t/tau)), in the unit of the readings.

    Raises
    ------
    RangeError
        Of too few readings, of one moment, of what is not a reading, or where the fit does not hold.
    """
    from scipy.optimize import least_squares

    t, y = np.asarray(seconds, np.float64), np.asarray(values, np.float64)
    if len(t) < LEAST or np.ptp(t) <= 0:
        words = worded("stability.readings_settling_needs_or_more_over", t=len(t), least=LEAST)
        raise RangeError(words, value=str(len(t)), expected=str(LEAST))
    if not np.all(np.abs(y) < LARGEST):
        worst = float(y[int(np.argmax(np.abs(y)))])
        raise RangeError(
            worded("stability.is_not_a_reading_of_anything", worst=worst, largest=LARGEST), value=f"{worst:g}"
        )
    span, size = float(np.ptp(t)), max(float(np.ptp(y)), 1e-300)
    x = (t if from_zero else t - t[0]) / span
    level = 0.0 if from_zero else float(np.median(y[-max(len(y) // 5, 1) :]))
    z = (y - level) / size

    def left(p: Floats) -> Floats:
        falls = np.exp(-x * math.exp(-p[-1]))
        result: Floats = (p[0] * (1 - falls) if from_zero else p[0] + p[1] * falls) - z
        return result

    def slopes(p: Floats) -> Floats:
        rate = math.exp(-p[-1])
        falls = np.exp(-x * rate)
        by_tau = falls * x * rate  # of the fall, by the logarithm of the time constant
        return np.column_stack((1 - falls, -p[0] * by_tau) if from_zero else (np.ones_like(x), falls, p[1] * by_tau))

    noise = max(
        float(np.median(np.abs(np.diff(z)))) / 0.954, 1e-9
    )  # of a normal, the median of |difference| is 0.954 sigma
    loss, tight = ("soft_l1", 1e-9) if robust else ("linear", 1e-15)
    best = None
    for tau in (0.05, 0.15, 0.4, 1.0, 3.0):
        start = np.array([1.0, math.log(tau)] if from_zero else [0.0, z[0], math.log(tau)])
        found = least_squares(
            left, start, jac=slopes, loss=loss, f_scale=2 * noise, xtol=tight, ftol=tight, gtol=tight
        )
        if best is None or found.cost < best.cost:
            best = found
    if best is None or not np.all(np.isfinite(best.x)):
        raise RangeError(worded("stability.no_settling_could_be_fitted_to"))
    spread = _spread(left(best.x), len(t), len(best.x), robust)
    covariance = np.linalg.pinv(best.jac.T @ best.jac) * spread**2
    tau = span * math.exp(best.x[-1])
    if from_zero:
        turn = np.array([[size, 0.0], [-size, 0.0], [0.0, tau]])
        made = np.array([size * best.x[0], -size * best.x[0], tau])
    else:
        turn = np.diag([size, size, tau])
        made = np.array([level + size * best.x[0], size * best.x[1], tau])
    return made, turn @ covariance @ turn.T, size * spread


def _spread(left: Floats, count: int, fitted: int, robust: bool) -> float:
    if robust:
        middle = float(np.median(np.abs(left - np.median(left))))
        return max(1.4826 * middle * math.sqrt(count / (count - fitted)), 1e-12)
    return max(math.sqrt(float(left @ left) / (count - fitted)), 1e-15)


def settling(seconds: Sequence[float], values: Sequence[float], part: float, robust: bool = True) -> Settling:
    """Return what a record of settling says, with the time at which the rest is under `part`.

    Parameters
    ----------
    seconds, values : sequence of float
    part : float
        How little may be left, in the unit of the readings: a tenth of the limit is usual (common practice, no source).
    robust : bool

    Raises
    ------
    RangeError
        As fit_settling, and where `part` is not above zero.
    """
    if not part > 0:
        raise RangeError(worded("stability.may_be_left_a_part_of", part=part), value=f"{part:g}")
    fitted, covariance, scatter = fit_settling(seconds, values, robust)
    t, y = np.asarray(seconds, np.float64), np.asarray(values, np.float64)
    final, size, tau = (float(v) for v in fitted)
    off = y - (final + size * np.exp(-(t - t[0]) / tau))
    sound = np.abs(off) <= OUTLIER * max(scatter, _noise(y))
    # An outlier of before is passed over; the newest may be how it stands now.
    jumped = not sound[-1] and abs(off[-1]) > part
    t, y = (t[sound], y[sound]) if np.sum(sound) >= LEAST else (t, y)
    may_be = processes_of(t, y)
    ready = may_be.ready(part)
    left = may_be.rest(np.array([may_be.end]))[:, 0]
    ready_low, ready_s, ready_high = (float(np.quantile(ready, q, method="higher")) for q in (1 - HIGH, 0.5, HIGH))
    settled = not jumped and float(np.mean(ready <= may_be.end)) >= SURE
    # How much of what may still matter is slower than half of the record.
    slow = float(np.mean((np.abs(left) > part) & (may_be.slow() > may_be.end / SPANS)))
    u_tau = math.sqrt(max(float(covariance[2, 2]), 0.0)) / tau
    low, high = tau * math.exp(-min(2 * u_tau, MOST_LOG)), tau * math.exp(min(2 * u_tau, MOST_LOG))
    if may_be.two > 0.5 and scatter > 1.5 * may_be.scatter:
        low, tau, high = (float(q) for q in np.quantile(may_be.slow(), (1 - HIGH, 0.5, HIGH)))
    flat = settled and np.ptp(y) <= max(4 * scatter, part)
    why = ""
    if jumped:
        why = worded("stability.the_newest_reading_is_far_off")
    elif flat:
        why = worded("stability.it_has_not_moved_by_what")
    elif settled:
        why = "the rest is under what was asked with 95 %, by one process or two"
    elif slow > MOSTLY:
        spans = may_be.end / float(np.median(may_be.slow()))
        why = worded("stability.the_record_spans_time_constants_of", spans=spans)
    elif not _paces_agree(t, y, float(np.median(left)), tau, part):
        why = worded("stability.a_fit_that_never_ends_fits")
    elif math.isinf(ready_high):
        why = worded("stability.how_long_the_slower_process_takes")
    can_say = settled or not why
    if can_say and not why:
        why = worded("stability.it_will_be_when_the_rest")
    ready_low, ready_s, ready_high = (0.0 if flat else r for r in (ready_low, ready_s, ready_high))
    return Settling(
        final=float(np.mean(may_be.final)) if can_say else math.nan, u_final=float(np.std(may_be.final)), tau=tau, tau_low=low,
        tau_high=high, scatter=scatter, rest=float(np.median(left)), ready_s=ready_s, ready_low=ready_low, ready_high=ready_high,
        settled=bool(settled), can_say=bool(can_say), why=why,
    )  # fmt: skip


def _noise(y: Floats) -> float:
    """The standard deviation of readings by their differences, which what settles slowly hardly moves."""
    return float(np.median(np.abs(np.diff(y)))) / 0.954


def _paces_agree(t: Floats, y: Floats, rest: float, tau: float, part: float) -> bool:
    """Whether a fit in the logarithm of time moves on over the next tau by as much, within a factor of two."""
    x = t - t[0] + max(float(t[1] - t[0]), 1e-9)
    (_, slope), left = _line(np.log(x), y)
    _, left_of_exponential = _line(np.exp(-(t - t[0]) / tau), y)
    log_moves, moves = abs(slope * math.log((x[-1] + tau) / x[-1])), abs(rest) * (1 - math.exp(-1))
    if max(log_moves, moves) <= part or left > 2 * left_of_exponential:
        return True  # nothing is left that matters, or time's logarithm does not fit
    return bool(max(log_moves, moves) <= AGREES * max(min(log_moves, moves), 1e-300))


def _line(x: Floats, y: Floats) -> tuple[Floats, float]:
    """Return a line's intercept and slope by least squares, and the squares that it leaves."""
    design = np.column_stack((np.ones(len(x)), x))
    fitted, *_ = np.linalg.lstsq(design, y, rcond=None)
    left = y - design @ fitted
    return np.asarray(fitted, np.float64), float(left @ left)
