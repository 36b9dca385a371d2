"""The limit of a range, in every form that makers state, taken out of a line about it."""

from __future__ import annotations

import re

from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.instrument.limit import LimitSaid
from candor.core.jot.left import Left
from candor.core.late_pattern import late_pattern
from candor.core.quantities import parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_PM = r"(?:±|\+/?-)?\s*"
_SIGNED = rf"[+-]?{_NUMBER}"
_ARC = late_pattern(rf"{_PM}({_NUMBER})\s*%\s*of\s+(?:the\s+)?arc(?:\s+length)?\b", re.I)
_DEGREES = late_pattern(rf"{_PM}({_NUMBER})\s*(?:°(?!\s*[CF]\b)|deg(?:rees?)?\b)(?:\s+of\s+(?:the\s+)?arc)?", re.I)
_DIVISIONS = late_pattern(rf"(?:±|\+/-|\+-)\s*({_NUMBER})\s*div(?:isions?|s)?\b\.?", re.I)
_DECIBELS = late_pattern(rf"(?:±|\+/-|\+-)\s*({_NUMBER})\s*dB\b", re.I)
# Not a power factor, and not the end of a range whose function is a factor.
_FACTOR = late_pattern(
    rf"(?<!power )(?<!crest )\b(?:within\s+(?:a\s+)?)?factor\s+(?:of\s+)?({_NUMBER})(?![\d.])"
    r"(?!\s*(?:[kKMmuµnp]?(?:V|A|F|H|Hz|S|s|Ω|ohms?|mho|c)\b|\.\.))",
    re.I,
)
_PERCENT = late_pattern(
    rf"{_PM}({_NUMBER})\s*%\s*(of\s+)?(full\s+scale|f\.?s\.?|reading|rdg\.?|rd|nominal|value)?(?![a-z])", re.I
)
_ABSOLUTE = late_pattern(rf"(?:±|\+/-|\+-)\s*({_NUMBER}\s*[^\s%\d]+)")
_AT = late_pattern(rf"\bat\s+(least|most)\s+({_SIGNED}(?:\s*[^\W\d_]+)?)", re.I)
_GREATER = late_pattern(r",?\s*\b(?:whichever\s+is\s+(?:the\s+)?|the\s+)?(?:greater|larger)\b(?:\s+of\b)?", re.I)
_OR = late_pattern(rf"\bor\s+({_NUMBER}\s*(?:[^\W\d_]+|Ω))", re.I)
_BY = late_pattern(r"\b(?:limit\s+)?(?:by\s+|of\s+)?(?:the\s+)?(maker|owner|shop)(?:'s|’s)?(?:\s+limit)?\b", re.I)
_TAKEN = " \x00 "
_JOINED = late_pattern(r"\x00(?:\s*(?:\+|,|and|plus)?\s*\x00)*")
WAYS = "3 % of full scale, 2 % of reading, ±0.5 V, ±1 div, 3 % of arc, ±1 dB, factor 2, at least 15 V"


def take_limit(left: Left) -> dict[str, object]:
    """Take the limit out of what is left of a line, as keywords of `LimitSaid`; those with a unit as the words they are.

    Raises
    ------
    ValueTextError, RangeError
        Where it cannot be one, or is said in two ways that exclude each other.
    """
    found: dict[str, object] = {}
    for name, pattern, what in (
        ("percent_of_arc", _ARC, "3 % of arc"), ("degrees_of_arc", _DEGREES, "2 degrees"),
        ("limit_divisions", _DIVISIONS, "±1 div"), ("decibels", _DECIBELS, "±1 dB"), ("factor", _FACTOR, "factor 2"),
    ):  # fmt: skip
        if match := left.take(pattern, _TAKEN):
            found[name] = parse_number(match[1], worded("jot.a_limit_such_as", what=what))
    while match := left.take(_PERCENT, _TAKEN):
        value = parse_number(match[1], "a limit such as 3 %")
        if not 0 < value <= 100:
            raise RangeError(worded("jot.a_limit_of_expected_one_above", value=trimmed(value)), value=match[0])
        of_reading = (match[3] or "").lower()[:1] in ("r", "n", "v") and bool(match[3])
        found["percent_of_reading" if of_reading else "percent_of_full_scale"] = value
    while match := left.take(_AT, _TAKEN):
        found[f"at_{match[1].lower()}"] = match[2]
    greater = left.take(_GREATER, _TAKEN)
    if match := left.take(_ABSOLUTE, _TAKEN) or (greater and left.take(_OR, _TAKEN)):
        found["absolute"] = match[1]
    if greater:
        found["combine"] = "greater"
    if match := left.take(_BY, _TAKEN):
        found["by"] = match[1].lower()
    left.text = _JOINED.sub(" ", left.text)  # what joins two terms of it goes with them
    _refuse_mixed(found, left.line)
    return found


def _refuse_mixed(found: dict[str, object], line: str) -> None:
    summed = {"percent_of_full_scale", "percent_of_reading", "absolute", "limit_divisions"} & found.keys()
    others = [n for n in ("percent_of_arc", "degrees_of_arc", "decibels", "factor") if n in found]
    of_value = {"at_least", "at_most"} & found.keys()
    if len(others) + bool(summed) + bool(of_value) > 1:
        raise ValueTextError(
            worded("jot.gives_its_limit_in_two_ways", line=line.strip(), ways=WAYS),
            value=line,
            expected=WAYS,
        )
    factor = found.get("factor", 2.0)
    if isinstance(factor, float) and not factor > 1:
        raise RangeError(worded("jot.a_factor_of_expected_one_above", factor=trimmed(factor)), value=line)


def with_values(found: dict[str, object], unit: str) -> LimitSaid:
    """Return a limit whose values are read in the unit of the range, or another of the same quantity.

    Raises
    ------
    CandorError
        Where a value is of another quantity.
    """
    read = dict(found)
    for name in ("absolute", "at_least", "at_most"):
        words = read.get(name)
        if isinstance(words, str):
            read[name] = _value(words, unit)
    return LimitSaid(**read)  # type: ignore[arg-type]


def _value(words: str, unit: str) -> float:
    if unit in ("1", "dB"):
        return parse_number(re.sub(r"\s*[^\W\d_]+$", "", words), "a number")
    try:
        return parse_quantity(words, unit).value
    except CandorError:
        raise ValueTextError(
            worded("jot.the_limit_is_not_in_the", words=words, unit=unit),
            value=words,
            expected=unit,
        ) from None
