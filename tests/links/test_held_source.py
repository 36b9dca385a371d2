"""A source on a link: ramped, and whatever happens switched off first; at zero only where it says so."""

import itertools
import threading
import time
from itertools import pairwise

import pytest

from badsource import Source
from candor.links.held_source import HeldSource


@pytest.fixture
def source(closing):
    made = Source()
    closing.callback(made.instrument.close)
    return made


@pytest.fixture
def held(source, closing):
    made = HeldSource(source.resource, step_s=0.002, timeout_s=0.2)

    def end():
        source.deaf = source.mute = source.lies = False
        made.close(5.0)
        assert made.ended

    closing.callback(end)
    return made


def wait(held, *phases, seconds=5.0):
    end = time.monotonic() + seconds
    while (state := held.state()).phase not in phases:
        assert time.monotonic() < end, state
        time.sleep(0.005)
    return state


def test_it_is_ramped_in_small_steps_switched_on_at_the_first_and_off_at_the_end(source, held):
    held.apply(10.0, most=20.0)
    assert wait(held, "standing").volts == 10.0
    assert source.volts == 10.0
    ramp = [float(line.split()[1]) for line in source.told if line.startswith("SOUR:VOLT ")]
    assert ramp == sorted(ramp)
    assert max(b - a for a, b in pairwise([0.0, *ramp])) < 0.6
    assert source.told.index("OUTP ON") == 3  # where it stands, the first step, what it says of it; then on
    held.off()
    assert wait(held, "off").fault == ""
    assert source.volts == 0.0


@pytest.mark.parametrize("value", [50.0, -50.0])
def test_beyond_its_limit_it_is_never_set_either_way_and_goes_to_zero(source, held, value):
    held.apply(5.0, most=20.0)
    wait(held, "standing")
    held.apply(value, most=20.0)
    state = wait(held, "off")
    assert "beyond the 20" in state.fault
    assert max(abs(float(x.split()[1])) for x in source.told if x.startswith("SOUR:VOLT ")) == 5.0
    assert source.volts == 0.0


@pytest.mark.parametrize("value", [9.0, -9.0])
def test_a_negative_point_is_ramped_as_a_positive_one(source, held, value):
    held.apply(value, most=20.0)
    assert wait(held, "standing").volts == value
    before = len(source.told)
    held.off()
    wait(held, "off")
    assert source.volts == 0.0
    told = source.told[before:]
    assert told.index("SOUR:VOLT 0") < told.index("OUTP OFF")  # a relay that sticks is then harmless all the same


@pytest.mark.parametrize("how", ["mute", "lies"])
@pytest.mark.parametrize("when", ["ramping", "standing"])
def test_one_that_no_longer_answers_is_told_off_and_never_said_to_be_at_zero(source, held, how, when):
    held.apply(280.0, most=300.0)
    wait(held, "standing") if when == "standing" else wait(held, "ramping")
    setattr(source, how, True)
    held.off()
    state = wait(held, "unknown")
    assert state.may_be_on
    assert source.volts == 0.0  # it was told all the same
    setattr(source, how, False)
    held.off()  # and is told again
    assert wait(held, "off").volts == 0.0


def test_one_that_takes_no_command_may_still_be_on_and_is_said_to_stand_where_it_did(source, held):
    held.apply(280.0, most=300.0)
    wait(held, "standing")
    source.deaf = True
    held.off()
    state = wait(held, "unknown")
    assert (state.volts, source.volts) == (280.0, 280.0)
    assert "told to go to zero and says 280" in state.fault


def test_a_dead_link_is_opened_anew_for_the_off_command(source, held):
    """The link there is answers no more; a second one does."""
    held.apply(100.0, most=300.0)
    wait(held, "standing")
    held._link._visa.close()
    held.off()
    wait(held, "off")
    assert source.volts == 0.0


def test_a_link_that_dies_while_it_stands_is_noticed(source, held, monkeypatch):
    monkeypatch.setattr("candor.links.held_source.LOOK_S", 0.02)
    held.apply(100.0, most=300.0)
    wait(held, "standing")
    source.mute = True
    assert "no answer" in wait(held, "unknown").fault


def test_a_hand_at_its_dial_is_noticed(source, held, monkeypatch):
    monkeypatch.setattr("candor.links.held_source.LOOK_S", 0.02)
    held.apply(100.0, most=300.0)
    wait(held, "standing")
    source.set = 130.0
    end = time.monotonic() + 3
    while not held.state().fault:
        assert time.monotonic() < end
        time.sleep(0.01)
    assert (held.state().volts, held.state().phase) == (130.0, "standing")


DEEDS = {
    "apply": lambda h: h.apply(300.0, most=300.0),
    "lower": lambda h: h.apply(20.0, most=300.0),
    "off": lambda h: h.off(),
    "close": lambda h: h.close(5.0),
}


@pytest.mark.parametrize("pause_s", [0.0, 0.01])
@pytest.mark.parametrize("first", DEEDS)
@pytest.mark.parametrize("second", DEEDS)
def test_the_off_command_comes_through_in_every_order_of_two_calls(source, first, second, pause_s):
    """Standing at 280 V: whatever two things are asked one after the other, an off among them ends at zero."""
    held = HeldSource(source.resource, step_s=0.001, timeout_s=3.0)
    held.apply(280.0, most=300.0)
    wait(held, "standing")
    DEEDS[first](held)
    time.sleep(pause_s)
    DEEDS[second](held)
    asked_off = {first, second} & {"off", "close"}
    if asked_off and not (first == "off" and second in ("apply", "lower") and pause_s):
        end = time.monotonic() + 5
        while source.volts or held.state().phase not in ("off", "standing"):
            assert time.monotonic() < end, (held.state(), source.volts)
            time.sleep(0.005)
    assert held.close(5.0).phase == "off"
    assert source.volts == 0.0
    assert held.ended


@pytest.mark.parametrize("callers", [3])
def test_many_hands_at_once_and_it_ends_at_zero(source, callers):
    held = HeldSource(source.resource, step_s=0.0005, timeout_s=0.5)
    for order in itertools.islice(itertools.permutations(["apply", "off", "lower"]), 6):
        threads = [threading.Thread(target=DEEDS[deed], args=(held,)) for deed in order]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    assert held.close(5.0).phase == "off"
    assert source.volts == 0.0


def test_off_does_not_wait_for_a_question_that_hangs(source):
    held = HeldSource(source.resource, step_s=0.002, timeout_s=2.0)
    held.apply(280.0, most=300.0)
    wait(held, "standing")
    source.mute = True
    held.apply(290.0, most=300.0)  # its first question hangs now for two seconds
    time.sleep(0.1)
    begun = time.monotonic()
    held.off()
    while source.on:
        assert time.monotonic() - begun < 1.0
        time.sleep(0.005)
    source.mute = False
    assert held.close(12.0).phase == "off"
