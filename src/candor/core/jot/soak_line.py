"""Understanding a line of a soak: `on`, `on unattended`, `off`, `soak 10.0231 V`, `soak 10.0231 of volts`."""

from __future__ import annotations

import re
from dataclasses import dataclass

from candor.core.errors import ValueTextError
from candor.core.quantities import engineering, parse_number, parse_quantity

UNITS = ("V", "A", "ohm", "F", "H", "Hz", "S", "s")
_SOAK = re.compile(r"soak\s+(?P<value>[-+−]?[\d.,]+\s*\S*?)(?:\s+of\s+(?P<what>\S.*))?", re.I)


@dataclass(frozen=True)
class OnJot:
    """It was switched on, attended or not."""

    attended: bool = True
    chips: tuple[str, ...] = ("switched on",)


@dataclass(frozen=True)
class OffJot:
    """It was switched off."""

    chips: tuple[str, ...] = ("switched off",)


@dataclass(frozen=True)
class SoakJot:
    """A reading of what is watched while it soaks: SI where it has a unit, and what it is of."""

    value: float
    unit: str = ""
    what: str = ""
    chips: tuple[str, ...] = ()


SoakingJot = OnJot | OffJot | SoakJot


def understand_soak(text: str) -> SoakingJot | None:
    """Say what a line of a soak means, None where it is none.

    Raises
    ------
    ValueTextError
        Where it begins like one and its value cannot be read.
    """
    words = " ".join(text.casefold().split())
    if words in ("on", "switched on"):
        return OnJot()
    if words in ("on unattended", "switched on unattended"):
        return OnJot(False, ("switched on, unattended",))
    if words in ("off", "switched off"):
        return OffJot()
    if not words.startswith("soak "):
        return None
    match = _SOAK.fullmatch(text.strip())
    if match is None:
        raise ValueTextError(
            f"“{text}”: a value was expected, such as: soak 10.0231 V", value=text, expected="soak 10.0231 V"
        )
    value, unit = _amount(match["value"].replace("−", "-"))
    what = (match["what"] or "").strip()
    said = engineering(value, unit, 7) if unit else f"{value:g}"
    return SoakJot(value, unit, what, (f"while it soaks {said}", *([f"of {what}"] if what else [])))


def _amount(text: str) -> tuple[float, str]:
    if re.fullmatch(r"[-+]?[\d.,]+", text):
        return parse_number(text, "a value such as 10.0231"), ""
    for unit in UNITS:
        try:
            return parse_quantity(text, unit).value, unit
        except ValueTextError:
            continue
    raise ValueTextError(
        f"“{text}” is no value with a unit; expected such as 10.0231 V.", value=text, expected="10.0231 V"
    )
