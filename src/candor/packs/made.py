"""What a circuit makes of a range: the value it stands for truly, found in the circuit by the way it is made.

Each `how` of packs.making has its function here; every one returns by what share the circuit misses the range. The nulls, trips
and corners are found by SciPy's bounded search and Brent's root (R. P. Brent, Algorithms for Minimization without Derivatives,
1973), the network by nodal analysis.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from candor.core.circuit.at_frequency import volts_at
from candor.core.circuit.elements import (
    Capacitor,
    ControlledCurrent,
    CurrentSource,
    Element,
    Resistor,
    Switch,
    VoltageSource,
)
from candor.core.circuit.netlist import GROUND, Netlist, joined_to_ground
from candor.core.circuit.resistance import resistance_between
from candor.core.circuit.solve import operating_point
from candor.core.errors import RangeError
from candor.core.reference.detector import Responds
from candor.core.worded import worded
from candor.packs.functions import Function, Range
from candor.packs.making import Amplifies, Balances, Delivers, Falls, Making, Movement, Ramps, Shows, Terminals, Trips

# What of a sine's peak becomes d.c.
OF_PEAK: dict[Responds, float] = {"peak to peak": 2.0, "peak": 1.0, "average": 2 / math.pi, "rms": 1 / math.sqrt(2)}
SHORT_OHMS, OPEN_OHMS = 1e-4, 1e13  # what stands for a short and for nothing at all on an ohms range
DIAL_AT = (0.1, 0.5, 0.9)  # where along the arc a bridge is asked
FROM, TO = 1 / 50, 50.0  # of its value: how far a trip or a corner is looked for
HAIR = 1e-6  # of the travel: what a pot has left at its very end


def missed(closed: Netlist, making: Making, function: Function, range_: Range) -> float:
    """Return by what share a circuit misses a range.

    At full scale; of an ohms range by what part of the arc at its middle; of a bridge dial the worst of three places, along the
    arc where its limit is judged there, else in its value.

    Parameters
    ----------
    closed : Netlist
        With the contacts of function and range closed.
    making : Making
    function : Function
    range_ : Range

    Raises
    ------
    RangeError
        Where there is no one answer, or what is asked of it is not made by this.
    """
    return MADE[making.how](closed, making, function, range_)


def _shows(closed: Netlist, making: Shows, function: Function, range_: Range) -> float:
    full, reads = making.reads.full_scale, making.reads
    if function.unit == "ohm":
        # Set with the ohms adjust at the end of the arc, so the end is what it is measured by.
        end = OPEN_OHMS if range_.settings.get("set_open") else SHORT_OHMS
        parts = (Resistor("RX?", making.input, GROUND, ohms) for ohms in (range_.full_scale, end))
        at_middle, at_end = (abs(_shown(closed, reads, part)) for part in parts)
        return at_middle / at_end - 0.5
    applied = range_.full_scale * worth(range_)
    if function.current == "a.c.":
        return abs(_rectified(closed, making, applied)) / full - 1
    is_current = function.unit == "A" or (range_.settings.get("worth") and function.unit == "1")
    source: Element = (
        CurrentSource("IX?", GROUND, making.input, applied)
        if is_current
        else VoltageSource("VX?", making.input, GROUND, applied)
    )
    return abs(_shown(closed, reads, source)) / full - 1


def _shown(closed: Netlist, reads: Movement, applied: Element) -> float:
    return _across(operating_point(Netlist((*closed.elements, applied))), reads.over).real


def _rectified(closed: Netlist, making: Shows, rms: float) -> float:
    """Full scale, V rms of a sine or A rms, at the frequency the ranges are right at; its swing turned into d.c."""
    rectifies = making.rectifies
    if rectifies is None:
        raise RangeError(worded("packs.an_a_c_range_needs_rectifies"))
    swing = VoltageSource("VX?", making.input, GROUND, 0.0, amplitude=rms * math.sqrt(2), hertz=rectifies.hertz)
    peak = abs(_across(_volts(Netlist((*closed.elements, swing)), rectifies.hertz), (rectifies.at, GROUND)))
    held = VoltageSource("VX?", rectifies.into, GROUND, peak * OF_PEAK[rectifies.responds])
    return _shown(closed, making.reads, held)


def _balances(closed: Netlist, making: Balances, function: Function, range_: Range) -> float:
    if making.loss_of:
        return _loss(closed, making, range_) / range_.full_scale - 1
    along_arc = range_.limit.core().judged_in == "arc"
    worst = 0.0
    for place in DIAL_AT:
        value = range_.full_scale * place / (1 - place)
        one, other = making.unknown
        part: Element = (
            Capacitor("CX?", one, other, value) if function.unit == "F" else Resistor("RX?", one, other, value)
        )
        off = _dial(closed, making, (part,))[0] - place
        worst = max(worst, off if along_arc else off / (place * (1 - place)), key=abs)
    return worst


def _dial(closed: Netlist, making: Balances, unknown: tuple[Element, ...]) -> tuple[float, float]:
    """Return where the dial is at the null, 0 to 1, and what the detector has left there, V."""
    from scipy.optimize import minimize_scalar

    def left(x: float) -> float:
        start, wiper, end = making.pot
        pot = (Resistor("RA?", start, wiper, x * making.ohms), Resistor("RB?", wiper, end, (1 - x) * making.ohms))
        return abs(_across(_volts(Netlist((*closed.elements, *pot, *unknown)), making.hertz), making.over))

    found = minimize_scalar(left, bounds=(HAIR, 1 - HAIR), method="bounded", options={"xatol": 1e-7})
    return float(found.x), float(found.fun)


def _loss(closed: Netlist, making: Balances, range_: Range) -> float:
    """Return the power factor that a range's contacts balance, with the dial turned along."""
    from scipy.optimize import minimize_scalar

    def left(factor: float) -> float:
        tangent = factor / math.sqrt(1 - factor * factor)
        ohms = tangent / (2 * math.pi * making.hertz * making.loss_of)
        one, other = making.unknown
        part = (Capacitor("CX?", one, "between?", making.loss_of), Resistor("RX?", "between?", other, ohms))
        return _dial(closed, making, part)[1]

    about = range_.full_scale
    found = minimize_scalar(
        left, bounds=(about * FROM, min(0.99, 2 * about)), method="bounded", options={"xatol": 1e-6}
    )
    return float(found.x)


