"""A circuit as a chain: from where it is fed or measured through what is chosen to the chassis."""

from __future__ import annotations

import pytest

from candor.core.circuit.netlist import parse_netlist
from candor.core.trace.path import NodeChain, chain_through_part
from candor.packs.bundled import bundled_packs
from candor.packs.chain_of_circuit import ChainShown, chain_of_circuit
from candor.packs.pack_parts import read_circuit

NET = parse_netlist(
    "R1 in a 1meg\nR2 a b 100k\nR3 b 0 10k\nR4 in b 5meg\nR5 x y 1k\nC1 a 0 1n\nR6 0 c 4.7k\nR7 c in 1k\n"
)


@pytest.mark.parametrize(
    ("part", "nodes", "names"),
    [
        ("R1", ("in", "a", "b", "0"), ("R1", "R2", "R3")),
        ("R2", ("in", "a", "b", "0"), ("R1", "R2", "R3")),
        ("R4", ("in", "b", "0"), ("R4", "R3")),  # the other way round it would go through R2 and R1 first
        ("R3", ("in", "b", "0"), ("R4", "R3")),
        ("R6", ("in", "c", "0"), ("R7", "R6")),  # written from the chassis up
        ("R7", ("in", "c", "0"), ("R7", "R6")),
        ("R5", ("x", "y"), ("R5",)),  # it hangs free
        ("R9", (), ()),
    ],
)
def test_the_shortest_chain_that_holds_the_part(part, nodes, names):
    assert chain_through_part(NET, part, ["in"]) == NodeChain(nodes, names)


@pytest.mark.parametrize("pack", bundled_packs(), ids=lambda p: p.id)
def test_every_part_of_every_pack_stands_in_its_chain_and_each_link_joins_its_nodes(pack):
    if pack.circuit is None:
        assert chain_of_circuit(pack) == ChainShown()
        return
    netlist = read_circuit(pack.circuit.netlist)
    joined = {e.name: {e.plus, e.minus} for e in netlist.elements}
    for part in ("", *(p.ref for p in pack.parts)):
        shown = chain_of_circuit(pack, part)
        chain, name = shown.chain, part.replace(" ", "").upper()
        element = netlist.element(name) if part else None
        for one, link, other in zip(chain.nodes, chain.names, chain.nodes[1:], strict=False):
            assert joined[link] == {one, other}
        assert len(set(chain.nodes)) == len(chain.nodes)
        if element is not None and element.CONDUCTS and not element.SOURCE:
            assert name in chain.names
        assert set(shown.values) <= set(chain.names)
