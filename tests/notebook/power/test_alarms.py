"""Every reading is held to every rating that is known, whenever and wherever it comes; smoke is heard wherever it is written."""

import datetime as dt

import pytest

from candor.core.jot import JotContext, understand
from candor.core.parts.mains import Mains
from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.entries.parts_entries import CircuitTaken, PartListed
from candor.notebook.entries.power_entries import (
    EventSeen,
    PlanKept,
    PluggedOut,
    PowerChecked,
    RailRead,
    RailSaid,
    StateBegun,
    SupplySaid,
)
from candor.notebook.entries.runs_entries import RunEnded, RunStarted
from candor.notebook.entries.soak_entries import SwitchedOff, SwitchedOn
from candor.notebook.entries.stay_entries import JobOpened, NoteWritten
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.entries.trace_entries import NodeRead
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.power.alarms import LIVE_KINDS, alarms_of, live_elsewhere
from candor.notebook.power.powering import on_the_way, plan_of
from candor.notebook.work.job import fold
from candor.words.power_words import PLUG_OUT, say_alarm

LINES = "lamp: line 230 V; hold 5 min\n  expect a flash, then dim at 1 s\nwarm: line 230 V"


@pytest.fixture
def hand(notebook, clock, pack):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310"))

    class Hand:
        def job(self):
            return fold("j", notebook.entries_of("j"))

        def write(self, *bodies):
            told = {StateBegun: clock()}  # told of its moment: what bars the deed is tests/notebook/test_guards.py
            return [notebook.write("j", body, told.get(type(body))).id for body in bodies]

        def plan(self):
            return plan_of(self.job(), None, Mains(230, 50))

        def alarms(self, parts=None):
            return alarms_of(self.job(), parts, self.plan())

        def advance(self, seconds):
            clock.advance(seconds=seconds)

        def now(self):
            return clock.now

    return Hand()


@pytest.mark.parametrize("sign", [1, -1])
def test_a_reading_over_a_rating_is_an_alarm_before_in_and_after_a_state(hand, sign):
    """471 V on a 450 V part, and 520 V before anything is begun: written, and said."""
    hand.write(RailSaid(name="b1", volts=sign * 400, rated_volts=450), RailRead(name="b1", reading=sign * 520))
    (found,) = hand.alarms()
    assert (found.plug_out, "over the 450 V" in say_alarm(found)) == (False, True)
    hand.write(StateBegun(title="warm", line_volts=230))
    hand.advance(45)
    hand.write(RailRead(name="b1", reading=sign * 471))
    newest = hand.alarms()[-1]
    assert newest.plug_out
    assert say_alarm(newest).endswith(PLUG_OUT)
    assert on_the_way(hand.job(), hand.plan(), hand.now()).cut is not None
    hand.write(RailRead(name="b1", reading=sign * 449))
    assert len(hand.alarms()) == 2
    hand.write(PluggedOut())
    assert hand.alarms() == ()
    assert on_the_way(hand.job(), hand.plan(), hand.now()).cut is None


@pytest.mark.parametrize(("good", "after", "alarm"), [(False, 5, True), (True, 5, False), (True, 31, True)])
def test_a_surge_is_borne_for_half_a_minute_by_what_was_measured_good(hand, good, after, alarm):
    hand.write(RailSaid(name="b1", volts=400, rated_volts=450))
    if good:
        hand.write(PowerChecked(item="electrolytics", outcome="good"))
    hand.write(StateBegun(title="warm", line_volts=230))
    hand.advance(after)
    hand.write(RailRead(name="b1", reading=480))
    assert bool(hand.alarms()) == alarm


def test_a_mistyped_reading_that_is_struck_is_none(hand):
    hand.write(RailSaid(name="b1", volts=400, rated_volts=450), StateBegun(title="warm", line_volts=230))
    (wrong,) = hand.write(RailRead(name="b1", reading=4710))
    assert hand.alarms()
    hand.write(Struck(target=wrong))
    assert hand.alarms() == ()


@pytest.mark.parametrize(
    "body",
    [EventSeen(text="smoke"), EventSeen(text="arc"), EventSeen(text="smell"), NoteWritten(text="smoke from R12"),
     FindingNoted(zone="", mark="note", text="a bang, and it hums no more"),
     FindingNoted(zone="", mark="hazard", text="chassis to earth 62 V"),
     EventSeen(text="a flash, then dim")],
)  # fmt: skip
def test_smoke_and_its_kin_mean_plug_out_while_the_line_is_on_and_only_then(hand, body):
    hand.write(PlanKept(way="series lamp", lines=LINES), body)
    # What is seen is seen now: nobody said that it is off. A line of words may be of long ago.
    assert len(hand.alarms()) == isinstance(body, EventSeen)
    hand.write(PluggedOut(), StateBegun(title="lamp", line_volts=230))
    hand.advance(90)  # long after the flash was due
    hand.write(body)
    (found,) = hand.alarms()
    assert (found.plug_out, PLUG_OUT in say_alarm(found)) == (True, True)
    way = on_the_way(hand.job(), hand.plan(), hand.now())
    assert way.cut is not None
    assert way.cut.is_cut
    hand.write(PluggedOut(), body)
    assert hand.alarms() == ()


def test_what_the_state_expects_in_its_time_and_what_is_denied_is_only_logged(hand):
    hand.write(PlanKept(way="series lamp", lines=LINES), StateBegun(title="lamp", line_volts=230))
    hand.advance(2)
    hand.write(EventSeen(text="flash"), EventSeen(text="a flash, then dim"), NoteWritten(text="no smoke, no smell"))
    assert hand.alarms() == ()
    hand.write(EventSeen(text="smoke"))
    assert len(hand.alarms()) == 1


