"""What two benches have in hand at once, in words: one job, or one standard."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping

from candor.core.worded import worded
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.entries.stay_entries import BroughtIn
from candor.notebook.server.server_link import BenchRow
from candor.notebook.standards.standards import Standard
from candor.notebook.work.job import Job

WITHOUT = ("arrive", "release")  # stops at which no standard lies on the bench


def say_beside(
    benches: Iterable[BenchRow], job: Job | None, job_of: Callable[[str], Job], known: Mapping[str, Standard]
) -> tuple[str, ...]:
    """Say who else is at the job in hand, and which of its standards another bench reads with now.

    Parameters
    ----------
    benches : iterable of BenchRow
        The other benches that are there.
    job : Job or None
        In hand here.
    job_of : callable
        Gives the job of another bench by its id.
    known : mapping
        Standards by the entry that recorded them.
    """
    if job is None:
        return ()
    ours, said = _in_use(job, known), []
    for bench in benches:
        if bench.job == job.id:
            said.append(
                worded("server.is_at_this_job_too", who=bench.who, bench=bench.bench, stop=bench.stop.capitalize())
            )
        elif bench.job and bench.stop not in WITHOUT and ours:
            other = job_of(bench.job)
            said += [
                worded(
                    "server.a_standard_is_in_use_there",
                    name=ours[key],
                    who=bench.who,
                    bench=bench.bench,
                    job=other.name,
                )
                for key in ours.keys() & _in_use(other, known).keys()
            ]
    return tuple(dict.fromkeys(said))


def barred_late(job: Job | None) -> tuple[str, str] | None:
    """Return the entry that says last that what came in late would have been barred by then, and by what; None without."""
    for entry in reversed(job.entries if job is not None else ()):
        if isinstance(entry.body, BroughtIn) and entry.body.barred:
            return entry.id, " ".join(entry.body.barred)
    return None


def _in_use(job: Job, known: Mapping[str, Standard]) -> dict[str, str]:
    """Return the standards that a job is read against now, the newest of each quantity: its name by its key."""
    taken: set[str] = set()
    found = {}
    for entry in reversed(job.calibrate.standards):
        if (standard := known.get(entry)) is None:
            continue
        body = standard.body
        units = {f.unit for f in body.functions} if isinstance(body, StandardRecorded) else {""}
        if units - taken:
            found[body.key] = body.name
        taken |= units
    return found
