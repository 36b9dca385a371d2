"""A run on the tester is seen and stopped from everywhere, known to every window, and asked about when one closes."""

import pytest
from PySide6.QtCore import Qt

from candor.core.errors import CandorError, RangeError
from candor.core.leakage.leakage_run import Plan
from candor.demo.parts_jobs import COOKING
from candor.desktop.app import cook, make_window
from candor.desktop.frame.preferences import Preferences
from candor.notebook.store import Notebook
from desk import fill, jot

JOB, REF = COOKING


@pytest.fixture
def cooking(qtbot, show, demo):
    window = show(demo)
    window.shelf.job.emit(JOB)
    assert cook(window, JOB, REF, speed=20.0)
    qtbot.waitUntil(lambda: (s := window.bench.live.status()).last is not None and s.last.values["volts"] > 20)
    return window


@pytest.mark.parametrize("place", ["arrive", "power", "soak", "release", "entries", "stock", "another job"])
def test_a_run_is_on_the_strip_of_every_page_and_job_with_its_volts_and_is_stopped_there(qtbot, cooking, place):
    window = cooking
    if place in ("entries", "stock"):
        window.enter_room(place)
    elif place == "another job":
        window.shelf.job.emit(next(ln.job for ln in window.bench.shelf.lines if ln.job != JOB))
    else:
        window.go_to_stop(place)
    assert window.live.isVisible()
    assert f"{REF}: " in window.live.text()
    qtbot.waitUntil(lambda: " V on the tester clips, reforming" in window.live.text())  # it is told each second
    qtbot.mouseClick(window.live.lines[0][2], Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: not window.bench.live.running or window.bench.live.status().phase == "discharging")
    qtbot.waitUntil(lambda: not window.live.isVisible() or "discharging" in window.live.text())
    if window.live.isVisible():
        assert "reforming" not in window.live.text()
        assert not window.live.lines[0][2].isVisible()


@pytest.mark.parametrize("line", ["stop", "Stop!", "there is smoke from the tester"])
def test_a_line_stops_what_is_live_whatever_job_is_in_hand(qtbot, cooking, line):
    window = cooking
    window.shelf.job.emit(next(ln.job for ln in window.bench.shelf.lines if ln.job != JOB))
    window.enter_room("stock")
    jot(qtbot, window, line)
    assert window.jot.edit.text() == ""
    assert f"Stopped: {REF}: " in window.jot.message.text() or window.warning.isVisible()
    qtbot.waitUntil(lambda: not window.bench.live.running or window.bench.live.status().phase == "discharging")
    notes = [e.body.text for e in window.bench.in_hand.job.entries if e.body.kind == "note"]
    assert (line in notes) == ("smoke" in line)  # what was seen is written; that it was stopped, the run says itself


def test_what_was_done_to_a_spark_gap_stops_nothing(qtbot, cooking):
    jot(qtbot, cooking, "did cleaned the spark gap")
    assert cooking.bench.live.running and cooking.bench.live.status().phase != "discharging"


@pytest.mark.parametrize("stop", ["calibrate", "power"])
def test_at_arms_length_the_volts_are_there_and_esc_stops_before_it_leaves(qtbot, cooking, stop):
    window = cooking
    window.go_to_stop(stop)
    window.toggle_arms_length()
    view = window.afar.calibrate if stop == "calibrate" else window.afar.power
    assert window.views.currentWidget() is view
    assert "V on the tester clips" in view.live.text()
    qtbot.keyClick(view, Qt.Key.Key_Escape)
    assert window.views.currentWidget() is view
    qtbot.waitUntil(lambda: not window.bench.live.running or window.bench.live.status().phase == "discharging")
    qtbot.keyClick(view, Qt.Key.Key_Escape)
    assert window.views.currentWidget() is window.table


def test_a_run_is_known_to_another_window_which_starts_none_on_the_same_part(
    qtbot, cooking, tmp_path, closing, clock
):
    other = Notebook(cooking.bench.notebook.path, "other", cooking.bench.notebook.clock)
    second, _ = make_window(other, Preferences("light", 1.0, tmp_path / "second.json"))
    closing.callback(second.deleteLater)
    closing.callback(second.close_now)
    second.resize(1280, 800)
    second.show()
    second.shelf.job.emit(JOB)
    second.go_to_stop("parts")
    second.parts.choose(REF)
    second.parts.show_panel("tester")
    assert f"A run on {REF} is on in another window" in second.live.text()
    qtbot.waitUntil(lambda: "V at its last reading" in second.live.text())  # it is on disk within a second
    panel = second.parts.tester
    assert not panel.start.isEnabled()
    assert "another window" in panel.words.text()
    assert "safe" not in panel.words.text()
    assert not cook_quietly(second)
    assert not second.bench.live.running


def cook_quietly(window):
    try:
        return cook(window, JOB, REF)
    except CandorError as error:
        assert "on in another window" in str(error)
        return False


def test_more_than_the_rating_is_started_only_with_a_written_reason(qtbot, show, demo):
    window = show(demo)
    window.shelf.job.emit(JOB)
    window.go_to_stop("parts")
    window.parts.choose(REF)
    window.parts.show_panel("tester")
    panel = window.parts.tester
    fill(qtbot, panel.fields["target"], "60000")
    assert panel.reason.isVisible()
    panel.start.click()
    assert "at most 1000 V" in window.jot.message.text()
    fill(qtbot, panel.fields["target"], "400")
    panel.start.click()
    assert "above its rating of 350 V" in window.jot.message.text()
    assert not window.bench.live.running
    fill(qtbot, panel.reason, "surge rating 400 V printed on the can")
    panel.start.click()
    assert window.bench.live.running
    assert window.bench.live.started.body.reason == "surge rating 400 V printed on the can"
    with pytest.raises(RangeError):
        window.bench.live.close()
        window.bench.live.start(JOB, panel._line.part, Plan(400, 40e-6, 1e-3), "simulated")


def test_a_job_under_power_is_named_when_the_window_closes(qtbot, show, demo):
    window = show(demo)
    window.close()
    assert window.leaving.isVisible()
    assert "Corvane AV-20 is under power: full line" in window.leaving.what.text()
    qtbot.mouseClick(window.leaving.stay, Qt.MouseButton.LeftButton)
    assert window.isVisible()
    window.close()
    qtbot.mouseClick(window.leaving.close_all, Qt.MouseButton.LeftButton)
    assert not window.isVisible()
