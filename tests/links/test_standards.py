"""Standards on links: read when they stand still; a source is ramped, and at zero first whatever happens."""

import time
from itertools import pairwise

import pytest

from candor.core.errors import CancelledError
from candor.links.errors import LinkError, StoppedError
from candor.links.loopback import LoopbackInstrument
from candor.links.simulated_standards import SimulatedStandards
from candor.links.standards import RampedSource, read_settled


def wait_for(what, seconds=3.0):
    end = time.monotonic() + seconds
    while not what() and time.monotonic() < end:
        time.sleep(0.01)
    assert what()


def test_a_meter_is_read_when_it_stands_still_and_several_times():
    with SimulatedStandards(0.0) as bench:
        bench.apply(7.2)
        found = read_settled(bench.meter, repeats=6)
    assert found.settled
    assert found.count == 6
    assert found.mean == pytest.approx(7.2, rel=1e-3)  # not where it was on its way
    assert 0 < found.standard_uncertainty < 1e-3


def test_one_that_never_stands_still_is_read_and_said_so():
    answers = iter(range(10_000))
    with LoopbackInstrument(lambda _: f"{next(answers)}") as meter:
        found = read_settled(meter.resource, repeats=2, longest_s=0.3, between_s=0.01)
    assert not found.settled
    assert "had not stood still" in found.sentence("V")


@pytest.mark.parametrize(
    ("answer", "words"),
    [("9.91E37", "Is it over its range"), ("hello", "a number was expected"), (None, "no longer answers")],
)
def test_what_is_no_number_is_no_reading(answer, words):
    with LoopbackInstrument(lambda _: answer) as meter, pytest.raises(LinkError, match=words):
        read_settled(meter.resource)


def test_a_reading_is_given_up_at_once():
    with SimulatedStandards(1.0) as bench, pytest.raises((CancelledError, StoppedError)):
        read_settled(bench.meter, lambda: True)


def test_a_source_is_ramped_and_goes_to_zero_on_leaving():
    told = []
    with SimulatedStandards() as bench:
        whole = bench._answer_source
        with LoopbackInstrument(lambda line: told.append(line) or whole(line)) as instrument:
            with RampedSource(instrument.resource, most=20.0) as source:
                source.set(10.0, step_s=0.001)
                assert bench.set_to == 10.0
            assert bench.set_to == 0.0
    ramp = [float(line.split()[1]) for line in told if line.startswith("SOUR:VOLT ")]
    assert ramp[:20] == sorted(ramp[:20])
    assert max(b - a for a, b in pairwise(ramp[:20])) < 0.6
    assert "OUTP OFF" in told


@pytest.mark.parametrize("how", ["beyond", "cancelled", "deaf"])
def test_whatever_goes_wrong_it_is_at_zero_first(how):
    stop = []
    with SimulatedStandards() as bench:
        deaf = []

        def answer(line):
            if deaf and line == "SOUR:VOLT?":
                return "not what was asked"
            return bench._answer_source(line)

        with LoopbackInstrument(answer) as instrument:
            source = RampedSource(instrument.resource, most=20.0, stopped=lambda: bool(stop))
            source.set(5.0, step_s=0.001)
            if how == "beyond":
                with pytest.raises(LinkError, match="beyond the 20"):
                    source.set(50.0)
            elif how == "cancelled":
                stop.append(1)
                with pytest.raises(CancelledError, match="stands at zero"):
                    source.set(9.0)
            else:
                deaf.append(1)
                with pytest.raises(LinkError, match="was set to"):
                    source.set(9.0, step_s=0.001)
            wait_for(lambda: bench.set_to == 0.0)
            source.close()
