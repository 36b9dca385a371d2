"""Which point a reading is of: the one at the value that was applied, never simply the one in hand."""

from __future__ import annotations

import math

from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError
from candor.core.reading.indicators import WithoutArc
from candor.core.reading.kind import ReadingKind
from candor.core.reference.detector import reading_over_rms

OF_THE_RANGE = 0.03  # of full scale, that a reading may lie from its point where there are no divisions: common practice, no source
_SET = ("mark", "source")  # kinds at which the instrument is set, and the reference says by how much it is off
_READ_BESIDE = ("needle", *_SET, "null", "screen")


def applied_for(point: TestPoint, read: ReadingKind, indicated: float, reference: float) -> float | None:
    """Return what was applied for a reading, in what the instrument shows, SI; None where the point itself says it.

    For a needle or a null it is the value of the reference, for a needle set on a mark the mark, for a source what it was set to:
    common practice, no source.

    Parameters
    ----------
    point : TestPoint
    read : ReadingKind
    indicated, reference : float
        SI.
    """
    if read.key not in _READ_BESIDE or not point.needs_reference or not math.isfinite(point.nominal):
        return None
    # Of a range of one polarity magnitudes are kept, of both what was read.
    try:
        value = indicated if read.key in _SET else (abs(reference) if point.polarity else reference) * shown_of(point)
    except (
        RangeError
    ):  # what the detector makes of its waveform is not known: nor is where it belongs, and it is written
        return None
    return value if math.isfinite(value) else None


def shown_of(point: TestPoint) -> float:
    """Return what a right instrument shows for one of its reference, by its scale and its detector, as a ratio (by definition).

    Raises
    ------
    RangeError
        Where the waveform of the point is none that its detector is known for.
    """
    stimulus, shows = point.stimulus, 1.0 / (point.worth or 1.0)
    if point.detector is not None and (stimulus.hertz or stimulus.waveform not in ("", "d.c.")):
        shows *= reading_over_rms(point.detector, stimulus.waveform)
    return shows


def is_at(point: TestPoint, applied: float) -> bool:
    """Say whether a value applied, SI, belongs to a point: within one division of it, along the arc where there is one.

    Without divisions within 3 % of the range: common practice, no source.
    """
    if not math.isfinite(point.nominal):
        return True
    if isinstance(point.indicator, WithoutArc):
        return abs(applied - point.nominal) <= OF_THE_RANGE * abs(point.full_scale) * (1 + 1e-9)
    return abs(point.indicator.ticks_between(point.nominal, applied)) <= 1 + 1e-9
