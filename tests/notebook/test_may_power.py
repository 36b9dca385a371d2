"""May it be powered: what applies, what is missing, what lifts it; and the way up, as entries say it."""

import datetime as dt

import pytest

from candor.core.jot import JotContext, understand
from candor.core.parts.mains import Mains
from candor.notebook.arrivals import bodies_of
from candor.notebook.entries.arrive import FindingNoted
from candor.notebook.entries.goods import NeedLine
from candor.notebook.entries.parts import BarOverridden, ReplacementChosen
from candor.notebook.entries.power import (
    PlanKept,
    PluggedOut,
    PowerChecked,
    RailSaid,
    StateBegun,
    SupplySaid,
)
from candor.notebook.entries.stay import JobOpened
from candor.notebook.job import fold
from candor.notebook.may_power import CHECKS, open_items, power_list
from candor.notebook.powering import expected_events, on_the_way, plan_of, power_bodies, safety_of

LINES = "warm: line 230 V; hold 5 min\n  read b1 270..310 V; read watts 20..40 W\n  expect click at 30 s\n  cut b1 beyond 350 V"


@pytest.fixture
def hand(notebook, clock):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310"))

    class Hand:
        def job(self):
            return fold("j", notebook.entries_of("j"))

        def write(self, *bodies):
            for body in bodies:
                notebook.write("j", body)

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
    assert set(hand.open()) == {*CHECKS, "rails"}
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
    assert hand.open() == []
    hand.write(SupplySaid())
    hand.write(PowerChecked(item="earth", outcome="does not apply"))
    assert hand.state("earth") == "does not apply"


def test_an_override_counts_for_what_was_not_looked_at_and_not_for_what_is_found_later(hand):
    hand.write(BarOverridden(bar="checks", reason="in daily use"))
    assert hand.open() == []
    hand.write(PowerChecked(item="fuse", outcome="bad", text="foil"))
    assert hand.open() == ["fuse"]
    hand.jot("chassis b1 12")
    assert set(hand.open()) == {"fuse", "rail b1"}


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
    assert (turned.state, "turned round it is within" in turned.sentence) == ("low", True)
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


def test_safe_is_said_of_what_was_measured_twice_with_a_meter_seen_live(hand):
    hand.write(StateBegun(title="warm", line_volts=230))
    hand.jot("rail b1 290")
    assert safety_of(hand.job(), hand.now(), 60.0)["b1"].stage == "on"
    hand.write(PluggedOut())
    assert safety_of(hand.job(), hand.now(), 60.0)["b1"].stage == "unknown"
    hand.jot("bleeder b1 220k on 40 uF")
    found = safety_of(hand.job(), hand.now(), 60.0)["b1"]
    assert (found.stage, round(found.left_s)) == ("counting", 14)
    hand.jot("rail b1 3")
    assert safety_of(hand.job(), hand.now(), 60.0)["b1"].stage == "measure"
    hand.jot("proved on the outlet")
    hand.advance(61)
    assert safety_of(hand.job(), hand.now(), 60.0)["b1"].stage == "again"
    hand.jot("rail b1 5")
    assert safety_of(hand.job(), hand.now() + dt.timedelta(hours=1), 60.0)["b1"].is_safe
    hand.write(StateBegun(title="warm", line_volts=230))  # on again: what was proved before then counts no more
    hand.jot("rail b1 290")
    hand.jot("rail b1 4")  # a lead that fell off: it is counted from the most it held
    hand.write(PluggedOut())
    assert round(safety_of(hand.job(), hand.now(), 60.0)["b1"].left_s) == 14
    for _ in range(2):
        hand.advance(61)
        hand.jot("rail b1 3")
    assert not safety_of(hand.job(), hand.now(), 60.0)["b1"].is_safe


def test_the_transformer_is_looked_at_winding_by_winding(hand):
    assert hand.state("windings") == "missing"
    hand.jot("winding hv 140 ohm")
    hand.jot("winding heater open")
    assert (hand.state("windings"), hand.state("winding hv"), hand.state("winding heater")) == (None, "good", "bad")
    hand.jot("winding heater 0.3 ohm")
    assert not {"windings", "winding hv", "winding heater"} & set(hand.open())
