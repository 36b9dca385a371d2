"""A range that the job itself describes, as a pack holds one: its scale, what it is read on, its limit, and its steps."""

from __future__ import annotations

import hashlib
import math
import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError
from candor.core.instrument.how import LAW_OF, Kind, law_terms, printed_marks, scale_of
from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import trimmed
from candor.core.reading.kinds import kind_named
from candor.core.worded import worded
from candor.notebook.entries.ranges_entries import RangeMade, suffix_value
from candor.packs.base import Number
from candor.packs.face import LawMarks, UnevenMarks
from candor.packs.functions import DigitsTerms, ErrorTerms, KnobTerms, LookTerms, ScreenTerms, SecondDial, StandsTerms
from candor.packs.model import (
    Dial,
    EvenMarks,
    Function,
    LimitTerms,
    Pack,
    PointsStep,
    PrintedScale,
    ProcedurePhase,
    Range,
    Section,
)
from candor.packs.pack_points import OWN_SCALE, face_of, indicator_of, point_of
from candor.packs.usual_steps import hinted

STEP = "own"
Key = tuple[str, str]


@dataclass(frozen=True)
class _Words:
    """What is done at a point of a kind of reading."""

    title: str
    do: str
    aim: str
    mistake: str


_NEEDLE = _Words(
    "{range} range at {applied}",
    "Apply {applied}. Let it settle, tap the glass, read straight over the needle.",
    "The needle on {nominal}, within the limit.",
    worded("work.reading_aslant_a_range_changed_without"),
)
WORDS: Mapping[Kind, _Words] = {
    "needle": _NEEDLE,
    "mark": _Words(
        "{range}: the needle on {nominal}",
        "Bring what is applied up until the needle stands on {nominal}, then read the standard.",
        "The standard reads {applied}, within the limit.",
        worded("work.coming_from_above_once_and_from"),
    ),
    "null": _Words(
        "{range}: a null at {applied}",
        "Connect a known {applied}. Turn the dial to the null; read it where both sides are equal, below and above.",
        "The dial on {nominal}, within the limit.",
        worded("work.stopping_at_the_first_dip_instead"),
    ),
    "at mark": _Words(
        "The dial at {nominal}",
        worded("work.turn_the_dial_until_the_needle"),
        "The dial at what is listed, {nominal}.",
        worded("work.going_past_the_mark_and_coming"),
    ),
    "threshold": _Words(
        "The threshold at {nominal}",
        "Go through settings about {nominal}. Write the last with the indication and the first without.",
        "The change within the limit about {nominal}.",
        worded("work.waiting_too_short_a_neon_needs"),
    ),
    "screen": _Words(
        "{range}: {applied}",
        "Apply {applied}. Count the divisions between two edges.",
        "{nominal}, within the limit.",
        worded("work.the_variable_control_off_its_detent"),
    ),
    "source": _Words(
        "Set to {nominal}",
        "Set it to {nominal}, and read what it gives: at 10 reads 9.94.",
        "The meter reads {applied}, within the limit.",
        worded("work.reading_before_it_has_settled_a"),
    ),
    "figured": _Words(
        "{range}",
        worded("work.nothing_to_read_it_is_calculated"),
        "{nominal}, within the limit.",
        worded("work.one_of_its_points_read_on_another_day"),
    ),
    "look": _Words(
        "{range}: a look",
        worded("work.look_and_choose_what_you_see"),
        worded("work.what_a_healthy_one_shows"),
        "Looking once.",
    ),
}


def printed_scales(body: RangeMade) -> Iterator[PrintedScale]:
    """Yield the scales that a range is read on: that of its needle or dial, and that of a second dial."""
    how = body.read_how
    if how.has_scale:
        yield _scale(body)
    if how.second is not None:
        second = how.second
        even = EvenMarks(stop=second.end, divisions=second.divisions, number_every=_numbered(second.divisions))
        yield PrintedScale(key=_second_key(body), title=second.title, even=even, mirror=False)


def _second_key(body: RangeMade) -> str:
    second = body.read_how.second
    return f"{OWN_SCALE}second-{second.divisions}-{second.end:g}" if second else ""


