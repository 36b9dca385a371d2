"""The stop Soak through the window: on, read, ready; the history calculated beside it, taken in from a file, kept as a day."""

import math

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel

from candor.notebook.entries.soak_entries import DueSet, SoakRead
from candor.notebook.entries.timers_entries import TimerStarted
from candor.packs.procedure import procedure
from candor.words.drift_words import say_advice
from desk import LEFT, fill, jot, row_titles
from workbench import open_job

POINT = "DC volts +, 150 V range at 75 V"


@pytest.fixture
def window(show, notebook, pack):
    open_job(notebook, pack)
    made = show(notebook)
    made.go_to_stop("soak")
    return made


def test_switched_on_read_and_ready(qtbot, window, clock):
    page = window.soak.now
    assert "Candor does not know that the instrument is on" in page.clock.text()
    qtbot.mouseClick(page.on, LEFT)
    assert not page.on.isEnabled()
    for k in range(24):
        clock.advance(minutes=5)
        fill(qtbot, page.read, f"{75 + 2 * math.exp(-5 * k / 20):.3f} V")
        qtbot.keyClick(page.read, Qt.Key.Key_Return)
    assert len(window.bench.in_hand.job.soak.read) == 24
    assert page.ready.text().startswith("Ready")
    jot(qtbot, window, "soak 75.01 V")
    assert isinstance(window.bench.in_hand.job.entries[-1].body, SoakRead)
    fill(qtbot, page.read, "warm")
    qtbot.keyClick(page.read, Qt.Key.Key_Return)
    assert page.read.text() == "warm"  # nothing lost
    qtbot.mouseClick(page.off, LEFT)
    assert window.bench.in_hand.job.soak.since is None


def test_a_warm_up_counts_from_the_on_clock(qtbot, window, clock):
    jot(qtbot, window, "on")
    clock.advance(minutes=20)
    wait = next(s for s in procedure(window.bench.in_hand.pack) if s.kind == "wait")
    window.bench.place.go("calibrate", wait.key)
    window.hand.press()
    timer = next(e.body for e in reversed(window.bench.in_hand.job.entries) if isinstance(e.body, TimerStarted))
    assert timer.seconds == pytest.approx(wait.seconds - 1200, abs=1)


def test_the_history_comes_from_a_file_and_gives_a_day(qtbot, window, tmp_path):
    drift = window.soak.drift
    with qtbot.waitSignal(drift.calculated, timeout=10_000):
        window.soak.show_view("drift")
    assert "usual for this kind" in drift.why.text()
    table = tmp_path / "h.csv"
    rows = [f"{2019 + k}-06-01,{POINT},{0.3 * k:.1f} V,0.4 V,4.5 V,found" for k in range(6)]
    table.write_text(
        "date,point,error,U,limit,when\n"
        + "\n".join(
            f'{r.split(",")[0]},"{POINT}",{r.split(",", 3)[3] if False else ",".join(r.split(",")[-4:])}'
            for r in rows
        )
    )
    drift.read_file(table)
    assert "6 results" in window.from_file.title.text()
    with qtbot.waitSignal(drift.calculated, timeout=10_000):
        qtbot.mouseClick(window.from_file.write, LEFT)
        window.go_to_stop("soak")
    assert row_titles(drift.points) == [POINT]
    assert "limits it: expected error +" in drift.why.text()
    assert drift.said.text() == say_advice(drift.view.advice[POINT])
    assert drift.view.forecasts[POINT].slope == pytest.approx(0.3, abs=0.1)
    qtbot.mouseClick(drift.methods["forecast"], LEFT)
    kept = window.bench.in_hand.job.soak.due.body
    assert isinstance(kept, DueSet)
    assert kept.on == drift.view.due.on
    assert "For the certificate: due" in drift.kept.text()
    assert window.because.word.text() == "How long it will stay so"
    bad = tmp_path / "bad.csv"
    bad.write_text("date,point,error,U,limit,when\n2019-01-01,x,1,,2,found\n")
    drift.read_file(bad)
    assert any("U is missing" in fault for fault in window.from_file._preview.faults)


