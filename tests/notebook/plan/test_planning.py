"""The plan of a notebook's days: of the demo, hour by hour, and after something was written."""

from __future__ import annotations

import datetime as dt
from itertools import pairwise

import pytest

from candor.notebook.entries.plan_entries import DeedPinned, Promised
from candor.notebook.entries.standards_entries import StandardCompared
from candor.notebook.entries.stay_entries import DetailWritten, JobOpened, StatusSet
from candor.notebook.plan.day import lanes_of
from candor.notebook.plan.planning import plan_day
from candor.notebook.work.job import fold
from candor.notebook.work.progress import STOP_OF
from candor.sitting.commands.shop_commands import withdraw_standard
from candor.words.plan_words import say_now
from workbench import NOW, by_command, open_job, standard_body


@pytest.fixture(scope="module")
def planned(written_demo, tmp_path_factory):
    """The plan of the demo, made once."""
    from candor.notebook.store import Notebook

    held = Notebook(written_demo / "demo.candor", "look", lambda: NOW)
    yield plan_day(held, NOW)
    held.close()


def test_nothing_that_must_be_watched_is_planned_past_closing(planned):
    watched = [d for d in planned.deeds if d.watched and d.runs]
    assert {d.work for d in watched} >= {"power up", "reform", "soaking"}
    for deed in watched:
        assert any(a <= deed.begins and deed.ends <= b for a, b in planned.open), deed.key


def test_power_goes_on_only_where_an_hour_is_left_before_closing(planned):
    live = [d for d in planned.deeds if d.work == "power up" or (d.work == "reform" and d.watched)]
    assert len(live) >= 6
    for deed in live:
        assert any(a <= deed.begins and deed.hands_end + dt.timedelta(hours=1) <= b for a, b in planned.open), (
            deed.key
        )


def test_a_reform_put_late_by_hand_waits_for_a_day_that_holds_it(demo):
    for line in ("reform C10 a", "parts", "settle"):
        demo.write("sb40224", DeedPinned(deed=line, at=NOW.replace(hour=17)))
    found = plan_day(demo, NOW)
    reform = next(d for d in found.deeds if d.key == "sb40224 reform C10 a")
    assert reform.watched and any(a <= reform.begins and reform.ends <= b for a, b in found.open)


def test_all_open_jobs_are_planned_in_the_order_of_their_work(planned, written_demo):
    order = [
        "walk",
        "settle",
        "part",
        "reform",
        "fit",
        "prove",
        "before power",
        "power up",
        "step",
        "adjust",
        "soaking",
        "release",
    ]
    by_job: dict[str, list] = {}
    for deed in planned.deeds:
        by_job.setdefault(deed.job, []).append(deed)
    assert len(by_job) >= 12
    for deeds in by_job.values():
        places = [order.index(d.work) for d in deeds if d.work not in ("step", "adjust")]
        assert places == sorted(places)
        assert all(a.ends <= b.begins for a, b in pairwise(deeds))
        assert deeds[-1].work == "release"
    assert "sb40188" not in by_job  # it has gone home


def test_promises_stand_by_the_plan_and_what_is_announced_is_waited_for(planned):
    assert {p.job for p in planned.promises} >= {"sb40217", "sb40236", "sb40224"}
    for promise in planned.promises:
        over = max(d.ends for d in planned.deeds if d.job == promise.job)
        assert planned.begins + dt.timedelta(minutes=promise.over) == over
    bridge = next(d for d in planned.deeds if d.job == "sb40254")
    assert bridge.begins.date() >= NOW.date() + dt.timedelta(days=6)


def test_every_deed_has_a_lane_of_its_own_time(planned):
    laid = lanes_of(planned, NOW.date())
    for lane in {x.lane for x in laid}:
        row = sorted((x for x in laid if x.lane == lane), key=lambda x: x.begins)
        assert all(a.ends <= b.begins for a, b in pairwise(row)), lane
    assert {STOP_OF[d.work] for d in planned.deeds} >= {"arrive", "parts", "power", "calibrate", "release"}


def test_a_job_that_waits_for_nobody_knows_when_is_named(notebook, pack, clock):
    open_job(notebook, pack, "a")
    open_job(notebook, pack, "b")
    notebook.write("b", StatusSet(status="waiting", text="for the owner's answer"))
    found = plan_day(notebook, clock())
    assert {d.job for d in found.deeds} == {"a"}
    assert [(u.job, u.why, u.text) for u in found.unplanned] == [("b", "waiting", "for the owner's answer")]


