"""What an ohmmeter reads between two nodes with everything connected, and what the reading can prove.

Nodal analysis of the network at rest: resistors are resistors, an inductor is its winding, capacitors are open once they
are charged, sources are taken out (a supply that is off), diodes do not conduct. The resistance between two nodes can only
rise when any resistor rises (Rayleigh's monotonicity law; P. G. Doyle and J. L. Snell, Random Walks and Electric
Networks, 1.4.1), so its limits are those with all parts high and all parts low.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from candor.core.circuit.netlist import GROUND, Element, Netlist
from candor.core.errors import RangeError
from candor.core.quantities import engineering

OPEN = math.inf
_ALONE = 1e-7  # of a part's conductance: what lies beside it counts as nothing below
WINDING_OHMS = 1e-3  # of an inductor whose winding resistance was not given


@dataclass(frozen=True)
class InCircuit:
    """What should be read across a resistor while it is connected.

    Attributes
    ----------
    expected, low, high : float
        Ohm: at the nominal values, with every part at its low limit, and at its high one.
    alone_high : float
        Ohm, the high limit of the part itself: above it the part is surely bad.
    others : float
        Ohm, of all that lies beside it at nominal values; infinite where nothing does.
    convicts_from : float
        Ohm, the value the part must have before a reading can convict it; infinite where none can.
    """

    expected: float
    low: float
    high: float
    alone_high: float
    others: float
    convicts_from: float

    @property
    def can_convict(self) -> bool:
        """Whether any reading in circuit could prove this part too high."""
        return math.isfinite(self.convicts_from)


def resistance_between(netlist: Netlist, one: str, other: str) -> float:
    """Return the resistance between two nodes, ohm; infinite where nothing joins them.

    Raises
    ------
    RangeError
        Where a node is not of this netlist.
    """
    return _driven(netlist, one, other)[0]


def sensitivities(netlist: Netlist, one: str, other: str) -> Mapping[str, float]:
    """Return dR/dR_k of the resistance between two nodes for every resistor k that a current reaches.

    With 1 A driven between the nodes the network is its own adjoint, so dR/dR_k = i_k², from the one solve
    (Tellegen's theorem).
    """
    _, voltages = _driven(netlist, one, other)
    found = {}
    for e in netlist.elements:
        if e.kind == "R" and e.plus in voltages and e.minus in voltages:
            found[e.name] = ((voltages[e.plus] - voltages[e.minus]) / e.value) ** 2
    return found


def divider_ratio(netlist: Netlist, top: str, tap: str, bottom: str = GROUND) -> float:
    """Return the voltage at `tap` for 1 V between `top` and `bottom`, nothing loading it.

    From three resistances: (R_top-bottom + R_tap-bottom - R_top-tap) / (2 R_top-bottom), by reciprocity.
    """
    whole = resistance_between(netlist, top, bottom)
    near, far = resistance_between(netlist, tap, bottom), resistance_between(netlist, top, tap)
    return (whole + near - far) / (2 * whole)


def in_circuit(netlist: Netlist, name: str, tolerances: Mapping[str, float], default: float = 0.1) -> InCircuit:
    """Say what should be read across a resistor in circuit.

    Parameters
    ----------
    netlist : Netlist
    name : str
        The resistor the meter is put across.
    tolerances : mapping of str to float
        Of each resistor, as a share (0.05).
    default : float
        For those not named.

    Raises
    ------
    RangeError
        Where there is no such resistor.
    """
    part = netlist.element(name)
    if part is None or part.kind != "R":
        raise RangeError(f"{name} is not a resistor of this circuit.", value=name)
    expected, low, high = (
        resistance_between(_scaled(netlist, tolerances, default, side), part.plus, part.minus) for side in (0, -1, 1)
    )
    alone_high = part.value * (1 + tolerances.get(part.name, default))
    lifted = netlist.without(name)
    beside = {part.plus, part.minus} <= set(lifted.nodes)
    others = resistance_between(lifted, part.plus, part.minus) if beside else OPEN
    convicts = (
        alone_high if math.isinf(others) else 1 / (1 / alone_high - 1 / others) if others > alone_high else OPEN
    )
    return InCircuit(expected, low, high, alone_high, others, convicts)


def all_in_circuit(netlist: Netlist, tolerances: Mapping[str, float], default: float = 0.1) -> dict[str, InCircuit]:
    """Return what `in_circuit` says for every resistor, from one inverse of each part of the network.

    R_ab = Y⁻¹_aa + Y⁻¹_bb - 2 Y⁻¹_ab; what lies beside a resistor follows from 1/R_ab - 1/R_k.
    """
    sides = [_across_all(_scaled(netlist, tolerances, default, side)) for side in (0, -1, 1)]
    found = {}
    for e in netlist.elements:
        if e.kind != "R":
            continue
        expected, low, high = (side[e.name] for side in sides)
        alone_high = e.value * (1 + tolerances.get(e.name, default))
        left = 1 / expected - 1 / e.value
        others = 1 / left if left * e.value > _ALONE else OPEN
        convicts = alone_high if math.isinf(others) else OPEN
        if math.isfinite(others) and others > alone_high:
            convicts = 1 / (1 / alone_high - 1 / others)
        found[e.name] = InCircuit(expected, low, high, alone_high, others, convicts)
    return found


def _across_all(netlist: Netlist) -> dict[str, float]:
    """Return the resistance across every resistor, ohm."""
    joined = [(e.plus, e.minus, 1 / ohms) for e in netlist.elements if (ohms := _ohms(e))]
    resistors = [e for e in netlist.elements if e.kind == "R"]
    found: dict[str, float] = {}
    while left := [e for e in resistors if e.name not in found]:
        reached = _reached(left[0].minus, joined)
        places = {node: index for index, node in enumerate(reached)}
        matrix: NDArray[np.float64] = np.zeros((len(places), len(places)))
        for plus, minus, siemens in joined:
            if plus in places:
                a, b = places[plus], places[minus]
                matrix[a, a] += siemens
                matrix[b, b] += siemens
                matrix[a, b] -= siemens
                matrix[b, a] -= siemens
        inverse = np.zeros_like(matrix)  # the first node is held at 0 V
        inverse[1:, 1:] = np.linalg.inv(matrix[1:, 1:])
        for e in left:
            if e.plus in places:
                a, b = places[e.plus], places[e.minus]
                found[e.name] = float(inverse[a, a] + inverse[b, b] - 2 * inverse[a, b])
    return found


def part_from_reading(reading: float, others: float) -> float:
    """Return the part's own resistance from a reading in circuit, ohm; infinite where the rest explains it all."""
    return reading if math.isinf(others) else 1 / (1 / reading - 1 / others) if reading < others else OPEN


def say_in_circuit(name: str, reading: float, expanded: float, limits: InCircuit) -> tuple[str, str]:
    """Say what a reading in circuit proves: ("high" | "network" | "nothing", sentence).

    A reading above the part's own high limit convicts it, as whatever lies beside it can only lower the reading. Above
    what the network can reach, something is high or open. Below says nothing alone: a parallel path may be the reason.
    """
    shown, top = engineering(reading, "ohm"), engineering(limits.high, "ohm")
    if reading - expanded > limits.alone_high:
        own = engineering(limits.alone_high, "ohm")
        return (
            "high",
            f"{shown} in circuit is above {own}, the most {name} may be: what lies beside it can only lower it.",
        )
    if reading - expanded > limits.high:
        return "network", f"{shown} is above {top}, the most the network can give: something here is high or open."
    between = f"{engineering(limits.low, 'ohm')} to {top} expected in circuit"
    if limits.can_convict:
        reach = engineering(limits.convicts_from, "ohm")
        return "nothing", f"{between}; only above {reach} would {name} show. Lift one end."
    return "nothing", f"{between}; no reading in circuit can convict {name}. Lift one end."


def _scaled(netlist: Netlist, tolerances: Mapping[str, float], default: float, side: int) -> Netlist:
    def one(e: Element) -> Element:
        if e.kind != "R":
            return e
        share = max(1 + side * tolerances.get(e.name, default), 1e-6)
        return Element(e.name, e.kind, e.plus, e.minus, e.value * share, e.series_ohms)

    return Netlist(tuple(one(e) for e in netlist.elements))


def _driven(netlist: Netlist, one: str, other: str) -> tuple[float, dict[str, float]]:
    """Drive 1 A from `other` into `one`; return the resistance and the voltage of every node reached, V."""
    one, other = one.lower(), other.lower()
    for node in (one, other):
        if node not in netlist.nodes:
            listed = ", ".join(netlist.nodes[:12])
            raise RangeError(f"There is no node “{node}” in this circuit; there are {listed}.", value=node)
    if one == other:
        return 0.0, {one: 0.0}
    joined = [(e.plus, e.minus, 1 / ohms) for e in netlist.elements if (ohms := _ohms(e))]
    reached = _reached(other, joined)
    if one not in reached:
        return OPEN, {}
    places = {node: index for index, node in enumerate(n for n in reached if n != other)}
    matrix: NDArray[np.float64] = np.zeros((len(places), len(places)))
    for plus, minus, siemens in joined:
        for a, b in ((plus, minus), (minus, plus)):
            if a in places:
                matrix[places[a], places[a]] += siemens
                if b in places:
                    matrix[places[a], places[b]] -= siemens
    current = np.zeros(len(places))
    current[places[one]] = 1.0
    solved = np.linalg.solve(matrix, current)
    voltages = {node: float(solved[index]) for node, index in places.items()} | {other: 0.0}
    return voltages[one], voltages


def _ohms(e: Element) -> float:
    if e.kind == "R":
        return e.value
    return max(e.series_ohms, WINDING_OHMS) if e.kind == "L" else 0.0


def _reached(start: str, joined: list[tuple[str, str, float]]) -> tuple[str, ...]:
    seen, waiting = {start: None}, [start]
    beside: dict[str, list[str]] = {}
    for plus, minus, _ in joined:
        beside.setdefault(plus, []).append(minus)
        beside.setdefault(minus, []).append(plus)
    while waiting:
        for node in beside.get(waiting.pop(), ()):
            if node not in seen:
                seen[node] = None
                waiting.append(node)
    return tuple(seen)
