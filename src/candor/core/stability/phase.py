"""A frequency by the phase it gains on a reference: offset and ageing, each with an uncertainty that holds for wandering too.

Phase is read with noise that is white, and wanders by a frequency whose noise is white; how much of each is not known. Differences
of phase then have a covariance of three diagonals, which a sine transform makes diagonal; offset and ageing are fitted by
generalized least squares at each ratio of the two, and averaged over the ratios by their restricted likelihood (flat in the
logarithm of the ratio, by definition of this house; Harville 1977 for the likelihood). Least squares on the phase alone is wrong by
ten times and more where it wanders: simulated in the tests, both ways.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import in_unit
from candor.core.worded import worded

Floats = NDArray[np.float64]
DAY = 86400.0
EVEN = 0.05  # of the step, that times may be uneven by
OUTLIER = 6.0  # robust deviations off its neighbours
RATIOS, WALKS = 30, 12
COVERS = 2.7  # u, that hold the offset in 95 logs of 100 or more whatever mix of noise there is: by simulation
FEW = 6.0  # a scatter known of m readings is taken 1 + 6/m times as large: by simulation, see the tests
SOUND = 6  # readings beside one that slipped are a log
LEAST_KEPT = 0.9  # of the readings: where more are outliers, it is not a log of one thing


@dataclass(frozen=True)
class PhaseLog:
    """A frequency by its phase.

    Attributes
    ----------
    offset, u_offset : float
        Fractional: seconds gained a second, in the middle of the log.
    ageing, u_ageing : float
        Fractional a day; 0 and not a number where none can be told.
    slips : int
        Whole cycles that the log was unwrapped by.
    scatter : float
        Of the phase about the line or curve, s.
    outliers : int
        Readings that were left out, far off both neighbours.
    """

    offset: float
    u_offset: float
    ageing: float
    u_ageing: float
    slips: int
    scatter: float
    outliers: int = 0


def phase_log(seconds: Sequence[float], phase: Sequence[float], period: float = 0.0, path: float = 0.0) -> PhaseLog:
    """Return fractional offset and ageing from a log of phase: offset = d(phase)/dt, turns/(f t).

    Parameters
    ----------
    seconds, phase : sequence of float
        s, at equal times; phase as time gained.
    period : float
        Of the signal compared, s: the log is unwrapped by it; 0 where it does not wrap.
    path : float
        Standard uncertainty of the reference's own fractional frequency over the log: its path.

    Raises
    ------
    RangeError
        Of fewer than four readings, of uneven times, or where more than a tenth are outliers; one slip
        beside six sound readings is none of that.
    """
    t, x = np.asarray(seconds, np.float64), np.asarray(phase, np.float64).copy()
    if len(t) < 4 or np.ptp(t) <= 0:
        words = worded("stability.a_frequency_by_its_phase_needs")
        raise RangeError(words, value=str(len(t)), expected=worded("stability.or_more_2"))
    every = even_step(t)
    slips = 0
    if period > 0:
        turned = np.unwrap(x, period=period)
        slips = round(float(np.max(np.abs(turned - x))) / period)
        x = turned
    outliers = _outliers_of(x)
    if np.mean(~outliers) < LEAST_KEPT and not (outliers.sum() == 1 and np.sum(~outliers) >= SOUND):
        raise RangeError(
            worded("stability.of_readings_are_far_off_both", sum=int(outliers.sum()), x=len(x)),
            value=str(int(outliers.sum())), expected=worded("stability.a_tenth_at_most"),
        )  # fmt: skip
    x[outliers] = np.interp(t[outliers], t[~outliers], x[~outliers])
    curved, level = _fitted(x, every, 2), _fitted(x, every, 1)
    ages = len(x) >= 5 and abs(curved[0][1]) > COVERS * curved[1][1]
    (offset, ageing), (u_offset, u_ageing) = curved if ages else ((level[0][0], 0.0), (level[1][0], math.nan))
    about = t - t.mean()
    off = x - offset * about - ageing * about**2 / 2
    return PhaseLog(
        offset=offset, u_offset=math.hypot(u_offset, path), ageing=ageing * DAY, u_ageing=u_ageing * DAY, slips=slips,
        scatter=float(np.std(off[~outliers], ddof=2)), outliers=int(outliers.sum()),
    )  # fmt: skip


def even_step(seconds: Floats) -> float:
    """Return the time between two readings, s.

    Raises
    ------
    RangeError
        Where times are uneven.
    """
    steps = np.diff(seconds)
    every = float(np.median(steps))
    uneven = int(np.argmax(np.abs(steps - every)))
    if abs(steps[uneven] - every) > EVEN * every:
        raise RangeError(
            worded("stability.the_readings_are_not_at_equal", steps=steps[uneven], seconds=seconds[uneven], every=every),
            value=f"{steps[uneven]:g}", expected=in_unit(every, "s", 6),
        )  # fmt: skip
    return every


def _outliers_of(x: Floats) -> NDArray[np.bool_]:
    """Say which readings are far off both neighbours: by the scatter of all such differences, so that wandering is not outliers."""
    off = np.zeros(len(x))
    off[1:-1] = x[1:-1] - (x[:-2] + x[2:]) / 2
    at = int(np.argmax(np.abs(off)))
    others = np.delete(np.abs(off[1:-1]), [i for i in (at - 2, at - 1, at) if 0 <= i < len(off) - 2])
    # What one outlier spoils is left aside: of a short log it would be most of it. Of few the scatter is poorly known.
    robust = 1.4826 * float(np.median(others)) * (1 + FEW / len(others)) if len(others) else np.inf
    steps = np.abs(np.diff(x))
    least = float(np.min(steps[steps > 1e-9 * np.ptp(x)], initial=np.inf))  # what it is written to, or goes in a step
    far = np.abs(off) > max(OUTLIER * robust, 3 * least)
    # An outlier spoils its neighbours' differences by half as much: only the worst of three is it.
    worst = np.abs(off) >= np.maximum(np.abs(np.roll(off, 1)), np.abs(np.roll(off, -1)))
    found: NDArray[np.bool_] = far & worst
    return found


def _fitted(x: Floats, every: float, columns: int) -> tuple[tuple[float, float], tuple[float, float]]:
    """Return offset and change a second, and their u, by generalized least squares over the ratios of the two noises.

    Parameters
    ----------
    x : ndarray, shape (n,)
        s.
    every : float
        s.
    columns : int
        1 for an offset, 2 with its change.
    """
    from scipy.fft import dst  # imported here: slow to load, and a window that starts needs no spectrum

    y = np.diff(x) / every
    count = len(y)
    along = np.arange(count) - (count - 1) / 2
    design = np.vander(along, columns, increasing=True)
    z, turned = dst(y, type=1, norm="ortho"), dst(design, type=1, norm="ortho", axis=0)
    bends = 2 - 2 * np.cos(np.pi * np.arange(1, count + 1) / (count + 1))
    dof = count - columns
    # From the first bend of the transform, about 10/n^2, under which no wandering can be seen, to where there is nothing else.
    ratios = np.logspace(1 - 2 * math.log10(count), 3, RATIOS)
    if columns == 2:
        # A frequency that walks looks like one that ages: its own share, of what bends the least, goes beside the others. What it
        # walks by is the inverse of the second difference, by definition.
        walks = np.concatenate(([0.0], bends[0] ** 2 * np.logspace(-1, 3 + 2 * math.log10(count), WALKS)))
        both = ratios[:, None, None] + bends + walks[None, :, None] / bends
        weights, walked = 1 / both.reshape(-1, count), np.tile(walks, len(ratios))
    else:
        weights, walked = 1 / (ratios[:, None] + bends), np.zeros(len(ratios))  # (ratios, n - 1)
    inverses = np.linalg.inv(np.einsum("rk,ki,kj->rij", weights, turned, turned))
    means = np.einsum("rij,rk,kj,k->ri", inverses, weights, turned, z, optimize=True)
    squares = np.maximum(np.einsum("rk,rk->r", weights, (z - means @ turned.T) ** 2), 1e-300)
    likely = np.log(weights).sum(axis=1) / 2 + np.linalg.slogdet(inverses)[1] / 2 - dof / 2 * np.log(squares)
    scale = squares / max(dof - 2, 0.5)  # Student's t of it
    variances = np.einsum("rii->ri", inverses) * scale[:, None]
    # The transform holds both ends of a walk; where it ends is free, and as much a change as an ageing is.
    variances[:, -1] += walked * scale / count
    share = np.exp(likely - likely.max())
    share /= share.sum()
    middle = share @ means
    spread = np.sqrt(share @ (variances + (means - middle) ** 2))
    if columns == 1:
        return (float(middle[0]), 0.0), (float(spread[0]), math.nan)
    return (float(middle[0]), float(middle[1]) / every), (float(spread[0]), float(spread[1]) / every)
