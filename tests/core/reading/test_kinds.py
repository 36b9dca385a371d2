"""Every kind of reading: how it is typed, what it comes to, its half-width, and what it refuses."""

import datetime as dt
import math
from dataclasses import replace

import numpy as np
import pytest

from candor.core.calibration.from_others import figure_point
from candor.core.calibration.point import Formula
from candor.core.calibration.result import assess_point
from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.core.jot.meaning import NoteJot, ReadingJot
from candor.core.reading.indicators import Digits
from candor.core.reading.judged import Judged
from candor.core.reading.kinds import KINDS, kind_of, reading_of
from candor.core.reading.reading import INDICATED, Reading
from candor.core.reference.reference import Reference, SpecificationRange
from candor.core.verdict.rules import Limit, Outcome, Rule
from candor.packs.procedure import test_points as points_of
from candor.words.results import say_result
from everykind import PACK, TYPED

DAY = dt.date(2026, 6, 1)
POINTS = {p.key: p for p in points_of(PACK, "as found")}
ROOT3 = math.sqrt(3)


def jot(key: str, text: str = "") -> ReadingJot:
    found = understand(text or TYPED[key], JotContext(POINTS[key]))
    assert isinstance(found, ReadingJot), text
    return found


def taken(key: str, *texts: str):
    """The readings that were typed at a point, as the core knows them."""
    made = []
    for text in texts or (TYPED[key],):
        said = jot(key, text)
        figures = dict(said.figures) or {INDICATED: said.indicated}
        made.append(
            reading_of(POINTS[key], figures, said.reference or 0.0, kind=said.read_as, direction=said.direction)
        )
    return tuple(made)


def assessed(key: str, *texts: str, width: float = 1e-9, rule: Rule = Rule.GUARDED):
    """What readings say against a standard that is good to `width`, SI."""
    point = POINTS[key]
    standard = Reference(
        "std", point.asked_unit, (SpecificationRange(1e12, 0, counts=1, resolution=width),), calibrated_on=DAY
    )
    return assess_point(point, "as found", taken(key, *texts), standard, DAY, rule)


def test_ten_kinds_and_three_that_are_noted():
    assert len(KINDS) == 13
    assert {kind_of(p).key for p in POINTS.values()} | {"mark"} == set(KINDS)
    assert all(key in TYPED or kind_of(p).figured for key, p in POINTS.items())


@pytest.mark.parametrize(
    ("key", "indicated", "error", "half_widths"),
    [
        # Common practice, no source, but for what is set on a mark (IEC 60051-9, from memory): see the brief's table of kinds.
        ("volts/10/10", 10.0, 0.02, {"needle, ⅒ tick": 0.1 * 0.2}),
        ("volts/10/5", 5.1, 0.096, {"needle, ¼ tick": 0.25 * 0.2}),
        ("zero/5/-4", -3.9, 0.102, {"needle, ¼ tick": 0.25 * 0.2}),
        ("rise/s/3.5e-07", 340e-9, 340e-9, {"samples": 4e-9 * math.sqrt(3)}),
        ("merit/m/80", 78.0, -2.0, {"needle on its line": 1.5}),
        ("gain/v/2", 2.025, 0.015, {"first edge": 0.05, "second edge": 0.05}),
        ("shorts/s/250000", 250e3, 250e3, {"bracket": 10e3}),
        ("relay/r/30", 34.0, 4.0, {"as noted": 0.5}),
        ("reach/r/0.8", 0.74, 0.74, {"as noted": 0.01}),
    ],
)
def test_what_a_reading_comes_to_and_how_well_it_is_read(key, indicated, error, half_widths):
    result = assessed(key)
    assert result.indicated == pytest.approx(indicated)
    assert result.verdict.error == pytest.approx(error)
    sizes = {c.name: c.size * ROOT3 for c in result.budget.contributions}
    for name, half in half_widths.items():
        assert sizes[name] == pytest.approx(half), name


