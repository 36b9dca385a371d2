"""Understanding a line about a range: `range 30 V 30 div 3%fs`, `range DC+ 1.5 V 30 div mirror 2% owner`, `points 10 20 30`."""

from __future__ import annotations

import math
import re
from dataclasses import replace
from typing import cast

from candor.core.calibration.made_points import ends_of
from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.instrument.how import OHMS, HowRead, check_marks, scale_of
from candor.core.instrument.points import proposed_points
from candor.core.jot.left import Left
from candor.core.jot.meaning import Current, PointsJot, RangeJot, RangeUnit
from candor.core.jot.range_chips import range_chips
from candor.core.jot.range_figured import of_calculated, take_bare_limit, value_of
from candor.core.jot.range_how import HowSaid, largest_mark, resolved, take_how
from candor.core.jot.range_limit import take_limit, with_values
from candor.core.jot.range_series import counted, lines_of_series, multiplied, multipliers
from candor.core.jot.range_stands import stands_of, take_stands
from candor.core.jot.range_written import as_written, named, plainly
from candor.core.late_pattern import late_pattern
from candor.core.quantities import engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.quantities.units import suffix_meaning
from candor.core.worded import worded

EXPECTED = "range 30 V 30 div 3%fs"
USUAL_SCREEN = {"V": 8, "s": 10}  # divisions up and along, where nobody said: common practice, no source
UNITS: tuple[RangeUnit, ...] = ("V", "A", "ohm", "F", "H", "Hz", "S", "s")
MOST_DIVISIONS = 1000
# What a function is called where only its unit was said.
FUNCTION_OF_UNIT = {
    "V": "Volts", "A": "Current", "ohm": "Ohms", "F": "Capacitance", "H": "Inductance", "Hz": "Frequency",
    "S": "Conductance", "s": "Time", "dB": "Decibels", "1": "Scale",
}  # fmt: skip

_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_DIVISIONS = late_pattern(rf"([+-]?{_NUMBER})\s*div(?:isions?|s)?\b\.?(?:\s+between(?:\s+(?:the\s+)?marks)?)?", re.I)
_MIRROR = late_pattern(r"\b(no\s+)?mirror(ed)?\b", re.I)
_AC = late_pattern(r"(?<![a-z])(?:ac|a\.c\.?|alternating|rms|r\.m\.s\.?)(?![a-z])|[~∼]", re.I)
_DC = late_pattern(r"(?<![a-z])(?:dc|d\.c\.?|direct)(?![a-z])|[+−]$", re.I)
_QUANTITY = late_pattern(rf"({_NUMBER})\s*([^\W\d_]+|Ω)(?=\s|$|,)", re.U)
_UNIT_WORD = late_pattern(
    r"\b(?:(?:milli|micro|kilo)?(?:volts?|amp(?:ere)?s?)|(?:kil|meg)?ohms?|hertz|(?:micro|pico)?farads?|henr(?:y|ies)|current|resistance)\b",
    re.I,
)
_USUAL = late_pattern(r",?\s*\b(?:with\s+)?(?:the\s+)?usual\s+points\b", re.I)
MOST_OF_A_SCREEN = 20  # divisions
# Of what is read without divisions, or between two marks where nobody said: none, or the mark itself.
_NO_DIVISIONS = ("look", "threshold", "figured")


def understand_range(text: str) -> RangeJot:
    """Say what a line about a range means, or about a series of ranges that differ in their ends alone.

    Parameters
    ----------
    text : str
        What stands behind the word *range*: its function where it has a name, how it is read where that is no even scale from zero
        (`range_how`), full scale with its unit, divisions, mirror, and the limit with whose it is (`range_limit`). Per cent without
        more are of full scale. Of a series all ends: ``1.5 5 15 50 V``, or ``1.5 5 15 ... 500 V``; of ohms arcs their multipliers:
        ``called "R×1 R×10 R×100" 10 ohm centre``, the value that of the first. *usual points* asks for those
        that are usually read on it.

    Raises
    ------
    ValueTextError, RangeError
        Where full scale or divisions are missing or cannot be, or the marks draw no scale.
    """
    text = plainly(text)
    names, one = multipliers(text)
    if names:
        first = _one(one, first=True)
        return counted(first, multiplied(first, names))
    each = lines_of_series(text, _known)
    first, *others = [_one(line, first=not place) for place, line in enumerate(each)]
    return counted(first, tuple(others)) if others else first


