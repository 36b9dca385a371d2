"""A board at d.c., under power and with the power off, as it is drawn and with something on it changed.

Node voltages by nodal analysis, rails held by large conductances (Norton); every fault is one or two conductances that are more
or fewer, put in by the matrix inversion lemma (M. A. Woodbury, Inverting modified matrices, Princeton, 1950), so that the
network is inverted once. What a tube takes is not presumed: an unknown current from its plate (and screen) to its cathode.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from candor.core.circuit.elements import CurrentSource, Element, Inductor, Resistor, VoltageSource
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.late_dataclass import dataclass
from candor.core.suspects.changed import Changed, Places
from candor.core.suspects.observed import Floats

HELD = 10.0  # S, with which a rail is held: its supply's resistance is in its reading
LEAK = 1e-10  # S from every node to the chassis: what floats is at 0 V
SHORT = 10.0  # S of what is bridged
MOST_OHMS = 1e8  # of an ohmmeter: above it is open
RAIL_V = 500.0  # V, one standard deviation of a rail that nothing is known of
RAIL_SHARE = 0.15  # of a rail's nominal volts: line, load and age, common practice, no source
NOT_DRAWN_A = 0.02  # A, one standard deviation of what a diode or an amplifier in the netlist takes
METER_OHMS, LEAST_V = 1e7, 0.05  # of what reads a node that floats; V, below which a tube takes nothing
USUAL_RAIL_V = 250.0
TUBE_SHARE = 0.5  # of what would flow if a tube were a short: what it takes, one standard deviation


@dataclass(frozen=True)
class Draw:
    """What a tube takes, unknown: from its plate, and its screen where it has one, to its cathode."""

    name: str
    plate: str
    cathode: str
    screen: str = ""


@dataclass(frozen=True)
class NodeSeen:
    """A node under power: V, as the meter read it, and the meter's input resistance, ohm."""

    node: str
    volts: float
    meter_ohms: float = math.inf


@dataclass(frozen=True)
class PairSeen:
    """Ohms between two nodes, power off; infinite where it is open."""

    one: str
    other: str
    ohms: float


@dataclass(frozen=True)
class Branch:
    """A conductance between two nodes of the board, S."""

    name: str
    one: str
    other: str
    siemens: float
    tolerance: float


@dataclass(frozen=True)
class Change:
    """What a fault does to the board.

    Attributes
    ----------
    branches : tuple of (str, str, float)
        At most two: conductances between two nodes that are more (or, negative, fewer), S.
    own : (str, str, float) or None
        What stands there now and is not known exactly: its ends and its conductance, S.
    spread : float
        Standard deviation of that, ln.
    drawn : (str, str, float) or None
        A current nobody drew: from where to where, and its standard deviation, A.
    without : str
        A part that is no longer where it was drawn.
    looser : float
        Times their tolerances by which all parts are off: an old board's tails.
    """

    branches: tuple[tuple[str, str, float], ...] = ()
    own: tuple[str, str, float] | None = None
    spread: float = 0.0
    drawn: tuple[str, str, float] | None = None
    without: str = ""
    looser: float = 1.0


@dataclass(frozen=True)
class Predicted:
    """What is seen under each change, shape (changes, rows): V of nodes, ln ohm of pairs; and how it moves.

    Attributes
    ----------
    mean : array, shape (changes, rows)
    by_unknown : array, shape (changes, rows, unknowns)
        For one standard deviation of each unknown of the board: rails, what tubes take.
    by_part : array, shape (changes, rows, parts)
        For one standard deviation of each part's tolerance.
    by_own : array, shape (changes, rows, 2)
        Of what the change itself leaves open: its conductance, its current.
    """

    mean: Floats
    by_unknown: Floats
    by_part: Floats
    by_own: Floats


