"""How warm a winding became: by hand, by the definition, and as it is said; what a transformer takes with nothing connected."""

import random

import pytest

from candor.core.jot.line import understand_at
from candor.core.power.heat_run import COPPER_C, judge_open, winding_rise
from candor.notebook.entries.power_entries import SupplySaid, Unloaded, WindingRead
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.power.powering import power_bodies
from candor.notebook.work.job import fold
from candor.words.transformer_words import say_open, say_rise, transformer_lines


def test_a_winding_of_one_fifth_more_ohms_is_51_kelvin_warmer():
    """By hand: 1.2 (234.5 + 20) - 234.5 = 70.9 degC; with IEC 60076-2's 235 it is 71.0. The room's own 3 K are taken off."""
    found = winding_rise(50.0, 20.0, 60.0, 23.0)
    assert found.celsius == pytest.approx(70.9) and found.rise == pytest.approx(47.9)
    assert pytest.approx(found.celsius, abs=0.2) == 1.2 * (235 + 20) - 235
    same = winding_rise(50.0, 20.0, 50.0, 20.0)
    assert same.rise == pytest.approx(0.0) and same.expanded > 2


def test_u_holds_for_drawn_readings():
    chance, held = random.Random(8), 0
    for _ in range(2000):
        true = 80.0
        cold, hot = 120.0, 120.0 * (COPPER_C + true) / (COPPER_C + 21.0)
        by, room = (1 + chance.gauss(0, 0.004) for _ in "ab"), (chance.gauss(0, 0.5) for _ in "ab")
        found = winding_rise(cold * next(by), 21 + next(room), hot * next(by), 24 + next(room))
        held += abs(found.rise - 56.0) <= found.expanded
    assert 0.93 < held / 2000 < 0.99


@pytest.mark.parametrize(("hot", "state"), [(60.0, "within"), (65.0, "cannot tell"), (72.0, "over")])
def test_a_winding_is_held_to_what_old_paper_bears(hot, state):
    found = winding_rise(50.0, 20.0, hot, 22.0)
    assert found.state == state
    assert {"within": "Within", "over": "Too warm", "cannot tell": "Cannot tell"}[state] in say_rise("hv", found)


@pytest.mark.parametrize(
    ("watts", "rated", "state"), [(4, 60, "light"), (9, 60, "cannot tell"), (20, 60, "heavy"), (4, 0, "no rating")]
)
def test_what_a_transformer_takes_alone_is_judged_by_the_plate(watts, rated, state):
    assert judge_open(watts, rated) == state
    assert f"{watts} W" in say_open(watts, rated)


def test_lines_become_the_rise_of_the_winding_they_are_of(notebook):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="7"))
    for line in (
        "winding hv 140 ohm at 21 C",
        "winding hv 161 ohm hot at 24 C",
        "winding heater 0.3 ohm",
        "unloaded 5 W, 80 mA",
    ):
        for body in power_bodies(understand_at("power", line)):
            notebook.write("j", body)
    notebook.write("j", SupplySaid(watts=60))
    job = fold("j", notebook.entries_of("j"))
    assert job.power.windings["hv"].body == WindingRead(name="hv", ohms=140, celsius=21)
    assert job.power.unloaded.body == Unloaded(watts=5, amperes=0.08)
    rise, alone = transformer_lines(job)
    assert rise.startswith("Winding hv: 59 °C, 35 K above the room") and "8 % of the plate" in alone
    with pytest.raises(ValueError, match="How warm is the room"):
        understand_at("power", "winding hv 161 ohm hot")
