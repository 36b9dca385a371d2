"""Unfolding a pack into the steps of its procedure, one for every test point."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError
from candor.core.quantities import engineering
from candor.core.reading.dial import DialRange
from candor.core.verdict.rules import Limit
from candor.packs.model import (
    AdjustStep,
    Caution,
    CheckStep,
    Dial,
    Function,
    Pack,
    PointsStep,
    ProcedurePhase,
    Range,
    Section,
    StepWords,
    WaitStep,
)

OWN_SCALE = "own."  # scales of ranges made as one goes: each is drawn alone
StepKind = Literal["check", "wait", "point", "adjust", "next"]


@dataclass(frozen=True)
class ProcedureStep:
    """One step as it is done.

    Attributes
    ----------
    key : str
        Unique in the procedure; test points add phase and point to the pack's key.
    kind : StepKind
        "check", "wait", "point", "adjust", or "next": a further point of a range, which its reading says. Its `point` shows the
        range at full scale.
    section, section_key : str
    phase : str
    title, do, aim, mistake : str
        With placeholders filled in.
    cautions : tuple of Caution
        To be said before the step.
    row : str
        What the list of steps calls it: points of one range share a row.
    point : TestPoint or None
    seconds : float
        How long to wait; 0 where it is no wait.
    trim : str
    uses : tuple of str
        Keys of adjusters and designators of parts that a point depends on; empty for everything.
    """

    key: str
    kind: StepKind
    section: str
    section_key: str
    phase: ProcedurePhase
    title: str
    do: str
    aim: str
    mistake: str
    cautions: tuple[Caution, ...]
    row: str
    point: TestPoint | None = None
    seconds: float = 0.0
    trim: str = ""
    uses: tuple[str, ...] = ()


@lru_cache(maxsize=32)
def procedure(pack: Pack) -> tuple[ProcedureStep, ...]:
    """Return every step of a pack's procedure in order."""
    steps: list[ProcedureStep] = []
    for section in pack.procedure:
        for step in section.steps:
            if isinstance(step, PointsStep):
                steps += _points(pack, section, step)
            elif isinstance(step, AdjustStep):
                steps.append(_adjust(pack, section, step))
            else:
                steps.append(_plain(pack, section, step))
    return tuple(steps)


def test_points(pack: Pack, phase: ProcedurePhase) -> tuple[TestPoint, ...]:
    """Return the test points of one phase in the order of the procedure."""
    return tuple(s.point for s in procedure(pack) if s.kind == "point" and s.phase == phase and s.point)


test_points.__test__ = False  # type: ignore[attr-defined]  # its name would mislead a test runner


def step_of(pack: Pack, key: str) -> ProcedureStep:
    """Return one step by its key, or raise RangeError."""
    for step in procedure(pack):
        if step.key == key:
            return step
    raise RangeError(f"{pack.name} has no step “{key}”.", value=key, place=pack.id)


def point_by_name(pack: Pack, name: str) -> TestPoint:
    """Return a test point by its key, such as ``dc+/150/75``.

    Raises
    ------
    RangeError
        With points whose keys come near.
    """
    known = {s.point.key: s.point for s in procedure(pack) if s.point is not None and s.kind == "point"}
    if name in known:
        return known[name]
    near = [key for key in known if key.split("/")[:2] == name.split("/")[:2]] or list(known)[:3]
    raise RangeError(
        f"“{name}” is not a test point of {pack.name}; expected such as {', '.join(near)}.",
        value=name,
        expected=", ".join(near),
    )


def point_step(pack: Pack, key: str, phase: str) -> ProcedureStep | None:
    """Return the step that reads a test point in a phase, None where there is none."""
    return next(
        (s for s in procedure(pack) if s.kind == "point" and s.phase == phase and s.point and s.point.key == key),
        None,
    )


def next_step(pack: Pack, function: str, range_: str, phase: str = "as found") -> ProcedureStep | None:
    """Return the step that makes a further point of a range, None where there is none."""
    start = f"{function}/{range_}/"
    steps = (s for s in procedure(pack) if s.kind == "next" and s.phase == phase)
    return next((s for s in steps if s.point and s.point.key.startswith(start)), None)


def points_of_range(pack: Pack, point: TestPoint) -> tuple[float, ...]:
    """Return the values, SI, of the points there are on the range of a point, rising."""
    start = f"{point.key.rsplit('/', 1)[0]}/"
    points = (s.point for s in procedure(pack) if s.kind == "point" and s.point)
    return tuple(sorted({p.nominal for p in points if p.key.startswith(start)}))


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
    )


