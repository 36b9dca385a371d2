"""Decision rules, what settles a doubt, points and runs."""

import datetime as dt
import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.calibration.point import TestPoint
from candor.core.calibration.result import assess_point, normalised_difference
from candor.core.calibration.ribbon import mark, marks_of
from candor.core.calibration.run import RunResult
from candor.core.errors import RangeError
from candor.core.quantities import parse_quantity
from candor.core.quantities.show import round_down
from candor.core.reading.dial import DialRange
from candor.core.reading.reading import Reading
from candor.core.reading.scale import linear_scale
from candor.core.reference.reference import CertifiedPoint, Reference, SpecificationRange
from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import cover
from candor.core.verdict.risk import shop_risk
from candor.core.verdict.rules import Limit, Outcome, Rule, decide, give_verdict, whole
from candor.core.verdict.would_settle import SURE_ENOUGH, settle, with_kind_cut, with_readings
from candor.words.results import say_agreements, say_friction, say_result, what_would_change
from candor.words.settling_words import say_settlement

DAY = dt.date(2026, 6, 15)
UPPER = linear_scale(name="upper", start=0, stop=15, divisions=30, number_every=10, long_every=5)
POINT = TestPoint(
    key="dc+/150/75",
    function="DC volts +",
    range_name="150 V",
    polarity=1,
    full_scale=150.0,
    nominal=75.0,
    indicator=DialRange(UPPER, 10.0, "V", True),
    limit=Limit(3.0),
)


@pytest.mark.parametrize(
    ("error", "expanded", "limit", "guarded", "plain", "four"),
    [
        (1.0, 0.5, 1.5, "passes", "passes", "passes"),
        (1.0, 0.501, 1.5, "cannot tell", "passes", "cannot tell"),
        (1.3, 0.375, 1.5, "cannot tell", "passes", "passes"),
        (1.0, 0.1, 1.5, "passes", "passes", "passes"),
        (2.0, 0.5, 1.5, "cannot tell", "fails", "cannot tell"),
        (-2.1, 0.5, 1.5, "fails", "fails", "fails"),
        (1.6, 0.3, 1.5, "cannot tell", "fails", "fails"),
        (0.0, 0.0, 0.0, "passes", "passes", "passes"),
        (0.1, 0.0, 0.0, "fails", "fails", "fails"),
        (0.0, 0.1, 0.0, "cannot tell", "passes", "cannot tell"),
    ],
)
def test_the_three_rules(error, expanded, limit, guarded, plain, four):
    """JCGM 106:2012, 8 and ILAC-G8: guarded acceptance, simple acceptance, simple acceptance from 4:1 on, else guarded."""
    for rule, outcome in ((Rule.GUARDED, guarded), (Rule.PLAIN, plain), (Rule.FOUR_TO_ONE, four)):
        assert decide(error, expanded, limit, rule) == outcome


@given(st.floats(-10, 10), st.floats(0, 5), st.floats(0, 10))
def test_guarded_never_contradicts_plain(error, expanded, limit):
    guarded = decide(error, expanded, limit, Rule.GUARDED)
    assert guarded in (Outcome.CANNOT_TELL, decide(error, expanded, limit, Rule.PLAIN))


def test_probability_and_ratio_at_the_edges():
    certain = cover(Budget(()))
    assert give_verdict(1.0, certain, 1.0).probability_in_tolerance == 1.0
    assert give_verdict(1.1, certain, 1.0).probability_in_tolerance == 0.0
    assert math.isinf(give_verdict(0.0, certain, 1.0).test_uncertainty_ratio)
    assert math.isnan(give_verdict(0.0, certain, 0.0).test_uncertainty_ratio)
    normal = cover(Budget((Contribution("a", 0.5),)))
    assert give_verdict(1.0, normal, 1.0).probability_in_tolerance == pytest.approx(0.5, abs=1e-4)
    assert give_verdict(0.0, normal, 1.0).test_uncertainty_ratio == pytest.approx(1.0, rel=1e-3)


def test_a_limit_adds_its_parts_and_refuses_nonsense():
    assert Limit(3.0, 1.0, 0.5).at(-50.0, 150.0) == pytest.approx(4.5 + 0.5 + 0.5)
    with pytest.raises(RangeError, match="zero or more was expected"):
        Limit(absolute=-1.0).at(0.0, 1.0)


