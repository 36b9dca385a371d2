"""The list of steps: one row for a check or a wait, one for all points of a range."""

from __future__ import annotations

import datetime as dt
from itertools import groupby

from candor.core.calibration.run import RunResult
from candor.core.verdict.rules import Outcome
from candor.desktop.widgets.glyphs import SHAPES
from candor.desktop.widgets.rows import Row
from candor.notebook.work.assessment import StepState, row_outcome, step_state
from candor.notebook.work.job import Job
from candor.notebook.work.states import States
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, procedure

_SHAPES: dict[StepState, str] = {"open": "ring", "done": "full", "running": "running", "skipped": "skipped"}


def step_rows(
    job: Job, pack: Pack, states: States, runs: dict[str, RunResult], in_hand: str, now: dt.datetime
) -> tuple[Row, ...]:
    """Return the rows of the procedure; a section of points that is not in hand is folded into one row."""
    rows: list[Row] = []
    for _, members in groupby(procedure(pack), key=lambda s: s.section_key):
        steps = list(members)
        rows.append(Row("", steps[0].section))
        points = [s for s in steps if s.kind == "point"]
        if points and not any(s.key == in_hand for s in steps):
            rows.append(_folded(points, runs[steps[0].phase]))
            continue
        # Ranges of one name in several functions: the function stands above them.
        functions = {s.point.function for s in points if s.point}
        for function, of in groupby(steps, key=lambda s: s.point.function if s.kind == "point" and s.point else ""):
            if function and len(functions) > 1:
                rows.append(Row("", function))
            for _, same in groupby(of, key=lambda s: (s.kind, s.row)):
                rows.append(_row(list(same), job, states, runs, in_hand, now))
    return tuple(rows)


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


def _read_as(run: RunResult, steps: list[ProcedureStep]) -> tuple[str, str]:
    """Return shape and words of what was read: the worst outcome; of what is only noted, that it is."""
    points = [s.point for s in steps if s.point is not None]
    decided = tuple(p.key for p in points if not p.noted)
    if not decided and all(p.key in run.results for p in points):
        return SHAPES[Outcome.NOTED], str(Outcome.NOTED)
    outcome = row_outcome(run, decided)
    return SHAPES[outcome], str(outcome)


def _folded(points: list[ProcedureStep], run: RunResult) -> Row:
    keys = tuple(s.point.key for s in points if s.point)
    shape, says = _read_as(run, points)
    ranges = len({s.row for s in points})
    read = sum(key in run.results for key in keys)
    of_ranges = f"{ranges} range{'s' if ranges > 1 else ''}"
    text = of_ranges if not read else f"{of_ranges}, {read} of {len(keys)}"
    return Row(points[0].key, text, "", shape, says=says)


def _row(
    steps: list[ProcedureStep], job: Job, known: States, runs: dict[str, RunResult], in_hand: str, now: dt.datetime
) -> Row:
    first = steps[0]
    strong = any(s.key == in_hand for s in steps)
    if first.kind == "next":
        return Row(first.key, f"{first.row}: an extra point", strong=strong)
    if first.kind != "point":
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
