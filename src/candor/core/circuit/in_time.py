"""What the elements write down of a network in time: E x' + A x = s(t), and what has no answer, refused by name."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import field

import numpy as np
from numpy.typing import NDArray

from candor.core.circuit.elements import Element
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.circuit.rectifiers import Curve
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

Array = NDArray[np.float64]
LEAST_WINDING_OHMS = 1e-3  # of an inductor whose winding was not given


@dataclass(frozen=True)
class RectifierRow:
    """A rectifier: its voltage as a row over the unknowns, and its curve."""

    name: str
    row: Array
    curve: Curve


@dataclass
class Written:
    """Rows and columns while the elements write themselves down."""

    places: Mapping[str, int]
    size: int
    conductances: Array
    held: dict[str, int]
    # What is stored (a voltage, a current), where it enters, and how much of it: F, -H.
    storing: list[tuple[Array, Array, float]] = field(default_factory=list)
    names: list[str] = field(default_factory=list)
    drive: Array = field(default_factory=lambda: np.zeros(0))
    late: list[tuple[Array, float]] = field(default_factory=list)
    sines: list[tuple[Array, float]] = field(default_factory=list)
    diodes: list[RectifierRow] = field(default_factory=list)

    def between(self, plus: str, minus: str) -> Array:
        """Return the row of a voltage between two nodes, shape (unknowns,)."""
        vector = np.zeros(self.size)
        for node, sign in ((plus, 1.0), (minus, -1.0)):
            if node in self.places:
                vector[self.places[node]] += sign
        return vector

    def conductance(self, plus: str, minus: str, siemens: float) -> None:
        """Add a conductance between two nodes, S."""
        across = self.between(plus, minus)
        self.conductances += siemens * np.outer(across, across)

    def current(self, plus: str, minus: str, amperes: float) -> None:
        """Add a current that flows from `plus` through an element to `minus`, A."""
        self.drive += amperes * self.between(minus, plus)

    def late_current(self, plus: str, minus: str, amperes: float, from_s: float) -> None:
        """Add a current, A, that begins to flow at a time, s."""
        if from_s <= 0:
            self.current(plus, minus, amperes)
        else:
            self.late.append((amperes * self.between(minus, plus), from_s))

    def _branch(self, name: str, plus: str, minus: str) -> Array:
        across = self.between(plus, minus)
        self.conductances[self.held[name], :] += across
        self.conductances[:, self.held[name]] += across
        unit = np.zeros(self.size)
        unit[self.held[name]] = 1.0
        return unit

    def voltage(self, name: str, plus: str, minus: str, volts: float) -> None:
        """Hold a voltage between two nodes, V."""
        self.drive += volts * self._branch(name, plus, minus)

    def sine(self, name: str, plus: str, minus: str, *, amplitude: float, hertz: float) -> None:  # noqa: ARG002
        """Add a sine to a voltage that is held: V, Hz."""
        unit = np.zeros(self.size)
        unit[self.held[name]] = amplitude
        self.sines.append((unit, hertz))

    def controlled_voltage(self, name: str, plus: str, minus: str, over: tuple[str, str], gain: float) -> None:  # noqa: ARG002
        """Raise RangeError: supplies are calculated in time without amplifiers."""
        raise RangeError(worded("circuit.a_supply_is_calculated_in_time_without", name=name), value=name)

    def controlled_current(self, plus: str, minus: str, over: tuple[str, str], siemens: float) -> None:  # noqa: ARG002
        """Raise RangeError: supplies are calculated in time without tubes as amplifiers."""
        raise RangeError(worded("circuit.a_supply_is_calculated_in_time", plus=plus), value=plus)

    def capacitance(self, name: str, plus: str, minus: str, farad: float) -> None:
        """Add a capacitance between two nodes, F."""
        across = self.between(plus, minus)
        self.names.append(name)
        self.storing.append((across, across, farad))

    def inductance(self, name: str, plus: str, minus: str, *, henry: float, ohms: float) -> None:
        """Add an inductance, H, with its winding, ohm."""
        unit = self._branch(name, plus, minus)
        self.conductances -= max(ohms, LEAST_WINDING_OHMS) * np.outer(unit, unit)
        self.names.append(name)
        self.storing.append((unit, unit, -henry))

    def rectifier(self, name: str, plus: str, minus: str, curve: Curve) -> None:
        """Add a diode with its curve."""
        self.diodes.append(RectifierRow(name, self.between(plus, minus), curve))


def written_down(netlist: Netlist) -> Written:
    """Return what the elements of a netlist write down."""
    nodes = {node: index for index, node in enumerate(netlist.nodes[1:])}
    held = [e.name for e in netlist.elements if e.HOLDS_A_CURRENT]
    size = len(nodes) + len(held)
    building = Written(
        places=nodes,
        size=size,
        conductances=np.zeros((size, size)),
        held={name: len(nodes) + index for index, name in enumerate(held)},
        drive=np.zeros(size),
    )
    for element in netlist.elements:
        element.in_time(building)
    return building


def _groups(elements: Sequence[Element], nodes: Sequence[str]) -> Mapping[str, str]:
    """Return for every node one that stands for all it is joined with."""
    leader = {node: node for node in nodes}

    def find(node: str) -> str:
        while leader[node] != node:
            node = leader[node]
        return node

    for e in elements:
        leader[find(e.plus)] = find(e.minus)
    return {node: find(node) for node in nodes}


def refuse_islands(netlist: Netlist) -> None:
    """Refuse a network that has nodes joined to nothing.

    Raises
    ------
    RangeError
        With their names.
    """
    groups = _groups([e for e in netlist.elements if not (e.SOURCE and not e.CONDUCTS)], netlist.nodes)
    adrift = [node for node in netlist.nodes if groups[node] != groups[GROUND]]
    if adrift:
        raise RangeError(
            worded("circuit.nothing_joins_to_the_chassis_node", listed=", ".join(adrift[:6])),
            value=adrift[0],
        )


def refuse_source_loops(elements: Sequence[Element]) -> None:
    """Refuse a network in which held voltages alone form a loop.

    Raises
    ------
    RangeError
        With the one that closes it.
    """
    sources = [e for e in elements if e.SOURCE and e.CONDUCTS]
    for index, e in enumerate(sources):
        before = sources[:index]
        nodes = {n for x in (*before, e) for n in (x.plus, x.minus)}
        groups = _groups(before, sorted(nodes))
        if groups[e.plus] == groups[e.minus]:
            others = ", ".join(x.name for x in before)
            raise RangeError(
                worded("circuit.closes_a_loop_of_sources_its", name=e.name, others=others),
                value=e.name,
            )
