"""The board traced out node by node: a netlist from the parts that were joined, over what the drawing says."""

from __future__ import annotations

from collections.abc import Mapping

from candor.core.jot.meaning import AliasJot, JoinJot, ListedJot
from candor.core.jot.slots import node_name
from candor.core.parts.part import Part, by_designator
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.parts_entries import NodeAlias, PartJoined
from candor.notebook.exchange.columns import read_cells
from candor.notebook.parts.parts_import import PartRow, listed_of_row
from candor.notebook.work.job import Job
from candor.packs.model import Pack


def board_bodies(jot: ListedJot | JoinJot | AliasJot) -> tuple[Body, ...]:
    """Return the entries that a line about the board becomes; of a can each section.

    Raises
    ------
    CandorError
        Where a value cannot be read.
    """
    match jot:
        case ListedJot():
            return listed_of_row(read_cells(PartRow, dict(jot.cells)))
        case JoinJot():
            return (PartJoined(ref=jot.ref, plus=jot.plus, minus=jot.minus),)
        case AliasJot():
            return (NodeAlias(node=jot.node, alias=jot.alias),)


def aliases_of(job: Job, pack: Pack | None) -> Mapping[str, str]:
    """Return the node behind each other name: those of the pack, and over them those of the job."""
    known = {alias: node for node, names in pack.aliases.items() for alias in names} if pack is not None else {}
    return {**known, **job.parts.aliases}


def traced_netlist(
    drawn: str, joined: Mapping[str, Entry[PartJoined]], aliases: Mapping[str, str], parts: Mapping[str, Part]
) -> str:
    """Return a netlist: what was drawn, and each part that was joined between its nodes; an alias leads to its node.

    Parameters
    ----------
    drawn : str
        The netlist of the pack or the one taken in; empty where there is none.
    joined : mapping of str to Entry
        By designator.
    aliases : mapping of str to str
        Node by its other name.
    parts : mapping of str to Part
        For their values; one that is not on the list any more is left out.
    """
    known = {node_name(alias): node for alias, node in aliases.items()}
    names = {ref: ref.replace(" ", "").upper() for ref in joined}
    kept = [line for line in drawn.splitlines() if line.split()[:1] and line.split()[0].upper() not in names.values()]
    lines = [
        f"{names[ref]} {_node(joined[ref].body.plus, known)} {_node(joined[ref].body.minus, known)} {parts[ref].nominal:.12g}"
        for ref in sorted(joined, key=by_designator)
        if ref in parts and _node(joined[ref].body.plus, known) != _node(joined[ref].body.minus, known)
    ]
    return "\n".join((*kept, *lines))


def _node(name: str, aliases: Mapping[str, str]) -> str:
    seen: set[str] = set()
    while name in aliases and name not in seen:  # an alias of an alias, never round in a ring
        seen.add(name)
        name = node_name(aliases[name])
    return name
