"""Stories of an instrument by its name, driven in the real window; what its certificate says is true of what was typed."""

import io

import pypdf
import pytest
from PySide6.QtCore import Qt

from candor.desktop.stops.release.release_checks import BeforeList
from candor.paper.certificate import certificate_pdf
from candor.paper.label import label_lines
from desk import LEFT, fill, jot
from workbench import standard_body

RANGES = (("DC volts 3 V 30 div 5%fs", 3.0), ("DC volts 10 V 50 div 5%fs", 10.0), ("DC volts 30 V 30 div 5%fs", 30.0))


@pytest.fixture
def bench(qtbot, show, notebook):
    """A voltmeter by its name, at Calibrate; returns window, and a way to type lines that counts them."""
    notebook.write("", standard_body())
    window = show(notebook)
    fill(qtbot, window.new_job.name, "Halvergate vacuum tube voltmeter VX-4 no. 1187")
    qtbot.keyClick(window.new_job.name, Qt.Key.Key_Return)
    window.go_to_stop("calibrate")
    typed = []

    def lines(*said):
        for line in said:
            typed.append(line)
            jot(qtbot, window, line)

    window.typed = typed
    return window, lines


def paper(window):
    made = window.release.to_print()
    record = made.record
    assert record is not None, made.refused
    sheets = pypdf.PdfReader(io.BytesIO(certificate_pdf(record, "ab" * 32))).pages
    page = " ".join(" ".join(sheet.extract_text() for sheet in sheets).split())
    return record, [line.text for line in record.remarks], page, "\n".join(label_lines(record, "ab" * 32))


def read_all(lines, ranges=RANGES, ratio=1.002):
    for text, full in ranges:
        lines(f"range {text}")
        lines(*(f"{ratio * full * share:.4g} ref {full * share:.4g}" for share in (1 / 3, 2 / 3, 1.0)))


def test_the_way_it_should_go_asks_little_and_says_that_nothing_was_changed(bench):
    window, lines = bench
    read_all(lines)
    job = window.bench.in_hand.job
    assert (job.stay.details["maker"], job.stay.details["type"]) == ("Halvergate", "VX-4")
    record, remarks, page, _ = paper(window)
    assert (len(record.as_found.points), record.as_found.outcome) == (9, "passes")
    assert (
        len(window.typed) / len(record.as_found.points) <= 1.5
    )  # lines typed for a verdict, the ranges' own included
    assert (
        record.as_left_note == "Nothing was changed or adjusted: the as-found results are also the as-left results."
    )
    assert not any("as found" in text for text in remarks)
    assert "What was changed Nothing." in page


def test_trim_first(bench, qtbot):
    window, lines = bench
    lines("range DC volts 3 V 30 div 3%fs", "did trimmed the calibration screw")
    assert window.first.isVisible()
    assert "Nothing has been read as found yet" in window.first.words.text()
    assert window.bench.in_hand.job.stay.changes == ()
    assert window.jot.edit.text() == "did trimmed the calibration screw"
    qtbot.mouseClick(window.first.without, LEFT)
    assert not window.first.isVisible()
    assert window.jot.edit.text() == ""
    lines("1.01 ref 1.0", "3.02 ref 3.0")
    record, remarks, page, label = paper(window)
    assert (record.as_found.points, len(record.as_left.points)) == ((), 2)
    assert {p.state for p in record.as_left.points} == {"as left only"}
    assert "As left only." in page
    assert any("changed before it had been read as found" in text for text in remarks)
    assert any(
        "first read after adjustment, not as found" in text and "calibration screw" in text for text in remarks
    )
    assert "Nothing was changed" not in page
    assert "trimmed the calibration screw" in page
    assert "no as found: changed before it was read" in label


def test_smoke_at_a_point_is_heard_by_whoever_went_straight_to_calibrate(bench, qtbot):
    """No state was begun, nothing said of the supply: it is on all the same. Plug out ends it."""
    window, lines = bench
    lines("range DC volts 30 V 30 div 3%fs", "10.1 ref 10.0", "there is smoke from the transformer")
    assert window.warning.isVisible()
    assert any("Plug out" in words for words in window.bench.voice.warnings)
    lines("plug out", "it smelt burnt")
    assert window.bench.alarms.current() == ()


