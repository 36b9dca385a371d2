"""What bars the work: the one answer that the hand, the route, an import and the tester ask for."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from candor.core.errors import CandorError
from candor.notebook.entries.arrive import Finding
from candor.notebook.job import Job
from candor.notebook.parts_list import PartsList

Work = Literal["power", "tester"]


class BarredError(CandorError, PermissionError):
    """Work that is barred until something is cleared, or overridden with a written reason."""


@dataclass(frozen=True)
class Barrier:
    """What bars, and what would lift it.

    Attributes
    ----------
    kind : "hazard" or "sample"
    sentence : str
    hazard : Finding or None
    """

    kind: Literal["hazard", "sample"]
    sentence: str
    hazard: Finding | None = None


def barrier(job: Job | None, parts: PartsList | None, work: Work = "power") -> Barrier | None:
    """Return what bars a kind of work, the first of it, or None.

    An open hazard bars everything that puts voltage anywhere. A bad sample of electrolytics bars the instrument's own
    power; the tester is what judges the others, so it goes on.
    """
    if job is None:
        return None
    if job.arrive.open_hazards:
        first, more = job.arrive.open_hazards[0], len(job.arrive.open_hazards) - 1
        also = f" (and {more} more)" if more else ""
        return Barrier(
            "hazard",
            f"Barred by a hazard: {first.text}{also}. Clear it or override it with a reason before power is applied.",
            first,
        )
    if work == "power" and parts is not None and parts.sample == "bad":
        return Barrier("sample", parts.sample_words)
    return None


def refuse_where_barred(job: Job | None, parts: PartsList | None, work: Work = "power") -> None:
    """Raise BarredError where a kind of work is barred."""
    found = barrier(job, parts, work)
    if found is not None:
        raise BarredError(found.sentence, place=found.kind)