@pytest.mark.parametrize(
    ("text", "seconds", "rings"),
    [
        ("lamp bright", 10, False), ("the bulb is at full brightness", 50, False), ("lamp bright", 120, True),
        ("the lamp is bright and stays", 120, True), ("the bulb won't dim", 120, True), ("lamp bright, then dim", 120, False),
        ("pilot lamp is bright", 120, False), ("the lamp is not bright", 120, False),
    ],
)  # fmt: skip
def test_a_lamp_in_series_that_stays_bright_is_a_short(hand, text, seconds, rings):
    hand.write(PlanKept(way="series lamp", lines=LINES), StateBegun(title="lamp", line_volts=230))
    hand.advance(seconds)
    hand.write(NoteWritten(text=text))
    assert [a.plug_out for a in hand.alarms()] == [True] * rings


def test_a_node_over_the_rating_of_a_capacitor_on_it_is_an_alarm(hand, pack):
    listed = PartListed(
        ref="C1", what="capacitor", make="electrolytic", nominal=16e-6, below=0.2, above=0.5, volts=350
    )
    hand.write(CircuitTaken(netlist="R1 b1 n5 10k\nC1 n5 0 16u\nR2 n5 0 100k", supply="b1"), listed)
    hand.write(NodeRead(node="n5", volts=340))
    parts = list_parts(hand.job(), pack)
    assert hand.alarms(parts) == ()
    hand.write(NodeRead(node="n5", volts=365))
    (found,) = hand.alarms(list_parts(hand.job(), pack))
    assert "365 V across C1, over its 350 V rating" in say_alarm(found)
    assert not found.plug_out


def test_a_line_typed_while_it_runs_is_an_event_or_a_note_and_both_are_heard(hand):
    """What the jot line makes of it does not matter."""
    for text in ("smoke", "smoke from the transformer", "found smoke at V2"):
        jot = understand(text, JotContext())
        assert "smoke" in str(jot)


def test_smoke_at_a_point_means_plug_out_though_nobody_began_a_state(hand, pack):
    """Whoever goes straight to Calibrate has it on: what is seen there is heard, until the plug is out."""
    hand.write(NoteWritten(text="smells of old smoke, inside"))  # before anything was read on it
    assert hand.alarms() == ()
    hand.write(ReadingTaken(step="s", phase="as found", point="dc/30/10", indicated=10.1, reference=10.0))
    hand.write(FindingNoted(zone="face", mark="note", text="burnt paint"))  # of long ago
    assert hand.alarms() == ()
    hand.write(NoteWritten(text="R12 is smoking"))
    (found,) = hand.alarms()
    assert found.plug_out and say_alarm(found).endswith(PLUG_OUT)
    later = hand.now() + dt.timedelta(days=7)  # who opens the job then is not told to pull a plug
    assert alarms_of(hand.job(), None, None, None, later) == ()
    assert len(alarms_of(hand.job(), None, None, None, hand.now())) == 1
    hand.write(PluggedOut(), NoteWritten(text="it smells burnt"))
    assert hand.alarms() == ()
    hand.write(ReadingTaken(step="s", phase="as found", point="dc/30/10", indicated=10.1, reference=10.0))
    hand.advance(1900)
    hand.write(NoteWritten(text="R12 was burnt"))  # half an hour later nobody says that it is on
    assert hand.alarms() == ()
    hand.write(EventSeen(text="smoke"))  # what is seen is seen now
    assert [a.plug_out for a in hand.alarms()] == [True]
    hand.write(SwitchedOn())
    hand.write(NoteWritten(text="a loud crack"), SwitchedOff(), NoteWritten(text="there was a bang"))
    assert len(hand.alarms()) == 3  # switched off, and what burns is before the switch: the plug is still in
    hand.write(SupplySaid(no_mains=True), NoteWritten(text="arc at the terminals"))
    assert hand.alarms() == ()


def test_smoke_is_heard_in_whatever_job_while_another_is_live(hand, notebook, clock):
    """The one in hand was never on; what burns is on the bench. What stood there before is of before."""
    notebook.write("other", JobOpened(maker="Corvane", type="AV-20", serial="2"))
    hand.write(NoteWritten(text="smoke stains"))

    def heard():
        return [
            (a.found.kind, a.plug_out)
            for a in alarms_of(hand.job(), None, None, live_elsewhere(notebook.entries_of_kinds(LIVE_KINDS), "j"))
        ]

    assert heard() == []
    notebook.write("other", StateBegun(title="warm", line_volts=120), clock())
    assert heard() == []
    hand.write(NoteWritten(text="there is smoke somewhere"), NoteWritten(text="a burnt resistor in the drawer"))
    assert heard() == [("alarm.elsewhere", True)]
    notebook.write("other", PluggedOut())
    assert heard() == []
    run = notebook.write(
        "other", RunStarted(ref="C1", mode="reform", target_volts=300, dwell_s=60, limit=1e-4, most_s=600)
    )
    hand.write(NoteWritten(text="a bang"))
    assert heard() == [("alarm.elsewhere", True)]
    notebook.write("other", RunEnded(run=run.id, ref="C1", why="stopped"))
    assert heard() == []
    notebook.write("other", SwitchedOn())
    hand.write(NoteWritten(text="a bang"))
    assert heard()[-1:] == [("alarm.elsewhere", True)]
    notebook.write("other", SwitchedOff())
    assert heard() == []
