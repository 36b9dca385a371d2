"""Results from before the first job here, out of a table: matched to the points there are before anything is taken in."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterable, Mapping

from pydantic import Field, model_validator

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError, ValueTextError
from candor.core.quantities import engineering, pair
from candor.core.worded import worded
from candor.notebook.entries.soak_entries import PastResult
from candor.notebook.exchange.columns import read_rows
from candor.notebook.parts.parts_import import PartsImport, understood_rows
from candor.notebook.soak.drift_table import HistoryRow
from candor.notebook.work.job import Job
from candor.packs.model import Pack
from candor.packs.procedure import test_points

FAR_OFF = 100.0  # times the limit: asked about before it is taken in
REALLY = "really"


class PastRow(HistoryRow):
    """A result from before: “really” behind its error answers that it is so far off."""

    really: bool = Field(default=False, exclude=True)

    @model_validator(mode="before")
    @classmethod
    def _answered(cls, cells: Mapping[str, str]) -> Mapping[str, object]:
        said = cells.get("error", "").casefold()
        return {**cells, "error": said.replace(REALLY, "").strip(), "really": True} if REALLY in said else cells


def matched(pack: Pack | None, text: str) -> TestPoint | None:
    """Return the point that a table or a line names: by its key, its name, or its function and name; None where there is none."""
    wanted = " ".join(text.casefold().replace("−", "-").split())
    for point in (*test_points(pack, "as found"), *test_points(pack, "as left")) if pack is not None else ():
        names = (point.key, history_name(point), f"{point.function} {point.name}", point.name)
        if wanted in (" ".join(name.casefold().replace("−", "-").split()) for name in names):
            return point
    return None


def history_name(point: TestPoint) -> str:
    """Return what a point is called in a history."""
    return f"{point.function}, {point.name}"


def ask_if_far_off(name: str, error: float | None, limit: float, unit: str, really: bool) -> None:
    """Ask about an error that is a hundred times its limit or more: a decimal point, or the value instead of its error.

    Raises
    ------
    ValueTextError
        The question; *really* behind the line answers it.
    """
    if error is None or really or not math.isfinite(limit) or abs(error) < FAR_OFF * limit:
        return
    shown, allowed = engineering(error, unit or "1", 4), engineering(limit, unit or "1", 3)
    raise ValueTextError(
        worded(
            "soak.an_error_of_times_the_limit",
            name=name,
            shown=shown,
            error=abs(error) / limit,
            allowed=allowed,
            really=REALLY,
        ),
        value=shown,
    )


def preview_past(content: bytes, today: dt.date, pack: Pack | None, job: Job) -> PartsImport:
    """Understand a table of results, each matched to its point; what is there already is recognised, and not taken in again.

    Columns: date, point, error, U (k = 2), limit, when (found or left); standard may be added.
    """
    there = {_same(entry.body) for entry in job.soak.past}
    units: dict[str, str] = {entry.body.point: entry.body.unit for entry in job.soak.past}

    def read(row: PastRow) -> tuple[PastResult, ...]:
        made = _result(row, pack, units)
        if _same(made) in there:
            return ()
        there.add(_same(made))
        return (made,)

    found = understood_rows(
        read_rows(content, PastRow, today=today), read, _said, worded("soak.there_is_no_result_in_the_file")
    )
    lines = tuple(
        line
        if line.understood or line.fault
        else type(line)(line.number, line.text, worded("soak.is_there_already_not_taken_in"))
        for line in found.lines
    )
    return PartsImport(lines, found.bodies, found.fault)


def _result(row: PastRow, pack: Pack | None, units: dict[str, str]) -> PastResult:
    point = matched(pack, row.point)
    name = history_name(point) if point is not None else row.point
    said = {unit for _, unit in row.amounts if unit}
    known = point.judged_unit if point is not None else units.get(name, "")
    if (known and said - {known}) or len(said) > 1:
        raise CandorError(
            worded(
                "soak.is_in_found",
                name=name,
                known=known or " and in ".join(sorted(said)),
                listed=", ".join(sorted(said)),
            ),
            value=name,
        )
    unit = known or next(iter(said), "")
    units.setdefault(name, unit)
    error = row.error[0] if row.error is not None else None
    ask_if_far_off(name, error, row.limit[0], unit, row.really)
    return PastResult(
        on=row.date, point=name, error=error, expanded=row.u[0] if row.error and row.u else None, limit=row.limit[0], unit=unit,
        when=row.when, standard=row.standard,
    )  # fmt: skip


def _same(body: PastResult) -> tuple[object, ...]:
    error = None if body.error is None else float(f"{body.error:.6g}")
    return body.point, body.on, body.when, error


def _said(body: PastResult) -> str:
    what = "arrived dead" if body.error is None else pair(body.error, body.expanded or 0.0, body.unit or "1")
    return f"{body.on.isoformat()}, {body.point}: {what}, as {body.when}"


def counted(found: PartsImport) -> Iterable[str]:
    """Yield what is said above the preview: how many are new, how many are there already."""
    there = sum("there already" in line.understood for line in found.lines)
    yield f"{len(found.bodies)} results"
    if there:
        yield worded("soak.are_there_already", there=there)