class Board:
    """The network of a board as it is drawn.

    Parameters
    ----------
    netlist : Netlist
    tolerances : mapping of str to float
        By designator, a share.
    held : set of str
        Nodes that supplies hold, whose volts are not known but by reading.
    draws : sequence of Draw
        Tubes.
    beside : mapping of str to tuple of str
        By node, those whose lugs stand beside its own; empty where no photo says, then any may.
    """

    def __init__(
        self,
        netlist: Netlist,
        *,
        tolerances: Mapping[str, float] | None = None,
        held: Iterable[str] = (),
        draws: Sequence[Draw] = (),
        beside: Mapping[str, tuple[str, ...]] | None = None,
    ) -> None:
        self._about: dict[str, tuple[str, ...]] = {}
        self.netlist, self.tolerances, self.held = netlist, dict(tolerances or {}), frozenset(held)
        self.draws, self.beside = tuple(draws), dict(beside or {})
        self.nodes = tuple(n for n in netlist.nodes if n != GROUND)
        self.row = {node: i for i, node in enumerate(self.nodes)}
        self._at = {**self.row, GROUND: len(self.nodes)}
        self.branches = tuple(self._branches())
        self._place = {b.name: i for i, b in enumerate(self.branches)}
        self._ends = np.array([(self._at[b.one], self._at[b.other]) for b in self.branches], np.intp).reshape(-1, 2)
        size = len(self.nodes) + 1
        matrix = np.zeros((size, size))
        for b, (i, j) in zip(self.branches, self._ends, strict=True):
            matrix[[i, j], [i, j]] += b.siemens
            matrix[[i, j], [j, i]] -= b.siemens
        self.off = _inverse(matrix)
        self.driven, columns = np.zeros(size), []
        usual = np.zeros(size)  # as driven, with rails of which nothing is known at a usual voltage
        for one, other, volts, spread in self._rails():
            a = self.across([(one, other)])[0]
            matrix = matrix + HELD * np.outer(a, a)
            self.driven = self.driven + a * volts * HELD
            usual = usual + a * (volts or USUAL_RAIL_V) * HELD
            columns.append(a * spread * HELD)
        self.on = _inverse(matrix)
        for e in netlist.elements:
            if isinstance(e, CurrentSource):
                self.driven = self.driven - self.across([(e.plus, e.minus)])[0] * e.value
            elif e.LETTER in ("D", "G", "E"):
                columns.append(self.across([(e.plus, e.minus)])[0] * NOT_DRAWN_A)
        ends = [
            (d.cathode, n)
            for d in self.draws
            for n in (d.plate, d.screen)
            if n and (n in self.row or d.cathode in self.row)
        ]
        self.takes: Floats = self.across(ends)
        self.usual = usual
        self.least = self._taken(Changed(self.on, np.full((1, 2, 2), size - 1), np.zeros((1, 2))))[0]  # A, as drawn
        columns += list(self.takes * self.least[:, None])
        self.unknown: Floats = np.array(columns).reshape(len(columns), size).T
        self._volts, self._moves = self.on @ self.driven, self.on @ self.unknown

    def _branches(self) -> Iterable[Branch]:
        for e in self.netlist.elements:
            ohms = _ohms(e)
            if ohms is not None and e.plus != e.minus:
                tolerance = self.tolerances.get(e.name, 0.1)
                yield Branch(name=e.name, one=e.plus, other=e.minus, siemens=1 / ohms, tolerance=tolerance)

    def _rails(self) -> Iterable[tuple[str, str, float, float]]:
        """What holds a node: its two ends, its volts, and one standard deviation of them."""
        sources = [e for e in self.netlist.elements if isinstance(e, VoltageSource)]
        for e in sources:
            yield e.plus, e.minus, e.value, max(RAIL_SHARE * abs(e.value), 0.05)
        for node in sorted(self.held - {e.plus for e in sources}):
            if node in self.row:
                yield node, GROUND, 0.0, RAIL_V

    def about(self, node: str) -> tuple[str, ...]:
        """Return the nodes within two parts of one, the chassis with them: where no photo says what stands beside it."""
        if not self._about:
            joined: dict[str, set[str]] = {n: set() for n in (*self.nodes, GROUND)}
            for e in self.netlist.elements:
                if e.plus != e.minus:
                    joined[e.plus].add(e.minus)
                    joined[e.minus].add(e.plus)
            for n, near in joined.items():
                through = {m for k in near - {GROUND} for m in joined[k]}  # everything is joined to the chassis
                self._about[n] = tuple(sorted((near | through | {GROUND}) - {n}))
        return self._about[node]

    def across(self, ends: Iterable[tuple[str, str]]) -> Floats:
        """Return +1 at the first and -1 at the second node of each pair, shape (pairs, nodes + 1); the chassis, last, is none."""
        listed = list(ends)
        made = np.zeros((len(listed), len(self.nodes) + 1))
        for i, (one, other) in enumerate(listed):
            made[i, self._at[one]] += 1.0
            made[i, self._at[other]] -= 1.0
        made[:, -1] = 0.0
        return made

    def predict(
        self,
        changes: Sequence[Change],
        seen: Sequence[NodeSeen | PairSeen],
        unknown: Floats | None = None,
        parts: Sequence[int] | None = None,
    ) -> Predicted:
        """Return what is seen under each change.

        Parameters
        ----------
        changes : sequence of Change
        seen : sequence of NodeSeen or PairSeen
            The rows, whatever was read there.
        unknown : array, shape (changes, unknowns), optional
            In standard deviations: where the parts' tolerances are taken about; else 0.
        parts : sequence of int, optional
            The branches whose tolerances count; else all.
        """
        count, chassis, rows = len(changes), len(self.nodes), len(seen)
        ends, siemens = np.full((count, 2, 2), chassis), np.zeros((count, 2))
        own, own_siemens, own_spread = np.full((count, 2), chassis), np.zeros(count), np.zeros(count)
        drawn, drawn_amperes = np.full((count, 2), chassis), np.zeros(count)
        spreads = np.array([b.siemens * b.tolerance for b in self.branches]) / math.sqrt(3)
        counted = np.arange(len(self.branches)) if parts is None else np.array(parts, np.intp)
        from_, to = self._ends[counted].T
        kept = np.tile(spreads, (count, 1))
        for h, change in enumerate(changes):
            for k, (one, other, more) in enumerate(change.branches):
                ends[h, k], siemens[h, k] = (self._at[one], self._at[other]), more
            if change.own is not None:
                own[h] = self._at[change.own[0]], self._at[change.own[1]]
                own_siemens[h], own_spread[h] = change.own[2], change.spread
            if change.drawn is not None:
                drawn[h], drawn_amperes[h] = (self._at[change.drawn[1]], self._at[change.drawn[0]]), change.drawn[2]
            kept[h] *= change.looser
            if change.without:
                kept[h, self._place[change.without]] = 0.0
        kept = kept[:, counted]
        made = Predicted(
            np.zeros((count, rows)), np.zeros((count, rows, self.unknown.shape[1])), np.zeros((count, rows, len(counted))),
            np.zeros((count, rows, 2)),
        )  # fmt: skip
        nodes = [i for i, s in enumerate(seen) if isinstance(s, NodeSeen)]
        pairs = [i for i, s in enumerate(seen) if isinstance(s, PairSeen)]

        def across_own(of: Floats, which: Places) -> Floats:
            """What rows see between two nodes of each change, (changes, rows)."""
            index = which[:, None, :]
            made: Floats = (
                np.take_along_axis(of, index[..., :1], 2)[..., 0] - np.take_along_axis(of, index[..., 1:], 2)[..., 0]
            )
            return made

        if nodes:
            at = np.array([self.row[s.node] for s in seen if isinstance(s, NodeSeen)])
            meters = np.array([1 / s.meter_ohms for s in seen if isinstance(s, NodeSeen)])
            changed = Changed(self.on, ends, siemens)
            of_all = changed.rows(self.on[at])
            scale = self._scale(changed)
            flowing = np.zeros((count, self.unknown.shape[1])) if unknown is None else unknown * scale
            standing = changed.answer(self._volts + flowing @ self._moves.T)
            loaded = 1 / (1 + of_all[:, np.arange(len(at)), at] * meters)
            made.mean[:, nodes] = (of_all @ self.driven) * loaded
            by_unknown = of_all @ self.unknown
            made.by_unknown[:, nodes] = by_unknown * loaded[:, :, None] * scale[:, None, :]
            # With the meter on it: what it draws, A, pulls down every other node by what the network makes of that.
            draws = standing[:, at] * loaded * meters
            reach = of_all[:, :, from_] - of_all[:, :, to]
            across = (standing[:, from_] - standing[:, to])[:, None, :] - reach * draws[:, :, None]
            made.by_part[:, nodes] = -reach * kept[:, None, :] * across * loaded[:, :, None]
            at_own = across_own(of_all, own)
            over_own = across_own(standing[:, None, :], own) - at_own * draws
            made.by_own[:, nodes, 0] = -at_own * loaded * over_own * (own_siemens * own_spread)[:, None]
            made.by_own[:, nodes, 1] = across_own(of_all, drawn) * loaded * drawn_amperes[:, None]
        if pairs:
            between = self.across([(s.one, s.other) for s in seen if isinstance(s, PairSeen)])
            of_all = Changed(self.off, ends, siemens).rows(between @ self.off)
            ohms = np.clip((of_all * between).sum(axis=2), 1e-3, MOST_OHMS)
            made.mean[:, pairs] = np.log(ohms)
            shown = (ohms < MOST_OHMS)[:, :, None] / ohms[:, :, None]
            made.by_part[:, pairs] = -((of_all[:, :, from_] - of_all[:, :, to]) ** 2) * kept[:, None, :] * shown
            at_own = across_own(of_all, own) ** 2
            made.by_own[:, pairs, 0] = -at_own * (own_siemens * own_spread)[:, None] * shown[:, :, 0]
        return made

    def _taken(self, changed: Changed) -> Floats:
        """What tubes may take under each change, A, one standard deviation; shape (changes, currents).

        A share of what would flow if the tube were a short: nothing where its plate is cut off; where its cathode is, what the
        meter that reads it lets through.
        """
        through = np.clip((changed.rows(self.takes @ self.on) * self.takes).sum(axis=2), 1.0, METER_OHMS)
        volts = np.zeros(through.shape)
        # Each end as a meter there would find it: what floats holds nothing up.
        for at in (np.maximum(self.takes, 0.0), np.maximum(-self.takes, 0.0)):
            alone = changed.rows(at @ self.on)
            volts = (alone @ self.usual) / (1 + (alone * at).sum(axis=2) / METER_OHMS) - volts
        found: Floats = TUBE_SHARE * np.maximum(np.abs(volts), LEAST_V) / through
        return found

    def _scale(self, changed: Changed) -> Floats:
        """How much of its usual spread each unknown has under each change: a tube takes what its resistors leave it."""
        count = len(changed)
        made = np.ones((count, self.unknown.shape[1]))
        if len(self.takes):
            made[:, -len(self.takes) :] = self._taken(changed) / self.least
        return made


def _inverse(matrix: Floats) -> Floats:
    """The inverse of a conductance matrix whose last node is the chassis, padded with zeros for it; ohm."""
    size = len(matrix) - 1
    made = np.zeros(matrix.shape)
    made[:size, :size] = np.linalg.inv(matrix[:size, :size] + np.eye(size) * LEAK)
    return made


def _ohms(e: Element) -> float | None:
    """Ohms of an element at d.c.; None where it is no resistance."""
    if isinstance(e, Resistor):
        return max(e.value, 0.1)
    return max(e.series_ohms, 0.1) if isinstance(e, Inductor) else None
