"""What each part of a circuit does to the ranges of an instrument: the patterns that its errors are read by.

One solve says what a range shows, one more for each part what any change of that part makes of it: a resistor that is changed is
a current driven between its nodes (the substitution theorem; H. V. Henderson and S. R. Searle, On deriving the inverse of a sum of
matrices, SIAM Review 23, 1981), exact from a short to an opening.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from candor.core.circuit.at_frequency import volts_at
from candor.core.circuit.elements import CurrentSource, Element, Resistor, VoltageSource
from candor.core.circuit.netlist import GROUND, Netlist, joined_to_ground
from candor.core.circuit.solve import Network
from candor.core.errors import CandorError
from candor.core.suspects.observed import Circuit, Floats, PartPatterns
from candor.packs.functions import Function, Range
from candor.packs.made import worth
from candor.packs.making import Shows, Terminals
from candor.packs.model import Pack
from candor.packs.pack_parts import PackCircuit, read_circuit

_INSIDE = (0.02, 0.04, 0.06, 0.09, 0.12, 0.18, 0.25, 0.35, 0.5, 0.7, 1.1, 1.6, 2.3, 4.6)  # ln
STEPS = (-math.inf, *(-s for s in reversed(_INSIDE)), 0.0, *_INSIDE, math.inf)
NEAR = 0.06  # ln: on the side that swings a part is solved this near to its value, and goes on straight from there
LEAST_TOLERANCE = 0.005  # share, where none is marked as small
# Carbon composition goes up with the years: common practice, no source.
COMPOSITION_UP, COMPOSITION_SPREAD = 0.05, 0.05
NOTHING = 1e-12


@lru_cache(maxsize=16)
def part_patterns(pack: Pack, measured: tuple[tuple[str, float], ...] = ()) -> Circuit:
    """Return what the parts of a pack's circuit do to its ranges of volts and amperes; empty where no circuit says.

    Parameters
    ----------
    pack : Pack
    measured : tuple of (str, float)
        Parts whose value was measured, ohm: they stand in the circuit as measured, and are suspected no more.
    """
    circuit = pack.circuit
    if circuit is None:
        return Circuit()
    netlist = read_circuit(circuit.netlist)
    known = {ref.replace(" ", "").upper(): value for ref, value in measured if value > 0}
    for name, value in known.items():
        netlist = netlist.with_value(name, value)
    found: dict[str, dict[str, Floats]] = {}
    ranges: set[str] = set()
    for function in pack.functions:
        for range_ in function.ranges if function.unit in ("V", "A", "ohm") else ():
            of_range = _of_range(circuit, netlist, function, range_)
            if of_range is None:
                continue
            ranges.add(f"{function.key}/{range_.key}")
            for name, changes in of_range.items():
                found.setdefault(name, {})[f"{function.key}/{range_.key}"] = changes
    listed = {p.ref.replace(" ", "").upper(): p for p in pack.parts}
    made = []
    for name, shown in found.items():
        if name in known:
            continue
        part = listed.get(name)
        tolerance = 0.05 if part is None else max(*part.part(None).tolerance, LEAST_TOLERANCE)
        composition = part is not None and part.make == "carbon composition"
        made.append(PartPatterns(
            ref=name, steps=STEPS, shown=shown, tolerance=tolerance, upward=COMPOSITION_UP if composition else 0.0,
            spread=max(COMPOSITION_SPREAD, tolerance / 2) if composition else tolerance,
        ))  # fmt: skip
    return Circuit(tuple(made), frozenset(ranges))


def _of_range(circuit: PackCircuit, netlist: Netlist, function: Function, range_: Range) -> dict[str, Floats] | None:
    making = circuit.making_of(function.made_by)
    closes = (*function.closes, *range_.closes)
    try:
        if making is None and range_.tap and circuit.input:
            return _exact(netlist, VoltageSource("VX?", circuit.input, GROUND, 1.0), (range_.tap, GROUND))
        if isinstance(making, Terminals) and closes:
            one, other = making.between
            return _exact(netlist.with_closed(closes).at_rest(), CurrentSource("IX?", other, one, 1.0), (one, other))
        if function.unit == "ohm" or not isinstance(making, Shows) or not (closes or function.made_by):
            return None
        closed = netlist.with_closed(closes)
        if function.current == "a.c.":
            return _alternating(closed, making)
        applied = range_.full_scale * worth(range_)
        source: Element = (
            CurrentSource("IX?", GROUND, making.input, applied)
            if function.unit == "A"
            else VoltageSource("VX?", making.input, GROUND, applied)
        )
        return _exact(closed, source, making.reads.over)
    except CandorError:
        return None  # a circuit that cannot be asked accuses nothing


def _resistors(netlist: Netlist) -> list[Resistor]:
    return [e for e in netlist.elements if isinstance(e, Resistor) and e.name.startswith("R")]


def _exact(netlist: Netlist, source: Element, over: tuple[str, str]) -> dict[str, Floats]:
    one, other = (node.lower() for node in over)
    network = Network((*netlist.elements, source))
    # What the instrument's own sources show is its zero; a part moves what is applied.
    still = Network((*netlist.elements, source.with_value(0.0))).solve()
    here = network.solve()
    shown = here.across(one, other) - still.across(one, other)
    if not shown:
        return {}
    nodes, found = set(network.nodes), {}
    for part in _resistors(netlist):
        if part.plus not in nodes or part.minus not in nodes:
            continue
        driven = network.driven(part.plus, part.minus)
        volts = here.across(part.plus, part.minus) - still.across(part.plus, part.minus)
        passes, between = driven.across(one, other), driven.across(part.plus, part.minus)
        changes = [-_driven(step, part.value, volts, between) * passes / shown for step in STEPS]
        if max(map(abs, changes)) > 0:
            found[part.name] = np.array(changes)
    return found


def _driven(step: float, ohms: float, volts: float, between: float) -> float:
    """The current that stands for a part's change by a step, A: `volts` over it, `between` its ends so many ohm."""
    if step == -math.inf:
        return volts / between if between else 0.0
    more = math.expm1(-step) / ohms  # S
    left = 1 + more * between
    return (
        more * volts / left if abs(left) > NOTHING else 0.0
    )  # opened, nothing joins its ends: it had nothing to carry


def _alternating(closed: Netlist, making: Shows) -> dict[str, Floats]:
    """Of an a.c. range: the side of d.c. exactly; on the side that swings each part near its value, and straight beyond."""
    rectifies = making.rectifies
    if rectifies is None:
        return {}
    found = _exact(closed, VoltageSource("VX?", rectifies.into, GROUND, 1.0), making.reads.over)
    swing = VoltageSource("VX?", making.input, GROUND, 0.0, amplitude=1.0, hertz=rectifies.hertz)
    joined = joined_to_ground(Netlist((*closed.elements, swing)))

    def peak(netlist: Netlist) -> float:
        return abs(volts_at(netlist, rectifies.hertz).get(rectifies.at.lower(), 0.0))

    here, steps = peak(joined), np.clip(np.array(STEPS), -1.0, 1.0)
    for part in _resistors(joined) if here else ():
        high, low = (peak(joined.with_value(part.name, part.value * math.exp(s))) / here - 1 for s in (NEAR, -NEAR))
        if max(abs(high), abs(low)) > 1e-7:
            shown = np.where(steps > 0, high, -low) / NEAR * steps
            found[part.name] = (1 + shown) * (1 + found.get(part.name, 0.0)) - 1
    return found
