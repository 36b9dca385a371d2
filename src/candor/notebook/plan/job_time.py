"""The hours of a job: what went into it by kind of work, what lies ahead, what such a job takes here, and the price agreed."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

from candor.core.plan.usual_times import USUAL, Took, Work, together
from candor.notebook.plan.day import JobTime, Spans
from candor.notebook.plan.deeds_of_job import Ahead
from candor.notebook.plan.learned_times import ONCE, gaps_of
from candor.notebook.storage.rows import Row
from candor.notebook.work.job import Job

OWN = 1.0  # jobs that what is estimated for this one counts as, beside those that are over


def job_time(
    job: Job, ahead: Iterable[Ahead], times: Mapping[Work, Took], rows: Iterable[Row], alike: Iterable[str]
) -> JobTime:
    """Return the hours of a job.

    Parameters
    ----------
    job : Job
    ahead : iterable of Ahead
        What lies ahead of it.
    times : mapping of Work to Took
    rows : iterable of Row
        Of all jobs, by which work is told.
    alike : iterable of str
        The jobs of its type that are over.
    """
    over = dict.fromkeys(alike, 0.0)
    spent: dict[Work, float] = {}
    counted: dict[Work, int] = {}
    for name, work, gap in gaps_of(rows):
        if name == job.id:
            spent[work] = spent.get(work, 0.0) + gap
            counted[work] = 1 if work in ONCE else counted.get(work, 0) + 1
        elif name in over:
            over[name] += gap
    still = together((times[a.work], a.many) for a in ahead)
    stay = job.stay
    return JobTime(
        spent=spent,
        usual=sum(USUAL[work] * many for work, many in counted.items()),
        ahead=Spans.of(still),
        whole=Spans.of(_whole(sum(spent.values()) + still.minutes, [m for m in over.values() if m])),
        jobs=sum(m > 0 for m in over.values()),
        agreed=stay.agreed if stay.an_hour else 0.0,
        cost=stay.money + stay.an_hour * max(stay.minutes, sum(spent.values())) / 60,
        to_come=stay.an_hour * still.minutes / 60,
    )


def _whole(estimate: float, over: list[float]) -> Took:
    """Return how long a whole job takes: what is estimated for one counts as OWN of those that are over."""
    if not estimate:
        return Took(0.0, 0.0)
    logs, usual = [math.log(m) for m in over], math.log(estimate)
    count = len(logs)
    mean = (OWN * usual + sum(logs)) / (OWN + count)
    spread = 0.5  # of whole jobs of a type, until some are over: common practice, no source
    squares = sum((x - mean) ** 2 for x in logs) + OWN * (usual - mean) ** 2
    return Took(math.exp(mean), math.sqrt((OWN * spread**2 + squares) / (OWN + count)), count)
