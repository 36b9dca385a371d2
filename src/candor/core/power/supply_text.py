"""A supply in a line: `300-0-300 V, 150 ohm, vacuum, 16 uF 450 V, choke 8 H 220 ohm, 32 uF 450 V, load 90 mA, tubes after 12 s`."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from typing import get_args

from candor.core.errors import CandorError, ValueTextError
from candor.core.power.typed import RectifierKind, Section, Shape, TypedSupply
from candor.core.quantities import engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

EXAMPLE = worded("power.v_ohm_vacuum_v_at_ma")
_N = r"[\d.,]+\s?"
_UNIT = r"[A-Za-zµΩ]*"


class _Reading:
    """What was understood so far."""

    def __init__(self, hertz: float) -> None:
        self.supply = TypedSupply(volts=0.0, hertz=hertz, load_amperes=0.0, sections=())
        self.before = Section(0.0)


def _winding(found: _Reading, match: re.Match[str]) -> None:
    one, other = (parse_quantity(match[k], "V").value for k in (1, 2))
    if one != other:
        raise ValueTextError(worded("power.the_halves_of_a_centre_tapped"), value=match[0])
    found.supply = replace(found.supply, volts=one, shape="centre-tapped")


def _volts(found: _Reading, match: re.Match[str]) -> None:
    word = (match[2] or "").lower()
    shape: Shape = "bridge" if "bridge" in word else "half-wave" if "half" in word else "centre-tapped"
    if not word:
        raise ValueTextError(worded("power.a_winding_is_centre_tapped_v"), value=match[0])
    found.supply = replace(found.supply, volts=parse_quantity(match[1], "V").value, shape=shape)


def _shape(found: _Reading, match: re.Match[str]) -> None:
    found.supply = replace(found.supply, shape="bridge" if "bridge" in match[0].lower() else "half-wave")


def _ohms(found: _Reading, match: re.Match[str]) -> None:
    ohms = parse_quantity(match[1], "ohm").value
    if found.supply.sections:  # after a capacitor it stands in the filter
        found.before = replace(found.before, series_ohms=found.before.series_ohms + ohms)
    else:
        found.supply = replace(found.supply, winding_ohms=ohms)


def _regulation(found: _Reading, match: re.Match[str]) -> None:
    share = parse_number(match[1], worded("power.per_cent_such_as_2")) / 100
    if not 0 <= share < 1:
        raise ValueTextError(worded("power.a_regulation_lies_between_and_usually"), value=match[0])
    found.supply = replace(found.supply, regulation=share)


def _rectifier(found: _Reading, match: re.Match[str]) -> None:
    kind: RectifierKind = next(k for k in get_args(RectifierKind) if match[1].lower().startswith(k[:4]))
    found.supply = replace(found.supply, rectifier=kind)
    if match[2] and kind == "vacuum" and match[3]:
        volts, amperes = parse_quantity(match[2], "V").value, parse_quantity(match[3], "A").value
        found.supply = replace(found.supply, perveance=amperes / volts**1.5)
    elif match[2] and kind in ("mercury", "selenium"):
        found.supply = replace(found.supply, rectifier="mercury", drop=parse_quantity(match[2], "V").value)


def _choke(found: _Reading, match: re.Match[str]) -> None:
    ohms = parse_quantity(match[2], "ohm").value if match[2] else 0.0
    found.before = replace(found.before, henry=parse_quantity(match[1], "H").value, series_ohms=ohms)


def _capacitor(found: _Reading, match: re.Match[str]) -> None:
    farad = parse_quantity(match[1], "F").value
    rated = parse_quantity(match[2], "V").value if match[2] else 0.0
    section = replace(found.before, farad=farad, rated_volts=rated)
    found.supply, found.before = replace(found.supply, sections=(*found.supply.sections, section)), Section(0.0)


def _load(found: _Reading, match: re.Match[str]) -> None:
    found.supply = replace(found.supply, load_amperes=parse_quantity(match[1], "A").value)


def _tubes(found: _Reading, match: re.Match[str]) -> None:
    found.supply = replace(found.supply, warm_s=parse_quantity(match[1], "s").value)


def _peak(found: _Reading, match: re.Match[str]) -> None:
    found.supply = replace(found.supply, rated_peak_amperes=parse_quantity(match[1], "A").value)


def _control(found: _Reading, match: re.Match[str]) -> None:
    share = parse_number(match[1], worded("power.per_cent_such_as")) / 100
    if not 0 < share < 1:
        raise ValueTextError(worded("power.a_line_control_goes_down_by"), value=match[0])
    found.supply = replace(found.supply, line_control=share)


def _bleeder(found: _Reading, match: re.Match[str]) -> None:
    found.supply = replace(found.supply, bleeder_ohms=parse_quantity(match[1], "ohm").value)


_CLAUSES: tuple[tuple[str, Callable[[_Reading, re.Match[str]], None]], ...] = (
    (rf"({_N})-\s*0\s*-\s*({_N})V?", _winding),
    (r"(?:full[- ]wave )?bridge|half[- ]wave", _shape),
    (rf"(silicon|selenium|mercury(?: vapour)?|vacuum)(?:\s+({_N}V)(?:\s+at\s+({_N}{_UNIT}))?)?", _rectifier),
    (rf"({_N}V)\s*((?:full[- ]wave )?bridge|half[- ]wave)?", _volts),
    (rf"(?:rectifier\s+)?peaks?\s+(?:of\s+)?(?:at\s+most\s+)?({_N}[mµu]?A)", _peak),
    (rf"line\s+control\s+(?:of\s+)?[±-]?\s*({_N})%?", _control),
    (rf"bleeder\s+({_N}{_UNIT})", _bleeder),
    (rf"regulation\s+({_N})%?", _regulation),
    (rf"(?:choke\s+)?({_N}m?H)(?:\s+({_N}{_UNIT}))?", _choke),
    (rf"({_N}(?:[pnuµ]F?|m?F))(?:\s+({_N}V))?", _capacitor),
    (rf"(?:load\s+)?({_N}[mµu]?A)", _load),
    (rf"tubes?\s+after\s+({_N}s?)", _tubes),
    (rf"(?:resistor\s+|winding\s+)?({_N}(?:k|meg|M)?\s?(?:ohms?|Ω)|{_N}k)", _ohms),
)


def read_supply(text: str, hertz: float) -> TypedSupply:
    """Read a supply from a line, for mains of so many Hz.

    Raises
    ------
    ValueTextError
        With the words that could not be read and what was expected.
    """
    found = _Reading(hertz)
    for clause in filter(None, (c.strip() for c in re.split(r",(?!\d)|;", text))):
        for pattern, reader in _CLAUSES:
            match = re.fullmatch(pattern, clause, re.I)
            if match:
                try:
                    reader(found, match)
                except CandorError as error:
                    raise ValueTextError(
                        f"“{clause}”: {str(error).rstrip('.')}.", value=clause, expected=EXAMPLE
                    ) from None
                break
        else:
            raise ValueTextError(
                worded("power.candor_cannot_read_as_part_of", clause=clause, example=EXAMPLE),
                value=clause,
                expected=EXAMPLE,
            )
    supply = found.supply
    if not supply.volts or not supply.sections:
        lacking = "the winding's volts" if not supply.volts else "a capacitor"
        raise ValueTextError(
            worded("power.is_missing_example", lacking=lacking, example=EXAMPLE), value=text, expected=EXAMPLE
        )
    return supply


def say_supply(supply: TypedSupply) -> tuple[str, ...]:
    """Return how a supply was understood, in a few words each: V, ohm, F, H, A, s."""
    volts = trimmed(supply.volts)
    winding = (
        worded("power.v_3", volts=volts)
        if supply.shape == "centre-tapped"
        else worded("power.v_2", volts=volts, shape=supply.shape)
    )
    said = [f"{winding}, {engineering(supply.ohms, 'ohm', 3)} a side", f"{supply.rectifier} rectifier"]
    for section in supply.sections:
        before = [f"{trimmed(section.henry)} H"] if section.henry else []
        before += [engineering(section.series_ohms, "ohm", 3)] if section.series_ohms else []
        rated = worded("power.v", rated_volts=trimmed(section.rated_volts)) if section.rated_volts else ""
        said.append(" ".join((*before, engineering(section.farad, "F", 3))) + rated)
    said.append(f"{engineering(supply.load_amperes, 'A', 3)} drawn" if supply.load_amperes else "nothing drawn")
    return (*said, *([worded("power.tubes_after_s", warm_s=trimmed(supply.warm_s))] if supply.warm_s else []))
