"""The list of steps: one row for a check or a wait, one for all points of a range."""

from __future__ import annotations

import datetime as dt
from functools import lru_cache
from itertools import groupby
from typing import NamedTuple

from candor.core.calibration.run import RunResult
from candor.core.verdict.rules import Outcome
from candor.desktop.widgets.glyphs import SHAPES
from candor.desktop.widgets.row_list import Row
from candor.notebook.work.assessment import StepState, row_outcome, step_state
from candor.notebook.work.job import Job
from candor.notebook.work.states import States
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, procedure

Steps = tuple[ProcedureStep, ...]

_SHAPES: dict[StepState, str] = {"open": "ring", "done": "full", "running": "running", "skipped": "skipped"}


def step_rows(
    job: Job, pack: Pack, states: States, runs: dict[str, RunResult], in_hand: str, now: dt.datetime
) -> tuple[Row, ...]:
    """Return the rows of the procedure; a section of points that is not in hand is folded into one row.

    A further point is offered under the range in hand, and where a range has no other.
    """
    rows: list[Row] = []
    for section in _sections(pack):
        rows.append(Row("", section.title))
        if section.points and in_hand not in section.keys:
            rows.append(_folded(section.points, runs[section.points[0].phase]))
            continue
        read = {_range_of(of[0]): {s.key for s in of} for _, of in section.rows if of[0].kind == "point"}
        for function, of in section.rows:
            if function:
                rows.append(Row("", function))
            beside = read.get(_range_of(of[0])) if of[0].kind == "next" else None
            if beside and in_hand not in beside | {s.key for s in of}:
                continue
            rows.append(_row(of, job, states, runs, in_hand, now))
    return tuple(rows)


class _Section(NamedTuple):
    """Steps that stand together in the procedure.

    Attributes
    ----------
    title : str
    keys : frozenset of str
    points : tuple of ProcedureStep
        Those that are points.
    rows : tuple of (str, steps)
        What is a row each; before it the function that stands above, where ranges of one name are in several.
    """

    title: str
    keys: frozenset[str]
    points: Steps
    rows: tuple[tuple[str, Steps], ...]


@lru_cache(maxsize=8)
def _sections(pack: Pack) -> tuple[_Section, ...]:
    return tuple(_section(tuple(members)) for _, members in groupby(procedure(pack), key=lambda s: s.section_key))


def _section(steps: Steps) -> _Section:
    points = tuple(s for s in steps if s.kind == "point" and not s.line)
    several = len({_function(s) for s in steps} - {""}) > 1
    rows = []
    for function, of in groupby(steps, key=_function):
        for place, (_, same) in enumerate(groupby(of, key=lambda s: (s.kind, s.row))):
            rows.append((function if several and not place else "", tuple(same)))
    return _Section(steps[0].section, frozenset(s.key for s in steps), points, tuple(rows))


def _range_of(step: ProcedureStep) -> tuple[str, str]:
    return _function(step), step.row


def _function(step: ProcedureStep) -> str:
    """The function a step reads, also where it makes a further point; none of a trim. Another line stands apart."""
    if step.line:
        return "At another line"
    return step.point.function if step.kind in ("point", "next") and step.point else ""


def current_row(rows: tuple[Row, ...], pack: Pack, in_hand: str) -> str:
    """Return the key of the row that holds the step in hand."""
    steps = procedure(pack)
    step = next(s for s in steps if s.key == in_hand)
    same = {s.key for s in steps if s.row == step.row and s.section_key == step.section_key and _alike(s, step)}
    return next((row.key for row in rows if row.key in same), "")


def _alike(one: ProcedureStep, other: ProcedureStep) -> bool:
    """Whether two steps share a row: the same range of the same function."""
    functions = [s.point.function if s.point else "" for s in (one, other)]
    return (one.kind, one.row, functions[0]) == (other.kind, other.row, functions[1])


def _read_as(run: RunResult, steps: Steps) -> tuple[str, str]:
    """Return shape and words of what was read: the worst outcome; of what is only noted, that it is."""
    points = [s.point for s in steps if s.point is not None]
    decided = tuple(p.key for p in points if not p.noted)
    if not decided and all(p.key in run.results for p in points):
        return SHAPES[Outcome.NOTED], str(Outcome.NOTED)
    outcome = row_outcome(run, decided)
    return SHAPES[outcome], str(outcome)


def _folded(points: Steps, run: RunResult) -> Row:
    keys = tuple(s.point.key for s in points if s.point)
    shape, says = _read_as(run, points)
    ranges = len({s.row for s in points})
    read = sum(key in run.results for key in keys)
    of_ranges = f"{ranges} range{'s' if ranges > 1 else ''}"
    text = of_ranges if not read else f"{of_ranges}, {read} of {len(keys)}"
    return Row(points[0].key, text, "", shape, says=says)


def _row(steps: Steps, job: Job, known: States, runs: dict[str, RunResult], in_hand: str, now: dt.datetime) -> Row:
    first = steps[0]
    strong = any(s.key == in_hand for s in steps)
    if first.kind == "next":
        return Row(first.key, f"{first.row}: an extra point", strong=strong)
    if first.kind != "point" or first.line:
        state = step_state(job, first, now, known)
        return Row(first.key, first.row, shape=_SHAPES[state], strong=strong, says=state)
    run = runs[first.phase]
    keys = tuple(s.point.key for s in steps if s.point)
    shape, says = _read_as(run, steps)
    left_out = bool(job.calibrate.skipped) and all(step_state(job, s, now, known) == "skipped" for s in steps)
    shape = "skipped" if left_out else shape
    target = next((s for s in steps if step_state(job, s, now, known) == "open"), first)
    if strong:
        target = next(s for s in steps if s.key == in_hand)
    read = sum(key in run.results for key in keys)
    text = first.row if read in (0, len(keys)) else f"{first.row}   {read} of {len(keys)}"
    return Row(target.key, text, shape=shape, strong=strong, says=says)
