"""The correction of a tester: NIST's linear data set with outliers put in, prediction by simulation, and what contradicts."""

import math

import numpy as np
import pytest
from scipy.stats import linregress

from candor.core.errors import RangeError
from candor.core.tubes.correction import Known, correct_by
from candor.words.tubes_words import say_doubted

# NIST StRD, Norris: 36 points (y, x), from memory; the certified figures below show that they are the ones.
NORRIS = (
    (0.1, 0.2), (338.8, 337.4), (118.1, 118.2), (888.0, 884.6), (9.2, 10.1), (228.1, 226.5), (668.5, 666.3), (998.5, 996.3),
    (449.1, 448.6), (778.9, 777.0), (559.2, 558.2), (0.3, 0.4), (0.1, 0.6), (778.1, 775.5), (668.8, 666.9), (339.3, 338.0),
    (448.9, 447.5), (10.8, 11.6), (557.7, 556.0), (228.3, 228.1), (998.0, 995.8), (888.8, 887.6), (119.6, 120.2), (0.3, 0.3),
    (0.6, 0.3), (557.6, 556.8), (339.3, 339.1), (888.0, 887.2), (998.5, 999.0), (778.9, 779.0), (10.2, 11.1), (117.6, 118.3),
    (228.9, 229.2), (668.4, 669.1), (449.2, 448.9), (0.2, 0.5),
)  # fmt: skip
INTERCEPT, SLOPE, RESIDUAL = -0.262323073774029, 1.00211681802045, 0.884796396144373
U_INTERCEPT, U_SLOPE = 0.232818234301152, 0.429796848199937e-3


def norris():
    return [Known(f"n{i}", x, y) for i, (y, x) in enumerate(NORRIS)]


def test_the_published_fit_and_again_with_outliers_put_in():
    found = correct_by(norris())
    assert (found.intercept, found.slope) == (pytest.approx(INTERCEPT, rel=1e-9), pytest.approx(SLOPE, rel=1e-12))
    assert found.scatter == pytest.approx(RESIDUAL, rel=1e-10)
    assert (found.u_intercept, found.u_slope) == (
        pytest.approx(U_INTERCEPT, rel=1e-9),
        pytest.approx(U_SLOPE, rel=1e-9),
    )
    wrong = [Known("high", 500, 640), Known("low", 700, 520), Known("swapped", 120, 880), Known("a decimal", 89, 888)]
    again = correct_by(norris() + wrong)
    assert set(again.contradict) == {k.name for k in wrong}
    assert (again.intercept, again.slope, again.scatter) == (found.intercept, found.slope, found.scatter)
    plain = linregress([k.shown for k in norris() + wrong], [k.figure for k in norris() + wrong])
    assert abs(plain.slope - SLOPE) > 100 * abs(again.slope - SLOPE)


def test_a_prediction_holds_as_often_as_it_says():
    """Known tubes drawn about a line, a new one after them: within U in 95.45 per cent (2,000 times, two standard errors)."""
    random = np.random.default_rng(5)
    inside, times, accused = 0, 2000, 0
    for _ in range(times):
        shown = random.uniform(1, 6, 6)
        known = [Known(str(i), x, 0.1 + 0.95 * x + random.normal(0, 0.08)) for i, x in enumerate(shown)]
        found = correct_by(known)
        new = random.uniform(found.low, found.high)
        value, expanded = found.corrected(new)
        inside += abs(value - (0.1 + 0.95 * new + random.normal(0, 0.08))) <= expanded
        accused += bool(found.contradict)
    assert 0.94 <= inside / times <= 0.965
    assert accused / times < 0.005  # a sound tube is hardly ever left out


def test_one_that_contradicts_is_named_and_of_three_nobody_can_say():
    line = [
        Known("a", 1.0, 1.1, 0.02),
        Known("b", 2.0, 2.1, 0.02),
        Known("c", 3.0, 3.1, 0.02),
        Known("d", 4.0, 4.1, 0.02),
    ]
    found = correct_by([*line, Known("odd", 2.5, 3.4, 0.02)])
    assert found.contradict == ("odd",)
    assert found.corrected(2.5)[0] == pytest.approx(2.6)
    assert found.scatter == pytest.approx(0.02)  # not better than the known tubes are known
    three = correct_by([line[0], line[1], Known("odd", 3.0, 4.0, 0.02)])
    assert three.contradict == ()
    assert three.doubted
    assert "So few cannot say which is wrong" in say_doubted(three.doubted)
    assert three.corrected(2.0)[1] > 0.5


def test_nothing_beyond_the_span_and_a_fifth_of_it():
    found = correct_by([Known("a", 1.0, 1.0), Known("b", 2.0, 2.05), Known("c", 3.0, 2.98)])
    assert (found.low, found.high) == (pytest.approx(0.6), pytest.approx(3.4))
    assert found.corrected(3.4)[1] > found.corrected(2.0)[1]
    assert found.corrected(2.0, 0.1)[1] == pytest.approx(math.hypot(found.corrected(2.0)[1], 2 * found.slope * 0.1))
    with pytest.raises(RangeError, match="span of the known tubes"):
        found.corrected(3.5)
    with pytest.raises(RangeError, match="2 known tubes: a correction needs at least 3"):
        correct_by([Known("a", 1.0, 1.0), Known("b", 2.0, 2.05)])
    with pytest.raises(RangeError, match="read alike"):
        correct_by([Known("a", 1.0, 1.0)] * 3)
