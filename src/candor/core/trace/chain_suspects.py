"""What does not add up, and what would explain it: a reading to repeat, a resistor that is not its value, a current nobody drew.

At every node whose resistors and neighbours were all measured the currents must add up (Kirchhoff). What they leave over, e, has
the covariance S that readings and tolerances give it. One thing at a time is taken to be wrong: it moves e along a direction d by
an unknown amount of a Gaussian prior, so that its evidence is that of e under S + s^2 d d^T (the linear Gaussian model; D. J. C.
MacKay, Neural Computation 4, 1992), times how often such a thing is wrong.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from candor.core.circuit.elements import Resistor
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.trace.nodes import METER_SHARE

Floats = NDArray[np.float64]
Kind = Literal["nothing", "reading", "resistor", "current"]
# How often each kind is at fault, one of a sort against one of another: common practice, no source.
PRIORS: Mapping[Kind, float] = {"nothing": 1.0, "reading": 0.02, "resistor": 0.05, "current": 0.03}
READING_SHARE = 0.3  # of a reading, by which a wrong one is off
RESISTOR_SHARE = 0.5  # of a conductance, by which a drifted one is
CURRENT_SHARE = 0.5  # of the largest current at the node, that flows where nobody drew it
LEAST_AMPERES = 1e-9
NAMED = 6  # suspects that are named at most
WORTH = 0.02  # probability under which none is


@dataclass(frozen=True)
class Suspect:
    """What may be wrong: its kind, the node or part, its probability (1), and the amount that explains it: V, a share, or A."""

    kind: Kind
    name: str
    probability: float
    amount: float


def suspects(
    netlist: Netlist, volts: Mapping[str, float], tolerances: Mapping[str, float], taps: Sequence[str] = ()
) -> tuple[Suspect, ...]:
    """Return what would explain what is left over, the likeliest first; volts in V, tolerances as shares.

    Parameters
    ----------
    netlist : Netlist
    volts : mapping of str to float
        Open node voltages.
    tolerances : mapping of str to float
        By resistor.
    taps : sequence of str
        Nodes where something that is not in the netlist takes a current, such as a plate.
    """
    system = _System(netlist, volts, tolerances, frozenset(taps))
    if not system.nodes:
        return ()
    found: list[tuple[Kind, str, float, float]] = [("nothing", "", math.log(PRIORS["nothing"]), 0.0)]
    names, directions, spreads = system.hypotheses()
    weighed = np.linalg.solve(system.covariance, directions)
    seen = np.einsum("nh,nh->h", directions, weighed) * spreads**2
    fit = system.left @ weighed * spreads**2
    for (kind, name), s, f, spread in zip(names, seen, fit, spreads, strict=True):
        if s > 0:
            evidence = 0.5 * (f**2 / spread**2) / (1 + s) - 0.5 * math.log1p(s)
            found.append((kind, name, math.log(PRIORS[kind]) + evidence, f / (1 + s)))
    best = max(score for _, _, score, _ in found)
    weights = [math.exp(score - best) for _, _, score, _ in found]
    made = [Suspect(k, n, w / sum(weights), a) for (k, n, _, a), w in zip(found, weights, strict=True)]
    ranked = sorted(made, key=lambda s: -s.probability)
    return tuple(s for s in ranked[:NAMED] if s.probability >= WORTH)


class _System:
    """The currents left over at every node that can be summed, and how each thing that may be wrong moves them."""

    def __init__(
        self, netlist: Netlist, volts: Mapping[str, float], tolerances: Mapping[str, float], taps: frozenset[str]
    ) -> None:
        known = {**volts, GROUND: 0.0}
        resistors = [e for e in netlist.elements if isinstance(e, Resistor)]
        at: dict[str, list[Resistor]] = {}
        for e in resistors:
            at.setdefault(e.plus, []).append(e)
            at.setdefault(e.minus, []).append(e)
        others = {
            node for e in netlist.elements if e.CONDUCTS and not isinstance(e, Resistor) for node in (e.plus, e.minus)
        }
        self.nodes = tuple(
            node for node, here in at.items()
            if node != GROUND and node not in taps and node not in others and len(here) > 1
            and all(e.plus in known and e.minus in known for e in here)
        )  # fmt: skip
        self._known, self._row = known, {node: row for row, node in enumerate(self.nodes)}
        self._resistors = [e for e in resistors if e.plus in self._row or e.minus in self._row]
        self._flows = np.array([(known[e.plus] - known[e.minus]) / e.value for e in self._resistors])
        # Where a resistor's current arrives (+) and where it leaves (-): shape (nodes, resistors).
        self._incidence = np.zeros((len(self.nodes), len(self._resistors)))
        self._read = tuple(dict.fromkeys(n for e in self._resistors for n in (e.plus, e.minus) if n != GROUND))
        read = {node: column for column, node in enumerate(self._read)}
        # By how much what is left over moves, A, for a volt more at a node that was read: shape (nodes, read).
        self._by_volts = np.zeros((len(self.nodes), len(self._read)))
        for place, e in enumerate(self._resistors):
            for node, arrives in ((e.minus, 1.0), (e.plus, -1.0)):
                row = self._row.get(node)
                if row is not None:
                    self._incidence[row, place] += arrives
                    for end, turned in ((e.plus, 1.0), (e.minus, -1.0)):
                        if end in read:
                            self._by_volts[row, read[end]] += arrives * turned / e.value
        self.left = self._incidence @ self._flows
        volts_u = METER_SHARE / math.sqrt(3) * np.abs([known[node] for node in self._read])
        shares = np.array([tolerances.get(e.name, 0.1) for e in self._resistors]) / math.sqrt(3)
        of_volts, of_parts = self._by_volts * volts_u, self._incidence * (self._flows * shares)
        self.covariance = of_volts @ of_volts.T + of_parts @ of_parts.T + np.eye(len(self.nodes)) * LEAST_AMPERES**2

    def hypotheses(self) -> tuple[list[tuple[Kind, str]], Floats, Floats]:
        """Return what may be wrong, kind and name; how each moves what is left over, A, shape (nodes, hypotheses); and the spread
        of its amount."""
        names: list[tuple[Kind, str]] = [("reading", node) for node in self._read]
        names += [("resistor", e.name) for e in self._resistors]
        names += [("current", node) for node in self.nodes]
        at_nodes = np.abs(self._incidence) * np.abs(self._flows)
        spreads = np.concatenate((
            READING_SHARE * np.abs([self._known[node] for node in self._read]) + 1.0,
            np.full(len(self._resistors), RESISTOR_SHARE),
            CURRENT_SHARE * at_nodes.max(axis=1),
        ))  # fmt: skip
        return names, np.hstack((self._by_volts, self._incidence * self._flows, np.eye(len(self.nodes)))), spreads
