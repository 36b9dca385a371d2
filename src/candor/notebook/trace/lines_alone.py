"""A circuit and what was read on it, from two files and no notebook: lines as they are typed at Trace."""

from __future__ import annotations

from candor.core.circuit.netlist import GROUND, parse_netlist
from candor.core.errors import CandorError
from candor.core.jot.line import understand_at
from candor.core.jot.slots import node_name
from candor.core.jot.trace_meaning import NodeReadJot, PairJot, TubeJot
from candor.core.suspects.board import Board, Draw, NodeSeen, PairSeen
from candor.core.worded import worded
from candor.notebook.trace.on_board import FEWEST, MOST_NODES, USUAL_METER_OHMS, OnBoard, explain_seen

FORMS = "node n5 182 with 10M; ohms n5 n6 220k; tube V1 plate n5 grid g1 cathode k1; rail b1"


def explain_lines(circuit: str, lines: str, tolerance: float = 0.1) -> OnBoard | None:
    """Return what explains lines about a circuit; None where they are too few.

    Parameters
    ----------
    circuit : str
        A netlist.
    lines : str
        One reading, tube or rail a line.
    tolerance : float
        Of every part, a share.

    Raises
    ------
    CandorError
        With the line that cannot be read, or a node that the circuit does not have.
    """
    netlist = parse_netlist(circuit)
    if len(netlist.nodes) > MOST_NODES:
        raise CandorError(
            worded("trace.the_circuit_has_nodes_up_to", nodes=len(netlist.nodes), most_nodes=MOST_NODES)
        )
    nodes = set(netlist.nodes)
    seen: list[NodeSeen | PairSeen] = []
    draws: list[Draw] = []
    rails: set[str] = set()
    for number, line in enumerate(lines.splitlines(), 1):
        words = line.strip()
        if not words or words.startswith("#"):
            continue
        if words.split()[0].casefold() == "rail" and len(words.split()) == 2:
            named = [node_name(words.split()[1])]
            rails |= set(named)
        else:
            match understand_at("trace", words):
                case NodeReadJot(node=node, volts=volts, meter_ohms=meter):
                    named = [node_name(node)]
                    seen.append(NodeSeen(named[0], volts, meter or USUAL_METER_OHMS))
                case PairJot(one=one, other=other, ohms=ohms):
                    named = [node_name(one), node_name(other)]
                    seen.append(PairSeen(named[0], named[1], ohms))
                case TubeJot(name=name, ends=ends) if "plate" in ends and "cathode" in ends:
                    named = [node_name(n) for n in ends.values()]
                    screen = node_name(ends["screen"]) if "screen" in ends else ""
                    draws.append(
                        Draw(
                            name=name,
                            plate=node_name(ends["plate"]),
                            cathode=node_name(ends["cathode"]),
                            screen=screen,
                        )
                    )
                case _:
                    raise CandorError(
                        worded("trace.candor_cannot_read_line_examples", number=number, words=words, forms=FORMS),
                        value=words,
                    )
        for node in named:
            if node not in nodes and node != GROUND:
                listed = ", ".join(netlist.nodes[:12])
                raise CandorError(
                    worded("trace.line_there_is_no_node_in", number=number, node=node, listed=listed), value=node
                )
    if len(seen) < FEWEST:
        return None
    board = Board(netlist, tolerances={e.name: tolerance for e in netlist.elements}, held=rails, draws=draws)
    return explain_seen(board, tuple(seen))
