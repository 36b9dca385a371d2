"""Decision rules, what settles a doubt, points and runs."""

import datetime as dt
import math
from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from candor.core.calibration.point import TestPoint, assess_point
from candor.core.calibration.run import RunResult, ribbon
from candor.core.errors import RangeError
from candor.core.reading.dial import DialRange, NeedleReading
from candor.core.reading.reference import Reference, SpecificationRange
from candor.core.reading.scale import linear_scale
from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import cover
from candor.core.verdict.risk import shop_risk
from candor.core.verdict.rules import Limit, Outcome, Rule, decide, judge, whole
from candor.core.verdict.settle import settle

DAY = dt.date(2026, 6, 15)
UPPER = linear_scale("upper", 0, 15, 30, 10, 5)
POINT = TestPoint("dc+/150/75", "DC volts +", "150 V", 1, 150.0, 75.0, DialRange(UPPER, 10.0, "V", True), Limit(3.0))


@pytest.mark.parametrize(
    ("error", "expanded", "limit", "guarded", "plain", "four"),
    [
        (1.0, 0.5, 1.5, "passes", "passes", "cannot tell"),
        (1.0, 0.501, 1.5, "cannot tell", "passes", "cannot tell"),
        (1.0, 0.1, 1.5, "passes", "passes", "passes"),
        (2.0, 0.5, 1.5, "cannot tell", "fails", "cannot tell"),
        (-2.1, 0.5, 1.5, "fails", "fails", "cannot tell"),
        (1.6, 0.3, 1.5, "cannot tell", "fails", "fails"),
        (0.0, 0.0, 0.0, "passes", "passes", "passes"),
        (0.1, 0.0, 0.0, "fails", "fails", "fails"),
        (0.0, 0.1, 0.0, "cannot tell", "passes", "cannot tell"),
    ],
)
def test_the_three_rules(error, expanded, limit, guarded, plain, four):
    """JCGM 106:2012, 8 and ILAC-G8: guarded acceptance, simple acceptance, simple acceptance at 4:1."""
    for rule, outcome in ((Rule.GUARDED, guarded), (Rule.PLAIN, plain), (Rule.FOUR_TO_ONE, four)):
        assert decide(error, expanded, limit, rule) == outcome


@given(st.floats(-10, 10), st.floats(0, 5), st.floats(0, 10))
def test_guarded_never_contradicts_plain(error, expanded, limit):
    guarded = decide(error, expanded, limit, Rule.GUARDED)
    assert guarded in (Outcome.CANNOT_TELL, decide(error, expanded, limit, Rule.PLAIN))


def test_probability_and_ratio_at_the_edges():
    certain = cover(Budget(()))
    assert judge(1.0, certain, 1.0).probability_in_tolerance == 1.0
    assert judge(1.1, certain, 1.0).probability_in_tolerance == 0.0
    assert math.isinf(judge(0.0, certain, 1.0).test_uncertainty_ratio)
    assert math.isnan(judge(0.0, certain, 0.0).test_uncertainty_ratio)
    normal = cover(Budget((Contribution("a", 0.5),)))
    assert judge(1.0, normal, 1.0).probability_in_tolerance == pytest.approx(0.5, abs=1e-4)
    assert judge(0.0, normal, 1.0).test_uncertainty_ratio == pytest.approx(1.0, rel=1e-3)


def test_a_limit_adds_its_parts_and_refuses_nonsense():
    assert Limit(3.0, 1.0, 0.5).at(-50.0, 150.0) == pytest.approx(4.5 + 0.5 + 0.5)
    with pytest.raises(RangeError, match="zero or more was expected"):
        Limit(absolute=-1.0).at(0.0, 1.0)


@given(st.floats(0.2, 1.8), st.floats(0.01, 0.6), st.floats(0.01, 0.6), st.sampled_from(list(Rule)))
def test_every_remedy_settles_it(error, needle, reference, rule):
    """A remedy that is offered must turn "cannot tell" into a decision when it is carried out alone."""
    budget = Budget(
        (rectangular("needle", needle, kind="needle"), Contribution("reference", reference, kind="reference"))
    )
    found = settle(error, budget, 1.0, rule, "V")
    undecided = decide(error, cover(budget).expanded, 1.0, rule) is Outcome.CANNOT_TELL
    assert (found is not None) == undecided
    assume(found is not None)
    for remedy in found.remedies:
        parts = (
            replace(c, standard_uncertainty=remedy.size * 0.999) if c.name == remedy.name else c
            for c in budget.contributions
        )
        expanded = cover(Budget(tuple(parts))).expanded
        assert decide(error, expanded, 1.0, rule) is not Outcome.CANNOT_TELL


