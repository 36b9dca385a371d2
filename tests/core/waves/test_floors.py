"""Analysers at their floors, by brute force over the phase that nobody knows; figures of our own."""

import cmath
import math

import numpy as np
import pytest

from candor.core.errors import CandorError
from candor.core.quantities.formula import calculate, check_units, parse_formula
from candor.core.waves.floors import AnalyserReading, compare_floors, read_analyser


@pytest.mark.parametrize(("source", "own"), [(0.05, 0.2), (0.2, 0.05), (0.1, 0.1), (0.0, 0.08)])
def test_the_source_lies_between_whatever_the_phase(source, own):
    phases = np.linspace(0, 2 * math.pi, 721)
    shown = [abs(source + own * cmath.exp(1j * phase)) for phase in phases]
    assert all(
        low <= source + 1e-12 and source <= high + 1e-12
        for low, high in (AnalyserReading(m, own).between for m in shown)
    )
    assert max(shown) == pytest.approx(source + own) and min(shown) == pytest.approx(abs(source - own), abs=1e-9)


def test_two_at_their_floors_cannot_be_compared_and_two_well_above_can():
    close = compare_floors([AnalyserReading(0.21, 0.19), AnalyserReading(0.26, 0.23)])
    assert close.outcome == "cannot tell" and close.between == pytest.approx((0.03, 0.40))
    assert (
        compare_floors([AnalyserReading(0.21, 0.19), AnalyserReading(0.3, 0.02)]).outcome == "cannot tell"
    )  # one is enough
    assert compare_floors([AnalyserReading(2.0, 0.1), AnalyserReading(2.1, 0.1)]).outcome == "agree"
    apart = compare_floors([AnalyserReading(2.0, 0.1, 0.1), AnalyserReading(2.6, 0.1, 0.1)])
    assert (apart.outcome, apart.between) == ("differ", None)
    assert compare_floors([AnalyserReading(2.0, 0.1, 0.2), AnalyserReading(2.6, 0.1, 0.2)]).outcome == "agree"


def test_a_reading_is_read_and_what_is_none_said():
    assert read_analyser("0.26 % own 0.23 % u 0.01 %") == AnalyserReading(0.26, 0.23, 0.01)
    assert read_analyser("0,26") == AnalyserReading(0.26)
    for wrong in ("banana", "0.2 own", "-1"):
        with pytest.raises(CandorError, match="Example"):
            read_analyser(wrong)
    with pytest.raises(CandorError, match="no reading to compare"):
        compare_floors([])


@pytest.mark.parametrize(("shown", "own"), [(0.3, 0.1), (0.1, 0.3), (0.2, 0.2)])
def test_a_formula_knows_the_same_bounds_and_keeps_them_through_what_is_done_with_it(shown, own):
    formula = parse_formula("(unphased(m, r) - b) / 2")
    check_units(formula, {"m": "1", "r": "1", "b": "1"}, "1")
    found = calculate(formula, {"m": shown, "r": own, "b": 0.05})
    low, high = AnalyserReading(shown, own).between
    assert (found.value - found.spread, found.value + found.spread) == pytest.approx(
        ((low - 0.05) / 2, (high - 0.05) / 2)
    )
    assert found.slopes["b"] == -0.5 and sorted((found.slopes["m"], found.slopes["r"])) == [0.0, 0.5]
    with pytest.raises(CandorError, match="mixes units"):
        check_units(formula, {"m": "1", "r": "V", "b": "1"}, "1")
    with pytest.raises(CandorError):
        calculate(formula, {"m": -0.1, "r": own, "b": 0.0})
