"""How long each kind of work took in this shop, read off the moments of its entries."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Iterator, Mapping

from candor.core.plan.usual_times import WORKS, Took, Work, took
from candor.notebook.storage.rows import Row

BREAK = 20.0  # min without an entry of the job after which the hands were elsewhere
ONCE: frozenset[Work] = frozenset(
    ("walk", "before power", "power up", "soaking", "release")
)  # one sitting of a job is one of it
# Which work an entry is the fruit of. Entries that a link writes by itself, or that the shop writes, are none.
WORK_OF: Mapping[str, Work] = {
    "looked": "walk", "finding": "walk", "photo": "walk", "finding_settled": "settle", "part_measured": "part",
    "run_started": "reform", "change": "fit", "power_check": "before power", "rail_ohms": "before power",
    "power_state": "power up", "rail_read": "power up", "power_event": "power up", "change_proven": "prove",
    "reading": "step", "step_done": "step", "adjustment": "adjust", "switched_on": "soaking", "leaving_check": "release",
    "earth_read": "release", "touch_read": "release", "certificate": "release",
}  # fmt: skip


def gaps_of(rows: Iterable[Row]) -> Iterator[tuple[str, Work, float]]:
    """Yield (job, work, min) for every entry that work was done for: the minutes since the job's entry before, breaks left out."""
    last: dict[str, dt.datetime] = {}
    for row in rows:
        at = dt.datetime.fromisoformat(row.at)
        before = last.get(row.job)
        last[row.job] = at
        work = WORK_OF.get(row.kind)
        if work is None or before is None or not row.job:
            continue
        gap = (at - before).total_seconds() / 60
        if 0 < gap <= BREAK:
            yield row.job, work, gap


def times_of(rows: Iterable[Row]) -> Mapping[Work, Took]:
    """Return how long one of each kind of work takes, by the entries of all jobs in the order they were written.

    The minutes before an entry count for its work where the job's entry before is not further back than BREAK; each job gives
    one number for each work.
    """
    minutes: dict[tuple[str, Work], list[float]] = {}
    for job, work, gap in gaps_of(rows):
        minutes.setdefault((job, work), []).append(gap)
    sittings: dict[Work, list[float]] = {}
    for (_, work), gaps in minutes.items():
        sittings.setdefault(work, []).append(sum(gaps) if work in ONCE else sum(gaps) / len(gaps))
    return {work: took(work, sittings.get(work, ())) for work in WORKS}
