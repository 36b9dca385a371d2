"""Unfolding a pack into the steps of its procedure, one for every test point."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import replace
from functools import lru_cache

from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError
from candor.core.power.live_limits import LIVE_WORK, is_live, say_live
from candor.core.quantities import engineering
from candor.core.reading.kinds import kind_of
from candor.core.worded import worded
from candor.packs.base import number
from candor.packs.line_steps import at_other_lines
from candor.packs.model import (
    AdjustStep,
    Caution,
    CheckStep,
    Function,
    Pack,
    PointsStep,
    ProcedurePhase,
    Range,
    Section,
    StepWords,
    WaitStep,
)
from candor.packs.next_words import next_words
from candor.packs.pack_points import point_of, share_of
from candor.packs.procedure_step import ProcedureStep as ProcedureStep
from candor.packs.steps import Control
from candor.packs.usual_steps import UsualSection, hint_of


@lru_cache(maxsize=32)
def procedure(pack: Pack) -> tuple[ProcedureStep, ...]:
    """Return every step of a pack's procedure in order."""
    steps: list[ProcedureStep] = []
    for section in pack.procedure:
        for step in section.steps:
            if isinstance(step, PointsStep) and step.line:
                made = list(at_other_lines(_points(pack, section, step), step.line))
            elif isinstance(step, PointsStep):
                made = _points(pack, section, step)
            elif isinstance(step, AdjustStep):
                made = [_adjust(pack, section, step)]
            else:
                made = [_plain(pack, section, step)]
            steps += [_with_words(pack, step, one) for one in made]
    return tuple(_with_changes([*steps, *_left_too(steps)]))


REST = "left-rest"
MAY_BE_LIVE_DB = 24.0  # over 1.73 V, the largest usual 0 dB (6 mW in 500 ohm): 27 V; common practice, no source


def _left_too(steps: list[ProcedureStep]) -> Iterator[ProcedureStep]:
    """Yield a step as left for every point that the procedure reads as found alone.

    A trim or a part that was changed makes what was read history, of whatever point: there must be somewhere to read it again.
    It is asked for only where something it depends on was changed.
    """
    left = {s.point.key for s in steps if s.kind == "point" and not s.line and s.phase == "as left" and s.point}
    for step in steps:
        if (
            step.kind == "point"
            and not step.line
            and step.phase == "as found"
            and step.point
            and step.point.key not in left
        ):
            yield replace(
                step,
                key=f"{REST}:{step.key}",
                phase="as left",
                section_key=REST,
                section=worded("packs.as_left_what_else_was_changed"),
            )


def _with_words(pack: Pack, step: StepWords, made: ProcedureStep) -> ProcedureStep:
    """Return a step with what any step may say besides its words."""
    names = {c.key: c.name for c in pack.controls if isinstance(c, Control)}
    return replace(
        made,
        controls=tuple((names.get(key, key), position) for key, position in step.set.items()),
        load=step.load,
        picture=step.picture,
        hold_at_most_s=step.hold_at_most,
        hands_off_s=step.hands_off,
        only_below=step.only_below,
        expects=step.expects,
        needs=tuple(need.casefold() for need in step.needs),
    )


def _with_changes(steps: list[ProcedureStep]) -> Iterator[ProcedureStep]:
    """Yield steps with the controls that change from the step before: what stands stays where it is."""
    stands: dict[str, str] = {}
    for step in steps:
        changes = tuple((control, position) for control, position in step.controls if stands.get(control) != position)
        stands.update(step.controls)
        yield replace(step, changes=changes) if changes else step


@lru_cache(maxsize=64)
def test_points(pack: Pack, phase: ProcedurePhase) -> tuple[TestPoint, ...]:
    """Return the test points of one phase in the order of the procedure."""
    return tuple(
        s.point for s in procedure(pack) if s.kind == "point" and not s.line and s.phase == phase and s.point
    )


test_points.__test__ = False  # type: ignore[attr-defined]  # its name would mislead a test runner


