"""The network at one frequency: complex node voltages by modified nodal analysis (Ho, Ruehli and Brennan 1975)."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.errors import RangeError
from candor.core.worded import worded

Complex = NDArray[np.complex128]


class _AtFrequency:
    """The equations at one frequency; see equations.AcEquations."""

    def __init__(self, netlist: Netlist, hertz: float) -> None:
        every = dict.fromkeys(node for e in netlist.elements for node in (e.plus, e.minus))
        self.nodes = tuple(node for node in every if node != GROUND)
        self._places = {node: i for i, node in enumerate(self.nodes)}
        holds = [e.name for e in netlist.elements if e.HOLDS_AT_DC or e.HOLDS_A_CURRENT]
        self._branches = {name: len(self.nodes) + i for i, name in enumerate(holds)}
        size = len(self.nodes) + len(holds)
        self._matrix: Complex = np.zeros((size, size), np.complex128)
        self._drive: Complex = np.zeros(size, np.complex128)
        for element in netlist.elements:
            element.at_frequency(self, hertz)

    def conductance(self, plus: str, minus: str, siemens: float) -> None:
        self.admittance(plus, minus, siemens)

    def admittance(self, plus: str, minus: str, siemens: complex) -> None:
        between = self._between(plus, minus)
        self._matrix += siemens * np.outer(between, between)

    def current(self, plus: str, minus: str, amperes: float) -> None:
        self._drive += amperes * self._between(minus, plus)

    def voltage(self, name: str, plus: str, minus: str, volts: float) -> None:
        branch = self._joined(name, plus, minus)
        self._drive[branch] += volts

    def impedance(self, name: str, plus: str, minus: str, ohms: complex) -> None:
        branch = self._joined(name, plus, minus)
        self._matrix[branch, branch] -= ohms

    def controlled_voltage(self, name: str, plus: str, minus: str, over: tuple[str, str], gain: float) -> None:
        branch = self._joined(name, plus, minus)
        self._matrix[branch, :] -= gain * self._between(*over)

    def controlled_current(self, plus: str, minus: str, over: tuple[str, str], siemens: float) -> None:
        self._matrix += siemens * np.outer(self._between(plus, minus), self._between(*over))

    def _joined(self, name: str, plus: str, minus: str) -> int:
        branch, between = self._branches[name], self._between(plus, minus)
        self._matrix[branch, :] += between
        self._matrix[:, branch] += between
        return branch

    def _between(self, plus: str, minus: str) -> Complex:
        vector = np.zeros(len(self._drive), np.complex128)
        for node, sign in ((plus, 1.0), (minus, -1.0)):
            if node in self._places:
                vector[self._places[node]] += sign
        return vector

    def solved(self) -> Mapping[str, complex]:
        try:
            found = np.linalg.solve(self._matrix, self._drive)
        except np.linalg.LinAlgError:
            raise RangeError(
                worded("circuit.this_circuit_has_no_one_answer"),
                value=", ".join(self.nodes[:6]),
            ) from None
        return {GROUND: 0j, **{node: complex(found[i]) for node, i in self._places.items()}}


def volts_at(netlist: Netlist, hertz: float) -> Mapping[str, complex]:
    """Return the complex voltage of every node at a frequency, V; sources that swing at it drive it, d.c. ones are nothing.

    Parameters
    ----------
    netlist : Netlist
        With its switches closed or gone; see Netlist.with_closed.
    hertz : float
        Above zero, Hz.

    Raises
    ------
    RangeError
        Where the frequency is none, a diode is in it, or there is no one answer.
    """
    if not hertz > 0:
        raise RangeError(worded("circuit.hz_is_not_a_frequency_above", hertz=hertz), value=str(hertz))
    return _AtFrequency(netlist, hertz).solved()
