"""How a range is read, in words: for the line that is typed, the list of entries and the paper alike."""

from __future__ import annotations

import math

from candor.core.instrument.how import OHMS, HowRead, arc_of, printed_marks
from candor.core.quantities import engineering
from candor.core.quantities.show import MINUS, trimmed
from candor.core.reading.fitted import FittedName

_LAWS: dict[FittedName, str] = {
    "even": "even", "ohms rising": "an ohms arc", "ohms falling": "an ohms arc", "decibels": "decibels",
    "square near zero": "a square law near zero",
}  # fmt: skip
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
        marks = f"{len(shown)} marks from {shown[0]} to {shown[-1]}"
        return [marks, *_arc_words(how, unit), f"{divisions} div between two marks"]
    if how.shape == "centre zero":
        return [
            f"{MINUS}{end} to {end}, zero in the middle",
            f"{divisions} div of {engineering(2 * full_scale / divisions, unit, 4)}",
        ]
    each = engineering((full_scale - how.begins) / divisions, unit, 4)
    return [f"{engineering(how.begins, unit) if how.begins else '0'} to {end}", f"{divisions} div of {each}"]


def _arc_words(how: HowRead, unit: str) -> list[str]:
    """Return the law that marks follow and how well, and which of them to look at again."""
    arc = arc_of(how)
    share = f"{trimmed(100 * arc.scatter, 2)} % of the arc"
    bent = f"bent by no usual law, known to {share}"
    # An arc of volts or amperes may bend as one of ohms does; it is not called so.
    is_ohms = unit == "ohm" or math.inf in how.marks
    law = "bent to one end" if arc.name in OHMS and not is_ohms else _LAWS.get(arc.name, "")
    said = [f"{law}, the marks scatter by {share}" if law else bent]
    if how.places_u:
        said.append(f"their places known to ±{trimmed(200 * how.places_u, 2)} % of the arc (95 %)")
    if arc.astray is not None:
        first, last = how.places[0], how.places[-1]
        stands, put = (trimmed(100 * (p - first) / (last - first), 2) for p in (how.places[arc.astray], arc.belongs))
        said.append(f"look again at the mark {_mark(how.marks[arc.astray], unit)}: it stands at {stands} % of the arc, the "
                    f"others put it at {put} %")  # fmt: skip
    return said


def _mark(value: float, unit: str) -> str:
    return "∞" if math.isinf(value) else engineering(value, unit, 4) if value else "0"
