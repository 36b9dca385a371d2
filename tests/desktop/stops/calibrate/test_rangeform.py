"""A range written from fields, points on it, taken back, and pasted."""

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication

from candor.core.instrument.how import scale_of
from candor.core.verdict.rules import Outcome
from candor.notebook.entries.calibrate_entries import StandardChosen
from candor.notebook.entries.stay_entries import DetailWritten, JobOpened
from candor.packs.procedure import procedure
from desk import LEFT, fill, jot, row_titles
from faces import SIZE, face
from workbench import standard_body


@pytest.fixture
def named(show, notebook):
    """A window at Calibrate on a job with nothing but a name."""
    standard = notebook.write("", standard_body())
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310"))
    notebook.write("j", StandardChosen(standard=standard.id))
    window = show(notebook)
    window.go_to_stop("calibrate")
    return window


def test_fields_say_the_range_and_what_is_wrong_with_it(qtbot, named):
    form = named.calibrate.range_form
    assert form.isVisible()
    fill(qtbot, form.full_scale, "30 V")
    fill(qtbot, form.divisions, "0")
    assert "division" in form.understood.text()
    qtbot.keyClick(form.divisions, Qt.Key.Key_Return)
    assert (form.full_scale.text(), named.bench.in_hand.job.ranges.made) == ("30 V", {})
    fill(qtbot, form.divisions, "30")
    fill(qtbot, form.limit, "3 %")
    form.whose.setCurrentIndex(form.whose.findData("owner"))
    form.mirror.setChecked(True)
    qtbot.keyClick(form.limit, Qt.Key.Key_Return)
    (made,) = named.bench.in_hand.job.ranges.made.values()
    assert (made.body.full_scale, made.body.divisions, made.body.mirror, made.body.by) == (30.0, 30, True, "owner")
    assert named.bench.place.step.kind == "next"
    assert not form.isVisible()


def test_backspace_at_a_further_point_strikes_the_last_reading_of_its_range(qtbot, named):
    jot(qtbot, named, "range 30 V 30 div 3%fs")
    jot(qtbot, named, "10.2 ref 10.03")
    jot(qtbot, named, "20.1 ref 20.03")
    assert named.bench.in_hand.found.measured == 2
    assert named.bench.place.step.kind == "next"
    named.calibrate.dial.setFocus()
    qtbot.keyClick(named.calibrate.dial, Qt.Key.Key_Backspace)
    assert [r.body.indicated for r in named.bench.in_hand.job.calibrate.readings] == [10.2]


def test_as_left_goes_on_as_found_did(qtbot, named):
    jot(qtbot, named, "range 30 V 30 div 3%fs")
    jot(qtbot, named, "12 ref 10.03")
    jot(qtbot, named, "trimmed R5")
    key = next(s.key for s in procedure(named.bench.in_hand.pack) if s.phase == "as left" and s.kind == "next")
    named.bench.place.go("calibrate", key)
    jot(qtbot, named, "10 ref 10.03")
    held = named.bench.in_hand
    assert (held.found.count(Outcome.FAIL), held.left.count(Outcome.PASS)) == (1, 1)
    assert held.left.waiting == ()  # both are of 10 V, which was applied: 12 V was only shown


def test_planned_points_are_read_in_any_order(qtbot, named):
    jot(qtbot, named, "range 50 V 50 div 3%fs")
    jot(qtbot, named, "points 5 25 50")
    for line in ("50 ref 50.0", "24.5 ref 25.0", "48 ref 50.0", "5.1 ref 5.0"):
        jot(qtbot, named, line)
    run = named.bench.in_hand.found
    assert {key: len(r.readings) for key, r in run.results.items()} == {
        "volts/50v/5": 1,
        "volts/50v/25": 1,
        "volts/50v/50": 2,
    }


def test_a_pasted_table_of_points_is_looked_at_and_then_written(qtbot, named):
    jot(qtbot, named, "range 30 V 30 div 3%fs")
    QApplication.clipboard().setText("")
    qtbot.mouseClick(named.calibrate.paste, LEFT)
    assert "no text" in named.jot.message.text()
    QApplication.clipboard().setText("range,reading,reference\n30 V,10.2,10.03\n30 V,20.1,20.03\n")
    qtbot.mouseClick(named.calibrate.paste, LEFT)
    assert named.work.currentWidget() is named.from_file
    assert named.bench.in_hand.found.measured == 0
    qtbot.mouseClick(named.from_file.write, LEFT)
    assert named.bench.in_hand.found.measured == 2


