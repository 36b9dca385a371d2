"""A zone's checklist against what was written: an item is behind once it was looked for and not there, or found."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from candor.core.jot.usual_mark import names_item
from candor.notebook.entries.arrive_entries import Finding
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.work.job import Job
from candor.packs.model import Pack, Zone

WORST = ("hazard", "fix", "note")  # the worst first


def found_items(job: Job, zone: str, items: Iterable[str]) -> Mapping[str, Finding]:
    """Return the items of a zone's checklist that a finding names, with the newest such finding.

    A finding names an item where it has every word of it of three letters or more, whatever their order and number, or says
    the same
    kind of thing in other words: “cord perished” is “perished rubber”.
    """
    found = {}
    here = [f for f in job.arrive.findings if f.zone == zone]
    for item in items:
        naming = [f for f in here if names_item(f.text, item)]
        if naming:
            found[item] = naming[-1]
    return found


def items_of(pack: Pack | None) -> tuple[tuple[str, str], ...]:
    """Return zone and item of every checklist of a pack."""
    return tuple((z.key, item) for z in pack.zones for item in z.look_for) if pack is not None else ()


def case_can_be_live(job: Job, parts: PartsList | None) -> bool:
    """Say whether something is known to join the case to the line: heaters in series, or a capacitor from line to chassis."""
    supply = job.power.supply.body if job.power.supply else None
    series = supply is not None and supply.series_heaters
    return series or any(x.part.mains == "line to chassis" and x.part.fitted for x in (parts.lines if parts else ()))


def meaning(zones: Iterable[Zone], zone: str, text: str) -> str:
    """Return what a finding in a zone means where its checklist says so, the item with the most words first; or nothing."""
    known = next((z.means for z in zones if z.key == zone), {})
    named = [item for item in known if names_item(text, item)]
    return known[max(named, key=len)] if named else ""


def zone_shape(job: Job, zone: str, items: Iterable[str] = ()) -> str:
    """Return how a zone stands: its worst mark that is open, else `full` where it was looked through, `begun`, or a `ring`."""
    here = [f for f in job.arrive.findings if f.zone == zone]
    marks = {f.mark for f in here if f.open or f.mark == "note"}
    looked = tuple(items)
    through = bool(here) or (bool(looked) and behind(job, zone, looked) == len(looked))
    begun = any(place == zone for place, _ in job.arrive.looked)
    return next((m for m in WORST if m in marks), "full" if through else "begun" if begun else "ring")


def behind(job: Job, zone: str, items: Iterable[str]) -> int:
    """Return how many items of a zone's checklist are behind: looked for and not there, or found."""
    listed = tuple(items)
    found = found_items(job, zone, listed)
    return sum((zone, item) in job.arrive.looked or item in found for item in listed)
