"""A line in fields: chosen, filled, understood beside them, written by Enter; nothing of it needs a syntax."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from candor.core.jot.rows import VERBS
from candor.core.jot.verb_fields import fields_of
from candor.notebook.entries.power_entries import RailSaid


def fields_at(window, stop):
    window.go_to_stop(stop)
    QTest.keyClick(window, Qt.Key.Key_F2)
    return window.jot.fields


def cell(fields, key):
    return next(cell for cell in fields.cells if cell.field.key == key)


def pick(fields, name):
    at = next(n for n in range(fields.what.count()) if fields.what.itemText(n).split(" · ")[0] == name)
    fields.what.setCurrentIndex(at)
    fields.what.activated.emit(at)


def test_a_rail_of_the_drawing_is_written_by_fields_alone(bench):
    fields = fields_at(bench, "power")
    pick(fields, "rail as drawn")
    for key, text in (("name", "b1"), ("volts", "285"), ("rated", "450 V"), ("share", "2 %")):
        QTest.keyClicks(cell(fields, key).edit, text)
    assert bench.jot.edit.text() == "rail b1 is 285, capacitor 450 V, regulated 2 %"
    QTest.keyClick(cell(fields, "share").edit, Qt.Key.Key_Return)
    said = bench.bench.in_hand.job.power.rails["b1"].body
    assert (said.volts, said.rated_volts, said.regulated) == (285.0, 450.0, pytest.approx(0.02))
    assert isinstance(said, RailSaid)
    assert bench.jot.edit.text() == cell(fields, "name").text == ""
    assert cell(fields, "name").edit.hasFocus()


def test_enter_goes_to_what_is_still_needed_and_writes_nothing(bench):
    before = len(bench.bench.in_hand.job.entries)
    fields = fields_at(bench, "power")
    pick(fields, "rail")
    QTest.keyClicks(cell(fields, "name").edit, "b1")
    assert "still needed: volts as read" in chips(bench)
    QTest.keyClick(cell(fields, "name").edit, Qt.Key.Key_Return)
    assert cell(fields, "volts").edit.hasFocus()
    assert fields.error.text() == "volts as read: needed. Example: 287"
    QTest.keyClicks(cell(fields, "volts").edit, "28x")
    assert fields.error.text().startswith("volts as read: ")
    assert "neither a prefix nor a unit" in fields.error.text()
    QTest.keyClick(cell(fields, "volts").edit, Qt.Key.Key_Return)
    assert len(bench.bench.in_hand.job.entries) == before
    QTest.keyClick(cell(fields, "volts").edit, Qt.Key.Key_Backspace)
    assert fields.error.isHidden()


def chips(window):
    return [window.jot.chips.itemAt(n).widget().text() for n in range(window.jot.chips.count())]


def test_what_the_line_cannot_be_is_said_at_its_field(bench):
    fields = fields_at(bench, "calibrate")
    pick(fields, "temperature")
    QTest.keyClicks(cell(fields, "celsius").edit, "231")
    assert fields.error.text() or bench.jot.reason.text()
    pick(fields, "stage")
    QTest.keyClicks(cell(fields, "name").edit, "mixer")
    QTest.keyClicks(cell(fields, "minutes").edit, "-5")
    assert bench.jot.reason.text() or fields.error.text()


def test_a_line_that_was_begun_goes_on_in_fields_and_back(bench):
    bench.go_to_stop("trace")
    QTest.keyClicks(bench.jot.edit, "tube V3 plate n5, cathode n7, mu 20")
    QTest.keyClick(bench, Qt.Key.Key_F2)
    fields = bench.jot.fields
    assert (fields.verb.name, cell(fields, "mu").text, cell(fields, "plate").text) == ("tube", "20", "n5")
    QTest.keyClicks(cell(fields, "grid").edit, "n3")
    assert bench.jot.edit.text() == "tube V3, plate n5, cathode n7, grid n3, mu 20"
    bench.jot.edit.setFocus()
    QTest.keyClicks(bench.jot.edit, "0")
    assert cell(fields, "mu").text == "200"
    QTest.keyClick(cell(fields, "mu").edit, Qt.Key.Key_Escape)
    assert fields.isHidden()
    assert bench.jot.edit.text() == "tube V3, plate n5, cathode n7, grid n3, mu 200"
    assert bench.jot.edit.hasFocus()


def test_names_that_the_job_knows_are_offered(halfway):
    fields = fields_at(halfway, "parts")
    pick(fields, "joins")
    offered = cell(fields, "ref").edit.completer().model().stringList()
    assert set(offered) == {line.part.ref for line in halfway.bench.in_hand.parts().lines}
    assert "0" in cell(fields, "plus").edit.completer().model().stringList()


def test_every_verb_with_fields_can_be_chosen_and_a_range_has_its_own(bench):
    fields = fields_at(bench, "soak")
    listed = [fields.what.itemData(n) for n in range(fields.what.count()) if fields.what.itemData(n) is not None]
    assert sorted(listed) == [n for n, verb in enumerate(VERBS) if fields_of(verb)]
    first = VERBS[listed[0]]
    assert first.stop == "soak"
    for n in listed:
        name = VERBS[n].name
        if name == "range":
            continue
        pick(fields, name)
        assert [c.field for c in fields.cells] == list(fields_of(VERBS[n]))
        assert all(c.edit.accessibleName() for c in fields.cells)
    pick(fields, "range")
    assert fields.isHidden()
    assert bench.bench.place.stop == "calibrate"
    assert bench.calibrate.range_form.isVisible()
