"""A jotted line about a part: `R12 7.34M`, `C4 9.3u esr 30`, `C4 leak 210u @400V 5min`, `R24 371k cold 378k warm`."""

from __future__ import annotations

import re
from collections.abc import Mapping

from candor.core.errors import ValueTextError
from candor.core.jot.meaning import DecisionJot, PartJot
from candor.core.parts.capacitor import dissipation_from_power_factor
from candor.core.parts.part import UNITS, Part
from candor.core.quantities import engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed

EXPECTED = (
    "such as “R24 371k cold 378k warm”, “C4 9.3u esr 30”, “C4 leak 210u @400V 5min”, “C4 open”, “C4 keep” and why"
)
_VALUE = r"[\d.,]+\s?(?:(?!(?:esr|leak|leaks|leakage|ir|d|pf|warm|cold|open|short|in)\b)[A-Za-zµΩ]+\d*)?"
_ITEMS = re.compile(
    rf"""\s*(?:
      (?P<in_circuit>in\s+circuit)
    | (?P<state>open|short)(?:ed)?\b
    | (?P<leak>leak(?:age|s)?)\s+(?P<leakage>{_VALUE})(?:\s*@\s*(?P<at>{_VALUE}))?(?:\s+(?P<dwell>[\d.]+\s?(?:min|s|sec|h)\b))?
    | ir\s+(?P<ir>{_VALUE})(?:\s*@\s*(?P<ir_at>{_VALUE}))?
    | esr\s+(?P<esr>{_VALUE})(?:\s*@\s*(?P<esr_at>{_VALUE}))?
    | d\s+(?P<d>[\d.,]+)(?:\s*@\s*(?P<d_at>{_VALUE}))?
    | pf\s+(?P<pf>[\d.,]+)\s*%(?:\s*@\s*(?P<pf_at>{_VALUE}))?
    | (?:±|\+-|\+/-)\s*(?P<percent>[\d.,]+)\s*%
    | (?P<warm>{_VALUE})\s+warm\b
    | (?P<value>{_VALUE})(?:\s+cold\b)?
    )(?=\s|$)""",
    re.X | re.I,
)


def find_ref(text: str, parts: Mapping[str, Part]) -> tuple[str, str]:
    """Return (designator, rest) where a line begins with a part on the list, else two empty strings."""
    match = re.match(r"([RC]\d+)(\s?[a-z])?(?=\s|$)\s*(.*)", text.strip(), re.I)
    if not match:
        return "", ""
    first, letter, rest = match[1].upper(), (match[2] or "").strip().lower(), match[3]
    if letter and f"{first} {letter}" in parts:
        return f"{first} {letter}", rest
    return (first, f"{letter} {rest}".strip()) if first in parts else ("", "")


def find_replaced(text: str, parts: Mapping[str, Part]) -> str:
    """Return the designator of a part on the list, or the name of a can of several sections, that a text begins with."""
    ref = find_ref(text, parts)[0]
    first = text.split(maxsplit=1)[0].upper() if text.strip() else ""
    return ref or (first if any(p.can == first for p in parts.values()) else "")


def is_remark(rest: str) -> bool:
    """Say whether what stands after a designator is a remark for a note rather than something measured or decided."""
    return not re.search(r"\d", rest) and not re.match(
        r"(open|short|shorted|keep|replace|in\s+circuit)\b|$", rest, re.I
    )


def understand_part(ref: str, rest: str, part: Part) -> PartJot | DecisionJot:
    """Say what a line says of a part.

    Raises
    ------
    ValueTextError, UnitError
        Where it cannot be read.
    """
    decided = re.match(r"(keep|replace)\b[\s:,]*(?:because\s+)?(.*)", rest, re.I)
    if decided:
        return _decision(ref, decided[1].lower(), decided[2].strip())
    found: dict[str, str] = {}
    place = 0
    while place < len(rest.rstrip()):
        match = _ITEMS.match(rest, place)
        if not match or match.end() == place:
            raise ValueTextError(
                f"“{rest[place:].strip()}” cannot stand after {ref}; expected {EXPECTED}.", value=rest
            )
        found |= {name: text for name, text in match.groupdict().items() if text}
        place = match.end()
    if not found:
        raise ValueTextError(f"Of {ref} nothing is said; expected {EXPECTED}.", value=rest)
    return _measured(ref, found, part)


def _decision(ref: str, action: str, reason: str) -> DecisionJot:
    if not reason:
        raise ValueTextError(
            f"Say why: “{ref} {action} because …”. Nothing was written.", value=ref, expected="a reason"
        )
    return DecisionJot(ref, "keep" if action == "keep" else "replace", reason, (ref, action, reason))


