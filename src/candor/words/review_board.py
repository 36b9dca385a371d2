"""Examples of every sentence about what explains what was read on a board."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from candor.core.suspects.board import NodeSeen, PairSeen
from candor.core.suspects.board_faults import Fault
from candor.core.suspects.next_on_board import NextOnBoard
from candor.core.suspects.weigh_board import BoardSuspect, BoardWeighed
from candor.notebook.trace.on_board import OnBoard
from candor.words import board_words

SEEN = (NodeSeen("n5", 96.0, 1e7), NodeSeen("k2", 4.1, 1e7), PairSeen("n5", "b1", 51e3))
LEAK: tuple[Fault, tuple[str, ...]] = ("leak", ("C6",))
DRIFT: tuple[Fault, tuple[str, ...]] = ("part", ("R14",))


def _suspect(kind: Fault, of: tuple[str, ...], probability: float, amount: float, group: int = -1) -> BoardSuspect:
    return BoardSuspect(
        kind=kind, of=of, probability=probability, amount=amount, u=0.12, explained=np.zeros(3), group=group
    )


def board_examples() -> Iterator[tuple[str, str, str]]:
    """Yield (topic, finding, sentence)."""
    topic = "What explains what was read on a board"
    cases: tuple[tuple[str, Fault, tuple[str, ...], float], ...] = (
        ("nothing", "nothing", (), 0.0), ("a part", "part", ("R14",), 0.4), ("a part that is open", "part", ("R14",), math.inf),
        ("a part that is shorted", "part", ("R14",), -math.inf), ("a lead one lug over", "moved", ("R14", "n5", "k2"), 0.0),
        ("a bridge", "bridge", ("n5", "0"), 0.0), ("a leak", "leak", ("C6",), 1.3e6), ("a current", "current", ("k2",), 2.1e-4),
        ("a misreading", "reading", ("n5",), 0.2), ("ohms misread", "reading", ("n5", "b1"), 0.2),
        ("a probe elsewhere", "probe", ("n5", "", "k2"), 0.0),
    )  # fmt: skip
    for name, kind, of, amount in cases:
        yield topic, name, board_words.say_board_suspect(_suspect(kind, of, 0.84, amount), 47e3)
    pair = _suspect("leak", ("C6",), 0.6, 1.3e6, 0), _suspect("part", ("R14",), 0.31, 0.4, 0)
    for name, what, at, shown in (
        ("a node is asked for", "node", ("p3",), (41.0, 88.0)),
        ("ohms are asked for", "pair", ("n5", "0"), (math.log(6e5), math.log(9e5))),
        ("a part is to be lifted", "lifted", ("R14",), (0.0, 0.4)),
        ("nothing parts them well", "node", ("p3",), (41.0, 41.5)),
    ):
        best = NextOnBoard(
            kind=what,
            of=at,
            bits=0.7,
            minutes=1.0,
            shows=((LEAK, shown[0], 0.02 * shown[0] + 0.01), (DRIFT, shown[1], 1.0)),
        )
        found = OnBoard(BoardWeighed(pair, 0.4, SEEN), (best,), {"R14": 47e3})
        yield topic, name, board_words.say_next_on_board(found)
    both = OnBoard(BoardWeighed(pair, 0.001, SEEN), (), {"R14": 47e3})
    yield topic, "two that are alike, and more is wrong", " ".join(board_words.say_on_board(both))
    alone = OnBoard(BoardWeighed((_suspect("nothing", (), 0.72, 0.0),), 0.4, SEEN), (), {})
    yield topic, "cannot tell", " ".join(board_words.say_on_board(alone))
    yield topic, "too little", " ".join(board_words.say_on_board(None))