def test_settlement_speaks_of_the_largest_first():
    budget = Budget((rectangular("needle", 0.1, kind="needle"), rectangular("meter", 1.0, kind="reference")))
    found = settle(1.2, budget, 1.5, Rule.GUARDED, "V")
    assert found.sentence.startswith("It needs U of at most 300 mV. A reference good to ±")
    assert found.sentence.endswith("would settle it.")
    repeats = Budget((Contribution("repeats (3)", 0.5, dof=2, kind="repeats"),))
    assert "times as many readings" in settle(1.0, repeats, 1.5, Rule.GUARDED, "V").sentence
    assert "no better reading" in settle(1.5, budget, 1.5, Rule.GUARDED, "V").sentence
    both = Budget((Contribution("a", 1.0, dof=9), Contribution("b", 1.0, dof=9)))
    assert "cut the largest first: a, then b" in settle(1.0, both, 1.1, Rule.GUARDED, "V").sentence


def test_risk_refuses_nonsense():
    with pytest.raises(RangeError, match="above 0"):
        shop_risk(0.0)


def read(*values: float, meter: Reference | None, rule: Rule = Rule.GUARDED, on: dt.date = DAY):
    readings = tuple(NeedleReading(v, 75.004, "", i + 1) for i, v in enumerate(values))
    return assess_point(POINT, "as found", readings, meter, on, rule)


def test_a_point_from_reading_to_sentence(meter):
    result = read(73.8, meter=meter)
    assert result.error == pytest.approx(-1.204)
    assert result.verdict.outcome is Outcome.PASS
    assert result.sentence.startswith(
        "−1.20 ± 0.95 V is inside ±4.5 V with the guard band kept. TUR 4.7 (limit / U)."
    )
    assert (result.percent_of_full_scale, result.share_of_limit) == pytest.approx((-0.8027, -0.2676), abs=1e-4)


def test_a_point_that_fails_and_one_that_cannot_be_told(meter):
    assert "is outside ±4.5 V" in read(69.0, meter=meter).sentence
    doubt = read(71.0, meter=meter)
    assert doubt.verdict.outcome is Outcome.CANNOT_TELL
    assert doubt.sentence.startswith("Read to ±0.95 V, limit ±4.5 V, error −4.00 V.")
    assert doubt.settlement.remedies[0].name == "needle, ⅕ tick"


def test_without_a_reference_nothing_is_decided():
    result = read(75.0, meter=None)
    assert result.verdict.outcome is Outcome.CANNOT_TELL
    assert "choose one of the standards" in result.sentence
    assert (result.settlement, result.age) == (None, None)


def test_a_point_without_reading_is_refused(meter):
    with pytest.raises(RangeError, match="has no reading"):
        read(meter=meter)


def test_an_expired_reference_is_used_and_said(meter):
    result = read(75.0, meter=meter, on=dt.date(2029, 1, 1))
    assert result.verdict.outcome is Outcome.PASS
    assert result.age.state == "expired"


def test_reference_signs(meter):
    minus = replace(POINT, polarity=-1)
    assert minus.reference_magnitude(-75.0) == minus.reference_magnitude(75.0) == 75.0
    assert (minus.applied, minus.name) == ("−75 V", "150 V range at −75 V")
    with pytest.raises(RangeError, match="is negative, but DC volts \\+ expects a positive reference"):
        POINT.reference_magnitude(-75.0)
    with pytest.raises(RangeError, match="far beyond the 150 V range; about 75 V was expected"):
        POINT.reference_magnitude(750.0)


def test_the_whole_is_the_worst(meter):
    p, f, c, n = Outcome.PASS, Outcome.FAIL, Outcome.CANNOT_TELL, Outcome.NOT_MEASURED
    assert [whole(o) for o in ([p, p], [p, c], [p, c, n], [p, n, f], [])] == [p, c, n, f, n]
    run = RunResult("as found", (POINT, replace(POINT, key="other")), {POINT.key: read(75.0, meter=meter)})
    assert (run.outcome, run.measured, run.sentence) == (n, 1, "As found: 1 pass, 1 not measured, of 2")


def test_ribbon_of_a_zero_limit_stays_on_the_picture(meter):
    strict = replace(POINT, limit=Limit())
    result = assess_point(strict, "as found", (NeedleReading(76.0, 75.0),), meter, DAY)
    assert result.share_of_limit == math.inf
    laid = ribbon(RunResult("as found", (strict,), {strict.key: result}))[0]
    assert (laid.height, laid.bar) == (2.0, 0.0)


def test_a_reference_that_does_not_reach_is_an_error():
    short = Reference("short", "V", (SpecificationRange(10.0, 0.01),))
    with pytest.raises(RangeError, match="beyond the specification of short"):
        read(75.0, meter=short)
