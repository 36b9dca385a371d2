"""The room of the notebook: checked, proved by a paper, backed up by itself and by hand, and a missed backup is said."""

import datetime as dt
import sqlite3

from PySide6.QtCore import Qt

from candor.desktop.bench.keeper import TICKS
from candor.notebook.entries.stay import NoteWritten
from candor.notebook.storage.backup import back_up, backups, own_folder
from candor.notebook.storage.checking import check_notebook
from desk import LEFT
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
    qtbot.waitUntil(lambda: "is there already" in window.jot.message.text(), timeout=PATIENCE_MS)


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
