"""One reading of a tube: dashes, line, scale; what a sitting shares; per cent of nominal and its verdict."""

import math

import pytest

from candor.core.tubes.matching import Measured, match, tubes_of
from candor.core.tubes.ratings import KINDS, kind_of_tube
from candor.core.tubes.tester_reading import LineStamp, Nudge, budget_of, judge_tube, line_share, own_part
from candor.core.uncertainty.coverage import cover
from candor.core.verdict.rules import Outcome
from candor.words.tubes_words import say_kind, say_tube_verdict

NUDGES = (Nudge("bias", 60e-6), Nudge("line", 40e-6), Nudge("shunt", 0.0))


def size(budget, name):
    return next(c.size for c in budget.contributions if c.name == name)


def test_each_dash_is_a_rectangle_of_half_of_it():
    found = budget_of(
        2.5e-3, "gm", division=50e-6, full_scale=3e-3, nudges=NUDGES, stamp=LineStamp(0.0), scale_u=30e-6
    )
    assert size(found, "bias, half a dash") == pytest.approx(30e-6 / math.sqrt(3))
    assert size(found, "line, half a dash") == pytest.approx(20e-6 / math.sqrt(3))
    assert size(found, "needle, ¼ division") == pytest.approx(12.5e-6 / math.sqrt(3))
    assert {c.name for c in found.contributions} == {
        "needle, ¼ division", "bias, half a dash", "line, half a dash", "tester, as calibrated",
    }  # fmt: skip
    whole = math.sqrt((30e-6**2 + 20e-6**2 + 12.5e-6**2) / 3 + 30e-6**2)
    assert found.combined == pytest.approx(whole)
    assert own_part(found) == pytest.approx(math.sqrt((30e-6**2 + 20e-6**2 + 12.5e-6**2) / 3))


def test_a_line_nobody_stamped_is_said_and_counts():
    stamped = budget_of(80.0, "emission", division=2, full_scale=100, stamp=LineStamp(300), scale_u=0.0)
    missing = budget_of(80.0, "emission", division=2, full_scale=100, scale_u=0.0)
    assert size(stamped, "line since it was set") == pytest.approx(80 * 0.005 * 2 / math.sqrt(3))
    assert size(missing, "line since it was set") == pytest.approx(80 * 0.025 * 2 / math.sqrt(3))
    assert "nobody stamped the line" in next(c.reason for c in missing.contributions if c.name.startswith("line"))
    assert (line_share(LineStamp(0)), line_share(LineStamp(1e6)), line_share(None)) == (0.0, 0.025, 0.025)
    assert any(
        c.name == "tester, not calibrated"
        for c in budget_of(80.0, "emission", division=2, full_scale=100).contributions
    )


def test_a_tube_on_a_tester_nobody_calibrated_is_hardly_known_to_a_tenth():
    """Line, a dash of bias, scale: common practice, no source."""
    found = budget_of(2.5e-3, "gm", division=50e-6, full_scale=3e-3, nudges=NUDGES)
    assert cover(found).expanded / 2.5e-3 > 0.1
    again = budget_of(2.5e-3, "gm", division=50e-6, full_scale=3e-3, nudges=NUDGES, scatter=(50e-6, 4))
    assert size(again, "repeats") == pytest.approx(25e-6)


@pytest.mark.parametrize(
    ("figure", "outcome", "words"),
    [
        (2.6e-3, Outcome.PASS, "100 ± 7 % of nominal, reject below 65 % by the chart: good."),
        (
            1.55e-3,
            Outcome.CANNOT_TELL,
            "60 ± 7 % of nominal, reject below 65 % by the chart: cannot be told from the reject level.",
        ),
        (1.3e-3, Outcome.FAIL, "50 ± 7 % of nominal, reject below 65 % by the chart: weak."),
    ],
)
def test_the_verdict_keeps_its_u(figure, outcome, words):
    found = judge_tube(figure, 0.182e-3, 2.6e-3, 1.69e-3, "the chart")
    assert (found.outcome, say_tube_verdict(found)) == (outcome, words)


def test_generic_kinds_are_found_by_words():
    assert kind_of_tube("beam power small").plate_watts == 10.0
    assert kind_of_tube("Triode, medium mu").name == "triode, medium mu"
    assert kind_of_tube("triode") is None
    assert kind_of_tube("") is None
    assert all(k.plate_volts > 0 and "own sheet rules" in say_kind(k) for k in KINDS)


def test_without_a_reject_level_nothing_is_good():
    found = judge_tube(1.3e-3, 0.05e-3, 2.6e-3, 0.0, "the chart")
    assert found.outcome is Outcome.CANNOT_TELL
    assert "no reject level is given; 60 to 70 % is customary" in say_tube_verdict(found)


def test_on_a_tester_of_which_nothing_is_known_two_per_cent_tell_no_tubes_apart():
    """The usual U is taken and said: no scale, no dash tried, no repeat, no calibration. Common practice, no source."""
    found = budget_of(4.1e-3, "gm", division=0, full_scale=4.1e-3, stamp=LineStamp(0))
    names = {c.name: c for c in found.contributions}
    assert {"needle, scale not known", "settings, not tried", "tester, not calibrated"} == set(names)
    assert "common practice, no source" in names["settings, not tried"].reason
    one, other = Measured("A", "", 4.0e-3, own_part(found)), Measured("B", "", 4.1e-3, own_part(found))
    assert not match(tubes_of([one, other])).sets[0].told_apart
    tried = budget_of(4.1e-3, "gm", division=0, full_scale=4.1e-3, stamp=LineStamp(0), scatter=(10e-6, 4))
    assert "settings, not tried" not in {c.name for c in tried.contributions}  # four repeats show it
