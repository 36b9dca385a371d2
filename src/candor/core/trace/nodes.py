"""Node voltages: what each should be and where that is from, what was measured with the meter's load taken out, and what follows.

A meter of R_m at a node of source resistance R_s reads V R_m / (R_m + R_s) of the open voltage V (voltage division). The drawing's
figures were read with a meter of so many ohm per volt on a range: its load is in them.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from typing import Literal

from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.circuit.resistance import OPEN
from candor.core.circuit.solve import Network
from candor.core.late_dataclass import dataclass

DRAWN = 0.20  # of a drawing's figure, where it says nothing finer: common practice, no source
CALCULATED = 0.25  # of what is calculated from network and tube curve: common practice, no source
SISTER = (
    0.10  # of what was measured on a healthy one: two such units differ by their parts, common practice, no source
)
NOTHING_V = 0.3  # under which a node that should be at 0 V is taken for that
METER_SHARE = 0.01  # of a bench meter's reading, where nothing is said of it: common practice, no source

Source = Literal["drawing", "calculated", "sister"]
State = Literal["as expected", "low", "high", "not expected", "should be 0"]


@dataclass(frozen=True)
class NodeExpected:
    """What a node should be at, open: V, the share it may be off by, and where that is from."""

    volts: float
    share: float
    source: Source


@dataclass(frozen=True)
class NodeMeasured:
    """A node as it was read, V, and the input resistance of the meter that read it, ohm; infinite where it loads nothing."""

    volts: float
    meter_ohms: float = math.inf


@dataclass(frozen=True)
class NodeJudged:
    """A node: open volts with the meter's load taken out, its source resistance, and what that means.

    Attributes
    ----------
    open_volts : float
        V.
    loading : float
        By how many V the meter pulled it down.
    state : "as expected", "low", "high", "not expected" or "should be 0"
    expected : NodeExpected or None
        What it was judged against; None where nothing says.
    """

    node: str
    open_volts: float
    loading: float
    state: State
    expected: NodeExpected | None


def source_resistance(netlist: Netlist | None, node: str, held: frozenset[str] = frozenset()) -> float:
    """Return what a node's voltage comes through, ohm, in a quiet network.

    Nodes that are `held`, such as rails, count as the chassis. Infinite where the network does not say.

    Raises
    ------
    RangeError
        Where the network has no one answer.
    """
    if netlist is None or node not in netlist.nodes:
        return OPEN
    return source_resistances(netlist, (node,), held - {node})[node]


def source_resistances(
    netlist: Netlist, nodes: Iterable[str], held: frozenset[str] = frozenset()
) -> Mapping[str, float]:
    """Return what the voltage of each node comes through, ohm, in a quiet network: see `source_resistance`.

    From one matrix for all: 1 A into a node raises it by its resistance to what is held (Ohm's law, superposition).

    Raises
    ------
    RangeError
        Where the network has no one answer.
    """
    return Network(_held(netlist, held).elements).resistances(nodes)


def _held(netlist: Netlist, held: frozenset[str]) -> Netlist:
    """The same with held nodes joined to the chassis."""
    from dataclasses import replace

    def at(node: str) -> str:
        return GROUND if node in held else node

    moved = (replace(e, plus=at(e.plus), minus=at(e.minus)) for e in netlist.at_rest().elements)  # type: ignore[type-var]
    return Netlist(tuple(e for e in moved if e.plus != e.minus))


def opened(measured: NodeMeasured, source_ohms: float) -> float:
    """Return the open voltage, V, of what a meter read through so many ohm: V (1 + R_s / R_m) (Ohm's law)."""
    if not math.isfinite(source_ohms) or not math.isfinite(measured.meter_ohms):
        return measured.volts
    return measured.volts * (1 + source_ohms / measured.meter_ohms)


def drawn_open(
    volts: float, source_ohms: float, ohms_per_volt: float, range_volts: float, line_ratio: float = 1.0
) -> float:
    """Return what a drawing's figure is, V, for this line and with the load of the meter it assumed taken out (Ohm's law).

    Parameters
    ----------
    volts : float
        As the drawing has it.
    source_ohms : float
    ohms_per_volt, range_volts : float
        Of the meter the drawing assumed; 0 for one that loads nothing.
    line_ratio : float
        The line as measured over the drawing's.
    """
    meter = ohms_per_volt * range_volts
    loaded = 1 + source_ohms / meter if meter > 0 and math.isfinite(source_ohms) else 1.0
    return volts * line_ratio * loaded


def judge_node(node: str, measured: NodeMeasured, expected: NodeExpected | None, source_ohms: float) -> NodeJudged:
    """Judge a node against what it should be, V: a fifth either way where nobody says more (common practice, no source)."""
    volts = opened(measured, source_ohms)

    def judged(state: State) -> NodeJudged:
        return NodeJudged(node=node, open_volts=volts, loading=volts - measured.volts, state=state, expected=expected)

    if expected is None:
        return judged("not expected")
    if abs(expected.volts) <= NOTHING_V:
        return judged("as expected" if abs(volts) <= NOTHING_V else "should be 0")
    if abs(volts - expected.volts) <= expected.share * abs(expected.volts):
        return judged("as expected")
    is_high = (volts - expected.volts) * math.copysign(1, expected.volts) > 0
    return judged("high" if is_high else "low")
