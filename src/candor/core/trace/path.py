"""The chain a node stands in: from the rail that feeds it, through it, to the chassis."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterable

from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.late_dataclass import dataclass


@dataclass(frozen=True)
class NodeChain:
    """Nodes in a row, and what joins each to the next: one name fewer than nodes."""

    nodes: tuple[str, ...]
    names: tuple[str, ...]


def chain_through(
    netlist: Netlist, node: str, rails: Iterable[str], tubes: Iterable[tuple[str, str, str]] = ()
) -> NodeChain:
    """Return the shortest chain of resistors, windings and tubes from a rail through a node to the chassis.

    Parameters
    ----------
    netlist : Netlist
    node : str
    rails : iterable of str
        Nodes that sources hold.
    tubes : iterable of (str, str, str)
        Name, plate, cathode.
    """
    beside, held = _beside(netlist, tubes), set(rails)
    up = _shortest(beside, node, held, {GROUND}) if node not in held else ((node,), ())
    down = _shortest(beside, node, {GROUND}, (held | set(up[0])) - {node}) if node != GROUND else ((node,), ())
    return NodeChain((*reversed(up[0]), *down[0][1:]), (*reversed(up[1]), *down[1]))


def chain_through_part(netlist: Netlist, name: str, rails: Iterable[str]) -> NodeChain:
    """Return the shortest chain from a rail through an element to the chassis; the element alone where there is none.

    Parameters
    ----------
    netlist : Netlist
    name : str
    rails : iterable of str
        Nodes that sources hold, or that what is measured is applied to.
    """
    part = netlist.element(name)
    if part is None:
        return NodeChain((), ())
    beside, held = _beside(netlist, without=part.name), set(rails)
    found = []
    for one, other in ((part.plus, part.minus), (part.minus, part.plus)):
        up = _shortest(beside, one, held, {GROUND, other}) if one not in held else ((one,), ())
        down = _shortest(beside, other, {GROUND}, held | set(up[0])) if other != GROUND else ((other,), ())
        whole = (up[0][-1] in held) + (down[0][-1] == GROUND)
        found.append((-whole, len(up[1]) + len(down[1]), up, down))
    _, _, up, down = min(found, key=lambda it: it[:2])
    return NodeChain((*reversed(up[0]), *down[0]), (*reversed(up[1]), part.name, *down[1]))


def _beside(
    netlist: Netlist, tubes: Iterable[tuple[str, str, str]] = (), without: str = ""
) -> dict[str, list[tuple[str, str]]]:
    """By node, what joins it to which other at rest."""
    found: dict[str, list[tuple[str, str]]] = {}
    joins = [(e.name, e.plus, e.minus) for e in netlist.elements if e.CONDUCTS and not e.SOURCE and e.name != without]
    for name, plus, minus in (*joins, *tubes):
        found.setdefault(plus, []).append((name, minus))
        found.setdefault(minus, []).append((name, plus))
    return found


def _shortest(
    beside: dict[str, list[tuple[str, str]]], start: str, ends: set[str], closed: set[str]
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Nodes and names from a start to the nearest end; the start alone where there is no way."""
    waiting: deque[tuple[tuple[str, ...], tuple[str, ...]]] = deque([((start,), ())])
    seen = {start}
    while waiting:
        nodes, names = waiting.popleft()
        if nodes[-1] in ends:
            return nodes, names
        for name, other in beside.get(nodes[-1], ()):
            if other not in seen and other not in closed:
                seen.add(other)
                waiting.append(((*nodes, other), (*names, name)))
    return (start,), ()