def _one(text: str, first: bool) -> RangeJot:
    left = Left(text)
    usual = left.take(_USUAL)
    said = take_how(left)  # first: outcomes of a look may hold any word, and places and second dials per cent
    stated = take_stands(left) if said.terms.get("kind") != "look" else None
    bare = take_bare_limit(left, value_of(said.end)[1]) if said.terms.get("kind") == "figured" else 0.0
    limit = {**take_limit(left), **({"absolute": bare} if bare else {})}
    divisions = _divisions(left, said)
    mirrored = left.take(_MIRROR)
    hertz, left.text = _frequency(left.text) if not said.end.lower().endswith("hz") else (0.0, left.text)
    full_scale, factor, unit, function, written = _full_scale(left, said)
    how = resolved(said, unit, full_scale, factor)
    divisions, full_scale = _whole(how, divisions, full_scale, unit)
    current = _current(function, unit, hertz)
    end_named = _per_cent(said.end) if how.kind != "figured" else ""
    found = RangeJot(
        current=current, hertz=hertz if current == "a.c." else 0.0,
        name=said.name or end_named or ("" if _by_middle(how) else as_written(written, full_scale, unit)),
        how=how, limit=of_calculated(with_values(limit, unit), how, text),
        function=named(function, FUNCTION_OF_UNIT[unit]), unit=unit, full_scale=full_scale, divisions=divisions,
        mirror=bool(mirrored and not mirrored[1]), stands=stands_of(stated, unit, full_scale),
        polarity="both" if how.shape in ("centre zero", "decibels") else "-" if function.endswith("−") else "+",
    )  # fmt: skip
    if how.has_scale:
        scale_of(how, full_scale, divisions, function or "scale")
    chips = range_chips(found)
    if usual:
        points = proposed_points(how, full_scale, divisions, first)
        found = replace(found, points=points)
        chips += (f"points at {', '.join(engineering(v, unit) for v in points)}",) if points else ()
    return replace(found, chips=chips)


def _by_middle(how: HowRead) -> bool:
    """Whether its full scale is the value at half the arc, which is no end that stands on a face."""
    return how.shape in OHMS or math.inf in (abs(mark) for mark in how.marks)


def _per_cent(end: str) -> str:
    """What a range is called that is numbered in per cent: by its end, so that bare numbers are per cent there."""
    return f"{' '.join(end.replace('%', ' %').split())}" if end.rstrip().endswith("%") else ""


def _whole(how: HowRead, divisions: int, full_scale: float, unit: str) -> tuple[int, float]:
    """Divisions and full scale of the whole: of a screen all its divisions, of marks to infinity the value at half the arc."""
    if how.kind == "screen":
        if not 2 <= divisions <= MOST_OF_A_SCREEN:
            raise RangeError(
                worded(
                    "jot.a_screen_of_divisions_expected_to", divisions=divisions, most_of_a_screen=MOST_OF_A_SCREEN
                ),
                value=str(divisions),
            )
        return divisions, how.per_division * divisions
    if how.shape == "marks":
        check_marks(how, unit)
        ends = [abs(mark) for mark in how.marks]
        whole = scale_of(how, full_scale, divisions).centre if math.inf in ends else max(ends)
        return divisions, float(f"{whole:.9g}")
    return divisions, full_scale


def understand_points(text: str, point: TestPoint | None) -> PointsJot:
    """Say which points of the range in hand a line asks for: `points 10 20 30`.

    Parameters
    ----------
    text : str
        Values, with or without their unit, separated by spaces or semicolons.
    point : TestPoint or None
        One of the range in hand.

    Raises
    ------
    ValueTextError, RangeError
        Where no range is in hand, or one cannot be a point of it.
    """
    if point is None:
        raise ValueTextError(worded("jot.which_range_add_the_range_first", expected=EXPECTED), value=text)
    values = []
    for word in re.findall(rf"-?{_NUMBER}\s*[^\W\d_]*", text, re.U):
        value = point.quantity(word)
        value = abs(value) if point.polarity and point.unit != "dB" else value
        values.append(check_nominal(value, point))
    if not values:
        raise ValueTextError(worded("jot.names_no_point_example_points", text=text.strip()), value=text)
    wanted = tuple(dict.fromkeys(values))
    return PointsJot(
        wanted,
        (
            worded(
                "jot.range_at",
                range_name=point.range_name,
                listed=", ".join(engineering(v, point.unit) for v in wanted),
            ),
        ),
    )


