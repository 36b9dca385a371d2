"""What to measure next on a board: a node, ohms between two, or a part with one end lifted; the most bits for the minute."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from candor.core.circuit.netlist import GROUND
from candor.core.late_dataclass import dataclass
from candor.core.suspects.board import Board, NodeSeen, PairSeen
from candor.core.suspects.board_faults import Fault
from candor.core.suspects.next_reading import LEAST_BITS, expected_bits
from candor.core.suspects.observed import Floats
from candor.core.suspects.weigh_board import BoardModel

# Minutes: a node under power; ohms, power off and discharged; a part with one end lifted. Common practice, no source.
NODE, PAIR, LIFTED, AGAIN = 1.0, 3.0, 6.0, 1.0
COUNTS = 0.01  # probability from which a thing is asked
METER_OHMS = 10e6
LIFTED_U = 0.01  # ln, of a part that is measured by itself
GONE_LN = 12.0  # ln of a part that is open or shorted, over its value


@dataclass(frozen=True)
class NextOnBoard:
    """What would tell: where, how many bits are expected of it, its minutes, and what each likely thing would show there.

    `shows` are (key of the thing, expected, standard deviation): V, ln ohm, or ln of a part's value over its nominal.
    """

    kind: str  # "node", "pair", "lifted"
    of: tuple[str, ...]
    bits: float
    minutes: float
    shows: tuple[tuple[tuple[Fault, tuple[str, ...]], float, float], ...]


def next_on_board(board: Board, seen: Sequence[NodeSeen | PairSeen]) -> tuple[NextOnBoard, ...]:
    """Return what would tell most for the minute, the best first; empty where nothing more can be told.

    Parameters
    ----------
    board : Board
    seen : sequence of NodeSeen or PairSeen
        What was read; of nodes of the board.
    """
    first = BoardModel(board, seen)
    likely = first.probabilities()
    kept = {key for key, p in likely.items() if p >= COUNTS}
    chosen = [
        w
        for w, s in zip(first.ways, first.scores - first.scores.max(), strict=True)
        if (w.kind, w.of) in kept and s > -12
    ]
    read = {s.node for s in seen if isinstance(s, NodeSeen)}
    pairs = {frozenset((s.one, s.other)) for s in seen if isinstance(s, PairSeen)}
    nodes = [NodeSeen(n, 0.0, METER_OHMS) for n in board.nodes if n not in read]
    wanted = dict.fromkeys(tuple(sorted((b.one, b.other))) for b in board.branches)
    wanted |= dict.fromkeys(tuple(sorted((n, GROUND))) for n in board.nodes)
    ohms = [PairSeen(a, b, math.exp(8)) for a, b in wanted if frozenset((a, b)) not in pairs]
    beyond: list[NodeSeen | PairSeen] = [*nodes, *ohms]
    model = BoardModel(board, seen, beyond, chosen)
    keys = sorted(kept, key=lambda k: -likely[k])
    means, spreads = [], []
    for key in keys:
        mean, spread = _expects(model, key)
        means.append(mean)
        spreads.append(spread)
    parts = [b for b in board.branches if b.name[:1] == "R"]
    lifted = [_lifted(key, model, [b.name for b in parts], [b.tolerance for b in parts]) for key in keys]
    probabilities = np.array([likely[k] for k in keys])
    probabilities /= probabilities.sum()
    expected = np.hstack((np.array(means), np.array([m for m, _ in lifted])))
    spread = np.hstack((np.array(spreads), np.array([s for _, s in lifted])))
    bits = expected_bits(probabilities, expected, spread)
    what = [("node", (s.node,), NODE) for s in nodes] + [("pair", (s.one, s.other), PAIR) for s in ohms]
    what += [("lifted", (b.name,), LIFTED) for b in parts]
    found = [
        NextOnBoard(
            kind=kind, of=of, bits=float(bits[i]), minutes=minutes,
            shows=tuple((key, float(expected[k, i]), float(spread[k, i])) for k, key in enumerate(keys)),
        )
        for i, (kind, of, minutes) in enumerate(what)
    ]  # fmt: skip
    return tuple(sorted((f for f in found if f.bits >= LEAST_BITS), key=lambda f: -f.bits / f.minutes))


def _expects(model: BoardModel, key: tuple[Fault, tuple[str, ...]]) -> tuple[Floats, Floats]:
    """What a thing makes of the rows not read: mean and standard deviation, given what was read."""
    n = model.read
    own = [h for h, w in enumerate(model.ways) if (w.kind, w.of) == key]
    weights = np.exp(model.scores[own] - model.scores[own].max())
    weights /= weights.sum()
    means, variances = [], []
    for h in own:
        cross = model.covariances[h, n:, :n]
        inner = np.linalg.solve(model.whole(h), cross.T)
        means.append(model.means[h, n:] + cross @ model.pulls[h])
        own_noise = np.hypot(model.noise[n:], [0.01 * abs(m) if isinstance(r, NodeSeen) else 0.0
                                               for r, m in zip(model.rows[n:], means[-1], strict=True)])  # fmt: skip
        variances.append(np.diag(model.covariances[h, n:, n:]) - (cross * inner.T).sum(axis=1) + own_noise**2)
    mean = weights @ np.array(means)
    spread = np.sqrt(weights @ (np.maximum(np.array(variances), 1e-12) + (np.array(means) - mean) ** 2))
    return mean, spread


def _lifted(
    key: tuple[Fault, tuple[str, ...]], model: BoardModel, parts: Sequence[str], tolerances: Sequence[float]
) -> tuple[Floats, Floats]:
    """What each part would measure by itself, ln over its nominal: as it is, or where this thing is that part, as that says."""
    mean = np.zeros(len(parts))
    spread = np.hypot(LIFTED_U, np.array(tolerances) / math.sqrt(3))
    if key[0] != "part":
        return mean, spread
    own = [h for h, w in enumerate(model.ways) if (w.kind, w.of) == key]
    weights = np.exp(model.scores[own] - model.scores[own].max())
    weights /= weights.sum()
    amounts = np.clip([model.ways[h].amount for h in own], -GONE_LN, GONE_LN)
    at = parts.index(key[1][0])
    mean[at] = weights @ amounts
    widths = np.array([model.ways[h].change.spread for h in own])
    spread[at] = math.sqrt(float(weights @ (widths**2 + (amounts - mean[at]) ** 2)) + LIFTED_U**2)
    return mean, spread
