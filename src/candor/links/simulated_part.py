"""An old capacitor on a leakage tester, stepped in time: charge, absorption, reforming leakage, perhaps a breakdown."""

from __future__ import annotations

import math
import random
import zlib
from dataclasses import field

from candor.core.late_dataclass import dataclass
from candor.core.parts.part import Part


@dataclass(frozen=True)
class OldCapacitor:
    """What a capacitor is like.

    Attributes
    ----------
    farads : float
    rated_volts : float
    final_amperes : float
        What leaks at the rated voltage once the oxide is formed.
    unformed_amperes : float
        What leaks more at the rated voltage, after one second of forming; falls as t^-exponent.
    exponent : float
    breaks_down_at : float
        V; infinite for one that holds.
    absorbed : float
        Share of the capacitance that charges slowly (dielectric absorption).
    """

    farads: float = 40e-6
    rated_volts: float = 350.0
    final_amperes: float = 120e-6
    unformed_amperes: float = 4e-3
    exponent: float = 0.6
    breaks_down_at: float = math.inf
    absorbed: float = 0.03


@dataclass
class Clips:
    """Source, series resistor, sense resistor, discharge resistor and the capacitor; SI.

    `speed` makes its time run faster than the clock's.
    """

    capacitor: OldCapacitor = field(default_factory=OldCapacitor)
    series_ohms: float = 22e3
    sense_ohms: float = 1e3
    discharge_ohms: float = 4.7e3
    noise_amperes: float = 0.4e-6
    seed: int = 1
    seconds: float = 0.0
    volts: float = 0.0
    source_volts: float = 0.0
    on: bool = False
    formed_s: float = 1.0
    _slow: list[float] = field(default_factory=lambda: [0.0, 0.0])
    _random: random.Random = field(init=False)

    def __post_init__(self) -> None:
        self._random = random.Random(self.seed)

    def leakage(self) -> float:
        """Return what leaks now, A."""
        part, share = self.capacitor, self.volts / self.capacitor.rated_volts
        amperes: float = share * (part.final_amperes + part.unformed_amperes * self.formed_s**-part.exponent)
        if self.volts > part.breaks_down_at:
            amperes += (self.volts - part.breaks_down_at) / 2e3
        return amperes

    def current(self) -> float:
        """Return the current through series and sense resistor, A."""
        return (self.source_volts - self.volts) / (self.series_ohms + self.sense_ohms) if self.on else 0.0

    def read(self) -> tuple[float, float, float]:
        """Return seconds, volts at the part and amperes, as the tester shows them."""
        amperes = self.current() + self._random.gauss(0.0, self.noise_amperes)
        return self.seconds, self.volts * (1 + self._random.gauss(0.0, 2e-5)), amperes

    def advance(self, seconds: float) -> None:
        """Let time go by, in steps short against every time constant."""
        feed = self.series_ohms + self.sense_ohms if self.on else self.discharge_ohms
        longest = max(min(feed * self.capacitor.farads / 8, 0.25), 1e-5)
        steps = max(math.ceil(seconds / longest), 1)
        for _ in range(steps):
            self._step(seconds / steps, feed)
        self.seconds += seconds

    def _step(self, step: float, feed: float) -> None:
        part = self.capacitor
        source = self.source_volts if self.on else 0.0
        inflow = source / feed
        conductance = 1 / feed + (self.leakage() / self.volts if self.volts > 1e-6 else 0.0)
        for place, tau in enumerate((5.0, 40.0)):
            farads = part.absorbed * part.farads / 2
            ohms = tau / farads
            inflow += self._slow[place] / ohms
            conductance += 1 / ohms
            self._slow[place] += (self.volts - self._slow[place]) * -math.expm1(-step / tau)
        settled = inflow / conductance
        self.volts = settled + (self.volts - settled) * math.exp(-step * conductance / part.farads)
        self.formed_s += step * min(self.volts / part.rated_volts, 1.0)


def old_capacitor(part: Part) -> OldCapacitor:
    """Return what the simulated tester has on its clips for a part: always the same for the same designator."""
    chance = zlib.crc32(part.ref.encode()) % 100 / 100
    rated = part.volts or 100.0
    weak = 0.6 * rated if chance > 0.85 else math.inf  # one old paper capacitor in seven breaks down
    if part.make in ("electrolytic", "tantalum"):
        good = 0.02 * part.nominal * rated + 10e-6
        return OldCapacitor(
            farads=part.nominal * (0.9 + 0.3 * chance),
            rated_volts=rated,
            final_amperes=good * (0.5 + chance),
            unformed_amperes=good * (8 + 20 * chance),
            exponent=0.55,
        )
    leak = {"paper": 4e-6, "": 2e-6}.get(part.make, 5e-8) * (0.3 + 2 * chance)
    return OldCapacitor(
        farads=part.nominal * (0.95 + 0.1 * chance),
        rated_volts=rated,
        final_amperes=leak,
        unformed_amperes=leak / 2,
        exponent=0.8,
        breaks_down_at=weak,
        absorbed=0.01,
    )
