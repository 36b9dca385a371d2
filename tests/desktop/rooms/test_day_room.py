"""Today, driven through the window: the plan is made beside it, looked at, put right by hand, printed."""

import datetime as dt
import sys

import pytest
from pypdf import PdfReader
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QLabel

from candor.notebook.entries.plan_entries import DeedPinned, Promised
from candor.notebook.entries.stay_entries import StatusSet
from candor.notebook.plan.planning import plan_day
from candor.notebook.store import Notebook
from desk import LEFT, jot
from workbench import NOW, PATIENCE_MS


@pytest.fixture(scope="session")
def plan_of_the_demo(written_demo):
    """The plan of the demo, made once: what a process of its own makes takes seconds."""
    held = Notebook(written_demo / "demo.candor", "look", lambda: NOW)
    yield plan_day(held, NOW)
    held.close()


@pytest.fixture
def today(show, demo, plan_of_the_demo):
    window = show(demo)
    window.bench.plan.take(plan_of_the_demo)
    window.enter_room("day")
    return window


def planned(qtbot, window):
    qtbot.waitUntil(lambda: window.bench.plan.day is not None and not window.bench.plan.is_busy)
    assert window.bench.plan.problem == ""


def pinned(window):
    """What was put at an hour, the newest last."""
    held = window.bench.notebook
    entries = (
        e for line in window.bench.shelf.lines for e in held.entries_of(line.job) if isinstance(e.body, DeedPinned)
    )
    return [e.body for e in sorted(entries, key=lambda e: e.number)]


def test_the_day_is_shown_and_each_deed_says_why(qtbot, today):
    room = today.rooms["day"]
    assert room.title.text() == "Today, Monday 15 June"
    assert "planned." in room.words.text()
    first = today.bench.plan.day.deeds[0]
    assert room.chosen() is first
    assert "Your hands are at it." in today.because.sentence.text()
    room.list.setFocus()
    qtbot.keyClick(room.list, Qt.Key.Key_Down)
    qtbot.keyClick(room.list, Qt.Key.Key_Return)
    assert room.chosen() is today.bench.plan.day.deeds[1]
    assert first.name in today.because.sentence.text()
    assert "of three" in today.because.rest.text()
    assert today.shelf.today.item(0).text().startswith("Today, Now: ")
    qtbot.mouseClick(room.after, LEFT)
    assert room.title.text() == "Tuesday 16 June"


def test_the_plan_is_made_beside_the_window(qtbot, show, demo, plan_of_the_demo):
    window = show(demo)
    window.enter_room("day")
    assert window.bench.plan.is_busy and window.rooms["day"].words.text() == "Planning …"
    planned(qtbot, window)
    assert window.bench.plan.day.starts == plan_of_the_demo.starts


def test_going_there_opens_the_job_at_its_stop(qtbot, today):
    room = today.rooms["day"]
    deed = next(d for d in today.bench.plan.day.deeds if d.work == "power up")
    room._choose(deed.key)
    qtbot.mouseClick(room.go, LEFT)
    assert (today.bench.in_hand.job.id, today.bench.place.stop) == (deed.job, "power")
    assert not today.bench.plan.watched


def test_a_deed_is_put_at_an_hour_by_field_and_by_drag_and_let_go(qtbot, today):
    room = today.rooms["day"]
    deed = today.bench.plan.day.of_day(dt.date(2026, 6, 15))[-1]
    room._choose(deed.key)
    room.at.setText("25:10")
    qtbot.keyClick(room.at, Qt.Key.Key_Return)
    assert "not a time of the day" in today.jot.message.text()
    room.at.setText("17:05")
    qtbot.keyClick(room.at, Qt.Key.Key_Return)
    assert [b.at.astimezone().hour for b in pinned(today)] == [17]
    qtbot.waitUntil(lambda: today.bench.plan.is_busy)
    planned(qtbot, today)
    assert room.chosen().why.because == "pinned"
    assert f"{room.chosen().begins.astimezone():%H:%M}" == "17:05"
    qtbot.mouseClick(room.free, LEFT)
    assert pinned(today)[-1].at is None
    block = next(b for b in room.strip.blocks if b.key == today.bench.plan.day.deeds[3].key and not b.runs)
    box = room.strip.box_of(block)
    here = QPoint(int(box.center().x()), int(box.center().y()))
    hour = room.strip.x_of(block.begins + dt.timedelta(hours=1)) - room.strip.x_of(block.begins)
    qtbot.mousePress(room.strip, LEFT, pos=here)
    qtbot.mouseMove(room.strip, here + QPoint(int(hour), 0))
    qtbot.mouseRelease(room.strip, LEFT, pos=here + QPoint(int(hour), 0))
    assert abs(pinned(today)[-1].at - block.begins - dt.timedelta(hours=1)) <= dt.timedelta(minutes=5)
    qtbot.keyClick(today, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)


def test_what_is_over_cannot_be_planned(qtbot, today):
    room = today.rooms["day"]
    room.at.setText("8:00")
    qtbot.mouseClick(room.put, LEFT)
    assert "08:00 is over" in today.jot.message.text()
    assert pinned(today) == []


