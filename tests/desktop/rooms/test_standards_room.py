"""The room of the standards, driven through the window."""

from __future__ import annotations

from dataclasses import replace

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QToolTip

from candor.core.calibration.result import assess_point
from candor.core.reading.reading import Reading
from candor.core.verdict.limits import Limit
from candor.core.verdict.rules import Rule
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.standards_entries import ChainRecorded
from candor.notebook.standards.standards import standards
from candor.notebook.work.job import fold
from candor.paper.gather import make_certificate
from desk import fill
from workbench import NOW, open_job, point_steps, put, put_shop, reading


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
    holds = "18 to 25 °C, 0.001 % a kelvin outside"
    assert room.fields["holds"].text() == holds
    room.role.setCurrentIndex(room.role.findData("fixed part"))
    room.good_for.as_text.setChecked(True)
    room.good_for.text.setPlainText("ohm\nat 100 k: correction 2 U 5 k 2")
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    body = next(s.body for s in window.bench.shop.standards.values() if s.current and s.body.key == key)
    assert (body.role, body.functions[0].unit, body.functions[0].points[0].value) == ("fixed part", "ohm", 100e3)
    assert (body.percent_per_kelvin, body.high_celsius) == (0.001, 25.0)
    said = " ".join(w.text() for w in window.because.findChildren(QLabel))
    assert "A fixed part: it has one value. You type, capture or confirm" in said
    room.list.picked.emit("")
    assert (room.role.currentData(), room.good_for.lines()) == ("meter", "")
    room.list.picked.emit(key)
    assert room.role.currentData() == "fixed part"
    assert room.fields["holds"].text() == holds
    assert room.good_for.table.rows()[0]["correction"] == "2 ohm"


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


def new_standard(show, notebook):
    window = show(notebook)
    window.enter_room("standards")
    room = window.rooms["standards"]
    room.another.click()
    return window, room


def test_a_first_meter_by_fields_alone(qtbot, show, notebook):
    """Typed cell by cell as its handbook has it, a fault mended where it stands; no line, no syntax."""
    window, room = new_standard(show, notebook)
    fill(qtbot, room.fields["name"], "handheld")
    fill(qtbot, room.fields["bears"], "600 V")
    table = room.good_for.table
    for row, cells in enumerate((("V d.c.", "6 V", "1 mV", "0.5", "2"), ("", "60 V", "10 mV", "half", "2"))):
        for column, text in enumerate(cells):
            table.setCurrentCell(row, column)
            table.setFocus()
            for letter in text:
                QTest.keyClicks(QApplication.focusWidget(), letter)  # the first opens the cell
            QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: room.good_for.error.text().startswith("Row 2: “half %” is not understood"))
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    assert not any(s.name == "handheld" for s in window.bench.shop.standards.values())
    table.item(1, 3).setText("0.5")
    assert room.good_for.error.isHidden()
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    body = next(s.body for s in window.bench.shop.standards.values() if s.name == "handheld")
    (volts,) = body.functions
    assert (volts.unit, volts.current, body.most_volts, body.typical) == ("V", "d.c.", 600.0, False)
    assert [(r.upper, r.percent_of_reading, r.counts) for r in volts.ranges] == [(6, 0.5, 2), (60, 0.5, 2)]


def test_a_paste_that_is_too_long_is_refused_whole_and_said(qtbot, show, notebook):
    _, room = new_standard(show, notebook)
    table = room.good_for.table
    table.paste("V d.c.\t6 V\t1 mV\t0.5\t2")
    before = table.rows()
    table.setCurrentCell(1, 0)
    table.paste("\n".join(f"V d.c.\t{n} V\t1 mV\t0.5\t2" for n in range(7, 507)))
    assert table.rows() == before
    assert QToolTip.text().startswith("Nothing was pasted: 500 rows from row 2 on, and the table takes 500 in all.")


