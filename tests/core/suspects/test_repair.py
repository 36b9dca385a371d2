"""What putting the likeliest right does: by hand, and by putting the part in and reading again."""

import math

import numpy as np
import pytest

from candor.core.suspects.repair import SERVES, Repair, repair, trimmed


def test_the_worst_before_and_after():
    found = repair({"a": 1.2, "b": -0.4, "c": 0.1}, {"a": 1.1, "b": 0.3})
    assert (found.before, found.after) == (1.2, pytest.approx(0.7))  # b goes the other way
    with pytest.raises(ValueError, match="No point has a limit"):
        repair({}, {})


def test_what_goes_in_brings_it_back_and_moves_no_point_by_more_than_a_quarter():
    plain = Repair(1.2, 0.2)
    high = trimmed(plain, "R3", 840e3, math.log(1.05), np.array([8.0, -2.0]))
    assert (high.added.how, high.wanted) == ("across", 840e3)
    assert 1 / (1 / high.value + 1 / high.added.exact) == pytest.approx(840e3)
    for end in (high.added.low, high.added.high):
        assert 8.0 * abs(1 / (1 / high.value + 1 / end) / 840e3 - 1) == pytest.approx(SERVES, rel=1e-6)
    low = trimmed(plain, "R3", 840e3, math.log(0.97), np.array([8.0]))
    assert low.added.how == "in series" and low.value + low.added.exact == pytest.approx(840e3)
    assert trimmed(plain, "R3", 840e3, math.inf, np.array([8.0])).added is None
