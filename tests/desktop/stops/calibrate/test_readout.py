"""Calibrate with every kind of reading: jotted, typed into fields, moved by arrows from across the bench, captured on a link."""

import math

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest

from candor.core.reading.kinds import KINDS, kind_of
from candor.core.reading.repeated import WINDOW
from candor.core.verdict.rules import Outcome
from candor.demo.read_jobs import MULTIMETER
from candor.desktop.widgets.surface import DRAWINGS
from candor.notebook.entries.calibrate_entries import StandardChosen
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.standards.standards_text import read_functions
from candor.notebook.work.job import fold
from candor.packs.procedure import procedure
from candor.sitting.command import of_shop
from everykind import PACK, TYPED
from workbench import goes_on, open_job, put, put_shop

GOOD_FOR = {
    "meter": "V\nto 100 V: 0.01 %\nohm\nto 200 Mohm: 0.01 %", "box": "F\nto 1 uF: 0.1 %",
}  # fmt: skip
Key = Qt.Key


@pytest.fixture
def window(show, notebook):
    """A window with a job whose every point is read in another way, a meter and a box chosen."""
    notebook.write("k", JobOpened(maker="Corvane", type="ALL", serial="1", pack_digest=notebook.keep_pack(PACK)))
    for role, text in GOOD_FOR.items():
        body = StandardRecorded(key=role, name=f"the {role}", role=role, functions=read_functions(text))
        notebook.write("k", StandardChosen(standard=notebook.write("", body).id))
    made = show(notebook)
    made.go_to_stop("calibrate")
    return made


def go(window, key: str) -> None:
    step = next(s for s in procedure(PACK) if s.point is not None and s.point.key == key)
    window.bench.place.go("calibrate", step.key)


def taken(window):
    return [r.body for r in fold("k", window.bench.notebook.entries_of("k")).calibrate.readings]


def jot(qtbot, window, text: str) -> None:
    window.jot.edit.clear()
    qtbot.keyClicks(window.jot.edit, text)
    qtbot.keyClick(window.jot.edit, Key.Key_Return)


def test_a_kind_is_one_line_in_each_table():
    """Every kind names a drawing that there is, and every drawing is drawn by some kind."""
    assert {k.drawn for k in KINDS.values()} == set(DRAWINGS)


def test_every_kind_can_be_jotted_and_is_drawn(qtbot, window):
    for number, (key, text) in enumerate(TYPED.items(), 1):
        go(window, key)
        kind = kind_of(window.hand.point)
        assert isinstance(window.calibrate.dial, DRAWINGS[kind.drawn])
        assert window.jot.edit.placeholderText().startswith(
            "72.6" if kind.has_friction else kind.example(window.hand.point)
        )
        jot(qtbot, window, text)
        assert len(taken(window)) == number, (key, window.jot.message.text())
        assert taken(window)[-1].point == key
        picture = window.calibrate.dial.grab().toImage()
        assert (
            len({picture.pixel(x, y) for x in range(0, picture.width(), 7) for y in range(0, picture.height(), 7)})
            > 3
        ), key
    run = window.bench.in_hand.found
    assert run.measured == len(run.decided)
    assert run.results["diff/d/5"].indicated == pytest.approx(4.8)
    go(window, "diff/d/5")
    assert window.because.sentence.text().startswith("Passes: error −0.20 ")
    assert "Figured: full - half - blank" in window.because.factor.text()