def test_a_table_is_pasted_and_copied_and_rows_are_taken_out(qtbot, show, notebook):
    _, room = new_standard(show, notebook)
    table = room.good_for.table
    table.setCurrentCell(0, 0)
    QApplication.clipboard().setText(
        "V d.c.\t6 V\t1 mV\t0.5\t2\nV d.c.\t60 V\t10 mV\t0.5\t2\nA d.c.\t60 mA\t10 uA\t1\t3"
    )
    qtbot.keyClick(table, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert len(table.rows()) == 3
    table.clearSelection()
    table.selectRow(1)
    qtbot.keyClick(table, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert QApplication.clipboard().text().startswith("V d.c.\t60 V\t10 mV\t0.5\t2")
    qtbot.keyClick(table, Qt.Key.Key_Delete, Qt.KeyboardModifier.ControlModifier)
    assert [row["range"] for row in table.rows()] == ["6 V", "60 mA"]
    table.setCurrentCell(0, 0)
    QApplication.clipboard().setText("V d.c.\t6 V\t1 mV\t0.5\t2\n\t60 V\t10 mV\t0.5\t2")
    table.paste(QApplication.clipboard().text())
    table.clearSelection()
    table.selectRow(0)
    table.remove_chosen()  # the row below had its quantity from it
    assert [(row["quantity"], row["range"]) for row in table.rows()] == [("V d.c.", "60 V")]
    table.setCurrentCell(0, 0)
    table.paste("V d.c.\t6 V\t1 mV\t0.5\t2\nA d.c.\t60 mA\t10 uA\t1\t3")
    room.good_for.as_text.setChecked(True)
    assert room.good_for.lines() == "V d.c.\nto 6 V, 1 mV: 0.5 % + 2 digits\nA d.c.\nto 60 mA, 10 uA: 1 % + 3 digits"
    room.good_for.text.setPlainText("V d.c.\n6 V: what")
    room.good_for.as_text.setChecked(False)  # what cannot be read stays as it is, and says why
    assert room.good_for.as_text.isChecked()
    assert "what" in room.good_for.error.text()


def test_who_starts_from_a_usual_class_is_told_so_on_page_one_and_never_reaches_4_to_1(qtbot, show, notebook, pack):
    open_job(notebook, pack)
    window, room = new_standard(show, notebook)
    index = room.good_for.start.findText("5½ digit bench meter")
    room.good_for.start.setCurrentIndex(index)
    room.good_for.start.activated.emit(index)
    assert room.typical.isChecked()
    assert room.fields["name"].text() == "5½ digit bench meter"
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    standard = next(s for s in window.bench.shop.standards.values() if s.name == "5½ digit bench meter")
    assert standard.is_typical
    steps = point_steps(pack)
    notebook.append(drafts_of("job1", [reading(steps[0], standard.entry.id)]))
    folded = fold("job1", notebook.entries_of("job1"))
    record = make_certificate(
        job=folded,
        pack=pack,
        known=standards(notebook),
        shop="My Bench",
        who="tester",
        now=NOW,
        broken=(),
        leaving=(),
    ).record
    (said,) = [line for line in record.remarks if line.kind == "typical"]
    assert "usual for its class, not by its own handbook" in said.text
    point = steps[0].point
    known = [Reading(point.nominal, point.nominal * 1.001)]
    served = standard.serving(point)
    own = replace(served, is_typical=False)
    wide = replace(point, limit=Limit(percent_of_full_scale=50))
    ruled = [
        assess_point(wide, "as found", known, ref, NOW.date(), Rule.FOUR_TO_ONE).verdict.is_guarded
        for ref in (served, own)
    ]
    assert ruled == [True, False]


def test_the_quantity_in_hand_is_drawn(show, notebook):
    _, room = new_standard(show, notebook)
    chart, table = room.good_for.chart, room.good_for.table
    assert not chart.isVisible()
    table.setCurrentCell(0, 0)
    table.paste("V d.c.\t2 V\t1 mV\t0.5\t2\n\t20 V\t10 mV\t0.5\t2\nohm\t1 kohm\t\t1\t")
    assert chart.accessibleDescription() == "V d.c.: 2 V: 0.6 %; 20 V: 0.6 %"
    assert chart.isVisible()
    table.setCurrentCell(2, 1)
    assert chart.accessibleDescription() == "ohm: 1 kΩ: 1 %"
    assert {row[0] for row in chart.table()[1]} == {1000.0}
    table.item(2, 1).setText("what")
    assert not chart.isVisible()


def test_what_is_out_of_service_is_said_where_it_is_chosen_and_where_it_would_be_read(qtbot, bench):
    """With the day it is expected back; no day, no entry, and the field keeps what was typed."""
    bench.enter_room("standards")
    room = bench.rooms["standards"]
    fill(qtbot, room.checks.reason, "at the laboratory")
    fill(qtbot, room.checks.back, "the fifth")
    qtbot.mouseClick(room.checks.withdraw, Qt.MouseButton.LeftButton)
    assert "is not a day Candor can read" in bench.jot.message.text()
    assert not room.list.item(0).data(Qt.ItemDataRole.UserRole).under.startswith("out of service")
    assert room.checks.back.text() == "the fifth"
    fill(qtbot, room.checks.back, "26 June")
    qtbot.mouseClick(room.checks.withdraw, Qt.MouseButton.LeftButton)
    words = "out of service: at the laboratory, expected back 26 Jun 2026"
    assert room.list.item(0).data(Qt.ItemDataRole.UserRole).under == words
    assert bench.because.word.text() == "Out of service"
    bench.go_to_stop("calibrate")
    assert f"bench meter is {words}. Until it is back" in bench.hand.words()
    bench.enter_room("standards")
    qtbot.mouseClick(room.checks.withdraw, Qt.MouseButton.LeftButton)
    assert bench.because.word.text() == "In date"
