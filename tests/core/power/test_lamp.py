"""A lamp in series and a fuse."""

import pytest

from candor.core.errors import RangeError
from candor.core.parts.mains import Mains
from candor.core.power.fuse import RATED_AMPERES, proposed_fuse
from candor.core.power.lamp import proposed_lamp, with_lamp


@pytest.mark.parametrize(
    ("volts", "lamp", "load", "left"),
    [(120, 100, 50, 96.9), (120, 40, 50, 63.5), (120, 150, 50, 106.8), (230, 60, 60, 138.5), (230, 100, 60, 174.8)],
)
def test_what_a_lamp_leaves(volts, lamp, load, left):
    """I as V^0.55: the figures were worked out by a second hand."""
    answer = with_lamp(Mains(volts, 60), lamp, load)
    assert answer.load_volts == pytest.approx(left, abs=0.05)
    assert answer.load_volts + answer.lamp_volts == pytest.approx(volts)
    assert answer.short_amperes == pytest.approx(lamp / volts)


def test_the_lamp_proposed_takes_one_to_two_times_the_load():
    for load in range(15, 900, 7):
        assert load <= proposed_lamp(Mains(230, 50), load).lamp_watts <= 2 * load
    for bad in (0, -5, 2000):
        with pytest.raises(RangeError):
            proposed_lamp(Mains(230, 50), bad)


def test_a_fuse_bears_what_flows_and_what_rushes_in_and_no_smaller_one_does():
    for steady in (0.02, 0.1, 0.26, 0.7, 2.0):
        for inrush in (0.0, 3 * steady, 20 * steady):
            fuse = proposed_fuse(steady, inrush)
            assert fuse.amperes >= 1.5 * steady
            assert fuse.is_slow == (inrush > 0)
            assert inrush <= 10 * fuse.amperes
            smaller = [a for a in RATED_AMPERES if a < fuse.amperes]
            assert not smaller or smaller[-1] < 1.5 * steady or inrush > 10 * smaller[-1]
    for steady in (0.0, 9.0):
        with pytest.raises(RangeError):
            proposed_fuse(steady)