def test_every_kind_works_from_across_the_bench_by_pedal_and_arrows(qtbot, window):
    """No letter is typed: arrows move what is in hand, N goes to the next figure, C confirms the meter, Space takes it."""
    window.toggle_arms_length()
    arm = window.arms_length
    read = 0
    for key in TYPED:
        go(window, key)
        point, kind = window.hand.point, kind_of(window.hand.point)
        for asked in window.hand.draft.asked(point):
            if asked.name in ("low", "high", "from", "to", "nudge"):
                continue
            while window.hand.draft.active(point) != asked.name:
                qtbot.keyClick(arm, Key.Key_N)
            start = 0 if kind.key == "source" else {"on": 0, "off": 0}.get(asked.name, 1)
            for _ in range(5 if asked.name in ("divisions", "off") else 1 + start):
                qtbot.keyClick(arm, Key.Key_Right if asked.name != "on" else Key.Key_Left)
        if kind.compares == "reference" and point.needs_reference and not window.hand.reference_from:
            qtbot.keyClick(arm, Key.Key_C)
        assert arm.surface.current is arm.surface.drawing(kind.drawn)
        qtbot.keyClick(arm, Key.Key_Space)
        read += 1
        assert len(taken(window)) == read, (key, arm.next.text())
        qtbot.keyClick(arm, Key.Key_Space)  # and on
    qtbot.keyClick(arm, Key.Key_Up)
    qtbot.keyClick(arm, Key.Key_Backspace)
    assert len(taken(window)) == read - 1


def test_figures_are_typed_into_fields_of_their_own(qtbot, window):
    go(window, "shorts/s/250000")
    fields = [window.calibrate.readout.needle, window.calibrate.readout.more[0][1]]
    assert [f.isVisible() for f in (*fields, window.calibrate.readout.more[1][1])] == [True, True, False]
    assert not window.calibrate.readout.reference.isVisible()  # the box is what is set: nothing else is read
    for field, text in zip(reversed(fields), ("260k", "240k"), strict=True):
        field.setFocus()
        qtbot.keyClicks(field, text)
        qtbot.keyClick(field, Key.Key_Return)
    assert taken(window)[-1].figures == (("off", 260e3), ("on", 240e3)) or dict(taken(window)[-1].figures) == {
        "on": 240e3,
        "off": 260e3,
    }
    go(window, "gain/v/2")
    window.calibrate.readout.needle.setFocus()
    qtbot.keyClicks(window.calibrate.readout.needle, "from 1 to 5.05")
    qtbot.keyClick(window.calibrate.readout.needle, Key.Key_Return)
    assert window.hand.indicated == pytest.approx(2.025)  # a whole reading typed into a field


def test_a_wrong_bracket_stays_where_it_was_typed(qtbot, window):
    go(window, "shorts/s/250000")
    jot(qtbot, window, "on 260k off 240k")
    assert "wrong way round" in window.jot.reason.text()
    assert window.jot.edit.text() == "on 260k off 240k"
    assert taken(window) == []


def test_a_look_is_chosen_with_the_mouse(qtbot, window):
    go(window, "eye/e/0")
    looks = window.calibrate.dial
    spot = looks._row(2).center().toPoint()
    QTest.mouseClick(looks, Qt.MouseButton.LeftButton, pos=QPoint(spot.x(), spot.y()))
    qtbot.keyClick(window.calibrate, Key.Key_Space)
    assert [(r.word, r.reference_from) for r in taken(window)] == [("flutters", "")]
    assert window.bench.in_hand.found.results["eye/e/0"].verdict.outcome is Outcome.FAIL
    assert not window.calibrate.readout.needle.isVisible()


def test_a_dial_is_turned_with_the_mouse_and_stays_on_it(qtbot, window):
    go(window, "merit/m/80")
    knob = window.calibrate.dial
    spot = knob._spot(0.6, knob._centre()[1] * 0.8).toPoint()
    QTest.mouseClick(knob, Qt.MouseButton.LeftButton, pos=spot)
    assert window.hand.indicated == pytest.approx(60, abs=1.5)


def test_the_standard_of_a_quantity_is_proposed_and_the_best_said_first(qtbot, window):
    go(window, "cap/a/1e-08")
    assert window.calibrate.readout.standard.currentText() == "the box, never checked"
    said = " ".join(w.text() for w in window.because.findChildren(type(window.because.sentence)))
    assert "Best on hand: the box. TUR" in said
    go(window, "volts/10/10")
    assert window.calibrate.readout.standard.currentText() == "the meter, never checked"