@pytest.mark.parametrize("rule", [Rule.GUARDED, Rule.FOUR_TO_ONE])
@pytest.mark.parametrize("error", [0.55, 0.8, 0.97, 1.0, 1.2, 1.5])
def test_what_would_settle_it_settles_it_as_often_as_is_said(error, rule):
    """By benches that measure anew: the instrument's true error such that this one was read, the cut terms drawn afresh."""
    budget = Budget(
        (
            rectangular("needle", 0.4, kind="needle"), rectangular("reference", 0.3, kind="reference"),
            Contribution("reference, drift", 0.1, kind="reference"), Contribution("other", 0.02),
        )
    )  # fmt: skip
    found = settle(error, budget, 1.0, rule)
    assert (found is None) == (decide(error, cover(budget).expanded, 1.0, rule) is not Outcome.CANNOT_TELL)
    if found is None:
        return
    needed = found.expanded_needed
    assert needed == 0 or decide(error, needed * (1 - 1e-9), 1.0, rule) is not Outcome.CANNOT_TELL
    generator = np.random.default_rng(11)
    count = 4000
    wrong = {
        "needle": generator.uniform(-0.4, 0.4, count),
        "reference": generator.uniform(-0.3, 0.3, count) + generator.normal(0, 0.1, count),
    }
    for remedy in found.remedies:
        assert remedy.chance >= 0.5
        expanded = cover(with_kind_cut(budget, remedy.kind, remedy.half_width)).expanded
        again = error - wrong[remedy.kind] + generator.uniform(-remedy.half_width, remedy.half_width, count)
        settled = [decide(e, expanded, 1.0, rule) is not Outcome.CANNOT_TELL for e in again]
        assert np.mean(settled) == pytest.approx(remedy.chance, abs=0.03)
    chances = [r.chance >= SURE_ENOUGH for r in found.remedies]
    assert chances == sorted(chances, reverse=True)


def test_a_remedy_in_words_is_read_back_as_its_numbers():
    budget = Budget((rectangular("needle", 0.1, kind="needle"), rectangular("meter", 1.0, kind="reference")))
    found = settle(1.2, budget, 1.5, Rule.GUARDED)
    first = found.remedies[0]
    said = say_settlement(found, "V")
    assert parse_quantity(said.split("good to ±")[1].split(" would")[0], "V").value == pytest.approx(first.half_width)
    assert parse_quantity(said.split("at most ")[1].split(". ")[0], "V").value == pytest.approx(found.expanded_needed)


def test_more_readings_settle_it_as_often_as_is_said():
    """The chance given, by 700 benches each with its own true error and scatter, drawn by what was read (flat priors)."""
    generator = np.random.default_rng(4)
    seen, needle, limit, error, scatter = 4, 0.02, 1.0, 0.8, 0.2
    budget = Budget(
        (
            rectangular("needle", needle, kind="needle"),
            Contribution("repeats (4)", scatter / 2, dof=seen - 1, kind="repeats"),
        )
    )
    remedy = next(r for r in settle(error, budget, limit, Rule.GUARDED).remedies if r.kind == "repeats")
    assert 0 < remedy.chance < 1
    settled, new = 0, remedy.readings - seen
    for _ in range(700):
        sigma = scatter * math.sqrt((seen - 1) / generator.chisquare(seen - 1))
        true = generator.normal(error, sigma / math.sqrt(seen))
        later = generator.normal(true, sigma, new)
        mean = (seen * error + later.sum()) / remedy.readings
        squares = (seen - 1) * scatter**2 + ((later - later.mean()) ** 2).sum()
        pooled = math.sqrt(squares / (remedy.readings - 2)) if new > 1 else scatter
        ratio = pooled / scatter
        expanded = cover(with_readings(budget, remedy.readings, ratio)).expanded
        settled += decide(mean, expanded, limit, Rule.GUARDED) is not Outcome.CANNOT_TELL
    assert settled / 700 == pytest.approx(remedy.chance, abs=0.06)


@pytest.mark.parametrize(
    ("value", "down"), [(0.2999, 0.29), (0.3, 0.3), (12.99, 12.0), (0.0, 0.0), (1.05e-7, 1.0e-7)]
)
def test_rounded_down_to_two_digits(value, down):
    assert round_down(value) == pytest.approx(down, rel=1e-9)