def test_lines_of_promises_and_waits_are_planned_at_once(qtbot, today):
    jot(qtbot, today, "promised Friday")
    assert today.bench.in_hand.job.plan.due == dt.date(2026, 6, 19)
    jot(qtbot, today, "waiting for a glass until 2026-06-24")
    stay = today.bench.in_hand.job.stay
    assert (stay.status, stay.status_text, stay.status_until) == ("waiting", "for a glass", dt.date(2026, 6, 24))
    qtbot.waitUntil(lambda: today.bench.plan.is_busy)
    planned(qtbot, today)
    own = [d for d in today.bench.plan.day.deeds if d.job == today.bench.in_hand.job.id]
    assert min(d.begins for d in own).date() == dt.date(2026, 6, 24)
    jot(qtbot, today, "here again")
    jot(qtbot, today, "promised nothing")
    kinds = [type(e.body) for e in today.bench.in_hand.job.entries[-2:]]
    assert kinds == [StatusSet, Promised] and today.bench.in_hand.job.stay.status == "wants hands"


def test_promises_and_what_is_not_planned_stand_below(today):
    room = today.rooms["day"]
    assert room.owed.count() >= 6
    assert room.owed.isVisibleTo(room) and not room.left.isVisibleTo(room)


def test_the_sheet_is_printed_and_the_calendar_saved(qtbot, today, tmp_path):
    room = today.rooms["day"]
    asked = []
    room.printAsked.connect(asked.append)
    qtbot.mouseClick(room.print_, LEFT)
    (tmp_path / "day.pdf").write_bytes(asked[0].make(lambda: False))
    text = PdfReader(tmp_path / "day.pdf").pages[0].extract_text()
    assert "Monday 15 June 2026" in text and "Lay ready" in text
    qtbot.mouseClick(room.all, LEFT)
    (tmp_path / "all.pdf").write_bytes(asked[1].make(lambda: False))
    pages = [page.extract_text() for page in PdfReader(tmp_path / "all.pdf").pages]
    read = {d.job for d in room._plan.day.of_day(room.on()) if d.work in ("step", "adjust")}
    assert sum("Worksheet: " in text for text in pages) == len(read) >= 1
    room.save(tmp_path / "plan.ics")
    assert (tmp_path / "plan.ics").read_bytes().startswith(b"BEGIN:VCALENDAR")


def test_a_plan_that_cannot_be_made_says_so_and_the_last_one_stays(qtbot, today, monkeypatch):
    last = today.bench.plan.day
    monkeypatch.setattr(sys, "executable", "/bin/false")
    today.bench.plan.ask()
    qtbot.waitUntil(lambda: not today.bench.plan.is_busy)
    assert today.bench.plan.problem and today.bench.plan.day is last
    assert today.rooms["day"].words.text() == today.bench.plan.problem


def test_one_that_is_being_made_is_let_go_as_the_window_closes(qtbot, today):
    today.bench.plan.ask(anew=True)
    assert today.bench.plan.is_busy
    today.close_now()
    assert not today.bench.plan.is_busy


def test_a_quote_waits_for_its_answer_and_becomes_the_price(qtbot, today):
    jot(qtbot, today, "approved")
    assert "Nothing was quoted yet" in today.jot.message.text()
    jot(qtbot, today, "quoted 240")
    stay = today.bench.in_hand.job.stay
    assert (stay.status, stay.status_text) == ("waiting", "for the owner's answer to 240.00")
    jot(qtbot, today, "approved by the owner")
    stay = today.bench.in_hand.job.stay
    assert (stay.status, stay.status_text, stay.agreed) == ("wants hands", "approved at 240.00", 240.0)
    jot(qtbot, today, "quoted 300")
    jot(qtbot, today, "declined")
    stay = today.bench.in_hand.job.stay
    assert (stay.agreed, stay.status_text) == (240.0, "declined at 300.00: goes back as it is")


def test_the_hours_of_the_job_stand_beside_its_deed(today):
    told = [w.text() for w in today.because.findChildren(QLabel) if w.isVisibleTo(today)]
    assert any(text.startswith("Hands so far: ") for text in told)
    assert any(text.startswith("Still ahead: about ") for text in told)


def test_what_is_asked_while_one_is_being_made_is_made_next(qtbot, today):
    plan, ended = today.bench.plan, []
    plan.changed.connect(lambda: ended.append(plan.day) if not plan.is_busy else None)
    plan.ask()
    plan.ask()
    qtbot.waitUntil(
        lambda: len(ended) >= 2, timeout=2 * PATIENCE_MS
    )  # two plans, and on a slow machine the minute's own
    assert ended[1] is not ended[0]


def test_a_check_of_a_standard_is_gone_to_where_standards_are(today):
    today.guide.open_at("standard:meter", "")
    assert today.work.currentWidget() is today.rooms["standards"]


def test_beside_what_must_be_watched_stands_that_somebody_stays(today):
    room = today.rooms["day"]
    watched = next(d for d in today.bench.plan.day.deeds if d.watched and d.runs)
    room._choose(watched.key)
    assert "Stay in the shop as long as it runs." in today.because.rest.text()
    plain = next(d for d in today.bench.plan.day.deeds if not d.runs)
    room._choose(plain.key)
    assert "Stay in the shop" not in today.because.rest.text()
