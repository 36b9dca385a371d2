"""The greatest that may be applied to a range: what its maker states, what ratings allow, else full scale; and the line on it.

Above the greatest nothing is known to hold. A range is known to bear its full scale, its maker's own use, as far as no part is over
its rating there; more is only known where the maker states it, and as far as the ratings allow.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import replace
from functools import lru_cache
from typing import Literal, cast

from candor.core.calibration.point import TestPoint
from candor.core.circuit.elements import CurrentSource, Element, VoltageSource
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.circuit.stress import Bears, Drive, drives, reaches, usual_volts
from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.packs.functions import Function, Range
from candor.packs.made import OF_PEAK, worth
from candor.packs.making import Shows
from candor.packs.model import Pack
from candor.packs.pack_parts import PackCircuit, read_circuit
from candor.packs.procedure import procedure
from candor.packs.steps import PointsStep

LINES = (120.0, 230.0)  # V r.m.s.
LINE_HIGH = 1.1  # a line of ten per cent more
LINE_HERTZ = 50.0
OVER_RMS = {
    "": 1.0,
    "rms": 1.0,
    "average": 2 * math.sqrt(2) / math.pi,
    "peak": math.sqrt(2),
    "peak to peak": 2 * math.sqrt(2),
}
READ = ("needle", "mark", "screen")  # what is applied to be read
OWN_SUPPLY = re.compile(
    r"\b(?:line|mains|heaters?|filaments?)\b", re.I
)  # what such a function reads is not applied to it
Basis = Literal["maker", "rating", "full scale", "nothing"]
VoltsBy = Literal["rating", "usual", "own use"]
Why = Literal["", "watts", "rating", "usual", "own use"]
Where = tuple[int, int]


@dataclass(frozen=True)
class OnTheLine:
    """Whether a range is known to bear the line on its terminals; by which part it is not, and how many times what that bears.

    Attributes
    ----------
    volts : float
        Nominal, V r.m.s.; calculated at ten per cent more.
    holds : bool
    part : str
        Empty where no rating is passed.
    times : float
        Watts or volts over the part's rating, the greater; 0 where no rating is passed.
    """

    volts: float
    holds: bool
    part: str = ""
    times: float = 0.0


@dataclass(frozen=True)
class Greatest:
    """The greatest that may be applied to a range.

    Attributes
    ----------
    function, range : str
        Titles.
    where : (int, int)
        Places of function and range in the pack.
    value, unit : float, str
        V or A, of a.c. as it is `marked` (``rms``, ``peak``, ``peak to peak``); 0 where nothing may be applied.
    full_scale : float
        In the same unit; 0 on an ohms range.
    basis : str
        ``maker`` states it; ``rating``: `part` reaches its rating there; ``full scale``: nobody states
        more; ``nothing``: an ohmmeter's terminals.
    why : str
        What `part` reaches: its ``watts``, its volts by its ``rating`` or by what is ``usual`` of its watts, or what full scale of
        another range gives it (``own use``).
    bears : float
        That, W or V.
    seconds : float
        How long, where the maker states it; 0: as long as one likes.
    on_line : tuple of OnTheLine
    """

    function: str
    range: str
    where: Where
    value: float
    unit: str
    full_scale: float
    basis: Basis
    marked: str = ""
    part: str = ""
    why: Why = ""
    bears: float = 0.0
    seconds: float = 0.0
    on_line: tuple[OnTheLine, ...] = ()

    @property
    def peak(self) -> float:
        """The most at any moment, V; 0 of amperes, which are no volts."""
        if self.unit != "V":
            return 0.0
        return self.value * math.sqrt(2) / OVER_RMS[self.marked] if self.marked else self.value


@lru_cache(maxsize=16)
def greatest_of(pack: Pack) -> tuple[Greatest, ...]:
    """Return the greatest of every range that something is applied to, in the order of the functions."""
    circuit = pack.circuit
    netlist = read_circuit(circuit.netlist) if circuit else None
    driven = {where: _driven(circuit, netlist, *_at(pack, where)) for where in _applied(pack)} if circuit else {}
    bears = _rated(pack, driven)
    return tuple(_greatest(pack, where, driven.get(where), bears, netlist) for where in _applied(pack))


def greatest_at(pack: Pack, function: str, range_: str) -> Greatest | None:
    """Return the greatest of a range by its keys; None where nothing is applied to it."""
    places = {(f.key, r.key): (i, j) for i, f in enumerate(pack.functions) for j, r in enumerate(f.ranges)}
    asked = places.get((function, range_))
    return next((g for g in greatest_of(pack) if g.where == asked), None)


@dataclass(frozen=True)
class Applied:
    """What was applied last: as it was read, V, and its peak, V, which of a.c. is more."""

    volts: float = 0.0
    peak: float = 0.0


NOTHING_APPLIED = Applied()


def applied_at(point: TestPoint, volts: float) -> Applied:
    """Return what was applied at a point, by its reading, V; of a.c. as its scale is marked. Nothing where it is no volts."""
    if point.unit != "V" or not point.needs_reference:
        return NOTHING_APPLIED
    marked = point.detector.marked if point.detector is not None else "rms"
    crest = math.sqrt(2) / OVER_RMS[marked] if point.current == "a.c." else 1.0
    return Applied(abs(volts), abs(volts) * crest)


def applied_before(pack: Pack, key: str) -> Applied:
    """Return what the procedure applied last before a step."""
    before, at_the_end = _applied_by_step(pack)
    return before.get(key, at_the_end)


@lru_cache(maxsize=16)
def _applied_by_step(pack: Pack) -> tuple[Mapping[str, Applied], Applied]:
    """What was applied last before each step, and at the end: gone through once, for a sheet asks it of every step."""
    before, last = dict[str, Applied](), NOTHING_APPLIED
    for step in procedure(pack):
        before.setdefault(step.key, last)
        if step.point is not None and step.point.needs_reference:
            last = applied_at(step.point, step.point.nominal)
    return before, last


def _applied(pack: Pack) -> list[Where]:
    """Places of the ranges that something is applied to: volts, amperes, and the terminals of an ohmmeter."""
    found = []
    asking = {
        s.function
        for section in pack.procedure
        for s in section.steps
        if isinstance(s, PointsStep) and s.asks != "none"
    }
    for i, function in enumerate(pack.functions):
        making = pack.circuit.making_of(function.made_by) if pack.circuit else None
        is_input = isinstance(making, Shows) or making is None
        stated = function.stands is not None or any(r.stands is not None for r in function.ranges)
        read = function.unit in ("V", "A", "ohm") and function.read_as in READ and function.key in asking
        own = pack.kind.startswith("tube tester") and making is None and OWN_SUPPLY.search(function.title)
        read = read and not own
        if stated or (is_input and read):
            found += [(i, j) for j in range(len(function.ranges))]
    return found


def _at(pack: Pack, where: Where) -> tuple[Function, Range]:
    return pack.functions[where[0]], pack.functions[where[0]].ranges[where[1]]


def _driven(
    circuit: PackCircuit | None, netlist: Netlist | None, function: Function, range_: Range
) -> dict[str, Drive] | None:
    """What each part gets for one unit of what is read; None where the circuit does not say."""
    if circuit is None or netlist is None or function.unit == "1":
        return None
    return _drives(circuit, netlist, function, range_, function.current == "a.c.", function.unit == "A")


def _drives(
    circuit: PackCircuit, netlist: Netlist, function: Function, range_: Range, alternating: bool, is_current: bool
) -> dict[str, Drive] | None:
    making = circuit.making_of(function.made_by)
    closes = (*function.closes, *range_.closes)
    if making is None and not (range_.tap and circuit.input):
        return None
    if making is not None and not (isinstance(making, Shows) and (closes or function.made_by)):
        return None
    shows = making if isinstance(making, Shows) else None
    node = shows.input if shows else circuit.input
    rectifies = shows.rectifies if shows else None

    def source(value: float) -> Element:
        if is_current:  # of a.c. as d.c. of the same heat
            return CurrentSource("IX?", GROUND, node, value)
        return (
            VoltageSource("VX?", node, GROUND, 0.0, amplitude=value, hertz=LINE_HERTZ)
            if alternating
            else VoltageSource("VX?", node, GROUND, value)
        )

    def held(swing: Mapping[str, complex]) -> tuple[Element, ...]:
        if rectifies is None or function.current != "a.c.":
            return ()
        peak = abs(swing.get(rectifies.at.lower(), 0.0)) * math.sqrt(2)
        return (VoltageSource("VY?", rectifies.into, GROUND, peak * OF_PEAK[rectifies.responds]),)

    over = (shows.reads.over,) if shows else ((range_.tap, GROUND),)
    try:
        return drives(
            netlist.with_closed(closes), source, over, LINE_HERTZ if alternating and not is_current else 0.0, held
        )
    except CandorError:
        return None


def _rated(pack: Pack, driven: Mapping[Where, dict[str, Drive] | None]) -> dict[str, Bears]:
    """What the parts that have a rating bear; a resistor's volts, where only its watts are stated, by what is usual of them.

    Never less volts than full scale of some range gives it: its maker chose it for that.
    """
    own: dict[str, float] = {}
    for where, found in driven.items():
        full = _full_scale(*_at(pack, where))
        for name, drive in (found or {}).items():
            own[name] = max(own.get(name, 0.0), drive.peak(full / marked_over_rms(_at(pack, where)[0])))
    bears = {}
    for part in pack.parts:
        name = part.ref.replace(" ", "").upper()
        if name not in own or not (part.watts or part.volts):
            continue
        usual = math.inf if part.kind != "resistor" or part.make == "wirewound" else usual_volts(part.watts)
        known: tuple[float, VoltsBy] = (part.volts, "rating") if part.volts else (usual, "usual")
        if known[1] == "usual" and own[name] > usual:
            known = (own[name], "own use")
        bears[name] = Bears(known[0], part.watts or math.inf, known[1])
    return bears


def _full_scale(function: Function, range_: Range) -> float:
    return 0.0 if function.unit == "ohm" else range_.full_scale * worth(range_)


def _greatest(
    pack: Pack, where: Where, drive: dict[str, Drive] | None, bears: Mapping[str, Bears], netlist: Netlist | None
) -> Greatest:
    function, range_ = _at(pack, where)
    full, unit = _full_scale(function, range_), "V" if function.unit == "ohm" else function.unit
    stated = range_.stands or function.stands
    least, by, part = min(
        ((*reaches(d, bears[name]), name) for name, d in (drive or {}).items() if name in bears),
        default=(math.inf, "", ""),
    )
    least *= marked_over_rms(function)
    value, basis, seconds = full, "full scale" if full else "nothing", 0.0
    if stated is not None and stated.at(full):
        value, basis, seconds = stated.at(full), "maker", stated.seconds
    why = ""
    if least < value and not math.isclose(least, full, rel_tol=1e-6):
        # What the maker states for seconds is not known for longer, wherever above full scale a rating ends it.
        value, basis, seconds = least, "rating", seconds if least > full else 0.0
        why = "watts" if by == "W" else bears[part].by
    elif least < value:
        value, basis, seconds = full, "full scale", 0.0
    found = Greatest(
        function=function.title,
        range=range_.title,
        where=where,
        value=value,
        unit=unit,
        full_scale=full,
        basis=cast("Basis", basis),
        marked=_marked(function),
        part=part if why else "",
        why=cast("Why", why),
        bears=(bears[part].watts if why == "watts" else bears[part].volts) if why else 0.0,
        seconds=seconds,
    )
    lines = tuple(_on_line(pack, found, bears, netlist, volts) for volts in LINES)
    return replace(found, on_line=lines)


def _on_line(
    pack: Pack, found: Greatest, bears: Mapping[str, Bears], netlist: Netlist | None, volts: float
) -> OnTheLine:
    """Whether a range bears the line on its terminals, at ten per cent more than nominal: as r.m.s., on d.c. as its peak."""
    high = volts * LINE_HIGH
    function, range_ = _at(pack, found.where)
    asked = high * (marked_over_rms(function) if found.marked else math.sqrt(2))
    holds = found.unit == "V" and not found.seconds and asked <= found.value
    driven = (
        _drives(pack.circuit, netlist, function, range_, alternating=True, is_current=False)
        if pack.circuit is not None and netlist is not None
        else None
    )
    times = {name: bears[name].share(d, high) for name, d in (driven or {}).items() if name in bears}
    worst = max(times, key=lambda name: times[name], default="")
    if worst and times[worst] > 1 + 1e-9:
        return OnTheLine(volts, holds=False, part=worst, times=times[worst])
    return OnTheLine(volts, holds)


def marked_over_rms(function: Function) -> float:
    """Return what a sine of 1 V r.m.s. is on an a.c. function by what it is marked in; 1 on all others."""
    return OVER_RMS[_marked(function)]


def _marked(function: Function) -> str:
    if function.current != "a.c.":
        return ""
    return function.detector.marked if function.detector is not None else "rms"