def _scale_key(body: RangeMade) -> str:
    how = body.read_how
    plain = f"{OWN_SCALE}{body.divisions}-{_numbers_to(body):g}{'m' if body.mirror else ''}"
    if how.shape == "even" and not how.begins:
        return plain
    told = repr(
        (how.shape, how.begins, how.ends, how.knee, how.marks, how.places, *((how.places_u,) if how.places_u else ()))
    )
    return f"{plain}-{hashlib.sha256(told.encode()).hexdigest()[:8]}"


def _numbers_to(body: RangeMade) -> float:
    """The number at the end of the scale: as its range is named, 3000 of 3000 µmho; else in the prefix people write it with."""
    value = body.full_scale
    end = suffix_value(body.title, body.unit)
    if end is not None and math.isclose(end, value, rel_tol=1e-9):
        return float(re.match(r"[\d.]+", body.title)[0])  # type: ignore[index]
    for factor in (1e-12, 1e-9, 1e-6, 1e-3, 1.0, 1e3, 1e6):
        if value < 1000 * factor * (1 - 1e-9):
            return float(f"{value / factor:.6g}")
    return float(f"{value / 1e6:.6g}")


def _numbered(divisions: int) -> int:
    """At every how many divisions a number stands, ten numbers at most."""
    evens = (n for n in (1, 2, 5, 10, 20, 25, 50, 100) if divisions % n == 0 and divisions / n <= 10)
    return next(evens, divisions)


def _scale(body: RangeMade) -> PrintedScale:
    how, end = body.read_how, _numbers_to(body)
    factor = 1.0 if how.shape == "decibels" else body.full_scale / end  # what one of its numbers is worth

    def on_scale(value: float) -> Number:
        return "infinity" if math.isinf(value) else float(f"{value / factor:.9g}")

    marks: dict[str, Any] = {}
    if how.shape in ("even", "centre zero"):
        start = -end if how.shape == "centre zero" else how.begins / factor
        every = _numbered(body.divisions)
        marks["even"] = EvenMarks(start=start, stop=end, divisions=body.divisions, number_every=every)
        title = f"{trimmed(start)} to {trimmed(end)}"
    elif how.shape == "marks":
        pairs = tuple((on_scale(value), place) for value, place in zip(how.marks, how.places, strict=True))
        marks["uneven"] = UnevenMarks(
            marks=pairs, divisions_between=body.divisions, measured=True, places_u=how.places_u
        )
        title = f"{_shown(pairs[0][0])} to {_shown(pairs[-1][0])}"
    else:
        centre, whole = law_terms(how, end)
        if how.shape == "square near zero":
            centre = how.knee / factor
        printed = tuple(on_scale(mark) for mark in printed_marks(how, body.full_scale))
        marks["by_law"] = LawMarks(
            law=LAW_OF[how.shape], centre=centre, end=whole, marks=printed, divisions_between=(body.divisions,)
        )
        title = f"{_shown(printed[0])} to {_shown(printed[-1])}"
    return PrintedScale(key=_scale_key(body), title=title, mirror=body.mirror, **marks)


def _shown(value: Number) -> str:
    return "∞" if isinstance(value, str) else trimmed(value)


def _limit(body: RangeMade) -> LimitTerms:
    said = body.limit
    terms = {name: getattr(said, name) for name in ErrorTerms.model_fields if hasattr(said, name)}
    terms |= {"divisions": said.limit_divisions, "combine": said.combine or None}
    return LimitTerms(**terms, at_least=said.at_least, at_most=said.at_most, by=said.by)


def _range(body: RangeMade) -> Range:
    how = body.read_how
    on: dict[str, Any] = {}
    if how.has_scale:
        on["scale"] = _scale_key(body)
    elif how.kind == "screen":
        on["screen"] = ScreenTerms(
            per_division=how.per_division, divisions=max(body.divisions, 2), edge=how.edge, axis=how.axis
        )
    elif how.kind == "look":
        on["look"] = LookTerms(passes=how.passes, fails=how.fails)
    elif how.steps:
        on["knob"] = KnobTerms(steps=how.steps)
    else:
        on["digits"] = DigitsTerms(resolution=body.full_scale / body.divisions if body.divisions else 0.0)
    if how.second is not None:
        second = how.second
        on["second"] = SecondDial(
            title=second.title, scale=_second_key(body), unit=second.unit, full_scale=second.end
        )
    stands = StandsTerms(value=body.stands, seconds=body.stands_s) if body.stands else None
    settings = {"on_side": float(how.on_side)} if how.on_side else {}
    return Range(
        key=body.range_key,
        title=body.title,
        full_scale=body.full_scale,
        limit=_limit(body),
        settings=settings,
        stands=stands,
        **on,
    )


