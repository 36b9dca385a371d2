"""Capacitors: losses, insulation, leakage limits, what a leak does in its circuit.

Identities follow from the series equivalent circuit (any electrical measurements handbook; IEC 60384-1, 4.8 defines tan δ).
Leakage limits are common practice, no source.
"""

from __future__ import annotations

import math
from enum import StrEnum
from typing import Literal

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded


class LeakageRule(StrEnum):
    """The limits for aluminium electrolytics that people use; C in µF, V in volts, result in µA."""

    ROOT = "3 √(CV)"
    HUNDREDTH = "0.01 CV + 3"
    SIX = "0.06 CV + 10"
    TENTH = "0.1 CV + 40; above 1000: 0.04 CV + 100"
    PERIOD = "k C + 300; k by its rating"

    @property
    def words(self) -> str:
        """The rule as it is meant; the value above is what notebooks hold."""
        return "0.01 CV or 3, the greater" if self is LeakageRule.HUNDREDTH else str(self)


@dataclass(frozen=True)
class LossLimits:
    """Dissipation factors: up to `good` is kept, above `bad` replaced; at `hertz`."""

    good: float
    bad: float
    hertz: float


# Common practice, no source; aged parts, not new ones.
LOSSES = {
    "electrolytic": LossLimits(0.15, 0.30, 120.0),
    "tantalum": LossLimits(0.10, 0.20, 120.0),
    "paper": LossLimits(0.02, 0.05, 1000.0),
    "film": LossLimits(0.01, 0.02, 1000.0),
    "mica": LossLimits(0.002, 0.01, 1000.0),
    "ceramic": LossLimits(0.03, 0.06, 1000.0),
}
# Insulation resistance times capacitance in MΩ·µF (s): from `good` up it serves, under `bad` it goes. Aged paper that serves
# has over about 100, new film over 1000 to 10 000: common practice, from memory.
INSULATION = {"paper": (100.0, 20.0), "film": (1000.0, 100.0), "mica": (1000.0, 100.0), "ceramic": (1000.0, 100.0)}
SMALLEST_JUDGED = (
    10e-9  # F: a smaller one is judged as if it were this large; a bench cannot measure what it would need
)
# The period's own factor k, µA per µF, up to a rated voltage: from memory.
PERIOD_FACTORS = ((100.0, 10.0), (250.0, 20.0), (350.0, 25.0), (math.inf, 40.0))
SAFE_VOLTS = 60.0  # d.c., normal condition, IEC 61010-1, 6.3.1, from memory


def dissipation_from_esr(capacitance: float, esr: float, hertz: float) -> float:
    """Return D = ω C ESR (F, ohm, Hz)."""
    return 2 * math.pi * hertz * capacitance * esr


def esr_from_dissipation(capacitance: float, dissipation: float, hertz: float) -> float:
    """Return ESR = D / (ω C), ohm.

    Raises
    ------
    RangeError
        Where capacitance or frequency is not above zero.
    """
    if capacitance <= 0 or hertz <= 0:
        raise RangeError(worded("leakage.esr_needs_a_capacitance_and_a", capacitance=capacitance, hertz=hertz))
    return dissipation / (2 * math.pi * hertz * capacitance)


def power_factor(dissipation: float) -> float:
    """Return the power factor D / √(1 + D²), a share: the cosine where D is the cotangent (by definition)."""
    return dissipation / math.hypot(1, dissipation)


def dissipation_from_power_factor(factor: float) -> float:
    """Return D = PF / √(1 - PF²), a ratio, from a power factor as a share (by definition).

    Raises
    ------
    RangeError
        Where the power factor is not from 0 to below 1.
    """
    if not 0 <= factor < 1:
        raise RangeError(worded("leakage.a_power_factor_lies_from_to", factor=factor))
    return factor / math.sqrt(1 - factor**2)


def insulation_resistance(volts: float, amperes: float) -> float:
    """Return V / I, ohm; infinite without a current."""
    return volts / amperes if amperes > 0 else math.inf


def insulation_product(capacitance: float, ohms: float) -> float:
    """Return the insulation resistance times capacitance in s (MΩ·µF), the figure by which films are compared."""
    return capacitance * ohms


