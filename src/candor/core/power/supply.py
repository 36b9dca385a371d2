"""A supply, calculated: what every node does from cold, and what that asks of its rectifiers and capacitors."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping

from candor.core.circuit.elements import Diode, VoltageSource
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.circuit.time_steps import Envelope, March
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_quantity
from candor.core.worded import worded

MOST_NODES = 100  # a shop's supplies have ten to thirty; each costs time at every step
TEN_CYCLES = 10
MOST_S = 60.0  # that is let run where nothing says how long and it does not settle
ALL_BUT_AC = (
    0.95  # of the highest, below which the lowest is not a peak of its own: a winding swings alike to both sides
)


@dataclass(frozen=True)
class NodeVolts:
    """What a node did, V: over the last ten cycles, and ever.

    Attributes
    ----------
    mean, low, high, ripple : float
        Over the last ten cycles; ripple peak to peak.
    peak : float
        The highest ever; of a node that goes negative the lowest.
    """

    mean: float
    low: float
    high: float
    ripple: float
    peak: float


@dataclass(frozen=True)
class SupplyAnswer:
    """What a supply does from cold.

    Attributes
    ----------
    nodes : mapping of str to NodeVolts
    rectifier_peaks : mapping of str to (float, float)
        Of each rectifier's current: over the last ten cycles, and ever; A.
    ran_s : float
    settled : bool
        Whether nothing moves any more by more than a ten-thousandth.
    undischarged : tuple of str
        The capacitors that nothing discharges once the plug is out.
    envelope : Envelope
    """

    nodes: Mapping[str, NodeVolts]
    rectifier_peaks: Mapping[str, tuple[float, float]]
    ran_s: float
    settled: bool
    undischarged: tuple[str, ...]
    envelope: Envelope


def calculate_supply(
    netlist: Netlist, seconds: float | None = None, should_stop: Callable[[], bool] = lambda: False
) -> SupplyAnswer:
    """Let a supply run from cold, for so many s or until it has settled; V and A.

    Raises
    ------
    RangeError
        Where a node is joined to nothing, sources stand in a loop, or there are more nodes than any supply has.
    CancelledError
        When it was stopped.
    """
    count = len(netlist.nodes)
    if count > MOST_NODES:
        raise RangeError(
            worded("power.the_netlist_has_nodes_a_supply", count=count, most_nodes=MOST_NODES),
            value=str(count),
            expected=worded("power.nodes_at_most", most_nodes=MOST_NODES),
        )
    march = March(netlist)
    envelope = march.run(
        seconds or march.last_begin_s + MOST_S, until_settled=seconds is None, should_stop=should_stop
    )
    nodes = {node: _of_node(envelope, column) for column, node in enumerate(envelope.nodes)}
    last = envelope.peaks[-TEN_CYCLES:]
    peaks = {
        name: (float(last[:, index].max()), float(envelope.peaks[:, index].max()))
        for index, name in enumerate(envelope.diodes)
    }
    return SupplyAnswer(
        nodes=nodes,
        rectifier_peaks=peaks,
        ran_s=float(envelope.at_s[-1]),
        settled=envelope.settled,
        undischarged=without_bleeder(netlist),
        envelope=envelope,
    )


def read_stop(text: str) -> float | None:
    """Return how long a netlist itself asks to be run, s: the second figure of a line ``.tran 50u 2``; None where none is there.

    Raises
    ------
    ValueTextError
        Where that figure is not a time.
    """
    found = re.search(r"^\s*\.tran\s+(\S+)\s+(\S+)", text, re.I | re.M)
    return parse_quantity(found[2], "s").value if found else None


def _of_node(envelope: Envelope, column: int) -> NodeVolts:
    low, high = envelope.low[:, column], envelope.high[:, column]
    least, most = float(low[-TEN_CYCLES:].min()), float(high[-TEN_CYCLES:].max())
    highest, lowest = max(float(high.max()), 0.0), min(float(low.min()), 0.0)
    return NodeVolts(
        mean=float(envelope.mean[-TEN_CYCLES:, column].mean()),
        low=least,
        high=most,
        ripple=most - least,
        peak=highest if highest >= -lowest * ALL_BUT_AC else lowest,
    )


def is_supply(netlist: Netlist) -> bool:
    """Say whether something swings and something rectifies in a netlist."""
    swings = any(isinstance(e, VoltageSource) and e.amplitude > 0 for e in netlist.elements)
    return swings and any(isinstance(e, Diode) for e in netlist.elements)


def without_bleeder(netlist: Netlist) -> tuple[str, ...]:
    """Return the capacitors that nothing discharges once the sources are off: no path of resistors and windings joins their ends.

    A load that draws its current only while its tubes are warm is not a bleeder.
    """
    rest = netlist.at_rest()
    leader = {node: node for node in (GROUND, *rest.nodes)}

    def find(node: str) -> str:
        while leader[node] != node:
            node = leader[node]
        return node

    for e in rest.elements:
        if e.CONDUCTS:
            leader[find(e.plus)] = find(e.minus)
    return tuple(e.name for e in rest.elements if e.LETTER == "C" and find(e.plus) != find(e.minus))