def with_range(function: Function | None, body: RangeMade) -> Function:
    """Return a function with a range that the job describes; a new one where it had none of that name."""
    made = _range(body)
    if function is None:
        return Function(
            key=body.function_key,
            title=body.function,
            unit=body.unit,
            polarity=body.polarity,
            read_as=body.read_how.kind,
            current=body.current,
            ranges=(made,),
        )
    return function.model_copy(
        update={"ranges": (*function.ranges, made), "current": body.current or function.current}
    )


def _values(body: RangeMade, wanted: Iterable[float]) -> tuple[float, ...]:
    """The points of a range; what an older, larger one was read at lies beyond this one, and waits for its range."""
    how, end = body.read_how, body.full_scale
    if how.kind == "figured":
        return (how.comes_to,)
    if how.kind == "look" or (how.listed and not tuple(wanted)):
        return (end,)
    if not how.has_scale:
        return tuple(v for v in wanted if how.kind != "screen" or abs(v) <= end * (1 + 1e-9))
    if how.shape == "even" and not how.begins:
        return tuple(min(v, end) for v in wanted if 0 < v <= end * (1 + 1e-9))
    scale = scale_of(how, end, body.divisions)
    return tuple(v for v in wanted if _is_on(scale.arc_of, v))


def fits(pack: Pack, function: Function, range_: Range, value: float) -> bool:
    """Whether a value, SI, lies on the scale of a pack's range; of one without a scale, up to its end."""
    if not range_.scale:
        return abs(value) <= range_.full_scale * (1 + 1e-9)
    return _is_on(indicator_of(pack, function, range_).arc_of, value)


def _is_on(arc_of: Any, value: float) -> bool:
    try:
        return -1e-9 <= float(arc_of(value)) <= 1 + 1e-9
    except (CandorError, ValueError, ZeroDivisionError):
        return False


def own_section(
    phase: ProcedurePhase,
    bodies: Iterable[RangeMade],
    wanted: Mapping[Key, tuple[float, ...]],
    usual: Sequence[Section] = (),
) -> Section:
    """Return the steps of ranges that the job describes, in a phase: their points, and one that makes further ones.

    `usual` is what their kind says of its functions: what is usually wrong there.
    """
    steps = []
    for body in bodies:
        key, how = (body.function_key, body.range_key), body.read_how
        words = WORDS[how.kind]
        steps.append(
            PointsStep(
                key=f"{STEP}-{key[0]}-{key[1]}{'-left' if phase == 'as left' else ''}",
                kind="points",
                function=key[0],
                ranges=(key[1],),
                values=_values(body, wanted.get(key, ())),
                more=kind_named(how.kind).compares == "reference",
                read_as=how.kind,
                asks="none" if how.kind in ("look", "at mark", "figured") else "",
                formula=how.formula,
                of=dict(how.points),
                title=words.title,
                do=words.do,
                **hinted(usual, body.function, {"aim": words.aim, "mistake": words.mistake}),
            )
        )
    return Section(key=f"own-{phase.replace(' ', '-')}", title=phase.capitalize(), phase=phase, steps=tuple(steps))


def previewed(base: Pack, body: RangeMade) -> tuple[TestPoint, Dial | None]:
    """Return a point of a range that is about to be described, and the face it will be read on.

    Raises
    ------
    CandorError, ValueError
        Where what is said of it draws nothing.
    """
    function = with_range(None, body)
    dial = (base.dial or Dial.model_construct(scales=())).model_copy(update={"scales": tuple(printed_scales(body))})
    pack = base.model_copy(update={"dial": dial, "functions": (function,), "procedure": ()})
    pack.__dict__.pop("digest", None)  # the copy is another pack
    point = point_of(pack, function, function.ranges[0], body.full_scale, None)
    return point, face_of(pack, point)