def check_nominal(value: float, point: TestPoint) -> float:
    """Return a value, SI, where it can be a point of a range.

    Raises
    ------
    RangeError
        At zero where that is where the range begins, or beyond its ends.
    """
    shown = engineering(value, point.unit)
    low, high = ends_of(point)
    if (low, high) != (0.0, point.full_scale):
        if low <= value <= high and not (math.isinf(value) or (value == 0 and low == 0)):
            return value
        ends = " to ".join(engineering(end, point.unit) for end in (low, high))
        raise RangeError(
            worded("jot.cannot_be_a_point_of_the", shown=shown, range_name=point.range_name, ends=ends),
            value=shown,
            expected=ends,
        )
    if value <= 0:
        raise RangeError(
            worded(
                "jot.a_point_at_says_only_where", shown=shown, full_scale=engineering(point.full_scale, point.unit)
            ),
            value=shown,
        )
    if value > point.full_scale * (1 + 1e-9):
        raise RangeError(
            worded(
                "jot.is_beyond_the_range_which_ends",
                shown=shown,
                range_name=point.range_name,
                full_scale=engineering(point.full_scale, point.unit),
            ),
            value=shown,
            expected=worded("jot.up_to", full_scale=point.full_scale, unit=point.unit),
        )
    return value


def _frequency(rest: str) -> tuple[float, str]:
    """The frequency it is read at, Hz, where a value in hertz stands beside one in another unit; 0 where none does."""
    values = [(m, suffix_meaning(m[2].replace("µ", "u").replace("μ", "u"), None)) for m in _QUANTITY.finditer(rest)]
    units = [(m, meaning[1]) for m, meaning in values if meaning is not None and meaning[1] in UNITS]
    found = [m for m, unit in units if unit == "Hz"]
    if len(found) != 1 or all(unit == "Hz" for _, unit in units):
        return 0.0, rest
    match = found[0]
    before = re.sub(r"\bat\s*$", "", rest[: match.start()])
    return parse_quantity(match[0], "Hz").value, f"{before} {rest[match.end() :]}"


def _current(function: str, unit: str, hertz: float) -> Current:
    """Whether a range is of a.c. or d.c., by its name or because a frequency is said; empty where nobody knows."""
    if unit not in ("V", "A"):
        return ""
    if hertz or _AC.search(function):
        return "a.c."
    return "d.c." if _DC.search(function) else ""


def _divisions(left: Left, said: HowSaid) -> int:
    kind, shape = said.terms.get("kind", "needle"), said.terms.get("shape", "even")
    match = left.take(_DIVISIONS)
    if match is None:
        if kind in _NO_DIVISIONS or said.lists.get("steps"):
            return int(shape == "marks")
        if shape not in ("even", "centre zero"):
            return 1
        if kind == "screen":
            return USUAL_SCREEN["s" if said.end.lower().rstrip().endswith("s") else "V"]
        raise ValueTextError(
            worded("jot.how_many_divisions_has_its_scale", expected=EXPECTED), value=left.line, expected=EXPECTED
        )
    number = parse_number(match[1], "a number of divisions such as 30")
    if number != int(number) or not 1 <= number <= MOST_DIVISIONS:
        raise RangeError(
            worded(
                "jot.divisions_expected_a_whole_number_from", number=trimmed(number), most_divisions=MOST_DIVISIONS
            ),
            value=match[1],
        )
    return int(number)