def leakage_limit(capacitance: float, volts: float, rule: LeakageRule, rated_volts: float = 0.0) -> float:
    """Return the limit of leakage of an aluminium electrolytic, A, at `volts`, after 2 to 5 min.

    Common practice, no source; the period's rule, k C + 0.3 mA with k by the rated voltage, from memory.

    Raises
    ------
    RangeError
        Where capacitance (F) or voltage is not above zero.
    """
    _above_zero(capacitance, volts)
    microfarads = capacitance * 1e6
    cv = microfarads * volts
    if rule is LeakageRule.PERIOD:
        factor = next(k for up_to, k in PERIOD_FACTORS if (rated_volts or volts) <= up_to)
        return (factor * microfarads + 300) * 1e-6
    microamperes = {
        LeakageRule.ROOT: 3 * math.sqrt(cv),
        LeakageRule.HUNDREDTH: max(0.01 * cv, 3),
        LeakageRule.SIX: 0.06 * cv + 10,
        LeakageRule.TENTH: 0.1 * cv + 40 if cv <= 1000 else 0.04 * cv + 100,
    }[rule]
    return microamperes * 1e-6


def tantalum_limit(capacitance: float, volts: float) -> float:
    """Return the limit of leakage of a tantalum capacitor, A: the greater of 0.01 CV and 0.5 µA (from memory).

    Raises
    ------
    RangeError
        Where capacitance (F) or voltage is not above zero.
    """
    _above_zero(capacitance, volts)
    return max(0.01 * capacitance * 1e6 * volts, 0.5) * 1e-6


def insulation_limit(capacitance: float, volts: float, product: float) -> float:
    """Return the leakage, A, at which R times C is `product` MΩ·µF; a small capacitor is judged as one of 10 nF."""
    return volts * max(capacitance, SMALLEST_JUDGED) / product


def loss_at(
    hertz: float, dissipation: float, measured_hertz: float
) -> tuple[float, Literal["", "at least", "at most"]]:
    """Return D at `hertz` from D at `measured_hertz`, and how far that can be trusted; D is a ratio, frequencies in Hz.

    The equivalent series resistance falls with frequency. So from a higher frequency, or an unknown one (0), D = ω C ESR is at
    least that; from a lower one at most.
    """
    if measured_hertz <= 0:
        return dissipation, "at least"
    if math.isclose(measured_hertz, hertz, rel_tol=0.01):
        return dissipation, ""
    return dissipation * hertz / measured_hertz, "at least" if measured_hertz > hertz else "at most"


def _above_zero(capacitance: float, volts: float) -> None:
    if capacitance <= 0 or volts <= 0:
        raise RangeError(worded("leakage.a_leakage_limit_needs_a_capacitance", capacitance=capacitance, volts=volts))


def charging_current(volts: float, ohms: float, capacitance: float, seconds: float) -> float:
    """Return the current through the series resistor `seconds` after the voltage came on: V/R exp(-t / (R C)), in A."""
    return volts / ohms * math.exp(-seconds / (ohms * capacitance))


def charging_over(volts: float, ohms: float, capacitance: float, amperes: float) -> float:
    """Return after how many s the charging current has fallen below `amperes` (A); 0 where it never was above."""
    start = volts / ohms
    if amperes <= 0:
        return math.inf
    return max(ohms * capacitance * math.log(start / amperes), 0.0) if start > amperes else 0.0


def discharge_time(ohms: float, capacitance: float, volts: float, safe_volts: float = SAFE_VOLTS) -> float:
    """Return t = R C ln(V0/Vs), s, until a capacitor is at the safe voltage; 0 where it is already.

    Raises
    ------
    RangeError
        Where the safe voltage is not above zero, or above the 60 V d.c. of IEC 61010-1 (from memory).
    """
    if not 0 < safe_volts <= SAFE_VOLTS:
        raise RangeError(
            worded("leakage.the_safe_voltage_may_be_set", safe_volts=SAFE_VOLTS, safe_volts_2=safe_volts)
        )
    return ohms * capacitance * math.log(volts / safe_volts) if volts > safe_volts else 0.0


def grid_shift(amperes: float, grid_ohms: float) -> float:
    """Return by how many V a leaking coupling capacitor lifts the grid: I R."""
    return amperes * grid_ohms


def corner_hertz(capacitance: float, ohms: float) -> float:
    """Return the lower corner 1 / (2 π R C), Hz."""
    return 1 / (2 * math.pi * ohms * capacitance)


def touch_current(capacitance: float, volts: float, hertz: float) -> float:
    """Return the current a line-to-chassis capacitor passes, A: 2 π f C V."""
    return 2 * math.pi * hertz * capacitance * volts
