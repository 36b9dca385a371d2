"""Understanding a line of a soak: `on`, `on unattended`, `off`, `soak 10.0231 V`, `soak 10.0231 of volts`, and of a meter on a
link that is read by itself: `soak by TCPIP::192.168.1.20::5025::SOCKET every 5 min in V of volts`, `soak by hand`."""

from __future__ import annotations

import re
from dataclasses import dataclass

from candor.core.errors import ValueTextError
from candor.core.quantities import engineering, parse_number, parse_quantity

UNITS = ("V", "A", "ohm", "F", "H", "Hz", "S", "s")
PACES = {"s": 1.0, "sec": 1.0, "second": 1.0, "min": 60.0, "minute": 60.0, "h": 3600.0, "hour": 3600.0}
QUICKEST_S, SLOWEST_S = 1.0, 86400.0
BY_LINK = "soak by TCPIP::192.168.1.20::5025::SOCKET every 5 min in V"
_BY = re.compile(
    r"soak\s+by\s+(?P<link>\S+)\s+every\s+(?:(?P<count>[\d.,]+)\s*)?(?P<pace>[a-z]+?)s?(?:\s+in\s+(?P<unit>\S+))?"
    r"(?:\s+of\s+(?P<what>\S.*))?",
    re.I,
)
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


@dataclass(frozen=True)
class WatchJot:
    """A meter on a link is read by itself from now on: its VISA name, every so many s, what 1 of it is, and what it is of."""

    link: str
    every_s: float
    unit: str = "V"
    what: str = ""
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class UnwatchJot:
    """It is read by hand again."""

    chips: tuple[str, ...] = ("read by hand again",)


SoakingJot = OnJot | OffJot | SoakJot | WatchJot | UnwatchJot


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
    if words == "soak by hand":
        return UnwatchJot()
    if words.startswith("soak by "):
        return _watch(text)
    match = _SOAK.fullmatch(text.strip())
    if match is None:
        raise ValueTextError(
            f"“{text}”: a value was expected, such as: soak 10.0231 V", value=text, expected="soak 10.0231 V"
        )
    value, unit = read_amount(match["value"])
    what = (match["what"] or "").strip()
    said = engineering(value, unit, 7) if unit else f"{value:g}"
    return SoakJot(value, unit, what, (f"while it soaks {said}", *([f"of {what}"] if what else [])))


def _watch(text: str) -> WatchJot:
    match = _BY.fullmatch(text.strip())
    pace = PACES.get(match["pace"].casefold()) if match is not None else None
    if match is None or pace is None:
        raise ValueTextError(f"“{text}”: expected such as: {BY_LINK}", value=text, expected=BY_LINK)
    every = pace * (parse_number(match["count"], "a time such as 5 min") if match["count"] else 1.0)
    if not QUICKEST_S <= every <= SLOWEST_S:
        raise ValueTextError(
            f"Every {every:g} s? Expected from every {QUICKEST_S:g} s to once a day.",
            value=text,
            expected="every 5 min",
        )
    unit = match["unit"] or "V"
    if unit not in UNITS:
        raise ValueTextError(
            f"“{unit}” is no unit that is watched; expected one of {', '.join(UNITS)}.", value=unit, expected="V"
        )
    what = (match["what"] or "").strip()
    chips = (f"read by {match['link']} every {say_every(every)}, in {unit}", *([f"of {what}"] if what else []))
    return WatchJot(match["link"], every_s=every, unit=unit, what=what, chips=chips)


def say_every(seconds: float) -> str:
    """Say how often: ``5 min``, ``30 s``, ``2 h``."""
    for size, name in ((3600.0, "h"), (60.0, "min")):
        if seconds >= size and seconds % size == 0:
            return f"{seconds / size:g} {name}"
    return f"{seconds:g} s"


def read_amount(text: str) -> tuple[float, str]:
    """Return a value and its unit, SI; no unit where none is written.

    Raises
    ------
    ValueTextError
        Where it is no number, or has a unit that is not known here.
    """
    text = text.strip().replace("−", "-")
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
