"""Lines of what is measured before an instrument goes: protective earth resistance and touch current."""

from __future__ import annotations

from candor.core.jot.form import Said
from candor.core.jot.release_meaning import EarthJot, TouchJot
from candor.core.jot.verb import Verb
from candor.core.quantities import engineering

EARTH_EXAMPLE = "earth 0.12 ohm lead 0.05 ohm at 10 A"
TOUCH_EXAMPLE = "touch 0.21 mA reversed off"


def _earth(said: Said) -> EarthJot:
    ohms, lead, amperes = said["ohms"], said["lead"] or 0.0, said["amperes"] or 0.0
    chips = [f"protective earth {engineering(ohms, 'ohm')}"] + ([f"lead {engineering(lead, 'ohm')}"] if lead else [])
    return EarthJot(ohms, lead, amperes, (*chips, *([f"at {engineering(amperes, 'A')}"] if amperes else [])))


def _touch(said: Said) -> TouchJot:
    in_volts = said["volts"] is not None
    value = said["volts"] if in_volts else said["amperes"]
    turned, on = said.texts["way"].casefold() == "reversed", said.texts["switch"].casefold() == "on"
    chips = (
        f"touch current {engineering(value, 'V' if in_volts else 'A')}",
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


RELEASE = (
    Verb(
        "earth",
        "release",
        "protective earth resistance, the lead's own in it, and the test current",
        forms=(
            "earth|earth_bond|earth_continuity|protective_earth|ground|ground_bond|ground_continuity|protective_ground "
            "{ohms:small_ohms} [lead {lead:small_ohms}] [@ {amperes:A}]",
        ),
        examples=(EARTH_EXAMPLE,),
        means=_earth,
        titles={"ohms": "resistance", "lead": "test lead's own", "amperes": "test current"},
        begins=r"(?:earth|ground)(?:\s+(?:bond|continuity))?\s+[\d.,]",
    ),
    Verb(
        "touch",
        "release",
        "touch current, or the volts across the network; plug as it is or reversed, switch on or off",
        forms=(
            "touch|touch_current {volts:volts_only} way=as_it_is|reversed switch=on|off",
            "touch|touch_current {amperes:A} way=as_it_is|reversed switch=on|off",
        ),
        examples=(TOUCH_EXAMPLE, "touch 0.42 V as it is on"),
        means=_touch,
        fielded=(
            "touch {amperes:A} way=as_it_is|reversed switch=on|off",
            "touch {volts:volts_only} way=as_it_is|reversed switch=on|off",
        ),
        titles={
            "amperes": "touch current",
            "volts": "or volts across the network",
            "way": "plug",
            "switch": "switch",
        },
        begins=r"touch\s+[\d.,]",
    ),
)
