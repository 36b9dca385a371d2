"""How far a circuit may be driven before a part reaches what it is known to bear: volts over it, watts in it.

The circuit is linear: the volts over a part are those of its own sources plus so much for each unit that is applied. Both are added
by amount, whatever their signs: leads are put on the wrong way round too.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from typing import Literal

from candor.core.circuit.at_frequency import volts_at
from candor.core.circuit.elements import Capacitor, Element, Resistor
from candor.core.circuit.netlist import Netlist, joined_to_ground
from candor.core.circuit.solve import operating_point
from candor.core.late_dataclass import dataclass

Pair = tuple[str, str]

# What resistors of so many watts bear in volts, where nobody states it: common practice, no source.
USUAL_VOLTS = ((0.125, 150.0), (0.25, 250.0), (0.5, 350.0), (1.0, 500.0), (2.0, 700.0))


@dataclass(frozen=True)
class Drive:
    """What lies over one part: at rest, V; V more for each unit applied, d.c. and r.m.s. of a.c.; its ohms, 0 where none."""

    rest: float
    direct: float
    swing: float
    ohms: float

    def peak(self, applied: float) -> float:
        """Return the most over it, V."""
        return self.rest + (self.direct + math.sqrt(2) * self.swing) * abs(applied)

    def watts(self, applied: float) -> float:
        """Return the heat in it, W: d.c. squared plus r.m.s. squared, over its ohms."""
        if not self.ohms:
            return 0.0
        return ((self.rest + self.direct * abs(applied)) ** 2 + (self.swing * applied) ** 2) / self.ohms


@dataclass(frozen=True)
class Bears:
    """What a part is known to bear, V and W; infinite where that does not limit it. `by`: how its volts are known."""

    volts: float = math.inf
    watts: float = math.inf
    by: Literal["rating", "usual", "own use"] = "rating"

    def share(self, drive: Drive, applied: float) -> float:
        """Return what lies over it or heats it over what it bears, the greater."""
        return max(_over(drive.peak(applied), self.volts), _over(drive.watts(applied), self.watts))


def drives(
    netlist: Netlist,
    source: Callable[[float], Element],
    over: Iterable[Pair],
    hertz: float = 0.0,
    held: Callable[[Mapping[str, complex]], tuple[Element, ...]] | None = None,
) -> dict[str, Drive]:
    """Return what lies over each resistor and capacitor, and over pairs of nodes (``a-b``), for what is applied.

    Parameters
    ----------
    netlist : Netlist
        With its contacts closed.
    source : callable
        Makes the source of so many units (V or A; r.m.s. at a frequency).
    over : iterable of (str, str)
    hertz : float
        0: d.c.
    held : callable, optional
        From the volts of one unit at the frequency (r.m.s.) the d.c. sources that follow it, a rectifier's.

    Raises
    ------
    RangeError
        Where the circuit has no one answer.
    """
    parts = [e for e in netlist.elements if isinstance(e, Resistor | Capacitor) and e.name[:1] == e.LETTER]
    places = {e.name: (e.plus, e.minus) for e in parts} | {f"{a}-{b}": (a.lower(), b.lower()) for a, b in over}
    ohms = {e.name: e.value for e in parts if isinstance(e, Resistor)}
    swing: Mapping[str, complex] = {}
    nothing: tuple[Element, ...] = (source(0.0),)  # of volts a short: what is applied has no resistance of its own
    applied: tuple[Element, ...] = (source(1.0),)
    if hertz:
        swing = volts_at(joined_to_ground(Netlist((*netlist.elements, *applied))), hertz)
        nothing, applied = ((*nothing, *(held({}) if held else ())), (*nothing, *(held(swing) if held else ())))
    rest = operating_point(Netlist((*netlist.elements, *nothing)))
    driven = operating_point(Netlist((*netlist.elements, *applied)))
    return {
        name: Drive(
            abs(_across(rest, place)),
            abs(_across(driven, place) - _across(rest, place)),
            abs(_across(swing, place)),
            ohms.get(name, 0.0),
        )
        for name, place in places.items()
    }


def reaches(drive: Drive, bears: Bears) -> tuple[float, Literal["V", "W"]]:
    """Return how much may be applied until a part reaches what it bears, in what is applied, and whether its volts or its watts do.

    0 where it does so at rest, infinite where it never does; P = V²/R, Ohm's law. A hair of 1e-9 is left, for what
    rounding makes of its own use.
    """
    slack = 1 + 1e-9
    if drive.rest > bears.volts * slack or drive.watts(0.0) > bears.watts * slack:
        return 0.0, "V" if drive.rest > bears.volts * slack else "W"
    slope = drive.direct + math.sqrt(2) * drive.swing
    by_volts = max(0.0, bears.volts * slack - drive.rest) / slope if slope else math.inf
    by_watts = math.inf
    if drive.ohms and math.isfinite(bears.watts):
        square = drive.direct**2 + drive.swing**2
        half, free = drive.rest * drive.direct, drive.rest**2 - bears.watts * slack * drive.ohms
        by_watts = (-half + math.sqrt(max(0.0, half * half - square * free))) / square if square else math.inf
    return (by_volts, "V") if by_volts <= by_watts else (by_watts, "W")


def usual_volts(watts: float) -> float:
    """Return what a resistor of so many watts usually bears, V; 0 where its watts are not known."""
    return max((volts for least, volts in USUAL_VOLTS if watts >= least), default=0.0)


def _over(got: float, borne: float) -> float:
    if math.isinf(borne) or got == 0:
        return 0.0
    return got / borne if borne > 0 else math.inf


def _across(volts: Mapping[str, complex] | Mapping[str, float], place: Pair) -> complex:
    return complex(volts.get(place[0], 0.0)) - complex(volts.get(place[1], 0.0))
