"""A point that is figured from others by a formula of the pack: reversal, ratio, slope, difference."""

from __future__ import annotations

import math

from candor.core.calibration.point import TestPoint
from candor.core.reading.judged import Judged
from candor.core.reading.kind import Figures, ReadingKind, Readings
from candor.core.uncertainty.budget import Contribution
from candor.core.worded import worded


def _never(text: str, point: TestPoint) -> dict[str, float] | None:
    return None


def _none(point: TestPoint, readings: Readings, judged: Judged, friction: float | None) -> list[Contribution]:
    return []


def _say(point: TestPoint, figures: Figures) -> str:
    return f"calculated: {point.formula.text}"


FIGURED = ReadingKind(
    key="figured",
    title=worded("reading.calculated_from_other_readings"),
    drawn="digits",
    read_on=("digits", "scale", "screen"),
    compares="nominal",
    asks=lambda point: (),
    example=lambda point: point.formula.text,
    understand=_never,
    indicated=lambda point, figures: math.nan,
    contributions=_none,
    say=_say,
    figured=True,
)
