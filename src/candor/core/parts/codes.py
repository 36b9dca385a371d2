"""Marks on parts: letters, digits and colours of IEC 60062."""

from __future__ import annotations

import math
import re

from candor.core.errors import ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_number, parse_quantity
from candor.core.worded import worded

# IEC 60062: symmetrical tolerances in per cent by letter.
TOLERANCE_LETTERS = {"E": 0.005, "L": 0.01, "P": 0.02, "W": 0.05, "B": 0.1, "C": 0.25, "D": 0.5, "F": 1.0, "G": 2.0,
                     "H": 3.0, "J": 5.0, "K": 10.0, "M": 20.0, "N": 30.0}  # fmt: skip
# The same: letters for tolerances that are not symmetrical, (below, above).
UNEVEN_LETTERS = {"Q": (10.0, 30.0), "T": (10.0, 50.0), "S": (20.0, 50.0), "Z": (20.0, 80.0)}
# The same: under 10 pF the tolerance is absolute, in F.
ABSOLUTE_LETTERS = {"B": 0.1e-12, "C": 0.25e-12, "D": 0.5e-12, "F": 1e-12, "G": 2e-12}
COLOURS = ("black", "brown", "red", "orange", "yellow", "green", "blue", "violet", "grey", "white")
SMALL = {"gold": -1, "silver": -2, "pink": -3}
TOLERANCE_COLOURS = {"brown": 1.0, "red": 2.0, "orange": 0.05, "yellow": 0.02, "green": 0.5, "blue": 0.25, "violet": 0.1,
                     "grey": 0.01, "gold": 5.0, "silver": 10.0}  # fmt: skip


@dataclass(frozen=True)
class Marked:
    """What a mark says: the value in SI, and the tolerance below and above as shares, None where it is silent."""

    value: float
    below: float | None = None
    above: float | None = None


def read_mark(text: str, unit: str) -> Marked:
    """Read what stands on a part: `4k7J`, `0.05 uF 10%`, `104K`, `yellow violet orange gold`.

    Three digits without unit or point are taken as a code (two figures and the number of zeros, in pF for
    capacitors) only on a capacitor, with or without a tolerance letter: `104` is 100 nF, while `470` on a resistor stays
    470 ohm, as drawings write it.

    Parameters
    ----------
    text : str
    unit : "ohm" or "F"

    Raises
    ------
    ValueTextError, UnitError
        Where it cannot be read.
    """
    clean = text.strip()
    sections = read_sections(clean) if unit == "F" else (clean,)
    if len(sections) > 1:
        raise ValueTextError(
            worded(
                "parts.are_sections_of_one_can_write", clean=clean, sections=len(sections), listed=", ".join(sections)
            ),
            value=text,
        )
    words = clean.lower().replace("gray", "grey").replace("purple", "violet").replace("-", " ").split()
    if len(words) >= 3 and all(w in COLOURS or w in SMALL or w == "none" for w in words):
        return _colours(words, unit, clean)
    if unit == "F" and (code := re.fullmatch(r"(\d\d)([0-9])\s*([A-Z]?)", clean)):
        if code[2] == "0" and not code[3]:
            raise ValueTextError(worded("parts.is_pf_or_the_code_for", clean=clean, code=code[1]), value=text)
        factor = 10.0 ** (int(code[2]) if int(code[2]) < 8 else int(code[2]) - 10)
        return Marked(float(f"{int(code[1]) * factor:.3f}e-12"), *_letter(code[3]))
    share = re.search(r"[±+/-]*\s*([\d.]+)\s*%\s*$", clean)
    if share:
        side = parse_number(share[1], worded("parts.a_tolerance_in_per_cent_such")) / 100
        return Marked(parse_quantity(clean[: share.start()], unit).value, side, side)
    letters = "".join(x for x in TOLERANCE_LETTERS | UNEVEN_LETTERS if unit == "ohm" or x != "F")  # 10uF is no 1 %
    points = "RkKMG" if unit == "ohm" else "munp"
    absolute = None
    if unit == "F":  # the F of 6.8pF is farad, that of 6p8F a tolerance
        absolute = re.fullmatch(r"(\d+p\d+)([BCDFG])|(\d+(?:\.\d+)?\s*pF?)\s*([BCDG])", clean)
    if absolute and 0 < (value := parse_quantity(absolute[1] or absolute[3], "F").value) < 10e-12:
        side = ABSOLUTE_LETTERS[absolute[2] or absolute[4]] / value
        return Marked(value, side, side)
    tail = re.fullmatch(rf"(\d*(?:[{points}]\d*|\.\d+[{points}]))([{letters}])", clean)
    if tail:
        return Marked(parse_quantity(tail[1], unit).value, *_letter(tail[2]))
    return Marked(parse_quantity(clean, unit).value)