def test_limits_in_every_form_they_are_judged_in():
    """Along the arc, in dB, by a factor, on the value, lopsided, the greater of two."""
    ohms = assessed("ohms/1k/10000")
    assert ohms.unit == "% of arc"
    # Falling: 10.5 k for 10 k stands left of the middle, by 100 (10/20.5 - 1/2).
    assert ohms.verdict.error == pytest.approx(100 * (10 / 20.5 - 0.5))
    assert assessed("ohms/1k/inf").verdict.error == pytest.approx(0.0)  # infinity is a place on the arc
    level = assessed("cap/b/1e-07", "dial 98n pf 8 % ref 100n", "dial 98n pf 8 % ref 100n")
    assert (level.unit, level.verdict.error) == ("dB", pytest.approx(20 * math.log10(0.98)))
    factor = assessed("out/o/50")
    assert factor.verdict.bounds.high == pytest.approx(20 * math.log10(1.05))
    assert 10 ** (factor.verdict.error / 20) == pytest.approx(50 / 49.7)
    lopsided = assessed("zero/5/4").verdict.bounds
    assert (lopsided.low, lopsided.high) == (-0.1, 0.2)
    assert POINTS["cap/a/1e-08"].bounds_at(1e-9).high == pytest.approx(0.1e-9)
    assert POINTS["cap/a/1e-08"].bounds_at(10e-9).high == pytest.approx(0.5e-9)


def test_an_uncertainty_goes_through_the_slope_of_what_is_judged():
    """d(arc)/dR = 100/(4 Rc) at the middle of an ohms scale; 20/ln 10 of a share in dB: by what one part in a thousand is."""
    point = POINTS["ohms/1k/10000"]
    assert Judged(point).slope(10e3) == pytest.approx(100 / (4 * 10e3), rel=1e-4)
    wide = assessed("ohms/1k/10000", width=10.0)
    assert next(c for c in wide.budget.contributions if c.name == "std").size * ROOT3 == pytest.approx(
        10 * 100 / 40e3, rel=1e-3
    )
    level = Judged(POINTS["out/o/50"])
    assert level.slope(50.0) * 0.05 == pytest.approx(20 * math.log10(1.001), rel=1e-3)


def test_equal_on_both_sides_is_the_match_of_one_side_over_root_two():
    both, one = assessed("cap/a/1e-08"), assessed("cap/a/1e-08", "dial 10n ref 10n")
    assert both.indicated == pytest.approx(math.sqrt(9.6e-9 * 10.5e-9), rel=2e-3)  # along the arc of a bridge, nearly
    sizes = [next(c for c in r.budget.contributions if c.name.startswith("null")).size for r in (one, both)]
    assert sizes[0] / sizes[1] == pytest.approx(math.sqrt(2), rel=0.02)
    noticed = assessed("cap/a/1e-08", "dial 10n ± 2n ref 10n")
    assert next(c for c in noticed.budget.contributions if c.kind == "needle").size == pytest.approx(2e-9 / ROOT3)


def test_two_dials_are_alternated_until_neither_moves():
    once = assessed("cap/b/1e-07")
    assert (once.verdict.outcome, once.remark[:10]) == (Outcome.CANNOT_TELL, "Two dials:")
    moving = assessed("cap/b/1e-07", "dial 90n pf 12 % ref 100n", "dial 98n pf 8 % ref 100n")
    assert "still move" in moving.remark
    still = assessed(
        "cap/b/1e-07", "dial 90n pf 12 % ref 100n", "dial 98n pf 8 % ref 100n", "dial 98.2n pf 8 % ref 100n"
    )
    assert still.remark == ""
    assert still.indicated == pytest.approx(98.2e-9)  # the rounds before are the way there


