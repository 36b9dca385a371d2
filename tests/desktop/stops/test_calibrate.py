"""Calibrate, driven as a restorer would: number, ticks, drag, jot, pedal, file; and every wrong entry."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel

from candor.core.uncertainty.simulate import Simulation
from candor.core.verdict.rules import Outcome, Rule
from candor.desktop.frame import local_numbers
from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.entries.calibrate_entries import AdjustmentMade, AsFoundWaived, ReadingTaken, StandardChosen
from candor.notebook.entries.parts_entries import PartMeasured
from candor.notebook.store import Notebook
from candor.notebook.work.assessment import unfinished
from candor.notebook.work.barriers import barrier
from candor.notebook.work.job import fold
from candor.packs.procedure import procedure
from desk import fill, jot
from workbench import NOW, open_job, point_steps, put, reading, standard_body


def readings(window) -> list[ReadingTaken]:
    return [r.body for r in window.bench.in_hand.job.calibrate.readings]


def on_disk(window) -> list[ReadingTaken]:
    job = window.bench.in_hand.job.id
    return [r.body for r in fold(job, window.bench.notebook.entries_of(job)).calibrate.readings]


def test_a_number_typed_into_the_needle_field_is_taken(qtbot, at_75):
    qtbot.keyClick(at_75.calibrate.dial, Qt.Key.Key_C)
    at_75.calibrate.readout.needle.setFocus()
    qtbot.keyClicks(at_75.calibrate.readout.needle, "73.8")
    assert at_75.because.heading.text() == "because, if this reading is taken"
    assert at_75.because.word.text() == "Passes"
    assert readings(at_75) == []
    qtbot.keyClick(at_75.calibrate.readout.needle, Qt.Key.Key_Return)
    assert [(r.indicated, r.means, r.written, r.reference_from) for r in on_disk(at_75)] == [
        (73.8, "number", "73.8", "confirmed")
    ]
    assert at_75.because.heading.text() == "because"
    assert at_75.because.sentence.text().startswith("Passes: error −1.2 V, U 2.8 V, limit ±4.5 V")


def test_where_the_desktop_has_a_decimal_comma_it_is_typed_and_shown_and_the_notebook_keeps_the_figure(
    qtbot, at_75, monkeypatch
):
    monkeypatch.setattr(local_numbers, "_sign", lambda: ",")
    qtbot.keyClick(at_75.calibrate.dial, Qt.Key.Key_C)
    at_75.calibrate.readout.needle.setFocus()
    qtbot.keyClicks(at_75.calibrate.readout.needle, "73,8")
    qtbot.keyClick(at_75.calibrate.readout.needle, Qt.Key.Key_Return)
    assert on_disk(at_75)[0].indicated == 73.8
    assert QLabel.text(at_75.because.sentence).replace("\u00a0", " ").startswith("Passes: error −1,2 V, U 2,8 V")
    assert at_75.because.sentence.text().startswith("Passes: error −1.2 V, U 2.8 V")


def test_arrows_move_the_needle_by_ticks_and_space_takes_it(qtbot, at_75):
    dial = at_75.calibrate.dial
    for key, modifier in (
        (Qt.Key.Key_Left, Qt.KeyboardModifier.NoModifier),
        (Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier),
        (Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier),
    ):
        qtbot.keyClick(dial, key, modifier)
    qtbot.keyClick(dial, Qt.Key.Key_C)
    qtbot.keyClick(dial, Qt.Key.Key_Space)
    assert on_disk(at_75)[0].indicated == pytest.approx(75 - 5 * 0.3)
    assert on_disk(at_75)[0].means == "ticks"
    assert at_75.calibrate.readout.needle_words.text().endswith("low")
    assert at_75.calibrate.readout.title.text() == "needle, taken"


def test_the_needle_can_be_dragged(qtbot, at_75):
    dial = at_75.calibrate.dial
    spot = dial._spot(at_75.hand.point.indicator.deflection_of(100.0), dial._geometry()[1] * 0.9).toPoint()
    QTest.mousePress(dial, Qt.MouseButton.LeftButton, pos=QPoint(dial.width() // 2, spot.y()))
    qtbot.mouseMove(dial, spot)
    QTest.mouseMove(dial, spot)
    assert at_75.hand.indicated == pytest.approx(100.0, abs=1.0)  # the move itself drags it
    QTest.mouseRelease(dial, Qt.MouseButton.LeftButton, pos=spot)
    QTest.mouseClick(dial, Qt.MouseButton.LeftButton, pos=spot)
    assert at_75.hand.indicated == pytest.approx(100.0, abs=1.0)
    assert at_75.hand.draft.means == "drag"
    QTest.mouseClick(dial, Qt.MouseButton.LeftButton, pos=QPoint(2, dial.height() // 2))
    assert at_75.hand.indicated >= -6.0 - 1e-9  # the stop holds the needle


def test_a_jotted_reading_is_previewed_then_written(qtbot, at_75):
    qtbot.keyClicks(at_75.jot.edit, "-1/4t ref 75.004 up")
    assert at_75.calibrate.readout.needle.text() == "73.8"
    assert at_75.calibrate.readout.reference.text() == "75.004 V"
    assert readings(at_75) == []
    qtbot.keyClick(at_75.jot.edit, Qt.Key.Key_Return)
    taken = on_disk(at_75)[0]
    assert (taken.indicated, taken.reference, taken.direction, taken.means) == (73.75, 75.004, "up", "jot")
    assert at_75.jot.edit.text() == ""


def test_a_reading_goes_where_what_was_applied_says_and_never_is_a_repeat(qtbot, at_75):
    for line, point in (
        ("30 ref 30.0", "dc+/150/30"),
        ("150 ref 150.0", "dc+/150/150"),
        ("101 ref 100.2", "dc+/150/100"),  # one is made
        ("74.8 ref 75.004", "dc+/150/75"),
    ):
        jot(qtbot, at_75, line)
        assert on_disk(at_75)[-1].point == point
    run = at_75.bench.in_hand.found
    assert {key: len(run.results[key].readings) for key in ("dc+/150/30", "dc+/150/75", "dc+/150/100", "dc+/150/150")} == {
        "dc+/150/30": 1, "dc+/150/75": 1, "dc+/150/100": 1, "dc+/150/150": 1,
    }  # fmt: skip
    fill(qtbot, at_75.jot.edit, "29.5 ref 30.1")
    assert at_75.jot.chips.itemAt(2).widget().text() == "at 30.1 V, not 75 V"
    at_75.jot.edit.clear()
    fill(qtbot, at_75.calibrate.readout.reference, "30.1")  # by the fields too
    fill(qtbot, at_75.calibrate.readout.needle, "29.5")
    qtbot.keyClick(at_75.calibrate.readout.needle, Qt.Key.Key_Return)
    assert on_disk(at_75)[-1].point == "dc+/150/30"
    at_75.bench.writer.undo()
    jot(qtbot, at_75, "2 ref 0.1")
    assert "Nothing was written" in at_75.jot.message.text()
    assert at_75.jot.edit.text() == "2 ref 0.1"


@pytest.mark.parametrize("line", ["48 ref 44.4", "ref 44.4", "74 ref 44.4 up"])
def test_what_is_erased_leaves_nothing(qtbot, at_75, line):
    """A line typed and erased: no reference, no needle, no direction stays of it, and the pedal certifies none of it."""
    fill(qtbot, at_75.jot.edit, line)
    assert at_75.calibrate.readout.reference.text() == "44.4 V"
    for _ in line:
        qtbot.keyClick(at_75.jot.edit, Qt.Key.Key_Backspace)
    draft = at_75.hand.draft
    assert (draft.reference, draft.reference_from, draft.figures, draft.direction) == (75.0, "", {}, "")
    at_75.calibrate.dial.setFocus()
    qtbot.keyClick(at_75.calibrate.dial, Qt.Key.Key_Left)
    qtbot.keyClick(at_75.calibrate.dial, Qt.Key.Key_Space)
    assert on_disk(at_75) == []
    jot(qtbot, at_75, "ref 75.004")  # a reference alone, entered, stays
    jot(qtbot, at_75, "74.8")
    assert [(r.indicated, r.reference) for r in on_disk(at_75)] == [(74.8, 75.004)]


def test_typing_on_the_dial_goes_to_the_jot_line(qtbot, at_75):
    qtbot.keyClick(at_75.calibrate.dial, Qt.Key.Key_7)
    assert at_75.jot.edit.text() == "7"


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("6.72X", "neither a prefix nor a unit"),
        ("200", "off the scale"),
        ("73.8 mA", "is a current; this place expects a voltage"),
        ("73.8 ref -75", "negative"),
    ],
)
def test_a_wrong_jot_is_answered_and_kept_on_the_line(qtbot, at_75, text, words):
    jot(qtbot, at_75, text)
    assert at_75.jot.edit.text() == text
    assert words in at_75.jot.reason.text()
    assert on_disk(at_75) == []


@pytest.mark.parametrize("text", ["6.72X", "", "200", "73.8 mA"])
def test_a_wrong_number_in_the_field_is_answered(qtbot, at_75, text):
    needle = at_75.calibrate.readout.needle
    needle.setFocus()
    qtbot.keyClicks(needle, text)
    qtbot.keyClick(needle, Qt.Key.Key_Return)
    assert at_75.jot.message.text()
    assert at_75.jot.message.property("tint") == "brick"
    assert needle.text() == text
    assert on_disk(at_75) == []


def test_repeats_friction_and_strikes(qtbot, at_75):
    for line in ("74 ref 75 up", "75 ref 75 up", "76 ref 75 down", "77 ref 75 down"):
        jot(qtbot, at_75, line)
    result = at_75.hand.result()
    assert {c.kind for c in result.budget.contributions} == {"needle", "repeats", "reference"}
    assert "Friction 0.2 division" in at_75.because.factor.text()
    assert at_75.because.readings.count() == 4
    at_75.calibrate.dial.setFocus()
    qtbot.keyClick(at_75.calibrate.dial, Qt.Key.Key_Backspace)
    assert [r.indicated for r in on_disk(at_75)] == [74, 75, 76]
    at_75.because.readings.setCurrentRow(0)
    qtbot.keyClick(at_75.because.readings, Qt.Key.Key_Delete)
    assert [r.indicated for r in on_disk(at_75)] == [75, 76]
    at_75.bench.writer.undo()  # of a strike: it stands again
    assert [r.indicated for r in on_disk(at_75)] == [74, 75, 76]
    assert "Struck: struck entry" not in at_75.jot.message.text()
    at_75.bench.writer.redo()
    assert [r.indicated for r in on_disk(at_75)] == [75, 76]
    assert len(at_75.bench.in_hand.job.entries) == 10  # opened, standard, four readings, four strikes and unstrikes


def test_another_line_and_the_leads_are_said_and_kept(qtbot, at_75):
    """Line 120, a reading, line 108, a reading: no average, but the influence of the line; thermal e.m.f. in the budget."""
    for line in ("line 120", "thermal emf 50 mV", "74.4 ref 75.00", "line 108", "72.9 ref 75.00"):
        at_75.bench.place.go(
            "calibrate", next(s.key for s in point_steps(at_75.bench.in_hand.pack) if s.point.nominal == 75)
        )
        jot(qtbot, at_75, line)
    assert "line of 108 V, 10 % below the 120 V of its first reading" in at_75.jot.message.text()
    result = next(r for r in at_75.bench.in_hand.found.results.values() if r.point.nominal == 75)
    assert (len(result.readings), result.indicated) == (1, 74.4)
    assert "thermal e.m.f." in [c.name for c in result.budget.contributions]
    at_75.bench.place.go(
        "calibrate", next(s.key for s in point_steps(at_75.bench.in_hand.pack) if s.point.nominal == 75)
    )
    rows = [at_75.because.readings.item(i).text() for i in range(at_75.because.readings.count())]
    assert len(rows) == 2
    assert "at 108 V line" in rows[1]  # it is listed, and can be struck there


def test_rules_are_chosen_in_because(qtbot, at_75):
    jot(qtbot, at_75, "72 ref 75")
    assert at_75.because.word.text() == "Cannot tell"
    assert "would settle it" in at_75.because.change.text()
    qtbot.mouseClick(at_75.because.rules[Rule.PLAIN], Qt.MouseButton.LeftButton)
    assert at_75.because.word.text() == "Passes"
    assert at_75.bench.in_hand.job.calibrate.rule is Rule.PLAIN


def test_simulation_runs_beside_and_can_be_stopped(qtbot, at_75):
    jot(qtbot, at_75, "74 ref 75")
    with qtbot.waitSignal(at_75.because._work.answered, timeout=10_000) as caught:
        qtbot.mouseClick(at_75.because.simulate, Qt.MouseButton.LeftButton)
    assert isinstance(caught.args[0], Simulation)
    assert "1 000 000 draws (JCGM 101)" in at_75.because.simulated.text()
    at_75.because.simulate.click()
    at_75.because.simulate.click()
    assert at_75.because.simulated.text() == "Stopped."
    qtbot.mouseClick(at_75.because.risk, Qt.MouseButton.LeftButton)
    assert "JCGM 106, 9.5" in at_75.because.risk_words.text()


def test_a_hazard_is_said_with_every_reading_until_it_is_settled(qtbot, at_75):
    """What was read is a fact: it is written and judged; the way to where the bar is settled stands above it."""
    put(at_75.bench.writer, FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    assert at_75.calibrate.barred.isVisible()
    jot(qtbot, at_75, "74 ref 75")
    assert "It was written. Blocked by a hazard: bare copper." in at_75.bench.voice.warnings[-1]
    assert len(on_disk(at_75)) == 1
    qtbot.mouseClick(at_75.calibrate.barred.settle, Qt.MouseButton.LeftButton)
    barrier = at_75.power.barrier
    qtbot.mouseClick(barrier.override, Qt.MouseButton.LeftButton)
    assert "Write first how it was cleared" in at_75.jot.message.text()
    qtbot.keyClicks(barrier.reason, "battery powered for now")
    qtbot.mouseClick(barrier.override, Qt.MouseButton.LeftButton)
    assert not barrier.isVisible()
    at_75.go_to_stop("calibrate")
    jot(qtbot, at_75, "74.5 ref 75")
    assert len(on_disk(at_75)) == 2
    assert at_75.bench.in_hand.job.arrive.overridden[0].reason == "battery powered for now"


def test_arms_length_runs_the_whole_procedure_by_pedal_and_arrows(qtbot, show, notebook, pack, clock):
    """Foot switch (Space) and arrows only: every check, the wait, all points, trims and points again."""
    open_job(notebook, pack)
    window = show(notebook)
    window.bench.place.go("calibrate", procedure(pack)[0].key)
    window.toggle_arms_length()
    view, pedal = window.arms_length, Qt.Key.Key_Space
    for step in procedure(pack):
        assert window.bench.place.step_key == step.key
        if step.kind in ("point", "adjust"):
            qtbot.keyClick(view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
            qtbot.keyClick(view, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
            qtbot.keyClick(view, Qt.Key.Key_C)
        qtbot.keyClick(view, pedal)
        if step.kind == "wait":
            assert window.bench.shelf.running_timers()[0][1].label == "Warm-up 30 min"
            clock.advance(minutes=31)
        if step.kind != "check" and step is not procedure(pack)[-1]:
            qtbot.keyClick(view, pedal)
    assert window.bench.in_hand.found.outcome is Outcome.PASS
    assert window.bench.in_hand.left.phase == "as left"
    assert window.bench.in_hand.left.outcome is Outcome.PASS
    assert len(readings(window)) == 84
    assert sum(isinstance(e.body, AdjustmentMade) for e in window.bench.in_hand.job.entries) == 2
    qtbot.keyClick(view, Qt.Key.Key_Backspace)
    assert len(readings(window)) == 83
    qtbot.keyClick(view, Qt.Key.Key_Escape)
    assert window.views.currentWidget() is window.table


@pytest.mark.parametrize("role", ["meter", "source", "fixed part"])
def test_a_pedal_alone_makes_no_reading_and_so_no_pass(qtbot, show, notebook, pack, role):
    """Space a dozen times at every view: a needle nobody moved and a meter nobody read are asked for, not written."""
    open_job(notebook, pack)
    other = notebook.write("", standard_body(key="s", name="box", role=role)).id
    notebook.write("job1", StandardChosen(standard=other))
    window = show(notebook)
    window.bench.place.go("calibrate", "plus:as-found:dc+/150/75")
    for view in (window.calibrate.dial, window.arms_length):
        if view is window.arms_length:
            window.toggle_arms_length()
        for key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_PageDown) * 4:
            qtbot.keyClick(view, key)
            window.bench.place.go("calibrate", "plus:as-found:dc+/150/75")
    assert on_disk(window) == []
    assert "Where does the needle stand?" in window.jot.message.text()
    qtbot.keyClick(view, Qt.Key.Key_M)
    qtbot.keyClick(view, Qt.Key.Key_Space)
    if role == "meter":
        assert on_disk(window) == []
        assert "What does box show?" in window.jot.message.text()
        qtbot.keyClick(view, Qt.Key.Key_C)
        qtbot.keyClick(view, Qt.Key.Key_Space)
    came = "confirmed" if role == "meter" else "as set"
    assert [(r.indicated, r.reference, r.reference_from) for r in on_disk(window)] == [(75.0, 75.0, came)]


def test_each_reading_of_a_meter_is_read_anew(qtbot, at_75):
    jot(qtbot, at_75, "74 ref 75.1")
    jot(qtbot, at_75, "76")
    assert len(on_disk(at_75)) == 1
    assert "What does bench meter show?" in at_75.jot.message.text()
    assert at_75.jot.edit.text() == "76"


def test_a_trim_says_no_reading_that_was_not_taken(qtbot, bench):
    put(bench.bench.writer, AsFoundWaived())
    bench.bench.place.go("calibrate", "trim-plus")
    qtbot.keyClick(bench.calibrate.dial, Qt.Key.Key_Space)
    body = bench.bench.in_hand.job.calibrate.adjustments[-1].body
    assert (body.trim, body.indicated, body.reference) == ("+DC CAL", None, None)


@pytest.mark.parametrize("what", ["hazard", "sample"])
def test_one_rule_is_said_by_the_hand_the_file_and_the_route(qtbot, show, notebook, pack, tmp_path, what):
    """With an open hazard or a bad sample what was read and done is written, and said; a warm-up is not begun."""
    open_job(notebook, pack)
    if what == "hazard":
        notebook.write("job1", FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    else:
        notebook.write("job1", PartMeasured(ref="C2 a", state="open"))
    window = show(notebook)
    path = tmp_path / "r.csv"
    path.write_text("point,reading,reference\ndc+/150/75,73.8,75.004\n")
    window.bench.place.go("calibrate", "mechanical-zero")
    assert window.hand.confirm()
    window.bench.place.go("calibrate", "warm-up")
    window.hand.press()
    assert "Nothing was written" in window.jot.message.text()
    window.bench.place.go("calibrate", "plus:as-found:dc+/150/75")
    jot(qtbot, window, "74 ref 75")
    window.preview_file(path)
    qtbot.mouseClick(window.from_file.write, Qt.MouseButton.LeftButton)
    assert "The readings were written." in window.bench.voice.warnings[-1]
    job = fold("job1", notebook.entries_of("job1"))
    assert (len(job.calibrate.readings), set(job.calibrate.done), job.calibrate.timers) == (
        2,
        {"mechanical-zero"},
        (),
    )
    assert "barred" in window.route.line.stations[4].accessibleName()
    sentence = barrier(window.bench.in_hand.job, window.bench.in_hand.parts()).sentence
    assert window.calibrate.barred.words.words.text() == sentence


def test_what_was_changed_since_waits_and_the_older_is_drawn_faint(qtbot, at_75):
    jot(qtbot, at_75, "74 ref 75")
    at_75.bench.place.go("calibrate", "plus-left:as-left:dc+/150/75")
    jot(qtbot, at_75, "75 ref 75")
    assert at_75.bench.in_hand.left.outcome_of("dc+/150/75") is Outcome.PASS
    jot(qtbot, at_75, "disturbed the wiring at the range switch")
    assert at_75.bench.in_hand.left.outcome_of("dc+/150/75") is Outcome.NOT_MEASURED
    assert list({c.key for c in at_75.calibrate.ribbon._laid.columns if c.voided}) == ["dc+/150/75"]
    assert "Not measured" in at_75.because.word.text()


def test_inoperative_is_one_line(qtbot, at_75):
    jot(qtbot, at_75, "inoperative because no rail comes up")
    assert at_75.bench.in_hand.job.calibrate.inoperative.body.reason == "no rail comes up"
    assert not [
        s for s in unfinished(at_75.bench.in_hand.job, at_75.bench.in_hand.pack, NOW) if s.phase == "as found"
    ]


def test_arms_length_shows_what_to_do_and_what_was_read(qtbot, at_75):
    at_75.toggle_arms_length()
    view = at_75.arms_length
    assert view.title.text() == "150 V range. Apply 75 V."
    for _ in range(2):
        qtbot.keyClick(view, Qt.Key.Key_Left)
    assert (view.needle.text(), view.verdict.text()) == ("65.0 V", "")
    assert view.reference_words.text() == "reference, not read"
    qtbot.keyClick(view, Qt.Key.Key_C)
    assert (view.reference_words.text(), view.verdict.text()) == ("reference, confirmed", "fails, if taken")
    qtbot.keyClick(view, Qt.Key.Key_PageDown)
    assert view.verdict.text() == "fails"
    jot(qtbot, at_75, "@dc+/150/30 33 ref 30")
    assert view.verdict.text() == "cannot tell"
    assert "would settle it" in view.figures.text()
    at_75.bench.place.go("calibrate", "plus:as-found:dc+/150/75")
    qtbot.keyClick(view, Qt.Key.Key_Down)
    assert view.title.text() == "150 V range. Apply 150 V."
    assert view.caution.text() == "On the probe: clip first, one hand"
    qtbot.keyClick(view, Qt.Key.Key_S)
    assert "Speech" in at_75.jot.message.text()


def test_a_timer_ends_while_you_are_elsewhere(qtbot, show, notebook, pack, clock):
    open_job(notebook, pack)
    window = show(notebook)
    wait = next(s for s in procedure(pack) if s.kind == "wait")
    window.bench.place.go("calibrate", wait.key)
    window.hand.press()
    assert window.shelf.list.item(0).text().startswith("running")
    window.go_to_stop("arrive")
    clock.advance(minutes=29, seconds=58)
    window.bench.tick()
    assert "0:02 Warm-up 30 min" in window.route.times.text()
    clock.advance(seconds=3)
    with qtbot.waitSignal(window.bench.shelf.timerEnded) as caught:
        window.bench.tick()
    assert caught.args == ["Warm-up 30 min", "Tarnholm VM-6"]
    assert "Warm-up 30 min is over" in window.jot.message.text()
    assert window.shelf.list.item(0).text().startswith("to do")


def test_return_in_a_list_or_on_a_button_takes_no_reading(qtbot, at_75):
    """Only the dial, the ribbon and the main button answer to the pedal; Return elsewhere means what it says."""
    page = at_75.calibrate
    for widget in (page.steps, at_75.because.readings, page.back, page.readout.below, page.readout.reference):
        widget.setFocus()
        qtbot.keyClick(widget, Qt.Key.Key_Return)
    assert on_disk(at_75) == []
    page.steps.picked.emit("plus:as-found:dc+/150/75")
    page.dial.setFocus()
    for key in (Qt.Key.Key_M, Qt.Key.Key_C, Qt.Key.Key_Return):
        qtbot.keyClick(page.dial, key)
    assert [(r.indicated, r.reference_from) for r in on_disk(at_75)] == [(75.0, "confirmed")]


def test_the_caution_of_a_step_stands_over_it_in_full(bench, pack):
    """Over the step itself, before what to do; any other caution of the step is named beside it."""
    by_key = {c.key: c for c in pack.cautions}
    bench.bench.place.go("calibrate", "plus:as-found:dc+/150/75")
    words = bench.calibrate.caution
    assert words.isVisible()
    assert words.words.text() == " ".join(by_key["probe"].text.split())
    bench.bench.place.go("calibrate", "plus:as-found:dc+/500/500")
    assert words.words.text().startswith(" ".join(by_key["high-probe"].text.split()))
    assert words.words.text().endswith(f"Also: {by_key['probe'].short}.")
    bench.bench.place.go("calibrate", "plus:as-found:dc+/1.5/0.3")
    assert not words.isVisible()


def test_at_arms_length_it_is_said_what_bars(qtbot, at_75):
    put(at_75.bench.writer, FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    at_75.toggle_arms_length()
    view = at_75.arms_length
    assert view.caution.isVisible()
    assert view.caution.text() == "barred: bare copper"
    qtbot.keyClick(view, Qt.Key.Key_C)
    qtbot.keyClick(view, Qt.Key.Key_Space)
    assert on_disk(at_75) == []


def test_an_open_hazard_is_the_caution_in_force_wherever_one_stands(bench):
    bench.bench.place.go("calibrate", "plus:as-found:dc+/150/75")
    put(bench.bench.writer, FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    for stop in ("arrive", "parts", "calibrate", "release"):
        bench.go_to_stop(stop)
        assert bench.route.caution.text() == "hazard: bare copper"
    finding = bench.bench.in_hand.job.arrive.findings[0].entry.id
    bench.bench.writer.settle(finding, "cleared", "new cord")
    assert "hazard" not in bench.route.caution.text()


def test_the_gravest_caution_stands_first(qtbot, bench):
    bench.bench.place.go("calibrate", "plus:as-found:dc+/500/500")
    assert bench.route.caution.text() == "Can kill: source limited to 1 mA, covers on"
    bench.toggle_arms_length()
    assert bench.arms_length.caution.text() == "Can kill: source limited to 1 mA, covers on"
    assert bench.arms_length.do.text().startswith("Hundreds of volts: a source that cannot")


def test_steps_are_skipped_only_with_a_reason(qtbot, at_75):
    page = at_75.calibrate
    qtbot.mouseClick(page.skip, Qt.MouseButton.LeftButton)
    qtbot.keyClick(page.reason, Qt.Key.Key_Return)
    assert "A reason is needed" in at_75.jot.message.text()
    qtbot.keyClick(page.reason, Qt.Key.Key_Escape)
    assert not page.reason.isVisible()
    qtbot.mouseClick(page.skip, Qt.MouseButton.LeftButton)
    qtbot.keyClicks(page.reason, "no source above 50 V")
    qtbot.keyClick(page.reason, Qt.Key.Key_Return)
    assert at_75.bench.in_hand.job.calibrate.skipped["plus:as-found:dc+/150/75"].body.reason == "no source above 50 V"
    assert at_75.bench.place.step_key == "plus:as-found:dc+/150/150"


def on_screen(widget):
    """What stands on the screen now, as it was painted in parts; nothing is painted anew."""
    QApplication.processEvents()
    at = widget.mapTo(widget.window(), QPoint(0, 0))
    whole = widget.screen().grabWindow(widget.window().winId(), at.x(), at.y(), widget.width(), widget.height())
    return whole.toImage()


def test_what_is_painted_in_part_is_as_if_painted_whole(qtbot, bench):
    """The ribbon paints the columns that changed and the dial its needle: the picture is the same as all anew."""
    for number, ticks in enumerate((0.25, -7, 3, 0)):
        bench.hand.nudge(ticks)
        if number != 2:
            bench.hand.confirm_reference()
            assert bench.hand.take()
        for _ in range(20):  # what the step and the reading moved stands
            QApplication.processEvents()
        for widget in (bench.calibrate.ribbon, bench.calibrate.dial):
            in_part = on_screen(widget)
            widget.repaint()
            assert on_screen(widget) == in_part
        qtbot.keyClick(bench.calibrate.dial, Qt.Key.Key_PageDown)


def test_ribbon_and_steps_walk_the_procedure(qtbot, bench):
    at = bench.calibrate.ribbon
    QTest.mouseClick(at, Qt.MouseButton.LeftButton, pos=QPoint(int(at._x(13)), at.height() // 2))
    assert bench.bench.place.step_key == "plus:as-found:dc+/150/75"
    qtbot.keyClick(at, Qt.Key.Key_Right)
    assert bench.bench.place.step_key == "plus:as-found:dc+/150/150"
    bench.calibrate.steps.picked.emit("warm-up")
    assert bench.bench.place.step_key == "warm-up"
    assert bench.calibrate.take.text().startswith("Start the wait")
    bench.calibrate.dial.setFocus()
    qtbot.keyClick(bench.calibrate, Qt.Key.Key_PageUp)
    assert bench.bench.place.step_key == "mechanical-zero"
    for widget in (bench.calibrate.dial, bench.calibrate.steps, bench.jot.edit, bench.calibrate.ribbon):
        widget.setFocus()  # inside a scrolled page too
        qtbot.keyClick(widget, Qt.Key.Key_PageDown)
    assert bench.bench.place.step_key != "mechanical-zero"
    for _ in range(4):
        qtbot.keyClick(bench.calibrate.dial, Qt.Key.Key_PageUp)
    assert bench.bench.place.step_key == "mechanical-zero"


def test_a_point_named_in_a_jot_is_walked_to(qtbot, bench):
    jot(qtbot, bench, "@dc+/150/75 73.8 ref 75")
    assert (bench.bench.place.step_key, on_disk(bench)[0].point) == ("plus:as-found:dc+/150/75", "dc+/150/75")
    jot(qtbot, bench, "@dc+/9/9 73.8")
    assert "has no test point" in bench.jot.message.text()


def test_readings_from_a_file(qtbot, bench, tmp_path):
    path = tmp_path / "readings.csv"
    path.write_text("point,reading,reference\ndc+/150/75,73.8,75.004\ndc+/150/76,1,1\n")
    bench.preview_file(path)
    page = bench.from_file
    assert bench.work.currentWidget() is page
    assert page.words.text().startswith("1 row is not understood: mend the cells here.")
    assert "has no test point “dc+/150/76”" in page.faults.text()
    for column, cell in enumerate(("dc+/150/150", "149", "150")):
        page.mend.item(0, column).setText(cell)
    assert page.words.text().startswith("This is how they are understood.")
    path.write_text("point,reading,reference\ndc+/150/75,73.8,75.004\ndc+/150/150,149,150\n")
    bench.preview_file(path)
    assert on_disk(bench) == []
    qtbot.mouseClick(page.write, Qt.MouseButton.LeftButton)
    assert [(r.point, r.means) for r in on_disk(bench)] == [("dc+/150/75", "csv"), ("dc+/150/150", "csv")]
    bench.preview_file(tmp_path / "gone.csv")
    assert "cannot be read" in bench.jot.message.text()


def test_a_full_disk_keeps_what_was_typed(qtbot, at_75):
    connection = at_75.bench.notebook.store._connection
    pages = connection.execute("pragma page_count").fetchone()[0]
    connection.execute(f"pragma max_page_count = {pages}")
    text = "note " + "x" * 9000
    at_75.jot.edit.setText(text)
    qtbot.keyClick(at_75.jot.edit, Qt.Key.Key_Return)
    assert at_75.jot.message.text().startswith("The disk is full.")
    assert at_75.jot.edit.text() == text


def test_reopening_lands_in_the_exact_place(qtbot, show, notebook, pack, clock):
    open_job(notebook, pack, "one")
    open_job(notebook, pack, "two")
    first = show(notebook)
    first.shelf.job.emit("one")
    first.bench.place.go("calibrate", "minus:as-found:dc-/15/7.5")
    first.shelf.job.emit("two")
    first.bench.place.go("release")
    clock.advance(minutes=1)
    first.shelf.job.emit("one")
    assert first.bench.place.step_key == "minus:as-found:dc-/15/7.5"
    clock.advance(minutes=1)
    first.close()
    again = show(Notebook(notebook.path, "tester", lambda: NOW))
    assert (again.bench.in_hand.job.id, again.bench.place.stop, again.bench.place.step_key) == (
        "one",
        "calibrate",
        "minus:as-found:dc-/15/7.5",
    )
    assert again.work.currentWidget() is again.calibrate
    again.shelf.job.emit("two")
    assert again.work.currentWidget() is again.release


def test_another_window_sees_what_this_one_writes(qtbot, show, at_75):
    other = show(Notebook(at_75.bench.notebook.path, "other", lambda: NOW))
    jot(qtbot, at_75, "74 ref 75")
    assert readings(other) == []
    other.bench.tick()
    assert [r.indicated for r in readings(other)] == [74]
    jot(qtbot, other, "@dc+/150/75 75 ref 75")
    jot(qtbot, at_75, "76 ref 75")
    assert [r.indicated for r in readings(at_75)] == [74, 75, 76]


def test_a_read_only_notebook_says_so(qtbot, show, notebook, pack):
    standard = open_job(notebook, pack)
    notebook.write("job1", reading(point_steps(pack)[0], standard))
    notebook.close()
    notebook.path.chmod(0o444)
    window = show(Notebook(notebook.path, "x", lambda: NOW))
    assert window.jot.message.text() == "This notebook can only be read: the file is write-protected."
    window.bench.place.go("calibrate", "plus:as-found:dc+/150/75")
    jot(qtbot, window, "74 ref 75")
    assert "can only be read" in window.jot.message.text()
    assert window.jot.edit.text() == "74 ref 75"
