"""How a range is read, in words: for the line that is typed, the list of entries and the paper alike."""

from __future__ import annotations

import math

from candor.core.instrument.how import OHMS, HowRead, printed_marks
from candor.core.quantities import engineering
from candor.core.quantities.show import MINUS, trimmed

_READ: dict[str, str] = {
    "mark": "the needle is set on a mark",
    "null": "a dial at a null",
    "at mark": "a dial at a mark",
    "source": "a source: set, and measured",
}


def how_words(how: HowRead, full_scale: float, divisions: int, unit: str) -> tuple[str, ...]:
    """Return how a range is read in words; values SI."""
    end = engineering(full_scale, unit)
    if how.kind == "look":
        return (
            f"a look: good is {', '.join(how.passes)}",
            f"bad is {', '.join(how.fails) or 'anything else that is listed'}",
        )
    if how.kind == "threshold":
        side = {-1: ", on below it", 1: ", on above it"}.get(how.on_side, "")
        return (f"a threshold at {end}{side}",)
    if how.kind == "screen":
        edge = f"edges to {trimmed(how.edge, 2)} div"
        return f"a screen of {divisions} div, {engineering(how.per_division, unit)} each", edge
    said = [_READ[how.kind]] if how.kind in _READ else []
    if how.steps:
        return (*said, f"steps {', '.join(engineering(step, unit) for step in how.steps)}")
    said += _scale_words(how, full_scale, divisions, unit)
    if how.second is not None:
        second = how.second
        ends = (
            f"{trimmed(100 * second.end)} %"
            if second.unit == "1" and second.end <= 1
            else engineering(second.end, second.unit)
        )
        said.append(f"second dial {second.title}, 0 to {ends}, {second.divisions} div")
    return tuple(said)


def _scale_words(how: HowRead, full_scale: float, divisions: int, unit: str) -> list[str]:
    end = engineering(full_scale, unit)
    if how.shape in OHMS:
        marks = "" if how.marks else "; marks as usual, write yours: marks 0 1 2 5 10 …"
        return [
            f"ohms arc, {end} at its middle, zero at the {'left' if how.shape == 'ohms rising' else 'right'}{marks}"
        ]
    if how.shape == "decibels":
        return [f"{trimmed(how.begins)} to {trimmed(how.ends)} dB"]
    if how.shape == "square near zero":
        return [f"0 to {end}, square law below {engineering(how.knee, unit)}"]
    if how.shape == "marks":
        shown = [_mark(m, unit) for m in printed_marks(how, full_scale)]
        return [f"{len(shown)} marks from {shown[0]} to {shown[-1]}", f"{divisions} div between two marks"]
    if how.shape == "centre zero":
        return [
            f"{MINUS}{end} to {end}, zero in the middle",
            f"{divisions} div of {engineering(2 * full_scale / divisions, unit, 4)}",
        ]
    each = engineering((full_scale - how.begins) / divisions, unit, 4)
    return [f"{engineering(how.begins, unit) if how.begins else '0'} to {end}", f"{divisions} div of {each}"]


def _mark(value: float, unit: str) -> str:
    return "∞" if math.isinf(value) else engineering(value, unit, 4)
