"""A dial turned to a null or an extremum: the widest eye, the least sound, the deepest dip; one look, or from both sides."""

from __future__ import annotations

import math
import re

from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError
from candor.core.quantities import parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.reading.judged import Judged
from candor.core.reading.kind import Figures, ReadingKind, Readings, scatter, shown, typed
from candor.core.reading.means import means_of
from candor.core.reading.reading import INDICATED, Asked
from candor.core.uncertainty.budget import Contribution, rectangular
from candor.core.worded import worded

LOW, HIGH, HALF, SECOND = "low", "high", "half", "second"
GUARD = (
    0.02  # of the arc at either end: there a bridge says short, open or another range (common practice, no source)
)
_MATCH = 0.5  # of a division: how well one side, or one look, can be judged where nothing is said
_DIAL = re.compile(
    r"dial\s+(?P<first>.+?)(?:\s*\.\.\s*(?P<last>.+?))?(?:\s*(?:±|\+-|\+/-)\s*(?P<half>.+?))?(?:\s+(?:pf|d|phase)\s+(?P<second>.+))?",
    re.I,
)


def _inside(point: TestPoint, value: float) -> float:
    """Return a setting that is not at an end of the dial.

    Raises
    ------
    RangeError
        Past the ends, or so near one that the part is shorted, open or of another range.
    """
    point.indicator.check(value)
    guard = point.setting("guard", GUARD)
    end = point.indicator.end_near(value, guard)
    if end:
        raise RangeError(
            worded("reading.is_within_of_the_end_of", shown=shown(point, value, 4), guard=100 * guard, end=end),
            value=str(value),
            expected=worded("reading.a_setting_away_from_the_ends"),
        )
    return value


def _read(text: str, point: TestPoint) -> dict[str, float] | None:
    match = _DIAL.fullmatch(text.strip())
    if match is None:
        return None
    found: dict[str, float] = {}
    if match["last"]:
        unit = re.sub(
            r"^[-+\d.,\s/]+", "", match["last"]
        ).strip()  # "0.0100..0.0105u": the unit is said once, at the end
        first = match["first"] if re.search(r"[A-Za-zµΩ%]", match["first"]) else match["first"] + unit
        low, high = (_inside(point, typed(words, point)) for words in (first, match["last"]))
        if not low < high:
            raise RangeError(
                (worded("reading.the_bracket_is_the_wrong_way", shown=shown(point, low), shown_2=shown(point, high))),
                value=text,
                expected=f"dial {trimmed(high)}..{trimmed(low)}",
            )
        found |= {LOW: low, HIGH: high}
    else:
        found[INDICATED] = _inside(point, typed(match["first"], point))
        if match["half"]:
            found[HALF] = abs(point.quantity(match["half"]))
    if match["second"]:
        if point.second is None:
            raise RangeError(
                worded("reading.has_one_dial_is_of_a", name=point.name, second=match["second"]), value=text
            )
        found[SECOND] = point.second.check(parse_quantity(match["second"], point.second.unit).value)
    return found


def _indicated(point: TestPoint, figures: Figures) -> float:
    """Return the setting: of both sides the middle along the arc, taken through the scale's law."""
    if INDICATED in figures:
        return figures[INDICATED]
    low, high = figures.get(LOW, math.nan), figures.get(HIGH, math.nan)
    return point.indicator.middle(low, high)


def _contributions(
    point: TestPoint, readings: Readings, judged: Judged, friction: float | None
) -> list[Contribution]:
    counted = _counted(point, readings)
    at = means_of(counted, judged.place).indicated
    match = judged.divisions(at, _MATCH)
    sides = [r for r in counted if not math.isnan(r.figure(LOW))]
    if len(sides) == len(counted):
        reason = worded("reading.equal_on_both_sides_each_judged")
        found = [
            Contribution(
                worded("reading.null_from_both_sides"),
                match / math.sqrt(6),
                shape="normal",
                reason=reason,
                kind="needle",
            )
        ]
    else:
        seen = [r.figure(HALF) for r in counted if not math.isnan(r.figure(HALF))]
        half = max(
            match, max(seen, default=0.0) * judged.slope(at), point.setting("just_noticeable") / 2 * judged.slope(at)
        )
        words = (
            worded("reading.half_of_what_is_just_noticeable")
            if half > match
            else worded("reading.half_a_division_as_nothing_finer")
        )
        found = [
            rectangular("null, one look", half, worded("reading.set_to_rectangular_jcgm", words=words), "needle")
        ]
    return found + scatter(point, counted, judged)


def _counted(point: TestPoint, readings: Readings) -> Readings:
    """Of two dials that are alternated only the last round counts: those before are the way there."""
    return readings if point.second is None else readings[-1:]


def _unsettled(point: TestPoint, readings: Readings) -> str:
    """Say that two dials still move: the last two rounds must agree within half a division of each."""
    if point.second is None:
        return ""
    if len(readings) < 2 or math.isnan(readings[-1].figure(SECOND)):
        return worded("reading.two_dials_alternate_them_until_neither")
    before, last = readings[-2:]
    first = abs(point.indicator.ticks_between(before.indicated, last.indicated))
    second = abs(point.second.ticks_between(before.figure(SECOND), last.figure(SECOND)))
    if max(first, second) <= _MATCH:
        return ""
    return worded("reading.the_dials_still_move_by_and", first=trimmed(first, 2), second=trimmed(second, 2))


def _say(point: TestPoint, figures: Figures) -> str:
    if LOW in figures:
        low, high, middle = (shown(point, v, 4) for v in (figures[LOW], figures[HIGH], _indicated(point, figures)))
        words = worded("reading.equal_at_and_middle_along_the", low=low, high=high, middle=middle)
    else:
        words = f"null at {shown(point, figures.get(INDICATED, math.nan), 4)}"
    words += f" ± {shown(point, figures[HALF], 2)}" if HALF in figures else ""
    if SECOND in figures and point.second is not None:
        words += (
            worded("reading.second_dial_2", figures=100 * figures[SECOND])
            if point.second.unit == "1"
            else worded("reading.second_dial", figures=figures[SECOND])
        )
    return words


def _asks(point: TestPoint) -> tuple[Asked, ...]:
    second = (Asked(SECOND, "second dial", point.second.unit),) if point.second is not None else ()
    return (
        Asked(INDICATED, "dial, one look", point.unit, needed=False),
        Asked(LOW, "equal at, lower", point.unit, needed=False),
        Asked(HIGH, "equal at, upper", point.unit, needed=False),
        *second,
    )


def _example(point: TestPoint) -> str:
    """A bracket about the point, or near it where its own would lie at an end of the dial."""
    nominal, whole = point.nominal, point.full_scale
    near = [(nominal * low, nominal * high) for low, high in ((0.97, 1.04), (0.92, 0.96), (1.04, 1.1))]
    inside = [ends for ends in (*near, (0.04 * whole, 0.05 * whole)) if all(_is_inside(point, end) for end in ends)]
    low, high = inside[0] if nominal and inside else (0.0, whole / 100)
    return f"dial {shown(point, low, 3)}..{shown(point, high, 3)}"


def _is_inside(point: TestPoint, value: float) -> bool:
    try:
        _inside(point, value)
    except RangeError:
        return False
    return True


NULL = ReadingKind(
    key="null",
    title=worded("reading.dial_at_a_null"),
    drawn="knob",
    read_on=("scale", "knob"),
    compares="reference",
    asks=_asks,
    example=_example,
    understand=_read,
    indicated=_indicated,
    contributions=_contributions,
    say=_say,
    judged=_counted,
    remark=_unsettled,
)
