"""The elements of a network: what each puts into its equations, and how a voltage moves with its value.

An element is a frozen class with its stamp (C.-W. Ho, A. Ruehli and P. Brennan, The modified nodal approach to network
analysis, IEEE Trans. CAS-22, 1975) and its slope. A new kind is a class here and a line in `ELEMENTS`.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace
from typing import ClassVar, Protocol, Self

from candor.core.circuit.equations import AcEquations as AcEquations
from candor.core.circuit.equations import Equations as Equations
from candor.core.circuit.equations import Solution as Solution
from candor.core.circuit.equations import TimeEquations as TimeEquations
from candor.core.circuit.rectifiers import Curve, mercury, silicon, vacuum
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

WINDING_OHMS = (
    1e-3  # of an inductor whose winding was not given: far below any resistor beside it, and still solvable
)
CONTACT_OHMS = 1e-3  # of a closed switch: far below what stands beside it, and still solvable


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
    HOLDS_AT_DC : bool
        Whether it is at d.c. too: it holds a voltage.
    TERMINALS : int
        Two, or four where the voltage over two other nodes controls it.
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
    HOLDS_AT_DC: ClassVar[bool]
    TERMINALS: ClassVar[int]

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

    def at_frequency(self, equations: AcEquations, hertz: float) -> None:
        """Put its part into the equations of the network at a frequency, Hz."""

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
    HOLDS_AT_DC: ClassVar[bool] = False
    TERMINALS: ClassVar[int] = 2

    def with_value(self, value: float) -> Self:
        """Return the same element with another value."""
        return replace(self, value=value)

    def stamp(self, equations: Equations) -> None:
        """Nothing at d.c."""

    def at_frequency(self, equations: AcEquations, hertz: float) -> None:  # noqa: ARG002 - the shape of the protocol
        """Put the same into the equations at a frequency."""
        self.stamp(equations)

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

    def at_frequency(self, equations: AcEquations, hertz: float) -> None:
        """Put j omega C into the equations."""
        equations.admittance(self.plus, self.minus, 2j * math.pi * hertz * self.value)

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

    def at_frequency(self, equations: AcEquations, hertz: float) -> None:
        """Put its winding and j omega L into the equations."""
        equations.impedance(self.name, self.plus, self.minus, self.series_ohms + 2j * math.pi * hertz * self.value)

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
    HOLDS_AT_DC: ClassVar[bool] = True
    amplitude: float = 0.0
    hertz: float = 0.0

    def stamp(self, equations: Equations) -> None:
        """Hold its voltage."""
        equations.voltage(self.name, self.plus, self.minus, self.value)

    def at_frequency(self, equations: AcEquations, hertz: float) -> None:
        """Hold its amplitude where it swings at this frequency, else nothing."""
        swings = self.hertz > 0 and abs(self.hertz - hertz) <= 1e-9 * hertz
        equations.voltage(self.name, self.plus, self.minus, self.amplitude if swings else 0.0)

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

    def at_frequency(self, equations: AcEquations, hertz: float) -> None:
        """Nothing: what it drives does not swing."""

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

    def at_frequency(self, equations: AcEquations, hertz: float) -> None:  # noqa: ARG002
        """Raise RangeError: what rectifies has no answer at one frequency."""
        raise RangeError(worded("circuit.a_network_with_diodes_has_no", name=self.name), value=self.name)

    def in_time(self, equations: TimeEquations) -> None:
        """Put its curve into the equations."""
        equations.rectifier(self.name, self.plus, self.minus, self.curve)


@dataclass(frozen=True)
class _Controlled(_TwoNodes):
    """What the voltage over two other nodes controls."""

    SOURCE: ClassVar[bool] = True
    TERMINALS: ClassVar[int] = 4
    over: tuple[str, str] = ("0", "0")


@dataclass(frozen=True)
class ControlledVoltage(_Controlled):
    """A voltage of so many times the one over two other nodes: an amplifier."""

    LETTER: ClassVar[str] = "E"
    UNIT: ClassVar[str] = "V"
    EXAMPLE: ClassVar[str] = "E1 out 0 in 0 10"
    CONDUCTS: ClassVar[bool] = True
    HOLDS_AT_DC: ClassVar[bool] = True

    def stamp(self, equations: Equations) -> None:
        """Hold its voltage."""
        equations.controlled_voltage(self.name, self.plus, self.minus, self.over, self.value)

    def slope(self, here: Solution, adjoint: Solution) -> float:
        """Return dy/dA = λ of its own equation times what controls it."""
        return adjoint.through(self.name) * here.across(*self.over)


@dataclass(frozen=True)
class ControlledCurrent(_Controlled):
    """A current of so many siemens times the voltage over two other nodes: a tube's transconductance."""

    LETTER: ClassVar[str] = "G"
    UNIT: ClassVar[str] = "S"
    EXAMPLE: ClassVar[str] = "G1 plate 0 grid 0 2m"

    def stamp(self, equations: Equations) -> None:
        """Drive its current."""
        equations.controlled_current(self.plus, self.minus, self.over, self.value)

    def slope(self, here: Solution, adjoint: Solution) -> float:
        """Return dy/dg = -λ across it times what controls it."""
        return -adjoint.across(self.plus, self.minus) * here.across(*self.over)


@dataclass(frozen=True)
class Switch(_TwoNodes):
    """A contact of a switch: open as it is written; see Netlist.with_closed."""

    LETTER: ClassVar[str] = "S"
    UNIT: ClassVar[str] = ""
    EXAMPLE: ClassVar[str] = "S1 tap grid"

    def closed(self) -> Resistor:
        """Return it closed."""
        return Resistor(self.name, self.plus, self.minus, CONTACT_OHMS)


# By first letter.
ELEMENTS: Mapping[str, type[_TwoNodes]] = {
    kind.LETTER: kind
    for kind in (
        Resistor,
        Capacitor,
        Inductor,
        VoltageSource,
        CurrentSource,
        Diode,
        ControlledVoltage,
        ControlledCurrent,
        Switch,
    )
}
