"""The resistance between two nodes of a network at rest, and what follows from it.

At rest resistors are resistors, an inductor is its winding, capacitors are open once they are charged, sources are taken out
(a supply that is off), diodes do not conduct.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from candor.core.circuit.elements import Resistor
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.circuit.solve import Network
from candor.core.errors import RangeError
from candor.core.worded import worded

OPEN = math.inf


def resistance_between(netlist: Netlist, one: str, other: str) -> float:
    """Return the resistance between two nodes, ohm; infinite where nothing joins them.

    Raises
    ------
    RangeError
        Where a node is not of this netlist.
    """
    network = _network(netlist, one, other)
    if one.lower() == other.lower():
        return 0.0
    if one.lower() not in network.nodes:
        return OPEN
    return network.driven(one.lower(), other.lower()).volts(one.lower())


def sensitivities(netlist: Netlist, one: str, other: str) -> Mapping[str, float]:
    """Return dR/dR_k of the resistance between two nodes for every resistor k that a current can reach, ohm by ohm.

    With 1 A driven between the nodes the network is its own adjoint, so dR/dR_k = i_k², from the one solve
    (Tellegen's theorem).

    Raises
    ------
    RangeError
        Where a node is not of this netlist.
    """
    network = _network(netlist, one, other)
    if one.lower() not in network.nodes:
        return {}
    driven = network.driven(one.lower(), other.lower())
    resistors = {e.name for e in netlist.elements if isinstance(e, Resistor)}
    return {name: slope for name, slope in network.slopes(driven, driven).items() if name in resistors}


def divider_ratio(netlist: Netlist, top: str, tap: str, bottom: str = GROUND) -> float:
    """Return the voltage at `tap` for 1 V between `top` and `bottom`, nothing loading it.

    From three resistances: (R_top-bottom + R_tap-bottom - R_top-tap) / (2 R_top-bottom), by reciprocity (Kirchhoff's laws).

    Raises
    ------
    RangeError
        Where a node is not of this netlist.
    """
    whole = resistance_between(netlist, top, bottom)
    near, far = resistance_between(netlist, tap, bottom), resistance_between(netlist, top, tap)
    return (whole + near - far) / (2 * whole)


def resistance_across_all(netlist: Netlist) -> Mapping[str, float]:
    """Return the resistance across every resistor with everything connected, ohm, by its name.

    From one inverse of each part of the network that hangs together: R_ab = A⁻¹_aa + A⁻¹_bb - 2 A⁻¹_ab.
    """
    elements = netlist.at_rest().elements
    resistors = [e for e in elements if isinstance(e, Resistor)]
    found: dict[str, float] = {}
    while left := [e for e in resistors if e.name not in found]:
        network = Network(elements, left[0].minus)
        # The reference is the last row and column, of zeros.
        inverse = np.pad(np.linalg.inv(network.matrix), (0, 1))
        for e in left:
            if e.plus in network.nodes:
                a, b = (-1 if (at := network.index_of(node)) is None else at for node in (e.plus, e.minus))
                found[e.name] = float(inverse[a, a] + inverse[b, b] - 2 * inverse[a, b])
    return found


def _network(netlist: Netlist, one: str, other: str) -> Network:
    for node in (one.lower(), other.lower()):
        if node not in netlist.nodes:
            listed = ", ".join(netlist.nodes[:12])
            raise RangeError(worded("circuit.there_is_no_node_in_this", node=node, listed=listed), value=node)
    return Network(netlist.at_rest().elements, other.lower())