@lru_cache(maxsize=64)
def figured_points(pack: Pack, phase: ProcedurePhase) -> tuple[TestPoint, ...]:
    """Return those of them that are calculated from others."""
    return tuple(point for point in test_points(pack, phase) if kind_of(point).figured)


def step_of(pack: Pack, key: str) -> ProcedureStep:
    """Return one step by its key, or raise RangeError."""
    if (found := next((step for step in procedure(pack) if step.key == key), None)) is None:
        raise RangeError(worded("packs.has_no_step", name=pack.name, key=key), value=key, place=pack.id)
    return found


def point_by_name(pack: Pack, name: str) -> TestPoint:
    """Return a test point by its key, such as ``dc+/150/75``.

    Raises
    ------
    RangeError
        With points whose keys come near.
    """
    steps = _point_steps(pack)
    found = steps.get((name, "as left")) or steps.get((name, "as found"))
    if found is not None and found.point is not None:
        return found.point
    known = dict.fromkeys(key for key, _ in steps)
    near = [key for key in known if key.split("/")[:2] == name.split("/")[:2]] or list(known)[:3]
    said = ", ".join(near)
    raise RangeError(
        worded("packs.has_no_test_point_examples", name=pack.name, name_2=name, said=said), value=name, expected=said
    )


def point_step(pack: Pack, key: str, phase: str) -> ProcedureStep | None:
    """Return the step that reads a test point in a phase, None where there is none."""
    return _point_steps(pack).get((key, phase))


@lru_cache(maxsize=32)
def _point_steps(pack: Pack) -> Mapping[tuple[str, str], ProcedureStep]:
    """The steps that read a point, by its key and the phase: the first of each."""
    found: dict[tuple[str, str], ProcedureStep] = {}
    for step in procedure(pack):
        if step.kind == "point" and not step.line and step.point is not None:
            found.setdefault((step.point.key, step.phase), step)
    return found


def next_step(pack: Pack, function: str, range_: str, phase: str = "as found") -> ProcedureStep | None:
    """Return the step that makes a further point of a range, None where there is none."""
    steps = (s for s in procedure(pack) if s.kind == "next" and s.phase == phase and s.point)
    return next((s for s in steps if s.point and s.point.key.startswith(f"{function}/{range_}/")), None)


def first_step(pack: Pack, function: str, range_: str) -> ProcedureStep | None:
    """Return the first step that reads a point of a range, None where there is none."""
    return next((s for (key, _), s in _point_steps(pack).items() if key.startswith(f"{function}/{range_}/")), None)


def points_of_range(pack: Pack, point: TestPoint) -> tuple[float, ...]:
    """Return the values, SI, of the points there are on the range of a point, rising."""
    start = f"{point.key.rsplit('/', 1)[0]}/"
    points = (step.point for (key, _), step in _point_steps(pack).items() if key.startswith(start))
    return tuple(sorted({p.nominal for p in points if p is not None}))


def _plain(pack: Pack, section: Section, step: CheckStep | WaitStep) -> ProcedureStep:
    seconds = step.minutes * 60 if isinstance(step, WaitStep) else 0.0
    return ProcedureStep(
        key=step.key,
        kind=step.kind,
        section=section.title,
        section_key=section.key,
        phase=section.phase,
        title=step.title,
        do=step.do,
        aim=step.aim,
        mistake=step.mistake,
        cautions=_cautions(pack, step.cautions),
        row=step.title,
        seconds=seconds,
        trims=(step.trims or ()) if isinstance(step, CheckStep) else (),
        usual=isinstance(section, UsualSection),
    )


