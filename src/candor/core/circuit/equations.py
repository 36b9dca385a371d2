"""What elements put themselves into: the equations of a network at d.c., at one frequency, in time; and what solves them."""

from __future__ import annotations

from typing import Protocol

from candor.core.circuit.rectifiers import Curve


class Equations(Protocol):
    """What a stamp is put into; nodes by name, the chassis is "0"."""

    def conductance(self, plus: str, minus: str, siemens: float) -> None:
        """Add a conductance between two nodes."""

    def current(self, plus: str, minus: str, amperes: float) -> None:
        """Add a current that flows from `plus` through the element to `minus`."""

    def voltage(self, name: str, plus: str, minus: str, volts: float) -> None:
        """Hold a voltage between two nodes; its current is an unknown of that name."""

    def controlled_voltage(self, name: str, plus: str, minus: str, over: tuple[str, str], gain: float) -> None:
        """Hold `gain` times the voltage over two other nodes between two nodes."""

    def controlled_current(self, plus: str, minus: str, over: tuple[str, str], siemens: float) -> None:
        """Let a current flow from `plus` through the element to `minus`: `siemens` times the voltage over two other nodes."""


class AcEquations(Equations, Protocol):
    """What goes on at one frequency: the same with complex numbers, and what stores and swings."""

    def admittance(self, plus: str, minus: str, siemens: complex) -> None:
        """Add an admittance between two nodes."""

    def impedance(self, name: str, plus: str, minus: str, ohms: complex) -> None:
        """Add an impedance between two nodes, which may be nothing; its current is an unknown of that name."""


class TimeEquations(Equations, Protocol):
    """What goes on in time: the same, and what stores, swings, rectifies or begins late."""

    def capacitance(self, name: str, plus: str, minus: str, farad: float) -> None:
        """Add a capacitance between two nodes."""

    def inductance(self, name: str, plus: str, minus: str, *, henry: float, ohms: float) -> None:
        """Add an inductance with its winding between two nodes."""

    def sine(self, name: str, plus: str, minus: str, *, amplitude: float, hertz: float) -> None:
        """Add a sine, V, to a voltage that is held."""

    def late_current(self, plus: str, minus: str, amperes: float, from_s: float) -> None:
        """Add a current that begins to flow at a time."""

    def rectifier(self, name: str, plus: str, minus: str, curve: Curve) -> None:
        """Add a diode with its curve."""


class Solution(Protocol):
    """Voltages and branch currents that solve the equations."""

    def across(self, plus: str, minus: str) -> float:
        """Return the voltage from `minus` to `plus`, V."""

    def through(self, name: str) -> float:
        """Return the current through a held voltage, A, from its plus to its minus node inside it."""
