"""The way up: proposed for every kind of supply, edited as lines, and read in each state."""

import itertools
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from candor.core.parts.mains import Mains
from candor.core.power.plan import Band, Cut, Expected, Plan, PlanError, PlanStep
from candor.core.power.plan_text import plan_lines, read_plan
from candor.core.power.power_states import Rail, RectifierTube, SupplyTraits
from candor.core.power.propose import LIVE, MERCURY, proposed_plan
from candor.core.power.watch import creeping, events_of, judge, proposed_rails
from candor.words.power_words import say_creep, say_watched

RAILS = (Rail("b1", 285, 350), Rail("c-", -150), Rail("b2", 150, 0, 240))
STEP = PlanStep(
    "warm", 230, bands=(Band("b1", 270, 310), Band("c-", -160, -140)), events=(Expected("click", 30, 20),),
    cuts=(Cut("b1", 350, "rating"), Cut("watts", 60, after_s=10)),
)  # fmt: skip


@pytest.mark.parametrize("line", [0.0, 104.0, 119.2])
@pytest.mark.parametrize("rectifier", get_args(RectifierTube))
def test_every_plan_proposed_holds_together_and_survives_its_lines(rectifier, line):
    flags = ("delay_relay", "regulated_heaters", "series_heaters", "solid_state", "picture_tube", "fan")
    for watts, on in itertools.product((0.0, 60.0, 2500.0), ((), *((f,) for f in flags), flags[:2])):
        traits = SupplyTraits(
            rectifier, watts=watts, rails=RAILS, controls=("intensity", "sweep"), **dict.fromkeys(on, True)
        )
        plan = proposed_plan(traits, Mains(120, 60), line)
        again = read_plan(plan_lines(plan), plan.way, plan.why)
        assert [s.title for s in again.steps] == [s.title for s in plan.steps]
        assert plan_lines(again) == plan_lines(plan)
        assert plan.steps[-1].line_volts == pytest.approx(line or 120)
        assert all(s.line_volts <= (line or 120) for s in plan.steps)
        rails_up = [s for s in plan.steps if s.title not in ("lamp", "heaters", "rectifier heater")]
        assert all(
            {"b1", "c-", "b2"} <= {b.name for b in s.bands} for s in rails_up
        )  # each rail has its band in each state
        for step in plan.steps:
            assert step.cut("b1") is None or step.cut("b1").beyond <= 1.1 * RAILS[0].rated_volts + 0.05


def test_times_and_a_line_that_is_off_are_read_and_said_as_people_say_them():
    lines = "a: line off; hold 90 s\nb: line 230 V; hold 1 h; cut b1 beyond 300 V after 2 min, its rating"
    plan = read_plan(lines, "straight on", "typed")
    first, second = plan.steps
    assert (first.line_volts, first.hold_s, second.hold_s, second.cuts[0].after_s) == (0.0, 90.0, 3600.0, 120.0)
    said = plan_lines(plan)
    assert "hold 1.5 min" in said
    assert "after 2 min, its rating" in said


def test_cases_go_their_own_way_and_say_what_can_hurt_first():
    def plan(**traits):
        return proposed_plan(SupplyTraits(**traits), Mains(230, 50))

    assert plan(rectifier="directly heated").way == "variable transformer"
    assert plan(rectifier="directly heated").steps[0].line_volts == pytest.approx(0.7 * 230)
    assert plan(rectifier="indirectly heated").way == "variable transformer"  # nothing says what it takes
    assert MERCURY in plan(rectifier="mercury vapour").steps[0].caution
    assert plan(rectifier="mercury vapour").steps[0].hold_s >= 30
    assert plan(series_heaters=True, watts=40).steps[1].caution == LIVE
    held = plan(delay_relay=True, rectifier="directly heated", rails=RAILS)
    assert held.way == "heaters first"
    assert held.steps[0].band("b1") == Band("b1", -5, 5)  # nothing is there yet
    assert any(e.words == "click" for s in held.steps for e in s.events)
    assert "isolate nothing" in plan(rectifier="solid state").steps[0].caution


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "at least one step"),
        ("no colon here", "Line 1 has no name before a colon"),
        ("a: jump 3", "begins with none of line, hold"),
        ("a: line x", "Line 1, “line x”"),
        ("a: line 230 V\nb: hold soon", "Line 2, “hold soon”: “soon” is not a time"),
        ("a: read b1 300..200", "the lower end stands first"),
        ("a: read b1 200..300; cut b1 beyond 250", "inside its band"),
        ("a: read c- -300..-200; cut c- beyond 250", "inside its band"),
        ("a: read b1", "expected a name and both ends"),
        ("a: line 5 V\na: line 6 V", "is there twice"),
    ],
)
def test_what_is_no_plan_is_refused_by_line(text, words):
    with pytest.raises(PlanError, match=words):
        read_plan(text, "straight on", "")


