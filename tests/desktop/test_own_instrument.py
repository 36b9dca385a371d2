"""Instruments that no pack describes, of every kind of reading: said as lines, read, judged, certified."""

from __future__ import annotations

import datetime as dt
import io

import pypdf
import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication

from candor.core.jot import JotContext, understand
from candor.core.verdict.rules import Outcome
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.standards.standards_text import read_functions
from candor.notebook.work.assessment import unfinished
from candor.packs.procedure import procedure
from candor.paper.certificate import certificate_pdf
from candor.words.results import short_error
from desk import fill, jot, row_titles
from workbench import EVERYTHING

# The range as it is typed; and for each point what is typed of a simulated instrument, with the error that it was given, SI.
OWN = {
    "centre zero": ("galvanometer 5 V 50 div zero centre 3%fs",
                    {"2.55 ref 2.5": 0.05, "-2.45 ref -2.5": 0.05, "0.05 ref 0": 0.05}),
    "ohms falling": ("Ohms called Rx1 10 ohm centre zero right 5 div 3% of arc",
                     {"10.3 ref 10": 0.3, "5.1 ref 5": 0.1, "41 ref 40": 1.0}),
    "ohms rising": ("Resistance called Rx1k 10 kohm centre zero left 5 div 3% of arc", {"10.3 ref 10": 300.0, "5.1 ref 5": 100.0}),
    "decibels": ("output -20..+2 dB ±0.5 dB", {"-9.9 ref -10": 0.1, "0.1 ref 0": 0.1}),
    "square law": ("AC volts 3 V square law knee 0.5 V 5 div 5%fs 60 Hz", {"1.05 ref 1": 0.05, "2.9 ref 2.95": -0.05}),
    "bent": ("leakage 1 mA marks 0@0 0.1@8 0.2@17 0.5@40 1@90 5 div between 3%fs", {"0.51 ref 0.5": 1e-5, "0.98 ref 1": -2e-5}),
    "mark": ("line 120 V 60 div on its mark 2%", {"on 120 ref 121": -1.0}),
    "null": ("capacitance 0.1 uF 100 div dial at a null 3% of reading", {"dial 46.5n..48.5n ref 47n": 5e-10}),
    "at mark": ("sensitivity 0..100 100 div dial at its mark ±8 div", {"dial 96": -4.0}),
    "threshold": ("shorts lamp 250 kohm threshold on below 20% of reading", {"on 240k off 250k": -5e3}),
    "screen": ("vertical 0.5 V/div 8 div edges 0.1 5% of reading", {"4.05 div ref 2": 0.025}),
    "sweep": ("sweep 1 ms/div 10 div 5% of reading", {"8.1 div ref 8 ms": 1e-4}),
    "source": ("supply 10 V as a source steps 1 2 5 10 V 2% of reading", {"at 5 reads 4.95": 0.05, "at 10 reads 10.1": -0.1}),
    "dial": ("frequency 100..300 kc 40 div 2% of reading", {"200 ref 199": 1e3}),
    "look": ("hum look: still, under a tick | a tick or more, beats", {"still": None}),
}  # fmt: skip


@pytest.fixture
def lines(show, qtbot, notebook):
    """A job by its name at Calibrate; what is typed there, checked to have been understood."""
    notebook.write("", StandardRecorded(key="all", name="bench standards", functions=read_functions(EVERYTHING),
                                        calibrated_on=dt.date(2026, 1, 10), traceability="a laboratory"))  # fmt: skip
    window = show(notebook)
    fill(qtbot, window.new_job.name, "Halvergate bench tester OT-9 no. 12")
    qtbot.keyClick(window.new_job.name, Qt.Key.Key_Return)
    window.go_to_stop("calibrate")

    def typed(text):
        before = len(window.bench.in_hand.job.entries)
        jot(qtbot, window, text)
        assert len(window.bench.in_hand.job.entries) > before, (text, window.jot.message.text())

    typed.window = window
    return typed


