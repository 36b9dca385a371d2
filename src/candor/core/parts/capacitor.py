"""Capacitors: losses, insulation, leakage limits, what a leak does in its circuit.

Identities follow from the series equivalent circuit (any electrical measurements handbook; IEC 60384-1, 4.8 defines tan δ).
Leakage limits are common practice, no source.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from candor.core.errors import RangeError


class LeakageRule(StrEnum):
    """The limits for aluminium electrolytics that people use; C in µF, V in volts, result in µA."""

    ROOT = "3 √(CV)"
    HUNDREDTH = "0.01 CV + 3"
    SIX = "0.06 CV + 10"
    TENTH = "0.1 CV + 40; above 1000: 0.04 CV + 100"


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
GOOD_LEAK, BAD_LEAK = 1e-6, 3e-6  # A: about 1 µA good, several replace; common practice, no source
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
        raise RangeError(
            f"ESR needs a capacitance and a frequency above zero; found {capacitance:g} F, {hertz:g} Hz."
        )
    return dissipation / (2 * math.pi * hertz * capacitance)


def power_factor(dissipation: float) -> float:
    """Return the power factor D / √(1 + D²)."""
    return dissipation / math.hypot(1, dissipation)


def dissipation_from_power_factor(factor: float) -> float:
    """Return D = PF / √(1 - PF²).

    Raises
    ------
    RangeError
        Where the power factor is not from 0 to below 1.
    """
    if not 0 <= factor < 1:
        raise RangeError(f"A power factor lies from 0 to below 1 (100 %); found {factor:g}.")
    return factor / math.sqrt(1 - factor**2)


def insulation_resistance(volts: float, amperes: float) -> float:
    """Return V / I, ohm; infinite without a current."""
    return volts / amperes if amperes > 0 else math.inf


def insulation_product(capacitance: float, ohms: float) -> float:
    """Return the insulation resistance times capacitance in s (MΩ·µF), the figure by which films are compared."""
    return capacitance * ohms


def leakage_limit(capacitance: float, volts: float, rule: LeakageRule) -> float:
    """Return the limit of leakage of an electrolytic, A, at `volts`, after 2 to 5 min (common practice, no source).

    Raises
    ------
    RangeError
        Where capacitance (F) or voltage is not above zero.
    """
    if capacitance <= 0 or volts <= 0:
        raise RangeError(
            f"A leakage limit needs a capacitance and a voltage above zero; found {capacitance:g} F, {volts:g} V."
        )
    cv = capacitance * 1e6 * volts
    microamperes = {
        LeakageRule.ROOT: 3 * math.sqrt(cv),
        LeakageRule.HUNDREDTH: 0.01 * cv + 3,
        LeakageRule.SIX: 0.06 * cv + 10,
        LeakageRule.TENTH: 0.1 * cv + 40 if cv <= 1000 else 0.04 * cv + 100,
    }[rule]
    return microamperes * 1e-6


def charging_current(volts: float, ohms: float, capacitance: float, seconds: float) -> float:
    """Return the current through the series resistor `seconds` after the voltage came on: V/R exp(-t / (R C)), in A."""
    return volts / ohms * math.exp(-seconds / (ohms * capacitance))


def charging_over(volts: float, ohms: float, capacitance: float, amperes: float) -> float:
    """Return after how many seconds the charging current has fallen below `amperes`; 0 where it never was above."""
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
        raise RangeError(f"The safe voltage may be set from above 0 to {SAFE_VOLTS:g} V; found {safe_volts:g} V.")
    return ohms * capacitance * math.log(volts / safe_volts) if volts > safe_volts else 0.0


def grid_shift(amperes: float, grid_ohms: float) -> float:
    """Return by how many volts a leaking coupling capacitor lifts the grid: I R."""
    return amperes * grid_ohms


def corner_hertz(capacitance: float, ohms: float) -> float:
    """Return the lower corner 1 / (2 π R C), Hz."""
    return 1 / (2 * math.pi * ohms * capacitance)


def touch_current(capacitance: float, volts: float, hertz: float) -> float:
    """Return the current a line-to-chassis capacitor passes, A: 2 π f C V."""
    return 2 * math.pi * hertz * capacitance * volts
