"""The simulated bench for power: mains, a supply whose tubes warm up, meters that speak SCPI, a fault that may hide in it.

The supply is stepped through time by the same equations that calculate supplies; what happens on it is what its circuit does.
"""

from __future__ import annotations

import threading
import time
from dataclasses import replace
from types import TracebackType
from typing import Literal, Self, get_args

from candor.core.circuit.netlist import Netlist, parse_netlist
from candor.core.circuit.time_steps import March
from candor.core.late_dataclass import dataclass
from candor.core.power.typed import TypedSupply
from candor.core.worded import worded
from candor.links.loopback import LoopbackInstrument

Fault = Literal["none", "leaky filter", "shorted rail", "missing load", "open bleeder", "arcs back"]
FAULTS: tuple[Fault, ...] = get_args(Fault)
SLICE_CYCLES = 2  # that are stepped at once
HEATER_WATTS = 18.0  # of the whole set's heaters, once they are warm: invented
COLD_RUSH = 4.0  # times that, when they are cold: invented
RUSH_S = 3.0
RAIL_NAMES = ("b1", "b", "b+", "ht")  # as people call the rail; other names are its nodes, "watts" and "line"
NOT_A_NUMBER = 9.91e37  # SCPI-99
ARC_AFTER_S = 2.0  # once it is warm, a rectifier that arcs back does so
ARC_AMPERES = 0.5  # that go round in the winding then: invented
WINDING_SHARE = 1.2  # of a winding's rms volts, times the direct current, is what it carries, nearly: invented


@dataclass(frozen=True)
class Bench:
    """A supply on the simulated bench, and what hides in it."""

    supply: TypedSupply
    fault: Fault = "none"
    nominal_volts: float = 230.0


class SimulatedSupply:
    """The supply, running; `with` ends it.

    Parameters
    ----------
    bench : Bench
    speed : float
        How much faster than the clock its time runs.
    """

    def __init__(self, bench: Bench, speed: float = 1.0) -> None:
        self.bench, self.speed = bench, speed
        self.line_volts = 0.0
        self.seconds = 0.0
        self._warm_s = 0.0
        self._lock = threading.RLock()
        self._march: March | None = None
        self._set_for: tuple[float, bool] = (0.0, False)
        self._values: dict[str, float] = {"watts": 0.0, "line": 0.0}
        self._last = time.monotonic()
        self._meters: list[LoopbackInstrument] = []

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def close(self) -> None:
        """End its meters."""
        for meter in self._meters:
            meter.close()

    def meter(self, name: str) -> str:
        """Put a meter on a node, on "watts" or on "line", and return the VISA name it answers to."""
        made = LoopbackInstrument(lambda line: self._answer(line, name))
        self._meters.append(made)
        return made.resource

    def set_line(self, volts: float) -> None:
        """Set the variable transformer, V rms; 0 is the plug out."""
        with self._lock:
            self.go_on()
            self.line_volts = volts

    def value(self, name: str) -> float:
        """Return what a meter reads there now: V, or W; where it has no such node, what stands for not a number."""
        with self._lock:
            self.go_on()
            return self._values.get(self.bench.supply.rail_node() if name in RAIL_NAMES else name, NOT_A_NUMBER)

    def go_on(self) -> None:
        """Let its time catch up with the clock."""
        now = time.monotonic()
        span, self._last = min((now - self._last) * self.speed, 5.0), now
        self.advance(span)

    def advance(self, span: float) -> None:
        """Let so many s of its own time go by."""
        with self._lock:
            march = self._stepped()
            cycles = max(round(span / march.cycle_s), 0)
            if not cycles:
                self._last -= span / self.speed
                return
            envelope = march.run(cycles * march.cycle_s, until_settled=False)
            self.seconds += cycles * march.cycle_s
            self._warm_s = self._warm_s + cycles * march.cycle_s if self.line_volts else 0.0
            self._values = {node: float(envelope.mean[-1, i]) for i, node in enumerate(envelope.nodes)}
            self._values |= {"line": self.line_volts, "watts": self._watts()}

    def _draws(self) -> bool:
        warm = self._warm_s * self.line_volts / self.bench.nominal_volts >= self.bench.supply.warm_s
        return warm and self.bench.fault != "missing load"

    def _watts(self) -> float:
        ratio = self.line_volts / self.bench.nominal_volts
        rush = 1 + (COLD_RUSH - 1) * max(1 - self._warm_s / RUSH_S, 0.0)
        rail = self._values.get(self.bench.supply.rail_node(), 0.0)
        # What the rail gives, and what is left in winding, rectifier and choke on the way: the winding's volts carry it all.
        amperes = self.bench.supply.load_amperes * self._draws() + rail / self._fault_ohms()
        amperes += ARC_AMPERES if self._arcs() else 0.0
        carried = WINDING_SHARE * self.bench.supply.volts * ratio * amperes
        return HEATER_WATTS * ratio**1.6 * rush + carried if self.line_volts else 0.0

    def _fault_ohms(self) -> float:
        """What hides across the last capacitor, ohm."""
        if self.bench.fault == "leaky filter":
            return max(60e3 - 400.0 * self._warm_s, 4e3)  # it leaks more and more
        return 40.0 if self.bench.fault == "shorted rail" else 1e9

    def _arcs(self) -> bool:
        return self.bench.fault == "arcs back" and self._warm_s > max(self.bench.supply.warm_s, 1.0) + ARC_AFTER_S

    def _netlist(self, draws: bool) -> Netlist:
        supply = replace(self.bench.supply, warm_s=0.0)
        if self.bench.fault == "open bleeder":
            supply = replace(supply, bleeder_ohms=1e9)
        if not draws:
            supply = replace(supply, load_amperes=1e-9)
        ratio = max(self.line_volts / self.bench.nominal_volts, 1e-6)
        text = supply.netlist(ratio, warm=True)
        fault = f"RX {supply.rail_node()} 0 {self._fault_ohms():.6g}"
        arc = f"RY a1 k {60.0 if self._arcs() else 1e9:g}"
        return Netlist((*text.elements, *parse_netlist(f"{fault}\n{arc}").elements))

    def _stepped(self) -> March:
        """The equations as they are now; what is stored in capacitors and chokes is carried over where they change."""
        draws = self._draws()
        now = (round(self.line_volts, 3), draws)
        changes = self.bench.fault in ("leaky filter", "arcs back")
        if self._march is None or now != self._set_for or changes:
            made = March(self._netlist(draws))
            if self._march is not None:
                made.take_over(self._march)
            self._march, self._set_for = made, now
        return self._march

    def _answer(self, line: str, name: str) -> str | None:
        word = line.upper().partition(" ")[0]
        if word == "*IDN?":
            return worded("links.candor_simulated_meter_on", name=name)
        if word in ("READ?", "MEAS?", "MEAS:VOLT?"):
            return f"{self.value(name):.6E}"
        return None
