"""What is asked of a movement in words, answered in lines and figures."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from candor.core.errors import ValueTextError
from candor.core.movement.coil import POSITIONS, half_deflection, say_balance
from candor.core.movement.ranges import FORM, Coil, Rectified, multiplier, substitute, universal_shunt
from candor.core.quantities import engineering, parse_number, parse_quantity

Line = dict[str, Any]


def movement_told(said: Mapping[str, str]) -> dict[str, list[Line]]:
    """Return what a movement comes to, by heading: each line with its figures, SI, and a sentence.

    Parameters
    ----------
    said : mapping of str to str
        "half" (R1,R2), "have" and "wanted" (A,ohm), "amperes" and "volts" (ranges), "rectified", "zeros" (divisions lying,
        standing, left, right); empty where it is not asked.

    Raises
    ------
    ValueTextError, UnitError, RangeError
        Where something cannot be read, or cannot be; where nothing was asked.
    """
    found: dict[str, list[Line]] = {}
    if said.get("half"):
        found["half deflection"] = [_half(said["half"])]
    if said.get("zeros"):
        numbers = [parse_number(x, "divisions such as 0.4") for x in said["zeros"].split(",")]
        found["balance"] = [{"sentence": say_balance(dict(zip(POSITIONS, numbers, strict=False)))}]
    have = _coil(said["have"], "have") if said.get("have") else None
    if have is not None and said.get("wanted"):
        answer = substitute(have, _coil(said["wanted"], "wanted"))
        across = answer.across_ohms if answer.across_ohms < float("inf") else None
        found["substitute"] = [
            {"across_ohms": across, "series_ohms": answer.series_ohms, "sentence": answer.sentence}
        ]
    if have is not None and said.get("amperes"):
        found["universal shunt"] = _shunts(have, _ranges(said["amperes"], "A"))
    if have is not None and said.get("volts"):
        found["multipliers"] = _multipliers(have, _ranges(said["volts"], "V"), said.get("rectified", ""))
    if not found:
        raise ValueTextError(
            "Nothing was asked: give --half R1,R2, or --zeros, or --have A,OHM with --wanted, --amperes or --volts.",
            value="",
        )
    return found


def _half(text: str) -> Line:
    one, other = _pair(text, "half", "ohm", "ohm")
    coil = half_deflection(one, other)
    words = (
        f"The movement has {engineering(coil.ohms, 'ohm', 5)}; R2 alone would have said "
        f"{engineering(coil.short_formula, 'ohm', 5)}, "
        f"{100 * (coil.short_formula / coil.ohms - 1):+.1f} %."
    )
    return {"ohms": coil.ohms, "short_formula": coil.short_formula, "sentence": words}


def _shunts(have: Coil, ranges: tuple[float, ...]) -> list[Line]:
    return [
        {"amperes": a, "ohms": r, "sentence": f"{engineering(a, 'A')}: {engineering(r, 'ohm', 6)} to the common end"}
        for a, r in zip(ranges, universal_shunt(have, ranges), strict=True)
    ]


def _multipliers(have: Coil, ranges: tuple[float, ...], rectified: str) -> list[Line]:
    if rectified not in FORM:
        raise ValueTextError(f"“{rectified}” is not a rectifier. Expected: full wave or half wave.", value=rectified)
    kind: Rectified = "full wave" if rectified == "full wave" else "half wave" if rectified else ""
    made = [(v, multiplier(have, v, kind)) for v in ranges]
    return [
        {"volts": v, "ohms": r, "sentence": f"{engineering(v, 'V')}: {engineering(r, 'ohm', 6)} in series, "
         f"{engineering(r + have.ohms, 'ohm', 6)} in all"}
        for v, r in made
    ]  # fmt: skip


def _coil(text: str, name: str) -> Coil:
    return Coil(*_pair(text, name, "A", "ohm"))


def _pair(text: str, name: str, one: str, other: str) -> tuple[float, float]:
    words = text.split(",")
    if len(words) != 2:
        raise ValueTextError(
            f"--{name} “{text}” is not a pair. Expected: two values with a comma between.", value=text
        )
    return parse_quantity(words[0], one).value, parse_quantity(words[1], other).value


def _ranges(text: str, unit: str) -> tuple[float, ...]:
    return tuple(parse_quantity(word, unit).value for word in text.split(","))
