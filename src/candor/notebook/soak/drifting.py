"""The history of an instrument over all its jobs and what was known before them; its forecast, due date, and adjust or leave."""

from __future__ import annotations

import datetime as dt
import math
import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import field
from typing import Literal, get_args

from candor.core.calibration.result import PointResult
from candor.core.drift.due import (
    TARGET,
    Advice,
    Due,
    Method,
    adjust_or_leave,
    due_by_custom,
    due_by_staircase,
    due_of_all,
)
from candor.core.drift.forecast import PointForecast
from candor.core.drift.history import DAYS, Calibration, PointHistory, Segment, segments_of
from candor.core.drift.prior import USUAL, Prior, pooled
from candor.core.errors import CandorError, ValueTextError
from candor.core.jot.soak_meaning import PastJot
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_date
from candor.core.verdict.rules import Outcome
from candor.core.worded import worded
from candor.notebook.arrive.instruments import instruments
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.soak_entries import DueSet, PastResult
from candor.notebook.soak.drift_table import forecasts_of
from candor.notebook.soak.past_import import ask_if_far_off, history_name, matched
from candor.notebook.standards.standards import Standard
from candor.notebook.store import Notebook
from candor.notebook.work.assessment import as_left_run, assess_run
from candor.notebook.work.description import description_of
from candor.notebook.work.evidence import evidence_of
from candor.notebook.work.job import Job, fold
from candor.packs.model import Pack

YEAR = dt.timedelta(days=365)
Rows = dict[str, list[Calibration]]


@dataclass(frozen=True)
class DriftAsked:
    """What a history is calculated from: an instrument's jobs with their packs, oldest first, and those of others of its kind."""

    jobs: tuple[tuple[Job, Pack], ...]
    others: tuple[tuple[tuple[Job, Pack], ...], ...]
    known: Mapping[str, Standard]
    kind: str


PointOrder = Literal["as read", "due first", "farthest first", "most results"]
POINT_ORDERS: tuple[PointOrder, ...] = get_args(PointOrder)


@dataclass(frozen=True)
class DriftView:
    """What there is to show.

    Attributes
    ----------
    points : tuple of PointHistory
    forecasts : mapping of str to PointForecast
        By the point's name.
    due : Due
    prior : Prior
    advice : mapping of str to Advice
        Of points in tolerance.
    faults : tuple of str
    chosen : Entry or None
        The day that was chosen, which certificate, label and shelf say; a newer forecast stands beside it.
    """

    points: tuple[PointHistory, ...]
    forecasts: Mapping[str, PointForecast]
    due: Due
    prior: Prior
    advice: Mapping[str, Advice] = field(default_factory=dict)
    faults: tuple[str, ...] = ()
    chosen: Entry[DueSet] | None = None

    def in_order(self, order: PointOrder) -> tuple[PointHistory, ...]:
        """Return the points as they are to be looked at; what stands alike in it stands as it is read."""
        keys: Mapping[PointOrder, Callable[[PointHistory], tuple[object, ...]]] = {
            "due first": lambda p: (
                p.name not in self.advice,
                self.advice[p.name].left if p.name in self.advice else None,
            ),
            "farthest first": lambda p: (-abs(p.segments[-1].results[-1].error) / p.limit if p.limit else 0.0,),
            "most results": lambda p: (-sum(len(s.results) for s in p.segments),),
        }
        return tuple(sorted(self.points, key=keys[order])) if order in keys else self.points

    @property
    def day(self) -> dt.date:
        """The one day it is due: that chosen, or the forecast where nobody chose."""
        return self.chosen.body.on if self.chosen is not None else self.due.on


