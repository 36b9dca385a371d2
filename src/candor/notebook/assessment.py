"""What a job's readings say: its entries, its pack and the standards, put to the core."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from candor.core.calibration.point import Phase, PointResult, TestPoint, assess_point
from candor.core.calibration.run import RunResult
from candor.core.errors import RangeError
from candor.core.reading.dial import NeedleReading
from candor.core.reading.reference import CertifiedPoint, Reference, SpecificationRange
from candor.core.verdict.rules import Outcome, Rule
from candor.notebook.entries import Entry, StandardRecorded
from candor.notebook.job import Job, struck_ids
from candor.notebook.store import Notebook
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, procedure, test_points

StepState = Literal["open", "done", "running", "skipped"]


@dataclass(frozen=True)
class Standard:
    """A standard as one entry recorded it."""

    entry: Entry
    body: StandardRecorded
    reference: Reference
    current: bool


def standards(notebook: Notebook) -> Mapping[str, Standard]:
    """Return every recorded state of every standard, by entry id; the newest of each key is current."""
    entries = notebook.entries_of("")
    struck = struck_ids(entries)
    kept = [e for e in entries if isinstance(e.body, StandardRecorded) and e.id not in struck]
    newest = {e.body.key: e.id for e in kept}
    return {e.id: Standard(e, e.body, to_reference(e.body), newest[e.body.key] == e.id) for e in kept}


def to_reference(body: StandardRecorded) -> Reference:
    """Return a recorded standard as the core knows references."""
    return Reference(
        name=body.name,
        unit=body.unit,
        ranges=tuple(
            SpecificationRange(r.upper, r.percent_of_reading, r.percent_of_range, r.counts, r.resolution)
            for r in sorted(body.ranges, key=lambda r: r.upper)
        ),
        points=tuple(
            CertifiedPoint(p.value, p.correction, p.expanded, p.factor)
            for p in sorted(body.points, key=lambda p: p.value)
        ),
        drift_percent_per_year=body.drift_percent_per_year,
        calibrated_on=body.calibrated_on,
        valid_days=body.valid_days,
        low_celsius=body.low_celsius,
        high_celsius=body.high_celsius,
        percent_per_kelvin=body.percent_per_kelvin,
    )


_assess = lru_cache(maxsize=4096)(assess_point)


def assess_run(job: Job, pack: Pack, known: Mapping[str, Standard], phase: Phase) -> RunResult:
    """Assess every point of a phase that has readings.

    Each point is judged with the standard its last reading named. Where that standard cannot serve the
    value, the point says so instead of a verdict.
    """
    by_point: dict[str, list[NeedleReading]] = {}
    last: dict[str, tuple[str, dt.date]] = {}
    for entry, body in job.readings:
        if body.phase == phase:
            reading = NeedleReading(body.indicated, body.reference, body.direction, entry.number)
            by_point.setdefault(body.point, []).append(reading)
            last[body.point] = (body.standard, entry.at.date())
    points = test_points(pack, phase)
    celsius = job.conditions["celsius"][0] if "celsius" in job.conditions else None
    results: dict[str, PointResult] = {}
    for point in points:
        if point.key in by_point:
            name, day = last[point.key]
            standard = known.get(name)
            reference = standard.reference if standard else None
            results[point.key] = assess(point, phase, tuple(by_point[point.key]), reference, day, job.rule, celsius)
    return RunResult(phase, points, results)


def assess(
    point: TestPoint,
    phase: Phase,
    readings: tuple[NeedleReading, ...],
    reference: Reference | None,
    on: dt.date,
    rule: Rule,
    celsius: float | None,
) -> PointResult:
    """Assess one point, remembering what was asked before; see core.calibration.assess_point."""
    try:
        return _assess(point, phase, readings, reference, on, rule, celsius)
    except RangeError as error:
        return _assess(point, phase, readings, None, on, rule, celsius, str(error))


def as_left_run(job: Job, found: RunResult, left: RunResult) -> RunResult:
    """Return the run that stands as left: as found, where nothing was changed or trimmed since."""
    return found if left.measured == 0 and not touched(job) else left


def touched(job: Job) -> bool:
    """Say whether anything was trimmed or changed since the first as-found reading."""
    first = next((e.number for e, b in job.readings if b.phase == "as found"), None)
    return first is not None and any(e.number > first for e in (*job.adjustments, *job.changes))


def step_state(job: Job, step: ProcedureStep, now: dt.datetime) -> StepState:
    """Say how far a step is at a moment."""
    if step.kind == "point" and step.point is not None:
        if (step.point.key, step.phase) in job.read:
            return "done"
    elif step.key in job.done:
        return "done"
    timer = job.timer_of(step.key)
    if timer is not None:
        return "running" if timer.left(now) > 0 else "done"
    return "skipped" if step.key in job.skipped else "open"


def first_open(job: Job, pack: Pack, now: dt.datetime) -> ProcedureStep | None:
    """Return the first step that is neither done nor skipped, or the last of all; None where there is no procedure."""
    steps = procedure(pack)
    return next((s for s in steps if step_state(job, s, now) == "open"), steps[-1] if steps else None)


def unfinished(job: Job, pack: Pack, now: dt.datetime) -> tuple[ProcedureStep, ...]:
    """Return the steps that a certificate would need and that are neither done nor skipped.

    Without any change or trim the as-left part and the trims are not needed.
    """
    again = touched(job) or any(b.phase == "as left" for _, b in job.readings)
    needed = [s for s in procedure(pack) if again or s.phase in ("preparation", "as found")]
    states = {s.key: step_state(job, s, now) for s in needed}
    return tuple(s for s in needed if states[s.key] in ("open", "running") and s.kind != "adjust")


def row_outcome(run: RunResult, keys: tuple[str, ...]) -> Outcome:
    """Return the worst outcome among some points, those not measured left aside while any is."""
    found = [run.outcome_of(key) for key in keys]
    measured = [o for o in found if o is not Outcome.NOT_MEASURED]
    for outcome in (Outcome.FAIL, Outcome.CANNOT_TELL, Outcome.PASS):
        if outcome in measured:
            return outcome
    return Outcome.NOT_MEASURED
