"""A tube measured on bench supplies: the slope, against a finite difference of the three-halves law."""

import numpy as np
import pytest

from candor.core.errors import RangeError
from candor.core.tubes.known import transconductance

MU, PLATE, K = 20.0, 150.0, 2.2e-4


def amperes(grid):
    """I = K (V_g + V_p/mu)^1.5."""
    return K * (grid + PLATE / MU) ** 1.5


@pytest.mark.parametrize("grid", [-1.0, -3.0, -5.0])
@pytest.mark.parametrize("half", [0.1, 0.25, 0.5, 1.0])
def test_the_chord_is_off_the_slope_by_no_more_than_it_says(grid, half):
    step = 1e-5
    slope = (amperes(grid + step) - amperes(grid - step)) / (2 * step)
    found = transconductance([(grid - half, amperes(grid - half)), (grid + half, amperes(grid + half))], 0.0, 0.0)
    chord = next(c for c in found.budget.contributions if c.name == "chord for slope")
    straight = (amperes(grid + half) - amperes(grid - half)) / (2 * half)
    assert slope - straight == pytest.approx(chord.size * 3**0.5, rel=0.02 + 0.2 * half**2)
    assert abs(found.siemens - slope) <= 0.25 * found.coverage.expanded


def test_per_cent_a_volt_by_the_three_halves_law():
    """d ln g/dV_g = 0.5/(V_g + V_p/mu): mu 20, 250 V, -8.5 V: 12.5 per cent a volt (derived)."""

    def slope(grid):
        return transconductance([(grid + d, K * (grid + d + 250 / 20) ** 1.5) for d in (-0.05, 0.05)], 0, 0).siemens

    assert np.log(slope(-8.0) / slope(-9.0)) == pytest.approx(0.125, abs=0.001)


def test_its_uncertainty_is_that_of_the_readings():
    random = np.random.default_rng(3)
    u_volts, u_amperes, drawn = 2e-3, 3e-6, []
    grid = (-3.25, -3.0, -2.75)
    found = transconductance([(v, amperes(v)) for v in grid], u_volts, u_amperes)
    for _ in range(1500):
        rows = [(v + random.normal(0, u_volts), amperes(v) + random.normal(0, u_amperes)) for v in grid]
        drawn.append(transconductance(rows, 0, 0).siemens)
    own = [c for c in found.budget.contributions if "each reading" in c.name]
    assert np.std(drawn) == pytest.approx(sum(c.size**2 for c in own) ** 0.5, rel=0.06)
    assert (found.grid_volts, found.plate_amperes) == (-3.0, pytest.approx(amperes(-3.0), rel=1e-2))


def test_scatter_counts_where_the_readings_do_not_explain_it():
    rows = [(-3.25, 6.10e-3), (-3.0, 6.64e-3), (-2.75, 7.21e-3)]
    names = lambda found: {c.name for c in found.budget.contributions}  # noqa: E731
    assert "scatter" not in names(transconductance(rows, 0, 20e-6))
    assert "scatter" in names(transconductance(rows, 0, 1e-6))
    assert "scatter" in names(transconductance(rows, 0, 0))  # nobody said how well they were read


def test_what_is_no_slope_is_refused():
    for rows, words in (
        ([(-3.0, 1e-3)], "two grid voltages"),
        ([(-3.0, 1e-3), (-3.0, 1.1e-3)], "one grid voltage"),
        ([(-4.0, 1e-3), (-1.0, 4e-3)], "the chord is not the slope"),
        ([(-3.25, 2e-3), (-2.75, 1e-3)], "falls as the grid rises"),
    ):
        with pytest.raises(RangeError, match=words):
            transconductance(rows, 1e-3, 1e-6)
