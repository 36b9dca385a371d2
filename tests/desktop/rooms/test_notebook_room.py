"""The room of the notebook: checked, proved by a paper, backed up by itself and by hand, and a missed backup is said."""

import datetime as dt
import sqlite3
import sys

from PySide6.QtCore import QProcess, Qt
from PySide6.QtWidgets import QApplication

from candor.desktop.bench.keeper import TICKS
from candor.desktop.frame.file_names import keep_in, remember_notebook
from candor.desktop.frame.preferences import Preferences
from candor.desktop.frame.unforeseen import Unforeseen
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.storage.backup import back_up, backups, own_folder
from candor.notebook.storage.checking import check_notebook
from candor.notebook.store import Notebook
from desk import LEFT, row_titles
from workbench import PATIENCE_MS

JOB = "sb40188"


def test_it_is_checked_and_every_fault_listed(qtbot, show, demo):
    window = show(demo)
    window.enter_room("notebook")
    room = window.notebook
    qtbot.mouseClick(room.check, LEFT)
    qtbot.waitUntil(lambda: "no faults" in room.found.text(), timeout=PATIENCE_MS)
    assert not room.faults.isVisible()
    next(demo.photo_folder.iterdir()).unlink()
    with sqlite3.connect(demo.path) as raw:
        raw.execute("delete from entries where number = 40")
    raw.close()
    qtbot.mouseClick(room.check, LEFT)
    qtbot.waitUntil(lambda: room.faults.count() >= 3, timeout=PATIENCE_MS)
    assert "Entry 40 is gone" in room.faults.item(0).text()


def test_the_words_of_a_paper_are_looked_for(qtbot, show, demo):
    window = show(demo)
    window.enter_room("notebook")
    room, words = window.notebook, demo.head_words(JOB)
    room.words.setFocus()
    qtbot.keyClicks(room.words, words)
    qtbot.keyClick(room.words, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: f"(job {JOB})" in room.proof.text(), timeout=PATIENCE_MS)
    room.words.setText(words.replace(words.split()[0], "zoo", 1))
    room.prove()
    qtbot.waitUntil(lambda: "No entry has these words" in room.proof.text(), timeout=PATIENCE_MS)
    room.words.setText("zoo")
    room.prove()
    qtbot.waitUntil(lambda: "the eight words" in window.jot.message.text(), timeout=PATIENCE_MS)


def test_it_is_backed_up_by_itself_once_a_day_and_where_it_is_said(qtbot, show, demo, tmp_path):
    window, stick = show(demo), tmp_path / "stick"
    own, keeper = own_folder(demo.path), window.bench.keeper
    stick.mkdir()
    window.enter_room("notebook")
    room = window.notebook
    assert "None yet in" in room.state.text()
    for _ in range(TICKS):
        keeper.tick()
    qtbot.waitUntil(lambda: len(backups(demo.path, own)) == 1 and not keeper.running, timeout=PATIENCE_MS)
    for _ in range(TICKS + 1):
        keeper.tick()
    assert not keeper.running  # one a day
    room.to.setFocus()
    qtbot.keyClicks(room.to, str(stick))
    qtbot.keyClick(room.to, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: len(backups(demo.path, stick)) == 1 and not keeper.running, timeout=PATIENCE_MS)
    assert check_notebook(backups(demo.path, stick)[0].path).entries > 100
    assert window.shelf.missed.text() == ""


def test_a_missed_backup_is_said_on_the_shelf(qtbot, show, demo, tmp_path):
    place = tmp_path / "media" / "stick"
    place.mkdir(parents=True)
    window = show(demo)
    window.enter_room("notebook")
    room, keeper = window.notebook, window.bench.keeper
    room.to.setText(str(place))
    room.to.setModified(True)
    room._write_folder()
    qtbot.waitUntil(lambda: len(backups(demo.path, place)) == 1 and not keeper.running, timeout=PATIENCE_MS)
    (tmp_path / "media").rename(tmp_path / "drawer")
    qtbot.mouseClick(room.back_up, LEFT)
    qtbot.waitUntil(lambda: window.shelf.missed.isVisible(), timeout=PATIENCE_MS)
    assert "No backup yet in" in window.shelf.missed.text()
    assert "is not there" in window.shelf.missed.text()
    assert "is not there" in room.state.text()
    (tmp_path / "drawer").rename(tmp_path / "media")
    qtbot.mouseClick(room.back_up, LEFT)
    qtbot.waitUntil(lambda: not window.shelf.missed.isVisible(), timeout=PATIENCE_MS)


def test_two_days_without_one_are_said(show, demo):
    window = show(demo)
    keeper, own = window.bench.keeper, own_folder(demo.path)
    assert keeper.missed_words() == ""
    made = back_up(demo.path, own, demo.clock() - dt.timedelta(days=3))
    assert keeper.missed_words().startswith(f"No backup since {made.backup.at.astimezone():%d %b %Y}")
    back_up(demo.path, own, demo.clock() - dt.timedelta(days=1))
    assert keeper.missed_words() == ""


