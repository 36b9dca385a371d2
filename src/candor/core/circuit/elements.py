"""The elements of a network: what each puts into its equations, and how a voltage moves with its value.

An element is a frozen class with its stamp (C.-W. Ho, A. Ruehli and P. Brennan, The modified nodal approach to network
analysis, IEEE Trans. CAS-22, 1975) and its slope. A new kind is a class here and a line in `ELEMENTS`.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Protocol, Self

from candor.core.circuit.rectifiers import Curve, mercury, silicon, vacuum

WINDING_OHMS = (
    1e-3  # of an inductor whose winding was not given: far below any resistor beside it, and still solvable
)


class Equations(Protocol):
    """What a stamp is put into; nodes by name, the chassis is "0"."""

    def conductance(self, plus: str, minus: str, siemens: float) -> None:
        """Add a conductance between two nodes."""

    def current(self, plus: str, minus: str, amperes: float) -> None:
        """Add a current that flows from `plus` through the element to `minus`."""

    def voltage(self, name: str, plus: str, minus: str, volts: float) -> None:
        """Hold a voltage between two nodes; its current is an unknown of that name."""


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


class Element(Protocol):
    """An element between two nodes.

    Attributes
    ----------
    LETTER : str
        First letter of its designator in a netlist.
    UNIT : str
        Of its value; empty where it has none.
    EXAMPLE : str
        A line of a netlist.
    OPTIONS : mapping of str to (str, str)
        Keys that may follow its value, the field each fills, and its unit.
    POSITIVE : bool
        Whether its value must be above zero.
    SWINGS : bool
        Whether its value may be a sine, and with `DRAWS_LATE` whether a current.
    CONDUCTS : bool
        Whether it joins its nodes at d.c., so that one has a voltage where the other has.
    SOURCE : bool
        Whether it drives the network: taken out of a network at rest.
    HOLDS_A_CURRENT : bool
        Whether its current is an unknown in time.
    """

    LETTER: ClassVar[str]
    UNIT: ClassVar[str]
    EXAMPLE: ClassVar[str]
    OPTIONS: ClassVar[Mapping[str, tuple[str, str]]]
    SWINGS: ClassVar[bool]
    POSITIVE: ClassVar[bool]
    CONDUCTS: ClassVar[bool]
    SOURCE: ClassVar[bool]
    HOLDS_A_CURRENT: ClassVar[bool]

    @property
    def name(self) -> str:
        """Designator, in capitals."""

    @property
    def plus(self) -> str:
        """Its first node."""

    @property
    def minus(self) -> str:
        """Its second node."""

    @property
    def value(self) -> float:
        """SI: ohm, F, H, V or A; 0 for a diode."""

    def with_value(self, value: float) -> Self:
        """Return the same element with another value."""

    def stamp(self, equations: Equations) -> None:
        """Put its part into the equations of the network at d.c."""

    def in_time(self, equations: TimeEquations) -> None:
        """Put its part into the equations of the network in time."""

    def slope(self, here: Solution, adjoint: Solution) -> float:
        """Return by how much an output moves for a unit of this value: dy/dp = λᵀ (ds/dp - dA/dp x)."""


@dataclass(frozen=True)
class _TwoNodes:
    name: str
    plus: str
    minus: str
    value: float = 0.0

    LETTER: ClassVar[str] = ""
    UNIT: ClassVar[str] = ""
    EXAMPLE: ClassVar[str] = ""
    OPTIONS: ClassVar[Mapping[str, tuple[str, str]]] = {}
    SWINGS: ClassVar[bool] = False
    POSITIVE: ClassVar[bool] = False
    CONDUCTS: ClassVar[bool] = False
    SOURCE: ClassVar[bool] = False
    HOLDS_A_CURRENT: ClassVar[bool] = False

    def with_value(self, value: float) -> Self:
        """Return the same element with another value."""
        return replace(self, value=value)

    def stamp(self, equations: Equations) -> None:
        """Nothing at d.c."""

    def in_time(self, equations: TimeEquations) -> None:
        """Put the same into the equations in time."""
        self.stamp(equations)

    def slope(self, here: Solution, adjoint: Solution) -> float:  # noqa: ARG002 - the shape of the protocol
        """Nothing depends on it at d.c."""
        return 0.0


@dataclass(frozen=True)
class Resistor(_TwoNodes):
    """A resistor, ohm."""

    LETTER: ClassVar[str] = "R"
    UNIT: ClassVar[str] = "ohm"
    EXAMPLE: ClassVar[str] = "R24 grid 0 330k"
    POSITIVE: ClassVar[bool] = True
    CONDUCTS: ClassVar[bool] = True

    def stamp(self, equations: Equations) -> None:
        """Put its conductance into the equations."""
        equations.conductance(self.plus, self.minus, 1 / self.value)

    def slope(self, here: Solution, adjoint: Solution) -> float:
        """Return dy/dR = v λ / R²."""
        return here.across(self.plus, self.minus) * adjoint.across(self.plus, self.minus) / self.value**2


@dataclass(frozen=True)
class Capacitor(_TwoNodes):
    """A capacitor, F: open once it is charged."""

    LETTER: ClassVar[str] = "C"
    UNIT: ClassVar[str] = "F"
    EXAMPLE: ClassVar[str] = "C8 plate grid 0.05u"
    POSITIVE: ClassVar[bool] = True

    def in_time(self, equations: TimeEquations) -> None:
        """Put its capacitance into the equations."""
        equations.capacitance(self.name, self.plus, self.minus, self.value)


@dataclass(frozen=True)
class Inductor(_TwoNodes):
    """An inductor, H, with the resistance of its winding, ohm: at d.c. it is its winding."""

    LETTER: ClassVar[str] = "L"
    UNIT: ClassVar[str] = "H"
    EXAMPLE: ClassVar[str] = "L1 rect b+ 8 r=200"
    OPTIONS: ClassVar[Mapping[str, tuple[str, str]]] = {"r": ("series_ohms", "ohm")}
    POSITIVE: ClassVar[bool] = True
    CONDUCTS: ClassVar[bool] = True
    HOLDS_A_CURRENT: ClassVar[bool] = True
    series_ohms: float = 0.0

    def stamp(self, equations: Equations) -> None:
        """Put its winding into the equations."""
        equations.conductance(self.plus, self.minus, 1 / max(self.series_ohms, WINDING_OHMS))

    def in_time(self, equations: TimeEquations) -> None:
        """Put its inductance and its winding into the equations."""
        equations.inductance(self.name, self.plus, self.minus, henry=self.value, ohms=self.series_ohms)


@dataclass(frozen=True)
class VoltageSource(_TwoNodes):
    """A held voltage, V, and a sine on it: amplitude V at Hz; at d.c. the sine is nothing."""

    LETTER: ClassVar[str] = "V"
    UNIT: ClassVar[str] = "V"
    EXAMPLE: ClassVar[str] = "V1 b+ 0 250” or “V1 a 0 sin(0 440 50)"
    SWINGS: ClassVar[bool] = True
    CONDUCTS: ClassVar[bool] = True
    SOURCE: ClassVar[bool] = True
    HOLDS_A_CURRENT: ClassVar[bool] = True
    amplitude: float = 0.0
    hertz: float = 0.0

    def stamp(self, equations: Equations) -> None:
        """Hold its voltage."""
        equations.voltage(self.name, self.plus, self.minus, self.value)

    def in_time(self, equations: TimeEquations) -> None:
        """Hold its voltage, and swing it."""
        self.stamp(equations)
        if self.amplitude:
            equations.sine(self.name, self.plus, self.minus, amplitude=self.amplitude, hertz=self.hertz)

    def slope(self, here: Solution, adjoint: Solution) -> float:  # noqa: ARG002
        """Return dy/dV: the adjoint's unknown of its own equation."""
        return adjoint.through(self.name)


