"""What warns stays; what nobody thought of is said and kept; what cannot be read or is held by others closes nothing else."""

import sqlite3
import time

import pytest
from PySide6.QtCore import Qt

from candor.notebook.entries.runs_entries import RunEnded, RunStarted
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.runs.run_files import hold
from candor.notebook.store import Notebook
from desk import LEFT
from workbench import open_job, put


def left_unsafe(notebook, job="job1", volts=231.0, safe=False):
    hold(notebook.run_folder / "c.csv").close()
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
    said = f"This version of Candor cannot read entry {note.number} of this job"
    assert said in window.warning.words.text()
    window.jot.edit.setText("note lost?")
    qtbot.keyClick(window.jot.edit, Qt.Key.Key_Return)
    assert window.jot.message.text().startswith(said)
    assert window.jot.edit.text() == "note lost?"
    window.enter_room("entries")
    entries = window.rooms["entries"]
    assert newer in entries.list.row(entries.list.count() - 1).text
    window.shelf.job.emit("job1")
    assert put(window.bench.writer, NoteWritten(text="all others go on"))


def test_a_job_whose_opening_cannot_be_read_shows_its_entries(show, notebook, pack):
    open_job(notebook, pack)
    open_job(notebook, pack, "job2")
    opened = notebook.entries_of("job2")[0]
    notebook.close()
    with sqlite3.connect(notebook.path) as raw:
        newer = '{"kind":"job_opened","version":9,"maker":"X"}'
        raw.execute("update entries set body = ? where number = ?", (newer, opened.number))
    raw.close()
    window = show(Notebook(notebook.path, "x", notebook.clock))
    window.shelf.job.emit("job2")
    assert window.bench.in_hand.job.id == "job2"
    entries = window.rooms["entries"]
    assert window.work.currentWidget() is entries
    assert newer in entries.list.row(0).text
    for walk in (lambda: window.go_to_stop("calibrate"), window.toggle_arms_length, window.bench.tick):
        walk()
        assert window.work.currentWidget() is entries
    assert not put(window.bench.writer, NoteWritten(text="lost?"))
    window.shelf.job.emit("job1")
    assert window.bench.place.stops[-1] == "release"


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
    assert "nothing can be written in it" in window.warning.words.text()
    assert not put(window.bench.writer, NoteWritten(text="lost?"))
    window.shelf.job.emit("job2")
    assert put(window.bench.writer, NoteWritten(text="goes on"))


def test_what_a_newer_version_wrote_for_the_shop_is_warned_of_and_all_else_works(show, notebook, pack):
    open_job(notebook, pack)
    note = notebook.write("", NoteWritten(text="x"))
    with sqlite3.connect(notebook.path) as raw:
        raw.execute(
            "update entries set kind = 'hologram', body = '{\"kind\":\"hologram\"}' where number = ?", (note.number,)
        )
    raw.close()
    window = show(notebook)
    assert f"cannot read entry {note.number}, of the shop" in window.warning.words.text()
    assert put(window.bench.writer, NoteWritten(text="goes on"))


def test_ink_that_was_changed_is_warned_of_and_stands_on_the_certificate(show, notebook, pack):
    open_job(notebook, pack)
    note = notebook.write("job1", NoteWritten(text="as it was"))
    with sqlite3.connect(notebook.path) as raw:
        raw.execute("update entries set body = replace(body, 'was', 'is') where number = ?", (note.number,))
    raw.close()
    window = show(notebook)
    assert f"Entry {note.number} of this job is not as written" in window.warning.words.text()
    record = window.release.to_print().record
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
        assert not put(window.bench.writer, NoteWritten(text="lost?"))
    assert time.monotonic() - begun < 1.5  # with a wait of its own each of the thirty would take seconds
    assert "in use by another program. The entry was not written" in window.jot.message.text()
    other.execute("rollback")
    other.close()
    assert put(window.bench.writer, NoteWritten(text="kept"))
    window.close_now()  # a window that still ticks would ask a closed notebook
    quick.close()


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
