"""Backups are whole, made while one works, and let go of by day and week; what is restored is what was written."""

import datetime as dt
import json
import shutil
import threading

import pytest
from typer.testing import CliRunner

from candor.cli import app
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.storage import backup as module
from candor.notebook.storage.backup import BackupError, back_up, backups, is_due, own_folder, restore
from candor.notebook.storage.checking import check_notebook
from candor.notebook.storage.looking import look_at
from candor.notebook.store import Notebook

NOON = dt.datetime(2026, 3, 2, 12, tzinfo=dt.UTC)


def test_a_backup_that_is_restored_is_the_notebook_with_all_its_files(demo, tmp_path):
    rows = look_at(demo.path).rows
    made = back_up(demo.path, own_folder(demo.path), NOON)  # it is open here
    assert (made.entries, made.faults) == (len(rows), ())
    demo.close()
    for path in tmp_path.glob("demo*"):
        if path.name != "demo backups":
            shutil.rmtree(path) if path.is_dir() else path.unlink()
    target = tmp_path / "elsewhere" / "again.candor"
    assert restore(made.backup.path, target) == len(rows)
    assert (check_notebook(target).faults, look_at(target).rows) == ((), rows)
    assert check_notebook(target).files == made.files > 3
    with pytest.raises(BackupError, match="exists already, and Candor overwrites nothing"):
        restore(made.backup.path, target)


def test_it_is_made_while_another_writes_and_holds_all_that_was_written_before(tmp_path):
    notebook = Notebook(tmp_path / "n.candor", "x")
    for number in range(200):
        notebook.write("job", NoteWritten(text=f"{number} " + "x" * 3000))
    done, written = threading.Event(), []

    def write() -> None:
        other = Notebook(tmp_path / "n.candor", "other")
        while not done.is_set():
            written.append(other.write("job", NoteWritten(text="meanwhile")).number)
        other.close()

    writer = threading.Thread(target=write)
    writer.start()
    try:
        made = back_up(notebook.path, tmp_path / "b", NOON)
    finally:
        done.set()
        writer.join()
    notebook.close()
    assert 200 <= made.entries <= 200 + len(written)
    assert check_notebook(made.backup.path).faults == ()


def test_a_file_that_was_changed_since_never_takes_the_place_of_the_one_kept(demo):
    folder = own_folder(demo.path)
    back_up(demo.path, folder, NOON)
    photo = next(demo.photo_folder.iterdir())
    content = photo.read_bytes()
    photo.write_bytes(b"another")
    made = back_up(demo.path, folder, NOON + dt.timedelta(hours=1))
    assert [(f.kind, f.name) for f in made.faults] == [("changed", photo.name)]
    assert (folder / "files" / "photos" / photo.name).read_bytes() == content


def test_seven_days_and_four_weeks_stay(tmp_path):
    notebook = Notebook(tmp_path / "n.candor", "x")
    notebook.write("job", NoteWritten(text="x"))
    folder = own_folder(notebook.path)
    assert is_due(notebook.path, folder, NOON)
    for day in range(60):
        for hour in (9, 15):
            back_up(notebook.path, folder, NOON.replace(hour=hour) + dt.timedelta(days=day))
    notebook.close()
    kept = [b.at for b in backups(notebook.path, folder)]
    last = NOON.date() + dt.timedelta(days=59)
    ages = [(last - at.date()).days for at in kept]
    assert ages[:7] == [0, 1, 2, 3, 4, 5, 6]
    assert {at.hour for at in kept} == {15}
    assert len({at.date().isocalendar()[:2] for at in kept}) == 4
    assert len(kept) <= 7 + 4
    assert not is_due(notebook.path, folder, kept[0] + dt.timedelta(hours=1))
    assert is_due(notebook.path, folder, kept[0] + dt.timedelta(days=1))


def test_what_cannot_be_made_leaves_older_ones_as_they_were(demo, tmp_path, monkeypatch):
    folder = tmp_path / "b"
    first = back_up(demo.path, folder, NOON).backup.path
    content = first.read_bytes()

    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(module, "_keep_files", full)
    with pytest.raises(BackupError, match="No space left on device"):
        back_up(demo.path, folder, NOON + dt.timedelta(days=1))
    assert [p.name for p in folder.iterdir() if p.name != "files"] == [first.name]
    assert first.read_bytes() == content
    assert back_up(demo.path, folder, NOON, should_stop=lambda: True) is None
    (tmp_path / "file").write_text("x")
    with pytest.raises(BackupError, match="No backup could be made"):
        back_up(demo.path, tmp_path / "file" / "b", NOON)


def test_the_command_line_backs_up_and_restores(demo, tmp_path):
    run = CliRunner()
    done = run.invoke(app, ["backup", str(demo.path), "--to", str(tmp_path / "stick"), "--json"])
    said = json.loads(done.stdout)
    assert said["faults"] == []
    done = run.invoke(app, ["restore", said["backup"], str(tmp_path / "new" / "n.candor")])
    assert done.exit_code == 0
    assert f"{said['entries']} entries" in done.stdout
    assert "no faults" in done.stdout
