"""Reading values as people write them: `6.72M`, `4k7`, `R47`, `10 mfd`, `2 1/2`."""

from __future__ import annotations

import datetime as dt
import math
import re

from candor.core.errors import DateError, UnitError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.late_pattern import late_pattern
from candor.core.quantities.derived import derived
from candor.core.quantities.units import MEGA_IS_MILLI, QUANTITY_OF_UNIT, SYMBOLS, normalise, suffix_meaning
from candor.core.worded import worded

_FRACTIONS = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅓": "1/3", "⅔": "2/3", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8",
              "⅞": "7/8", "⅕": "1/5", "⅖": "2/5", "⅗": "3/5", "⅘": "4/5", "⅙": "1/6", "⅚": "5/6", "⅐": "1/7"}  # fmt: skip
_FRACTION = late_pattern(rf"(?:(\d)\s*)?([{''.join(_FRACTIONS)}])")
_LONGEST = 60  # characters of a number: what is longer is not a value somebody read
_NUMBER = late_pattern(
    r"(?P<sign>[+-]?)\s*(?:(?:(?P<whole>\d+)(?:\s+|\s*-\s*))?(?P<top>\d+)/(?P<bottom>\d+)"
    r"|(?P<decimal>(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d+)?))"
)
_LETTER_AS_POINT = late_pattern(r"([+-]?)(\d*)(R|r|k|K|M|G|T|m|u|n|p|f|V|Ω)(\d+)\s*(.*)")


@dataclass(frozen=True)
class Quantity:
    """A number in its SI unit, with the text it was read from.

    Attributes
    ----------
    value : float
        In `unit`.
    unit : str
        "V", "A", "ohm", "F", "H", "Hz", "S", "s", "W", "degC" or "1".
    text : str
        As it was written.
    note : str
        What was taken for granted in reading it, for the chip; empty where nothing was.
    """

    value: float
    unit: str
    text: str
    note: str = ""


def parse_number(text: str, what: str = "a number") -> float:
    """Read a bare number, without a unit: decimal, with a fraction (`2 1/2`, `¼`), or with a decimal comma.

    Raises
    ------
    ValueTextError
        Where `text` is empty, not a number, or a comma could mean thousands.
    """
    value, rest = _leading_number(_expand(text), text, what)
    if rest:
        raise ValueTextError(
            worded("quantities.is_not_part_of_a_number", text=text.strip(), rest=rest, what=what),
            value=text,
            expected=what,
        )
    return value


def parse_quantity(text: str, expected: str, bare: float = 1.0) -> Quantity:
    """Read a value with or without prefix and unit, for a place that expects one unit.

    Parameters
    ----------
    text : str
        As written: `6.72M`, `4k7`, `10 mfd`, `0.25 meg`, `2 1/2`, `72.6`.
    expected : str
        The SI unit of the place; a bare number, or one with a prefix only, is taken in it.
    bare : float
        How much 1 of a bare number is, SI: 0.001 on a range that is marked in mA.

    Returns
    -------
    Quantity
        In the expected unit.

    Raises
    ------
    ValueTextError
        Where the text cannot be read.
    UnitError
        Where it is in another unit.

    Notes
    -----
    Old prints write milli in capitals: where a million of the unit is absurd, M is milli, and `note` says so. A capacitance
    below 1 without a unit is in µF, as old drawings write it, and `note` says so; any other without one is a question.
    What is calculated on the spot, `33 mV over 1k5`, says so in its note; see `derived`.
    A letter standing for the decimal point is the RKM code of IEC 60062.
    """
    worked_out = derived(_expand(text), expected, lambda piece, unit: parse_quantity(piece, unit, bare).value)
    if worked_out is not None:
        return Quantity(worked_out[0], expected, text.strip(), f"calculated: {worked_out[1]}")
    kind, example = QUANTITY_OF_UNIT[expected]
    what = worded("quantities.a_such_as", kind=kind, example=example)
    clean = _expand(text)
    letter = _LETTER_AS_POINT.fullmatch(clean)
    if letter and len(clean) <= _LONGEST:
        sign, whole, point, part, unit = letter.groups()
        suffix = ("" if point in "RrVΩ" else point) + unit
        if point in "RrΩ" and not unit:
            suffix = "ohm"
        if point == "V" and not unit:
            suffix = "V"
        number = float(f"{sign}{whole or '0'}.{part}")
    else:
        number, suffix = _leading_number(clean, text, what)
    meaning = suffix_meaning(suffix, expected)
    if meaning is None:
        raise ValueTextError(
            worded("quantities.is_neither_a_prefix_nor_a", text=text.strip(), suffix=suffix, what=what),
            value=text,
            expected=what,
        )
    factor, unit_found = meaning
    note = ""
    if not suffix and bare != 1.0:
        return Quantity(number * bare if bare >= 1 else number / round(1 / bare, 6), expected, text.strip())
    if factor == 1e6 and expected in MEGA_IS_MILLI and suffix.replace(" ", "")[:1] == "M":
        factor, note = 1e-3, worded("quantities.m_read_as_milli")
    if expected == "F" and not suffix and number:
        if not 0 < number < 1:
            raise ValueTextError(
                worded("quantities.of_what_write_the_unit_p", text=text.strip()),
                value=text,
                expected=what,
            )
        factor, note = 1e-6, worded("quantities.without_a_unit_read_as_f")
    if unit_found is not None and unit_found != expected:
        found = QUANTITY_OF_UNIT[unit_found][0]
        symbol = SYMBOLS.get(expected, expected)
        raise UnitError(
            worded(
                "quantities.is_a_this_place_expects_a",
                text=text.strip(),
                found=found,
                kind=kind,
                symbol=symbol,
                example=example,
            ),
            value=text,
            expected=what,
        )
    value = number * factor if factor >= 1 else number / round(1 / factor, 6)  # 10u is exactly 1e-5
    if not math.isfinite(value):
        raise ValueTextError(
            worded("quantities.is_too_large_to_be", text=text.strip(), what=what), value=text, expected=what
        )
    return Quantity(value, expected, text.strip(), note)