def read_sections(text: str) -> tuple[str, ...]:
    """Return the marks of the sections of a can written together: `20/20 uF` gives two of `20 uF`; one mark stays one.

    A fraction in its lowest terms, such as `1/4 uF`, is a fraction; `40/40`, `8/16`, `30-10 uF` and `20+20 uF` are sections.
    """
    match = re.fullmatch(r"\s*(\d+(?:\.\d+)?(?:\s*[/+-]\s*\d+(?:\.\d+)?)+)\s*([A-Za-zµ].*)", text)
    mixed = re.fullmatch(r"\s*\d+\s*-\s*\d+/\d+\s*[A-Za-zµ].*", text)  # 2-1/2 is two and a half
    if not match or mixed:
        return (text,)
    figures = re.split(r"\s*[/+-]\s*", match[1])
    if len(figures) == 2 and "/" in match[1] and all(f.isdigit() for f in figures):
        top, bottom = (int(f) for f in figures)
        if top < bottom and math.gcd(top, bottom) == 1 and bottom in (2, 3, 4, 5, 8, 10, 16, 32):
            return (text,)
    return tuple(f"{figure} {match[2]}" for figure in figures)


def write_code(value: float, tolerance: float | None = None) -> str:
    """Write a resistance in ohm as the letter code of IEC 60062: 4700 → `4K7`, 0.47 → `R47`, with 0.05 → `4K7J`."""
    for letter, factor in (("G", 1e9), ("M", 1e6), ("K", 1e3), ("R", 1.0)):
        if value >= factor or letter == "R":
            break
    figures = f"{value / factor:.4g}"
    whole, _, part = figures.partition(".")
    code = f"{'' if whole == '0' else whole}{letter}{part}"
    known = {share: mark for mark, share in TOLERANCE_LETTERS.items()}
    return code + known.get(round(100 * tolerance, 6), "") if tolerance is not None else code


def _letter(letter: str) -> tuple[float | None, float | None]:
    if letter in UNEVEN_LETTERS:
        below, above = UNEVEN_LETTERS[letter]
        return below / 100, above / 100
    if letter in TOLERANCE_LETTERS:
        side = TOLERANCE_LETTERS[letter] / 100
        return side, side
    if letter:
        raise ValueTextError(worded("parts.is_not_a_tolerance_letter_of", letter=letter), value=letter)
    return None, None


def _colours(words: list[str], unit: str, text: str) -> Marked:
    """Three figures and a multiplier where there are five bands or more, two before; then the tolerance."""
    figures = 3 if len(words) >= 5 else 2
    digits, multiplier, rest = words[:figures], words[figures], words[figures + 1 :]
    if any(d not in COLOURS for d in digits) or multiplier == "none" or digits[0] == "black":
        raise ValueTextError(
            worded("parts.is_not_a_colour_code_expected", text=text),
            value=text,
        )
    power = SMALL.get(multiplier, COLOURS.index(multiplier) if multiplier in COLOURS else 0)
    number = int("".join(str(COLOURS.index(d)) for d in digits))
    if rest and rest[0] not in TOLERANCE_COLOURS and rest[0] != "none":
        raise ValueTextError(worded("parts.is_not_a_tolerance_colour_example", first=rest[0]), value=text)
    side = (TOLERANCE_COLOURS.get(rest[0], 20.0) if rest else 20.0) / 100  # no fourth band: 20 %
    return Marked(float(f"{number}e{power - (12 if unit == 'F' else 0)}"), side, side)
