"""A supply as it is typed in: transformer, rectifier, filter, load; made into a netlist and calculated."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import field, replace
from typing import Literal

from candor.core.circuit.netlist import Netlist, parse_netlist
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.power.supply import SupplyAnswer, calculate_supply
from candor.core.worded import worded

Shape = Literal["centre-tapped", "bridge", "half-wave"]
RectifierKind = Literal["silicon", "selenium", "mercury", "vacuum"]
LINE_HIGH = 1.10
USUAL_REGULATION = 0.08  # between 5 and 15 %: common practice, no source
SELENIUM_DROP_PER_PLATE = 1.0  # V, rising with age: from memory
SELENIUM_PLATE_VOLTS = 26.0  # rms that a plate bears, by which their number is guessed: from memory


@dataclass(frozen=True)
class Section:
    """One capacitor of the filter, and what stands before it.

    Attributes
    ----------
    farad : float
    rated_volts : float
        0 where it is not known.
    series_ohms, henry : float
        Before it: a resistor, or a choke with its winding; 0 for the first.
    """

    farad: float
    rated_volts: float = 0.0
    series_ohms: float = 0.0
    henry: float = 0.0


@dataclass(frozen=True)
class TypedSupply:
    """A supply as people say it.

    Attributes
    ----------
    volts : float
        Of the winding, rms, loaded; of each side where it is centre-tapped.
    hertz : float
    winding_ohms : float
        Of each side; 0 where `regulation` says it.
    regulation : float
        How much the open winding is above the loaded one, as a share.
    shape : "centre-tapped", "bridge" or "half-wave"
    rectifier : "silicon", "selenium", "mercury" or "vacuum"
    perveance, drop : float
        Of a vacuum rectifier, A/V^1.5; of mercury vapour, V.
    sections : tuple of Section
    load_amperes : float
        At the last capacitor.
    warm_s : float
        After which the tubes draw; 0 for at once.
    bleeder_ohms : float
        0 where there is none.
    rated_peak_amperes : float
        Of the rectifier, 0 where it is not known.
    line_control : float
        By what share a control of the line can go down, 0 where there is none.
    """

    volts: float
    hertz: float
    load_amperes: float
    sections: tuple[Section, ...]
    winding_ohms: float = 0.0
    regulation: float = USUAL_REGULATION
    shape: Shape = "centre-tapped"
    rectifier: RectifierKind = "vacuum"
    perveance: float = 2.2e-4
    drop: float = 15.0
    warm_s: float = 0.0
    bleeder_ohms: float = 0.0
    dropper_ohms: float = 0.0
    rated_peak_amperes: float = 0.0
    line_control: float = 0.0

    def open_volts(self, line_ratio: float = 1.0) -> float:
        """Return the crest of the open winding at a line of so many times its nominal, V."""
        return math.sqrt(2) * self.volts * (1 + self.regulation) * line_ratio

    @property
    def ohms(self) -> float:
        """The resistance of a side, ohm: as given, or as the regulation at this load makes it."""
        return self.winding_ohms or max(self.regulation * self.volts / max(self.load_amperes, 1e-3), 0.1)

    def netlist(self, line_ratio: float = 1.0, warm: bool = False) -> Netlist:
        """Return the circuit; `warm` where the tubes draw from the start."""
        if not self.sections:
            raise RangeError(worded("power.a_supply_has_at_least_one"), expected=worded("power.such_as_uf_v"))
        kind = self._curve()
        wave = f"sin(0 {self.open_volts(line_ratio):.9g} {self.hertz:g})"
        series = [f"R1 a a1 {self.ohms:.9g}"]
        if self.shape == "centre-tapped":
            lines = [
                f"V1 a 0 {wave}",
                f"V2 0 b {wave}",
                *series,
                f"R2 b b1 {self.ohms:.9g}",
                f"D1 a1 k {kind}",
                f"D2 b1 k {kind}",
            ]
        elif self.shape == "bridge":
            lines = [
                f"V1 a b {wave}",
                *series,
                f"D1 a1 k {kind}",
                f"D2 b k {kind}",
                f"D3 0 a1 {kind}",
                f"D4 0 b {kind}",
            ]
        else:
            lines = [f"V1 a 0 {wave}", *series, f"D1 a1 k {kind}"]
        at = "k"
        for number, section in enumerate(self.sections, 1):
            before = section.series_ohms + (self.dropper_ohms if number == min(2, len(self.sections)) else 0.0)
            if section.henry:
                lines.append(worded("power.l_n_r", number=number, at=at, henry=section.henry, before=before))
            elif before:
                lines.append(f"R1{number} {at} n{number} {before:.9g}")
            if section.henry or before:
                at = f"n{number}"
            lines.append(f"C{number} {at} 0 {section.farad:.9g}")
        late = "" if warm or not self.warm_s else f" from={self.warm_s:g}"
        lines += [f"I1 {at} 0 {self.load_amperes:.9g}{late}"] if self.load_amperes else []
        lines += [f"R9 {at} 0 {self.bleeder_ohms:.9g}"] if self.bleeder_ohms else []
        return parse_netlist("\n".join(lines))

    def _curve(self) -> str:
        if self.rectifier == "vacuum":
            return f"perveance={self.perveance:.9g}"
        if self.rectifier == "mercury":
            return f"drop={self.drop:.9g}"
        if self.rectifier == "selenium":
            plates = max(math.ceil(2 * self.volts / SELENIUM_PLATE_VOLTS), 1)
            return f"drop={plates * SELENIUM_DROP_PER_PLATE:.9g}"
        return "is=1e-9 n=1.5 rs=1"

    def rail_node(self) -> str:
        """The node of the last capacitor."""
        at = "k"
        for number, section in enumerate(self.sections, 1):
            dropped = self.dropper_ohms if number == min(2, len(self.sections)) else 0.0
            if section.henry or section.series_ohms + dropped:
                at = f"n{number}"
        return at


@dataclass(frozen=True)
class CapacitorStress:
    """What a capacitor of the filter meets, and whether its rating bears it.

    Attributes
    ----------
    name : str
    peak_volts : float
        The highest from cold at +10 % line, V.
    loaded_volts, ripple_volts : float
        Mean and peak to peak, warm at nominal line, V.
    high_line_volts : float
        Mean, warm at +10 % line, V.
    rated : float
        V; 0 where it is not known.
    """

    name: str
    peak_volts: float
    loaded_volts: float
    ripple_volts: float
    high_line_volts: float
    rated: float

    @property
    def is_over(self) -> bool:
        """Whether the highest volts are over the rating."""
        return 0 < self.rated < self.peak_volts


@dataclass(frozen=True)
class TypedAnswer:
    """What a typed supply does: nominal line warm, from cold at +10 %, and what each capacitor meets.

    Attributes
    ----------
    rail_volts, ripple_volts : float
        Warm, at nominal line.
    high_line_volts : float
        The rail warm at +10 %.
    no_load_volts : float
        The crest with nothing drawn, regulation and +10 % line included.
    peak_amperes, first_peak_amperes : float
        Of a rectifier, steady and when cold.
    stresses : tuple of CapacitorStress
    warm : SupplyAnswer
    cold : SupplyAnswer
        At +10 % line from cold.
    """

    rail_volts: float
    ripple_volts: float
    high_line_volts: float
    no_load_volts: float
    peak_amperes: float
    first_peak_amperes: float
    stresses: tuple[CapacitorStress, ...]
    warm: SupplyAnswer = field(repr=False)
    cold: SupplyAnswer = field(repr=False)


def calculate_typed(asked: TypedSupply, should_stop: Callable[[], bool] = lambda: False) -> TypedAnswer:
    """Calculate a typed supply, V and A: three runs of its circuit in time.

    Raises
    ------
    RangeError
        Where it has no answer.
    CancelledError
        When it was stopped.
    """
    warm = calculate_supply(asked.netlist(warm=True), should_stop=should_stop)
    high = calculate_supply(asked.netlist(LINE_HIGH, warm=True), should_stop=should_stop)
    cold = calculate_supply(replace(asked, load_amperes=0.0).netlist(LINE_HIGH), should_stop=should_stop)
    rail, no_load = asked.rail_node(), asked.open_volts(LINE_HIGH)
    nodes = _capacitor_nodes(asked)
    return TypedAnswer(
        rail_volts=warm.nodes[rail].mean,
        ripple_volts=warm.nodes[rail].ripple,
        high_line_volts=high.nodes[rail].mean,
        no_load_volts=no_load,
        peak_amperes=max(steady for steady, _ in warm.rectifier_peaks.values()),
        first_peak_amperes=max(ever for _, ever in cold.rectifier_peaks.values()),
        stresses=tuple(
            CapacitorStress(
                name=name,
                peak_volts=cold.nodes[node].peak,
                loaded_volts=warm.nodes[node].mean,
                ripple_volts=warm.nodes[node].ripple,
                high_line_volts=high.nodes[node].mean,
                rated=section.rated_volts,
            )
            for (name, node), section in zip(nodes, asked.sections, strict=True)
        ),
        warm=warm,
        cold=cold,
    )


def _capacitor_nodes(asked: TypedSupply) -> list[tuple[str, str]]:
    return [(e.name, e.plus) for e in asked.netlist().elements if e.LETTER == "C"]