def linked(notebook, text: str = "V d.c.\nto 100 V: 0.01 %", role: str = "meter", link: str = "simulated"):
    notebook.write("k", JobOpened(maker="Corvane", type="ALL", serial="1", pack_digest=notebook.keep_pack(PACK)))
    body = StandardRecorded(key="m", name="linked", role=role, functions=read_functions(text), link=link)
    notebook.write("k", StandardChosen(standard=notebook.write("", body).id))


def test_the_reference_is_captured_when_the_reading_is_taken(qtbot, show, notebook):
    """Needle moved, pedal pressed: the meter on its link is read until it stands still, several times, and the reading written."""
    linked(notebook)
    window = show(notebook)
    go(window, "volts/10/10")
    window.calibrate.dial.setFocus()
    qtbot.keyClick(window.calibrate.dial, Key.Key_Left)
    qtbot.keyClick(window.calibrate, Key.Key_Space)
    assert taken(window) == []  # it is not there yet, and nothing stands still for it
    qtbot.waitUntil(lambda: len(taken(window)) == 1)
    body = taken(window)[0]
    assert body.reference == pytest.approx(10.0, rel=1e-3)
    assert (body.reference_from, body.reference_count) == ("captured", WINDOW + 3)
    names = [c.name for c in window.bench.in_hand.found.results["volts/10/10"].budget.contributions]
    assert "reference, repeats" in names


def test_a_capture_is_given_up_and_nothing_is_written(qtbot, show, notebook):
    linked(notebook)
    window = show(notebook)
    go(window, "volts/10/10")
    window.calibrate.dial.setFocus()
    qtbot.keyClick(window.calibrate.dial, Key.Key_Left)
    qtbot.keyClick(window.calibrate, Key.Key_Space)
    assert window.hand.capture.running
    go(window, "volts/10/5")  # another point: what was being read was not of it
    assert not window.hand.capture.running
    qtbot.wait(300)
    assert taken(window) == []


def test_a_source_on_a_link_is_set_before_the_needle_is_read_and_rests_at_zero(qtbot, show, notebook):
    linked(notebook, role="source")
    window = show(notebook)
    go(window, "volts/10/5")
    assert window.hand.reference_from == ""  # not yet set: it does not stand as set
    qtbot.keyClick(window.calibrate, Key.Key_V)
    qtbot.waitUntil(lambda: window.hand.reference_from == "as set")
    bench = window.hand.capture._simulated
    assert bench.set_to == pytest.approx(5.0)
    assert taken(window) == []
    window.hand.drag_to(5.1)
    qtbot.keyClick(window.calibrate, Key.Key_Space)
    assert [(r.indicated, r.reference, r.reference_from) for r in taken(window)] == [(5.1, 5.0, "as set")]
    go(window, "volts/10/10")
    qtbot.waitUntil(lambda: bench.set_to == 0.0)


def test_a_link_where_nothing_answers_is_said(qtbot, show, notebook):
    linked(notebook, link="TCPIP::127.0.0.1::9::SOCKET")
    window = show(notebook)
    go(window, "volts/10/10")
    window.hand.drag_to(9.9)
    qtbot.keyClick(window.calibrate, Key.Key_Space)
    qtbot.waitUntil(lambda: not window.hand.capture.running)
    assert "Connection refused" in window.jot.message.text() or "Nothing answers" in window.jot.message.text()
    assert taken(window) == []
    assert window.hand.indicated == pytest.approx(9.9)  # the needle is kept
    assert math.isfinite(window.hand.reference)


def test_a_look_has_its_picture_and_an_adjuster_where_it_stood(qtbot, window, tmp_path):
    page = window.calibrate
    go(window, "eye/e/0")
    beside = page.readout.beside
    assert beside.picture.isVisible()
    picture = tmp_path / "eye.png"
    QImage(40, 30, QImage.Format.Format_RGB32).save(str(picture))
    beside.attach([picture])
    assert "Take the reading first" in window.jot.message.text()
    jot(qtbot, window, TYPED["eye/e/0"])
    go(window, "eye/e/0")
    beside.attach([picture])
    job = fold("k", window.bench.notebook.entries_of("k"))
    last = [r.entry.id for r in job.calibrate.readings][-1]
    (name,) = job.calibrate.photos[last]
    assert (window.bench.notebook.photo_folder / name).read_bytes() == picture.read_bytes()
    go(window, "volts/10/5")
    assert not beside.picture.isVisible()
    jot(qtbot, window, "turned +1/8")
    assert "No adjuster is in hand" in window.jot.message.text()