def test_a_backup_is_put_back_beside_and_opens(qtbot, show, demo, tmp_path):
    window = show(demo)
    window.enter_room("notebook")
    window.notebook.back_up.click()
    qtbot.waitUntil(lambda: not window.bench.keeper.running, timeout=PATIENCE_MS)
    made = backups(demo.path, own_folder(demo.path))[0].path
    target = tmp_path / "again" / "n.candor"
    window.notebook.put_back(made, target)
    qtbot.waitUntil(lambda: "Restored to" in window.jot.message.text(), timeout=PATIENCE_MS)
    assert check_notebook(target).faults == ()
    window.notebook.put_back(made, target)
    qtbot.waitUntil(lambda: "exists already" in window.jot.message.text(), timeout=PATIENCE_MS)


def test_without_a_file_the_job_goes_on_with_a_reason(qtbot, show, demo):
    photo = next(demo.photo_folder.iterdir())
    photo.unlink()
    window = show(demo)
    closed = next(
        line.job for line in window.bench.shelf.lines if demo.faults_of(line.job, demo.entries_of(line.job))
    )
    window.bench.open_job(closed)
    window.enter_room("notebook")
    room = window.notebook
    qtbot.waitUntil(lambda: room.without.isVisible(), timeout=PATIENCE_MS)
    assert photo.name[:8] in room.gone.text()
    room.without.click()
    assert "Say why" in window.jot.message.text()
    room.reason.setText("the stick broke")
    room.without.click()
    qtbot.waitUntil(lambda: not room.without.isVisible(), timeout=PATIENCE_MS)
    assert demo.write(closed, NoteWritten(text="on"))


def test_another_notebook_opens_in_a_window_of_its_own_and_a_new_one_is_made(
    qtbot, show, demo, tmp_path, monkeypatch
):
    started = []
    monkeypatch.setattr(QProcess, "startDetached", lambda *command: started.append(command) or True)
    window = show(demo)
    window.enter_room("notebook")
    others = window.notebook.others
    others.make(tmp_path / "second")
    path = tmp_path / "second.candor"
    assert Notebook(path, "me", "look").entries_of("") == ()
    others.show_notebook(path)
    assert started == 2 * [(sys.executable, ["-m", "candor", "open", str(path)])]
    others.make(path)
    assert "is there already" in window.jot.message.text()
    others.show_notebook(demo.path)
    assert "is the notebook of this window" in window.jot.message.text()
    assert len(started) == 2
    monkeypatch.setattr(QProcess, "startDetached", lambda *_: False)
    others.show_notebook(path)
    assert "could not start" in window.jot.message.text()


def test_the_notebooks_that_were_open_are_offered_the_newest_first(show, demo, tmp_path, monkeypatch):
    monkeypatch.setattr("tempfile.gettempdir", lambda: str(tmp_path / "cleared"))
    kept = Preferences(path=tmp_path / "look.json")
    keep_in(kept)
    for name in ("one", "two", "gone"):
        Notebook(tmp_path / f"{name}.candor", "me").close()
        remember_notebook(tmp_path / f"{name}.candor")
    remember_notebook(tmp_path / "one.candor")
    remember_notebook(demo.path)
    remember_notebook(tmp_path / "cleared" / "demo.candor")
    (tmp_path / "gone.candor").unlink()
    window = show(demo)
    keep_in(Preferences.load(kept.path))  # as the next start reads it
    window.enter_room("notebook")
    assert row_titles(window.notebook.others.recent) == ["one", "two"]


def test_a_report_of_what_went_wrong_is_looked_at_copied_and_saved_and_holds_no_work(qtbot, show, demo, tmp_path):
    window = show(demo)
    window.enter_room("notebook")
    panel = window.notebook.trouble
    assert panel.state.text() == "Nothing went wrong that was not foreseen."
    caught = Unforeseen(demo)
    caught.note("the window was blocked for 300 ms at shelf.py:41")
    caught.take_away()
    window.enter_room("notebook")
    assert "log.txt" in panel.state.text()
    qtbot.mouseClick(panel.look, LEFT)
    assert "blocked for 300 ms" in panel.text.toPlainText()
    panel.keep(tmp_path / "report.txt")
    report = (tmp_path / "report.txt").read_text("utf-8")
    assert report == panel.text.toPlainText()
    assert "Python " in report and "jobs, " in report
    names = {e.body.text for e in demo.entries_of(JOB) if hasattr(e.body, "text")}
    assert not [name for name in names if len(name) > 5 and name in report]
    qtbot.mouseClick(panel.copy, LEFT)
    assert QApplication.clipboard().text() == report
    panel.keep(tmp_path / "no folder" / "report.txt")
    assert "could not be written" in window.jot.message.text()