def test_a_job_by_name_brings_what_is_usual_for_its_kind_in_its_order_and_nothing_asks_for_it(show, qtbot, notebook):
    notebook.write("", StandardRecorded(key="all", name="bench standards", functions=read_functions(EVERYTHING),
                                        calibrated_on=dt.date(2026, 1, 10), traceability="a laboratory"))  # fmt: skip
    window = show(notebook)
    fill(qtbot, window.new_job.name, "Halvergate vacuum tube voltmeter OT-9 no. 12")
    qtbot.keyClick(window.new_job.name, Qt.Key.Key_Return)
    window.go_to_stop("calibrate")
    assert row_titles(window.calibrate.steps) == []  # the first range is asked for, not a preparation
    jot(qtbot, window, "range Ohms called R×1 10 ohm centre zero left 5 div 3% of arc")
    jot(qtbot, window, "range DC volts 30 V 30 div 3%fs")
    for text in ("15.2 ref 15", "29.9 ref 30", "7.6 ref 7.5"):
        jot(qtbot, window, text)
    assert {r.verdict.outcome for r in results_of(window).values()} == {Outcome.PASS}
    titles = row_titles(window.calibrate.steps)
    assert titles.index("Usual first") < titles.index("Zero, + against −") < titles.index("As found")
    assert titles.index("30 V   3 of 3" if "30 V   3 of 3" in titles else "30 V") < titles.index(
        "R×1: an extra point"
    )
    assert titles.index("Usual trims, in order") < titles.index("+ CAL") < titles.index("As left")
    step = window.bench.place.step
    assert (step.point.function, "probe in its a.c. position" in step.mistake) == ("DC volts", True)
    job, pack = window.bench.in_hand.job, window.bench.in_hand.pack
    assert unfinished(job, pack, notebook.clock()) == ()
    window.calibrate.steps.picked.emit("usual-dc-cal")
    assert "The manual comes before it" in because_text(window)
    assert window.calibrate.caution.isVisible()  # hands go in: the capacitors hold their charge
    qtbot.keyClick(window.calibrate, Qt.Key.Key_Space)
    assert [e.body.trim for e in window.bench.in_hand.job.calibrate.adjustments] == ["+ CAL"]
    assert "as left" in {s.phase for s in unfinished(window.bench.in_hand.job, pack, notebook.clock())}


def because_text(window):
    return " ".join(label.text() for label in window.because.findChildren(type(window.because.sentence)))


def results_of(window):
    return window.bench.in_hand.found.results


@pytest.mark.parametrize("kind", OWN)
def test_a_range_of_every_kind_is_read_and_its_error_found_with_a_u(lines, kind):
    said, readings = OWN[kind]
    lines(f"range {said}" if kind != "look" else said.replace("hum look", "range hum look"))
    window = lines.window
    for text, error in readings.items():
        before = set(results_of(window))
        lines(text)
        result = results_of(window)[next(iter(set(results_of(window)) - before))]
        if error is None:
            assert result.verdict.outcome is Outcome.PASS
            continue
        shown = result.indicated - result.reference
        assert abs(shown - error) <= 1e-6 * abs(error) + 1e-15, (text, shown)
        assert result.coverage.expanded > 0


