"""How the line moves a point: read again at another line, against what stands, with the uncertainty of the difference."""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import groupby

from candor.core.calibration.point import TestPoint
from candor.core.calibration.result import PointResult
from candor.core.calibration.run import RunResult
from candor.core.late_dataclass import dataclass
from candor.core.uncertainty.budget import Budget
from candor.notebook.standards.standards import Standard
from candor.notebook.work.assessment import assess
from candor.notebook.work.job import Job
from candor.notebook.work.states import Readings, is_at, states_of
from candor.packs.model import Pack
from candor.packs.procedure import point_by_name


@dataclass(frozen=True)
class LineInfluence:
    """A point at another line.

    Attributes
    ----------
    point : TestPoint
    base_volts, volts : float
        The line at which it stands, and that of these readings, V.
    change, expanded : float
        By how much the error differs from there, in the unit of the error, and its U, k = 2: what the reference brings to both is
        the same and cancels (JCGM 100:2008, F.1.2.3).
    result : PointResult
        At that line.
    entry : int
        Of the last reading.
    """

    point: TestPoint
    base_volts: float
    volts: float
    change: float
    expanded: float
    result: PointResult
    entry: int


def line_influence(job: Job, pack: Pack, known: Mapping[str, Standard], run: RunResult) -> tuple[LineInfluence, ...]:
    """Return how the line moves the points of a run that were read at another line too, in the order of the procedure.

    Parameters
    ----------
    job : Job
    pack : Pack
    known : mapping of entry to Standard
    run : RunResult
        What stands, at the line it was read at.
    """
    states, found = states_of(job, pack), []
    for key, readings in states.line.items():
        stands = run.results.get(key)
        base = next((r.line_volts for r in job.calibrate.readings if r.body.point == key and r.line_volts), 0.0)
        if stands is None or stands.remark or not base:
            continue
        for volts, members in groupby(
            sorted(readings, key=lambda r: (r.line_volts, r.place)), key=lambda r: r.line_volts
        ):
            found.append(_at(point_by_name(pack, key), stands, tuple(members), known, job, base=base, volts=volts))
    order = {key: i for i, key in enumerate(run.results)}
    return tuple(sorted((f for f in found if not f.result.remark), key=lambda f: (order[f.point.key], f.volts)))


def result_at(
    job: Job, pack: Pack, known: Mapping[str, Standard], run: RunResult, point: str, share: float
) -> PointResult | None:
    """Return what a point says with the line off by a share; None where it was not read there. Parameters as `line_influence`."""
    found = line_influence(job, pack, known, run)
    return next((f.result for f in found if f.point.key == point and is_at(f.volts, f.base_volts, share)), None)


def line_then(job: Job, pack: Pack, point: str) -> tuple[float, float]:
    """Return the line as it was noted last, and at the first reading of a point, V; 0 where it was not."""
    noted = job.calibrate.conditions.get("line_volts")
    return (noted.body.value if noted is not None else 0.0), states_of(job, pack).base.get(point, 0.0)


def _at(
    point: TestPoint,
    stands: PointResult,
    readings: Readings,
    known: Mapping[str, Standard],
    job: Job,
    *,
    base: float,
    volts: float,
) -> LineInfluence:
    last = readings[-1]
    standard = known.get(last.standard)
    result = assess(
        point=point, phase=stands.phase, readings=tuple(r.reading(point) for r in readings),
        reference=standard.serving(point) if standard else None, on=last.entry.at.date(), rule=job.calibrate.rule,
        celsius=last.celsius, setup=last.setup,
    )  # fmt: skip
    own = [
        Budget(tuple(c for c in r.budget.contributions if c.kind != "reference")).combined for r in (stands, result)
    ]
    return LineInfluence(
        point=point, base_volts=base, volts=volts, change=result.error - stands.error, expanded=2 * math.hypot(*own), result=result,
        entry=last.entry.number,
    )  # fmt: skip
