"""What warns stays; what nobody thought of is said and kept; what cannot be read or is held by others closes nothing else."""

import sqlite3
import sys
import threading
import time

import pytest
from PySide6.QtCore import Qt, QTimer

from candor.desktop.frame.theme import plain_tip
from candor.desktop.frame.unforeseen import Unforeseen, log_path
from candor.desktop.widgets.worker import Work
from candor.notebook.entries.runs import RunEnded, RunStarted
from candor.notebook.entries.stay import NoteWritten
from candor.notebook.run_files import hold
from candor.notebook.store import Notebook
from workbench import open_job

LEFT = Qt.MouseButton.LeftButton


def left_unsafe(notebook, job="job1", volts=231.0, safe=False):
    started = notebook.write(
        job, RunStarted(ref="C7", mode="reform", target_volts=280, dwell_s=60, limit=1e-3, most_s=900, file="c.csv")
    )
    body = RunEnded(
        run=started.id, ref="C7", why="the window was closed", measured_volts=volts, safe=safe, readings=40
    )
    notebook.write(job, body)


def test_a_warning_stays_until_it_is_understood_also_at_arms_length(qtbot, bench):
    bench.bench.live.ended.emit("C7", "the link died", "Its source may still be on: switch it off by hand.")
    assert bench.warning.words.text().endswith("the link died. Its source may still be on: switch it off by hand.")
    bench.bench.voice.say("Something calm.")
    bench.bench.tick()
    qtbot.keyClick(bench, Qt.Key.Key_Escape)
    assert bench.warning.isVisible()
    bench.toggle_arms_length()
    view = bench.arms_length
    assert view.warning.isVisible()
    qtbot.keyClick(view, Qt.Key.Key_Space)  # the pedal takes no warning away
    assert "switch it off by hand" in view.warning.words.text()
    bench.bench.voice.warn("And another.")
    assert view.warning.words.text().splitlines()[1] == "And another."
    qtbot.mouseClick(view.warning.button, LEFT)
    assert not view.warning.isVisible()
    bench.toggle_arms_length()
    assert not bench.warning.isVisible()


@pytest.mark.parametrize(("safe", "days", "warned"), [(False, 0, True), (True, 0, False), (False, 3, False)])
def test_a_run_left_unsafe_is_warned_of_when_its_job_is_opened(show, notebook, pack, clock, safe, days, warned):
    open_job(notebook, pack)
    left_unsafe(notebook, safe=safe)
    clock.advance(days=days)
    window = show(notebook)
    assert ("231 V at the last reading, not measured safe" in window.warning.words.text()) == warned
    window.bench.voice.understood()
    window.shelf.job.emit("job1")
    assert not window.warning.isVisible()  # once is enough


def test_an_end_that_is_safe_warns_of_nothing(bench):
    bench.bench.live.ended.emit("C7", "5 min at 280 V are over", "")
    assert not bench.warning.isVisible()
    assert "the run is over, 5 min at 280 V are over." in bench.jot.message.text()


@pytest.fixture
def unforeseen(notebook):
    made = Unforeseen(notebook)
    made.put_in_place()
    yield made
    made.take_away()


def test_an_error_nobody_thought_of_is_said_and_kept_with_its_trace(qtbot, bench, unforeseen):
    unforeseen.happened.connect(bench.bench.voice.warn)
    bench.jot.edit.setText("a line half written")

    def slip():
        raise ZeroDivisionError("by nought")

    QTimer.singleShot(0, slip)
    qtbot.waitUntil(bench.warning.isVisible, timeout=5000)
    assert "ZeroDivisionError: by nought" in bench.warning.words.text()
    assert "“bench log.txt” beside the notebook" in bench.warning.words.text()
    assert bench.jot.edit.text() == "a line half written"
    log = log_path(bench.bench.notebook.path).read_text()
    assert "in slip" in log
    assert "by nought" in log


def test_an_error_in_a_thread_or_in_long_work_is_not_swallowed(qtbot, bench, unforeseen):
    said, failed = [], []
    unforeseen.happened.connect(said.append)
    thread = threading.Thread(target=lambda: 1 / 0)
    thread.start()
    thread.join()
    qtbot.waitUntil(lambda: len(said) == 1, timeout=5000)
    work = Work(bench)
    work.failed.connect(failed.append)
    work.start(lambda _: {}["gone"])
    qtbot.waitUntil(lambda: len(said) == 2, timeout=5000)
    assert "KeyError" in said[1]
    assert failed == ["This could not be worked out: an error that was not foreseen."]
    work.finish()
    assert log_path(bench.bench.notebook.path).read_text().count("Traceback") == 2


def test_a_log_that_cannot_be_written_is_said_too(notebook, unforeseen, monkeypatch):
    said = []
    unforeseen.happened.connect(said.append)
    monkeypatch.setattr(sys, "__excepthook__", lambda *_: None)
    log_path(notebook.path).mkdir()
    sys.excepthook(ValueError, ValueError("x"), None)
    assert said[0].endswith("how it came could not be kept.")


def test_a_job_that_cannot_all_be_read_is_shown_and_only_read(qtbot, show, notebook, pack):
    open_job(notebook, pack)
    open_job(notebook, pack, "job2")
    note = notebook.write("job2", NoteWritten(text="x"))
    notebook.close()
    newer = '{"kind":"note","version":9}'
    with sqlite3.connect(notebook.path) as raw:
        raw.execute("update entries set body = ? where number = ?", (newer, note.number))
    raw.close()
    window = show(Notebook(notebook.path, "x", notebook.clock))
    window.bench.voice.understood()
    window.shelf.job.emit("job2")
    assert window.bench.in_hand.job.id == "job2"
    said = f"Entry {note.number} of this job cannot be read by this version of Candor"
    assert said in window.warning.words.text()
    window.jot.edit.setText("note lost?")
    qtbot.keyClick(window.jot.edit, Qt.Key.Key_Return)
    assert window.jot.message.text().startswith(said)
    assert window.jot.edit.text() == "note lost?"
    window.enter_room("entries")
    entries = window.rooms["entries"]
    assert newer in entries.list.item(entries.list.count() - 1).data(Qt.ItemDataRole.UserRole).text
    window.shelf.job.emit("job1")
    assert window.bench.writer.write(NoteWritten(text="all others go on"))