def test_a_value_is_calculated_from_points_that_are_read_and_stands_on_the_certificate(lines):
    """By hand: 149 - 75.6 against 75; its U from both, of one standard."""
    lines("range DC volts + 150 V 30 div 3%fs")
    window = lines.window
    for text in ("75.6 ref 75", "149 ref 150"):
        lines(text)
    low, high = results_of(window)
    lines(f"range Rise calculated b - a of a {low}, b {high} comes to 75 V ±7 V")
    lines(f"range Ratio calculated b/a of a {low}, b {high} comes to 2 1%")
    found = results_of(window)
    rise, ratio = found["rise/rise/75"], found["ratio/ratio/2"]
    assert (rise.indicated - rise.reference, rise.verdict.outcome) == (pytest.approx(-1.6), Outcome.PASS)
    assert ratio.indicated == pytest.approx(149 / 75.6)
    larger, both = (
        max(found[k].coverage.expanded for k in (low, high)),
        sum(found[k].coverage.expanded for k in (low, high)),
    )
    assert larger < rise.coverage.expanded < both
    assert short_error(rise) == "−23 % of limit"  # there is no full scale
    assert (rise.point.limit_percent, found[low].point.limit_percent) == (0.0, 3.0)
    steps = {s.point.key: s for s in procedure(window.bench.in_hand.pack) if s.point is not None}
    assert any(c.key == "live" for c in steps[low].cautions)
    assert steps["rise/rise/75"].cautions == ()  # nothing is applied there, and no hand moves
    before = len(window.bench.in_hand.job.entries)
    for wrong in (f"b - a of a {low}, b nothing/1/2 comes to 75 V", f"b/a of a {low}, b {high} comes to 2 V",
                  f"a - b of a {low}, b rise/rise/75 comes to 0 V"):  # fmt: skip
        window.jot.jotted.emit(understand(f"range Wrong calculated {wrong}", JotContext()), wrong)
        assert window.jot.message.text()
    assert len(window.bench.in_hand.job.entries) == before
    made = window.release.to_print()
    assert made.record is not None, made.refused
    sheets = pypdf.PdfReader(io.BytesIO(certificate_pdf(made.record, "ab" * 32))).pages
    page = " ".join(" ".join(sheet.extract_text() for sheet in sheets).split())
    assert "Ratio" in page
    lines("range DC volts − 60 V 30 div 3%fs")
    titles = row_titles(window.calibrate.steps)
    assert titles.index("Rise") > next(n for n, t in enumerate(titles) if t.startswith("60 V")), (
        titles
    )  # it is calculated behind all that is read
    reading = next(e for e in window.bench.in_hand.job.entries if e.body.kind == "reading")
    window.bench.notebook.write(window.bench.in_hand.job.id, Struck(target=reading.id))
    window.bench.open_job(window.bench.in_hand.job.id)
    assert set(results_of(window)) == {high}  # nothing is calculated of what no longer stands


def test_one_instrument_with_all_of_them_gets_its_certificate(lines):
    for said, readings in OWN.values():
        lines(f"range {said}")
        for text in readings:
            lines(text)
    window = lines.window
    made = window.release.to_print()
    assert made.record is not None, made.refused
    assert len(made.record.as_found.points) == sum(len(readings) for _, readings in OWN.values())
    sheets = pypdf.PdfReader(io.BytesIO(certificate_pdf(made.record, "ab" * 32))).pages
    page = " ".join(" ".join(sheet.extract_text() for sheet in sheets).split())
    for words in ("Rx1k", "galvanometer", "hum", "still", "shorts lamp", "sensitivity"):
        assert words in page


@pytest.mark.parametrize(
    ("said", "first", "value"), [("60 mA 60 div", "30 ref 30.1 mA", 0.033), ("0.3 V 60 div", "0.15 ref 0.15", 0.165)]
)
def test_what_the_field_shows_is_what_it_reads_again(lines, qtbot, said, first, value):
    """That of a 60 mA range showed amperes and read milliamperes: a needle dragged to 33 mA was 33 uA by Enter."""
    lines(f"range {said} 3%fs")
    lines(first)
    window = lines.window
    window.hand.drag_to(value)
    field = window.calibrate.readout.needle
    assert field.text()[-1].isdigit()
    assert window.hand.draft.type_figure(window.hand.point, "indicated", field.text()) is None
    assert window.hand.draft.figures["indicated"] == pytest.approx(value, rel=0.01)


def test_many_chips_leave_the_line_its_room(lines, qtbot):
    """A range with many terms squeezed the line that was typed to two letters."""
    edit = lines.window.jot.edit
    fill(qtbot, edit, "range current 2 mA marks 0@0 0.2@8 0.5@24 1@52 1.4@70 2@90 5 div between 3%fs usual points")
    QApplication.processEvents()
    assert edit.width() > 0.6 * lines.window.width()
    assert lines.window.jot.chips.count() >= 5
    fill(qtbot, edit, "12.5")
    QApplication.processEvents()
    assert lines.window.jot.chips.itemAt(0).widget().y() == pytest.approx(edit.y(), abs=12)  # few stand beside it