def parse_date(text: str, today: dt.date, what: str = "the date") -> dt.date:
    """Read a date as YYYY-MM-DD that is not after `today`.

    Raises
    ------
    DateError
        Where it is not a date, or lies in the future.
    """
    try:
        day = dt.date.fromisoformat(text.strip())
    except ValueError:
        raise DateError(
            worded("quantities.is_not_a_date_candor_can", text=text.strip(), what=what),
            value=text,
            expected="YYYY-MM-DD",
        ) from None
    if day > today:
        raise DateError(
            worded("quantities.is_in_the_future_cannot_be", day=day.isoformat(), what=what, today=today.isoformat()),
            value=text,
            expected=worded("quantities.on_or_before", today=today.isoformat()),
        )
    return day


def _expand(text: str) -> str:
    """Bring signs to one form and write out fraction characters."""
    clean = normalise(text)
    return clean if clean.isascii() else _FRACTION.sub(_written_out, clean)


def _written_out(found: re.Match[str]) -> str:
    written = _FRACTIONS[found[2]]
    return f"{found[1]} {written}" if found[1] else written


def _leading_number(clean: str, text: str, what: str) -> tuple[float, str]:
    """Return the number at the start of `clean` and whatever follows it."""
    if not clean:
        raise ValueTextError(worded("quantities.nothing_was_entered_expected", what=what), value=text, expected=what)
    match = _NUMBER.match(clean)
    if not match:
        raise ValueTextError(
            worded("quantities.does_not_begin_with_a_number", clean=clean, what=what), value=text, expected=what
        )
    sign = -1.0 if match["sign"] == "-" else 1.0
    rest = clean[match.end() :].strip()
    if match.end() > _LONGEST:
        raise ValueTextError(
            worded("quantities.is_characters_long_expected", clean=clean[:20], end=match.end(), what=what),
            value=text,
            expected=what,
        )
    if match["bottom"]:
        if int(match["bottom"]) == 0:
            raise ValueTextError(
                worded("quantities.divides_by_zero_expected", clean=clean, what=what), value=text, expected=what
            )
        return sign * (float(match["whole"] or 0) + int(match["top"]) / int(match["bottom"])), rest
    decimal = match["decimal"]
    if re.fullmatch(r"[1-9]\d{0,2},\d{3}", decimal):
        raise ValueTextError(
            worded("quantities.the_comma_could_mean_thousands_or", clean=clean),
            value=text,
            expected=what,
        )
    number = float(decimal.replace(",", "."))
    if not math.isfinite(number):
        raise ValueTextError(
            worded("quantities.is_too_large_expected", clean=clean, what=what), value=text, expected=what
        )
    return sign * number, rest
