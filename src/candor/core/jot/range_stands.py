"""The greatest that a maker states for a range, at the end of its line: `stands 500 V`, `stands 10 times full scale for 2 s`."""

from __future__ import annotations

import re

from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.jot.left import Left
from candor.core.late_dataclass import dataclass
from candor.core.late_pattern import late_pattern
from candor.core.quantities import engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

_NUMBER = r"\d+(?:[.,]\d+)?"
_STANDS = late_pattern(
    rf",?\s*\b(?:stands|bears|withstands|(?:absolute\s+)?max(?:imum|\.)?(?:\s+input)?|overload)\s+(?:up\s+to\s+|of\s+)?(?P<value>{_NUMBER})\s*"
    rf"(?:(?P<times>times|x)(?:\s+(?:its\s+)?full[\s-]scale)?|(?P<unit>[^\W\d_]+)(?:\s+r\.?m\.?s\.?)?)"
    rf"(?:\s+for\s+(?P<seconds>{_NUMBER})\s*(?P<time>s|sec|seconds?|min|minutes?)\b)?",
    re.I,
)
_BEGUN = late_pattern(r"\b(?:stands|bears|withstands|max(?:imum)?|overload\s+protect\w*)\b", re.I)
EXAMPLE = "stands 500 V, stands 10 times full scale for 2 s"


@dataclass(frozen=True)
class Stands:
    """The greatest that the maker states: V or A, with its seconds; 0 where nobody states it, or no end."""

    value: float = 0.0
    seconds: float = 0.0

    def words(self, unit: str) -> str:
        """Say it as it would be typed: ``stands 500 V for 2 s``; empty where nothing is stated."""
        if not self.value:
            return ""
        held = worded("jot.for_s", seconds=trimmed(self.seconds, 4)) if self.seconds else ""
        return f"stands {engineering(self.value, unit_of(unit), 6)}{held}"


NOTHING = Stands()


def unit_of(unit: str) -> str:
    """Return the unit it is stated in on a range of a unit: an ohmmeter stands volts."""
    return "V" if unit == "ohm" else unit


def take_stands(left: Left) -> re.Match[str] | None:
    """Take out what a line states of it.

    Raises
    ------
    ValueTextError
        Where it is begun and cannot be read.
    """
    found = left.take(_STANDS)
    if found is None and _BEGUN.search(left.text):
        raise ValueTextError(
            worded("jot.what_does_the_range_stand_write", example=EXAMPLE), value=left.line, expected=EXAMPLE
        )
    return found


def stands_of(found: re.Match[str] | None, unit: str, full_scale: float) -> Stands:
    """Return what was taken out, on a range of a unit.

    Raises
    ------
    ValueTextError, RangeError
        Where it is of another quantity, times of nothing, or less than full scale.
    """
    if found is None:
        return NOTHING
    wanted = unit_of(unit)
    minutes = (found["time"] or "").lower().startswith("min")
    seconds = parse_number(found["seconds"], "seconds") * (60 if minutes else 1) if found["seconds"] else 0.0
    if wanted not in ("V", "A"):
        raise ValueTextError(worded("jot.what_a_range_stands_is_in", unit=unit), value=found[0].strip(" ,"))
    if found["times"]:
        if unit == "ohm":
            raise ValueTextError(worded("jot.an_ohms_range_stands_volts_stands"), value=found[0].strip(" ,"))
        value = parse_number(found["value"], "a number") * full_scale
    else:
        try:
            value = parse_quantity(f"{found['value']} {found['unit']}", wanted).value
        except CandorError:
            raise ValueTextError(
                worded("jot.is_not_in_write", first=found[0].strip(" ,"), wanted=wanted, example=EXAMPLE),
                value=found[0].strip(" ,"),
                expected=wanted,
            ) from None
    if unit != "ohm" and value < full_scale * (1 - 1e-9):
        raise RangeError(
            worded(
                "jot.it_stands_less_than_its_full",
                value=engineering(value, wanted),
                full_scale=engineering(full_scale, wanted),
            ),
            value=found[0].strip(" ,"),
        )
    return Stands(value, seconds)