def test_the_form_asks_what_each_way_of_reading_needs_and_draws_it(qtbot, named):
    form = named.calibrate.range_form
    form.way.setCurrentIndex(form.way.findData("ohms right"))
    shown = {key for key, widget in form.fields.items() if widget.isVisible()}
    assert shown == {"centre", "name", "marks", "divisions", "stands"}
    form.function.setEditText("Ohms")
    fill(qtbot, form.fields["centre"], "10 ohm")
    assert "10 Ω at its middle" in form.understood.text().replace("\u00a0", " ")
    assert form.preview.isVisible() and form.preview.current.accessibleName()
    fill(qtbot, form.fields["marks"], "0 1 1 5")
    assert "order" in form.understood.text() or "backwards" in form.understood.text()
    assert not form.preview.isVisible()
    fill(qtbot, form.fields["marks"], "0 1 2 5 10 20 50 inf")
    fill(qtbot, form.fields["divisions"], "5")
    fill(qtbot, form.limit, "3 % of arc")
    form.usual.setChecked(True)
    qtbot.keyClick(form.limit, Qt.Key.Key_Return)
    job = named.bench.in_hand.job
    (made,) = job.ranges.made.values()
    assert (made.body.read_how.shape, made.body.percent_of_arc) == ("ohms falling", 3.0)
    assert [len(values) for values in job.ranges.planned.values()] == [5]
    assert named.bench.place.step.point.nominal == 2.5  # the first of them is in hand


def test_a_range_in_hand_is_changed_where_it_stands_and_can_be_withdrawn(qtbot, named):
    jot(qtbot, named, "range DC volts 30 V 30 div 3%fs")
    jot(qtbot, named, "10.2 ref 10.03")
    form = named.calibrate.range_form
    qtbot.mouseClick(named.calibrate.another, LEFT)
    assert (form.full_scale.text(), form.divisions.text(), form.limit.text()) == ("30 V", "30", "3 % of full scale")
    assert "with 1 reading." in form.beside.text()
    fill(qtbot, form.divisions, "60")
    qtbot.keyClick(form.divisions, Qt.Key.Key_Return)
    job = named.bench.in_hand.job
    assert [e.body.divisions for e in job.ranges.made.values()] == [60]
    assert named.bench.in_hand.found.measured == 1
    qtbot.mouseClick(named.calibrate.another, LEFT)
    qtbot.mouseClick(form.withdraw, LEFT)
    assert named.bench.in_hand.job.ranges.made == {}
    assert len(named.bench.in_hand.job.calibrate.readings) == 1  # written is written


def test_a_series_is_written_at_once(qtbot, named):
    form = named.calibrate.range_form
    fill(qtbot, form.full_scale, "1.5 5 15 ... 150 V")
    fill(qtbot, form.divisions, "30")
    qtbot.keyClick(form.divisions, Qt.Key.Key_Return)
    assert [e.body.full_scale for e in named.bench.in_hand.job.ranges.made.values()] == [1.5, 5, 15, 50, 150]


@pytest.mark.parametrize(("mains", "end"), [("120 V 60 Hz", 120.0), ("230 V 50 Hz", 240.0)])
def test_a_kind_says_what_is_read_first_and_how_it_is_usually_read(qtbot, show, notebook, mains, end):
    notebook.write("", standard_body())
    notebook.write("", DetailWritten(field="mains", text=mains))
    notebook.write(
        "j", JobOpened(maker="Corvane", type="TT-3", serial="8", instrument_kind="tube-tester-transconductance")
    )
    window = show(notebook)
    window.go_to_stop("calibrate")
    assert "line mark first" in window.calibrate.do.text()
    form = window.calibrate.range_form
    form.function.setCurrentText("Line")
    form.function.activated.emit(form.function.currentIndex())
    assert form.chosen.key == "mark"
    assert form.whose.currentData() == "shop"  # a usual figure is no maker's
    assert "Usual on such an instrument" in form.beside.text()
    qtbot.mouseClick(form.write, LEFT)
    (made,) = window.bench.in_hand.job.ranges.made.values()
    assert (made.body.read_how.kind, made.body.by, made.body.full_scale) == ("mark", "shop", end)


