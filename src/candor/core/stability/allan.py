"""Allan deviations of a frequency, or of anything read at equal times.

After NIST Special Publication 1065 (Riley 2008), 5.2: simple, overlapping, modified and Hadamard. Held to its nine-point set and
to a published implementation in the tests.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

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
            worded("stability.an_allan_deviation_needs_three_readings"),
            value=str(len(y)),
            expected=worded("stability.or_more"),
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
        sums = np.concatenate(([0.0], np.cumsum(d)))  # a moving mean by sums, not by folding: linear in the record
        d = (sums[m:] - sums[:-m]) / m
    d = d[::step]
    return float(d @ d), len(d)


def average_for(found: Sequence[Deviation]) -> Deviation:
    """Return the deviation at the averaging time beyond which more averaging is of no use: where it is least (by definition)."""
    return min(found, key=lambda d: d.value)