def test_what_is_looked_at_before_it_soaks_alone_stands_beside_the_button(arrived):
    arrived.go_to_stop("soak")
    assert arrived.soak.now.alone.isVisible()
    said = " ".join(label.text() for label in arrived.because.findChildren(QLabel) if label.isVisible())
    assert "Never leave it soaking unattended before you have watched it for an hour" in said
    assert "Leave no still trace on a picture tube" in said


def test_a_meter_on_a_link_is_read_until_it_is_off(qtbot, window):
    page, bench = window.soak.now, window.bench
    qtbot.mouseClick(page.on, LEFT)
    fill(qtbot, page.link, "by simulated every 1 s in V of DC volts")
    qtbot.mouseClick(page.by_link, LEFT)
    qtbot.waitUntil(lambda: len(bench.in_hand.job.soak.read) >= 2)
    first = bench.in_hand.job.soak.read[0].body
    assert (first.unit, first.what, first.link) == ("V", "DC volts", "simulated")
    assert first.value == pytest.approx(10 * 1.004, rel=1e-4)  # it was switched on just now
    assert page.linked.text() == "Read by simulated every 1 s."
    assert "says nothing of the instrument" in page.beside.text()
    window.go_to_stop("release")  # it goes on
    qtbot.waitUntil(lambda: len(bench.in_hand.job.soak.read) > 3)
    jot(qtbot, window, "off")
    assert bench.watch.job == ""
    window.go_to_stop("soak")
    assert page.link.text() == "by simulated every 1 s in V of DC volts"
    assert not page.linked.isVisible()
    assert len(bench.in_hand.job.soak.read) > 3
    window.soak.show_view("steady")
    qtbot.mouseClick(window.soak.steady.watched, LEFT)  # a certificate says what was measured
    assert "says nothing of the instrument. Nothing was written." in window.jot.message.text()
    assert not bench.in_hand.job.soak.steady


def test_a_meter_that_does_not_answer_is_a_gap_that_is_said_once(qtbot, window, clock):
    jot(qtbot, window, "on")
    jot(qtbot, window, "soak by TCPIP::127.0.0.1::9::SOCKET every 1 s")
    watch = window.bench.watch
    qtbot.waitUntil(lambda: "does not answer now" in watch.words)
    said = len(window.bench.voice.warnings)
    clock.advance(minutes=5)  # it is silent since then, not since now
    with qtbot.waitSignal(watch.changed, timeout=10_000):
        pass  # asked again
    assert len(window.bench.voice.warnings) == said == 1
    assert not window.bench.in_hand.job.soak.read
    assert window.soak.now.linked.text().startswith(
        "Read by TCPIP::127.0.0.1::9::SOCKET every 1 s. It does not answer"
    )
    fill(qtbot, window.soak.now.read, "by hand")  # the line beside what is read takes it too
    qtbot.keyClick(window.soak.now.read, Qt.Key.Key_Return)
    assert (watch.words, window.soak.now.read.text()) == ("", "")
    fill(qtbot, window.soak.now.link, "by x every so often")
    qtbot.keyClick(window.soak.now.link, Qt.Key.Key_Return)
    assert window.soak.now.link.text() == "by x every so often"
    assert "is not a time. Examples: 30 s" in window.jot.message.text()


def test_readings_of_a_logger_are_taken_in(qtbot, window, tmp_path):
    table = tmp_path / "log.csv"
    table.write_text("seconds,value\n" + "\n".join(f"{300 * k},{75 + 2 * math.exp(-k / 4):.4f} V" for k in range(30)))
    window.soak.now.read_file(table)
    assert "Say first when it was switched on" in window.jot.message.text()
    jot(qtbot, window, "on")
    window.soak.now.read_file(table)
    assert len(window.bench.in_hand.job.soak.read) == 30
    assert window.soak.now.ready.text().startswith("Ready")


