"""What nodes should be at, reckoned from the network and the tubes in it: i = K (v_g + v_p/mu)^1.5 of each (Child's law for a
triode; K. R. Spangenberg, Vacuum Tubes, 1948, chapter 8, from memory).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from candor.core.circuit.elements import CurrentSource
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.circuit.solve import operating_point
from candor.core.errors import RangeError

Array = NDArray[np.float64]
MOST_TURNS = 60
CLOSE = 1e-9  # A


@dataclass(frozen=True)
class Triode:
    """A tube in the network: its nodes, its amplification factor, and its perveance, A/V^1.5."""

    name: str
    plate: str
    grid: str
    cathode: str
    mu: float
    perveance: float

    def amperes(self, drive: float) -> float:
        """Return the plate current, A, for v_g + v_p/mu, V."""
        return float(self.perveance * max(drive, 0.0) ** 1.5)


def perveance_of(amperes: float, plate_volts: float, grid_volts: float, mu: float) -> float:
    """Return K = I / (v_g + v_p/mu)^1.5, A/V^1.5, from one line of a handbook, V (Child's law for a triode).

    Raises
    ------
    RangeError
        Where a tube so driven would pass nothing.
    """
    drive = grid_volts + plate_volts / mu if mu > 0 else 0.0
    if drive <= 0 or amperes <= 0:
        raise RangeError(
            f"At {plate_volts:g} V and {grid_volts:g} V with mu {mu:g} no current flows; is the grid's sign right?"
        )
    return float(amperes / drive**1.5)


def reckon_nodes(netlist: Netlist, tubes: Sequence[Triode]) -> Mapping[str, float]:
    """Return the voltage of every node, V, with the tubes drawing by their curves.

    The network answers to their currents in proportion, so that it is solved once at rest and once for each tube; what is left is
    as many equations as there are tubes.

    Raises
    ------
    RangeError
        Where the network has no answer, or the tubes find none with it.
    """
    rest = operating_point(netlist)
    if not tubes:
        return rest
    known = set(rest) | {GROUND}
    for tube in tubes:
        for node in (tube.plate, tube.grid, tube.cathode):
            if node not in known:
                raise RangeError(f"{tube.name}: the node “{node}” has no d.c. path to the chassis.", value=node)
    names = list(rest)
    base = np.array([rest[n] for n in names])
    by_tube = np.array([_moved(netlist, tube, names, base) for tube in tubes]).T  # V per A, (nodes, tubes)
    place = {n: i for i, n in enumerate(names)}

    def drives(volts: Array) -> Array:
        made = [
            volts[place[t.grid]] - volts[place[t.cathode]] + (volts[place[t.plate]] - volts[place[t.cathode]]) / t.mu
            for t in tubes
        ]
        return np.array(made, np.float64)

    rows = np.array([drives(by_tube[:, k]) for k in range(len(tubes))]).T
    start, current = drives(base), np.zeros(len(tubes))
    k = np.array([t.perveance for t in tubes])
    for _ in range(MOST_TURNS):
        drive = np.maximum(start + rows @ current, 0.0)
        left = current - k * drive**1.5
        if np.abs(left).max() < CLOSE:
            volts = base + by_tube @ current
            return dict(zip(names, (float(v) for v in volts), strict=True))
        slope = np.eye(len(tubes)) - (1.5 * k * np.sqrt(drive))[:, None] * rows
        current = np.maximum(current - np.linalg.solve(slope, left), 0.0)
    raise RangeError(f"The tubes {', '.join(t.name for t in tubes)} find no state with this network.")


def _moved(netlist: Netlist, tube: Triode, names: Sequence[str], base: Array) -> Array:
    """By how many V each node moves for an ampere from plate to cathode; shape (nodes,)."""
    drawn = Netlist((*netlist.elements, CurrentSource(f"IX{tube.name.upper()}", tube.plate, tube.cathode, 1.0)))
    with_ = operating_point(drawn)
    return np.array([with_[n] for n in names], np.float64) - base
