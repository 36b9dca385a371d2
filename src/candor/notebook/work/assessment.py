"""What a job's readings say: its entries, its pack and the standards, put to the core."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Mapping
from dataclasses import field, replace
from functools import lru_cache
from typing import Literal, NamedTuple

from candor.core.calibration.from_others import figure_point, unfigured
from candor.core.calibration.point import Phase, TestPoint
from candor.core.calibration.result import PointResult, assess_point
from candor.core.calibration.run import RunResult
from candor.core.calibration.setup import SetUpTerm
from candor.core.errors import CandorError, RangeError
from candor.core.late_dataclass import dataclass
from candor.core.reading.judged import Judged
from candor.core.reading.kinds import kind_of
from candor.core.reading.means import means_of
from candor.core.reading.reading import Reading
from candor.core.reference.chains import Chain
from candor.core.reference.reference import Reference
from candor.core.verdict.rules import Outcome, Rule
from candor.notebook.entries.calibrate_entries import TakenReading
from candor.notebook.standards.standard_choice import chosen_for
from candor.notebook.standards.standards import Standard
from candor.notebook.work.job import Job
from candor.notebook.work.recall import Recall
from candor.notebook.work.states import Readings, States, is_apart, states_of
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, figured_points, procedure, test_points

StepState = Literal["open", "done", "running", "skipped"]


_assess = lru_cache(maxsize=64)(
    assess_point
)  # what is typed, letter by letter: all else is remembered by its entries


def assess_run(job: Job, pack: Pack, known: Mapping[str, Standard], phase: Phase) -> RunResult:
    """Assess every point of a phase that has readings which stand; see notebook.states.

    Readings by another standard or of another day are results of their own, beside the newest. Where a standard cannot
    serve the value, the point says so instead of a verdict.
    """
    states = states_of(job, pack)
    points, calculated = test_points(pack, phase), figured_points(pack, phase)
    standing = states.left if phase == "as left" else states.found
    results = _results(job=job, points=points, standing=standing, known=known, phase=phase)
    results |= figured(calculated, phase, results, job.calibrate.rule)
    older: dict[str, PointResult] = {}
    if phase == "as left" and states.older:
        older = _results(job=job, points=points, standing=states.older, known=known, phase=phase)
        older |= figured(calculated, phase, older, job.calibrate.rule)
    firsts = states.first if phase == "as found" else {}
    return RunResult(
        phase=phase,
        points=points,
        results=results,
        voided=older,
        waiting=tuple(states.waiting) if phase == "as left" else (),
        after_repair=frozenset(k for k, f in firsts.items() if f.word == "as received after repair"),
        after_adjustment=frozenset(k for k, f in firsts.items() if f.word == "first read after adjustment"),
    )


def _results(
    job: Job,
    points: tuple[TestPoint, ...],
    standing: Mapping[str, Readings],
    known: Mapping[str, Standard],
    phase: Phase,
) -> dict[str, PointResult]:
    friction, rule = largest_friction(points, standing), job.calibrate.rule
    of = _Of(points, known, rule, friction)
    last = _LAST.get(phase)
    same = last if last is not None and last.of.is_like(of) else None
    results = {}
    for point in points:
        readings = standing.get(point.key)
        if readings is None:
            continue
        # A point whose readings are the very ones of the last time, as all but one are after a reading, says the same again.
        again = same.results.get(point.key) if same is not None and same.standing.get(point.key) is readings else None
        results[point.key] = again or _remembered(point, phase, readings, known, rule, friction)
    _LAST[phase] = _Last(of, standing, results)
    return results


class _Of(NamedTuple):
    """What every point of a phase is assessed with."""

    points: tuple[TestPoint, ...]
    known: Mapping[str, Standard]
    rule: Rule
    friction: float | None

    def is_like(self, other: _Of) -> bool:
        """Whether these are the very same."""
        same = self.points is other.points and self.known is other.known
        return same and (self.rule, self.friction) == (other.rule, other.friction)


class _Last(NamedTuple):
    """What was assessed last in a phase."""

    of: _Of
    standing: Mapping[str, Readings]
    results: dict[str, PointResult]


_LAST: dict[Phase, _Last] = {}


def figured(
    points: Iterable[TestPoint], phase: Phase, results: Mapping[str, PointResult], rule: Rule
) -> dict[str, PointResult]:
    """Return what points are that are calculated from others, as far as those are read; one that cannot be has no result."""
    found = {}
    for point in points:
        try:
            result = figure_point(point, phase, results, rule)
        except CandorError as error:
            result = unfigured(point, phase, results, rule, str(error))
        if result is not None:
            found[point.key] = result
    return found


def largest_friction(points: Iterable[TestPoint], standing: Mapping[str, Readings]) -> float | None:
    """Return the largest friction found on the movement in one state, in divisions; None where none was looked for."""
    found = []
    for point in points:
        readings = standing.get(point.key, ())
        if len(readings) < 2:
            continue
        both = {"up", "down"} <= {r.body.direction for r in readings}
        division = Judged(point).divisions(point.nominal, 1.0) if both and kind_of(point).has_friction else 0.0
        means = means_of(tuple(r.reading(point) for r in readings), Judged(point).place) if division > 0 else None
        if means is not None and means.friction is not None:
            found.append(means.friction / Judged(point).divisions(means.indicated, 1.0))
    return max(found, default=None)


def _remembered(
    point: TestPoint,
    phase: Phase,
    readings: Readings,
    known: Mapping[str, Standard],
    rule: Rule,
    friction: float | None,
) -> PointResult:
    """Assess a point; asked of the very same readings as the last time, as all but one are after a reading, say that again."""

    def asked() -> _Asked:
        standards = tuple(known.get(r.standard) for r in readings)
        return _asked(point, phase, readings, standards, rule, friction)

    job = readings[0].entry.job if readings else ""
    return _RESULTS.ask((job, point.key, phase), (point, known, rule, _one(friction), *readings), asked)


@lru_cache(maxsize=64)
def _one(friction: float | None) -> float | None:
    """The same object for the same friction: what is remembered is compared by `is`."""
    return friction


@dataclass(frozen=True)
class _Asked:
    """A point with its readings, found again by their entries, which never change: it is calculated once."""

    entries: tuple[tuple[object, ...], ...]
    phase: Phase
    rule: Rule
    friction: float | None
    point: TestPoint = field(hash=False)
    readings: Readings = field(compare=False)
    standards: tuple[Standard | None, ...] = field(compare=False)


def _asked(
    point: TestPoint,
    phase: Phase,
    readings: Readings,
    standards: tuple[Standard | None, ...],
    rule: Rule,
    friction: float | None,
) -> _Asked:
    entries = tuple(
        (
            r.entry.id,
            r.entry.at,
            r.body.indicated,
            r.body.reference,
            r.celsius,
            r.setup,
            s and (s.entry.id, s.entry.at),
        )
        for r, s in zip(readings, standards, strict=True)
    )
    return _Asked(
        entries=entries,
        phase=phase,
        rule=rule,
        friction=friction,
        point=point,
        readings=readings,
        standards=standards,
    )


def _point_result(asked: _Asked) -> PointResult:
    point, groups = asked.point, dict[tuple[str, dt.date], list[TakenReading]]()
    known = dict(zip((r.standard for r in asked.readings), asked.standards, strict=True))
    for reading in asked.readings:
        groups.setdefault((reading.standard, reading.entry.at.date()), []).append(reading)
    results = []
    for (name, day), members in sorted(groups.items(), key=lambda item: item[1][-1].place):
        standard = known[name]
        results.append(assess(
            point=point, phase=asked.phase, readings=tuple(r.reading(point) for r in members),
            reference=standard.serving(point) if standard else None, on=day, rule=asked.rule, celsius=_farthest(members),
            friction=asked.friction, setup=members[-1].setup,
        ))  # fmt: skip
    return replace(results[-1], beside=tuple(results[:-1])) if len(results) > 1 else results[-1]


_RESULTS = Recall(_point_result)


def _farthest(readings: Iterable[TakenReading]) -> float | None:
    """Return the room temperature that was farthest from 23 °C, where references are made good."""
    noted = [r.celsius for r in readings if r.celsius is not None]
    return max(noted, key=lambda c: abs(c - 23.0), default=None)


def assess(
    point: TestPoint,
    phase: Phase,
    readings: tuple[Reading, ...],
    reference: Reference | Chain | None,
    on: dt.date,
    rule: Rule,
    celsius: float | None,
    friction: float | None = None,
    setup: tuple[SetUpTerm, ...] = (),
) -> PointResult:
    """Assess one point, remembering what was asked before; see core.calibration.assess_point."""
    try:
        return _assess(point, phase, readings, reference, on, rule, celsius, friction_divisions=friction, setup=setup)
    except RangeError as error:
        return _assess(point, phase, readings, None, on, rule, celsius, str(error), friction, setup)


def assess_draft(
    job: Job, pack: Pack, known: Mapping[str, Standard], step: ProcedureStep, draft: Reading, now: dt.datetime
) -> PointResult | None:
    """Return what a point would say if a reading in hand were taken now; None at a step that has no point."""
    if step.point is None:
        return None
    states = states_of(job, pack)
    phase: Phase = "as left" if step.phase == "as left" else "as found"
    standing = states.left if phase == "as left" else states.found
    standard = chosen_for(job, known, step.point)
    key = standard.entry.id if standard else ""
    line = job.calibrate.conditions["line_volts"].body.value if "line_volts" in job.calibrate.conditions else 0.0
    same = [
        r for r in states.readings(step.point.key, phase)
        if r.standard == key and r.entry.at.date() == now.date() and not is_apart(line, r.line_volts)
    ]  # fmt: skip
    celsius = job.calibrate.celsius
    readings = (*(r.reading(step.point) for r in same), draft)
    return assess(
        point=step.point,
        phase=phase,
        readings=readings,
        reference=standard.serving(step.point) if standard else None,
        on=now.date(),
        rule=job.calibrate.rule,
        celsius=celsius,
        friction=largest_friction(test_points(pack, phase), standing),
        setup=tuple(e.body.term for e in job.calibrate.set_up.values()),
    )


def as_left_run(job: Job, pack: Pack, found: RunResult, left: RunResult) -> RunResult:
    """Return the run that stands as left: of each point its last state; as found, where nothing it depends on was changed.

    Where nothing at all was changed it is the as-found run itself.
    """
    states = states_of(job, pack)
    if left.measured == 0 and not states.changed and not states.waiting:
        return found
    kept = {key: r for key, r in found.results.items() if key not in states.changed and key not in left.results}
    return replace(left, results={**kept, **left.results})


def touched(job: Job) -> bool:
    """Say whether anything was trimmed or changed since the first reading."""
    return bool(job.calibrate.readings) and any(
        o.place > job.calibrate.readings[0].place for o in job.calibrate.openings
    )


def step_state(job: Job, step: ProcedureStep, now: dt.datetime, states: States) -> StepState:
    """Say how far a step is at a moment."""
    if step.kind == "point" and step.point is not None:
        if step.line:
            if states.at_line(step.point.key, step.line):
                return "done"
        elif is_read(step.point, step.phase, states):
            return "done"
    elif step.key in job.calibrate.done and agrees(job, step):
        return "done"
    timer = job.calibrate.timer_of(step.key)
    if timer is not None:
        return "running" if timer.left(now) > 0 else "done"
    return "skipped" if step.key in job.calibrate.skipped else "open"


def agrees(job: Job, step: ProcedureStep) -> bool:
    """Say whether an adjustment that is done again until two rounds agree has come to that; any other has.

    The last two rounds' errors must lie within the step's share of the limit of each other.
    """
    if not step.repeat_until or step.point is None:
        return True
    errors = [
        e.body.indicated - e.body.reference
        for e in job.calibrate.adjustments
        if e.body.step == step.key and e.body.indicated is not None and e.body.reference is not None
    ]
    return len(errors) > 1 and abs(errors[-1] - errors[-2]) <= step.repeat_until * step.point.nominal_limit


def is_read(point: TestPoint, phase: str, states: States) -> bool:
    """Say whether a point needs no more reading in a phase; one that is figured is read when those it stands on are."""
    if point.formula.text:
        return all(states.step_is_read(key, phase) for _, key in point.formula.points)
    return states.step_is_read(point.key, phase)


def first_open(job: Job, pack: Pack, now: dt.datetime) -> ProcedureStep | None:
    """Return the first step that is neither done nor skipped, or the last of all; None where there is no procedure."""
    steps, states = procedure(pack), states_of(job, pack)
    asked = (s for s in steps if not s.usual)
    return next((s for s in asked if step_state(job, s, now, states) == "open"), steps[-1] if steps else None)


def unfinished(job: Job, pack: Pack, now: dt.datetime) -> tuple[ProcedureStep, ...]:
    """Return the steps that a certificate would need and that are neither done nor skipped.

    As left, a point is needed where something it depends on was changed since it was read, or where it could not be read as
    found. Of an instrument that arrived dead nothing is needed as found.
    """
    states, opened = states_of(job, pack), bool(job.calibrate.openings)
    dead, was_touched = job.calibrate.inoperative is not None, touched(job)
    needed = []
    for step, point in _needed(pack):
        left = step.phase == "as left"
        if point is not None:
            key = point.key
            if not point.formula.text and key in (states.left if left else states.found):
                continue
            never = opened and key not in states.found
            if not left and step.phase == "as found" and (dead or (never and key in states.left)):
                continue
            if left and not (dead or key in states.changed or never):
                continue
        elif not was_touched and (left or step.phase == "adjustment"):
            continue
        if step_state(job, step, now, states) in ("open", "running"):
            needed.append(step)
    return tuple(needed)


@lru_cache(maxsize=32)
def _needed(pack: Pack) -> tuple[tuple[ProcedureStep, TestPoint | None], ...]:
    """Return the steps of a pack that a certificate asks about, with the point of those that are one."""
    steps = (s for s in procedure(pack) if s.kind not in ("adjust", "next") and not s.usual)
    return tuple((s, s.point if s.kind == "point" else None) for s in steps)


def row_outcome(run: RunResult, keys: tuple[str, ...]) -> Outcome:
    """Return the worst outcome among some points, those not measured left aside while any is."""
    found = [run.outcome_of(key) for key in keys]
    measured = [o for o in found if o is not Outcome.NOT_MEASURED]
    for outcome in (Outcome.FAIL, Outcome.CANNOT_TELL, Outcome.PASS):
        if outcome in measured:
            return outcome
    return Outcome.NOT_MEASURED