def test_opposite_approaches_are_two_thresholds_and_their_gap_is_no_uncertainty():
    both = assessed("shorts/s/250000", "on 240k off 244k down", "on 260k off 264k up")
    assert both.indicated == pytest.approx(262e3)
    assert "hysteresis 20 kΩ" in both.note
    assert both.coverage.expanded < 3e3
    wide = assessed("shorts/s/250000", "on 200k off 300k")
    assert wide.indicated == pytest.approx(math.sqrt(200e3 * 300e3))  # wider than a tenth: the geometric mean


def test_one_sided_limits_are_judged_as_such_by_all_three_rules():
    """The guard band is k1 u with the one-sided 95 % quantile, 1.645 of a normal; a TUR there is none."""
    for rule, passes in ((Rule.PLAIN, True), (Rule.GUARDED, False), (Rule.FOUR_TO_ONE, False)):
        result = assessed("reach/r/0.8", "reach 60.5 %", rule=rule)
        assert (result.verdict.outcome is Outcome.PASS) == passes
        assert math.isnan(result.verdict.test_uncertainty_ratio)
    assert assessed("reach/r/0.8", "reach 40 %").verdict.outcome is Outcome.FAIL
    assert result.settlement is not None


def test_a_look_is_decided_by_its_words_and_two_that_differ_cannot_tell():
    assert assessed("eye/e/0", "opens wide").verdict.outcome is Outcome.PASS
    assert assessed("eye/e/0", "seen flutters").verdict.outcome is Outcome.FAIL
    differ = assessed("eye/e/0", "opens wide", "flutters")
    assert (differ.verdict.outcome, differ.shown) == (Outcome.CANNOT_TELL, "opens wide, flutters")
    assert "Two looks differ" in say_result(differ)
    assert isinstance(understand("the eye is dim today", JotContext(POINTS["eye/e/0"])), NoteJot)


@pytest.mark.parametrize(
    ("key", "text", "words"),
    [
        ("shorts/s/250000", "on 260k off 240k", "wrong way round"),
        ("shorts/s/250000", "on 250k off 250k", "same 250 kΩ"),
        ("shorts/s/250000", "251k", "is read as: threshold by bracket"),
        ("cap/a/1e-08", "dial 10.5n..9.6n", "wrong way round"),
        ("cap/a/1e-08", "dial 199n", "within 2 % of the right end"),
        ("cap/a/1e-08", "dial 0.4n", "off the scale|within 2 % of the left end"),
        ("cap/a/1e-08", "dial 10n pf 8 %", "has one dial"),
        ("gain/v/2", "11 div", "the screen has 8"),
        ("gain/v/2", "from 3 to 3", "same place"),
        ("gain/v/2", "dial 4", "another kind"),
        ("volts/10/10", "on 9.93 ref 9.9", "no mark at 9.93 V; the nearest is 10 V"),
        ("eye/e/0", "seen stripes", "is not an outcome of this look. Expected: opens"),
        ("out/o/50", "at 50 reads 5 A", "is a current"),
        ("zero/5/-4", "7 ref 4", "off the scale"),
        ("zero/5/-4", "3 ref 40", "far beyond"),
    ],
)
def test_what_cannot_be_is_said(key, text, words):
    with pytest.raises(CandorError, match=words):
        understand(text, JotContext(POINTS[key]))


def test_a_kind_on_what_it_cannot_be_read_on_is_refused():
    with pytest.raises(CandorError, match="no dial, so no needle"):
        KINDS["needle"].contributions(
            replace(POINTS["gain/v/2"], kind="needle"), taken("gain/v/2"), Judged(POINTS["gain/v/2"]), None
        )
    with pytest.raises(CandorError, match="what was written is of another kind"):
        reading_of(POINTS["gain/v/2"], {INDICATED: 1.0}, 1.0, kind="threshold")
    with pytest.raises(CandorError, match="not a kind of reading"):
        reading_of(POINTS["gain/v/2"], {}, 1.0, kind="weather")
    with pytest.raises(CandorError, match="has no logarithm"):
        Judged(POINTS["out/o/50"]).place(0.0)