@given(st.text(alphabet="ab:; .0123456789VWcutreadlin\n", max_size=80))
def test_any_text_is_a_plan_or_a_sentence(text):
    try:
        assert isinstance(read_plan(text, "straight on", ""), Plan)
    except PlanError as error:
        assert str(error)


@pytest.mark.parametrize(
    ("name", "value", "since", "state"),
    [("b1", 290, 5, "in band"), ("b1", 260, 5, "low"), ("b1", 340, 5, "high"), ("b1", 351, 0, "cut"), ("b1", -351, 0, "cut"),
     ("c-", -150, 5, "in band"), ("c-", -170, 5, "high"), ("c-", 150, 5, "low"), ("watts", 61, 5, "no band"),
     ("watts", 61, 11, "cut"),     ("b9", 3, 5, "no band")],
)  # fmt: skip
def test_a_reading_between_its_band_and_its_cut_line(name, value, since, state):
    watched = judge(STEP, name, value, since)
    assert watched.state == state
    assert watched.is_cut == ("Plug out" in say_watched(watched))


def test_what_was_expected_comes_is_due_or_is_late():
    assert [events_of(STEP, s, ())[0].state for s in (5, 15, 45, 60)] == ["to come", "due", "due", "late"]
    assert events_of(STEP, 60, ("Click",))[0].state == "seen"


def test_watts_that_climb_at_a_constant_line_are_said():
    climbing = [(t, 30 + t / 60) for t in range(0, 301, 20)]
    assert "Leakage is growing" in say_creep(creeping(climbing))
    assert creeping([(t, 30.0 + (t % 40) / 100) for t in range(0, 301, 20)]) is None
    assert creeping(climbing, [(0, 200.0), (300, 230.0)]) is None
    assert creeping(climbing[:2]) is None
    assert creeping([]) is None


def test_with_few_meters_the_reference_rail_is_watched_first():
    assert proposed_rails(("b1", "b2", "ref"), 2, "ref") == ("ref", "b1")
    assert proposed_rails(("b1",), 0) == ()


def test_bands_that_the_description_gives_stand_in_their_state_and_never_over_a_cut():
    """Scaled by the line, watts by its square; what had no cut line gets one; what a capacitor bears does not rise with it."""
    bands = {"warm": {"b1": (270.0, 500.0), "watts": (40.0, 60.0), "screen": (90.0, 110.0)}}
    plan = proposed_plan(
        SupplyTraits("indirectly heated", watts=50.0, rails=RAILS, bands=bands), Mains(120, 60), 108.0
    )
    without = proposed_plan(SupplyTraits("indirectly heated", watts=50.0, rails=RAILS), Mains(120, 60), 108.0)
    warm, plain = plan.steps[-1], without.steps[-1]
    assert (warm.band("watts").low, warm.band("watts").high) == (pytest.approx(32.4), pytest.approx(48.6))
    assert warm.cut("b1") == plain.cut("b1")
    assert (warm.band("b1").low, warm.band("b1").high) == (243.0, warm.cut("b1").beyond)
    assert (warm.band("screen").high, warm.cut("screen").beyond) == (99.0, pytest.approx(108.9))
    assert [s.bands for s in plan.steps[:-1]] == [s.bands for s in without.steps[:-1]]
