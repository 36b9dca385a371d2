"""What explains all that was read on a job's board, and what to measure next: its circuit, its readings, its photos together."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from candor.core.circuit.elements import VoltageSource
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.jot.slots import node_name
from candor.core.late_dataclass import dataclass
from candor.core.suspects.board import Board, Draw, NodeSeen, PairSeen
from candor.core.suspects.next_on_board import NextOnBoard, next_on_board
from candor.core.suspects.weigh_board import BoardWeighed, weigh_board
from candor.core.trace.pairs import ALIKE, QUIET_V
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.work.job import Job

BESIDE = 4  # marks that count as neighbours of one, in a photo
USUAL_METER_OHMS = 10e6  # of a bench meter, where nothing is said of it: common practice, no source
FEWEST = 3  # readings from which anything is said
SURE = 0.9  # probability from which nothing more is asked
MOST_NODES = 600  # of a circuit that is asked


@dataclass(frozen=True)
class OnBoard:
    """What explains what was read, with what each part should be, and what would tell more; the best first."""

    weighed: BoardWeighed
    next: tuple[NextOnBoard, ...]
    nominal: Mapping[str, float]


def held_nodes(job: Job, netlist: Netlist | None) -> frozenset[str]:
    """Return the nodes that sources hold: rails, and where the netlist has a voltage."""
    rails = {node_name(name) for name in job.power.rails}
    if netlist is not None:
        rails |= {e.plus for e in netlist.elements if isinstance(e, VoltageSource)}
    return frozenset(rails - {GROUND})


def board_of(job: Job, parts: PartsList) -> Board | None:
    """Return the board of a job as it is drawn; None where no circuit is known, or it is too large for one look."""
    if parts.circuit is None:
        return None
    netlist = parts.circuit.netlist
    if not 2 < len(netlist.nodes) <= MOST_NODES:
        return None
    tubes = [e.body for e in job.trace.tubes.values() if e.body.plate and e.body.cathode]
    known = {node.casefold(): node for node in netlist.nodes}
    beside = {}
    for node in netlist.nodes:
        near = [known[n.casefold()] for n in job.places.beside(node, BESIDE) if n.casefold() in known]
        if near:
            beside[node] = tuple(near)
    return Board(
        netlist,
        tolerances=dict(parts.circuit.tolerances),
        held=held_nodes(job, netlist),
        draws=[Draw(name=t.name, plate=t.plate, cathode=t.cathode, screen=t.screen) for t in tubes],
        beside=beside,
    )


def seen_of(job: Job, board: Board) -> tuple[NodeSeen | PairSeen, ...]:
    """Return what was read at nodes and between them; ohms over something that was not quiet, or that a junction made, are none.

    Since the last change alone: what was read of the board before it is of another board.
    """
    inside = {*board.nodes, GROUND}
    changed = max((e.number for e in job.stay.changes), default=0)
    nodes = [
        NodeSeen(node, e.body.volts, e.body.meter_ohms or USUAL_METER_OHMS)
        for node, e in job.trace.read.items()
        if node in board.row and e.number > changed
    ]
    pairs = []
    for e in job.trace.pairs.values():
        b = e.body
        turned = b.turned_ohms
        alike = turned is None or abs(b.ohms - turned) <= ALIKE * min(b.ohms, turned)
        if (
            e.number > changed
            and b.one in inside
            and b.other in inside
            and b.one != b.other
            and abs(b.volts) <= QUIET_V
            and alike
        ):
            pairs.append(PairSeen(b.one, b.other, b.ohms))
    return (*nodes, *pairs)


def explain_board(job: Job, parts: PartsList, should_stop: Callable[[], bool] = lambda: False) -> OnBoard | None:
    """Return what explains everything that was read on a board; None where no circuit is known or too little was read."""
    board = board_of(job, parts)
    if board is None:
        return None
    seen = seen_of(job, board)
    if len(seen) < FEWEST or should_stop():
        return None
    return explain_seen(board, seen, should_stop)


def explain_seen(
    board: Board, seen: tuple[NodeSeen | PairSeen, ...], should_stop: Callable[[], bool] = lambda: False
) -> OnBoard | None:
    """Return what explains what was read on a board, and what to measure next where that does not settle it."""
    weighed = weigh_board(board, seen)
    if weighed is None:
        return None
    first = weighed.suspects[0]
    settled = first.probability >= SURE and not (first.group >= 0)
    following = () if settled or should_stop() else next_on_board(board, weighed.seen)
    nominal = {b.name: 1 / b.siemens for b in board.branches if math.isfinite(b.siemens)}
    return OnBoard(weighed, following, nominal)