def test_what_was_put_at_an_hour_stands_there_and_what_is_in_hand_comes_first(notebook, pack, clock):
    clock.now = dt.datetime(2026, 6, 15, 10, 0).astimezone()
    open_job(notebook, pack, "a")
    clock.advance(hours=1)
    open_job(notebook, pack, "b")
    at = dt.datetime(2026, 6, 16, 14, 0).astimezone()
    notebook.write("a", DeedPinned(deed="walk", at=at))
    clock.advance(minutes=1)
    notebook.write("b", DetailWritten(field="serial", text="2"))
    found = plan_day(notebook, clock())
    first, pinned = found.deeds[0], next(d for d in found.deeds if d.key == "a walk")
    assert (first.job, first.why.because) == ("b", "begun")
    assert (pinned.begins, pinned.why.because) == (at, "pinned")
    notebook.write("a", DeedPinned(deed="walk", at=None))
    assert next(d for d in plan_day(notebook, clock()).deeds if d.key == "a walk").begins < at


def test_the_shop_is_as_it_said(notebook, pack, clock):
    for job in "abcd":
        open_job(notebook, pack, job)
    for field, text in (("hours", "Tue 10:00-16:00"), ("hands", "2"), ("shared", "variable transformer 0")):
        notebook.write("", DetailWritten(field=field, text=text))
    found = plan_day(notebook, clock())
    begins = {d.begins.astimezone() for d in found.deeds}
    assert {b.weekday() for b in begins} == {1} and min(b.hour for b in begins) == 10
    assert max(sum(d.begins <= at < d.hands_end for d in found.deeds) for at in begins) == 2
    assert {(u.deed, u.why, u.text) for u in found.unplanned} == {("power up", "none", "variable transformer")}
    assert not any(d.work in ("power up", "step", "release") for d in found.deeds)  # nothing goes on without it


def test_the_next_plan_keeps_the_last_one(demo, planned):
    again = plan_day(demo, NOW + dt.timedelta(minutes=1), before=planned.starts)
    assert again.starts == planned.starts and again.moved == ()
    demo.write("sb40217", Promised(on=NOW.date() - dt.timedelta(days=3)))
    late = plan_day(demo, NOW + dt.timedelta(minutes=1), before=planned.starts)
    assert len(late.besides) <= 3
    assert late.promises[0].job == "sb40217" and late.promises[0].standing == "late"
    assert late.rescues["sb40217"].by == "nothing"


def test_a_promise_is_the_last_that_was_written(notebook, pack):
    open_job(notebook, pack)
    for day in (10, 12):
        notebook.write("job1", Promised(on=dt.date(2026, 7, day)))
    assert fold("job1", notebook.entries_of("job1")).plan.due == dt.date(2026, 7, 12)
    notebook.write("job1", Promised())
    assert fold("job1", notebook.entries_of("job1")).plan.due is None


def test_what_was_put_before_what_it_comes_after_stands_as_early_as_it_can(notebook, pack, clock):
    open_job(notebook, pack)
    clock.advance(hours=2)
    notebook.write("job1", DeedPinned(deed="release", at=clock() + dt.timedelta(minutes=10)))
    found = plan_day(notebook, clock())
    last = found.deeds[-1]
    assert last.work == "release" and last.why.because != "pinned"
    assert all(d.ends <= last.begins for d in found.deeds[:-1])


def test_what_is_only_said_of_a_job_is_no_work_on_it(notebook, pack, clock):
    """A promise or a wait written does not put the hands at it."""
    open_job(notebook, pack, "old")
    clock.advance(hours=2)
    open_job(notebook, pack, "new")
    clock.advance(minutes=1)
    notebook.write("old", Promised(on=dt.date(2026, 6, 20)))
    notebook.write("old", StatusSet(status="wants hands", text="later"))
    begun = [d.job for d in plan_day(notebook, clock()).deeds if d.why.because == "begun"]
    assert begun == ["new"]


def test_a_check_of_a_standard_falls_due_once_checks_are_made(notebook, pack, clock):
    open_job(notebook, pack)
    for key in ("a", "b", "c"):
        notebook.write("", standard_body(key=key, name=f"meter {key}"))
    told = StandardCompared(
        standard="a", against="b", shown=10.0, reference=10.0, expanded=0.01, expanded_reference=0.01
    )
    notebook.write("", told)
    assert not [d for d in plan_day(notebook, clock()).deeds if d.work == "compare"]
    clock.advance(days=24)
    due = [d for d in plan_day(notebook, clock()).deeds if d.work == "compare"]
    assert [(d.name, d.of, set(d.needs)) for d in due] == [("meter a", "meter b", {"meter a", "meter b"})]
    notebook.write("", told)
    assert not [d for d in plan_day(notebook, clock()).deeds if d.work == "compare"]