def test_a_log_of_phase_says_what_the_frequency_is_off_by(qtbot, window, tmp_path):
    window.soak.show_view("steady")
    panel = window.soak.steady
    assert not panel.chart.isVisible()
    log = tmp_path / "phase.csv"
    wrapped = [(10 * k, (3e-8 * 10 * k + 1e-9 * math.sin(k * k)) % 1e-6) for k in range(200)]
    log.write_text("seconds,phase\n" + "\n".join(f"{t},{x:.6e}" for t, x in wrapped))
    fill(qtbot, panel.what, "crystal at 1 MHz")
    fill(qtbot, panel.period, "1 us")
    fill(qtbot, panel.path, "1e-9")
    panel.read_file(log)
    qtbot.waitUntil(lambda: bool(window.bench.in_hand.job.soak.steady))
    found = window.bench.in_hand.job.soak.steady[-1].body
    assert found.offset == pytest.approx(3e-8, abs=2 * found.u_offset)
    assert 1e-9 <= found.u_offset < 1.2e-9  # the path, nearly all of it
    assert (window.bench.notebook.waveform_folder / found.file).read_bytes() == log.read_bytes()
    assert panel.words.text().startswith("crystal at 1 MHz against the reference: offset (+3.00 ± 0.2")
    assert panel.chart.isVisible()
    fill(qtbot, panel.path, "much")
    panel.read_file(log)
    assert "a number such as 1e-9" in window.jot.message.text()


def test_what_is_watched_says_how_long_to_average(qtbot, window, clock):
    jot(qtbot, window, "on")
    window.soak.show_view("steady")
    assert not window.soak.steady.watched.isEnabled()
    for k in range(8):
        clock.advance(seconds=60)
        jot(qtbot, window, f"soak {10 + 0.001 * (-1) ** k:.4f} V")
    qtbot.mouseClick(window.soak.steady.watched, LEFT)
    qtbot.waitUntil(lambda: bool(window.bench.in_hand.job.soak.steady))
    assert window.bench.in_hand.job.soak.steady[-1].body.every == pytest.approx(60, rel=1e-3)


def test_a_sticker_is_typed(qtbot, window):
    key = "dc+/150/75"
    for year, error in ((2021, 0.3), (2023, 0.9)):
        jot(qtbot, window, f"past {year}-03-04 {key} +{error} ± 0.3 V")
    jot(qtbot, window, f"past 2024-03-04 {key} dead")
    past = [e.body for e in window.bench.in_hand.job.soak.past]
    assert [(b.point, b.limit, b.error) for b in past] == [(POINT, 4.5, 0.3), (POINT, 4.5, 0.9), (POINT, 4.5, None)]
    for text, words in (
        (f"past 2031-03-04 {key} 0.1 ± 0.1 V", "cannot be after today"),
        ("past 2021-03-04 nowhere 0.1 ± 0.1 V", "The limit of “nowhere” is not known here"),
        (f"past 2021-03-04 {key} 0.1 ± 0.1 A", "is in V, and the result in A"),
    ):
        jot(qtbot, window, text)
        assert words in window.jot.message.text()
        assert window.jot.edit.text() == text
    window.jot.edit.clear()
    with qtbot.waitSignal(window.soak.drift.calculated, timeout=10_000):
        window.soak.show_view("drift")
    assert row_titles(window.soak.drift.points) == [POINT]


def test_points_of_a_history_stand_in_the_order_that_is_chosen(qtbot, show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40241")
    window.go_to_stop("soak")
    drift = window.soak.drift
    with qtbot.waitSignal(drift.calculated, timeout=20_000):
        window.soak.show_view("drift")
    view = drift.view
    assert row_titles(drift.points) == [p.name for p in view.points]
    drift.order.setCurrentText("farthest first")
    share = {p.name: abs(p.segments[-1].results[-1].error) / p.limit for p in view.points}
    assert row_titles(drift.points) == sorted(share, key=lambda name: -share[name])
    drift.order.setCurrentText("due first")
    due = [view.advice[name].left for name in row_titles(drift.points) if name in view.advice]
    assert due == sorted(due)
    assert len(due) > 3
