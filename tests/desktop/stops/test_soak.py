"""The stop Soak through the window: on, read, ready; the history reckoned beside it, taken in from a file, kept as a day."""

import math

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel

from candor.notebook.entries.calibrate import TimerStarted
from candor.notebook.entries.soak import DueSet, SoakRead
from candor.packs.procedure import procedure
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
    assert "Nobody has said that it is on" in page.clock.text()
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
    with qtbot.waitSignal(drift.reckoned, timeout=10_000):
        window.soak.show_view("drift")
    assert "the custom for its kind" in drift.why.text()
    table = tmp_path / "h.csv"
    rows = [f"{2019 + k}-06-01,{POINT},{0.3 * k:.1f} V,0.4 V,4.5 V,found" for k in range(6)]
    table.write_text(
        "date,point,error,U,limit,when\n"
        + "\n".join(
            f'{r.split(",")[0]},"{POINT}",{r.split(",", 3)[3] if False else ",".join(r.split(",")[-4:])}'
            for r in rows
        )
    )
    with qtbot.waitSignal(drift.reckoned, timeout=10_000):
        drift.read_file(table)
    assert row_titles(drift.points) == [POINT]
    assert "decides, expected at +" in drift.why.text()
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
    assert "U is missing" in window.jot.message.text()


def test_what_is_looked_at_before_it_soaks_alone_stands_beside_the_button(arrived):
    arrived.go_to_stop("soak")
    assert arrived.soak.now.alone.isVisible()
    said = " ".join(label.text() for label in arrived.because.findChildren(QLabel) if label.isVisible())
    assert "Nothing soaks unattended that was not watched for an hour first" in said
    assert "No still trace on a picture tube" in said
