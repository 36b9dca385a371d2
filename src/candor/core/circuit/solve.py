"""The network at d.c.: node voltages by modified nodal analysis, and how one moves with every value, by the adjoint.

The elements put their stamps into A x = s; x are the voltages of the nodes that a d.c. path joins to the reference and the
currents through held voltages. A voltage between two nodes is y = cᵀ x; with Aᵀ λ = c, one more solve, every element gives
dy/dp from x and λ (S. W. Director and R. A. Rohrer, The generalized adjoint network, IEEE Trans. CT-16, 1969).
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from candor.core.circuit.elements import Diode, Element
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.errors import RangeError
from candor.core.worded import worded

Vector = NDArray[np.float64]
DENSE_MOST = 150  # unknowns, up to which a dense solve is quicker


class Network:
    """The equations of the elements that a d.c. path joins to a reference node.

    Parameters
    ----------
    elements : iterable of Element
    reference : str
        The node held at 0 V.
    """

    def __init__(self, elements: Iterable[Element], reference: str = GROUND) -> None:
        every = tuple(elements)
        reached = reached_from(reference, every)
        self.nodes = tuple(reached)
        self._elements = tuple(e for e in every if e.plus in reached and e.minus in reached)
        held = [e.name for e in self._elements if e.HOLDS_AT_DC]
        free = [node for node in self.nodes if node != reference]
        self._places = {node: index for index, node in enumerate(free)}
        self._branches = {name: len(free) + index for index, name in enumerate(held)}
        size = len(free) + len(held)
        self._size = size
        self._stamps: dict[tuple[int, int], float] = {}
        self._drive: Vector = np.zeros(size)
        for element in self._elements:
            element.stamp(self)

    @cached_property
    def matrix(self) -> NDArray[np.float64]:
        """A, dense: shape (unknowns, unknowns)."""
        made = np.zeros((self._size, self._size))
        if self._stamps:
            rows, columns = zip(*self._stamps, strict=True)
            made[rows, columns] = list(self._stamps.values())
        return made

    def conductance(self, plus: str, minus: str, siemens: float) -> None:
        """Add a conductance between two nodes, S."""
        for a, b in ((plus, minus), (minus, plus)):
            if a in self._places:
                self._put(self._places[a], self._places[a], siemens)
                if b in self._places:
                    self._put(self._places[a], self._places[b], -siemens)

    def current(self, plus: str, minus: str, amperes: float) -> None:
        """Add a current that flows from `plus` through an element to `minus`, A."""
        for row, sign in self._ends(minus, plus):
            self._drive[row] += sign * amperes

    def voltage(self, name: str, plus: str, minus: str, volts: float) -> None:
        """Hold a voltage between two nodes, V."""
        branch = self._branches[name]
        for place, sign in self._ends(plus, minus):
            self._put(branch, place, sign)
            self._put(place, branch, sign)
        self._drive[branch] += volts

    def controlled_voltage(self, name: str, plus: str, minus: str, over: tuple[str, str], gain: float) -> None:
        """Hold `gain` times the voltage over two other nodes between two nodes."""
        branch = self._branches[name]
        for place, sign in self._ends(plus, minus):
            self._put(branch, place, sign)
            self._put(place, branch, sign)
        for place, sign in self._ends(*over):
            self._put(branch, place, -gain * sign)

    def controlled_current(self, plus: str, minus: str, over: tuple[str, str], siemens: float) -> None:
        """Let a current flow from `plus` to `minus`, S times the voltage over two other nodes."""
        for row, sign in self._ends(plus, minus):
            for column, by in self._ends(*over):
                self._put(row, column, siemens * sign * by)

    def _put(self, row: int, column: int, value: float) -> None:
        self._stamps[row, column] = self._stamps.get((row, column), 0.0) + value

    def _ends(self, plus: str, minus: str) -> list[tuple[int, float]]:
        """The rows of two nodes with their sign, those held at 0 V left out; none where both are one."""
        if plus == minus:
            return []
        return [(self._places[node], sign) for node, sign in ((plus, 1.0), (minus, -1.0)) if node in self._places]

    def solve(self) -> Solved:
        """Return the voltages and branch currents.

        Raises
        ------
        RangeError
            Where held voltages contradict or stand in parallel.
        """
        return Solved(self, self._solved(self._drive))

    def driven(self, plus: str, minus: str) -> Solved:
        """Return what 1 A driven from outside into `plus` and out of `minus` makes of it, its own sources aside."""
        return Solved(self, self._solved(self._between(plus, minus)))

    def resistances(self, nodes: Iterable[str]) -> Mapping[str, float]:
        """Return the resistance from each node to the reference, ohm; infinite where no d.c. path joins them."""
        asked = tuple(dict.fromkeys(nodes))
        places = [self._places.get(node) for node in asked]
        inside = [place for place in places if place is not None]
        drive = np.zeros((self._size, len(inside)))
        drive[inside, range(len(inside))] = 1.0
        solved = self._solved(drive) if inside else drive
        found = {place: float(solved[place, column]) for column, place in enumerate(inside)}
        return {
            node: 0.0 if node == self.nodes[0] else math.inf if place is None else found[place]
            for node, place in zip(asked, places, strict=True)
        }

    def adjoint(self, plus: str, minus: str) -> Solved:
        """Return the adjoint solution for the voltage between two nodes: Aᵀ λ = c."""
        return Solved(self, self._solved(self._between(plus, minus), turned=True))

    def slopes(self, here: Solved, adjoint: Solved) -> Mapping[str, float]:
        """Return by how much the output of the adjoint moves for a unit of every element's value."""
        return {e.name: e.slope(here, adjoint) for e in self._elements}

    def index_of(self, node: str) -> int | None:
        """Return the row of a node in the matrix, None for the reference."""
        return self._places.get(node)

    def row_of(self, name: str) -> int:
        """Return the row of a held voltage's current."""
        return self._branches[name]

    def _between(self, plus: str, minus: str) -> Vector:
        vector: Vector = np.zeros(self._size)
        for row, sign in self._ends(plus, minus):
            vector[row] += sign
        return vector

    def _solved(self, drive: Vector, turned: bool = False) -> Vector:
        # Symmetric but for controlled sources.
        try:
            if self._size > DENSE_MOST:
                return self._solved_sparse(drive, turned)
            solved = np.asarray(np.linalg.solve(self.matrix.T if turned else self.matrix, drive), np.float64)
        except np.linalg.LinAlgError:
            held = ", ".join(self._branches)
            raise RangeError(worded("circuit.the_voltages_contradict_each_other_or", held=held), value=held) from None
        return solved

    def _solved_sparse(self, drive: Vector, turned: bool) -> Vector:
        """As `_solved`, by what is in the matrix alone: a net joins each node to few others."""
        from scipy.sparse import csc_array  # imported here: only large nets need it, and it is slow to load
        from scipy.sparse.linalg import splu

        rows, columns = zip(*self._stamps, strict=True)
        matrix = csc_array((list(self._stamps.values()), (rows, columns)), shape=(self._size, self._size))
        try:
            return np.asarray(splu(matrix).solve(drive, "T" if turned else "N"), np.float64)
        except RuntimeError:  # singular
            raise np.linalg.LinAlgError from None


