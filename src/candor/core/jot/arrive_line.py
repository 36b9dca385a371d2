"""Understanding a line of the first sitting: `unaccounted 2 screws M3`, `washed chassis, 3 days`, `mass 32 kg`."""

from __future__ import annotations

import re
from collections.abc import Callable

from candor.core.errors import ValueTextError
from candor.core.jot.meaning import (
    CleaningJot,
    FunctionJot,
    How,
    InsulationJot,
    JointJot,
    Jot,
    MassJot,
    NotAsDrawnJot,
    ResolderJot,
    UnaccountedJot,
)
from candor.core.quantities import engineering, parse_number, parse_quantity
from candor.core.quantities.show import trimmed

# Over this two lift: common practice, no source; local rules for work may ask for it sooner.
HEAVY_KG = 20.0
POUND_KG = 0.45359237  # exact, by the international agreement of 1959
USUAL_DAYS = 3.0  # of drying after washing, warm and in moving air: common practice, no source
MOST_DAYS = 60.0
_TIME = re.compile(r",?\s*(?:(?:dries|drying|dry)\s+)?(?:for\s+)?([\d.,]+)\s*(days?|d|hours?|hrs?|h)\s*$", re.I)


def understand_arrival(text: str) -> Jot | None:
    """Say what a line of the first sitting means, None where it is none.

    Raises
    ------
    ValueTextError
        Where it begins like one and a value in it cannot be read.
    """
    for pattern, read in _LINES:
        match = re.match(pattern, text, re.I)
        if match:
            return read(match)
    return None


def _function(match: re.Match[str]) -> Jot:
    words = re.sub(r",?\s*\b(lettering\s+)?faded\b", "", match[1], flags=re.I).strip(" ,")
    faded = bool(re.search(r"\bfaded\b", match[1], re.I))
    if not words:
        raise ValueTextError("Which function was found? Expected such as: function AC volts, faded", value=match[0])
    return FunctionJot(words, faded, (f"function {words}", *(["lettering faded"] if faded else [])))


def _not_as_drawn(match: re.Match[str]) -> Jot:
    return NotAsDrawnJot(match[1].strip(), (f"not as drawn: {match[1].strip()}", "stays with the instrument"))


def _unaccounted(match: re.Match[str]) -> Jot:
    number = int(match[1] or 1)
    if not 1 <= number <= 500:
        raise ValueTextError(
            f"{number} fasteners? Expected 1 to 500, such as: unaccounted 2 screws M3", value=match[0]
        )
    what = match[2].strip()
    return UnaccountedJot(
        number, what, (f"{number} unaccounted for: {what or 'fasteners'}", "bars power until found")
    )


def _mass(match: re.Match[str]) -> Jot:
    kg = parse_number(match[1], "a mass such as 32 kg") * (
        POUND_KG if match[2].lower().startswith(("lb", "pound")) else 1
    )
    if not 0 < kg < 1000:
        raise ValueTextError(f"{trimmed(kg)} kg? Expected a mass such as 32 kg or 70 lb.", value=match[0])
    words = f"{match[1]} {match[2]}"
    heavy = kg > HEAVY_KG
    return MassJot(words, heavy, (f"mass {words}", *([f"over {HEAVY_KG:g} kg: two people lift it"] if heavy else [])))


def _cleaned(match: re.Match[str]) -> Jot:
    verb, rest = match[1].lower(), match[2].strip()
    if verb == "lubricated":
        return _cleaning(rest, "lubricated", 0.0)
    if verb == "cleaned":
        dry = re.search(r"\b(dry|with (?:a )?(?:brush|cloth|air|vacuum))\b", rest, re.I)
        return _cleaning(rest, "dry" if dry else "cleaner", 0.0)
    time = _TIME.search(rest)
    days = USUAL_DAYS
    if time:
        rest = rest[: time.start()].strip(" ,")
        days = parse_number(time[1], "a time such as 3 days") / (24 if time[2].lower().startswith("h") else 1)
        if not 0 < days <= MOST_DAYS:
            raise ValueTextError(
                f"{trimmed(days)} days of drying? Expected up to {MOST_DAYS:g} days.", value=match[0]
            )
    return _cleaning(rest or "the chassis", "washed", days * 86400)


def _cleaning(what: str, how: How, dry_s: float) -> Jot:
    chips = [f"{'cleaned' if how == 'cleaner' else how}: {what}"]
    if how == "washed":
        chips += [f"dries {trimmed(dry_s / 86400)} days", "then its insulation is measured, before power"]
    if how == "cleaner" and re.search(r"contact|switch|pot|control|wafer", what, re.I):
        chips.append("then lubricate, as a step of its own")
    return CleaningJot(what, how, dry_s, tuple(chips))


def _insulation(match: re.Match[str]) -> Jot:
    ohms = parse_quantity(match[1], "ohm").value
    volts = parse_quantity(match[2], "V").value if match[2] else 0.0
    if ohms <= 0:
        raise ValueTextError("Insulation of nothing? Expected such as: insulation 22 Mohm @500V", value=match[0])
    at = f" at {trimmed(volts)} V" if volts else ""
    return InsulationJot(ohms, volts, (f"insulation {engineering(ohms, 'ohm')}{at}",))


def _joint(match: re.Match[str]) -> Jot:
    return JointJot(match[1].strip(), (f"poor joint: {match[1].strip()}",))


_LINES: tuple[tuple[str, Callable[[re.Match[str]], Jot]], ...] = (
    (r"function\s+(?!switch|selector|knob)(\S.*)", _function),
    (r"not\s+as\s+drawn\s*[:,]?\s+(\S.*)", _not_as_drawn),
    (r"unaccounted(?:\s+for)?\s*:?\s*(\d+)?\s*(.*)", _unaccounted),
    (r"(?:mass|weighs|weight)\s+([\d.,]+)\s*(kg|kilos?|lbs?|pounds?)\.?\s*$", _mass),
    (r"(cleaned|washed|lubricated)\s+(\S.*)", _cleaned),
    (r"insulation\s+([\d.,]+\s?[^\s@]*)(?:\s*@\s*(\S+(?:\s?V)?))?\s*$", _insulation),
    (r"(?:poor\s+|dry\s+|cold\s+)?joints?\s+(?:at\s+)?(\S.*)", _joint),
    (
        r"re-?soldered\s*(?:all|them|the joints)?\s*$",
        lambda _: ResolderJot(("the poor joints, re-soldered as one change",)),
    ),
)