def drift_asked(notebook: Notebook, job: Job, known: Mapping[str, Standard]) -> DriftAsked:
    """Gather what the history of a job's instrument is calculated from; read from the notebook, so in its own thread."""
    every = instruments(notebook)
    own = next((i for i in every if job.id in i.jobs), None)
    ids = own.jobs if own is not None and job.serial else (job.id,)

    def opened(id_: str) -> tuple[Job, Pack]:
        folded = fold(id_, notebook.entries_of(id_))
        return folded, description_of(notebook, folded)

    jobs = tuple(sorted((opened(i) for i in ids), key=lambda pair: pair[0].entries[0].at))
    kind = jobs[-1][1].kind if jobs else ""
    others = [i for i in every if own is not None and i is not own and len(i.jobs) > 1 and i.serial]
    alike = tuple(made for i in others if (made := tuple(opened(j) for j in i.jobs)) and made[-1][1].kind == kind)
    return DriftAsked(jobs, alike, known, kind)


def drift_view(asked: DriftAsked, today: dt.date, target: float = TARGET) -> DriftView:
    """Return the forecast of an instrument; long work, which touches nothing but what was gathered."""
    slopes = [s for jobs in asked.others for s in _slopes(jobs, asked.known)]
    prior = pooled(slopes)
    points, faults = _points(asked.jobs, asked.known)
    forecasts = forecasts_of(points, prior)
    since = max((s.results[-1].on for p in points for s in p.segments), default=today)
    due, _ = due_of_all(forecasts, today, due_by_custom(asked.kind, since), target)
    advice = {}
    for point in points:
        last = point.segments[-1].results[-1] if point.segments else None
        if last is not None and abs(last.error) <= point.limit and point.name in forecasts:
            advice[point.name] = adjust_or_leave(point.segments, point.limit, today, today + YEAR, prior, target)
    return DriftView(points=points, forecasts=forecasts, due=due, prior=prior, advice=advice, faults=tuple(faults),
        chosen=asked.jobs[-1][0].soak.due if asked.jobs else None)  # fmt: skip


def due_choices(view: DriftView, kind: str, today: dt.date) -> Mapping[Method, Due]:
    """Return the day it is due by each method that can say: forecast, staircase from the worst point, custom of its kind."""
    found: dict[Method, Due] = {"custom": due_by_custom(kind, today)}
    worst = next((p for p in view.points if p.name == (view.due.worst or p.name) and p.segments), None)
    if worst is not None:
        days = sorted({r.on for s in worst.segments for r in s.results})
        years = (days[-1] - days[-2]).days / DAYS if len(days) > 1 else 1.0
        last = worst.segments[-1].results[-1]
        found["staircase"] = due_by_staircase(last, worst.limit, max(years, 1 / 12))
    if view.forecasts:
        found["forecast"] = view.due
    return found


def _slopes(jobs: tuple[tuple[Job, Pack], ...], known: Mapping[str, Standard]) -> list[tuple[float, float]]:
    """Return the slopes of another's points as shares of their limits a year, each with its u, by a prior that says little."""
    points, _ = _points(jobs, known)
    told = [p for p in points if sum(len(s.results) for s in p.segments) > len(p.segments)]
    found = forecasts_of(told, Prior(10 * USUAL.slope, USUAL.walk)) if told else {}
    return [(f.slope / f.limit, f.u_slope / f.limit) for f in found.values()]


def _points(
    jobs: Iterable[tuple[Job, Pack]], known: Mapping[str, Standard]
) -> tuple[tuple[PointHistory, ...], list[str]]:
    rows: Rows = {}
    limits: dict[str, float] = {}
    units: dict[str, str] = {}
    faults: list[str] = []
    for job, pack in jobs:
        for entry in job.soak.past:
            _take_past(entry.body, rows, limits, units, faults)
        job = evidence_of(job, known)
        found = assess_run(job, pack, known, "as found")
        left = as_left_run(job, pack, found, assess_run(job, pack, known, "as left"))
        for key, result in found.results.items():
            # What was read after a repair says nothing of how far it drifted: it begins anew.
            repaired = key in found.after_repair
            if not (repaired and key in left.results and left.results[key].readings != result.readings):
                _take(job, result, rows, limits, units, repaired)
        for key, result in left.results.items():
            same = found.results.get(key)
            if same is None or result.readings != same.readings:
                _take(job, result, rows, limits, units)
    points = []
    for name, results in rows.items():
        try:
            segments: tuple[Segment, ...] = segments_of(results)
            points.append(PointHistory(name=name, segments=segments, limit=limits[name], unit=units[name]))
        except CandorError as error:
            faults.append(f"{name}: {error}")
    return tuple(points), faults


