"""How likely each thing on a board is wrong, by volts at nodes and ohms between them; how far off; and what cannot be told apart.

Each way a thing may be wrong is a linear Gaussian model about the network solved with it (core.suspects.board): what was read is
y = m + A w + e, and its evidence N(y; m, S) (D. J. C. MacKay, Bayesian interpolation, Neural Computation 4, 1992). The
probabilities are held against simulations that are not the model (docs/suspects.md).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from itertools import combinations

import numpy as np

from candor.core.circuit.netlist import GROUND
from candor.core.late_dataclass import dataclass
from candor.core.suspects.board import Board, Change, NodeSeen, PairSeen, Predicted
from candor.core.suspects.board_faults import Fault, Way, near, nodes_of, ways
from candor.core.suspects.observed import Floats

METER, LEAST_V, OHMS, LEAST_OHMS = (
    0.01,
    0.02,
    0.015,
    0.5,
)  # of a bench meter and its leads, limits; common practice, no source
# Of the evidence, that counts: a board has more in it than any model; by simulation of boards that are not this one.
TRUSTED = 0.8
CHUNK, TINY = 256, 1e-13
NAMED, WORTH = 6, 0.02
RARE = 0.01  # how seldom what is left over would come by chance
ALIKE = 1.0  # standard deviations of a reading, under which two explanations are told apart by none of them


@dataclass(frozen=True)
class BoardSuspect:
    """One explanation of what was read on a board.

    Attributes
    ----------
    kind, of : see `Way`
    probability : float
    amount, u : float
        Of a part ln of its value over its nominal (infinite where it is open or shorted), of a leak ohm, of a current A, of a
        reading the share it is off; one standard deviation.
    explained : array, shape (rows,)
        What should have been read: V, ln ohm.
    group : int
        Those of one number cannot be told apart by what was read; -1 where it stands alone.
    """

    kind: Fault
    of: tuple[str, ...]
    probability: float
    amount: float
    u: float
    explained: Floats
    group: int = -1


@dataclass(frozen=True)
class BoardWeighed:
    """What explains what was read on a board, the likeliest first, and how seldom chance leaves as much as it leaves."""

    suspects: tuple[BoardSuspect, ...]
    left_over: float
    seen: tuple[NodeSeen | PairSeen, ...]

    @property
    def explains(self) -> bool:
        """Whether the likeliest explains what was read."""
        return self.left_over >= RARE


class BoardModel:
    """Every way something may be wrong, over what was read and what could be.

    Parameters
    ----------
    board : Board
    seen : sequence of NodeSeen or PairSeen
        What was read.
    beyond : sequence of NodeSeen or PairSeen
        What could be read next; the values do not count.
    only : sequence of Way, optional
        Those that are asked; else all.
    """

    def __init__(
        self,
        board: Board,
        seen: Sequence[NodeSeen | PairSeen],
        beyond: Sequence[NodeSeen | PairSeen] = (),
        only: Sequence[Way] | None = None,
    ) -> None:
        self.board, self.seen, self.read = board, tuple(seen), len(seen)
        self.ways = tuple(ways(board, seen)) if only is None else tuple(only)
        self.rows = (*seen, *beyond)
        names = {b.name for b in near(board, seen)}
        self.parts = [i for i, b in enumerate(board.branches) if b.name in names]
        self.noise = np.array([_noise(s) for s in self.rows])
        self.values = np.array([_value(s) for s in seen])
        parts = [self._weighed(self.ways[at : at + CHUNK]) for at in range(0, len(self.ways), CHUNK)]
        self.means = np.concatenate([p[0] for p in parts])
        self.covariances = np.concatenate(
            [p[1] for p in parts]
        )  # without each reading's own noise, shape (ways, rows, rows)
        self.own = np.concatenate([p[2] for p in parts])  # shape (ways, rows, 2)
        n = self.read
        whole = self._with_noise(self.covariances)
        left = self.values - self.means[:, :n]
        self.pulls = np.linalg.solve(whole, left[:, :, None])[:, :, 0]
        self.sizes = (left * self.pulls).sum(axis=1)
        determinant = np.linalg.slogdet(whole)[1]
        self.evidence = -0.5 * self.sizes - 0.5 * determinant
        self.scores = np.array([w.log_prior for w in self.ways]) + TRUSTED * self.evidence

    def _weighed(self, some: Sequence[Way]) -> tuple[Floats, Floats, Floats]:
        """What some of the ways make of all rows: mean, covariance, and the columns of what each leaves open."""
        n, changes = self.read, [w.change for w in some]
        unknown: Floats | None = None
        for _ in range(2):  # the tolerances act about the currents that flow, which the readings tell
            made = self.board.predict(changes, self.rows, unknown, self.parts)
            self._elsewhere(some, made, unknown)
            own = np.concatenate((made.by_own, self._misread(some)), axis=2)
            columns = np.concatenate((made.by_unknown, made.by_part, own), axis=2)
            covariance = columns @ columns.transpose(0, 2, 1)
            if unknown is None:
                whole = self._with_noise(covariance)
                pull = np.linalg.solve(whole, (self.values - made.mean[:, :n])[:, :, None])
                unknown = (made.by_unknown[:, :n].transpose(0, 2, 1) @ pull)[:, :, 0]
        return made.mean, covariance, own

    def _with_noise(self, covariances: Floats) -> Floats:
        """The covariance of what was read, its own noise in it: never singular, whatever floats."""
        n = self.read
        made = covariances[:, :n, :n]
        least = TINY * np.diagonal(made, axis1=1, axis2=2).max(axis=1, initial=0.0)
        found: Floats = made + np.eye(n) * (self.noise[:n] ** 2 + least[:, None])[:, None, :]
        return found

    def _misread(self, some: Sequence[Way]) -> Floats:
        """By how much a reading that is off by itself is, one standard deviation; shape (ways, rows, 1)."""
        found = np.zeros((len(some), len(self.rows), 1))
        for h, way in enumerate(some):
            if way.row >= 0:
                of = self.rows[way.row]
                found[h, way.row, 0] = way.off * (max(abs(of.volts), 0.3) if isinstance(of, NodeSeen) else 1.0)
        return found

    def _elsewhere(self, some: Sequence[Way], made: Predicted, unknown: Floats | None) -> None:
        """Put what is seen where the probes stood into the rows that were taken there."""
        moved = [(h, w) for h, w in enumerate(some) if w.stands]
        if not moved:
            return
        at = [h for h, _ in moved]
        there = self.board.predict(
            [Change()] * len(moved),
            [_at(self.rows[w.row], w.stands) for _, w in moved],
            None if unknown is None else unknown[at],
            self.parts,
        )
        for place, (h, way) in enumerate(moved):
            made.mean[h, way.row] = there.mean[place, place]
            made.by_unknown[h, way.row] = there.by_unknown[place, place]
            made.by_part[h, way.row] = there.by_part[place, place]

    def whole(self, way: int) -> Floats:
        """Return the covariance of what was read under one way, V and ln ohm squared."""
        found: Floats = self._with_noise(self.covariances[way : way + 1])[0]
        return found

    def probabilities(self) -> dict[tuple[Fault, tuple[str, ...]], float]:
        """Return how likely each thing is, all ways of it together."""
        shifted = np.exp(self.scores - self.scores.max())
        shares = shifted / shifted.sum()
        found: dict[tuple[Fault, tuple[str, ...]], float] = {}
        for way, share in zip(self.ways, shares, strict=True):
            found[way.kind, way.of] = found.get((way.kind, way.of), 0.0) + float(share)
        return found


def weigh_board(board: Board, seen: Sequence[NodeSeen | PairSeen]) -> BoardWeighed | None:
    """Return what explains what was read on a board; None where fewer than two readings say anything.

    Parameters
    ----------
    board : Board
    seen : sequence of NodeSeen or PairSeen
        Of nodes of the board; others are left out.
    """
    read = [s for s in seen if all(n in board.row or n == GROUND for n in nodes_of(s))]
    if len(read) < 2 or not board.branches:
        return None
    model = BoardModel(board, read)
    likely = model.probabilities()
    order = sorted(likely, key=lambda k: -likely[k])[:NAMED]
    made = [_suspect(model, kind, of, likely[kind, of]) for kind, of in order if likely[kind, of] >= WORTH]
    return BoardWeighed(tuple(_grouped(model, made)), _left_over(model, order[0]), tuple(read))


def _at(one: NodeSeen | PairSeen, stands: tuple[str, ...]) -> NodeSeen | PairSeen:
    """The same reading, taken elsewhere."""
    return replace(one, node=stands[0]) if isinstance(one, NodeSeen) else replace(one, one=stands[0], other=stands[1])


def _value(one: NodeSeen | PairSeen) -> float:
    if isinstance(one, NodeSeen):
        return one.volts
    return math.log(min(max(one.ohms, 1e-3), 1e8))


def _noise(one: NodeSeen | PairSeen) -> float:
    """Standard uncertainty of a reading: V, or ln ohm."""
    if isinstance(one, NodeSeen):
        return math.hypot(METER * one.volts, LEAST_V) / math.sqrt(3)
    return math.hypot(OHMS, LEAST_OHMS / max(one.ohms, LEAST_OHMS)) / math.sqrt(3)


def _suspect(model: BoardModel, kind: Fault, of: tuple[str, ...], probability: float) -> BoardSuspect:
    """What one thing explains, and how far off it is: over its ways by their weights."""
    n = model.read
    own = [h for h, w in enumerate(model.ways) if (w.kind, w.of) == (kind, of)]
    weights = np.exp(model.scores[own] - model.scores[own].max())
    weights /= weights.sum()
    explained = np.zeros(n)
    amounts, variances = [], []
    for weight, h in zip(weights, own, strict=True):
        way = model.ways[h]
        explained += weight * (model.means[h, :n] + model.covariances[h, :n, :n] @ model.pulls[h])
        column = model.own[h, :n, 0 if kind in ("part", "leak") else 1 if kind == "current" else 2]
        inner = np.linalg.solve(model.whole(h), column)
        fitted, variance = float(column @ model.pulls[h]), max(0.0, 1 - float(column @ inner))
        if kind in ("part", "leak"):
            wide = way.change.spread  # ln of a conductance: a higher one is a lower value
            known = way.amount if kind == "part" else math.log(way.amount)
            amounts.append(known - (fitted * wide if math.isfinite(known) else 0.0))
        else:
            wide = way.change.drawn[2] if way.change.drawn is not None else way.off
            amounts.append(fitted * wide)
        variances.append(variance * wide**2)
    made = BoardSuspect(kind=kind, of=of, probability=probability, amount=0.0, u=0.0, explained=explained)
    finite = np.isfinite(amounts)
    if weights[~finite].sum() > weights[finite].sum():
        return replace(made, amount=amounts[int(np.argmax(np.where(finite, 0.0, weights)))])
    share = np.where(finite, weights, 0.0)
    share /= share.sum()
    values = np.where(finite, amounts, 0.0)
    mean = float(share @ values)
    u = math.sqrt(float(share @ (np.array(variances) + (values - mean) ** 2)))
    return replace(made, amount=math.exp(mean), u=u) if kind == "leak" else replace(made, amount=mean, u=u)


def _grouped(model: BoardModel, made: list[BoardSuspect]) -> list[BoardSuspect]:
    """Give those a number that explain all that was read alike, within a standard deviation of each reading."""
    noise, group, found = model.noise[: model.read], [-1] * len(made), 0
    for i, j in combinations(range(len(made)), 2):
        if "nothing" in (made[i].kind, made[j].kind):
            continue
        if (np.abs((made[i].explained - made[j].explained) / noise).max() < ALIKE and group[i] < 0) or (
            group[i] >= 0 and (np.abs((made[i].explained - made[j].explained) / noise).max() < ALIKE)
        ):
            if group[i] < 0:
                group[i], found = found, found + 1
            group[j] = group[i]
    return [replace(s, group=g) for s, g in zip(made, group, strict=True)]


def _left_over(model: BoardModel, key: tuple[Fault, tuple[str, ...]]) -> float:
    """The probability that chance leaves as much as the likeliest does: the upper tail of chi squared (by definition)."""
    from scipy.special import gammaincc  # imported here: slow to load, and only needed once something is weighed

    best = min(model.sizes[h] for h, w in enumerate(model.ways) if (w.kind, w.of) == key)
    return float(gammaincc(model.read / 2, best / 2))