def test_what_a_standard_measured_keeps_its_part_where_it_is_calculated_with():
    """A threshold is the standard's value: half of it has half of what the standard brings; what a needle showed has none."""
    wide = assessed("shorts/s/250000", "on 240k off 260k", width=9e3)
    shown = assessed("volts/10/5", "5.1 ref 5.004 up", width=0.5)
    for result in (wide, shown):
        of = Formula("a / 2", (("a", result.point.key),), "shown")
        point = replace(POINTS["diff/d/5"], formula=of, indicator=Digits(result.point.unit, 1.0))
        found = figure_point(point, "as found", {result.point.key: result}, Rule.GUARDED)
        brought = [c for c in found.budget.contributions if c.kind == "reference"]
        assert bool(brought) == (result is wide)
        if brought:
            assert brought[0].size == pytest.approx(9e3 / math.sqrt(3) / 2)


@pytest.mark.parametrize("rule", [Rule.PLAIN, Rule.GUARDED])
@pytest.mark.parametrize(
    ("limit", "rising", "falling", "passes"),
    [
        (Limit(absolute=0.6, below=Limit(absolute=5.0)), 1.0, -1.5, False),
        (Limit(absolute=0.6, below=Limit(absolute=5.0)), 0.3, -4.5, True),
        (Limit(absolute=5.0, below=Limit(absolute=0.6)), -1.0, 1.5, False),
        (Limit(at_least=15.0), -1.0, 3.0, False),
        (Limit(at_least=15.0), 0.5, 3.0, True),
        (Limit(at_most=15.0), -3.0, 1.0, False),
        (Limit(at_least=10.0, at_most=15.5), 0.4, -3.0, True),
        (Limit(at_least=10.0, at_most=15.5), 0.7, -3.0, False),
        (Limit(absolute=2.0), 1.0, -1.5, True),
    ],
)
def test_rising_and_falling_are_both_judged_and_the_smaller_room_decides(limit, rising, falling, passes, rule):
    point = replace(POINTS["volts/10/5"], full_scale=30.0, nominal=15.0, limit=limit)
    readings = (Reading(15.0 + rising, 15.0, "up"), Reading(15.0 + falling, 15.0, "down"))
    standard = Reference("std", "V", (SpecificationRange(100, 1e-6),), calibrated_on=DAY)
    result = assess_point(point, "as found", readings, standard, DAY, rule)
    assert (result.verdict.outcome is Outcome.PASS) == passes
    rooms = [result.verdict.bounds.room(15.0 + e if limit.on_value else e) for e in (rising, falling)]
    assert result.verdict.bounds.room(result.verdict.error) == pytest.approx(min(rooms), abs=1e-5)


@pytest.mark.parametrize("ratio", [1.05, 1.3, 2.0, 4.0])
@pytest.mark.parametrize("even_in", ["value", "logarithm"])
def test_a_bracket_holds_the_threshold_as_often_as_it_says(ratio, even_in):
    """Wherever in the bracket it lies: evenly by value or by logarithm, which the rectangle about its middle is not."""
    low = 200e3
    found = assessed("shorts/s/250000", f"on {low:.0f} off {low * ratio:.0f}")
    chance = np.random.default_rng(8)
    true = chance.uniform(low, low * ratio, 4000) if even_in == "value" else low * ratio ** chance.uniform(0, 1, 4000)
    assert np.mean(abs(true - found.indicated) <= found.coverage.expanded) >= 0.92


def test_a_value_in_decibels_is_a_logarithm_already():
    """−10.4 dB where −10 dB is applied is 0.4 dB off, below zero too, and a reference's 0.2 dB is 0.2 dB of U's rectangle."""
    point = replace(
        POINTS["volts/10/5"], nominal=-10.0, full_scale=20.0, polarity=0, indicator=Digits("dB", 0.1), limit=Limit(decibels=1.0),
    )  # fmt: skip
    judged = Judged(point)
    assert judged.place(-10.4) - judged.place(-10.0) == pytest.approx(-0.4)
    assert (judged.slope(-10.0), judged.unit) == (1.0, "dB")
    assert judged.inside(-10.0) == pytest.approx((-11.0, -9.0))