def test_smoke_is_heard_with_no_job_in_hand(qtbot, show, notebook):
    window = show(notebook)
    jot(qtbot, window, "there is smoke!")
    assert window.warning.isVisible() and "plug out" in window.bench.voice.warnings[0]
    assert window.jot.edit.text() == "there is smoke!"


def test_part_first_then_a_trim_after_two_readings(bench, qtbot):
    window, lines = bench
    lines("range DC volts 30 V 30 div 3%fs", "10.1 ref 10.0")
    lines("part R9 47k", "did replaced R9")
    lines("points 20 30")
    lines("20.3 ref 20.0")  # first read after the part
    lines("did adjusted the shunt")
    lines("30.2 ref 30.0", "10.05 ref 10.0")
    record, remarks, _, _ = paper(window)
    states = {p.point.rsplit("/", 1)[1]: p.state for p in record.as_found.points}
    assert states == {"10": "as found", "20": "as received after repair"}
    assert {p.point.rsplit("/", 1)[1]: p.state for p in record.as_left.points} == {
        "10": "as left",
        "30": "as left only",
    }
    assert any("30 V range at 20 V was first read after a change (replaced R9" in text for text in remarks)
    assert any("30 V range at 30 V was first read after a change (adjusted the shunt" in text for text in remarks)
    assert any("1 point waits to be read again since: adjusted the shunt" in text for text in remarks)
    assert not any("not read:" in text for text in remarks)
    assert "as received after repair" in record.as_found.sentence
    assert window.bench.place.step.phase == "as left"  # the hand stands there since the change


def test_dead_on_arrival(bench, qtbot):
    window, lines = bench
    lines("range DC volts 3 V 30 div 3%fs", "did replaced the rectifier")
    assert window.first.isVisible()
    qtbot.mouseClick(window.first.dead, LEFT)
    assert "Write first why" in window.jot.message.text()
    fill(qtbot, window.first.reason, "no rail comes up")
    qtbot.mouseClick(window.first.dead, LEFT)
    lines("1.01 ref 1.0", "3.02 ref 3.0")
    record, remarks, page, _ = paper(window)
    assert record.as_found.outcome == "inoperative"
    assert "because no rail comes up" in record.as_found.sentence
    assert not any("without having been read" in text for text in remarks)
    assert "As found: inoperative" in page


def test_read_out_of_order_every_reading_lands_where_it_was_applied(bench):
    window, lines = bench
    lines("range DC volts 30 V 30 div 3%fs", "points 10 20 30")
    lines("29.9 ref 30.0", "10.1 ref 10.0", "20.2 ref 20.0", "5.1 ref 5.0")
    record, _, _, _ = paper(window)
    assert sorted((p.point.rsplit("/", 1)[1], p.indicated) for p in record.as_found.points) == [
        ("10", 10.1), ("20", 20.2), ("30", 29.9), ("5", 5.1),
    ]  # fmt: skip
    assert all(len(p.readings) == 1 for p in record.as_found.points)


def test_a_simulated_meter_decides_in_the_window_with_the_word_and_on_no_paper(bench, notebook, qtbot):
    window, lines = bench
    notebook.write("", standard_body(link="simulated"))
    window.bench.tick()
    lines("range DC volts 30 V 30 div 3%fs", "points 30", "30.2")
    qtbot.waitUntil(lambda: len(window.bench.in_hand.job.calibrate.readings) == 1, timeout=30_000)
    assert window.bench.in_hand.job.calibrate.readings[0].body.simulated
    assert "simulated: no evidence" in window.because.word.text()
    record, remarks, _, label = paper(window)
    assert record.as_found.points == ()
    assert any("1 reading was taken with a simulated meter or source" in text for text in remarks)
    assert "1 simulated reading left out" in label


def test_the_list_before_it_goes_is_the_guards_own(bench):
    """What bars signing in the window bars it at the write."""
    window, lines = bench
    read_all(lines, RANGES[:1])
    window.go_to_stop("release")
    assert isinstance(window.release.before, BeforeList)
    window.release.sign.click()
    assert window.bench.in_hand.job.release.certificates == ()