def test_settlement_speaks_of_the_largest_first():
    budget = Budget((rectangular("needle", 0.1, kind="needle"), rectangular("meter", 1.0, kind="reference")))
    words = say_settlement(settle(1.2, budget, 1.5, Rule.GUARDED), "V")
    assert words.startswith("At this error it needs U of at most 300 mV. A reference good to ±")
    assert words.endswith(("times in 10.", "nearly always."))
    repeats = Budget((Contribution("repeats (3)", 0.5, dof=2, kind="repeats"),))
    assert "readings in all would settle it, about" in say_settlement(settle(1.0, repeats, 1.5, Rule.GUARDED), "V")
    assert "while it stays there, no U decides" in say_settlement(settle(1.5, budget, 1.5, Rule.GUARDED), "V")
    many = Budget(tuple(Contribution(f"term {i}", 0.3) for i in range(8)))
    assert "Cut the largest first: term 0, then term 1" in say_settlement(settle(0.9, many, 1.0, Rule.GUARDED), "V")


def test_where_the_guard_bands_meet_nothing_is_accepted_and_all_good_ones_are_refused():
    assert shop_risk(0.8, 0.9, Rule.GUARDED).false_accept == 0
    assert shop_risk(0.8, 0.9, Rule.GUARDED).false_reject == 0.9
    assert 0 < shop_risk(1.25, 0.9, Rule.PLAIN, factor=0.8).false_accept < 0.1  # any k above 0 is one


def test_risk_refuses_nonsense():
    with pytest.raises(RangeError, match="above 0"):
        shop_risk(0.0)


def read(*values: float, meter: Reference | None, rule: Rule = Rule.GUARDED, on: dt.date = DAY):
    """Readings at 75 V on a movement whose friction is known from other points to be none."""
    readings = tuple(Reading(v, 75.004, "", i + 1) for i, v in enumerate(values))
    return assess_point(
        point=POINT, phase="as found", readings=readings, reference=meter, on=on, rule=rule, friction_divisions=0.0
    )


def test_a_point_from_reading_to_sentence(meter):
    result = read(73.8, meter=meter)
    assert result.error == pytest.approx(-1.204)
    assert result.verdict.outcome is Outcome.PASS
    assert say_result(result).startswith(
        "Passes: error −1.20 V, U 0.95 V, limit ±4.5 V, with a guard band of U. TUR 4.7 (limit / U)."
    )
    assert (result.percent_of_full_scale, result.share_of_limit) == pytest.approx((-0.8027, -0.2676), abs=1e-4)


@pytest.mark.parametrize("ways", [("",), ("up",), ("up", "down")])
def test_the_correction_of_a_certificate_is_added_to_the_reference(ways):
    """EA-4/02: what was applied is what the reference showed and its correction; the error is the needle minus that."""
    point = CertifiedPoint(75.0, 0.4, 0.02, 2.0)
    certified = Reference("meter", "V", points=(point,), calibrated_on=dt.date(2026, 1, 10))
    readings = tuple(Reading(74.0, 75.0, way) for way in ways)
    result = assess_point(
        point=POINT, phase="as found", readings=readings, reference=certified, on=DAY, friction_divisions=0.0
    )
    assert result.reference == pytest.approx(75.4)
    assert result.error == pytest.approx(-1.4)
    assert result.verdict.error == pytest.approx(-1.4)


def test_a_point_that_fails_and_one_that_cannot_be_told(meter):
    assert "Fails: error −6.00 V, U 0.95 V, limit ±4.5 V" in say_result(read(69.0, meter=meter))
    doubt = read(71.0, meter=meter)
    assert doubt.verdict.outcome is Outcome.CANNOT_TELL
    assert say_result(doubt).startswith("Cannot tell: error −4.00 V, U 0.95 V, limit ±4.5 V")
    assert doubt.settlement.remedies[0].kind == "needle"


def test_without_a_reference_nothing_is_decided():
    result = read(75.0, meter=None)
    assert result.verdict.outcome is Outcome.CANNOT_TELL
    assert "choose one of the standards" in say_result(result)
    assert (result.settlement, result.age) == (None, None)


