"""What can be marked in a photo of the chassis: the parts, nodes and adjusters that are known of an instrument."""

from __future__ import annotations

from candor.notebook.parts.parts_list import PartsList
from candor.notebook.work.job import Job
from candor.packs.model import Pack


def markable(job: Job, pack: Pack | None, parts: PartsList | None) -> tuple[str, ...]:
    """Return the names, parts first, then nodes, then adjusters, then what was marked besides."""
    refs = [line.part.ref for line in parts.lines] if parts is not None else []
    drawn = parts.circuit.netlist.nodes[1:] if parts is not None and parts.circuit is not None else ()
    nodes = [*drawn, *job.trace.drawn, *job.trace.read]
    adjusters = [a.name for a in pack.adjusters] if pack is not None else []
    marked = [pin.body.name for pin in job.places.pins.values()]
    known: dict[str, str] = {}
    for name in (*refs, *nodes, *adjusters, *marked):
        known.setdefault(name.casefold(), name)
    return tuple(known.values())