class Solved:
    """Voltages and branch currents that solve a network; see elements.Solution."""

    def __init__(self, network: Network, unknowns: Vector) -> None:
        self._network, self._unknowns = network, unknowns

    def volts(self, node: str) -> float:
        """Return the voltage of a node to the reference, V."""
        index = self._network.index_of(node)
        return 0.0 if index is None else float(self._unknowns[index])

    def across(self, plus: str, minus: str) -> float:
        """Return the voltage from `minus` to `plus`, V."""
        return self.volts(plus) - self.volts(minus)

    def through(self, name: str) -> float:
        """Return the current through a held voltage, A, from its plus to its minus node inside it."""
        return float(self._unknowns[self._network.row_of(name)])


def operating_point(netlist: Netlist) -> Mapping[str, float]:
    """Return the voltage of every node that a d.c. path joins to the chassis, V.

    Raises
    ------
    RangeError
        Where a diode is in it, a current has no way back, or held voltages contradict.
    """
    network = _powered(netlist)
    solved = network.solve()
    return {node: solved.volts(node) for node in network.nodes}


def voltage_slopes(netlist: Netlist, one: str, other: str = GROUND) -> Mapping[str, float]:
    """Return d(v_one - v_other)/dp for the value p of every element: V/ohm, V/V, V/A.

    Raises
    ------
    RangeError
        As `operating_point`, and where a node has no voltage.
    """
    network = _powered(netlist)
    for node in (one.lower(), other.lower()):
        if node not in network.nodes:
            raise RangeError(worded("circuit.the_node_has_no_d_c", node=node), value=node)
    return network.slopes(network.solve(), network.adjoint(one.lower(), other.lower()))


def _powered(netlist: Netlist) -> Network:
    diodes = [e.name for e in netlist.elements if isinstance(e, Diode)]
    if diodes:
        raise RangeError(worded("circuit.a_network_with_diodes_is_not", listed=", ".join(diodes)), value=diodes[0])
    network = Network(netlist.elements)
    for e in netlist.elements:
        if e.SOURCE and not e.CONDUCTS and not {e.plus, e.minus} <= set(network.nodes):
            raise RangeError(worded("circuit.the_current_of_has_no_way", name=e.name), value=e.name)
    return network


def reached_from(start: str, elements: Iterable[Element]) -> Mapping[str, None]:
    """Return the nodes that a d.c. path joins to `start`, itself the first."""
    beside: dict[str, list[str]] = {}
    for e in elements:
        if e.CONDUCTS:
            beside.setdefault(e.plus, []).append(e.minus)
            beside.setdefault(e.minus, []).append(e.plus)
    seen, waiting = {start: None}, [start]
    while waiting:
        for node in beside.get(waiting.pop(), ()):
            if node not in seen:
                seen[node] = None
                waiting.append(node)
    return seen
