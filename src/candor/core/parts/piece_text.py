"""A piece as people write it on a bag or an order: ``22u 500V electrolytic 105C``, ``2 x 330k 1% 0.5W metal film``."""

from __future__ import annotations

import re

from candor.core.errors import CandorError
from candor.core.late_pattern import late_pattern
from candor.core.parts.codes import Marked, read_mark
from candor.core.parts.component import OnHand
from candor.core.parts.part import UNITS, Kind
from candor.core.quantities import engineering, parse_number
from candor.core.worded import worded

NUMBER = r"(\d+/\d+|\d+(?:[.,]\d+)?)"
RATINGS = {
    "volts": late_pattern(rf"(?<![\w.,/]){NUMBER}\s*(k?)V(?:DC|olts?)?(?!\w)", re.IGNORECASE),
    "watts": late_pattern(rf"(?<![\w.,/]){NUMBER}\s*(m?)W(?:atts?)?(?!\w)", re.IGNORECASE),
    "celsius": late_pattern(rf"(?<![\w.,]){NUMBER}\s*()(?:°\s*C?|C)(?!\w)"),
    "tolerance": late_pattern(rf"(?:±|\+/-)?\s*(?<![\w.,]){NUMBER}\s*()%"),
}
FACTORS = {"": 1.0, "k": 1e3, "m": 1e-3}
SAFETY = late_pattern(r"\b(?:class\s+)?([XY][12])\b", re.IGNORECASE)
SENSIBLE = {"capacitor": (1e-14, 1.0), "resistor": (1e-4, 1e14)}  # F, ohm
EXAMPLES = {"capacitor": "22u 500V electrolytic", "resistor": worded("parts.k_w_metal_film")}
TIMES = late_pattern(r"^\s*(\d{1,2})\s*[x×]\s+", re.IGNORECASE)


def read_piece(text: str, kind: Kind) -> OnHand:
    """Read a piece: how many, value, tolerance, ratings and make, the last four in any order.

    Parameters
    ----------
    text : str
    kind : "resistor" or "capacitor"

    Returns
    -------
    OnHand
        In SI units, without a key; `count` of them, and `text` as Candor writes it.

    Raises
    ------
    CandorError
        Where the value cannot be read or is not above zero.
    """
    rest, found, safety, count = text.strip(), dict.fromkeys(RATINGS, 0.0), "", 1
    if times := TIMES.match(rest):
        count, rest = max(int(times[1]), 1), rest[times.end() :]
    for name, pattern in RATINGS.items():
        if match := pattern.search(rest):
            found[name] = parse_number(match[1]) * FACTORS[match[2].lower()]
            rest = f"{rest[: match.start()]} {rest[match.end() :]}"
    if match := SAFETY.search(rest):
        safety = match[1].upper()
        rest = f"{rest[: match.start()]} {rest[match.end() :]}"
    marked, make = _value_and_make(rest.split(), kind, text)
    low, high = SENSIBLE[kind]
    if not low <= marked.value <= high:
        raise CandorError(
            worded(
                "parts.would_be_example",
                text=text.strip(),
                value=engineering(marked.value, UNITS[kind]),
                examples=EXAMPLES[kind],
            ),
            value=text,
            expected=EXAMPLES[kind],
        )
    tolerance = found["tolerance"] / 100 or marked.above or 0.0
    return OnHand(
        kind=kind,
        value=marked.value,
        tolerance=tolerance,
        make=make,
        volts=found["volts"],
        watts=found["watts"],
        safety=safety,
        celsius=found["celsius"],
        count=count,
    )


def _value_and_make(words: list[str], kind: Kind, text: str) -> tuple[Marked, str]:
    """The value is what can be read of the first words, with its unit where that stands apart; what follows is the make."""
    unit, expected, fault = UNITS[kind], EXAMPLES[kind], None
    for length in range(min(len(words), 2), 0, -1):
        try:
            marked = read_mark(" ".join(words[:length]), unit)
        except CandorError as error:
            fault = error
            continue
        if marked.value > 0:
            return marked, " ".join(words[length:])
    why = f" {fault}" if fault else ""
    raise CandorError(
        worded("parts.expected_a_value_first_such_as", text=text.strip(), expected=expected, why=why),
        value=text,
        expected=expected,
    )
