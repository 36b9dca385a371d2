"""What may be wrong on a board, each way of it with what it does to the network and how often it is so.

How often, and how far, is the experience of benches: common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from typing import Literal

import numpy as np

from candor.core.circuit.elements import Capacitor
from candor.core.circuit.netlist import GROUND
from candor.core.late_dataclass import dataclass
from candor.core.suspects.board import SHORT, Board, Branch, Change, NodeSeen, PairSeen

Fault = Literal["nothing", "part", "moved", "bridge", "leak", "current", "reading", "probe"]
# How often each is wrong, all of a kind together: common practice, no source.
PRIORS: dict[Fault, float] = {
    "nothing": 0.6, "part": 0.16, "moved": 0.05, "bridge": 0.03, "leak": 0.05, "current": 0.03, "reading": 0.05, "probe": 0.03,
}  # fmt: skip
# Boards that are sound: by how many of their tolerances parts are off, and how many boards are so.
SOUND = ((1.0, 0.8), (1.8, 0.2))
# ln of a part's value over what it should be, and how often it is that far off where it is wrong: composition goes up.
PART_STEPS = (
    (-2.3, 0.03), (-1.2, 0.04), (-0.6, 0.06), (-0.3, 0.08), (0.22, 0.12), (0.4, 0.13), (0.65, 0.1), (1.0, 0.07), (1.6, 0.05),
    (2.4, 0.04), (3.5, 0.03),
)  # fmt: skip
OPEN, SHORTED = 0.18, 0.07
LEFT = 1e-12  # S that an open part keeps
OUTSIDE = 1.2  # tolerances: how far a part is off at least that is called off
LEAKS = (3e3, 2e4, 1.5e5, 1e6, 8e6)  # ohm, with which a capacitor leaks
LEAK_SPREAD = 0.9  # ln
DRAWN_SHARE = 0.3  # of the current that reaches a node, that flows where nobody drew it
CURRENT_WIDTHS = (1.0, 6.0)  # of that: a leak may be more than what is drawn
LEAST_AMPERES = 1e-7
MOST_PARTS = 90  # that are asked at once
READING_OFF = (0.06, 0.3, 0.9)  # of a reading, by which it is misread


@dataclass(frozen=True)
class Way:
    """One way a thing may be wrong: what it does to the board, and what it does to readings alone.

    Attributes
    ----------
    kind : str
    of : tuple of str
        A part; a part, the node its lead is off and the one it is on; two nodes that are bridged; a node; a reading's nodes.
    log_prior : float
    change : Change
    amount : float
        ln of a part's value over its nominal, infinite where it is open; ohm of a leak; nan where the readings alone say.
    row : int
        The reading that is off, -1 where none is.
    off : float
        Its standard deviation, a share.
    stands : tuple of str
        Where the probes stood instead.
    """

    kind: Fault
    of: tuple[str, ...]
    log_prior: float
    change: Change = Change()
    amount: float = math.nan
    row: int = -1
    off: float = 0.0
    stands: tuple[str, ...] = ()


def ways(board: Board, seen: Sequence[NodeSeen | PairSeen]) -> Iterator[Way]:
    """Yield everything that may be wrong on a board, each way of it with its prior."""
    for looser, share in SOUND:
        yield Way("nothing", (), math.log(PRIORS["nothing"] * share), Change(looser=looser))
    parts = [b for b in near(board, seen) if b.name[:1] == "R"]
    reached = {n for b in parts for n in (b.one, b.other)}
    for b in parts:
        for amount, share, change in _part_changes(b):
            yield Way("part", (b.name,), math.log(PRIORS["part"] * share / len(parts)), change=change, amount=amount)
    moves = [(b, off, onto) for b in parts for off, onto in _lugs(board, b) if onto in reached]
    for b, off, onto in moves:
        stays = b.other if off == b.one else b.one
        change = Change(((b.one, b.other, LEFT - b.siemens), (stays, onto, b.siemens)), (stays, onto, b.siemens),
                        b.tolerance / math.sqrt(3), without=b.name)  # fmt: skip
        yield Way("moved", (b.name, off, onto), math.log(PRIORS["moved"] / len(moves)), change)
    bridges = [(a, b) for a, b in _bridges(board) if a in reached and b in reached]
    for one, other in bridges:
        yield Way("bridge", (one, other), math.log(PRIORS["bridge"] / len(bridges)), Change(((one, other, SHORT),)))
    capacitors = [
        e
        for e in board.netlist.elements
        if isinstance(e, Capacitor) and e.plus != e.minus and reached & {e.plus, e.minus} - {GROUND}
    ]
    for e in capacitors:
        for ohms in LEAKS:
            change = Change(((e.plus, e.minus, 1 / ohms),), own=(e.plus, e.minus, 1 / ohms), spread=LEAK_SPREAD)
            yield Way(
                "leak", (e.name,), math.log(PRIORS["leak"] / len(capacitors) / len(LEAKS)), change=change, amount=ohms
            )
    free = [n for n in board.nodes if n not in board.held and n in reached]
    flows = np.abs(board.on @ board.driven)
    for node in free:
        reach = max(
            (b.siemens * max(flows.max(initial=0.0), 1.0) for b in board.branches if node in (b.one, b.other)),
            default=0.0,
        )
        drawn = max(DRAWN_SHARE * reach * 0.3, LEAST_AMPERES)
        for wide in CURRENT_WIDTHS:
            prior = PRIORS["current"] / len(free) / len(CURRENT_WIDTHS)
            yield Way("current", (node,), math.log(prior), Change(drawn=(node, GROUND, wide * drawn)))
    for row, taken in enumerate(seen):
        for wide in READING_OFF:
            prior = PRIORS["reading"] / len(seen) / len(READING_OFF)
            yield Way("reading", nodes_of(taken), math.log(prior), row=row, off=wide)
        elsewhere = list(_elsewhere(board, taken))
        for stands in elsewhere:
            prior = PRIORS["probe"] / len(seen) / len(elsewhere)
            yield Way("probe", (*nodes_of(taken), "", *stands), math.log(prior), row=row, stands=stands)


def near(board: Board, seen: Sequence[NodeSeen | PairSeen]) -> list[Branch]:
    """Return the branches that are asked: all of a board, of a large one those nearest to what was read."""
    if len(board.branches) <= MOST_PARTS:
        return list(board.branches)
    reached = {n for s in seen for n in nodes_of(s)} - {GROUND}
    found: dict[str, Branch] = {}
    while len(found) < MOST_PARTS:
        more = [b for b in board.branches if b.name not in found and reached & {b.one, b.other}]
        if not more:
            break
        found |= {b.name: b for b in more[: MOST_PARTS - len(found)]}
        reached |= {n for b in more for n in (b.one, b.other)} - {GROUND}
    return list(found.values())


def _part_changes(b: Branch) -> Iterator[tuple[float, float, Change]]:
    """A part at each of its steps, open and shorted: ln of its value over its nominal, how often, and what it does."""
    steps = [(s, w) for s, w in PART_STEPS if abs(s) > OUTSIDE * b.tolerance] or [(PART_STEPS[-1])]
    whole = sum(w for _, w in steps) / (1 - OPEN - SHORTED)
    values = [s for s, _ in PART_STEPS]
    for step, weight in steps:
        at = values.index(step)
        wide = max(abs(step - values[k]) for k in (at - 1, at + 1) if 0 <= k < len(values)) / 2
        now = b.siemens * math.exp(-step)
        yield (
            step,
            weight / whole,
            Change(((b.one, b.other, now - b.siemens),), (b.one, b.other, now), wide / math.sqrt(3), without=b.name),
        )
    yield math.inf, OPEN, Change(((b.one, b.other, LEFT - b.siemens),), without=b.name)
    yield -math.inf, SHORTED, Change(((b.one, b.other, SHORT),), without=b.name)


def _lugs(board: Board, b: Branch) -> Iterator[tuple[str, str]]:
    """Where an end of a part may be soldered instead: the node it is off, and the one beside it."""
    for off, stays in ((b.one, b.other), (b.other, b.one)):
        for onto in _beside(board, off):
            if onto not in (off, stays):
                yield off, onto


def _beside(board: Board, node: str) -> Sequence[str]:
    """The nodes whose lugs stand beside one's own: by the photos, else those within two parts of it."""
    if board.beside:
        return board.beside.get(node, ())
    return board.about(node)


def _bridges(board: Board) -> list[tuple[str, str]]:
    """Pairs of nodes that solder may join: those that stand beside each other, else within two parts of each other."""
    if board.beside:
        listed = {tuple(sorted((n, m))) for n, near in board.beside.items() for m in near if n != m}
    else:
        listed = {tuple(sorted((n, m))) for n in (*board.nodes, GROUND) for m in board.about(n)}
    across = {tuple(sorted((b.one, b.other))) for b in board.branches}  # that is the part shorted
    return [(a, b) for a, b in sorted(listed - across)]


def _elsewhere(board: Board, one: NodeSeen | PairSeen) -> Iterator[tuple[str, ...]]:
    if isinstance(one, NodeSeen):
        for other in _beside(board, one.node):
            if other not in (one.node, GROUND):
                yield (other,)
        return
    for kept, meant in ((one.one, one.other), (one.other, one.one)):
        for other in _beside(board, meant):
            if other not in (kept, meant):
                yield kept, other


def nodes_of(one: NodeSeen | PairSeen) -> tuple[str, ...]:
    """Return the nodes a reading was taken at."""
    return (one.node,) if isinstance(one, NodeSeen) else (one.one, one.other)
