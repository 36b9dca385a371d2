"""The chain a node stands in."""

from candor.core.circuit.netlist import parse_netlist
from candor.core.trace.path import NodeChain, chain_through

NETLIST = parse_netlist(
    "V1 b1 0 250\nR1 b1 p 47k\nR2 k 0 1k\nR3 g 0 470k\nR4 b1 n1 10k\nR5 n1 n2 22k\nR6 n2 0 "
    "47k\nR7 n1 0 1meg\nC1 p g 1n"
)


def test_it_runs_from_the_rail_through_the_node_and_the_tube_to_the_chassis():
    tubes = [("V1", "p", "k")]
    assert chain_through(NETLIST, "k", {"b1"}, tubes) == NodeChain(("b1", "p", "k", "0"), ("R1", "V1", "R2"))
    assert chain_through(NETLIST, "p", {"b1"}, tubes) == NodeChain(("b1", "p", "k", "0"), ("R1", "V1", "R2"))
    assert chain_through(NETLIST, "n2", {"b1"}) == NodeChain(("b1", "n1", "n2", "0"), ("R4", "R5", "R6"))


def test_where_one_side_has_no_way_it_ends_there():
    assert chain_through(NETLIST, "g", {"b1"}) == NodeChain(("g", "0"), ("R3",))
    assert chain_through(NETLIST, "p", {"b1"}) == NodeChain(("b1", "p"), ("R1",))
    assert chain_through(NETLIST, "b1", {"b1"}).nodes[0] == "b1"
    assert chain_through(NETLIST, "nowhere", {"b1"}) == NodeChain(("nowhere",), ())
