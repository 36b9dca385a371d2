"""Values that are calculated from what was read, where a value is asked: `33 mV over 1k5`, `14 Vpp sine`, `5 ns by 3 ns`.

A current from the volts over a resistor, a power from volts across one, a root mean square from peak to peak with its shape, a rise
time without that of what it was seen on, a sum of pieces: by definition, but for the rise time, whose squares add where both are of
Gaussian form (common practice, no source).
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable

from candor.core.errors import RangeError, ValueTextError
from candor.core.late_pattern import late_pattern
from candor.core.worded import worded

# Root mean square of 1 peak to peak, by definition of each shape.
RMS_OF_PEAK_TO_PEAK = {"sine": 1 / (2 * math.sqrt(2)), "square": 0.5, "triangle": 1 / (2 * math.sqrt(3))}
_MAY_BE = late_pattern(r"\b(?:over|across|by)\s|p-?p\b|\bpeak\b|[^\s+eE]\s*\+\s*[\d.]")
_TWO = late_pattern(r"(?:rise\s+)?(?P<one>.+?)\s+(?P<how>over|across|by)\s+(?P<other>.+)", re.I)
_PEAKS = late_pattern(
    r"(?P<value>.+?)\s?(?P<unit>[mkµu]?[VA])?\s?(?P<how>p-?p|pk-pk|peak\s+to\s+peak|peak|pk)(?:\s+(?P<shape>[a-z]+))?",
    re.I,
)
Read = Callable[[str, str], float]


def derived(text: str, expected: str, read: Read) -> tuple[float, str] | None:
    """Return a value in `expected`, SI, calculated from what was written, and how, in words; None where it is one value alone.

    `read` reads one value of a unit.

    Raises
    ------
    CandorError
        Where a piece of it cannot be read, or cannot be.
    """
    if not _MAY_BE.search(text):
        return None
    two = _TWO.fullmatch(text)
    if two is not None:
        return _of_two(two, expected, read)
    peaks = _PEAKS.fullmatch(text)
    if peaks is not None and expected in ("V", "A"):
        return _of_peaks(peaks, text, expected, read)
    pieces = [piece.strip() for piece in re.split(r"(?<![eE\s])\s*\+\s*", text)]
    if len(pieces) > 1 and all(pieces):
        return sum(read(piece, expected) for piece in pieces), f"sum of {' + '.join(pieces)}"
    return None


def of_one_standard(text: str) -> str:
    """Return what was written of a reference where one standard can have shown it.

    Raises
    ------
    ValueTextError
        Where it is made of two values: its U is that of both, and a chain carries them.
    """
    two = _TWO.fullmatch(text.strip())
    if two is None:
        return text
    first, joins = two["one"], two["how"].lower() != "by"
    way = (
        worded("quantities.record_the_resistor_as_a_standard", first=first)
        if joins
        else worded("quantities.type_what_the_standard_shows_alone", first=first)
    )
    raise ValueTextError(
        worded("quantities.is_made_of_two_values_and", text=text.strip(), way=way),
        value=text,
        expected=worded("quantities.what_the_standard_shows"),
    )


def _of_two(match: re.Match[str], expected: str, read: Read) -> tuple[float, str] | None:
    how, one, other = match["how"].lower(), match["one"], match["other"]
    if how == "by":
        if expected != "s":
            return None
        whole, part = read(one, "s"), read(other, "s")
        if not 0 <= part < whole:
            raise RangeError(worded("quantities.cannot_be_shorter_than_the_it", one=one, other=other), value=match[0])
        return math.sqrt(whole**2 - part**2), worded("quantities.seen_with_squares_subtracted", one=one, other=other)
    if expected not in ("A", "W"):
        return None
    volts, ohms = read(one, "V"), read(other, "ohm")
    if ohms <= 0:
        raise RangeError(worded("quantities.is_not_a_resistance_to_divide", other=other), value=other)
    return (volts / ohms if expected == "A" else volts**2 / ohms), f"{one} {how} {other}"


def _of_peaks(match: re.Match[str], text: str, expected: str, read: Read) -> tuple[float, str]:
    shape = (match["shape"] or "").lower()
    factor = RMS_OF_PEAK_TO_PEAK.get(shape)
    if factor is None:
        raise ValueTextError(
            worded("quantities.of_which_shape_the_r_m", text=text),
            value=text,
        )
    peak = match["how"].lower() in ("peak", "pk")
    value = read(f"{match['value']} {match['unit'] or expected}", expected) * (2 if peak else 1)
    return (
        value * factor,
        f"r.m.s. of {match['value']} {match['unit'] or expected} {'peak' if peak else 'peak to peak'}, {shape}",
    )