def _take(
    job: Job,
    result: PointResult,
    rows: Rows,
    limits: dict[str, float],
    units: dict[str, str],
    after_repair: bool = False,
) -> None:
    point, half = result.point, result.verdict.bounds.half
    decided = (
        result.verdict.outcome in (Outcome.PASS, Outcome.FAIL, Outcome.CANNOT_TELL)
        and not result.remark
        and not result.seen
    )
    if (
        point.noted
        or point.limit.on_value
        or not decided
        or not point.limit.given
        or not math.isfinite(half)
        or half <= 0
    ):
        return
    last = max(r.entry for r in result.readings)
    taken = next((t for t in job.calibrate.readings if t.entry.number == last), None)
    if taken is None:
        return
    apart = re.search(r"\+([a-z][a-z0-9-]*)$", point.key)  # leads one way, the other
    name = f"{point.function}, {point.name}" + (f", {apart[1]}" if apart else "")
    limits[name], units[name] = half, result.unit
    rows.setdefault(name, []).append(
        Calibration(
            on=taken.entry.at.date(), error=result.error, expanded=result.coverage.expanded,
            when="found" if result.phase == "as found" and not after_repair else "left", standard=taken.standard,
        )
    )  # fmt: skip


def _take_past(b: PastResult, rows: Rows, limits: dict[str, float], units: dict[str, str], faults: list[str]) -> None:
    known = units.setdefault(b.point, b.unit)
    if known != b.unit:
        plain = "plain numbers"
        faults.append(
            worded(
                "soak.is_in_and_in_was_left",
                point=b.point,
                known=known or plain,
                unit=b.unit or plain,
                on=b.on.isoformat(),
            )
        )
        return
    limits.setdefault(b.point, b.limit)
    rows.setdefault(b.point, [])
    if b.error is not None and b.expanded is not None:
        rows[b.point].append(
            Calibration(on=b.on, error=b.error, expanded=b.expanded, when=b.when, standard=b.standard)
        )


def past_typed(jot: PastJot, pack: Pack | None, today: dt.date) -> PastResult:
    """Return a result of before that was typed: by the name its point has in this job's history, with its limit where none is said.

    Raises
    ------
    CandorError
        Where its date is none or lies ahead, or nobody knows its limit.
    """
    on = parse_date(jot.date, today, worded("soak.the_day_of_a_result"))
    point = matched(pack, jot.point)
    limit = jot.limit
    if (
        limit is None
        and point is not None
        and point.limit.judged_in == "value"
        and math.isfinite(point.nominal_limit)
    ):
        limit = point.nominal_limit
    if not limit:
        raise ValueTextError(
            worded("soak.the_limit_of_is_not_known", point=jot.point),
            value=jot.point,
        )
    name = history_name(point) if point is not None else jot.point
    unit = point.unit if point is not None and jot.error is None else jot.unit
    if point is not None and unit != point.unit:
        raise ValueTextError(
            worded("soak.is_in_and_the_result_in", name=name, unit=point.unit, unit_2=unit or "plain numbers"),
            value=unit,
            expected=point.unit,
        )
    ask_if_far_off(name, jot.error, limit, unit, jot.really)
    return PastResult(
        on=on, point=name, error=jot.error, expanded=jot.expanded, limit=limit, unit=unit, when=jot.when
    )
