"""A value that is calculated from points of the instrument: `calculated a - b of a dc+/60/30, b dc-/60/30 comes to 0 V`."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import Any

from candor.core.errors import ValueTextError
from candor.core.instrument.how import HowRead
from candor.core.instrument.limit import LimitSaid
from candor.core.jot.left import Left
from candor.core.late_pattern import late_pattern
from candor.core.quantities import parse_number, parse_quantity
from candor.core.quantities.formula import parse_formula
from candor.core.quantities.units import suffix_meaning
from candor.core.worded import worded

EXAMPLE = "range turnover calculated a - b of a dc+/60/30, b dc-/60/30 comes to 0 V ±0.6 V"
UNITS = ("V", "A", "ohm", "F", "H", "Hz", "S", "s", "dB")  # that a range can be in, beside a bare number
# A limit without a unit, as a ratio has one: ±0.2.
_BARE_LIMIT = late_pattern(
    r"(?:±|\+\s?/?\s?[-−])\s*(?P<value>\d+(?:[.,]\d+)?|[.,]\d+)(?=\s*(?:$|,|by\b|the\b|maker|owner|shop))", re.I
)
_IS = r"(?:\s+is\s+|\s*=\s*|\s+)"
_NAMED = rf"[A-Za-z_]\w*{_IS}[^\s,;/=]+/[^\s,;]+"
_BEGINS = late_pattern(r"\b(?:calculated|figured)\b", re.I)
_CALCULATED = late_pattern(
    rf"\b(?:calculated|figured)\s*:?\s+(?:as\s+)?(?P<formula>.+?)\s+(?:of|with|where)\s+"
    rf"(?P<points>{_NAMED}(?:\s*(?:[,;]|\band\b)?\s*{_NAMED})*)\s*[,;]?\s+"
    r"(?:comes?\s+to|should\s+be)\s+(?P<value>[+-]?(?:\d+(?:[.,]\d+)?|[.,]\d+))(?P<unit>\s*(?:[^\W\d_]+|Ω|%))?(?=[\s,;±]|$)",
    re.I,
)


def take_figured(left: Left) -> tuple[dict[str, Any], str] | None:
    """Take it out of what is left of a line: keywords of `HowRead` that need no unit, and the value as it is written.

    Raises
    ------
    ValueTextError
        Where it is said by halves, or names of the formula and of the points are not the same.
    """
    match = left.take(_CALCULATED)
    if match is None:
        if _BEGINS.search(left.text):
            raise ValueTextError(
                worded("jot.a_calculated_value_is_written_so", example=EXAMPLE), value=left.line, expected=EXAMPLE
            )
        return None
    pairs = tuple(tuple(re.split(_IS, one, maxsplit=1)) for one in re.findall(_NAMED, match["points"]))
    formula = parse_formula(match["formula"])
    if sorted(name for name, _ in pairs) != sorted(formula.names):
        raise ValueTextError(
            worded(
                "jot.the_formula_has_and_the_points",
                names=", ".join(formula.names),
                said=", ".join(n for n, _ in pairs),
            ),
            value=left.line,
            expected=EXAMPLE,
        )
    return {"kind": "figured", "formula": formula.text, "points": pairs}, match["value"] + (match["unit"] or "")


def value_of(written: str) -> tuple[float, str]:
    """Return what it should come to, and in which unit, SI: ``0 V``, ``60 %``, ``-12 mV``; without a unit it is a ratio.

    Raises
    ------
    ValueTextError
        Where the unit is none that Candor knows.
    """
    words = written.strip()
    if words.endswith("%"):
        return parse_number(words.rstrip("% "), "what it comes to") / 100, "1"
    bare = re.fullmatch(r"[+-]?[\d.,]+", words)
    if bare is not None:
        return parse_number(words, "what it comes to"), "1"
    meaning = suffix_meaning(re.sub(r"^[+-]?[\d.,]+\s*", "", words).replace("µ", "u").replace("Ω", "ohm"), None)
    if meaning is None or meaning[1] not in UNITS:
        raise ValueTextError(
            worded("jot.a_calculated_value_is_written_so", example=EXAMPLE), value=written, expected=EXAMPLE
        )
    return parse_quantity(words, meaning[1]).value, meaning[1]


def take_bare_limit(left: Left, unit: str) -> float:
    """Take a limit without a unit out of what is left of a line about a ratio; 0 where there is none, or it is no ratio.

    Raises
    ------
    ValueTextError
        Where its number cannot be read.
    """
    match = left.take(_BARE_LIMIT) if unit == "1" else None
    return parse_number(match["value"], "a limit such as 0.2") if match is not None else 0.0


def of_calculated(limit: LimitSaid, how: HowRead, line: str) -> LimitSaid:
    """Return the limit of a range; of a calculated value per cent are of what it should come to, and none of what comes to nothing.

    Raises
    ------
    ValueTextError
        Where per cent are said of zero.
    """
    share = limit.percent_of_full_scale or limit.percent_of_reading
    if how.kind != "figured" or not share:
        return limit
    if not how.comes_to:
        raise ValueTextError(worded("jot.per_cent_of_nothing_are_no_limit"), value=line, expected="±0.5 V")
    return replace(limit, percent_of_full_scale=0.0, percent_of_reading=share)