def test_from_one_side_alone_the_friction_is_in_doubt(meter):
    """Half a division assumed makes U what it is; from both sides the worse error is judged, and friction said."""
    one = assess_point(point=POINT, phase="as found", readings=(Reading(73.8, 75.004),), reference=meter, on=DAY)
    assert say_result(one).startswith("Passes: error −1.2 V, U 2.8 V")
    assert one.budget.largest_first()[0].name == "friction, assumed"
    sides = (Reading(73.0, 75.0, "up"), Reading(75.5, 75.0, "down"))
    both = assess_point(point=POINT, phase="as found", readings=sides, reference=meter, on=DAY)
    assert (both.error, both.verdict.error) == pytest.approx((-0.75, -2.0))
    assert say_friction(both).startswith(
        "Rising −2.00, falling +0.50 V: the worse is judged. Friction 0.25 division, within ½"
    )
    wide = (Reading(71.0, 75.0, "up"), Reading(77.0, 75.0, "down"))
    assert "Friction 0.6 division, over ½" in say_friction(
        assess_point(point=POINT, phase="as found", readings=wide, reference=meter, on=DAY)
    )


def test_limit_in_per_cent_of_reading_is_of_what_the_instrument_indicates(meter):
    point = replace(POINT, limit=Limit(percent_of_reading=2.0))
    assert assess_point(
        point=point, phase="as found", readings=(Reading(74.0, 75.0),), reference=meter, on=DAY
    ).verdict.limit == pytest.approx(1.48)


def test_a_standard_for_another_quantity_is_refused(meter):
    ohms = replace(meter, name="decade box", unit="ohm")
    with pytest.raises(
        RangeError, match="decade box is a standard for resistance; 150 V range at 75 V needs one for voltage"
    ):
        read(75.0, meter=ohms)


def test_two_standards_at_one_point_are_compared(meter):
    """E_n of the two, with what the needle shares taken out (ISO 13528, from memory): (a - b) / √(U1² + U2²)."""
    other = replace(meter, name="source", ranges=(SpecificationRange(2000.0, 0.5),))
    first = assess_point(point=POINT, phase="as found", readings=(Reading(73.8, 75.0),), reference=other, on=DAY)
    second = replace(
        assess_point(point=POINT, phase="as found", readings=(Reading(74.2, 75.0),), reference=meter, on=DAY),
        beside=(first,),
    )
    u = math.hypot(75 * 0.005, 75 * 0.0001) / math.sqrt(3)
    assert normalised_difference(second, first) == pytest.approx(0.4 / (2 * u))
    assert "E_n 0.92. They agree" in say_agreements(second)
    apart = assess_point(point=POINT, phase="as found", readings=(Reading(73.7, 75.0),), reference=other, on=DAY)
    assert "They disagree: find out which one is wrong" in say_agreements(replace(second, beside=(apart,)))


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
    assert (run.outcome, run.measured, run.sentence) == (n, 1, "As found: 1 pass, 1 not measured, 2 in all")


def test_without_a_limit_nothing_is_decided_and_the_error_is_still_said(meter):
    strict = replace(POINT, limit=Limit())
    result = assess_point(point=strict, phase="as found", readings=(Reading(76.0, 75.0),), reference=meter, on=DAY)
    assert (result.verdict.outcome, result.share_of_limit, result.settlement) == (Outcome.CANNOT_TELL, 0.0, None)
    assert say_result(result).startswith(result.shown)
    assert "no limit was given" in say_result(result)
    assert what_would_change(result).startswith("A limit")
    drawn = marks_of({strict.key: result})[strict.key]
    assert (drawn.height, drawn.bar, drawn.beyond) == (0.0, 0.0, 0)
    assert mark(1.0, 0.5, 0.0, Outcome.FAIL).beyond == 1


def test_whose_limit_it_is_stands_beside_it():
    owners = replace(POINT, limit_by="owner")
    assert (POINT.limit_words, owners.limit_words) == ("±4.5 V", "±4.5 V, the owner's")


def test_a_reference_that_does_not_reach_is_an_error():
    short = Reference("short", "V", (SpecificationRange(10.0, 0.01),))
    with pytest.raises(RangeError, match="beyond the specification of short"):
        read(75.0, meter=short)