def _delivers(closed: Netlist, making: Delivers, function: Function, range_: Range) -> float:  # noqa: ARG001 - a column of the table
    ohms = range_.settings.get("load", making.load)
    load = (Resistor("RX?", *making.over, ohms),) if ohms else ()
    volts = abs(_across(_volts(Netlist((*closed.elements, *load)), making.hertz), making.over))
    return (volts / math.sqrt(2) if making.hertz else volts) / range_.full_scale - 1


def _amplifies(closed: Netlist, making: Amplifies, function: Function, range_: Range) -> float:  # noqa: ARG001 - a column of the table
    siemens = range_.full_scale * worth(range_)
    tube = ControlledCurrent("GX?", making.plate, making.cathode, siemens, over=(making.grid, making.cathode))
    volts = abs(_across(_volts(Netlist((*closed.elements, tube)), making.hertz), making.reads.over))
    return (volts * OF_PEAK[making.responds] if making.hertz else volts) / making.reads.full_scale - 1


def _trips(closed: Netlist, making: Trips, function: Function, range_: Range) -> float:
    one, other = making.input
    kind = {"ohm": Resistor, "F": Capacitor}.get(function.unit, CurrentSource)

    def over(value: float) -> float:
        part: Element = kind("X?", one, other, value)
        volts = abs(_across(_volts(Netlist((*closed.elements, part)), making.hertz), making.over))
        return (volts if not making.hertz else volts / math.sqrt(2)) - making.at

    return _crossing(over, range_.full_scale, "it never changes") / range_.full_scale - 1