def test_an_arc_is_taken_from_a_photo_of_its_face(qtbot, named, tmp_path):
    """Numbers, clicks, what straightens it: the range is written with places and with what they are known to."""
    seen = face(np.random.default_rng(12), places=np.linspace(0, 1, 6) ** 1.4)
    picture = QImage(*SIZE, QImage.Format.Format_RGB32)
    picture.fill(0xDDDDCC)
    picture.save(str(tmp_path / "face.png"))
    form = named.calibrate.range_form
    assert not form.photo.isVisible()
    form.way.setCurrentIndex(form.way.findData("marks"))
    qtbot.mouseClick(form.photo, LEFT)
    photo = form.face
    assert photo.isVisible() and not form.write.isVisible()
    photo.read(tmp_path / "none.png")
    qtbot.waitUntil(lambda: "no picture" in named.jot.message.text())
    photo.read(tmp_path / "face.png")
    qtbot.waitUntil(lambda: "Write the numbers" in photo.words.text())
    fill(qtbot, photo.numbers, "0 1 2 3 4 5")

    def click(what, places):
        photo.what.setCurrentIndex(photo.what.findData(what))
        for x, y in places:
            photo.click(x / SIZE[0], y / SIZE[1])

    at = photo.board._at(seen.marks[0][0] / SIZE[0], seen.marks[0][1] / SIZE[1]).toPoint()
    qtbot.mouseClick(photo.board, LEFT, pos=at)
    assert photo.clicks().marks[0] == pytest.approx(seen.marks[0], abs=4)
    qtbot.keyClick(photo.board, Qt.Key.Key_Backspace)
    assert photo.clicks().marks == ()
    click("mark", seen.marks)
    qtbot.waitUntil(lambda: "nothing straightened the photo" in photo.words.text())
    assert photo.use.isEnabled()
    click("corner", seen.corners)
    qtbot.waitUntil(lambda: "What are the sides" in photo.words.text())
    assert not photo.use.isEnabled()
    fill(qtbot, photo.sides, "3 x 2")
    qtbot.waitUntil(photo.use.isEnabled)
    assert "straightened by the rectangle" in photo.words.text()
    qtbot.mouseClick(photo.use, LEFT)
    assert not photo.isVisible()
    fill(qtbot, form.full_scale, "5 V")
    fill(qtbot, form.fields["divisions"], "5")
    qtbot.keyClick(form.limit, Qt.Key.Key_Return)
    (made,) = named.bench.in_hand.job.ranges.made.values()
    assert made.body.how.places == pytest.approx(seen.places, abs=0.006)
    assert 0.0003 < made.body.how.places_u < 0.004
    # A needle that is dragged along the drawn arc is read by places: they are part of U.
    assert scale_of(made.body.read_how, 5.0, 5).marks_u >= made.body.how.places_u


@pytest.mark.parametrize(("mains", "example"), [("", "30 V"), ("120 V 60 Hz", "120 V"), ("230 V 50 Hz", "240 V")])
def test_what_is_read_first_on_such_an_instrument_is_asked_first(qtbot, show, notebook, mains, example):
    if mains:
        notebook.write("", DetailWritten(field="mains", text=mains))
    notebook.write(
        "j", JobOpened(maker="Corvane", type="GT-3", serial="9", instrument_kind="tube-tester-transconductance")
    )
    window = show(notebook)
    window.go_to_stop("calibrate")
    form = window.calibrate.range_form
    assert (form.function.currentText(), form.chosen.key) == ("Line", "mark")
    assert form.full_scale.placeholderText() == example
    qtbot.mouseClick(form.function.lineEdit(), LEFT)  # what is typed over it replaces it
    qtbot.keyClicks(form.function.lineEdit(), "Bias")
    assert form.function.currentText() == "Bias"


