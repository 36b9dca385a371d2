"""Whether a pack's circuit makes the ranges it names, and by how much it misses each."""

from __future__ import annotations

from dataclasses import dataclass

from candor.core.circuit.resistance import divider_ratio
from candor.packs.model import Pack
from candor.packs.parts import read_circuit


@dataclass(frozen=True)
class RangeMiss:
    """By what share a range of the circuit is off: (full scale x tap ratio) over that of the function's first range, less 1."""

    function: str
    range: str
    miss: float

    @property
    def sentence(self) -> str:
        """Say it: ``DC volts +, 50 V: the circuit misses it by +0.02 %``."""
        return f"{self.function}, {self.range}: the circuit misses it by {100 * self.miss:+.2f} %"


def range_misses(pack: Pack) -> tuple[RangeMiss, ...]:
    """Return how well the circuit makes every range that names its tap, in the order of the functions.

    At full scale every range must put the same voltage on the grid: V_tap/V_input x full scale, by nodal analysis.
    """
    if pack.circuit is None or not pack.circuit.input:
        return ()
    netlist, misses = read_circuit(pack.circuit.netlist), []
    for function in pack.functions:
        tapped = [r for r in function.ranges if r.tap]
        volts = [divider_ratio(netlist, pack.circuit.input, r.tap, "0") * r.full_scale for r in tapped]
        misses += [RangeMiss(function.title, r.title, v / volts[0] - 1) for r, v in zip(tapped, volts, strict=True)]
    return tuple(misses)
