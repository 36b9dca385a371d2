"""The room of the standards, driven through the window."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel

from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.standards import ChainRecorded
from desk import fill
from workbench import open_job, point_steps, put, put_shop, reading


@pytest.mark.parametrize(
    ("field", "text", "words"),
    [
        ("name", "", "A standard needs a name"),
        ("calibrated_on", "2027-01-01", "2027-01-01 is in the future"),
        ("calibrated_on", "last May", "is not a date Candor can read"),
        ("valid_days", "soon", "does not begin with a number"),
        ("valid_days", "0", "greater than 0"),
    ],
)
def test_a_standard_that_cannot_be_is_refused(qtbot, show, demo, field, text, words):
    window = show(demo)
    window.enter_room("standards")
    room, before = window.rooms["standards"], len(window.bench.shop.standards)
    fill(qtbot, room.fields[field], text)
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    assert words in window.jot.message.text()
    assert room.fields[field].text() == text
    assert len(window.bench.shop.standards) == before


def test_recording_a_standard_again_supersedes_it(qtbot, show, demo):
    window = show(demo)
    window.enter_room("standards")
    room = window.rooms["standards"]
    room.list.picked.emit("dc-source")
    assert window.because.word.text() == "Expired"
    fill(qtbot, room.fields["calibrated_on"], "2026-06-14")
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    assert window.because.word.text() == "In date"
    said = " ".join(w.text() for w in window.because.findChildren(QLabel))
    assert "checked 2026-06-14" in said
    assert said.count("Recorded 20") == 2
    assert sum(s.body.key == "dc-source" for s in window.bench.shop.standards.values()) == 2


def test_a_standard_says_what_it_is_and_of_what(qtbot, show, demo):
    """A meter is read, a source stands as set: what is recorded decides; the room it holds in stands in its lines."""
    window = show(demo)
    key = next(s.body.key for s in window.bench.shop.standards.values() if s.current)
    known = next(s.body for s in window.bench.shop.standards.values() if s.current and s.body.key == key)
    put_shop(window.bench.writer, known.model_copy(update={"percent_per_kelvin": 0.001, "high_celsius": 25.0}))
    window.enter_room("standards")
    room = window.rooms["standards"]
    room.list.picked.emit(key)
    holds = room.lines.toPlainText().splitlines()[0]
    assert holds == "holds 18 to 25 °C, 0.001 % a kelvin outside"
    room.role.setCurrentIndex(room.role.findData("fixed part"))
    room.lines.setPlainText(f"{holds}\nohm\nat 100 k: correction 2 U 5 k 2")
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    body = next(s.body for s in window.bench.shop.standards.values() if s.current and s.body.key == key)
    assert (body.role, body.functions[0].unit, body.functions[0].points[0].value) == ("fixed part", "ohm", 100e3)
    assert (body.percent_per_kelvin, body.high_celsius) == (0.001, 25.0)
    said = " ".join(w.text() for w in window.because.findChildren(QLabel))
    assert "A fixed part: it has one value. You type, capture or confirm" in said
    room.list.picked.emit("")
    assert (room.role.currentData(), room.lines.toPlainText()) == ("meter", "")
    room.list.picked.emit(key)
    assert room.role.currentData() == "fixed part"
    assert room.lines.toPlainText().startswith(f"{holds}\nohm\nat 100 kΩ: correction 2 Ω")


def test_an_expired_standard_is_named_so_where_it_is_chosen(qtbot, show, demo):
    window = show(demo)
    names = [window.calibrate.readout.standard.itemText(i) for i in range(window.calibrate.readout.standard.count())]
    assert {"bench meter A", "d.c. source box, expired", "bench meter B"} <= set(names)
    assert "decade box" not in names  # of another quantity


def test_chains_follow_a_link_that_is_recorded_again(qtbot, show, demo):
    """And chains of chains: each is recorded again with the new entry, so that old verdicts keep the old one."""
    window = show(demo)
    window.enter_room("standards")
    room, shop = window.rooms["standards"], window.bench.shop
    chains = {s.body.key: s for s in shop.standards.values() if s.current and isinstance(s.body, ChainRecorded)}
    of = next(s for s in chains.values())
    linked = {x.standard for x in of.body.links}
    link = next(s for s in shop.standards.values() if s.entry.id in linked)
    room.list.picked.emit(link.body.key)
    fill(qtbot, room.fields["calibrated_on"], "2026-06-14")
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    assert f"Recorded again with it: {of.name}" in window.jot.message.text()
    newest = {s.body.key: s.entry.id for s in shop.standards.values() if s.current}
    again = next(s for s in shop.standards.values() if s.current and s.body.key == of.body.key)
    assert again.entry.id != of.entry.id
    assert newest[link.body.key] in {x.standard for x in again.body.links}
    assert not again.fault


def test_what_was_read_by_a_standard_is_counted_beside_the_window(qtbot, show, notebook, pack):
    standard = open_job(notebook, pack)
    steps = point_steps(pack)
    notebook.append(drafts_of("job1", [reading(step, standard) for step in steps[:7]]))
    window = show(notebook)
    window.enter_room("standards")

    def said() -> str:
        return " ".join(w.text() for w in window.because.findChildren(QLabel))

    qtbot.waitUntil(lambda: "7 readings were taken by it" in said())
    assert "Read against it now: Tarnholm VM-6." in said()
    put(window.bench.writer, reading(steps[7], standard))
    window.enter_room("standards")
    qtbot.waitUntil(lambda: "8 readings were taken by it" in said())
