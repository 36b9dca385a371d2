"""What an ohmmeter reads across a resistor with everything connected, and what the reading can prove.

The resistance between two nodes can only rise when any resistor rises (Rayleigh's monotonicity law; P. G. Doyle and
J. L. Snell, Random Walks and Electric Networks, 1.4.1), so its limits are those with all parts high and all parts low.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

from candor.core.circuit.elements import Element, Resistor
from candor.core.circuit.netlist import Netlist
from candor.core.circuit.resistance import OPEN, resistance_across_all, resistance_between
from candor.core.errors import RangeError
from candor.core.finding import Figure, Finding
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

_ALONE = 1e-7  # of a part's conductance: what lies beside it counts as nothing below


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
    if part is None or not isinstance(part, Resistor):
        raise RangeError(worded("circuit.is_not_a_resistor_of_this", name=name), value=name)
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
    return InCircuit(
        expected=expected, low=low, high=high, alone_high=alone_high, others=others, convicts_from=convicts
    )


def all_in_circuit(netlist: Netlist, tolerances: Mapping[str, float], default: float = 0.1) -> dict[str, InCircuit]:
    """Return what `in_circuit` says for every resistor, from one inverse of each part of the network.

    R_ab = Y⁻¹_aa + Y⁻¹_bb - 2 Y⁻¹_ab; what lies beside a resistor follows from 1/R_ab - 1/R_k. `tolerances` and `default`
    are shares (0.05).
    """
    sides = [resistance_across_all(_scaled(netlist, tolerances, default, side)) for side in (0, -1, 1)]
    found = {}
    for e in netlist.elements:
        if not isinstance(e, Resistor):
            continue
        expected, low, high = (side[e.name] for side in sides)
        alone_high = e.value * (1 + tolerances.get(e.name, default))
        left = 1 / expected - 1 / e.value
        others = 1 / left if left * e.value > _ALONE else OPEN
        convicts = alone_high if math.isinf(others) else OPEN
        if math.isfinite(others) and others > alone_high:
            convicts = 1 / (1 / alone_high - 1 / others)
        found[e.name] = InCircuit(
            expected=expected, low=low, high=high, alone_high=alone_high, others=others, convicts_from=convicts
        )
    return found


def part_from_reading(reading: float, others: float) -> float:
    """Return the part's own resistance from a reading in circuit, ohm; infinite where the rest explains it all."""
    return reading if math.isinf(others) else 1 / (1 / reading - 1 / others) if reading < others else OPEN


def proved_in_circuit(name: str, reading: float, expanded: float, limits: InCircuit) -> Finding:
    """Return what a reading in circuit (ohm, with its expanded uncertainty) proves: ``in circuit.high``, ``in circuit.network``,
    or nothing, ``in circuit.nothing`` and ``in circuit.never``.

    A reading above the part's own high limit convicts it, as whatever lies beside it can only lower the reading. Above
    what the network can reach, something is high or open. Below says nothing alone: a parallel path may be the reason.
    """
    figures: dict[str, Figure] = {
        "ref": name, "read": reading, "own": limits.alone_high, "least": limits.low, "most": limits.high,
        "reach": limits.convicts_from,
    }  # fmt: skip
    if reading - expanded > limits.alone_high:
        return Finding("in circuit.high", figures)
    if reading - expanded > limits.high:
        return Finding("in circuit.network", figures)
    return Finding("in circuit.nothing" if limits.can_convict else "in circuit.never", figures)


def _scaled(netlist: Netlist, tolerances: Mapping[str, float], default: float, side: int) -> Netlist:
    def one(e: Element) -> Element:
        if not isinstance(e, Resistor):
            return e
        # A tolerance of 100 % or more must not make a resistance of nothing or less.
        return e.with_value(e.value * max(1 + side * tolerances.get(e.name, default), 1e-6))

    return Netlist(tuple(one(e) for e in netlist.elements))