def _points(pack: Pack, section: Section, step: PointsStep) -> list[ProcedureStep]:
    function = next(f for f in pack.functions if f.key == step.function)
    found = []
    for range_ in function.ranges:
        if step.ranges and range_.key not in step.ranges:
            continue
        for share in step.at:
            point = _point(pack, function, range_, share)
            # The gravest first: what is said only of the highest values.
            rising = sorted(step.caution_above.items(), key=lambda item: -item[1])
            above = [key for key, volts in rising if point.nominal > volts]
            title, do, aim, mistake = _filled(step, point)
            found.append(
                ProcedureStep(
                    key=f"{step.key}:{section.phase}:{point.key}".replace(" ", "-"),
                    kind="point",
                    section=section.title,
                    section_key=section.key,
                    phase=section.phase,
                    title=title,
                    do=do,
                    aim=aim,
                    mistake=mistake,
                    cautions=_cautions(pack, (*above, *step.cautions)),
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
    point = _point(pack, function, range_, 1.0)
    return ProcedureStep(
        key=next_key(step.key, section.phase, function.key, range_.key).replace(" ", "-"),
        kind="next",
        section=section.title,
        section_key=section.key,
        phase=section.phase,
        title=f"{point.function}, {range_.title} range: a further point",
        do="Apply a value, or bring the needle to a mark; then write both: 10.2 ref 10.03.",
        aim="Three points or more over the range, the end of it among them.",
        mistake="Reading a point once only: from below and from above tells friction.",
        cautions=_cautions(pack, step.cautions),
        row=range_.title,
        point=point,
        uses=step.uses,
    )


def _adjust(pack: Pack, section: Section, step: AdjustStep) -> ProcedureStep:
    function = next(f for f in pack.functions if f.key == step.function)
    range_ = next(r for r in function.ranges if r.key == step.range)
    point = _point(pack, function, range_, step.at)
    title, do, aim, mistake = _filled(step, point)
    return ProcedureStep(
        key=step.key,
        kind="adjust",
        section=section.title,
        section_key=section.key,
        phase=section.phase,
        title=title,
        do=do,
        aim=aim,
        mistake=mistake,
        cautions=_cautions(pack, step.cautions),
        row=title,
        point=point,
        trim=step.trim,
    )


def _point(pack: Pack, function: Function, range_: Range, share: float) -> TestPoint:
    nominal = float(f"{range_.full_scale * share:.9g}")
    limit = range_.limit
    return TestPoint(
        key=f"{function.key}/{range_.key}/{nominal:g}",
        function=function.title,
        range_name=range_.title,
        polarity=-1 if function.polarity == "-" else 1,
        full_scale=range_.full_scale,
        nominal=nominal,
        indicator=dial_range(pack, function, range_),
        limit=Limit(limit.percent_of_full_scale, limit.percent_of_reading, limit.absolute),
        limit_by=limit.by,
    )


def dial_range(pack: Pack, function: Function, range_: Range) -> DialRange:
    """Return how a range is read on the pack's dial, or raise RangeError where it has none."""
    dial = pack.dial
    if dial is None:
        raise RangeError(f"{pack.name} has no dial.", place=pack.id)
    printed = next(s for s in dial.scales if s.key == range_.scale)
    scale = printed.scale()
    return DialRange(
        scale=scale,
        multiplier=range_.full_scale / scale.end,
        unit=function.unit,
        mirror=dial.mirror if printed.mirror is None else printed.mirror,
        parallax_divisions=dial.parallax_divisions,
        low_stop=dial.low_stop,
        high_stop=dial.high_stop,
    )


def face_of(pack: Pack, point: TestPoint) -> Dial | None:
    """Return the face to draw for a point: all arcs of the pack's dial, or the one arc of a range made as one goes."""
    function, range_ = (*point.key.split("/"), "")[:2]
    scale = next((r.scale for f in pack.functions if f.key == function for r in f.ranges if r.key == range_), "")
    return _face(pack, scale if scale.startswith(OWN_SCALE) else "")


@lru_cache(maxsize=64)
def _face(pack: Pack, own: str) -> Dial | None:
    dial = pack.dial
    if dial is None:
        return None
    kept = tuple(s for s in dial.scales if (s.key == own if own else not s.key.startswith(OWN_SCALE)))
    mirror = kept[0].mirror if own and kept and kept[0].mirror is not None else dial.mirror
    return dial.model_copy(update={"scales": kept, "mirror": mirror})


def _filled(step: StepWords, point: TestPoint) -> tuple[str, str, str, str]:
    names = {
        "range": point.range_name,
        "applied": point.applied,
        "nominal": engineering(point.nominal, point.unit),
    }
    return (
        step.title.format(**names),
        step.do.format(**names),
        step.aim.format(**names),
        step.mistake.format(**names),
    )


def _cautions(pack: Pack, keys: tuple[str, ...]) -> tuple[Caution, ...]:
    return tuple(c for key in keys for c in pack.cautions if c.key == key)
