"""May it be powered: what applies, what is missing, what lifts it; and the way up, as entries say it."""

import pytest

from candor.core.jot import JotContext, understand
from candor.core.parts.mains import Mains
from candor.core.power.swap import swapped_rectifier
from candor.notebook.arrive.arrivals import bodies_of
from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.entries.goods_entries import NeedLine
from candor.notebook.entries.parts_entries import BarOverridden, PartDecided, ReplacementChosen
from candor.notebook.entries.power_entries import (
    CautionUnderstood,
    CheckOverridden,
    PlanKept,
    PluggedOut,
    PowerChecked,
    RailOhmsRead,
    RailSaid,
    StateBegun,
    SupplySaid,
    SupplyTyped,
)
from candor.notebook.entries.release_entries import EarthRead
from candor.notebook.entries.soak_entries import SwitchedOff, SwitchedOn
from candor.notebook.entries.stay_entries import ChangeMade, JobOpened
from candor.notebook.entries.strikes_entries import Struck, Unstruck
from candor.notebook.power.alarms import open_volts
from candor.notebook.power.may_power import CHECKS, open_items, power_list
from candor.notebook.power.powering import (
    UnderPower,
    expected_events,
    held_at_full_line,
    may_begin,
    on_the_way,
    plan_of,
    power_bodies,
    safety_of,
)
from candor.notebook.work.job import fold
from candor.words.checks import say_found
from candor.words.power_words import say_may_begin, say_watched
from candor.words.supply_words import say_swapped
from workbench import looked_before_power

SUPPLY = "375-0-375 V, vacuum, 40 uF 450 V, 500 ohm, 40 uF 450 V, load 110 mA"
LINES = "warm: line 230 V; hold 5 min\n  read b1 270..310 V; read watts 20..40 W\n  expect click at 30 s\n  cut b1 beyond 350 V"


@pytest.fixture
def hand(notebook, clock):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310"))

    class Hand:
        def job(self):
            return fold("j", notebook.entries_of("j"))

        def write(self, *bodies):
            for body in bodies:
                notebook.write("j", body, clock() if isinstance(body, StateBegun) else None)

        def jot(self, text):
            jot = understand(text, JotContext(events=expected_events(self.job())))
            self.write(*power_bodies(jot))

        def state(self, key):
            return {i.key: i.state for i in power_list(self.job(), None)}.get(key)

        def open(self):
            return [i.key for i in open_items(self.job(), None)]

        def advance(self, seconds):
            clock.advance(seconds=seconds)

        def now(self):
            return clock.now

    return Hand()


