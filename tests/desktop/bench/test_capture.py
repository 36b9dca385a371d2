"""A source on a link at a point: applied by its own deed, off before everything else, and never left without a word."""

import subprocess
import sys
import textwrap
import time

import pytest
from PySide6.QtCore import Qt

from badsource import Source
from candor.desktop.app import make_window
from candor.desktop.frame.preferences import Preferences
from candor.notebook.entries.calibrate_entries import StandardChosen
from candor.notebook.entries.sources_entries import SourceApplied, SourceReleased
from candor.notebook.store import Notebook
from candor.notebook.work.job import fold
from desk import jot
from workbench import open_job, standard_body

Key = Qt.Key
POINT = "plus:as-found:dc+/150/75"


@pytest.fixture
def source(closing, monkeypatch):
    made = Source()
    closing.callback(made.instrument.close)
    monkeypatch.setattr("candor.links.held_source.RAMP_S", 0.002)
    real = __import__("candor.links.held_source", fromlist=["HeldSource"]).HeldSource
    monkeypatch.setattr("candor.links.held_source.HeldSource", lambda link: real(link, step_s=0.002, timeout_s=0.5))
    return made


@pytest.fixture
def window(show, notebook, pack, source):
    """At 75 V on the 150 V range, a calibrator on a link chosen."""
    open_job(notebook, pack)
    body = standard_body(key="cal", name="calibrator", role="source", link=source.resource)
    notebook.write("job1", StandardChosen(standard=notebook.write("", body).id))
    made = show(notebook)
    made.bench.place.go("calibrate", POINT)
    return made


def applied(qtbot, window, source, volts=75.0):
    qtbot.keyClick(window.calibrate, Key.Key_V)
    qtbot.waitUntil(lambda: window.bench.capture.stands_at == volts)
    assert source.volts == volts


def entries(window, kind):
    return [e.body for e in window.bench.notebook.entries_of("job1") if isinstance(e.body, kind)]


def readings(window):
    return fold("job1", window.bench.notebook.entries_of("job1")).calibrate.readings


def test_taking_a_reading_never_applies_volts(qtbot, window, source):
    window.calibrate.readout.needle.setText("74")
    jot(qtbot, window, "74.2")
    window.calibrate.take.click()
    window.calibrate.setFocus()
    qtbot.keyClick(window.calibrate, Key.Key_Space)
    qtbot.wait(80)
    assert source.told == []
    assert "Apply 75 V first" in window.jot.message.text()
    assert len(readings(window)) == 0
    assert window.calibrate.readout.apply.isVisible()
    assert window.calibrate.readout.apply.text().startswith("Apply 75 V")


def test_applied_it_stands_large_everywhere_and_the_reading_is_taken_against_it(qtbot, window, source):
    applied(qtbot, window, source)
    assert window.calibrate.readout.stands.text() == "Source on: 75 V"
    assert "Source on: 75 V" in window.live.text()
    assert window.live.isVisible()
    window.enter_room("entries")
    assert window.live.isVisible()
    window.go_to_stop("calibrate")
    window.bench.place.go("calibrate", POINT)
    jot(qtbot, window, "74.2")
    assert [(r.body.reference, r.body.reference_from) for r in readings(window)] == [(75.0, "as set")]
    window.live.lines[0][2].click()
    qtbot.waitUntil(lambda: source.volts == 0.0 and not window.bench.capture.live)
    assert not window.live.isVisible()
    assert [b.how for b in entries(window, SourceReleased)] == ["read back"]


@pytest.mark.parametrize("how", ["key", "jot"])
def test_what_the_source_does_not_say_is_no_reference(qtbot, window, source, how):
    """The point says 75 V; the source stands at 100 V, or nowhere: neither C nor a typed value makes a pass of that."""
    if how == "jot":
        applied(qtbot, window, source)
        source.set = 100.0  # a hand at its dial
        qtbot.waitUntil(lambda: "100" in window.bench.capture.words)
        jot(qtbot, window, "74.2 ref 75")
    else:
        qtbot.keyClick(window.calibrate, Key.Key_C)
        assert "was not switched on here" in window.jot.message.text()
        assert window.hand.reference_from == ""
        window.hand.type_indicated("74.2")
        qtbot.keyClick(window.calibrate, Key.Key_Space)
    assert readings(window) == ()
    assert "Apply 75 V first" in window.jot.message.text()


@pytest.mark.parametrize("fails", ["mute", "lies", "deaf"])
@pytest.mark.parametrize("when", ["esc", "step left", "closed"])
def test_zero_is_said_only_where_it_was_read_back(qtbot, window, source, fails, when):
    applied(qtbot, window, source)
    setattr(source, fails, True)
    if when == "esc":
        qtbot.keyClick(window.calibrate, Key.Key_Escape)
    elif when == "step left":
        window.bench.place.go_along(1)
    else:
        said = window.bench.capture.close(3.0)
        assert "may still be on, at up to 75 V" in said
        assert entries(window, SourceReleased) == []
        setattr(source, fails, False)
        return
    qtbot.waitUntil(lambda: "may still be on" in window.warning.words.text())
    assert "at zero" not in window.jot.message.text()
    assert window.live.isVisible()
    window.warning.button.click()
    assert [b.how for b in entries(window, SourceReleased)] == ["understood"]
    setattr(source, fails, False)