@dataclass(frozen=True)
class CurrentSource(_TwoNodes):
    """A driven current, A, from its first node through it to its second; `from_s` is when a load begins to draw it."""

    LETTER: ClassVar[str] = "I"
    UNIT: ClassVar[str] = "A"
    EXAMPLE: ClassVar[str] = "I1 b+ 0 10m"
    OPTIONS: ClassVar[Mapping[str, tuple[str, str]]] = {"from": ("from_s", "s")}
    SOURCE: ClassVar[bool] = True
    from_s: float = 0.0

    def stamp(self, equations: Equations) -> None:
        """Drive its current."""
        equations.current(self.plus, self.minus, self.value)

    def in_time(self, equations: TimeEquations) -> None:
        """Drive its current from the moment it begins."""
        equations.late_current(self.plus, self.minus, self.value, self.from_s)

    def slope(self, here: Solution, adjoint: Solution) -> float:  # noqa: ARG002
        """Return dy/dI = -λ across it."""
        return -adjoint.across(self.plus, self.minus)


@dataclass(frozen=True)
class Diode(_TwoNodes):
    """A rectifier: silicon, mercury vapour (`drop`) or vacuum (`perveance`); it does not conduct in a network at rest.

    Attributes
    ----------
    saturation, emission, series_ohms : float
        Silicon: i = IS (exp(v/(N VT)) - 1) with RS in series; A, 1, ohm.
    drop : float
        Mercury vapour: V at any current; 0 for another kind.
    perveance : float
        Vacuum: A/V^1.5 of i = P v^1.5; 0 for another kind.
    """

    LETTER: ClassVar[str] = "D"
    UNIT: ClassVar[str] = ""
    EXAMPLE: ClassVar[str] = "D1 a k"
    OPTIONS: ClassVar[Mapping[str, tuple[str, str]]] = {
        "is": ("saturation", "A"), "n": ("emission", ""), "rs": ("series_ohms", ""), "drop": ("drop", "V"),
        "perveance": ("perveance", ""),
    }  # fmt: skip
    saturation: float = 1e-9
    emission: float = 1.5
    series_ohms: float = 1.0
    drop: float = 0.0
    perveance: float = 0.0

    @property
    def curve(self) -> Curve:
        """Its current against its voltage."""
        if self.perveance:
            return vacuum(self.perveance)
        return mercury(self.drop) if self.drop else silicon(self.saturation, self.emission, self.series_ohms)

    def in_time(self, equations: TimeEquations) -> None:
        """Put its curve into the equations."""
        equations.rectifier(self.name, self.plus, self.minus, self.curve)


# By first letter.
ELEMENTS: Mapping[str, type[_TwoNodes]] = {
    kind.LETTER: kind for kind in (Resistor, Capacitor, Inductor, VoltageSource, CurrentSource, Diode)
}