def test_a_further_point_is_offered_under_the_range_in_hand_alone(qtbot, named):
    jot(qtbot, named, "range 3 10 30 V 30 div 3%fs usual points")
    titles = row_titles(named.calibrate.steps)
    assert [t for t in titles if "extra point" in t] == ["3 V: an extra point"]


def test_a_form_typed_in_old_units_is_shown_in_them(qtbot, named):
    form = named.calibrate.range_form
    fill(qtbot, form.full_scale, "3000 umho")
    fill(qtbot, form.divisions, "60")
    qtbot.keyClick(form.divisions, Qt.Key.Key_Return)
    assert "umho" in named.bench.shop.settings.units
    assert named.calibrate.title.text().startswith("Conductance, 3000 µmho range")
    assert "2130 ref 2124" in named.calibrate.do.text()


def test_the_buttons_of_a_step_are_seen_however_long_its_caution_is(qtbot, named):
    jot(qtbot, named, "range Ohms called R×1 10 ohm centre zero left 5 div 3% of arc")
    named.calibrate.caution.say("A long caution. " * 60)
    QApplication.processEvents()
    take = named.calibrate.take
    assert (
        take.mapTo(named, take.rect().bottomRight()).y()
        < named.calibrate.mapTo(named, named.calibrate.rect().bottomLeft()).y()
    )
    assert not take.visibleRegion().isEmpty()


def test_a_range_is_renamed_where_it_stands_and_keeps_what_was_read(qtbot, named):
    """Its end was typed wrong, 1.5 for 15 V: typed right it was another range, and the readings stayed on the first."""
    jot(qtbot, named, "range DC volts 15 V 30 div 3%fs")
    jot(qtbot, named, "1.21 ref 1.2")
    jot(qtbot, named, "range DC volts 5 V 30 div 3%fs")
    named.bench.place.go("calibrate", "own-dc-volts-15v:as-found:dc-volts/15v/1.2")
    form = named.calibrate.range_form
    qtbot.mouseClick(named.calibrate.another, LEFT)
    assert form.change.isVisible()
    fill(qtbot, form.full_scale, "5 V")
    qtbot.mouseClick(form.change, LEFT)
    assert "Another range of this function is called 5 V" in named.jot.message.text()
    fill(qtbot, form.full_scale, "1.5 V")
    qtbot.mouseClick(form.change, LEFT)
    job = named.bench.in_hand.job
    assert [(key, e.body.title) for key, e in job.ranges.made.items()] == [
        (("dc-volts", "15v"), "1.5 V"), (("dc-volts", "5v"), "5 V"),
    ]  # fmt: skip
    (result,) = named.bench.in_hand.found.results.values()
    assert (result.point.range_name, result.point.full_scale, result.error) == ("1.5 V", 1.5, pytest.approx(0.01))
    jot(qtbot, named, "range DC volts 15 V 30 div 3%fs")  # the name is free again: a range of its own
    assert [e.body.title for e in named.bench.in_hand.job.ranges.made.values()] == ["1.5 V", "5 V", "15 V"]
    jot(qtbot, named, "range DC volts 1.5 V 60 div 3%fs")  # by its name of now
    assert [e.body.divisions for e in named.bench.in_hand.job.ranges.made.values()] == [60, 30, 30]


def test_what_stands_in_the_function_unasked_is_not_chosen_by_passing_through_it(qtbot, show, notebook):
    notebook.write("j", JobOpened(maker="Corvane", type="VX-4", serial="9", instrument_kind="vacuum-tube-voltmeter"))
    window = show(notebook)
    window.go_to_stop("calibrate")
    form = window.calibrate.range_form
    assert QApplication.focusWidget() is form.full_scale  # the field that is due has the keys
    assert form.function.currentText() == "DC volts +"
    qtbot.mouseClick(form.function.lineEdit(), LEFT)
    qtbot.keyClick(form.function, Qt.Key.Key_Tab)
    assert form.full_scale.text() == ""
    form.function.setFocus()
    qtbot.keyClick(form.function, Qt.Key.Key_Return)  # chosen
    assert form.full_scale.text() == "1.5 5 15 50 150 500 1500 V"