def _points(pack: Pack, section: Section, step: PointsStep) -> list[ProcedureStep]:
    function = next(f for f in pack.functions if f.key == step.function)
    found = []
    for range_ in function.ranges:
        if step.ranges and range_.key not in step.ranges:
            continue
        nominals = (*(share_of(range_, share) for share in step.at), *(number(value) for value in step.values))
        for nominal in nominals:
            point = point_of(pack, function, range_, nominal, step)
            # The gravest first: what is said only of the highest values.
            rising = sorted(step.caution_above.items(), key=lambda item: -item[1])
            above = [key for key, volts in rising if abs(point.nominal) > volts]
            found.append(
                ProcedureStep(
                    key=f"{step.key}:{section.phase}:{point.key}".replace(" ", "-"),
                    kind="point",
                    section=section.title,
                    section_key=section.key,
                    phase=section.phase,
                    **_filled(step, point),  # type: ignore[arg-type]
                    cautions=_with_live(point, _cautions(pack, (*above, *step.cautions))),
                    row=range_.title,
                    point=point,
                    uses=step.uses,
                )
            )
        if step.more:
            found.append(_next(pack, section, step, function, range_))
    return found


def next_key(step: str, phase: str, function: str, range_: str) -> str:
    """Return the key of the step that makes a further point of a range."""
    return f"{step}:{phase}:{function}/{range_}"


def _next(pack: Pack, section: Section, step: PointsStep, function: Function, range_: Range) -> ProcedureStep:
    point = point_of(pack, function, range_, range_.full_scale, step)
    title, do, aim, mistake = next_words(point)
    hint = hint_of(pack.procedure, function.title)
    return ProcedureStep(
        key=next_key(step.key, section.phase, function.key, range_.key).replace(" ", "-"),
        kind="next",
        section=section.title,
        section_key=section.key,
        phase=section.phase,
        title=title,
        do=do,
        aim=aim,
        mistake=hint.mistake if hint is not None and hint.mistake else mistake,
        cautions=_with_live(point, _cautions(pack, step.cautions)),
        row=range_.title,
        point=point,
        uses=step.uses,
    )


def _adjust(pack: Pack, section: Section, step: AdjustStep) -> ProcedureStep:
    function = next(f for f in pack.functions if f.key == step.function)
    range_ = next(r for r in function.ranges if r.key == step.range)
    point = point_of(pack, function, range_, share_of(range_, step.at), None)
    words = _filled(step, point)
    return ProcedureStep(
        key=step.key,
        kind="adjust",
        section=section.title,
        section_key=section.key,
        phase=section.phase,
        **words,  # type: ignore[arg-type]
        cautions=_with_live(point, _cautions(pack, step.cautions)),
        row=words["title"],
        point=point,
        trim=step.trim,
        repeat_until=step.repeat_until,
        adjuster=next((a for a in pack.adjusters if a.name == step.trim), None),
    )


def _filled(step: StepWords, point: TestPoint) -> dict[str, str]:
    names = {
        "range": point.range_name,
        "applied": point.applied,
        "nominal": point.shown(point.nominal),
    }
    return {word: getattr(step, word).format(**names) for word in ("title", "do", "aim", "mistake")}


def _with_live(point: TestPoint, cautions: tuple[Caution, ...]) -> tuple[Caution, ...]:
    """Add the caution of live work where something is live to touch and the pack has no danger to tell of there."""
    told = any(
        c.level == "danger" and not c.short.lower().startswith("cord out") for c in cautions
    )  # that is not a live work
    if kind_of(point).figured:
        return cautions  # nothing is applied, and no hand moves
    if point.unit == "dB" and not told and point.nominal > MAY_BE_LIVE_DB:
        said = say_live(worded("packs.may_be_over_v_by_what", nominal=engineering(point.nominal, "dB")))
        return (Caution(key="live", level="danger", text=said, short=LIVE_WORK), *cautions)
    if point.unit != "V" or told:
        return cautions
    alternating = point.current == "a.c." or point.stimulus.hertz > 0
    if not is_live(point.nominal if math.isfinite(point.nominal) else point.full_scale, alternating):
        return cautions
    live = Caution(key="live", level="danger", text=say_live(engineering(point.nominal, point.unit)), short=LIVE_WORK)
    return (live, *cautions)


def _cautions(pack: Pack, keys: tuple[str, ...]) -> tuple[Caution, ...]:
    return tuple(c for key in keys for c in pack.cautions if c.key == key)
