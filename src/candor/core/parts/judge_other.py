"""Keep or replace for what is neither resistor nor capacitor: by what was found, and its value where it has one."""

from __future__ import annotations

from collections.abc import Iterator

from candor.core.parts.part import Measured, Part
from candor.core.parts.reasons import PRACTICE, Action, Reason
from candor.core.quantities import engineering

BAD = ("open", "short", "intermittent", "leaky")
# What would tell, for each kind; common practice, no source.
TELLS = {
    "potentiometer": "measure its track, then its wiper over the whole travel: no jump",
    "inductor": "measure its ohms, and its inductance where it is marked",
    "transformer": "measure its windings at Power: ohms of each, none to the core",
    "tube": "test it in the room Tubes: shorts and leakage first",
    "diode": "measure it both ways, and its leakage at its reverse volts",
    "lamp": "look whether it lights at its volts",
    "fuse": "read value and kind (fast or slow), and measure it: near 0 ohm",
    "switch": "measure each contact closed and open",
    "battery": "measure it under its load",
    "hardware": "look at it",
}


def other_reasons(part: Part, m: Measured) -> Iterator[Reason]:
    """Yield what speaks for an action; at least one."""
    if m.state in BAD:
        yield Reason(
            Action.REPLACE,
            f"replace: it is {m.state}",
            f"A {part.kind} that is {m.state} is none.",
            "No reading would change this.",
        )
        return
    if m.state in ("worn", "weak"):
        yield Reason(
            Action.WATCH, f"it is {m.state}: it will not last", f"Found so by hand ({PRACTICE}).", "A better one."
        )
        return
    if m.value is not None and part.nominal and not m.in_circuit:
        low, high = part.limits
        if not low <= m.value <= high:
            between = f"{engineering(low, part.unit, 3)} to {engineering(high, part.unit, 3)}"
            yield Reason(Action.REPLACE, f"outside {between}", "As it is marked.", "A value inside.")
            return
        yield Reason(Action.KEEP, "its value is inside what is marked", "As it is marked.", "A value outside.")
        return
    if m.state == "good":
        yield Reason(Action.KEEP, "found good", f"Found so by hand ({PRACTICE}).", "A reading that says otherwise.")
        return
    yield Reason(
        Action.CANNOT_TELL, TELLS.get(part.kind, "look at it"), f"Nothing was found yet ({PRACTICE}).", "That."
    )
