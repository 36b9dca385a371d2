"""Whether a pack's circuit makes the ranges it names, and by how much it misses each: as errors, on a ribbon of their own."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from candor.core.calibration.ribbon import Mark, Place, Ribbon, lay_out
from candor.core.circuit.at_frequency import volts_at
from candor.core.circuit.elements import CurrentSource, Element, Resistor, VoltageSource
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.circuit.resistance import divider_ratio
from candor.core.circuit.solve import operating_point
from candor.core.errors import CandorError
from candor.core.quantities.show import signed
from candor.core.reference.detector import Responds
from candor.core.verdict.limits import Limit
from candor.core.verdict.rules import Outcome
from candor.packs.model import Function, Pack, Range
from candor.packs.parts import Movement, PackCircuit, read_circuit

# What of a sine's peak becomes d.c.
OF_PEAK: dict[Responds, float] = {"peak to peak": 2.0, "peak": 1.0, "average": 2 / math.pi, "rms": 1 / math.sqrt(2)}
SHORT_OHMS, OPEN_OHMS = 1e-4, 1e13  # what stands for a short and for nothing at all on an ohms range


@dataclass(frozen=True)
class RangeMiss:
    """By what share a range of the circuit is off at full scale; of an ohms range by what part of the arc at its middle.

    Attributes
    ----------
    function, range : str
    where : tuple of (str, int)
        Places of the function and the range in the pack.
    miss : float
    limit : float
        The range's own limit as such a share; 0 where it has none.
    why : str
        Why it cannot be reckoned, where it cannot.
    """

    function: str
    range: str
    where: tuple[int, int]
    miss: float
    limit: float
    why: str = ""

    @property
    def is_within(self) -> bool:
        """Whether the circuit makes the range within its limit."""
        return not self.why and (not self.limit or abs(self.miss) <= self.limit)

    @property
    def sentence(self) -> str:
        """Say it: ``DC volts +, 50 V: the circuit misses it by +0.02 %``."""
        if self.why:
            return f"{self.function}, {self.range}: the circuit cannot be asked: {self.why}"
        limit = f", limit ±{100 * self.limit:.3g} %" if self.limit else ""
        out = "" if self.is_within else ": it cannot make this range"
        return f"{self.function}, {self.range}: the circuit misses it by {signed(100 * self.miss, 2)} %{limit}{out}"


def range_misses(pack: Pack) -> tuple[RangeMiss, ...]:
    """Return how well the circuit makes every range that it says how to make, in the order of the functions.

    A range that names its tap: at full scale every range must put the same voltage on the grid, V_tap/V_input x full scale. A
    circuit that says what it `reads`: the contacts of function and range closed, full scale applied to its input, and the
    volts over the movement held against those of full scale; an ohms range has half the arc of its end at its middle value.
    """
    circuit = pack.circuit
    if circuit is None or not circuit.input:
        return ()
    netlist = read_circuit(circuit.netlist)
    if circuit.reads is None:
        return tuple(_by_taps(pack, netlist, circuit.input))
    return tuple(_by_reading(pack, netlist, circuit, circuit.reads))


def ribbon_of(misses: tuple[RangeMiss, ...]) -> Ribbon:
    """Return the misses as an error ribbon: a mark for every range that the circuit makes, in limits of its own."""
    places = [Place(f"{m.function}/{m.range}", "", m.function, 100 * m.limit) for m in misses]
    marks = {
        f"{m.function}/{m.range}": Mark(
            m.miss / m.limit if m.limit else 0.0, 0.0, Outcome.PASS if m.is_within else Outcome.FAIL
        )
        for m in misses
    }
    return lay_out("", places, {}, marks)


def say_misses(misses: tuple[RangeMiss, ...]) -> str:
    """Say how well a circuit makes its ranges, in one sentence."""
    if not misses:
        return "Its circuit does not say how it makes its ranges."
    worst = max(misses, key=lambda m: abs(m.miss))
    return f"Its circuit makes {len(misses)} ranges; the worst is {worst.sentence[0].lower()}{worst.sentence[1:]}."


def _by_taps(pack: Pack, netlist: Netlist, top: str) -> Iterator[RangeMiss]:
    for f, function in enumerate(pack.functions):
        tapped = [(i, r) for i, r in enumerate(function.ranges) if r.tap]
        volts = [divider_ratio(netlist, top, r.tap, GROUND) * r.full_scale for _, r in tapped]
        for (i, r), v in zip(tapped, volts, strict=True):
            yield RangeMiss(
                function=function.title, range=r.title, where=(f, i), miss=v / volts[0] - 1, limit=_share(r, function)
            )


def _by_reading(pack: Pack, netlist: Netlist, circuit: PackCircuit, reads: Movement) -> Iterator[RangeMiss]:
    for f, function in enumerate(pack.functions):
        for r, range_ in enumerate(function.ranges):
            contacts = (*function.closes, *range_.closes)
            if not contacts:
                continue
            closed = netlist.with_closed(contacts)
            try:
                miss, why = _miss(closed, circuit, reads, function, range_), ""
            except CandorError as error:
                miss, why = math.nan, str(error)
            limit = _share(range_, function)
            yield RangeMiss(
                function=function.title, range=range_.title, where=(f, r), miss=miss, limit=limit, why=why
            )


def _miss(closed: Netlist, circuit: PackCircuit, reads: Movement, function: Function, range_: Range) -> float:
    full = reads.full_scale
    if function.unit == "ohm":
        # Set with the ohms adjust at the end of the arc, so the end is what it is measured by.
        end = OPEN_OHMS if range_.settings.get("set_open") else SHORT_OHMS
        parts = (Resistor("RX?", circuit.input, GROUND, ohms) for ohms in (range_.full_scale, end))
        at_middle, at_end = (abs(_shown(closed, reads, part)) for part in parts)
        return at_middle / at_end - 0.5
    if function.current == "a.c.":
        return abs(_rectified(closed, circuit, reads, range_.full_scale)) / full - 1
    source: Element = (
        CurrentSource("IX?", GROUND, circuit.input, range_.full_scale)
        if function.unit == "A"
        else VoltageSource("VX?", circuit.input, GROUND, range_.full_scale)
    )
    return abs(_shown(closed, reads, source)) / full - 1


def _shown(closed: Netlist, reads: Movement, applied: Element) -> float:
    volts = operating_point(Netlist((*closed.elements, applied)))
    one, other = (node.lower() for node in reads.over)
    return volts.get(one, 0.0) - volts.get(other, 0.0)


def _rectified(closed: Netlist, circuit: PackCircuit, reads: Movement, rms: float) -> float:
    """Full scale, V rms of a sine or A rms, at the frequency the ranges are right at; its swing turned into d.c."""
    rectifies = circuit.rectifies
    if rectifies is None:
        raise CandorError("an a.c. range needs 'rectifies', which says what becomes of the swing")
    swing = VoltageSource("VX?", circuit.input, GROUND, 0.0, amplitude=rms * math.sqrt(2), hertz=rectifies.hertz)
    peak = abs(volts_at(Netlist((*closed.elements, swing)), rectifies.hertz)[rectifies.at.lower()])
    held = VoltageSource("VX?", rectifies.into, GROUND, peak * OF_PEAK[rectifies.responds])
    return _shown(closed, reads, held)


def _share(range_: Range, function: Function) -> float:
    """The limit of a range as a share of full scale, or of the arc where that is how it is stated."""
    limit: Limit = range_.limit.core()
    if not limit.given or limit.on_value:
        return 0.0
    if limit.judged_in == "arc":
        return limit.percent_of_arc / 100 or limit.degrees_of_arc / 90
    if limit.judged_in == "log":
        return 10 ** (limit.at(1.0, 1.0) / 20) - 1
    return 0.0 if function.unit == "ohm" else limit.at(range_.full_scale, range_.full_scale) / range_.full_scale
