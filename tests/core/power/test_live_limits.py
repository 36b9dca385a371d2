"""From which volts something is live to touch: 30 V r.m.s., 42.4 V peak, 60 V d.c. (IEC 61010-1, from memory)."""

import pytest

from candor.core.power.live_limits import DRY, WET, is_live, say_live


@pytest.mark.parametrize(
    ("volts", "alternating", "crest", "live"),
    [(29.9, True, 2**0.5, False), (30.1, True, 2**0.5, True), (45, True, 2**0.5, True), (-45, True, 2**0.5, True), (59.9,
    False, 1, False),
     (60.1, False, 1, True), (-61, False, 1, True), (25, True, 2.0, True), (29, True, 1.0, False), (45, False, 1, False)],
)  # fmt: skip
def test_live_to_touch(volts, alternating, crest, live):
    assert is_live(volts, alternating, crest) == live


def test_wet_places_have_lower_ones():
    assert (WET.rms, WET.peak, WET.direct) == (16.0, 22.6, 35.0)
    assert is_live(20, True, limits=WET)
    assert not is_live(20, True, limits=DRY)
    assert "one hand" in say_live("45 V").lower()
    assert "somebody in the house" in say_live("45 V")