def _full_scale(left: Left, said: HowSaid) -> tuple[float, float, RangeUnit, str, str]:
    """Full scale, SI, what 1 of a bare number is, the unit, the words that are left: the function, and how its end is written."""
    if said.terms.get("kind") == "look":
        return 1.0, 1.0, "1", _function(left.text, "1", left.line), ""
    if said.terms.get("kind") == "figured":
        value, unit = value_of(said.end)
        of = cast(RangeUnit, unit)
        return abs(value) or 1.0, 1.0, of, _function(left.text, of, left.line), ""
    if said.terms.get("shape") == "decibels":
        return 1.0, 1.0, "dB", _function(left.text, "dB", left.line), ""
    words, rest = said.end, left.text
    if not words:
        matches = [m for m in _QUANTITY.finditer(rest) if _known(m[2])]
        if not matches and said.last:
            words = said.last
        elif not matches and said.terms.get("shape") != "marks":
            raise ValueTextError(
                worded("jot.where_does_the_range_end_give", line=left.line.strip(), expected=EXPECTED),
                value=left.line,
                expected=EXPECTED,
            )
        if matches:
            words, rest = matches[-1][0], f"{rest[: matches[-1].start()]} {rest[matches[-1].end() :]}"
    bare: RangeUnit = "1"
    if words.rstrip().endswith("%"):
        value, unit, factor = parse_number(words.rstrip(" %"), "where the range ends") / 100, bare, 0.01
    elif not words or re.fullmatch(_NUMBER, words.strip()):
        _ask_for_unit(_function(rest, bare, left.line), left.line)
        end = largest_mark(said.lists.get("marks", []))
        value, unit, factor = (parse_number(words, "where the range ends") if words else end), bare, 1.0
    else:
        value, unit = _read(words, left.line)
        factor = value / parse_number(re.match(_NUMBER, words)[0], "a number") if value else 1.0  # type: ignore[index]
    value = float(f"{value:.12g}")
    if value <= 0:
        raise RangeError(worded("jot.a_range_that_ends_at_expected", value=engineering(value, unit)), value=words)
    return value, factor, unit, _function(rest, unit, left.line), words


def _ask_for_unit(function: str, text: str) -> None:
    """Numbers without a unit are a ratio; of a function that is called volts they are none."""
    named = _UNIT_WORD.search(function)
    if named is not None:
        raise ValueTextError(
            worded("jot.in_which_unit_are_the_numbers", function=function),
            value=text, expected="a unit",
        )  # fmt: skip


def _function(rest: str, unit: RangeUnit, text: str) -> str:
    """The name of the function: the words that are left."""
    function = " ".join(rest.replace(",", " ").split())
    function = re.sub(r"^(?:of|for|on)\s+|\s+(?:of|for|on|dial)$", "", function, flags=re.I)
    _refuse_left_over(function, text)
    if not re.search(r"[^\W\d_]", function):
        function = f"{FUNCTION_OF_UNIT[unit]} −" if "-" in function else ""
    if len(function) > 40:
        raise ValueTextError(worded("jot.is_long_for_the_name_of", function=function[:40]), value=text)
    return re.sub(r"-$", "−", function)


def _refuse_left_over(function: str, text: str) -> None:
    """Refuse what would be taken for the name of a function and is none: no word of a line is turned into a name."""
    if "±" in function:
        raise ValueTextError(worded("jot.candor_cannot_read_the_limit_in", text=text.strip()), value=text)
    if re.search(r"\b(?:cent(?:er|re)|mid-?scale|log(?:arithmic)?|marks?|steps?|knee|zero)\b", function, re.I):
        raise ValueTextError(
            worded("jot.how_is_read_is_not_clear", text=text.strip()),
            value=text,
        )
    left = re.findall(r"(?<!\S)(?:[\d.,]\S*|\S*\.\.\S*|\S*%\S*)", function)
    if left:
        raise ValueTextError(
            worded(
                "jot.candor_does_not_understand_in_example",
                listed=" ".join(left),
                text=text.strip(),
                expected=EXPECTED,
            ),
            value=text,
            expected=EXPECTED,
        )


def _known(suffix: str) -> bool:
    meaning = suffix_meaning(suffix.replace("µ", "u").replace("μ", "u"), None)
    return meaning is not None and meaning[1] in UNITS


def _read(words: str, text: str) -> tuple[float, RangeUnit]:
    for unit in UNITS:
        try:
            found = parse_quantity(words, unit)
        except CandorError:
            continue
        meaning = suffix_meaning(re.sub(rf"^{_NUMBER}\s*", "", words).replace("µ", "u").replace("μ", "u"), None)
        if meaning is None or meaning[1] in (None, unit):
            return found.value, unit
    raise ValueTextError(worded("jot.has_no_unit_that_a_needle", words=words, expected=EXPECTED), value=text)