@pytest.mark.parametrize("when", ["esc", "step left"])
def test_in_the_ramp_too_it_goes_to_zero(qtbot, window, source, when, monkeypatch):
    source.slow_s = 0.01
    qtbot.keyClick(window.calibrate, Key.Key_V)
    qtbot.waitUntil(lambda: source.volts > 5)
    if when == "esc":
        qtbot.keyClick(window.calibrate, Key.Key_Escape)
    else:
        window.bench.place.go_along(1)
    qtbot.waitUntil(lambda: source.volts == 0.0 and not window.bench.capture.live)
    assert "it said so when asked" in window.jot.message.text()


def test_esc_at_arms_length_brings_it_to_zero_and_does_not_leave(qtbot, window, source):
    window.toggle_arms_length()
    arm = window.arms_length
    qtbot.keyClick(arm, Key.Key_V)
    qtbot.waitUntil(lambda: window.bench.capture.stands_at == 75.0)
    assert (arm.live.isVisible(), arm.live.text()) == (True, "Source on: 75 V")
    qtbot.keyClick(arm, Key.Key_Escape)
    qtbot.waitUntil(lambda: source.volts == 0.0)
    assert window.views.currentWidget() is arm


def test_a_window_that_closes_over_a_source_asks_and_brings_it_to_zero(qtbot, window, source):
    applied(qtbot, window, source)
    window.close()
    assert window.isVisible()
    assert window.leaving.isVisible()
    qtbot.waitUntil(lambda: source.volts == 0.0)
    qtbot.waitUntil(lambda: window.leaving.what.text() == "Every source is at zero.")
    window.leaving.stay.click()
    assert window.isVisible()
    window.close()  # nothing is live now: no question
    assert not window.isVisible()


def test_of_every_order_of_deeds_at_the_window_an_off_ends_at_zero(qtbot, window, source):
    """What used to be queued behind a reading of the meter, and overtaken by it."""
    capture = window.bench.capture
    deeds = {
        "apply": lambda: window.hand.apply(),
        "off": capture.off,
        "give up": capture.give_up,
        "read": lambda: capture.read(source.resource, window.hand.point, 75.0),
    }
    for first in deeds:
        for second in ("off", "give up"):
            window.hand.apply()
            deeds[first]()
            deeds[second]()
            qtbot.waitUntil(lambda: source.volts == 0.0 and not capture.live)


def test_two_windows_do_not_drive_one_source(qtbot, window, source, tmp_path, closing, clock):
    applied(qtbot, window, source)
    other = Notebook(window.bench.notebook.path, "other", clock)
    second, _ = make_window(other, Preferences("light", 1.0, tmp_path / "second.json"))
    closing.callback(second.deleteLater)
    closing.callback(second.close_now)
    second.bench.place.go("calibrate", POINT)
    assert not second.hand.apply()
    assert "Another window drives the source" in second.jot.message.text()
    assert "may still be on" not in second.warning.words.text()  # it is in good hands


def test_a_kill_with_volts_on_is_said_by_the_reopened_notebook(qtbot, notebook, pack, source, show, tmp_path):
    """SIGKILL at 75 V, out of a process that drove the source: the volts stay, and whoever opens the notebook is told."""
    open_job(notebook, pack)
    path = notebook.path
    program = textwrap.dedent(
        f"""
        import datetime as dt, os, pathlib, time
        from PySide6.QtCore import QCoreApplication
        from candor.desktop.bench.capture import Capture
        from candor.desktop.bench.voice import Voice
        from candor.notebook.store import Notebook
        app = QCoreApplication([])
        notebook = Notebook(pathlib.Path({str(path)!r}), "killed")
        capture = Capture(notebook, Voice(), lambda job, asked: notebook.append(asked.drafts_for(job))[0])
        assert capture.apply({source.resource!r}, 75.0, 80.0, "V", "p", "job1")
        end = time.monotonic() + 20
        while capture.stands_at != 75.0 and time.monotonic() < end:
            app.processEvents()
            time.sleep(0.01)
        print("standing", flush=True)
        time.sleep(30)
        """
    )
    process = subprocess.Popen([sys.executable, "-c", program], stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    assert process.stdout.readline().strip() == "standing"
    process.kill()
    process.wait(5)
    process.stdout.close()
    assert source.volts == 75.0
    window = show(notebook)
    assert f"The source at {source.resource} may still be on, at up to 75 V" in window.warning.words.text()
    window.warning.button.click()
    assert [b.how for b in entries(window, SourceReleased)] == ["understood"]
    assert [b.value for b in entries(window, SourceApplied)] == [75.0]
    again = show(notebook)
    assert "may still be on" not in again.warning.words.text()
    source.on = False
    time.sleep(0)
