"""What bars the work: the one answer that the hand, the route, an import and the tester ask for."""

from __future__ import annotations

from typing import Literal

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.arrive_entries import Finding
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.parts_entries import PartDecided, ReplacementChosen
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.work.job import Job

Work = Literal["power", "tester"]


class BarredError(CandorError, PermissionError):
    """Work that is barred until something is cleared, or overridden with a written reason."""


Why = Literal["hazard", "fasteners", "insulation", "sample", "parts"]


@dataclass(frozen=True)
class Barrier:
    """What bars, and what would lift it.

    Attributes
    ----------
    kind : "hazard", "fasteners", "insulation", "sample" or "parts"
    sentence : str
    short : str
        In a few words, for where there is little room.
    hazard : Finding or None
    missed : Missing or None
        The fasteners that cannot be accounted for: clearing it says where they were.
    """

    kind: Why
    sentence: str
    short: str
    hazard: Finding | None = None
    missed: Missing | None = None

    @property
    def can_be_cleared(self) -> bool:
        """Whether words alone can clear it: a hazard put right, a screw found; the others are cleared by doing."""
        return self.hazard is not None or self.missed is not None


def barrier(job: Job | None, parts: PartsList | None, work: Work = "power") -> Barrier | None:
    """Return what bars a kind of work, the first of it, or None.

    An open hazard bars everything that puts voltage anywhere. The others bar the instrument's own power; the tester, where a part
    lies by itself, goes on.
    """
    if job is None:
        return None
    if job.arrive.open_hazards:
        first, more = job.arrive.open_hazards[0], len(job.arrive.open_hazards) - 1
        also = f" (and {more} more)" if more else ""
        return Barrier(
            "hazard",
            worded("work.blocked_by_a_hazard_clear_it", text=first.text, also=also),
            first.text,
            hazard=first,
        )
    if work != "power":
        return None
    return _fasteners(job) or _insulation(job) or _sample(parts) or _planned(job)


@dataclass(frozen=True)
class Missing:
    """Fasteners that may lie across something live: missed when it came, or left over when a step was put back.

    `id` and `number` are of the entry that says so.
    """

    id: str
    number: int
    count: int
    what: str


def missing_fasteners(job: Job) -> tuple[Missing, ...]:
    """Return the fasteners nobody can account for, in order; those that were found a place are not there."""
    found = [Missing(e.id, e.number, e.body.count, e.body.what) for e in job.unit.unaccounted]
    for taken in job.arrive.taken:
        if taken.back is not None and taken.left_over:
            what = worded("work.left_over_from", what=taken.entry.body.what)
            found.append(Missing(taken.back.id, taken.back.number, taken.left_over, what))
    return tuple(sorted(found, key=lambda m: m.number))


def _fasteners(job: Job) -> Barrier | None:
    missed = [m for m in missing_fasteners(job) if not is_overridden(job, "fasteners", m.number)]
    if not missed:
        return None
    count = sum(m.count for m in missed)
    what = missed[0].what or ("fastener" if count == 1 else "fasteners")
    return Barrier(
        "fasteners",
        worded("work.no_power_missing_it_may_be", count=count, what=what),
        worded("work.not_accounted_for", count=count),
        missed=missed[0],
    )


def _insulation(job: Job) -> Barrier | None:
    washed = job.cleaning.untested
    if washed is None or is_overridden(job, "insulation", washed.number):
        return None
    return Barrier(
        "insulation",
        worded("work.no_power_was_washed_let_it", what=washed.body.what),
        worded("work.washed_insulation_not_measured"),
    )


def _sample(parts: PartsList | None) -> Barrier | None:
    if parts is None or parts.sample != "bad":
        return None
    return Barrier("sample", parts.sample_words, worded("work.the_sample_is_bad"))


def _planned(job: Job) -> Barrier | None:
    waiting = [e for e in planned_not_fitted(job) if not is_overridden(job, "parts", e.number)]
    if not waiting:
        return None
    refs = ", ".join(e.body.ref for e in waiting[:6]) + (" …" if len(waiting) > 6 else "")
    return Barrier(
        "parts",
        worded("work.no_power_planned_and_not_fitted", waiting=len(waiting), refs=refs),
        worded("work.planned_not_fitted", waiting=len(waiting)),
    )


Planned = Entry[ReplacementChosen] | Entry[PartDecided]


def planned_not_fitted(job: Job) -> tuple[Planned, ...]:
    """Return what is to go in and is not fitted, planned minus fitted: chosen by its replacement, or decided to be replaced."""
    chosen: dict[str, Planned] = {r: e for r, e in job.parts.decided.items() if e.body.action == "replace"}
    chosen |= job.parts.replacements
    return tuple(e for ref, e in chosen.items() if not _fitted(job, ref, e.number))


def _fitted(job: Job, ref: str, since: int) -> bool:
    """Whether a part was replaced, itself or with its can, after what goes in was chosen."""
    can = ref.split(" ")[0]
    return any(e.number > since for e in (job.parts.replaced.get(ref), job.parts.replaced.get(can)) if e is not None)


def is_overridden(job: Job, bar: str, since: int) -> bool:
    """Return whether what bars was overridden after it came up."""
    override = job.parts.overridden.get(bar)
    return override is not None and override.number > since