def test_what_stands_in_the_way_and_what_lifts_it(hand):
    assert set(hand.open()) == {*CHECKS, "rails", "hazards", "electrolytics"}
    assert [
        i.key for i in power_list(hand.job(), None) if i.state == "good"
    ] == []  # nothing is green that nobody looked at
    hand.write(FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    hand.write(ReplacementChosen(ref="C1", lines=(NeedLine(what="capacitor", value=47e-9, text="47 nF"),)))
    hand.write(*bodies_of(understand("washed the chassis", JotContext()), hand.job()))
    hand.write(*bodies_of(understand("unaccounted 1 nut", JotContext()), hand.job()))
    assert [hand.state(k) for k in ("hazards", "fasteners", "parts", "insulation")] == [
        "bad",
        "bad",
        "bad",
        "missing",
    ]
    for bar in ("fasteners", "insulation", "parts"):
        hand.write(BarOverridden(bar=bar, reason="looked through"))
    assert [hand.state(k) for k in ("fasteners", "parts", "insulation")] == ["good", "good", "good"]


def test_what_is_decided_to_be_replaced_is_planned_until_it_is_fitted(hand):
    hand.write(PartDecided(ref="C8", action="replace"))
    assert (hand.state("parts"), "parts" in hand.open()) == ("bad", True)
    hand.write(ChangeMade(text="replaced C8", part="C8"))
    assert hand.state("parts") == "good"


def test_an_earth_bond_counts_with_its_test_current_alone(hand):
    hand.write(PowerChecked(item="earth", outcome="good", text="cracked at the plug end"))
    assert hand.state("earth") == "missing"  # words acquit nothing
    hand.write(EarthRead(ohms=0.1))
    assert hand.state("earth") == "missing"
    hand.write(EarthRead(ohms=0.1, amperes=10.0))
    assert hand.state("earth") == "good"
    hand.write(EarthRead(ohms=0.9, amperes=10.0))
    assert hand.state("earth") == "bad"
    hand.write(PowerChecked(item="earth", outcome="does not apply", text="two-wire"))
    assert hand.state("earth") == "does not apply"


@pytest.mark.parametrize(
    ("bodies", "words"),
    [
        ([RailSaid(name="b1", volts=430, rated_volts=400)], "drawn at 430 V"),
        ([RailSaid(name="c-", volts=-430, rated_volts=400)], "drawn at 430 V"),
        ([SupplyTyped(line=SUPPLY)], "sees 630 V before the tubes draw current"),
        ([SupplyTyped(line=SUPPLY), RailSaid(name="b1", volts=465, rated_volts=500)], "b1 reaches 630 V"),
    ],
)
def test_a_rating_that_is_passed_before_power_bars_it(hand, bodies, words):
    """375 V a side, 8 % regulation, +10 % line: 630 V on every capacitor before anything draws."""
    hand.write(
        *looked_before_power(), *bodies, *(RailOhmsRead(rail=b.name, ohms=60e3) for b in bodies if hasattr(b, "name"))
    )
    item = next(i for i in power_list(hand.job(), None) if i.key == "ratings")
    assert (item.state, words in say_found(item.found), hand.open()) == ("bad", True, ["ratings"])
    hand.write(CheckOverridden(item="ratings", reason="the load comes first, by a relay"))
    assert hand.open() == []
    hand.write(RailSaid(name="b9", volts=30, rated_volts=25))  # what comes up later is not overridden
    assert hand.open() == ["ratings"] or "rail b9" in hand.open()


def test_a_rail_is_judged_by_its_ohms_and_a_meter_that_was_proved_counts(hand):
    hand.write(RailSaid(name="b1", volts=285))
    assert (hand.state("rail b1"), hand.state("rails")) == ("missing", None)
    hand.jot("chassis b1 9k by manual 50k")
    assert hand.state("rail b1") == "bad"
    hand.jot("chassis b1 61k by manual 50k")
    assert hand.state("rail b1") == "good"
    assert hand.state("meter") == "missing"
    hand.jot("proved on the outlet")
    assert hand.state("meter") == "good"


def test_what_applies_follows_from_the_instrument(hand):
    hand.write(SupplySaid(series_heaters=True))
    assert [hand.state(k) for k in ("windings", "earth", "fuse")] == ["does not apply", "does not apply", "missing"]
    hand.write(SupplySaid(no_mains=True))
    assert hand.open() == ["hazards"]
    hand.write(SupplySaid())
    hand.write(PowerChecked(item="earth", outcome="does not apply"))
    assert hand.state("earth") == "does not apply"


def test_a_reason_lets_one_line_go_that_was_looked_at_and_nothing_else(hand):
    hand.write(BarOverridden(bar="checks", reason="in daily use"))  # as it was written until 2026-11
    assert "fuse" in hand.open()  # never one that nobody looked at
    hand.write(PowerChecked(item="fuse", outcome="bad", text="foil"))
    assert "fuse" in hand.open()
    hand.write(
        CheckOverridden(item="fuse", reason="a fuse is in the plug"), CheckOverridden(item="cord", reason="daily use")
    )
    assert "fuse" not in hand.open()
    assert "cord" in hand.open()
    hand.write(PowerChecked(item="fuse", outcome="bad", text="the one in the plug is foil too"))
    assert "fuse" in hand.open()
    hand.jot("chassis b1 12")
    assert "rail b1" in hand.open()
    hand.write(CheckOverridden(item="rail b1", reason="a shunt regulator, by the manual"))
    assert "rail b1" not in hand.open()


def test_power_is_done_only_when_the_full_line_was_held(hand):
    hand.write(*looked_before_power(), StateBegun(title="at 70 %", line_volts=161))
    hand.advance(900)
    hand.write(PluggedOut())
    assert not held_at_full_line(hand.job())
    hand.write(StateBegun(title="full line", line_volts=230))
    hand.advance(120)
    hand.write(PluggedOut())
    assert not held_at_full_line(hand.job())  # two minutes are no test
    hand.write(StateBegun(title="full line", line_volts=230))
    hand.advance(301)
    hand.write(PluggedOut())
    assert held_at_full_line(hand.job())


def test_a_state_is_not_begun_over_states_left_out_or_cautions_unread(hand):
    hand.write(SupplySaid(rectifier="directly heated", watts=60))
    plan = plan_of(hand.job(), None, Mains(230, 50))
    slow, _, full, _ = plan.steps
    assert "caution of “at 70 %” first" in say_may_begin(may_begin(hand.job(), plan, slow))
    assert "Read the caution" in say_may_begin(may_begin(hand.job(), plan, full))
    hand.write(CautionUnderstood(text=slow.caution))
    assert may_begin(hand.job(), plan, slow) is None
    assert "“at 70 %”, “at 85 %” were left out" in say_may_begin(may_begin(hand.job(), plan, full))
    hand.write(StateBegun(title="at 70 %", line_volts=161), StateBegun(title="at 85 %", line_volts=195))
    assert may_begin(hand.job(), plan, full) is None


@pytest.mark.parametrize(
    ("text", "old"),
    [
        ("silicon for selenium", "selenium"), ("replaced the selenium rectifier with silicon", "selenium"),
        ("mercury rectifier replaced by 1N4007", "mercury vapour"), ("5U4 swapped for solid state", "vacuum"),
        ("fitted silicon diodes in place of the rectifier tube", "vacuum"), ("replaced C8", ""), ("selenium cleaned", ""),
        ("new diode in the detector", ""),
    ],
)  # fmt: skip
def test_silicon_for_another_rectifier_goes_into_plan_and_ratings(hand, text, old):
    assert swapped_rectifier(text) == old
    hand.write(
        SupplySaid(rectifier="mercury vapour", watts=60),
        SupplyTyped(line=SUPPLY),
        PlanKept(way="straight on", lines=LINES),
    )
    crest = open_volts(hand.job())
    hand.write(ChangeMade(text=text))
    plan = plan_of(hand.job(), None, Mains(230, 50))
    assert (plan.steps[0].title == "at 25 %") == bool(old)  # the plan kept before holds no more
    assert open_volts(hand.job()) == pytest.approx(crest * (1.03 if old in ("mercury vapour", "vacuum") else 1.0))
    if old:
        assert "rails rise" in say_swapped(old, crest)
        assert ("delay that is gone" in say_swapped(old, crest)) == (old != "selenium")


def test_a_state_is_judged_from_when_it_began_and_forgotten_with_the_next(hand):
    hand.write(PlanKept(way="straight on", lines=LINES))
    plan = plan_of(hand.job(), None, Mains(230, 50))
    assert on_the_way(hand.job(), plan, hand.now()).step is None
    hand.write(StateBegun(title="warm", line_volts=230))
    way = on_the_way(hand.job(), plan, hand.now())
    assert (way.watched["b1"].state, way.cut, [e.state for e in way.events]) == ("unknown", None, ["to come"])
    hand.jot("rail b1 290")
    hand.jot("click")
    way = on_the_way(hand.job(), plan, hand.now())
    assert (way.watched["b1"].state, way.watched["watts"].state, way.events[0].state) == (
        "in band",
        "unknown",
        "seen",
    )
    hand.jot("rail b1 -287")  # the wrong way round: within the cut line, and nothing like its band
    turned = on_the_way(hand.job(), plan, hand.now()).watched["b1"]
    assert (turned.state, "with the opposite sign" in say_watched(turned)) == ("low", True)
    hand.jot("rail b1 351")
    assert on_the_way(hand.job(), plan, hand.now()).cut.name == "b1"
    hand.jot("rail b1 290")  # back in its band: it went over all the same
    assert on_the_way(hand.job(), plan, hand.now()).cut.name == "b1"
    hand.write(PluggedOut())
    assert on_the_way(hand.job(), plan, hand.now()).cut is None
    hand.write(StateBegun(title="warm", line_volts=230))
    assert on_the_way(hand.job(), plan, hand.now()).watched["b1"].state == "unknown"


def test_a_plan_follows_the_shops_mains_and_the_line_as_measured(hand):
    hand.write(SupplySaid(rectifier="directly heated", watts=60))
    assert plan_of(hand.job(), None, Mains(120, 60)).steps[-1].line_volts == 120
    assert plan_of(hand.job(), None, Mains(230, 50)).steps[0].line_volts == pytest.approx(161)
    assert plan_of(hand.job(), None, None).steps[-1].line_volts == 230


def test_safe_is_said_of_what_was_measured_twice_with_a_meter_seen_live(hand, clock):
    hand.write(StateBegun(title="warm", line_volts=230))
    hand.jot("rail b1 290")
    assert safety_of(hand.job(), clock.moment(), 60.0)["b1"].stage == "on"
    hand.write(PluggedOut())
    assert safety_of(hand.job(), clock.moment(), 60.0)["b1"].stage == "unknown"
    hand.jot("bleeder b1 220k on 40 uF")
    found = safety_of(hand.job(), clock.moment(), 60.0)["b1"]
    assert (found.stage, round(found.left_s)) == ("counting", 14)
    hand.jot("rail b1 3")
    assert safety_of(hand.job(), clock.moment(), 60.0)["b1"].stage == "measure"
    hand.jot("proved on the outlet")
    hand.advance(61)
    assert safety_of(hand.job(), clock.moment(), 60.0)["b1"].stage == "again"
    hand.jot("rail b1 5")
    assert safety_of(hand.job(), clock.moment(), 60.0)["b1"].is_safe
    hand.write(StateBegun(title="warm", line_volts=230))  # on again: what was proved before then counts no more
    hand.jot("rail b1 290")
    hand.jot("rail b1 4")  # a lead that fell off: it is counted from the most it held
    hand.write(PluggedOut())
    assert round(safety_of(hand.job(), clock.moment(), 60.0)["b1"].left_s) == 14
    for _ in range(2):
        hand.advance(61)
        hand.jot("rail b1 3")
    assert not safety_of(hand.job(), clock.moment(), 60.0)["b1"].is_safe


def test_the_transformer_is_looked_at_winding_by_winding(hand):
    assert hand.state("windings") == "missing"
    hand.jot("winding hv 140 ohm")
    hand.jot("winding heater open")
    assert (hand.state("windings"), hand.state("winding hv"), hand.state("winding heater")) == (None, "good", "bad")
    hand.jot("winding heater 0.3 ohm")
    assert not {"windings", "winding hv", "winding heater"} & set(hand.open())


def test_a_job_is_under_power_until_a_plug_that_stands_is_out(hand, notebook):
    live = UnderPower(notebook)
    assert live.jobs() == ()
    hand.write(StateBegun(title="warm", line_volts=40.0))
    assert live.jobs() == (("Corvane AV-20", "warm"),)
    out = notebook.write("j", PluggedOut())
    assert live.jobs() == ()
    notebook.write("j", Struck(target=out.id))
    assert live.jobs() == (("Corvane AV-20", "warm"),)
    notebook.write("j", Unstruck(target=out.id))
    assert live.jobs() == ()
    hand.write(StateBegun(title="off", line_volts=0.0))
    assert live.jobs() == ()
    hand.write(SwitchedOn())
    assert live.jobs() == (("Corvane AV-20", "it soaks"),)
    hand.write(SwitchedOff())
    assert live.jobs() == ()
