"""A line about a range as people write it, brought to the form that it is read in: 0-30 V, 2 1/2 V, 300 mA f.s., R x 1k."""

from __future__ import annotations

import math
import re

from candor.core.late_pattern import late_pattern
from candor.core.quantities import parse_number
from candor.core.quantities.show import in_si, trimmed
from candor.core.quantities.units import suffix_meaning

_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_UNIT = r"(?:[^\W\d_]+|Ω)"
_FRACTION = late_pattern(
    rf"(?<![\w.,/@+-])(?:(?P<whole>\d+)[ -])?(?P<over>\d)/(?P<under>[248])(?=\s*(?P<unit>{_UNIT}))"
)
_APART = late_pattern(r"(?<=\d)\s*([kKM])\s+(ohms?\b|Ω)", re.I)
_PER_CENT = late_pattern(r"(?<=\d)\s*(?:per\s?cent|pct)\b", re.I)
_BETWEEN = late_pattern(
    rf"(?<![\w.,@+-])(?P<low>{_NUMBER})\s*(?P<low_unit>{_UNIT})?\s*(?:-|–|\.\.|to)\s*(?P<high>{_NUMBER})\s*(?P<unit>{_UNIT})"
)
_FULL_SCALE = late_pattern(
    rf"(?P<end>{_NUMBER}\s*(?P<unit>{_UNIT}))\s+(?:f\.?s\.?d?\.?|full[ -]scale)(?=[\s,]|$)", re.I
)
_MULTIPLIER = late_pattern(r"(?<![\w\"“])R\s*[x×]\s*(?P<times>\d+\s?[kKM]?)(?=[\s,]|$)", re.I)


_ACCURACY = late_pattern(
    r"\b(?:accura(?:cy|te)|tolerance|within|spec(?:ified|ification)?)\s*(?:is|of|to|[:=])?\s*(?=±|\+|\d[\d.,]*\s*%)",
    re.I,
)
_FULL_SCALE_DEFLECTION = late_pattern(r"\bf\.?s\.?d\b\.?", re.I)


def plainly(text: str) -> str:
    """Return a line with its fractions as decimals, ends joined by two points, per cent as a sign, and a multiplier as its name.

    Parameters
    ----------
    text : str
        What stands behind the word *range*.
    """
    text = _FULL_SCALE_DEFLECTION.sub("fs", _ACCURACY.sub("", text))
    text = _FRACTION.sub(_decimal, text)
    text = _APART.sub(r" \1\2", text)
    text = _PER_CENT.sub(" %", text)
    text = _BETWEEN.sub(_joined, text)
    text = _FULL_SCALE.sub(lambda m: m["end"] if _factor(m["unit"]) else m[0], text)
    found = list(_MULTIPLIER.finditer(text)) if not re.search(r"\bcalled\b", text, re.I) else []
    if not found:
        return text
    names = " ".join(f"R×{m['times'].replace(' ', '')}" for m in found)
    return f'{_MULTIPLIER.sub("", text)} called "{names}"'.strip()


def named(function: str, usual: str) -> str:
    """Return a function as it was called; where only a.c. or d.c. was said of it, or nothing, by what its unit is usual for."""
    current = re.fullmatch(r"([ad])\.?c\.?", function, re.I)
    return f"{current[1].upper()}C {usual.lower()}" if current else function or usual


def as_written(words: str, value: float, unit: str) -> str:
    """Return what a range is called whose face writes its end in another prefix than the usual: 1500 V, .3 V, 3000 µmho.

    Its numbers are then read as they are printed there; empty where the end is written as it is shown.

    Parameters
    ----------
    words : str
        The end as it was written.
    value : float
        The end, SI.
    unit : str

    Raises
    ------
    ValueTextError
        Where its number cannot be read.
    """
    match = re.fullmatch(rf"({_NUMBER})\s*({_UNIT})\.?", words.strip())
    shown = re.match(r"[\d.]+", in_si(value, unit, 6))
    if match is None or shown is None:
        return ""
    number = parse_number(match[1], "the end of a range")
    if math.isclose(number, float(shown[0]), rel_tol=1e-9) or not math.isclose(
        number * _factor(match[2]), value, rel_tol=1e-9
    ):
        return ""
    sign = re.sub(r"ohms?$", "Ω", re.sub(r"^[uμ]", "µ", match[2]))
    return f"{trimmed(number, 6)} {sign}"


def _factor(unit: str | None) -> float:
    """What one of a unit is in SI, 0 where it is none."""
    meaning = suffix_meaning(unit.replace("µ", "u").replace("μ", "u"), None) if unit else None
    return meaning[0] if meaning is not None else 0.0


def _decimal(match: re.Match[str]) -> str:
    if not _factor(match["unit"]):
        return match[0]
    return f"{int(match['whole'] or 0) + int(match['over']) / int(match['under']):g}"


def _joined(match: re.Match[str]) -> str:
    """0-30 V as 0..30 V, and 100 pF to 1 nF in the unit of its end; what rises not, or is of no unit, as it was."""
    own, beside = _factor(match["unit"]), _factor(match["low_unit"])
    if not own or (match["low_unit"] and not beside):
        return match[0]
    low, high = (parse_number(match[end], "an end such as 30") for end in ("low", "high"))
    low *= beside / own if beside else 1.0
    return f"{trimmed(low, 9)}..{match['high']} {match['unit']}" if low < high else match[0]
