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

Kind = Literal["nothing", "reading", "resistor", "current"]
# How often each kind is at fault, one of a sort against one of another: common practice, no source.
PRIORS: Mapping[Kind, float] = {"nothing": 1.0, "reading": 0.02, "resistor": 0.05, "current": 0.03}
READING_SHARE = 0.3  # of a reading, by which a wrong one is off
RESISTOR_SHARE = 0.5  # of a conductance, by which a drifted one is
CURRENT_SHARE = 0.5  # of the largest current at the node, that flows where nobody drew it
LEAST_AMPERES = 1e-9
NAMED = 6  # suspects that are named at most
SURE = 0.995  # from which on it is only said to be over 99 %
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
    e, inverse = system.left, np.linalg.inv(system.covariance)
    found: list[tuple[Kind, str, float, float]] = [("nothing", "", math.log(PRIORS["nothing"]), 0.0)]
    for kind, name, direction, spread in system.hypotheses():
        if not direction.any() or spread <= 0:
            continue
        seen = float(direction @ inverse @ direction) * spread**2
        fit = float(direction @ inverse @ e) * spread**2
        evidence = 0.5 * (fit**2 / spread**2) / (1 + seen) - 0.5 * math.log1p(seen)
        found.append((kind, name, math.log(PRIORS[kind]) + evidence, fit / (1 + seen)))
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
        self.left = sum((self._flow(e) * self._incidence(e) for e in self._resistors), np.zeros(len(self.nodes)))
        self._by_volts = {node: self._moved_by(node) for node in self._read()}
        covariance = np.eye(len(self.nodes)) * LEAST_AMPERES**2
        for node, direction in self._by_volts.items():
            covariance += (METER_SHARE / math.sqrt(3) * abs(known[node])) ** 2 * np.outer(direction, direction)
        for e in self._resistors:
            share = tolerances.get(e.name, 0.1) / math.sqrt(3)
            direction = self._flow(e) * self._incidence(e)
            covariance += share**2 * np.outer(direction, direction)
        self.covariance = covariance

    def _flow(self, e: Resistor) -> float:
        return (self._known[e.plus] - self._known[e.minus]) / e.value

    def _incidence(self, e: Resistor) -> NDArray[np.float64]:
        """Where a resistor's current arrives (+) and where it leaves (-)."""
        made = np.zeros(len(self.nodes))
        if e.minus in self._row:
            made[self._row[e.minus]] += 1.0
        if e.plus in self._row:
            made[self._row[e.plus]] -= 1.0
        return made

    def _read(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(n for e in self._resistors for n in (e.plus, e.minus) if n != GROUND))

    def _moved_by(self, node: str) -> NDArray[np.float64]:
        """By how much what is left over moves, A, for a volt more at a node."""
        made = np.zeros(len(self.nodes))
        for e in self._resistors:
            if node in (e.plus, e.minus):
                made += (1.0 if e.plus == node else -1.0) / e.value * self._incidence(e)
        return made

    def hypotheses(self) -> list[tuple[Kind, str, NDArray[np.float64], float]]:
        """What may be wrong: kind, name, direction and the spread of its amount."""
        made: list[tuple[Kind, str, NDArray[np.float64], float]] = []
        for node, direction in self._by_volts.items():
            made.append(("reading", node, direction, READING_SHARE * abs(self._known[node]) + 1.0))
        for e in self._resistors:
            made.append(("resistor", e.name, self._flow(e) * self._incidence(e), RESISTOR_SHARE))
        for node, row in self._row.items():
            unit = np.zeros(len(self.nodes))
            unit[row] = 1.0
            here = [abs(self._flow(e)) for e in self._resistors if node in (e.plus, e.minus)]
            made.append(("current", node, unit, CURRENT_SHARE * max(here)))
        return made


def say_suspect(suspect: Suspect) -> str:
    """Say a suspect, with its probability and the amount that explains it: V, per cent, A."""
    from candor.core.quantities import engineering

    share = f"{100 * suspect.probability:.0f} %" if suspect.probability < SURE else "over 99 %"
    if suspect.kind == "nothing":
        return f"{share}: it all adds up, within readings and tolerances."
    if suspect.kind == "reading":
        return f"{share}: the reading at {suspect.name} is off by about {engineering(suspect.amount, 'V', 2)}. Repeat it."
    if suspect.kind == "resistor":
        # The amount is the share of the current taken by its nominal value that does not flow: positive where it is high.
        factor = 1 / max(1 - suspect.amount, 0.02) if suspect.amount < 1 else math.inf
        words = "open" if factor > 20 else f"about {100 * (factor - 1):+.0f} %"
        return f"{share}: {suspect.name} is not its value, {words}. Lift one end and measure it."
    way = "out of" if suspect.amount > 0 else "into"
    return (
        f"{share}: {engineering(abs(suspect.amount), 'A', 2)} flows {way} {suspect.name} that is not drawn: a "
        "capacitor that leaks, or a "
        "part nobody drew."
    )
