"""Creeping watts: a slope with its uncertainty, told from noise of every colour, and said where it is there."""

import numpy as np
import pytest

from candor.core.power.watch import creeping
from candor.words.power_words import say_creep

MINUTES = 5


def course(rng, per_s, noise, kind, climb_w_per_min, watts=40.0):
    t = np.arange(0.0, 60.0 * MINUTES, 1 / per_s)
    if kind == "white" or kind == "coarse":
        n = rng.normal(0, noise, t.size)
    elif kind == "slow":  # first-order, 8 s: a meter's own filter
        n, keep = np.zeros(t.size), np.exp(-1 / per_s / 8)
        for i in range(1, t.size):
            n[i] = keep * n[i - 1] + rng.normal(0, noise * (1 - keep**2) ** 0.5)
    else:  # heavy tails
        n = noise * rng.standard_t(3, t.size)
    w = watts + climb_w_per_min * t / 60 + n
    if kind == "coarse":
        w = np.round(w * 2) / 2
    return list(zip(t.tolist(), w.tolist(), strict=True))


@pytest.mark.parametrize("kind", ["white", "slow", "heavy", "coarse"])
@pytest.mark.parametrize("per_s", [0.1, 2.0])
def test_noise_is_no_climb_and_a_climb_is_seen_through_noise(kind, per_s):
    """At a constant 40 W it is silent in 97 of 100 and more; at 1 W a minute, 12 % in the window, it speaks in 90 and more."""
    rng = np.random.default_rng(5)
    false = sum(bool(creeping(course(rng, per_s, 0.4, kind, 0.0))) for _ in range(100))
    found = sum(bool(creeping(course(rng, per_s, 0.4, kind, 1.0))) for _ in range(100))
    assert false <= 3
    assert found >= 90


def test_one_lower_reading_does_not_silence_it():
    climbing = [(t, 30 + t / 60) for t in range(0, 301, 10)]
    climbing[20] = (200, climbing[19][1] - 0.4)
    assert "Leakage is growing" in say_creep(creeping(climbing))
    assert " ± " in say_creep(creeping(climbing))


@pytest.mark.parametrize("falling", [(t, 35 - t / 60) for t in range(0, 301, 10)][:1])
def test_falling_watts_are_no_alarm(falling):
    assert creeping([(t, 35 - t / 60) for t in range(0, 301, 10)]) is None
    assert falling[1] == 35


def test_a_line_that_rises_explains_it():
    climbing = [(t, 30 + t / 60) for t in range(0, 301, 10)]
    assert creeping(climbing, [(t, 230 + t / 20) for t in range(0, 301, 30)]) is None
    assert creeping(climbing, [(t, 230 + (t % 3) / 10) for t in range(0, 301, 30)]) is not None
