"""Understanding a line about a range: `range 30 V 30 div 3%fs`, `range DC+ 1.5 V 30 div mirror 2% owner`, `points 10 20 30`."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import cast

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.jot.meaning import Current, LimitBy, PointsJot, RangeJot, RangeUnit
from candor.core.quantities import engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.quantities.units import SYMBOLS, suffix_meaning

EXPECTED = "range 30 V 30 div 3%fs"
UNITS: tuple[RangeUnit, ...] = ("V", "A", "ohm", "F", "H", "Hz", "S", "s")
MOST_DIVISIONS = 1000
# What a function is called where only its unit was said.
FUNCTION_OF_UNIT = {
    "V": "Volts", "A": "Current", "ohm": "Ohms", "F": "Capacitance", "H": "Inductance", "Hz": "Frequency",
    "S": "Conductance", "s": "Time",
}  # fmt: skip

_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_DIVISIONS = re.compile(rf"([+-]?{_NUMBER})\s*div(?:isions?|s)?\b\.?", re.I)
_PERCENT = re.compile(
    rf"(?:±|\+/?-)?\s*({_NUMBER})\s*%\s*(of\s+)?(full\s+scale|f\.?s\.?|reading|rdg\.?|rd)?(?![a-z])", re.I
)
_ABSOLUTE = re.compile(rf"(?:±|\+/-|\+-)\s*({_NUMBER}\s*[^\s%\d]+)")
_BY = re.compile(r"\b(?:limit\s+)?(?:by\s+|of\s+)?(?:the\s+)?(maker|owner|shop)(?:'s|’s)?(?:\s+limit)?\b", re.I)
_MIRROR = re.compile(r"\b(no\s+)?mirror(ed)?\b", re.I)
_AC = re.compile(r"(?<![a-z])(?:ac|a\.c\.?|alternating|rms|r\.m\.s\.?)(?![a-z])|[~∼]", re.I)
_DC = re.compile(r"(?<![a-z])(?:dc|d\.c\.?|direct)(?![a-z])|[+−]$", re.I)
_QUANTITY = re.compile(rf"({_NUMBER})\s*([^\W\d_]+|Ω)(?=\s|$|,)", re.U)


def understand_range(text: str) -> RangeJot:
    """Say what a line about a range means.

    Parameters
    ----------
    text : str
        What stands behind the word *range*: its function where it has a name, full scale with its unit, divisions, mirror, and the
        limit with whose it is. Per cent without more are of full scale.

    Raises
    ------
    ValueTextError, RangeError
        Where full scale or divisions are missing or cannot be.
    """
    rest = text.replace("−", "-").strip()
    divisions, rest = _divisions(rest)
    limit, rest = _limit(rest)
    by = _BY.search(rest)
    rest = _BY.sub(" ", rest)
    mirrored = _MIRROR.search(rest)
    rest = _MIRROR.sub(" ", rest)
    hertz, rest = _frequency(rest)
    full_scale, unit, function = _full_scale(rest, text)
    current = _current(function, unit, hertz)
    found = RangeJot(
        current=current, hertz=hertz if current == "a.c." else 0.0,
        function=function or FUNCTION_OF_UNIT[unit], unit=unit, full_scale=full_scale, divisions=divisions,
        mirror=bool(mirrored and not mirrored[1]), by=cast(LimitBy, by[1].lower()) if by else "maker",
        polarity="-" if function.endswith("−") else "+", percent_of_full_scale=limit.get("full scale", 0.0),
        percent_of_reading=limit.get("reading", 0.0), absolute=limit.get("absolute", 0.0),
    )  # fmt: skip
    return _with_chips(found)


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
        raise ValueTextError(f"Which range? Add the range first. Example: {EXPECTED}", value=text)
    values = []
    for word in re.findall(rf"-?{_NUMBER}\s*[^\W\d_]*", text, re.U):
        value = abs(point.quantity(word))
        values.append(check_nominal(value, point))
    if not values:
        raise ValueTextError(f"“{text.strip()}” names no point. Example: points 10 20 30", value=text)
    wanted = tuple(dict.fromkeys(values))
    return PointsJot(
        wanted, (f"{point.range_name} range at {', '.join(engineering(v, point.unit) for v in wanted)}",)
    )


def check_nominal(value: float, point: TestPoint) -> float:
    """Return a value, SI, where it can be a point of a range.

    Raises
    ------
    RangeError
        At zero, or beyond full scale.
    """
    shown = engineering(value, point.unit)
    if value <= 0:
        raise RangeError(
            f"A point at {shown} says only where zero stands. Expected: one above zero, up to "
            f"{engineering(point.full_scale, point.unit)}.",
            value=shown,
        )
    if value > point.full_scale * (1 + 1e-9):
        raise RangeError(
            f"{shown} is beyond the {point.range_name} range, which ends at {engineering(point.full_scale, point.unit)}.",
            value=shown,
            expected=f"up to {point.full_scale:g} {point.unit}",
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


def _divisions(rest: str) -> tuple[int, str]:
    match = _DIVISIONS.search(rest)
    if match is None:
        raise ValueTextError(f"How many divisions has its scale? Example: {EXPECTED}", value=rest, expected=EXPECTED)
    number = parse_number(match[1], "a number of divisions such as 30")
    if number != int(number) or not 1 <= number <= MOST_DIVISIONS:
        raise RangeError(
            f"{trimmed(number)} divisions? Expected a whole number from 1 to {MOST_DIVISIONS}, such as 30 div.",
            value=match[1],
        )
    return int(number), rest[: match.start()] + " " + rest[match.end() :]


def _limit(rest: str) -> tuple[dict[str, float], str]:
    found: dict[str, float] = {}
    for match in _PERCENT.finditer(rest):
        of = "reading" if (match[3] or "").lower().startswith("r") else "full scale"
        value = parse_number(match[1], "a limit such as 3 %")
        if not 0 < value <= 100:
            raise RangeError(f"A limit of {trimmed(value)} %? Expected one above 0, up to 100 %.", value=match[0])
        found[of] = value
    rest = _PERCENT.sub(" ", rest)
    stated = _ABSOLUTE.search(rest)
    if stated:
        found["absolute"], _ = _read(stated[1], stated[0])
        rest = _ABSOLUTE.sub(" ", rest)
    return found, rest


def _full_scale(rest: str, text: str) -> tuple[float, RangeUnit, str]:
    matches = [m for m in _QUANTITY.finditer(rest) if _known(m[2])]
    if not matches:
        raise ValueTextError(
            f"“{text.strip()}”: where does the range end? Give a value with its unit. Example: {EXPECTED}",
            value=text,
            expected=EXPECTED,
        )
    match = matches[-1]
    value, unit = _read(match[0], text)
    if value <= 0:
        raise RangeError(f"A range that ends at {engineering(value, unit)}? Expected one above zero.", value=match[0])
    function = " ".join((rest[: match.start()] + " " + rest[match.end() :]).replace(",", " ").split())
    function = re.sub(r"^(?:of|for|on)\s+|\s+(?:of|for|on)$", "", function, flags=re.I)
    _refuse_left_over(function, text)
    if not re.search(r"[^\W\d_]", function):
        function = f"{FUNCTION_OF_UNIT[unit]} −" if "-" in function else ""
    if len(function) > 40:
        raise ValueTextError(
            f"“{function[:40]} …” is long for the name of a function. Expected: a few words.", value=text
        )
    return value, unit, re.sub(r"-$", "−", function)


def _refuse_left_over(function: str, text: str) -> None:
    """Refuse what would be taken for the name of a function and is none: no word of a line is turned into a name."""
    if "±" in function:
        raise ValueTextError(f"Candor cannot read the limit in “{text.strip()}”. Examples: ±3 %, ±0.5 V", value=text)
    if re.search(r"\b(?:cent(?:er|re)|mid-?scale|log(?:arithmic)?|square\s+law)\b", function, re.I):
        raise ValueTextError(
            f"“{text.strip()}” is not an even scale from zero; this line describes even scales only. Example: {EXPECTED}",
            value=text,
        )
    left = re.findall(r"(?<!\S)(?:[\d.,]\S*|\S*\.\.\S*|\S*%\S*)", function)
    if left:
        raise ValueTextError(
            f"Candor does not understand “{' '.join(left)}” in “{text.strip()}”. Example: {EXPECTED}",
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
    raise ValueTextError(f"“{words}” has no unit that a needle shows. Example: {EXPECTED}", value=text)


def _with_chips(jot: RangeJot) -> RangeJot:
    unit = SYMBOLS.get(jot.unit, jot.unit)
    chips = [
        jot.function,
        f"0 to {engineering(jot.full_scale, jot.unit)}",
        f"{jot.divisions} div of {engineering(jot.full_scale / jot.divisions, jot.unit, 4)}",
    ]
    at = f" at {engineering(jot.hertz, 'Hz')}" if jot.hertz else ""
    chips += [f"{jot.current}{at}"] if jot.current == "a.c." else []
    chips += ["mirror"] if jot.mirror else []
    terms = [f"{trimmed(jot.percent_of_full_scale)} % of full scale"] if jot.percent_of_full_scale else []
    terms += [f"{trimmed(jot.percent_of_reading)} % of reading"] if jot.percent_of_reading else []
    terms += [f"{trimmed(jot.absolute)} {unit}"] if jot.absolute else []
    chips.append(f"limit ±({' + '.join(terms)}), the {jot.by}'s" if terms else "no limit: it cannot be judged")
    return replace(jot, chips=tuple(chips))
