"""Understanding a line of what is measured before an instrument goes: earth bond and touch current.

``earth 0.12 ohm lead 0.05 ohm at 10 A``, ``touch 0.21 mA reversed off``, ``touch 0.42 V as it is on``.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from candor.core.errors import ValueTextError
from candor.core.quantities import engineering, parse_quantity

_AMOUNT = r"[\d.,]+\s?[^\s\d]*"
_EARTH = re.compile(
    rf"earth(?:\s+bond)?\s+(?P<ohms>{_AMOUNT})(?:\s+lead\s+(?P<lead>{_AMOUNT}))?(?:\s+(?:at|@)\s*(?P<at>{_AMOUNT}))?",
    re.I,
)
_TOUCH = re.compile(
    rf"touch\s+(?P<value>{_AMOUNT})\s*,?\s+(?P<way>as\s+it\s+is|reversed)\s*,?\s+(?P<switch>on|off)", re.I
)
EARTH_EXAMPLE = "earth 0.12 ohm lead 0.05 ohm at 10 A"
TOUCH_EXAMPLE = "touch 0.21 mA reversed off"


@dataclass(frozen=True)
class EarthJot:
    """An earth bond, ohm, the lead's ohm in it, and the test current, A; 0 where nobody said."""

    ohms: float
    lead_ohms: float = 0.0
    amperes: float = 0.0
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class TouchJot:
    """A touch current: A rms, or V across the network (the other is 0); plug reversed, switch on."""

    amperes: float
    volts: float
    is_reversed: bool
    is_on: bool
    chips: tuple[str, ...] = ()


LeavingJot = EarthJot | TouchJot


def understand_leaving(text: str) -> LeavingJot | None:
    """Say what such a line means, None where it is none.

    Raises
    ------
    ValueTextError
        Where it begins like one and cannot be read.
    """
    clean = text.strip()
    if re.match(r"touch\s+[\d.,]", clean, re.I):
        return _touch(clean)
    if re.match(r"earth(?:\s+bond)?\s+[\d.,]", clean, re.I):
        return _earth(clean)
    return None


def _earth(text: str) -> EarthJot:
    match = _EARTH.fullmatch(text)
    if match is None:
        raise ValueTextError(f"“{text}”: expected such as: {EARTH_EXAMPLE}", value=text, expected=EARTH_EXAMPLE)
    ohms, lead = parse_quantity(match["ohms"], "ohm").value, parse_quantity(match["lead"] or "0", "ohm").value
    amperes = parse_quantity(match["at"] or "0", "A").value
    chips = [f"earth bond {engineering(ohms, 'ohm')}"] + ([f"lead {engineering(lead, 'ohm')}"] if lead else [])
    return EarthJot(ohms, lead, amperes, (*chips, *([f"at {engineering(amperes, 'A')}"] if amperes else [])))


def _touch(text: str) -> TouchJot:
    match = _TOUCH.fullmatch(text)
    if match is None:
        raise ValueTextError(
            f"“{text}”: a current or the V across the network was expected, the plug “as it is” or “reversed”, the switch "
            f"“on” or “off”, such as: {TOUCH_EXAMPLE}",
            value=text, expected=TOUCH_EXAMPLE,
        )  # fmt: skip
    in_volts = match["value"].rstrip().casefold().endswith("v")
    value = parse_quantity(match["value"], "V" if in_volts else "A").value
    turned, on = match["way"].casefold() == "reversed", match["switch"].casefold() == "on"
    said = engineering(value, "V" if in_volts else "A")
    chips = (
        f"touch current {said}",
        f"plug {'reversed' if turned else 'as it is'}",
        f"switch {'on' if on else 'off'}",
    )
    return TouchJot(
        amperes=0.0 if in_volts else value,
        volts=value if in_volts else 0.0,
        is_reversed=turned,
        is_on=on,
        chips=chips,
    )
