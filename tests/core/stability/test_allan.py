"""Allan deviations: NIST's nine points, a thousand against a published implementation."""

import allantools
import numpy as np
import pytest

from candor.core.errors import RangeError
from candor.core.stability.allan import average_for, deviations

# NBS nine-point set (NIST SP 1065, 12): frequency data.
NINE = (892, 809, 823, 798, 671, 644, 883, 903, 677)
OTHERS = {
    "simple": allantools.adev,
    "overlapping": allantools.oadev,
    "modified": allantools.mdev,
    "hadamard": allantools.ohdev,
}


def test_the_nine_points():
    simple = deviations(NINE, 1.0, "simple", (1, 2))
    assert [d.value for d in simple] == pytest.approx([91.22945, 115.8082], rel=1e-6)
    assert deviations(NINE, 1.0, "overlapping", (2,))[0].value == pytest.approx(85.95287, rel=1e-6)


@pytest.mark.parametrize("kind", OTHERS)
def test_a_thousand_points_against_a_published_implementation(kind):
    """The thousand-point set of NIST SP 1065, 12.4: n(i+1) = 16807 n(i) mod 2147483647."""
    n, values = 1234567890, []
    for _ in range(1000):
        values.append(n / 2147483647)
        n = 16807 * n % 2147483647
    taus = (1, 10, 100)
    ours = deviations(values, 1.0, kind, taus)
    _, theirs, *_ = OTHERS[kind](np.array(values), rate=1.0, data_type="freq", taus=list(taus))
    assert [d.value for d in ours] == pytest.approx(list(theirs), rel=1e-9)
    if kind == "overlapping":
        assert [d.value for d in ours] == pytest.approx(
            [2.922319e-01, 9.159953e-02, 3.241343e-02], rel=1e-6
        )  # printed there


def test_white_noise_falls_with_the_root_of_time_and_drift_ends_it():
    random = np.random.default_rng(1)
    white = deviations(random.normal(0, 1, 4096), 1.0)
    assert white[4].value / white[0].value == pytest.approx(0.25, rel=0.15)
    drifting = deviations(random.normal(0, 1, 4096) + np.arange(4096) * 2e-3, 1.0)
    assert average_for(drifting).seconds < 200
    with pytest.raises(RangeError, match="three readings"):
        deviations([1.0, 2.0], 1.0)