def test_what_a_newer_window_writes_is_shown_and_closes_nothing_else(show, notebook, pack):
    open_job(notebook, pack)
    open_job(notebook, pack, "job2")
    window = show(notebook)
    window.shelf.job.emit("job1")
    other = Notebook(notebook.path, "other", notebook.clock)
    note = other.write("job1", NoteWritten(text="x"))
    other.close()
    with sqlite3.connect(notebook.path) as raw:
        raw.execute(
            "update entries set kind = 'hologram', body = '{\"kind\":\"hologram\"}' where number = ?", (note.number,)
        )
    raw.close()
    window.bench.tick()
    assert window.bench.in_hand.job.unreadable[0].number == note.number
    assert "nothing is written in it" in window.warning.words.text()
    assert not window.bench.writer.write(NoteWritten(text="lost?"))
    window.shelf.job.emit("job2")
    assert window.bench.writer.write(NoteWritten(text="goes on"))


def test_ink_that_was_changed_is_warned_of_and_stands_on_the_certificate(show, notebook, pack):
    open_job(notebook, pack)
    note = notebook.write("job1", NoteWritten(text="as it was"))
    with sqlite3.connect(notebook.path) as raw:
        raw.execute("update entries set body = replace(body, 'was', 'is') where number = ?", (note.number,))
    raw.close()
    window = show(notebook)
    assert f"Entry {note.number} of this job is not as written" in window.warning.words.text()
    record = window.release.certificate().record
    assert record.remarks[0].entry == note.number
    assert "not as written" in record.remarks[0].text


def test_a_notebook_that_others_hold_never_stops_the_window(show, notebook, pack, clock):
    open_job(notebook, pack)
    quick = Notebook(notebook.path, "x", clock)
    quick.do_not_wait()
    window = show(quick)
    other = sqlite3.connect(notebook.path, isolation_level=None)
    other.execute("begin exclusive")
    begun = time.monotonic()
    for _ in range(20):
        window.bench.tick()
    for _ in range(10):
        assert not window.bench.writer.write(NoteWritten(text="lost?"))
    assert time.monotonic() - begun < 1.5  # with a wait of its own each of the thirty would take seconds
    assert "in use by another program. The entry was not written" in window.jot.message.text()
    other.execute("rollback")
    other.close()
    assert window.bench.writer.write(NoteWritten(text="kept"))
    quick.close()


@pytest.mark.parametrize("line", ["spent 0", "spent 0 min", "temp 231", "rh 300", "line 0"])
def test_what_cannot_be_written_is_a_question_and_stays_on_the_line(qtbot, bench, line):
    before = len(bench.bench.in_hand.job.entries)
    bench.jot.edit.setText(line)
    qtbot.keyClick(bench.jot.edit, Qt.Key.Key_Return)
    assert "expected" in bench.jot.chips.itemAt(0).widget().text().lower()
    assert (len(bench.bench.in_hand.job.entries), bench.jot.edit.text()) == (before, line)


def test_what_looks_like_markup_is_shown_as_it_stands(bench):
    """Tooltips guess: a name or a finding in angle brackets must not become a picture or a link."""
    bad = "<img src='/etc/hostname'> & <b>bold</b>"
    bench.bench.voice.say(bad)
    tip = bench.jot.message.toolTip()
    assert "<img" not in tip
    assert "&lt;img src=" in tip
    assert bench.jot.message.textFormat() == Qt.TextFormat.PlainText
    bench.route.caution.say(bad)
    assert "<img" not in bench.route.caution.toolTip()
    assert plain_tip("a plain one") == "a plain one"


def test_a_photo_whose_name_leads_elsewhere_is_not_looked_for(bench, tmp_path):
    strip = bench.arrive.photos
    strip.show_photos(tmp_path, ("../../etc/passwd", "/etc/passwd", ".hidden.png"))
    assert strip._shown == ()
    strip.show_photos(tmp_path, ("0123456789abcdef0123456789abcdef.png",))
    assert [p.parent for p in strip._shown] == [tmp_path]
    strip.finish()


def test_a_run_of_another_window_is_left_alone_and_mended_once_nobody_holds_it(show, notebook, pack):
    """Asked again each second, also when the crash comes while this window is open."""
    open_job(notebook, pack)
    notebook.write(
        "job1",
        RunStarted(ref="C7", mode="leakage", target_volts=280, dwell_s=60, limit=1e-3, most_s=900, file="c.csv"),
    )
    held = hold(notebook.run_folder / "c.csv")
    window = show(notebook)
    window.bench.tick()
    assert (window.warning.isVisible(), window.bench.in_hand.job.runs.runs[0].ended) == (False, None)
    held.close()  # as when its program dies
    window.bench.tick()
    assert "cut off before a reading was kept; nothing was read. Its source may be on" in window.warning.words.text()
    assert window.bench.in_hand.job.runs.runs[0].ended.body.measured_volts is None
    window.bench.tick()
    assert len(window.bench.in_hand.job.runs.runs) == 1
    assert len(window.bench.voice.warnings) == 1