def _measured(ref: str, found: dict[str, str], part: Part) -> PartJot:
    unit, chips = UNITS[part.kind], [f"{ref}, {part.words}"]
    numbers: dict[str, float] = {}
    for name, where in (("value", "cold" if "warm" in found else ""), ("warm", "warm")):
        if name in found:
            numbers[name] = _above_zero(ref, parse_quantity(found[name], unit).value)
            if unit == "F" and numbers[name] > 0.1:
                shown = trimmed(numbers[name])
                raise ValueTextError(f"{ref}: {shown} farad? Write the prefix, such as {shown}u.", value=found[name])
            chips.append(f"{engineering(numbers[name], unit)} {where}".strip())
    if "in_circuit" in found:
        chips.append("in circuit")
    if "state" in found:
        chips.append(found["state"].lower())
    if part.kind == "resistor" and found.keys() & {"leakage", "ir", "esr", "d", "pf"}:
        raise ValueTextError(f"{ref} is a resistor: it has no leakage, ESR or power factor.", value=ref)
    if not found.keys() & {"value", "warm", "state", "leakage", "ir", "esr", "d", "pf"}:
        said = _beside(found)
        raise ValueTextError(f"Of {ref} only “{said}” is said; what was measured? Expected {EXPECTED}.", value=said)
    _losses(found, numbers, chips)
    _leakage(ref, found, numbers, chips, part)
    if "percent" in found:
        numbers["percent"] = _above_zero(ref, parse_number(found["percent"], "per cent such as 1"))
        chips.append(f"± {trimmed(numbers['percent'])} %")
    return PartJot(ref, numbers, found.get("state", "").lower(), "in_circuit" in found, tuple(chips))


def _beside(found: Mapping[str, str]) -> str:
    """Return what stands beside a figure, as it was written."""
    return " ".join(f"±{text} %" if name == "percent" else text for name, text in found.items())


def _losses(found: dict[str, str], numbers: dict[str, float], chips: list[str]) -> None:
    frequency = next((found[name] for name in ("esr_at", "d_at", "pf_at") if name in found), "")
    if frequency:
        numbers["hertz"] = parse_quantity(frequency, "Hz").value
    at = f" at {engineering(numbers['hertz'], 'Hz')}" if "hertz" in numbers else ""
    if "esr" in found:
        numbers["esr"] = parse_quantity(found["esr"], "ohm").value
        chips.append(f"ESR {engineering(numbers['esr'], 'ohm')}{at}")
    if "d" in found:
        numbers["dissipation"] = parse_number(found["d"], "a dissipation factor such as 0.05")
    if "pf" in found:
        share = parse_number(found["pf"], "a power factor in per cent such as 8") / 100
        numbers["dissipation"] = dissipation_from_power_factor(share)
    if "dissipation" in numbers:
        chips.append(f"D {trimmed(numbers['dissipation'], 3)}{at}")


def _leakage(ref: str, found: dict[str, str], numbers: dict[str, float], chips: list[str], part: Part) -> None:
    at = found.get("at") or found.get("ir_at")
    if "leakage" not in found and "ir" not in found:
        return
    if not at:
        raise ValueTextError(
            f"At what voltage does {ref} leak? Expected such as “{ref} leak 210u @400V 5min”.", value=ref
        )
    volts = numbers["leakage_volts"] = _above_zero(ref, parse_quantity(at, "V").value)
    if "ir" in found:
        numbers["leakage"] = volts / _above_zero(ref, parse_quantity(found["ir"], "ohm").value)
        chips.append(f"{engineering(volts / numbers['leakage'], 'ohm')} = {engineering(numbers['leakage'], 'A', 3)}")
    else:
        numbers["leakage"] = parse_quantity(found["leakage"], "A").value
        chips.append(f"leaks {engineering(numbers['leakage'], 'A', 3)}")
    chips.append(f"at {trimmed(volts)} V")
    if "dwell" in found:
        numbers["dwell_s"] = parse_quantity(found["dwell"], "s").value
        chips.append(f"after {trimmed(numbers['dwell_s'])} s")
    if part.volts and volts > part.volts:
        chips.append(f"caution: above its {trimmed(part.volts)} V")


def _above_zero(ref: str, value: float) -> float:
    if value <= 0:
        raise ValueTextError(f"{ref}: {value:g} is not above zero; nothing was written.", value=str(value))
    return value
