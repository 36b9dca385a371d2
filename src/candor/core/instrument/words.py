"""How a range is read, in words: for the line that is typed, the list of entries and the paper alike."""

from __future__ import annotations

import math

from candor.core.instrument.how import OHMS, HowRead, arc_of, printed_marks
from candor.core.quantities import engineering
from candor.core.quantities.show import MINUS, trimmed
from candor.core.reading.fitted import FittedName
from candor.core.worded import worded

_LAWS: dict[FittedName, str] = {
    "even": "even",
    "ohms rising": "an ohms arc",
    "ohms falling": "an ohms arc",
    "decibels": "decibels",
    "square near zero": worded("instrument.a_square_law_near_zero"),
}
_READ: dict[str, str] = {
    "mark": worded("instrument.the_needle_is_set_on_a"),
    "null": worded("instrument.a_dial_at_a_null"),
    "at mark": worded("instrument.a_dial_at_a_mark"),
    "source": worded("instrument.a_source_set_and_measured"),
}


def how_words(how: HowRead, full_scale: float, divisions: int, unit: str) -> tuple[str, ...]:
    """Return how a range is read in words; values SI."""
    end = engineering(full_scale, unit)
    if how.kind == "look":
        return (
            worded("instrument.a_look_good_is", listed=", ".join(how.passes)),
            worded(
                "instrument.bad_is", listed=", ".join(how.fails) or worded("instrument.anything_else_that_is_listed")
            ),
        )
    if how.kind == "figured":
        of = ", ".join(worded("instrument.of_point", name=name, key=key) for name, key in how.points)
        return worded("instrument.calculated", formula=how.formula, of=of), worded(
            "instrument.it_comes_to", value=engineering(how.comes_to, unit)
        )
    if how.kind == "threshold":
        side = {-1: worded("instrument.on_below_it"), 1: worded("instrument.on_above_it")}.get(how.on_side, "")
        return (worded("instrument.a_threshold_at", end=end, side=side),)
    if how.kind == "screen":
        edge = worded("instrument.edges_to_div", edge=trimmed(how.edge, 2))
        return worded(
            "instrument.a_screen_of_div_each", divisions=divisions, per_division=engineering(how.per_division, unit)
        ), edge
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
        said.append(
            worded("instrument.second_dial_to_div", title=second.title, ends=ends, divisions=second.divisions)
        )
    return tuple(said)


def _scale_words(how: HowRead, full_scale: float, divisions: int, unit: str) -> list[str]:
    end = engineering(full_scale, unit)
    if how.shape in OHMS:
        marks = "" if how.marks else worded("instrument.marks_as_usual_write_yours_marks")
        return [
            worded(
                "instrument.ohms_arc_at_its_middle_zero",
                end=end,
                how="left" if how.shape == "ohms rising" else "right",
                marks=marks,
            )
        ]
    if how.shape == "decibels":
        return [worded("instrument.to_db", begins=trimmed(how.begins), ends=trimmed(how.ends))]
    if how.shape == "square near zero":
        return [worded("instrument.to_square_law_below", end=end, knee=engineering(how.knee, unit))]
    if how.shape == "marks":
        shown = [_mark(m, unit) for m in printed_marks(how, full_scale)]
        marks = worded("instrument.marks_from_to", shown=len(shown), first=shown[0], last=shown[-1])
        return [marks, *_arc_words(how, unit), worded("instrument.div_between_two_marks", divisions=divisions)]
    if how.shape == "centre zero":
        return [
            worded("instrument.to_zero_in_the_middle", minus=MINUS, end=end),
            worded(
                "instrument.div_of_2",
                divisions=divisions,
                full_scale=engineering(2 * full_scale / divisions, unit, 4),
            ),
        ]
    each = engineering((full_scale - how.begins) / divisions, unit, 4)
    return [
        f"{engineering(how.begins, unit) if how.begins else '0'} to {end}",
        worded("instrument.div_of", divisions=divisions, each=each),
    ]


def _arc_words(how: HowRead, unit: str) -> list[str]:
    """Return the law that marks follow and how well, and which of them to look at again."""
    arc = arc_of(how)
    share = worded("instrument.of_the_arc", scatter=trimmed(100 * arc.scatter, 2))
    bent = worded("instrument.bent_by_no_usual_law_known", share=share)
    # An arc of volts or amperes may bend as one of ohms does; it is not called so.
    is_ohms = unit == "ohm" or math.inf in how.marks
    law = worded("instrument.bent_to_one_end") if arc.name in OHMS and not is_ohms else _LAWS.get(arc.name, "")
    said = [worded("instrument.the_marks_scatter_by", law=law, share=share) if law else bent]
    if how.places_u:
        said.append(worded("instrument.their_places_known_to_of_the", places_u=trimmed(200 * how.places_u, 2)))
    if arc.astray is not None:
        first, last = how.places[0], how.places[-1]
        stands, put = (trimmed(100 * (p - first) / (last - first), 2) for p in (how.places[arc.astray], arc.belongs))
        said.append(
            worded(
                "instrument.look_again_at_the_mark_it",
                mark=_mark(how.marks[arc.astray], unit),
                stands=stands,
                put=put,
            )
        )
    return said


def _mark(value: float, unit: str) -> str:
    return "∞" if math.isinf(value) else engineering(value, unit, 4) if value else "0"