def test_what_lies_far_ahead_does_not_break_the_plan(notebook, pack, clock):
    """A wait of years is named, one of months is planned, a deed put years ahead is planned freely."""
    for job in ("a", "b", "c"):
        open_job(notebook, pack, job)
    day = clock().date()
    notebook.write("a", StatusSet(status="waiting", text="for glass", until=day + dt.timedelta(days=900)))
    notebook.write("b", StatusSet(status="waiting", text="for glass", until=day + dt.timedelta(days=300)))
    notebook.write("c", DeedPinned(deed="walk", at=clock() + dt.timedelta(days=4000)))
    found = plan_day(notebook, clock())
    assert [(u.job, u.why) for u in found.unplanned] == [("a", "far")]
    first = {job: min(d.begins for d in found.deeds if d.job == job).date() for job in ("b", "c")}
    assert first["b"] >= day + dt.timedelta(days=300) and first["c"] <= day + dt.timedelta(days=4)


def test_hours_that_hold_nothing_leave_all_of_it_unplanned(notebook, pack, clock):
    open_job(notebook, pack)
    notebook.write("", DetailWritten(field="hours", text="Sat 10:00-10:05"))
    found = plan_day(notebook, clock())
    assert found.deeds == () and {u.why for u in found.unplanned} <= {"hands", "watch"}
    assert say_now(found).startswith("Nothing fits into your hours")


def test_a_job_whose_pack_cannot_be_read_leaves_the_others_planned(notebook, pack, clock):
    open_job(notebook, pack, "a")
    notebook.write("z", JobOpened(maker="M", type="T", serial="1", pack_digest="ab" * 32))
    found = plan_day(notebook, clock())
    assert {d.job for d in found.deeds} == {"a"}
    assert [(u.job, u.why) for u in found.unplanned] == [("z", "unreadable")]


def test_what_needs_dim_light_is_planned_for_when_there_is_some(demo, planned):
    """The eye of the capacitor checker; without a word about the light it is read whenever its turn comes."""
    dim = {d.key for d in planned.deeds if "dim light" in d.needs}
    assert dim
    assert all(
        d.work in ("step", "adjust") and d.job in ("sb40224", "sb40254") for d in planned.deeds if d.key in dim
    )
    demo.write("", DetailWritten(field="shared", text="dim light 16:00-17:30"))
    found = plan_day(demo, NOW)
    for deed in found.deeds:
        if "dim light" in deed.needs:
            begins, ends = (at.astimezone().time() for at in (deed.begins, deed.hands_end))
            assert dt.time(16) <= begins <= ends <= dt.time(17, 30), deed.key
    assert {d.key for d in found.deeds if "dim light" in d.needs} == dim
    demo.write("", DetailWritten(field="shared", text="dim light 22:00-23:00"))
    none = [u for u in plan_day(demo, NOW).unplanned if u.why == "when"]
    assert {u.job for u in none} == {"sb40224", "sb40254"}
    assert all(u.text == "dim light" for u in none)


def test_what_is_read_against_a_standard_that_is_away_waits_for_it_and_the_rest_does_not(notebook, pack, clock):
    """Sixteen days away: what is read against it waits, what comes before does not; another that serves, and nobody waits."""
    open_job(notebook, pack)
    today = clock().date()
    back = today + dt.timedelta(days=16)
    by_command(notebook)("", withdraw_standard("meter", "at the laboratory", back.isoformat(), today))
    reads = [d for d in plan_day(notebook, clock()).deeds if "bench meter" in d.needs]
    others = [d for d in plan_day(notebook, clock()).deeds if d.work in ("walk", "part")]
    assert reads and all(d.begins.astimezone().date() >= back for d in reads)
    assert others and all(d.begins.astimezone().date() < back for d in others)
    assert min(reads, key=lambda d: d.begins).why.because == "date"
    notebook.write("", standard_body(key="second", name="second meter"))
    reads = [d for d in plan_day(notebook, clock()).deeds if "second meter" in d.needs]
    assert reads and all(d.begins.astimezone().date() < back for d in reads)
