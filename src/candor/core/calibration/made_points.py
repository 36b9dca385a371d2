"""Points made as one goes: which point of a range a reading is of, where no procedure says it."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable
from dataclasses import replace

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError
from candor.core.reading.needle import ON_A_MARK

# Values applied are grouped by round numbers, a few hundred to a range: finer is no other point, but the same read again.
STEPS_OF_A_RANGE = 100.0
VALUE = re.compile(r"-?\d+(?:\.\d+)?(?:e[-+]?\d+)?")  # of a key: a point that no stimulus and no word tells apart


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
    low, high = ends_of(point)
    inside = min(max(applied, low), high)
    half = point.indicator.division_at(inside) / 2
    near = [(abs(value - applied), value) for value in known]
    near = [pair for pair in near if pair[0] <= half * (1 + 1e-9)]
    if near:
        return min(near)[1]
    mark = point.indicator.mark_near(applied)
    is_one = math.isfinite(mark) and (mark != 0 or low < 0)
    if is_one and abs(point.indicator.ticks_between(mark, applied)) <= ON_A_MARK:
        found = mark
    else:
        # On an arc that is not even a hundredth of the range is far too coarse at one end of it: there by its divisions.
        even = low == 0 and high == point.full_scale
        step = _round_step(point.full_scale / STEPS_OF_A_RANGE if even or not half else half)
        found = round(applied / step) * step
    return float(f"{min(max(found, low), high):.6g}")


def ends_of(point: TestPoint) -> tuple[float, float]:
    """Return the least and the greatest value that a point of a range may have, SI; infinite where its arc is open."""
    try:
        ends = sorted(point.indicator.value_at_arc(share) for share in (0.0, 1.0))
    except CandorError:  # no arc: a knob, digits
        return 0.0, point.full_scale
    return (0.0 if point.polarity and ends[0] < 0 and point.unit != "dB" else ends[0]), ends[1]


def point_at(point: TestPoint, nominal: float) -> TestPoint:
    """Return the point of the same range at another value, SI."""
    return replace(point, key=f"{point.key.rsplit('/', 1)[0]}/{nominal:g}", nominal=nominal)


def _round_step(about: float) -> float:
    """Return the largest of 1, 2, 5 times a power of ten that is not above `about`."""
    power = 10.0 ** math.floor(math.log10(about) + 1e-9)
    return max(m * power for m in (1.0, 2.0, 5.0) if m * power <= about * (1 + 1e-9))
