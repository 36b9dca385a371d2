"""Points made as one goes: which point of a range a reading is of, where no procedure says it."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace

from candor.core.calibration.point import TestPoint
from candor.core.reading.needle import ON_A_MARK

# Values applied are grouped by round numbers, a few hundred to a range: finer is no other point, but the same read again.
STEPS_OF_A_RANGE = 100.0


def nominal_of(point: TestPoint, applied: float, known: Iterable[float]) -> float:
    """Return the value that a reading is a point at, SI: that applied, to a round number.

    It is that of a point of the range already there, where it lies within half a division of what was applied: the same point
    read again. Else the mark or the round number (1, 2 or 5 times a power of ten, about a hundredth of the range) that lies
    nearest:
    common practice, no source. Where the needle stood decides nothing: 48 V shown with 50 V applied is the point 50 V.

    Parameters
    ----------
    point : TestPoint
        Any of the range.
    applied : float
        SI magnitude.
    known : iterable of float
        Points of the range already there, SI.
    """
    half = point.indicator.division_at(min(max(applied, 0.0), point.full_scale)) / 2
    near = [(abs(value - applied), value) for value in known]
    near = [pair for pair in near if pair[0] <= half * (1 + 1e-9)]
    if near:
        return min(near)[1]
    mark = point.indicator.mark_near(applied)
    if mark > 0 and abs(point.indicator.ticks_between(mark, applied)) <= ON_A_MARK:
        found = mark
    else:
        step = _round_step(point.full_scale / STEPS_OF_A_RANGE)
        found = round(applied / step) * step
    return float(f"{min(max(found, 0.0), point.full_scale):.6g}")


def point_at(point: TestPoint, nominal: float) -> TestPoint:
    """Return the point of the same range at another value, SI."""
    return replace(point, key=f"{point.key.rsplit('/', 1)[0]}/{nominal:g}", nominal=nominal)


def _round_step(about: float) -> float:
    """Return the largest of 1, 2, 5 times a power of ten that is not above `about`."""
    power = 10.0 ** math.floor(math.log10(about) + 1e-9)
    return max(m * power for m in (1.0, 2.0, 5.0) if m * power <= about * (1 + 1e-9))
