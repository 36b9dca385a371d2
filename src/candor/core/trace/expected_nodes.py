"""What nodes should be at, calculated from the network and the tubes in it.

Of a triode i = K (v_g + v_p/mu)^1.5 (Child's law; K. R. Spangenberg, Vacuum Tubes, 1948, chapter 8, from memory). Of a
tetrode or pentode the screen governs: i = K (v_g + v_s/mu)^1.5 leaves the cathode, mu from grid to screen, and the screen
takes its share of it, whatever the plate is at as long as that stands above the knee.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from candor.core.circuit.elements import CurrentSource
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.circuit.solve import operating_point
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

Array = NDArray[np.float64]
MOST_TURNS = 60
CLOSE = 1e-9  # A
SCREEN_SHARE = 0.2  # of a pentode's cathode current: between 0.15 and 0.3 in handbooks, from memory
KNEE = 0.2  # of the screen's volts, under which the plate's current falls: from memory


@dataclass(frozen=True)
class Tube:
    """A tube in the network: its nodes, its amplification factor, and the perveance of its plate current, A/V^1.5.

    `screen` is empty for a triode; else `mu` is that from grid to screen.
    """

    name: str
    plate: str
    grid: str
    cathode: str
    mu: float
    perveance: float
    screen: str = ""

    @property
    def governs(self) -> str:
        """The node whose volts draw its current with the grid's: the screen, or the plate."""
        return self.screen or self.plate

    @property
    def screen_share(self) -> float:
        """What share of the cathode's current the screen takes."""
        return SCREEN_SHARE if self.screen else 0.0


def perveance_of(amperes: float, plate_volts: float, grid_volts: float, mu: float) -> float:
    """Return K = I / (v_g + v_p/mu)^1.5, A/V^1.5, from one line of a handbook, V (Child's law for a triode).

    Raises
    ------
    RangeError
        Where a tube so driven would pass nothing.
    """
    drive = grid_volts + plate_volts / mu if mu > 0 else 0.0
    if drive <= 0 or amperes <= 0:
        raise RangeError(worded("trace.at_v_and_v_with_mu", plate_volts=plate_volts, grid_volts=grid_volts, mu=mu))
    return float(amperes / drive**1.5)


def calculate_nodes(netlist: Netlist, tubes: Sequence[Tube]) -> Mapping[str, float]:
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
        for node in (tube.plate, tube.grid, tube.cathode, tube.governs):
            if node not in known:
                raise RangeError(worded("trace.the_node_has_no_d_c", name=tube.name, node=node), value=node)
    names = list(rest)
    base = np.array([rest[n] for n in names])
    by_tube = np.array([_moved(netlist, tube, names, base) for tube in tubes]).T  # V per A, (nodes, tubes)
    place = {n: i for i, n in enumerate(names)}

    def drives(volts: Array) -> Array:
        made = [
            volts[place[t.grid]]
            - volts[place[t.cathode]]
            + (volts[place[t.governs]] - volts[place[t.cathode]]) / t.mu
            for t in tubes
        ]
        return np.array(made, np.float64)

    rows = np.array([drives(by_tube[:, k]) for k in range(len(tubes))]).T
    start, current = drives(base), np.zeros(len(tubes))
    k = np.array([t.perveance / (1 - t.screen_share) for t in tubes])
    for _ in range(MOST_TURNS):
        drive = np.maximum(start + rows @ current, 0.0)
        left = current - k * drive**1.5
        if np.abs(left).max() < CLOSE:
            volts = base + by_tube @ current
            found = dict(zip(names, (float(v) for v in volts), strict=True))
            _refuse_knee(tubes, found)
            return found
        slope = np.eye(len(tubes)) - (1.5 * k * np.sqrt(drive))[:, None] * rows
        current = np.maximum(current - np.linalg.solve(slope, left), 0.0)
    raise RangeError(worded("trace.the_tubes_find_no_state_with", listed=", ".join(t.name for t in tubes)))


def _moved(netlist: Netlist, tube: Tube, names: Sequence[str], base: Array) -> Array:
    """By how many V each node moves for an ampere that leaves its cathode; shape (nodes,)."""
    share = tube.screen_share
    draws = [CurrentSource(f"IP{tube.name.upper()}", tube.plate, tube.cathode, 1.0 - share)]
    draws += [CurrentSource(f"IS{tube.name.upper()}", tube.screen, tube.cathode, share)] if tube.screen else []
    drawn = Netlist((*netlist.elements, *draws))
    with_ = operating_point(drawn)
    return np.array([with_[n] for n in names], np.float64) - base


def _refuse_knee(tubes: Sequence[Tube], volts: Mapping[str, float]) -> None:
    for tube in tubes:
        low = volts[tube.plate] - volts[tube.cathode] < KNEE * (volts[tube.governs] - volts[tube.cathode])
        if tube.screen and low:
            raise RangeError(worded("trace.its_plate_comes_to_stand_below", name=tube.name), value=tube.plate)
