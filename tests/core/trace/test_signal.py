"""Looks along a chain: Bayes by hand, half-way where all is equal, near the best plan there is, right as often as it says."""

import math
import random

import pytest

from candor.core.errors import RangeError
from candor.core.trace.signal import ENOUGH, RELIABLE, Look, Stage, belief, fewest_looks, next_look, trail
from candor.words.trace_words import say_trail

EIGHT = [Stage(f"s{i}") for i in range(8)]


def test_belief_follows_bayes():
    now = belief([Stage("a", 3), Stage("b", 1)], [Look(0, "good")])
    assert now[0] == pytest.approx(3 * (1 - RELIABLE) / (3 * (1 - RELIABLE) + RELIABLE))
    assert sum(belief(EIGHT, [Look(3, "odd"), Look(5, "bad")], lead_proved=False)) == pytest.approx(1)
    assert belief(EIGHT, [Look(0, "bad")] * 2, lead_proved=False)[-1] > belief(EIGHT, [], lead_proved=False)[-1]
    after_good = belief(EIGHT, [Look(3, "good")], lead_proved=False)[-1]
    assert after_good < 0.1 * belief(EIGHT, [], lead_proved=False)[-1]  # through a bad lead nothing looks good
    for bad in ([], [Stage("a", 0.0)], [Stage("a", -1.0), Stage("b", 3.0)]):
        with pytest.raises(RangeError):
            belief(bad, [])


def test_half_way_where_all_is_equal_and_the_cheap_look_where_it_is_not():
    assert next_look(EIGHT, []).behind == 3
    cheap = [Stage(f"s{i}", minutes=30.0 if i == 3 else 3.0) for i in range(8)]
    assert next_look(cheap, []).behind in (2, 4)
    weighty = [Stage("a", 20.0), *EIGHT[1:]]
    assert next_look(weighty, []).behind == 0


def looks_needed(stages, fault, chance=None):
    looks = []
    while (advice := next_look(stages, looks)) is not None and len(looks) < 40:
        is_bad = fault <= advice.behind
        if chance is not None and chance.random() > RELIABLE:
            is_bad = not is_bad
        looks.append(Look(advice.behind, "bad" if is_bad else "good"))
    return looks


def test_the_best_plan_of_small_chains_is_that_of_every_plan():
    """Brute force over all trees against dynamic programming."""

    def best(weights):
        if len(weights) == 1:
            return 0.0
        return min(best(weights[:cut]) + best(weights[cut:]) for cut in range(1, len(weights))) + sum(weights)

    for seed in range(20):
        chance = random.Random(seed)
        weights = [chance.uniform(0.1, 3) for _ in range(chance.randint(1, 7))]
        assert fewest_looks(weights) == pytest.approx(best([w / sum(weights) for w in weights]))
    assert fewest_looks([1] * 8) == pytest.approx(3)


def test_what_is_believed_enough_is_so_as_often_as_it_is_said():
    chance, right, said = random.Random(5), 0, 0.0
    for _ in range(400):
        stages = [Stage(f"s{i}", chance.uniform(0.5, 2)) for i in range(chance.randint(4, 12))]
        fault = chance.choices(range(len(stages)), [s.weight for s in stages])[0]
        now = belief(stages, looks_needed(stages, fault, chance))[:-1]
        assert max(now) >= ENOUGH
        said += max(now)
        right += now.index(max(now)) == fault
    assert right / 400 == pytest.approx(said / 400, abs=0.04)


def test_a_trail_ends_in_one_line_and_a_strike_opens_it_again():
    looks = looks_needed(EIGHT, 4)
    assert say_trail(trail(EIGHT, looks)).startswith("s4: ")
    assert "good behind s3" in say_trail(trail(EIGHT, looks))
    assert trail(EIGHT, looks[:1]) is None


def test_a_number_behind_a_stage_is_good_odd_or_bad_by_its_band():
    stage = Stage("amplifier", low=8.0, high=12.0)
    assert [stage.outcome_of(v) for v in (8, 12, 7.7, 12.4, 7.5, 13, math.nan)] == [
        "good",
        "good",
        "odd",
        "odd",
        "bad",
        "bad",
        "bad",
    ]
