"""A pack's circuit as a chain in a row: from where it is fed or measured, through what is chosen, to the chassis."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.trace.path import NodeChain, chain_through, chain_through_part
from candor.packs.model import Pack
from candor.packs.pack_parts import read_circuit


@dataclass(frozen=True)
class ChainShown:
    """A chain, the value of each thing in it as it is written, and the node that is chosen; empty where there is none."""

    chain: NodeChain = NodeChain((), ())
    values: Mapping[str, str] = field(default_factory=dict)
    node: str = ""


def chain_of_circuit(pack: Pack, part: str = "") -> ChainShown:
    """Return the chain through a part, by its designator; without one that of what is measured, else of the supply.

    Parameters
    ----------
    pack : Pack
    part : str
    """
    if pack.circuit is None:
        return ChainShown()
    netlist = read_circuit(pack.circuit.netlist)
    ends = [node for node in (pack.circuit.input, pack.circuit.supply) if node in _nodes(netlist)]
    ends += [e.plus for e in netlist.elements if e.SOURCE and e.plus != GROUND and e.plus not in ends]
    element = netlist.element(part.replace(" ", "").upper()) if part else None
    if element is not None and element.CONDUCTS and not element.SOURCE:
        chain, chosen = chain_through_part(netlist, element.name, ends), ""
    else:
        chosen = element.plus if element is not None else ""
        chain = chain_through(netlist, chosen or ends[0], ends) if ends else NodeChain((), ())
    values = {e.name: engineering(e.value, e.UNIT, 4) for e in netlist.elements if e.name in chain.names and e.UNIT}
    return ChainShown(chain, values, chosen)


def _nodes(netlist: Netlist) -> set[str]:
    return {node for e in netlist.elements for node in (e.plus, e.minus)}
