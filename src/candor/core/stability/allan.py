"""Allan deviations of a frequency, or of anything read at equal times; and a frequency by the phase it gains.

After NIST Special Publication 1065 (Riley 2008), 5.2: simple, overlapping, modified and Hadamard. Held to its nine-point set and
to a published implementation in the tests.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import RangeError

Floats = NDArray[np.float64]
Kind = Literal["simple", "overlapping", "modified", "hadamard"]
KINDS: tuple[Kind, ...] = ("simple", "overlapping", "modified", "hadamard")


@dataclass(frozen=True)
class Deviation:
    """A deviation at an averaging time.

    Attributes
    ----------
    seconds : float
    value, u : float
        In the unit of the readings; u by the number of differences that are independent.
    count : int
        Differences it is made of.
    """

    seconds: float
    value: float
    u: float
    count: int


def deviations(
    values: Sequence[float], every_s: float, kind: Kind = "overlapping", averaged: Sequence[int] = ()
) -> tuple[Deviation, ...]:
    """Return Allan deviations of readings at equal times.

    Parameters
    ----------
    values : sequence of float
        Fractional frequency, or any reading.
    every_s : float
        Between two of them, s.
    kind : str
    averaged : sequence of int
        How many readings are averaged, for each; powers of two where nothing is said.

    Raises
    ------
    RangeError
        Of fewer than three readings, or a time not above zero.
    """
    y = np.asarray(values, np.float64)
    if len(y) < 3 or not every_s > 0:
        raise RangeError(
            "An Allan deviation needs three readings or more at equal times.", value=str(len(y)), expected="3 or more"
        )
    phase = np.concatenate(([0.0], np.cumsum(y))) * every_s
    counts = tuple(averaged) or tuple(2**i for i in range(int(math.log2(max(len(y) // 2, 1))) + 1))
    found = []
    for m in counts:
        squares, count = _differences(phase, m, kind)
        if count < 1:
            continue
        tau = m * every_s
        scale = (6.0 if kind == "hadamard" else 2.0) * tau**2
        value = math.sqrt(squares / count / scale)
        independent = max(len(y) // m - (2 if kind == "hadamard" else 1), 1)
        found.append(Deviation(tau, value, value / math.sqrt(2 * independent), count))
    return tuple(found)


def _differences(phase: Floats, m: int, kind: Kind) -> tuple[float, int]:
    """Return the sum of the squared second (Hadamard: third) differences of phase over m steps, and how many they are."""
    step = m if kind == "simple" else 1
    if kind == "hadamard":
        d = phase[3 * m :] - 3 * phase[2 * m : -m] + 3 * phase[m : -2 * m] - phase[: -3 * m]
        return float(d @ d), len(d)
    d = phase[2 * m :] - 2 * phase[m:-m] + phase[: -2 * m]
    if kind == "modified":
        if len(d) < m:
            return 0.0, 0
        d = np.convolve(d, np.ones(m) / m, "valid")
    d = d[::step]
    return float(d @ d), len(d)


def average_for(found: Sequence[Deviation]) -> Deviation:
    """Return the deviation at the averaging time beyond which more averaging is of no use: where it is least (by definition)."""
    return min(found, key=lambda d: d.value)


@dataclass(frozen=True)
class PhaseLog:
    """A frequency by its phase.

    Attributes
    ----------
    offset, u_offset : float
        Fractional: seconds gained a second.
    ageing, u_ageing : float
        Fractional a day.
    slips : int
        Whole cycles that the log was unwrapped by.
    scatter : float
        Of the phase about the curve, s.
    """

    offset: float
    u_offset: float
    ageing: float
    u_ageing: float
    slips: int
    scatter: float


DAY = 86400.0


def phase_log(seconds: Sequence[float], phase: Sequence[float], period: float = 0.0, path: float = 0.0) -> PhaseLog:
    """Return fractional offset and ageing from a log of phase: offset = d(phase)/dt, turns/(f t).

    The log is unwrapped by whole periods; the line is through the median of slopes (Theil 1950, Sen 1968), refined by least squares
    of what lies within 3.5 robust deviations of it; curvature is kept where it is more than twice its u.

    Parameters
    ----------
    seconds, phase : sequence of float
        s; phase as time gained.
    period : float
        Of the signal compared, s; 0 where the log is not wrapped.
    path : float
        Standard uncertainty of the reference's own fractional frequency over the log: its path.

    Raises
    ------
    RangeError
        Of fewer than four readings, or of one moment.
    """
    t, x = np.asarray(seconds, np.float64), np.asarray(phase, np.float64).copy()
    if len(t) < 4 or np.ptp(t) <= 0:
        words = "A frequency by its phase needs four readings or more over some time."
        raise RangeError(words, value=str(len(t)), expected="4 or more")
    slips = 0
    if period > 0:
        turned = np.unwrap(x, period=period)
        slips = round(float(np.max(np.abs(turned - x))) / period)
        x = turned
    one, other = np.triu_indices(len(t), 1)
    slopes = (x[other] - x[one]) / (t[other] - t[one])
    line = float(np.median(slopes))
    left = x - line * t
    left -= np.median(left)
    sigma = max(1.4826 * float(np.median(np.abs(left))), 1e-300)
    kept = np.abs(left) <= 3.5 * sigma if np.sum(np.abs(left) <= 3.5 * sigma) >= 4 else np.ones(len(t), bool)
    about = t - t[kept].mean()
    for columns in (3, 2):
        design = np.vander(about[kept], columns, increasing=True)
        fitted, *_ = np.linalg.lstsq(design, x[kept], rcond=None)
        off = x[kept] - design @ fitted
        scatter = math.sqrt(float(off @ off) / max(int(kept.sum()) - columns, 1))
        covariance = np.linalg.pinv(design.T @ design) * scatter**2
        if columns == 2 or abs(fitted[2]) > 2 * math.sqrt(max(covariance[2, 2], 0.0)):
            break
    curved = columns == 3
    return PhaseLog(
        offset=float(fitted[1]), u_offset=math.hypot(math.sqrt(max(float(covariance[1, 1]), 0.0)), path),
        ageing=2 * float(fitted[2]) * DAY if curved else 0.0,
        u_ageing=2 * math.sqrt(max(float(covariance[2, 2]), 0.0)) * DAY if curved else math.nan, slips=slips, scatter=scatter,
    )  # fmt: skip
