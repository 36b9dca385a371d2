"""Understanding a line on the way up: `rail b1 287`, `watts 31`, `click`, `chassis b1 45k by manual 50k`, `plug out`."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterable

from candor.core.errors import ValueTextError
from candor.core.jot.meaning import Jot
from candor.core.jot.power_meaning import (
    BleederJot,
    EventJot,
    PlugOutJot,
    ProvedJot,
    RailJot,
    RailOhmsJot,
    RailSaidJot,
    WindingJot,
)
from candor.core.quantities import engineering, parse_quantity
from candor.core.quantities.show import trimmed

# What is heard and seen on any way up; what the plan expects counts too.
EVENTS = ("click", "glow", "hum", "fan", "whirr", "smoke", "smell", "arc", "flash", "buzz", "squeal")
RAIL_EXAMPLE = "rail b1 is 285 V, capacitor 450 V, regulated 2 %"
REGULATED = 0.05  # where nobody said by how much: common practice, no source
_RAIL_CLAUSES = (
    ("delayed", r"delayed"),
    ("regulated", r"regulated(?:\s+(?:to\s+)?([\d.]+)\s*%)?"),
    ("surge", r"surge\s+(\S.*)"),
    ("rated", r"(?:capacitor\s+)?(?:rated\s+)?(\S.*)"),
)
MOST_VOLTS = 50e3  # of a rail: beyond that it is a slip of the pen
_VALUE = r"[+−-]?\s?[\d.,]+\s?[A-Za-zµΩ]*"


def understand_power(text: str, expected: Iterable[str] = ()) -> Jot | None:
    """Say what a line on the way up means, None where it is none; `expected` are the events of the state.

    Raises
    ------
    ValueTextError
        Where it begins like one and a value in it cannot be read.
    """
    words = " ".join(text.casefold().split())
    if words in {*EVENTS, *(e.casefold() for e in expected)}:
        return EventJot(words, (f"event: {words}",))
    for pattern, read in _LINES:
        match = re.fullmatch(pattern, text.strip(), re.I)
        if match:
            return read(match)
    return None


def _name(text: str) -> str:
    if re.search(r"[;:,]", text):
        raise ValueTextError(
            f"“{text}” is no name of a rail; expected one word without comma, colon or semicolon, such as b1.",
            value=text,
        )
    return text.lower()


def _rail(match: re.Match[str]) -> Jot:
    name = _name(match[1])
    volts = parse_quantity(match[2], "V").value
    if abs(volts) > MOST_VOLTS:
        raise ValueTextError(
            f"{trimmed(volts)} V? Expected up to {MOST_VOLTS / 1000:g} kV; is a decimal point missing?",
            value=match[0],
        )
    return RailJot(name, volts, (f"{name} {engineering(volts, 'V', 5)}",))


def _said(match: re.Match[str]) -> Jot:
    name, volts = _name(match[1]), parse_quantity(match[2], "V").value
    rated, surge, regulated, delayed = 0.0, 0.0, 0.0, False
    chips = [f"rail {name} by the drawing: {trimmed(volts)} V"]
    for clause in filter(None, (c.strip() for c in re.split(r"[,;]", match[3] or ""))):
        found = next(((key, m) for key, pattern in _RAIL_CLAUSES if (m := re.fullmatch(pattern, clause, re.I))), None)
        if found is None:
            raise ValueTextError(f"Candor cannot read “{clause}” here. Example: {RAIL_EXAMPLE}", value=clause)
        key, said = found
        if key == "delayed":
            delayed = True
            chips.append("delayed")
        elif key == "regulated":
            regulated = float(said[1]) / 100 if said[1] else REGULATED
            chips.append(f"regulated to {trimmed(100 * regulated)} %")
        elif key == "surge":
            surge = parse_quantity(said[1], "V").value
            chips.append(f"surge {trimmed(surge)} V")
        else:
            rated = parse_quantity(said[1], "V").value
            chips.append(f"its capacitor {trimmed(rated)} V")
    if rated < 0 or surge < 0 or not volts or not 0 <= regulated < 1:
        raise ValueTextError(f"“{match[0]}” cannot be. Example: {RAIL_EXAMPLE}", value=match[0])
    return RailSaidJot(name, volts, rated, tuple(chips), surge_volts=surge, regulated=regulated, delayed=delayed)


def _watts(match: re.Match[str]) -> Jot:
    watts = parse_quantity(match[1], "W").value
    if watts < 0:
        raise ValueTextError(f"{trimmed(watts)} W? A wattmeter the right way round reads 0 or more.", value=match[0])
    return RailJot("watts", watts, (f"{trimmed(watts)} W",))


def _amperes(match: re.Match[str]) -> Jot:
    amperes = parse_quantity(match[1], "A").value
    return RailJot("amperes", amperes, (f"{engineering(amperes, 'A')} from the line",))


def _chassis(match: re.Match[str]) -> Jot:
    name, ohms = _name(match[1]), parse_quantity(match[2], "ohm").value
    expected = parse_quantity(match[3], "ohm").value if match[3] else 0.0
    if ohms < 0 or expected < 0:
        raise ValueTextError(
            f"“{match[0]}”: a resistance is 0 or more; expected such as: chassis b1 45k by manual 50k", value=match[0]
        )
    by = (f"manual {engineering(expected, 'ohm')}",) if expected else ()
    return RailOhmsJot(name, ohms, expected, (f"{name} to chassis {engineering(ohms, 'ohm')}", *by))


def _winding(match: re.Match[str]) -> Jot:
    name, is_open = match[1].lower(), match[2].casefold() == "open"
    ohms = math.inf if is_open else parse_quantity(match[2], "ohm").value
    if ohms < 0:
        raise ValueTextError(
            f"“{match[0]}”: a resistance is 0 or more; expected such as: winding hv 140 ohm", value=match[0]
        )
    return WindingJot(name, ohms, (f"winding {name}", "open" if is_open else engineering(ohms, "ohm")))


def _bleeder(match: re.Match[str]) -> Jot:
    name, ohms = _name(match[1]), parse_quantity(match[2], "ohm").value
    farad = parse_quantity(match[3], "F").value
    if ohms <= 0 or farad <= 0:
        raise ValueTextError(f"“{match[0]}”: expected such as: bleeder b1 220k on 33 uF", value=match[0])
    return BleederJot(
        name, ohms, farad, (f"bleeder of {name}: {engineering(ohms, 'ohm')} on {engineering(farad, 'F')}",)
    )


_LINES: tuple[tuple[str, Callable[[re.Match[str]], Jot]], ...] = (
    (r"rail\s+(\S+)\s+is\s+([+−-]?\s?[\d.]+(?:\s?[kmM]?V(?:olts)?)?)(?:(?:\s*[,;]\s*|\s+(?=[a-z]))(.*))?", _said),
    (rf"rail\s+(\S+)\s+({_VALUE})", _rail),
    (rf"watts?\s+({_VALUE})", _watts),
    (rf"amperes?\s+({_VALUE})", _amperes),
    (rf"chassis\s+(\S+)\s+({_VALUE})(?:,?\s*by\s+(?:the\s+)?manual\s+({_VALUE}))?", _chassis),
    (rf"winding\s+(\S+)\s+({_VALUE}|open)", _winding),
    (rf"bleeder\s+(\S+)\s+({_VALUE})\s+(?:on|with|and)\s+({_VALUE})", _bleeder),
    (r"(?:plug(?:ged)?\s+out|unplugged)", lambda _: PlugOutJot(("the plug is out",))),
    (
        r"(?:meter\s+)?proved(?:\s+on\s+(.*))?",
        lambda m: ProvedJot(m[1] or "", (f"meter proved{' on ' + m[1] if m[1] else ''}",)),
    ),
    (r"event\s+(\S.*)", lambda m: EventJot(m[1], (f"event: {m[1]}",))),
)
