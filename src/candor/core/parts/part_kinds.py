"""What kind of thing a part is, from the words and the unit people write: never from the first letter of its designator."""

from __future__ import annotations

import re
from collections.abc import Mapping
from functools import lru_cache
from typing import get_args

from candor.core.errors import CandorError, ValueTextError
from candor.core.parts.codes import Marked, read_mark, read_sections
from candor.core.parts.part import UNITS, VALUED, Kind
from candor.core.worded import worded

KINDS: tuple[Kind, ...] = get_args(Kind)
# As people say them; each kind also goes by its own name, one or many.
WORDS: Mapping[str, Kind] = {
    "condenser": "capacitor", "cap": "capacitor", "trimmer capacitor": "capacitor", "pot": "potentiometer",
    "trimpot": "potentiometer", "rheostat": "potentiometer", "control": "potentiometer", "volume control": "potentiometer",
    "coil": "inductor", "choke": "inductor", "valve": "tube", "rectifier": "diode", "selenium": "diode", "crystal diode": "diode",
    "bulb": "lamp", "neon": "lamp", "pilot": "lamp", "pilot lamp": "lamp", "relay": "switch", "cell": "battery",
    "knob": "hardware", "screw": "hardware", "socket": "hardware", "connector": "hardware", "terminal": "hardware",
    "foot": "hardware", "cord": "hardware", "clip": "hardware", "binding post": "hardware", "handle": "hardware",
    **{kind: kind for kind in KINDS}, **{f"{kind}s": kind for kind in KINDS},
}  # fmt: skip
MAKES_OF: Mapping[Kind, tuple[str, ...]] = {
    "capacitor": ("electrolytic", "tantalum", "paper", "film", "mica", "ceramic"),
    "resistor": ("carbon composition", "carbon film", "metal film", "wirewound"),
}
# As people say makes; the rest go by their own names. Carbon alone is of the old kind: films came when it was long in use.
MAKE_WORDS: Mapping[str, str] = {
    "lytic": "electrolytic", "elyt": "electrolytic", "elko": "electrolytic", "electro": "electrolytic", "elec": "electrolytic",
    "aluminium": "electrolytic", "aluminum": "electrolytic", "tant": "tantalum",
    "carbon comp": "carbon composition", "composition": "carbon composition", "comp": "carbon composition",
    "carbon": "carbon composition", "wire wound": "wirewound", "wire-wound": "wirewound", "wire": "wirewound",
    "metal oxide": "metal film", "wax paper": "paper", "waxed paper": "paper", "wax": "paper", "waxed": "paper",
    "oil": "paper", "paper in oil": "paper", "polyester": "film", "polypropylene": "film", "polystyrene": "film",
    "film foil": "film", "metallised film": "film", "metallized film": "film", "plastic": "film",
    "silver mica": "mica", "silvered mica": "mica", "dipped mica": "mica", "disc": "ceramic", "disk": "ceramic",
    "ceramic disc": "ceramic", "ceramic disk": "ceramic",
    **{make: make for makes in MAKES_OF.values() for make in makes},
}  # fmt: skip
_UNIT_SAYS: tuple[tuple[str, Kind], ...] = (
    (r"\d\s*(?:[pnuµμm]?f|mfd|mf|mmf|mmfd|ufd|uuf|[pnuµμ])\b", "capacitor"),
    (r"\d\s*[kmu]?(?:ohms?|Ω)|\d\s*(?:k|meg|M|R)\b|\d[kMR]\d", "resistor"),
    (r"\d\s*[mu]?h\b", "inductor"),
)
CLASS_LETTERS: Mapping[str, Kind] = {"R": "resistor", "C": "capacitor", "L": "inductor"}  # IEEE 315, from memory
EXPECTED = worded("parts.its_kind_in_a_word_or", listed=", ".join(KINDS))


def kind_said(text: str) -> tuple[Kind | None, str]:
    """Return the kind that words name, and the text without that word; None where they name none.

    Examples: ``pot 4.7 k`` is a potentiometer, ``6AU6 tube`` a tube.
    """
    for word in sorted(WORDS, key=len, reverse=True):
        match = re.search(rf"(?<![\w-]){re.escape(word)}(?![\w-])", text, re.I)
        if match:
            return WORDS[word], " ".join(f"{text[: match.start()]} {text[match.end() :]}".split())
    return None, text


@lru_cache(maxsize=4096)
def kind_of(ref: str, said: str, value: str, make: str, known: Kind | None = None) -> Kind:
    """Return the kind of a part: as said in a word, else by the unit of its value, its make, as it stands on the list.

    Last, where the letters of its designator are R, C or L and no more, by the class letters of IEEE 315 (from memory): VR1 and CR1
    begin with such a letter and are neither.

    Raises
    ------
    ValueTextError
        Where nothing says it: it is asked, not guessed.
    """
    if said.strip():
        kind, rest = kind_said(said)
        if kind is None or rest:
            kinds = ", ".join(KINDS)
            raise ValueTextError(
                worded("parts.is_not_a_kind_of_part", ref=ref, said=said, kinds=kinds), value=said, expected=EXPECTED
            )
        return kind
    for pattern, unit_kind in _UNIT_SAYS:
        if re.search(pattern, value, re.I if "ohm" not in pattern else 0):
            return unit_kind
    for made, makes in MAKES_OF.items():
        if make in makes and make:
            return made
    if known is not None:
        return known
    letters = re.match(r"[A-Za-z]*", ref)
    by_class = CLASS_LETTERS.get(letters[0].upper()) if letters else None
    if by_class is None:
        raise ValueTextError(
            worded("parts.what_kind_of_part_is_expected", ref=ref, expected=EXPECTED), value=ref, expected=EXPECTED
        )
    return by_class


def make_said(text: str) -> str:
    """Return the make that words name as people say them, ``wax paper`` is paper; the words as they are where they name none."""
    words = " ".join(text.casefold().replace("/", " ").split())
    return MAKE_WORDS.get(words, words)


def unit_of(kind: str) -> str:
    """Return the unit a kind's value is in; empty where it has none."""
    return UNITS.get(kind, "")


@lru_cache(maxsize=4096)  # a table of stock has few values, and many rows
def read_value(text: str, kind: Kind) -> tuple[str, tuple[Marked, ...]]:
    """Return what stands where the value is written: a type such as 6AU6, and the marks; of a can one for each section.

    A value is the words from the first that is one; what stands before it is the type. A tube or a diode has a type alone.

    Raises
    ------
    ValueTextError, UnitError
        Where a capacitor's or a resistor's cannot be read.
    """
    clean, unit = text.strip(), unit_of(kind)
    if kind in VALUED:
        return "", tuple(read_mark(mark, unit) for mark in (read_sections(clean) if unit == "F" else (clean,)))
    if not unit or not clean:
        return clean, ()
    words = clean.split()
    for first in range(len(words)):
        try:
            return " ".join(words[:first]), (read_mark(" ".join(words[first:]), unit),)
        except CandorError:
            continue
    return clean, ()
