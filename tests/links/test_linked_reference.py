"""A reference meter on a link is read when it stands still; what is not a reading is none."""

import pytest

from candor.core.errors import CancelledError
from candor.core.reading.repeated import WINDOW
from candor.links.link_errors import LinkError, StoppedError
from candor.links.linked_reference import read_settled
from candor.links.loopback import LoopbackInstrument
from candor.links.simulated_standards import SimulatedStandards


def test_a_meter_is_read_when_it_stands_still_and_several_times():
    with SimulatedStandards(0.0) as bench:
        bench.apply(7.2)
        found = read_settled(bench.meter, repeats=6)
    assert found.settled
    assert found.count >= WINDOW + 6
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
    [("9.9E37", "over its range"), ("9.91E37", "not a number"), ("hello", "one number"), (None, "no longer answers")],
)
def test_what_is_no_number_is_no_reading(answer, words):
    with LoopbackInstrument(lambda _: answer) as meter, pytest.raises(LinkError, match=words):
        read_settled(meter.resource)


def test_a_reading_is_given_up_at_once():
    with SimulatedStandards(1.0) as bench, pytest.raises((CancelledError, StoppedError)):
        read_settled(bench.meter, lambda: True)


@pytest.mark.parametrize("answer", ["12 A", "230 mV", "7.2,OVLD"])
def test_the_unit_of_an_answer_counts(answer):
    """Amperes are no volts, and millivolts are not volts."""
    with LoopbackInstrument(lambda _: answer) as meter:
        if answer == "230 mV":
            assert read_settled(meter.resource, unit="V", repeats=2, between_s=0.01).mean == pytest.approx(0.23)
        else:
            with pytest.raises(LinkError):
                read_settled(meter.resource, unit="V")
