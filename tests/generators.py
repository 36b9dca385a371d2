"""Data that no model of ours makes: noise of other kinds, two processes, creep, walks of another size, jumps, part cycles."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Course = Callable[[Floats], Floats]
HEAVY_DOF = 3


def noise(kind: str, size: float, count: int, chance: np.random.Generator) -> Floats:
    """Return scatter of a standard deviation: white, coloured (each tied to the last by 0.7), or heavy in its tails."""
    if kind == "heavy":
        return chance.standard_t(HEAVY_DOF, count) * size / math.sqrt(HEAVY_DOF)
    white = chance.normal(0, size, count)
    if kind != "coloured":
        return white
    made, last = np.empty(count), 0.0
    for i in range(count):
        last = 0.7 * last + math.sqrt(1 - 0.49) * white[i]
        made[i] = last
    return made


def coarse(values: Floats, count: float) -> Floats:
    """Return what a meter of so coarse a last digit shows."""
    return count * np.round(values / count)


def one(height: float, tau: float) -> Course:
    """What is still to go of one process."""
    return lambda t: height * np.exp(-t / tau)


def both(*processes: tuple[float, float]) -> Course:
    """What is still to go of several processes, heights and time constants."""
    return lambda t: sum((height * np.exp(-t / tau) for height, tau in processes), np.zeros_like(t))


def creep(height: float, ends: float) -> Course:
    """What never settles, by the logarithm of time; `ends` is where it is taken to be at its end, s."""
    return lambda t: height * (np.log((t + 60) / 60) - math.log(ends / 60 + 1))


def under_from(course: Course, part: float, horizon: float = 60_000.0) -> float:
    """Return from when on what is still to go stays under a part, s."""
    at = np.linspace(0.0, horizon, 60_001)
    over = np.flatnonzero(np.abs(course(at)) > part)
    return float(at[over[-1]]) if len(over) else 0.0


def falls() -> dict[str, Course]:
    """Leakage that falls in forms of all kinds, in any unit: powers, with absorption, stretched, of several processes."""

    def power(floor: float, exponent: float, shift: float = 0.0) -> Course:
        return lambda t: floor + ((t + shift) / (60 + shift)) ** -exponent

    nothing, low = power(0, 0.7), power(0.02, 0.8)
    return {
        "a power with a floor": power(0.05, 0.8),
        "a power to nothing": nothing,
        "a power that began before": power(0.05, 0.9, 200),
        "a power and absorption": lambda t: nothing(t) + 2 * np.exp(-t / 40),
        "a power and slow absorption": lambda t: low(t) + np.exp(-t / 120),
        "a stretched exponential": lambda t: 0.05 + 3 * np.exp(-((t / 200) ** 0.5)),
        "two processes": lambda t: 0.1 + 2 * np.exp(-t / 90) + np.exp(-t / 700),
        "two powers": lambda t: 0.5 * (t / 60) ** -0.5 + 0.5 * (t / 60) ** -1.2,
        "by the logarithm of time": lambda t: np.maximum(0.2 * (math.log(20_000) - np.log(t + 30)), 0) + 0.02,
    }


def pulse(count: int, period: float, edge: float, chance: np.random.Generator) -> Floats:
    """Return pulses whose edges take a share of the period, straight, beginning anywhere; samples."""
    place = (np.arange(count) / period + chance.uniform()) % 1
    return np.clip(np.where(place < 0.5, place / edge, 1 - (place - 0.5) / edge), 0, 1)


def rc_pulse(count: int, period: float, tau: float, chance: np.random.Generator) -> Floats:
    """Return pulses through one pole whose time constant is a share of the period, beginning anywhere; samples."""
    place = (np.arange(count) / period + chance.uniform()) % 1
    return np.where(place < 0.5, 1 - np.exp(-place / tau), np.exp(-(place - 0.5) / tau))


# Arcs from 0 to 10 by no law that is fitted, and by two that are: a value to where it stands.
ARCS = {
    "even": lambda v: v / 10,
    "power": lambda v: (v / 10) ** (1 / 1.6),
    "root": lambda v: (v / 10) ** (1 / 2.5),
    "waved": lambda v: v / 10 + 0.06 * math.sin(2 * math.pi * v / 10),
    "kinked": lambda v: 0.12 * v if v < 5 else 0.6 + 0.08 * (v - 5),
    "sagging": lambda v: v / 10 + 0.008 * math.sin(math.pi * v / 10),
    "square": lambda v: v * v / (v + 0.6),
}
