"""Whether a pack's circuit makes the ranges it names, and by how much it misses each: as errors, on a ribbon of their own."""

from __future__ import annotations

import math
from collections.abc import Iterator

from candor.core.calibration.ribbon import Mark, Place, Ribbon, lay_out
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.circuit.resistance import divider_ratio
from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import signed
from candor.core.verdict.limits import Limit
from candor.core.verdict.rules import Outcome
from candor.core.worded import worded
from candor.packs.made import missed
from candor.packs.model import Function, Pack, Range
from candor.packs.pack_parts import PackCircuit, read_circuit
from candor.packs.pack_points import indicator_of


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
        Why it cannot be calculated, where it cannot.
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
            return worded("packs.the_circuit_cannot_be_asked", function=self.function, range=self.range, why=self.why)
        limit = f", limit ±{100 * self.limit:.3g} %" if self.limit else ""
        out = "" if self.is_within else worded("packs.it_cannot_make_this_range")
        return worded(
            "packs.the_circuit_misses_it_by",
            function=self.function,
            range=self.range,
            miss=signed(100 * self.miss, 2),
            limit=limit,
            out=out,
        )


def range_misses(pack: Pack) -> tuple[RangeMiss, ...]:
    """Return how well the circuit makes every range that it says how to make, in the order of the functions.

    A range that names its tap: at full scale every range must put the same voltage on the grid, V_tap/V_input x full scale. A
    circuit that says what it `reads`: the contacts of function and range closed, full scale applied to its input, and the
    volts over the movement held against those of full scale; an ohms range has half the arc of its end at its middle value. A
    function that names how it is `made_by` is held against that; see packs.made.
    """
    circuit = pack.circuit
    if circuit is None or not (circuit.input or circuit.makes):
        return ()
    netlist = read_circuit(circuit.netlist)
    if circuit.reads is None and not circuit.makes:
        return tuple(_by_taps(pack, netlist, circuit.input))
    return tuple(_by_making(pack, netlist, circuit))


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
        return worded("packs.its_circuit_does_not_say_how")
    worst = max(misses, key=lambda m: abs(m.miss))
    said = worst.sentence
    first = said[0] if said[1:2].isupper() else said[0].lower()  # DC stays DC
    return worded("packs.its_circuit_makes_ranges_the_worst", misses=len(misses), worst=first + said[1:])


def _by_taps(pack: Pack, netlist: Netlist, top: str) -> Iterator[RangeMiss]:
    for f, function in enumerate(pack.functions):
        tapped = [(i, r) for i, r in enumerate(function.ranges) if r.tap]
        volts = [divider_ratio(netlist, top, r.tap, GROUND) * r.full_scale for _, r in tapped]
        for (i, r), v in zip(tapped, volts, strict=True):
            yield RangeMiss(
                function=function.title,
                range=r.title,
                where=(f, i),
                miss=v / volts[0] - 1,
                limit=_share(pack, function, r),
            )


def _by_making(pack: Pack, netlist: Netlist, circuit: PackCircuit) -> Iterator[RangeMiss]:
    for f, function in enumerate(pack.functions):
        making = circuit.making_of(function.made_by)
        for r, range_ in enumerate(function.ranges):
            contacts = (*function.closes, *range_.closes)
            if making is None or not (contacts or function.made_by):
                continue
            try:
                miss, why = missed(netlist.with_closed(contacts), making, function, range_), ""
            except CandorError as error:
                miss, why = math.nan, str(error)
            limit = _share(pack, function, range_)
            yield RangeMiss(
                function=function.title, range=range_.title, where=(f, r), miss=miss, limit=limit, why=why
            )


def _share(pack: Pack, function: Function, range_: Range) -> float:
    """The limit of a range as a share of full scale, or of the arc where that is how it is stated."""
    limit: Limit = range_.limit.core()
    if not limit.given or limit.on_value:
        return 0.0
    if limit.judged_in == "arc":
        return limit.percent_of_arc / 100 or limit.degrees_of_arc / 90
    if limit.judged_in == "log":
        return 10 ** (limit.at(1.0, 1.0) / 20) - 1
    if function.unit == "ohm" and not function.made_by:
        return 0.0
    whole = range_.full_scale
    division = indicator_of(pack, function, range_).division_at(whole) if limit.divisions else 0.0
    return limit.at(whole, whole, division) / whole
