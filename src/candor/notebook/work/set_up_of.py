"""What one job's set-up gives another: how it is read and by what, and of a sister also what its drawing says; no finding, no
reading, nothing of the one unit. Which entries are given on is said where they are defined."""

from __future__ import annotations

import re
from collections.abc import Iterator

from candor.core.late_dataclass import dataclass
from candor.notebook.entries.body import Body
from candor.notebook.entries.ranges_entries import PointsPlanned
from candor.notebook.work.job import Job

_READ_AT = re.compile(r"([^/]+)/([^/]+)/([-+0-9.e]+)")


@dataclass(frozen=True)
class Like:
    """The job that another is set up as, and whether it is the same instrument again."""

    job: str
    same_unit: bool


def set_up_of(job: Job, *, same_unit: bool) -> tuple[Body, ...]:
    """Return the entries that set another job up as this one was; the points that were read are planned.

    Parameters
    ----------
    job : Job
    same_unit : bool
        It is the same instrument again: nothing that its drawing said, as its parts may be others by now.
    """
    given = {"how it is read"} if same_unit else {"how it is read", "as drawn"}
    stands = [e.body for e in job.entries if e.id not in job.struck and e.body.gives_on in given]
    return (*(body if same_unit else body.of_another() for body in stands), *_points_read(job))


def _points_read(job: Job) -> Iterator[PointsPlanned]:
    """Yield what was read on ranges that the job described, as planned: the same points again."""
    read: dict[tuple[str, str], list[float]] = {}
    for reading in job.calibrate.readings:
        found = _READ_AT.fullmatch(reading.body.point)
        if found is not None and (found[1], found[2]) in job.ranges.made:
            read.setdefault((found[1], found[2]), []).append(float(found[3]))
    for (function, range_), values in read.items():
        yield PointsPlanned(function=function, range=range_, values=tuple(sorted(dict.fromkeys(values))))
