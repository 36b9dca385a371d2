"""A soak as it is told: `10:45 150.9`, `after 10 min 150.3`, `150.3 @ 15 min`, `started the soak`: lines that are offered."""

from __future__ import annotations

import re

from candor.core.jot.slots import NUMBER
from candor.core.late_pattern import late_pattern

_UNIT = r"(?:\s?(?:[kmMuµnp]?(?:V|A|W|F|H|Hz|S|ohms?|Ω)|volts?|mA))?"
_VALUE = rf"(?P<value>{NUMBER}{_UNIT})(?![A-Za-z\d])"
_SHOWS = (
    r"(?:(?:it|the|needle|pointer|meter|reading)\s+)*(?:reads?|shows?|is|was|at|=|to|climbed to|fell to|rose to)?\s*"
)
_CLOCK = r"(?P<clock>\d{1,2}[:.]\d{2})(?:\s?(?:h|hrs?|o'clock))?"
_AMOUNT = (
    r"(?:(?P<n>\d+(?:[.,]\d+)?)\s?(?P<size>s|secs?|seconds?|m|mins?|minutes?|h|hrs?|hours?)"
    r"|(?P<h>\d+)\s?h(?:ours?)?\s?(?P<m>\d{1,2})(?:\s?m(?:in(?:utes?)?)?)?)"
)
_TIME = rf"(?:(?:at|after|t\s?=|@)\s*)?(?:{_CLOCK}|{_AMOUNT})(?:\s+(?:in|on|later|since on|into it))?"
_TIME_FIRST = late_pattern(rf"{_TIME}\s*[,:;=]?\s*{_SHOWS}{_VALUE}", re.I)
_VALUE_FIRST = late_pattern(
    rf"{_SHOWS}{_VALUE}\s*[,;]?\s*(?:at|after|@)\s*(?:t\s?=\s*)?(?:{_CLOCK}|{_AMOUNT})(?:\s+(?:in|on))?", re.I
)
_BARE = late_pattern(rf"{_SHOWS}{_VALUE}", re.I)
_SOAK = r"(?:(?:the|a|its)\s+)?(?:soak(?:ing)?|warm[ -]?up|burn[ -]?in)"
_BEGUN = late_pattern(
    rf"(?:start(?:ed|ing)?|begin|began|begun)\s+{_SOAK}(?:\s+(?:at|since)\s+{_CLOCK})?|{_SOAK}\s+(?:started|begun|on)(?:\s+(?:at|since)\s+(?P<then>\d{{1,2}}[:.]\d{{2}}))?",
    re.I,
)
_ENDED = late_pattern(
    rf"(?:stop(?:ped)?|end(?:ed)?|finished)\s+{_SOAK}|{_SOAK}\s+(?:over|done|ended|stopped|finished)", re.I
)
_SIZES = {"s": "s", "m": "min", "h": "h"}


def soak_lines(text: str, stop: str) -> tuple[str, ...]:
    """Return the line that a reading told with its time, or with none, or a soak that began or ended, is meant as at its stop; none
    where it is no such."""
    if stop != "soak":
        return ()
    text = text.strip()
    if match := _TIME_FIRST.fullmatch(text) or _VALUE_FIRST.fullmatch(text):
        if match["clock"]:
            return (" ".join(("soak", match["value"], "at", match["clock"])),)
        if match["h"]:
            return (_after(match["value"], 60 * int(match["h"]) + int(match["m"]), "min"),)
        return (_after(match["value"], match["n"], _SIZES[match["size"][0].lower()]),)
    if match := _BEGUN.fullmatch(text):
        then = match["clock"] or match["then"]
        return (" ".join(("on", "since", then)),) if then else ("on",)
    if _ENDED.fullmatch(text):
        return ("off",)
    if match := _BARE.fullmatch(text):
        return (f"soak {match['value']}",)
    return ()


def _after(value: str, count: int | str, size: str) -> str:
    return " ".join(("soak", value, "after", str(count), size))