def _ramps(closed: Netlist, making: Ramps, function: Function, range_: Range) -> float:
    one, other = (node.lower() for node in making.over)
    ends = _joined_by_contacts(closed, one), _joined_by_contacts(closed, other)
    across = [
        e
        for e in closed.elements
        if isinstance(e, Capacitor) and any(e.plus in a and e.minus in b for a, b in (ends, ends[::-1]))
    ]
    if not across:
        raise RangeError(worded("packs.no_capacitor_is_between_and", one=one, other=other))
    rest = tuple(e for e in closed.elements if e not in across)
    volts = operating_point(Netlist((*rest, Resistor("RX?", one, other, SHORT_OHMS))))
    amperes = abs(_across(volts, making.over)) / SHORT_OHMS
    if amperes == 0:
        raise RangeError(worded("packs.nothing_charges_the_capacitor"))
    seconds = sum(e.value for e in across) * making.swing / amperes
    return (seconds if function.unit == "s" else 1 / seconds) / range_.full_scale - 1


def _joined_by_contacts(closed: Netlist, node: str) -> set[str]:
    """Return a node and all that closed contacts join to it."""
    joined, known = {node}, 0
    while len(joined) > known:
        known = len(joined)
        for e in closed.elements:
            if e.name.startswith(Switch.LETTER) and joined & {e.plus, e.minus}:
                joined |= {e.plus, e.minus}
    return joined


def _falls(closed: Netlist, making: Falls, function: Function, range_: Range) -> float:  # noqa: ARG001 - a column of the table
    def swing(hertz: float) -> float:
        source = VoltageSource("VX?", making.input, GROUND, 0.0, amplitude=1.0, hertz=hertz)
        return abs(_across(_volts(Netlist((*closed.elements, source)), hertz), making.over))

    least = swing(making.mid) * 10 ** (-making.decibels / 20)
    return (
        _crossing(lambda hertz: swing(hertz) - least, range_.full_scale, worded("packs.it_never_falls_so_far"))
        / range_.full_scale
        - 1
    )


def _terminals(closed: Netlist, making: Terminals, function: Function, range_: Range) -> float:  # noqa: ARG001 - a column of the table
    one, other = making.between
    return resistance_between(closed, one, other) / range_.full_scale - 1


def _crossing(of: Callable[[float], float], about: float, never: str) -> float:
    from scipy.optimize import brentq

    low, high = about * FROM, about * TO
    if of(low) * of(high) > 0:
        raise RangeError(worded("packs.within_to_times_of_it", never=never, from_=FROM, to=TO))
    return float(math.exp(brentq(lambda x: of(math.exp(x)), math.log(low), math.log(high), xtol=1e-9)))


def _volts(netlist: Netlist, hertz: float) -> Mapping[str, complex] | Mapping[str, float]:
    """Return the volts of every node that hangs together with the chassis; what the open contacts leave alone is left out."""
    if not hertz:
        return operating_point(netlist)
    return volts_at(joined_to_ground(netlist), hertz)


def _across(volts: Mapping[str, complex] | Mapping[str, float], nodes: tuple[str, str]) -> complex:
    one, other = (node.lower() for node in nodes)
    return complex(volts.get(one, 0.0)) - complex(volts.get(other, 0.0))


def worth(range_: Range) -> float:
    """Return what one of a scale is worth in the unit of the reference; 1 where it is the same."""
    return range_.settings.get("worth", 1.0)


MADE: Mapping[str, Callable[..., float]] = {
    "shows": _shows,
    "balances": _balances,
    "delivers": _delivers,
    "amplifies": _amplifies,
    "trips": _trips,
    "ramps": _ramps,
    "falls": _falls,
    "terminals": _terminals,
}
