"""Which parts to measure first: against culprits that are drawn otherwise than its model has them."""

from __future__ import annotations

import math

import numpy as np
import pytest

import faulty
from candor.core.suspects.measure_first import measure_first
from candor.core.suspects.observed import Circuit, PartPatterns
from candor.packs.patterns import STEPS


def chain(of: int) -> faulty.Topology:
    """A string of many parts, of which most do little: a tap each fourth, the rest pairs of small ones beside large ones."""
    ohms = {f"R{i}": (10.0 ** (6 - i // 4)) * (1.0 if i % 4 == 0 else 0.004) for i in range(of)}

    def shown(v: dict[str, float], tap: int) -> float:
        below = sum(v[f"R{i}"] for i in range(4 * tap + 4, of))
        return below / sum(v.values())

    return faulty.Topology("string with small parts", of // 4 - 1, {k: (o, 0.01) for k, o in ohms.items()}, shown)


TOPOLOGIES = [faulty.string(), faulty.multipliers(), faulty.shunt(), chain(24)]


@pytest.mark.parametrize("topology", TOPOLOGIES, ids=lambda t: t.name)
@pytest.mark.parametrize("tail", ["log uniform", "laplace"])
def test_the_culprit_is_among_the_first_in_92_of_100_whatever_drifts_are_like(topology, tail):
    random = np.random.default_rng(4)
    limit = 0.03
    circuit = faulty.patterns(topology)
    first = measure_first(circuit, {f"dc/{i}": limit for i in range(topology.ranges)})
    named = {ref for ref, _ in first.order[: first.least]}
    drawn = {k: v for k, (v, _) in topology.parts.items()}
    culprits = inside = 0
    while culprits < 1500:
        name = str(random.choice(sorted(topology.parts)))
        far = (
            math.exp(random.uniform(math.log(0.02), math.log(2.3)))
            if tail == "log uniform"
            else random.exponential(0.1)
        )
        times = math.exp(random.choice((-1, 1)) * far) if random.random() > 0.05 else random.choice((1e-6, 1e6))
        moved = {**drawn, name: drawn[name] * times}
        if any(abs(topology.shown(moved, i) / topology.shown(drawn, i) - 1) > limit for i in range(topology.ranges)):
            culprits += 1
            inside += name in named
    assert inside / culprits > 0.92
    assert first.found(first.least) >= 0.95 > first.found(first.least - 1)


def test_what_matters_goes_before_what_spoils_only_when_it_is_gone():
    first = measure_first(faulty.patterns(chain(24)), {f"dc/{i}": 0.03 for i in range(5)})
    assert {ref for ref, _ in first.order[:6]} == {"R0", "R4", "R8", "R12", "R16", "R20"}
    assert first.found(6) > 0.75
    assert first.half == 4 and first.found(3) < 0.5 <= first.found(4)
    assert first.at_random(6) == 0.25


def test_parts_that_spoil_nothing_and_ranges_without_limit_count_for_nothing():
    still = PartPatterns("R1", STEPS, {"dc/1": np.zeros(len(STEPS))}, 0.05)
    moves = PartPatterns("R2", STEPS, {"dc/1": np.array(STEPS) * 0.5}, 0.05, spread=0.05)
    assert measure_first(Circuit((still, moves)), {"dc/1": 0.03}).order == (("R2", 1.0),)
    assert measure_first(Circuit((still, moves)), {}).order == ()
    assert measure_first(Circuit(), {}).least == 0
