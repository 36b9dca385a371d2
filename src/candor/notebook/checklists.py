"""A zone's checklist against what was written: an item is behind once it was looked for and not there, or found."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping

from candor.notebook.entries.arrive import Finding
from candor.notebook.job import Job
from candor.packs.model import Zone


def found_items(job: Job, zone: str, items: Iterable[str]) -> Mapping[str, Finding]:
    """Return the items of a zone's checklist that a finding in that zone names, with the newest such finding.

    A finding names an item where it has every word of it of three letters or more, whatever their order and number.
    """
    found = {}
    here = [(f, _words(f.text)) for f in job.arrive.findings if f.zone == zone]
    for item in items:
        asked = _words(item)
        naming = [f for f, words in here if asked and asked <= words]
        if naming:
            found[item] = naming[-1]
    return found


def meaning(zones: Iterable[Zone], zone: str, text: str) -> str:
    """Return what a finding in a zone means where its checklist says so, the item with the most words first; or nothing."""
    known = next((z.means for z in zones if z.key == zone), {})
    words = _words(text)
    named = [item for item in known if _words(item) and _words(item) <= words]
    return known[max(named, key=len)] if named else ""


def behind(job: Job, zone: str, items: Iterable[str]) -> int:
    """Return how many items of a zone's checklist are behind: looked for and not there, or found."""
    listed = tuple(items)
    found = found_items(job, zone, listed)
    return sum((zone, item) in job.arrive.looked or item in found for item in listed)


def _words(text: str) -> frozenset[str]:
    return frozenset(word.rstrip("s") for word in re.findall(r"[^\W\d_]{3,}", text.lower()))
