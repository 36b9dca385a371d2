"""A press of the button found in logs of a line that does much else, and what a reading is at the line before it."""

import math

import numpy as np
import pytest

from candor.core.errors import RangeError
from candor.core.tubes.held_line import HeldLine, at_the_line_set, held_in, told_line

LINES = {  # white and wandering noise, counts of the meter, drift: V, V a root second, V, V/s
    "quiet": (0.02, 0.0, 0.01, 0.0), "in tenths": (0.03, 0.02, 0.1, 0.0), "wandering": (0.02, 0.1, 0.01, 0.0),
    "noisy": (0.2, 0.1, 0.1, 0.0), "in volts": (0.2, 0.1, 1.0, 0.0), "drifting": (0.02, 0.02, 0.01, -0.02),
    "restless": (0.05, 0.3, 0.1, 0.0),
}  # fmt: skip


def logged(chance, line, fall, rate=5.0, seconds=30.0, begun=None):
    """A log by a meter that takes the mean of its own period: none of what finds the press."""
    white, wander, count, drift = LINES[line]
    times = np.arange(int(rate * seconds)) / rate + chance.uniform(0, 0.01, int(rate * seconds))
    own = 120 + np.cumsum(chance.normal(0, wander / math.sqrt(rate), len(times))) + drift * times
    begun, held = begun or chance.uniform(3, seconds - 8), chance.uniform(3, 6)
    fine = times[:, None] - np.linspace(0, 1 / rate, 20)
    own -= fall * ((fine >= begun) & (fine < begun + held)).mean(axis=1)
    volts = np.round((own + chance.normal(0, white, len(times))) / count) * count
    return list(zip(times, volts, strict=True)), held


@pytest.mark.parametrize("line", LINES)
def test_a_press_is_found_with_its_u_and_none_where_there_is_none(line):
    chance, covered, found, times = np.random.default_rng(11), 0, 0, 0
    for _ in range(150):
        log, held = logged(chance, line, 3.0)
        press = held_in(log)
        if press is not None:
            found += 1
            covered += abs(press.fall - 3.0) <= 2 * press.u_fall
            times += abs(press.held_s - held) < 0.7
        assert held_in(logged(chance, line, 0.0)[0]) is None
    assert found >= 135 and covered >= 0.92 * found and times >= 0.95 * found


@pytest.mark.parametrize(("line", "rate"), [("in tenths", 5.0), ("wandering", 10.0)])
def test_what_hardly_stands_out_is_not_told_too_surely(line, rate):
    """Where a press is seen now and then only, those seen were told too large by chance: its U says so."""
    chance = np.random.default_rng(12)
    pressed = [held_in(logged(chance, line, 0.3, rate)[0]) for _ in range(400)]
    found = [p for p in pressed if p is not None]
    assert len(found) > 40 and sum(abs(p.fall - 0.3) <= 2 * p.u_fall for p in found) >= 0.9 * len(found)


def test_a_short_log_finds_no_press_where_there_is_none():
    chance = np.random.default_rng(14)
    logs = [
        logged(chance, line, 0.0, seconds=s, begun=99.0)[0]
        for line in LINES
        for s in (4.2, 6.0, 8.0)
        for _ in range(60)
    ]
    assert sum(held_in(log) is not None for log in logs) <= 0.015 * len(logs)


def test_a_button_still_held_is_told_and_the_newest_press_counts():
    log = [(i / 5, 120.0 - 2.0 * (20 <= i < 40) - 1.2 * (i >= 60) + 0.01 * (i % 3)) for i in range(75)]
    press = held_in(log)
    assert not press.released and press.fall == pytest.approx(1.2, abs=0.05)
    press = held_in(log[:55])
    assert (
        press.released and press.fall == pytest.approx(2.0, abs=0.05) and press.held_s == pytest.approx(4.0, abs=0.3)
    )
    for end in range(40, 50):  # just released: told by the press alone until the release is seen whole
        assert held_in(log[:end]).fall == pytest.approx(2.0, abs=0.05)
    with pytest.raises(RangeError, match="nobody knows"):
        held_in(log[:19])


def test_a_reading_at_the_line_before_by_hand():
    """By hand: 1.2 V of 120 V are 1 %: gm 2.00 mS was 2.02, emission 50 was 51; tried at 15 uS a volt, 2.018 mS."""
    line = told_line(120.0, 118.8)
    assert at_the_line_set(2e-3, "gm", line).figure == pytest.approx(2.02e-3)
    assert at_the_line_set(50.0, "emission", line).figure == pytest.approx(51.0)
    tried = at_the_line_set(2e-3, "gm", line, 15e-6)
    assert tried.figure == pytest.approx(2.018e-3) and tried.tried
    assert tried.u == pytest.approx(math.hypot(15e-6 * 0.1 / math.sqrt(6), 0.1 * 18e-6))
    for before, held in ((120, 60), (0, 120), (120, 0)):
        with pytest.raises(RangeError, match="not of one line"):
            told_line(before, held)


def test_u_holds_for_tubes_that_go_with_the_line_by_other_powers():
    chance, held = np.random.default_rng(13), 0
    for _ in range(1000):
        power, fall = chance.uniform(0.5, 1.5), chance.uniform(0.5, 6.0)
        shown = 2e-3 * (1 - fall / 120) ** power
        read = HeldLine(120 + chance.normal(0, 0.05), 120 - fall + chance.normal(0, 0.05), 0.07, 4.0)
        got = at_the_line_set(shown, "gm", read)
        held += abs(got.figure - 2e-3) <= 2 * got.u
    assert held >= 930