def test_what_is_noted_may_bring_its_own_standard_uncertainty():
    """What was read elsewhere comes with its u; the largest stands for readings of one thing, and half a step where none does."""
    one = assessed("reach/r/0.8", "74 % u 3 %")
    assert one.budget.contributions[0].standard_uncertainty == pytest.approx(0.03)
    assert dict(jot("reach/r/0.8", "74 % U 3 %").figures)["u"] == pytest.approx(
        0.015
    )  # as certificates state it, k = 2
    assert dict(jot("rise/s/3.5e-07", "340n U 8n").figures)["u"] == pytest.approx(4e-9)
    for text in ("340n u 8n", "340n u 8", "340 ns u 8", "0.34u u 0.008"):
        assert dict(jot("rise/s/3.5e-07", text).figures)["u"] == pytest.approx(8e-9)
    assert dict(jot("reach/r/0.8", "74 % u 3").figures)["u"] == pytest.approx(0.03)
    for key, text in (("reach/r/0.8", "74 % ± 3 %"), ("reach/r/0.8", "74 +- 3"), ("rise/s/3.5e-07", "340n ± 8n")):
        with pytest.raises(CandorError, match="u for a standard uncertainty"):
            jot(key, text)
    two = assessed("reach/r/0.8", "74 % u 3 %", "74 % u 5 %")
    assert two.budget.contributions[0].standard_uncertainty == pytest.approx(0.05)
    point = POINTS["reach/r/0.8"]
    assert kind_of(point).say(point, {INDICATED: 0.74, "u": 0.03}) == "reach 0.74, u 0.03"


@pytest.mark.parametrize(("text", "seconds"), [("31 s", 31.0), ("0.5 min", 30.0), ("31", 31.0), ("31000 ms", 31.0)])
def test_a_time_in_m_is_asked_about_at_a_point(text, seconds):
    """A timer's 5m are minutes, a sweep's are milliseconds: at a point neither is taken without a word."""
    assert jot("relay/r/30", f"after {text}").indicated == pytest.approx(seconds)
    for unclear in ("after 5m", "after 1.2 m", "after 5m10"):
        with pytest.raises(CandorError, match="minutes or milliseconds"):
            jot("relay/r/30", unclear)


@pytest.mark.parametrize("phase", [0.0, 0.7, math.pi / 2, math.pi])
@pytest.mark.parametrize(("own", "source"), [(0.6, 0.2), (0.3, 0.3), (0.2, 0.5)])
def test_what_is_left_of_a_sum_holds_at_every_phase_though_both_are_read_badly(own, source, phase):
    """Vectors added, each read with errors that are not of the budget's shape (a two-sided exponential): 93 of 100 and more in
    400 at the worst phase; the floor of 92 less what chance takes of 120."""
    chance, held, u = np.random.default_rng(7), 0, 0.02
    for _ in range(120):
        m = abs(own + source * complex(math.cos(phase), math.sin(phase))) + chance.laplace(0, u / math.sqrt(2))
        s = source + chance.laplace(0, u / math.sqrt(2))
        results = {}
        for name, value in (("m", m), ("s", s)):
            found = assessed("reach/r/0.8", f"{max(value, 0.0)!r} u {u}")
            results[name] = replace(found, point=replace(found.point, key=name))
        of = Formula("unphased(m, s)", (("m", "m"), ("s", "s")), "shown")
        point = replace(POINTS["diff/d/5"], formula=of, indicator=Digits("1", 0.01))
        found = figure_point(point, "as found", results, Rule.GUARDED)
        held += abs(found.indicated - own) <= found.coverage.expanded
    assert held >= 107