def test_where_an_adjuster_stood_is_kept_with_its_trim(qtbot, show, notebook, pack):
    open_job(notebook, pack)
    goes_on(notebook)
    window = show(notebook)
    step = next(s for s in procedure(pack) if s.kind == "adjust")
    window.bench.place.go("calibrate", step.key)
    beside = window.calibrate.readout.beside
    jot(qtbot, window, "stood 3 o'clock")
    assert beside.stood.text() == "3 o'clock"
    beside.turned.setFocus()
    qtbot.keyClicks(beside.turned, "-1/8")
    qtbot.keyClick(beside.turned, Key.Key_Return)
    hand = window.hand
    hand.on_the_mark()
    hand.confirm_reference()
    assert hand.take()
    made = window.bench.in_hand.job.calibrate.adjustments[-1].body
    assert (made.stood, made.turns) == ("3 o'clock", -0.125)


def test_a_lead_stays_off_what_does_not_bear_it(qtbot, window):
    """The step says so before it is done, and nothing is taken."""
    good_for = read_functions("V\nto 100 V: 0.01 %")
    body = StandardRecorded(key="weak", name="weak meter", role="meter", functions=good_for, most_volts=2.0)
    entry = window.bench.writer.write_for("", of_shop("recorded", body))
    put(window.bench.writer, StandardChosen(standard=entry.id))
    go(window, "volts/10/5")
    assert "weak meter takes 2 V at most, and 5 V would be on it" in window.calibrate.do.text()
    before = len(taken(window))
    jot(qtbot, window, "5.1 ref 5.0")
    assert "keep the lead off" in window.jot.message.text()
    assert len(taken(window)) == before


def test_a_number_in_hand_is_set_smaller_where_it_would_be_cut_off(qtbot, window):
    needle = window.calibrate.readout.needle
    needle.setText("7.2")
    designed = needle.fontInfo().pixelSize()
    assert designed == 32
    needle.setText("150.3125 mV")
    assert needle.fontInfo().pixelSize() < designed
    assert needle.fontMetrics().horizontalAdvance(needle.text()) <= needle.width()
    needle.setText("7.2")
    assert needle.fontInfo().pixelSize() == designed


def test_what_a_meter_of_a_chain_would_show_stands_in_its_field_and_c_confirms_that(qtbot, show, demo):
    """32 µA through 10 kilohm are 320 mV on the meter: the current itself in its field was taken for volts."""
    window = show(demo)
    window.shelf.job.emit(MULTIMETER)
    window.bench.place.go("calibrate", "movement-alone:as-found:movement/bare/3.2e-05")
    hand = window.hand
    assert (hand.read_unit, hand.reference) == ("V", pytest.approx(0.32))
    qtbot.keyClick(window.calibrate.dial, Qt.Key.Key_M)
    qtbot.keyClick(window.calibrate.dial, Qt.Key.Key_C)
    qtbot.keyClick(window.calibrate.dial, Qt.Key.Key_Space)
    result = window.bench.in_hand.found.results["movement/bare/3.2e-05"]
    assert result.reference == pytest.approx(32e-6, rel=1e-3)
    assert abs(result.error) < 0.01 * 32e-6
    window.bench.place.go("calibrate", "movement-alone:as-found:movement/bare/4e-05")
    body = StandardRecorded(
        key="amps", name="ammeter", role="meter", functions=read_functions("A d.c.\nto 1 mA: 0.1 %")
    )
    put_shop(window.bench.writer, body)
    amperes = next(s for s in window.bench.shop.standards.values() if s.name == "ammeter")
    put(window.bench.writer, StandardChosen(standard=amperes.entry.id))
    assert (hand.read_unit, hand.reference) == ("A", pytest.approx(4e-5))  # another standard, another number
