"""A threshold: a lamp, an eye, a relay, a neon changes between two settings of a known part or source."""

from __future__ import annotations

import math
import re

from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError
from candor.core.reading.judged import Judged
from candor.core.reading.kind import Figures, ReadingKind, Readings, scatter, shown
from candor.core.reading.means import means_of
from candor.core.reading.reading import Asked
from candor.core.uncertainty.budget import Contribution, rectangular
from candor.core.worded import worded

ON, OFF = "on", "off"
WIDE = 0.10  # of the middle: from here on the geometric mean is the fairer middle
_BRACKET = re.compile(r"on\s+(?P<on>.+?)\s+off\s+(?P<off>.+)|off\s+(?P<off2>.+?)\s+on\s+(?P<on2>.+)", re.I)
# What a pack may say of the side it is on at: on below the threshold (-1), above it (+1), or not said (0).
ON_SIDE = "on_side"
APPROACH = "approach"  # +1: the limit is that of the approach from below; -1 from above; 0: of either


def _read(text: str, point: TestPoint) -> dict[str, float] | None:
    match = _BRACKET.fullmatch(text.strip())
    if match is None:
        return None
    on, off = (point.signed(point.quantity(match[a] or match[b])) for a, b in (("on", "on2"), ("off", "off2")))
    for value in (on, off):
        point.indicator.check(value)
    if on == off:
        raise RangeError(
            (worded("reading.on_and_off_at_the_same", shown=shown(point, on))),
            value=text,
        )
    side = point.setting(ON_SIDE)
    if side and (on - off) * side < 0:
        where = "above" if side > 0 else "below"
        raise RangeError(
            worded(
                "reading.the_bracket_is_the_wrong_way_round",
                where=where,
                shown=shown(point, on),
                shown_2=shown(point, off),
            ),
            value=text,
            expected=worded("reading.on_off_2", shown=shown(point, off), shown_2=shown(point, on)),
        )
    return {ON: on, OFF: off}


def _indicated(point: TestPoint, figures: Figures) -> float:
    return _middle(figures.get(ON, math.nan), figures.get(OFF, math.nan))


def _middle(on: float, off: float) -> float:
    """Return the middle of a bracket; of one wider than a tenth the geometric mean."""
    middle = (on + off) / 2
    if on * off > 0 and abs(on - off) > WIDE * abs(middle):
        return math.copysign(math.sqrt(on * off), middle)
    return middle


def _judged(point: TestPoint, readings: Readings) -> Readings:
    """Opposite approaches are two thresholds: the limit is that of one of them."""
    way = {1.0: "up", -1.0: "down"}.get(point.setting(APPROACH), "")
    named = tuple(r for r in readings if r.direction == way) if way else ()
    kept = named or readings
    # Without a direction named by the limit, the one read last is judged: the two are never averaged.
    return tuple(r for r in kept if r.direction == kept[-1].direction)


def _contributions(
    point: TestPoint, readings: Readings, judged: Judged, friction: float | None
) -> list[Contribution]:
    gap = max(abs(r.figure(ON) - r.figure(OFF)) for r in readings)
    half = max(_half_width(r.figure(ON), r.figure(OFF), judged) for r in readings)
    reason = worded("reading.the_threshold_lies_within_a_bracket", shown=shown(point, gap, 3))
    return [rectangular("bracket", half, reason, "bracket"), *scatter(point, readings, judged)]


def _half_width(on: float, off: float, judged: Judged) -> float:
    """Return how far the farther end lies from the middle, in what the error is judged in: half of it, but for a wide bracket."""
    middle = judged.place(_middle(on, off))
    return max(abs(judged.place(end) - middle) for end in (on, off))


def _note(point: TestPoint, readings: Readings) -> str:
    ways = {way: [r for r in readings if r.direction == way] for way in ("up", "down")}
    if not all(ways.values()):
        return ""
    up, down = (means_of(tuple(side)).indicated for side in ways.values())
    both = worded("reading.threshold_rising_falling", shown=shown(point, up, 4), shown_2=shown(point, down, 4))
    return worded("reading.hysteresis_no_part_of_u", both=both, shown=shown(point, abs(up - down), 3))


def _say(point: TestPoint, figures: Figures) -> str:
    on, off = figures.get(ON, math.nan), figures.get(OFF, math.nan)
    return worded(
        "reading.on_at_off_at_threshold",
        shown=shown(point, on, 4),
        shown_2=shown(point, off, 4),
        shown_3=shown(point, _indicated(point, figures), 4),
    )


def _example(point: TestPoint) -> str:
    """A bracket about the point, the indication on the side where it is."""
    ends = [shown(point, point.nominal * share, 3) for share in (0.95, 1.05)]
    on, off = reversed(ends) if point.setting(ON_SIDE) > 0 else ends
    return worded("reading.on_off", on=on, off=off)


THRESHOLD = ReadingKind(
    key="threshold",
    title="threshold by bracket",
    drawn="steps",
    read_on=("knob", "digits"),
    compares="nominal",
    asks=lambda point: (Asked(ON, "on at", point.unit), Asked(OFF, "off at", point.unit)),
    example=_example,
    understand=_read,
    indicated=_indicated,
    contributions=_contributions,
    say=_say,
    judged=_judged,
    note=_note,
    has_sides=True,
)
