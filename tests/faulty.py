"""Simulated instruments with a fault or none, whose drifts, faults and readings are not those of the model of core.suspects.

Networks by their closed forms, not by the program's solver; parts within tolerance by rectangles, faults log-uniform from twice
the tolerance to ten times the value and gone altogether; zeros and gains by rectangles; tracking a skewed sine; readings in quarter
ticks, the gain trimmed at full scale of a random range after the fault.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from candor.core.suspects.observed import Circuit, Observed, PartPatterns, Place
from candor.core.suspects.weigh import weigh
from candor.packs.patterns import STEPS

TICK = 0.02
PLACES = (0.1, 0.3, 0.5, 0.8, 1.0)
KINDS = ("nothing", "zero", "gain", "tracking", "part", "reading")
OFTEN = (0.55, 0.10, 0.10, 0.05, 0.17, 0.03)


@dataclass(frozen=True)
class Topology:
    """Ranges, parts with their values and tolerances, and what a range shows by the values."""

    name: str
    ranges: int
    parts: dict[str, tuple[float, float]]
    shown: Callable[[dict[str, float], int], float]


def string() -> Topology:
    ohms = {"R0": 1e6, "R1": 7e6, "R2": 2e6, "R3": 7e5, "R4": 2e5, "R5": 7e4, "R6": 2e4, "R7": 1e4}

    def shown(v: dict[str, float], tap: int) -> float:
        below = sum(v[f"R{i}"] for i in range(tap + 1, 8))
        return below / (v["R0"] + sum(v[f"R{i}"] for i in range(1, 8)))

    return Topology("string of seven taps", 7, {k: (o, 0.01) for k, o in ohms.items()}, shown)


def multipliers() -> Topology:
    ohms = {"R1": 2.5e3, "R2": 60e3, "R3": 187.5e3, "R4": 375e3, "R5": 1.875e6}

    def shown(v: dict[str, float], range_: int) -> float:
        return 1 / sum(v[f"R{i}"] for i in range(1, range_ + 2))

    return Topology("multipliers in series", 5, {k: (o, 0.01) for k, o in ohms.items()}, shown)


def shunt() -> Topology:
    ohms = {"R1": 2.5e3, "R2": 1500.0, "R3": 150.0, "R4": 15.0, "R5": 1.5, "R6": 1 / 6}

    def shown(v: dict[str, float], range_: int) -> float:
        across = sum(v[f"R{i}"] for i in range(range_ + 2, 7))
        return across / sum(v.values())

    return Topology("universal shunt", 5, {k: (o, 0.005) for k, o in ohms.items()}, shown)


def patterns(topology: Topology) -> Circuit:
    """The patterns of its parts by their closed forms."""
    at = {k: v for k, (v, _) in topology.parts.items()}
    names = [f"dc/{i}" for i in range(topology.ranges)]
    parts = []
    for name, (value, tolerance) in topology.parts.items():
        changed = {}
        for i, key in enumerate(names):
            here = topology.shown(at, i)
            rows = []
            for step in STEPS:
                times = 1e-9 if step == -math.inf else 1e9 if step == math.inf else math.exp(step)
                rows.append(topology.shown({**at, name: value * times}, i) / here - 1)
            changed[key] = np.array(rows)
        if max(np.abs(r).max() for r in changed.values()) > 1e-6:
            parts.append(PartPatterns(name, STEPS, changed, tolerance, 0.0, tolerance))
    return Circuit(tuple(parts), frozenset(names))


def case(topology: Topology, random: np.random.Generator, kind: str) -> tuple[list[Observed], tuple[str, ...], float]:
    """One instrument with one fault or none, read: its observations, what is off, and how far: share of the arc, or ln."""
    values = {k: v * (1 + random.uniform(-t, t)) for k, (v, t) in topology.parts.items()}
    drawn = {k: v for k, (v, _) in topology.parts.items()}
    zero, of, bow = random.uniform(-0.003, 0.003), (), random.uniform(-0.003, 0.003)
    gain_left, amount = random.uniform(-0.005, 0.005), math.nan
    if kind == "zero":
        amount = zero = random.choice((-1, 1)) * random.uniform(0.008, 0.08)
    if kind == "tracking":
        bow = random.choice((-1, 1)) * random.uniform(0.008, 0.04)
    if kind == "part":
        name = str(random.choice(list(topology.parts)))
        tolerance = topology.parts[name][1]
        gone = random.random()
        far = math.exp(random.uniform(math.log(2 * tolerance), math.log(math.log(10))))
        times = 1e6 if gone < 0.05 else 1e-6 if gone < 0.1 else math.exp(random.choice((-1, 1)) * far)
        values[name], of = drawn[name] * times, (name,)
        amount = math.log(times)
    k = np.array([topology.shown(values, i) / topology.shown(drawn, i) for i in range(topology.ranges)])

    def reads(range_: int, x: float, gain: float) -> float:
        return zero + gain * k[range_] * (x + bow * math.sin(math.pi * x) * (1 + 0.4 * (x - 0.5)))

    trimmed_at = int(random.integers(topology.ranges))
    gain = 1.0
    if random.random() < 0.7 and 0.7 < k[trimmed_at] < 1.45:  # trimmed after it went off, as far as a trimmer goes
        gain = (1 - zero) / k[trimmed_at]
    gain *= 1 + gain_left
    if kind == "gain":
        gain *= 1 + random.choice((-1, 1)) * random.uniform(0.02, 0.2)
    shared = random.normal(0, 0.0005)
    observed = []
    misread = (int(random.integers(topology.ranges)), float(random.choice(PLACES)))
    for i in range(topology.ranges):
        for x in PLACES:
            stands = reads(i, x, gain) + x * shared
            stands += (
                random.choice((-1, 1)) * random.uniform(0.6, 5) * TICK
                if kind == "reading" and (i, x) == misread
                else 0.0
            )
            shows = round(stands / (TICK / 4)) * TICK / 4
            if not -0.02 < shows < 1.1:
                continue  # pegged: nobody reads it
            key = f"dc/{i}/{x}"
            place = Place(
                key=key, range=f"dc/{i}", function="dc", name=key, title=f"range {i}", function_title="d.c.", polarity=1, at=x,
                slope=x, division=TICK,
            )  # fmt: skip
            own = TICK / 4 / math.sqrt(12) + 0.0005
            observed.append(Observed(place, shows - x, own, shared=0.0005 * x, standard="s", side="both"))
    if kind == "reading":
        of = (f"dc/{misread[0]}/{misread[1]}",)
    if kind == "gain":
        of = ("dc",)
    return observed, of, amount


def run(cases: int, seed: int = 1) -> dict[str, object]:
    """Weigh so many instruments of each topology."""
    random = np.random.default_rng(seed)
    said: list[tuple[float, bool]] = []
    top = {"right": 0, "telling": 0}
    sound = {"cases": 0, "accused": 0}
    zeros = {"cases": 0, "part accused": 0}
    took, off = [], []
    for topology in (string(), multipliers(), shunt()):
        circuit = patterns(topology)
        for _ in range(cases):
            kind = str(random.choice(KINDS, p=OFTEN))
            observed, of, amount = case(topology, random, kind)
            begun = time.perf_counter()
            found = weigh(observed, circuit)
            took.append(time.perf_counter() - begun)
            if found is None:
                continue
            grouped: dict[int, list] = {}
            for s in found.suspects:
                grouped.setdefault(s.group if s.group >= 0 else -2 - len(grouped), []).append(s)
            for members in grouped.values():
                probability = sum(s.probability for s in members)
                said.append((probability, any((s.kind, s.of) == (kind, of) for s in members)))
            first = found.first
            if (first.kind, first.of) == (kind, of) and kind in ("zero", "part") and abs(amount) < 0.5 and first.u:
                off.append((amount - first.amount) / first.u)
            if kind == "nothing":
                sound["cases"] += 1
                sound["accused"] += any(s.probability > 0.2 for s in found.suspects if s.kind not in ("nothing",))
            if kind == "zero":
                zeros["cases"] += 1
                zeros["part accused"] += any(
                    s.probability > 0.05 for s in found.suspects if s.kind in ("part", "two parts")
                )
            if kind != "nothing":
                nothing = sum(s.probability for s in found.suspects if s.kind == "nothing")
                if nothing < math.exp(-8):  # stands four standard deviations from nothing
                    top["telling"] += 1
                    members = [s for s in found.suspects if s is first or (s.group >= 0 and s.group == first.group)]
                    top["right"] += any((s.kind, s.of) == (kind, of) for s in members)
    return {"said": said, "top": top, "sound": sound, "zeros": zeros, "took": took, "off": off}
