"""What a standard's lines are of, as a handbook heads them: ``V d.c.``, ``DC Volts``, ``DCV``, ``Resistance``, ``µmho``."""

from __future__ import annotations

import re
from typing import NamedTuple

from candor.core.quantities.units import normalise
from candor.core.reference.reference import Current
from candor.notebook.entries.standards_entries import StandardUnit

# Words that stand for a quantity whatever their case; a unit's own sign may carry a prefix before it.
_CALLED: dict[StandardUnit, str] = {
    "V": "volt volts voltage",
    "A": "amp amps ampere amperes current",
    "ohm": "ohm ohms resistance res",
    "F": "farad farads capacitance capacity cap",
    "H": "henry henries inductance",
    "Hz": "hertz frequency freq",
    "s": "second seconds time period",
    "S": "siemens conductance transconductance gm mho mhos umho umhos",
    "dB": "db decibel decibels",
    "1": "ratio % percent",
}
_WORDS = {word: unit for unit, words in _CALLED.items() for word in words.split()}
_SIGNS: dict[str, StandardUnit] = {"v": "V", "a": "A", "f": "F", "h": "H", "hz": "Hz", "ω": "ohm", "ohm": "ohm"}
_CURRENT: dict[str, Current] = {
    "dc": "d.c.", "d.c.": "d.c.", "d.c": "d.c.", "direct": "d.c.",
    "ac": "a.c.", "a.c.": "a.c.", "a.c": "a.c.", "alternating": "a.c.",
}  # fmt: skip
_GLUED = re.compile(r"(?P<before>[ad]c)(?P<sign>[mukM]?[VA])|(?P<unit>[mukM]?[VA])(?P<behind>[ad]c)", re.I)


class Heading(NamedTuple):
    """What a heading says: the unit, of which current, and what stands behind its first comma."""

    unit: StandardUnit
    current: Current
    rest: str


def read_heading(text: str) -> Heading | None:
    """Return what a line heads; None where it is no heading.

    Parameters
    ----------
    text : str
        ``V a.c., average responding``. *S* is siemens and *s* seconds; all else in any case.
    """
    head, _, rest = normalise(text).partition(",")
    words = [_apart(word) for word in head.split()]
    flat = [word for pair in words for word in pair]
    currents: list[Current] = [_CURRENT[word.lower()] for word in flat if word.lower() in _CURRENT]
    left = " ".join(word for word in flat if word.lower() not in _CURRENT)
    unit = _unit(left)
    if unit is None or len(currents) > 1 or (currents and unit not in ("V", "A")):
        return None
    return Heading(unit, currents[0] if currents else "", rest.strip())


def _apart(word: str) -> tuple[str, ...]:
    """DCV and VAC are two words written as one."""
    match = _GLUED.fullmatch(word)
    if match is None:
        return (word,)
    return (match["before"], match["sign"]) if match["before"] else (match["behind"], match["unit"])


def _unit(word: str) -> StandardUnit | None:
    if word in ("S", "s"):
        return "S" if word == "S" else "s"
    if re.fullmatch(r"[munµ][sS]", word):  # ms and mS: as they are written
        return "S" if word.endswith("S") else "s"
    low = word.lower().replace("µ", "u")
    if low in _WORDS:
        return _WORDS[low]
    return _SIGNS.get(low) or _SIGNS.get(re.sub(r"^[pnumkg](?=.)", "", low))
