"""The names that a job knows, by what they are names of: what fields complete from."""

from __future__ import annotations

from collections.abc import Mapping

from candor.notebook.parts.parts_list import PartsList
from candor.notebook.work.job import Job
from candor.packs.model import Pack
from candor.packs.procedure import test_points

Names = Mapping[str, tuple[str, ...]]


def known_names(job: Job, pack: Pack | None, parts: PartsList | None) -> Names:
    """Return the names of a job's rails, nodes, parts, stages and points, by the kind of place that they stand at in a line.

    Parameters
    ----------
    job : Job
    pack : Pack or None
        What describes its instrument.
    parts : PartsList or None
        Its parts with their network, where they are known.
    """
    power, trace = job.power, job.trace
    net = parts.circuit.netlist if parts is not None and parts.circuit is not None else None
    rails = (*power.rails, *(read.body.name for read in power.reads), *power.rail_ohms)
    nodes = (*trace.read, *trace.drawn, *(net.nodes if net is not None else ()))
    found: dict[str, tuple[str, ...]] = {
        "rail": rails,
        "node": nodes,
        "node_word": nodes,
        "named": nodes,
        "ref": tuple(line.part.ref for line in parts.lines) if parts is not None else (),
        "point": tuple(p.key for p in test_points(pack, "as left")) if pack is not None else (),
        "stage": tuple(trace.stages),
    }
    return {slot: tuple(dict.fromkeys(names)) for slot, names in found.items()}
