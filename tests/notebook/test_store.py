"""The store: nothing shown is lost, nothing foreign is touched, two windows do not hurt each other."""

import hashlib
import os
import signal
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest
import sqlalchemy as sa

from candor.notebook.entries import NoteWritten, Struck, Unstruck, read_body
from candor.notebook.errors import (
    DamagedNotebookError,
    DiskFullError,
    ForeignFileError,
    NewerNotebookError,
    NotebookError,
    ReadOnlyNotebookError,
)
from candor.notebook.job import fold
from candor.notebook.schema import metadata
from candor.notebook.shelf import shelf
from candor.notebook.store import Notebook, Place
from workbench import open_job, point_steps, reading

SRC = Path(__file__).parents[2] / "src"

WRITER = """
import sys
from pathlib import Path
from candor.notebook.entries import NoteWritten
from candor.notebook.store import Notebook
notebook = Notebook(Path(sys.argv[1]), sys.argv[2])
for number in range(int(sys.argv[3])):
    entry = notebook.append("job", NoteWritten(text=f"{sys.argv[2]} {number}"))
    print(entry.number, entry.body.text, flush=True)
"""


def digest(path: Path) -> str:
    return hashlib.sha256(path.read_bytes()).hexdigest()


def writer(path: Path, name: str, count: int) -> subprocess.Popen:
    environment = {**os.environ, "PYTHONPATH": str(SRC)}
    command = [sys.executable, "-c", WRITER, str(path), name, str(count)]
    return subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=environment)


def test_what_is_written_is_read_back(notebook, pack):
    standard = open_job(notebook, pack)
    entry = notebook.append("job1", reading(point_steps(pack)[0], standard))
    again = Notebook(notebook.path, "other")
    assert again.entries_of("job1")[-1] == entry
    assert again.pack(pack.digest) == pack
    again.close()


def test_killed_in_the_middle_of_a_burst_nothing_shown_is_lost(tmp_path):
    """A real process, killed without warning while it writes: every entry it showed is in the notebook."""
    path = tmp_path / "burst.candor"
    process = writer(path, "burst", 100_000)
    shown = [process.stdout.readline().split(maxsplit=1) for _ in range(60)]
    process.send_signal(signal.SIGKILL)
    shown += [line.split(maxsplit=1) for line in process.stdout.read().splitlines() if line.count(" ") == 2]
    process.wait()
    process.stdout.close()
    notebook = Notebook(path, "after")
    kept = {entry.number: entry.body.text for entry in notebook.entries_of("job")}
    assert len(shown) >= 60
    assert all(kept[int(number)] == text.strip() for number, text in shown)
    notebook.append("job", NoteWritten(text="goes on"))
    notebook.close()


def test_two_windows_write_at_once(tmp_path):
    """Both may write: all entries are there, numbered without a gap or a twin, each writer's in order."""
    path = tmp_path / "two.candor"
    Notebook(path, "first").close()
    processes = [writer(path, name, 40) for name in ("left", "right")]
    for process in processes:
        assert process.communicate(timeout=60)[1] is None
        assert process.returncode == 0
    notebook = Notebook(path, "reader")
    entries = notebook.entries_of("job")
    assert [e.number for e in entries] == list(range(1, 81))
    for name in ("left", "right"):
        assert [e.body.text for e in entries if e.who == name] == [f"{name} {i}" for i in range(40)]
    notebook.close()


@pytest.mark.parametrize("content", [b"", b"just a text file\n", b"SQLite format 2\x00" + b"x" * 200])
def test_a_foreign_file_is_refused_and_left_untouched(tmp_path, content):
    path = tmp_path / "foreign.candor"
    path.write_bytes(content)
    with pytest.raises(ForeignFileError, match=r"is not a Candor notebook. It was left untouched"):
        Notebook(path, "x")
    assert path.read_bytes() == content


def test_another_database_is_refused(tmp_path):
    path = tmp_path / "other.db"
    with sqlite3.connect(path) as other:
        other.execute("create table recipes (name text)")
    other.close()
    before = digest(path)
    with pytest.raises(ForeignFileError, match="is a database, but not a Candor notebook"):
        Notebook(path, "x")
    assert digest(path) == before


@pytest.mark.parametrize("cut", [0.5, 0.02])
def test_a_damaged_notebook_is_refused_and_left_untouched(notebook, cut):
    for number in range(200):
        notebook.append("job", NoteWritten(text=f"entry {number} " + "x" * 300))
    notebook.close()
    content = bytearray(notebook.path.read_bytes())
    start = max(int(len(content) * cut), 120)
    content[start : start + 9000] = b"\xa5" * 9000
    notebook.path.write_bytes(content)
    before = digest(notebook.path)
    with pytest.raises((DamagedNotebookError, ForeignFileError), match="left untouched"):
        Notebook(notebook.path, "x")
    assert digest(notebook.path) == before


def test_a_newer_notebook_is_refused_and_left_untouched(notebook):
    notebook.close()
    with sqlite3.connect(notebook.path) as raw:
        raw.execute("update alembic_version set version_num = '9999'")
    raw.close()
    before = digest(notebook.path)
    with pytest.raises(
        NewerNotebookError, match=r"written by a newer Candor \(form 9999; this one knows up to 0001\)"
    ):
        Notebook(notebook.path, "x")
    assert digest(notebook.path) == before


def test_a_write_protected_notebook_can_be_read_only(notebook):
    notebook.append("job", NoteWritten(text="kept"))
    notebook.close()
    notebook.path.chmod(0o444)
    protected = Notebook(notebook.path, "x")
    assert protected.read_only == "the file is write-protected"
    assert protected.entries_of("job")[0].body.text == "kept"
    with pytest.raises(ReadOnlyNotebookError, match="because the file is write-protected"):
        protected.append("job", NoteWritten(text="lost?"))
    protected.keep_place(Place("job", "arrive", ""))
    protected.close()


def test_a_full_disk_loses_nothing(notebook):
    """SQLite's own limit on pages stands in for the disk: the answer it gives is the same."""
    notebook.append("job", NoteWritten(text="before"))
    with notebook._engine.connect() as connection:
        pages = connection.exec_driver_sql("pragma page_count").scalar()
        connection.exec_driver_sql(f"pragma max_page_count = {pages}")
    with pytest.raises(DiskFullError, match=r"The disk is full\. The entry was not written"):
        notebook.append("job", NoteWritten(text="x" * 50_000))
    assert [e.body.text for e in notebook.entries_of("job")] == ["before"]
    with notebook._engine.connect() as connection:
        connection.exec_driver_sql("pragma max_page_count = 1000000")
    assert notebook.append("job", NoteWritten(text="after")).number == 2


def test_several_entries_are_written_all_or_none(notebook):
    with pytest.raises(sa.exc.NoResultFound):
        notebook.append_many("job", [NoteWritten(text="first"), Struck(target="nothing of that name")])
    assert notebook.entries_of("job") == ()


def test_a_place_that_cannot_be_made(tmp_path):
    (tmp_path / "file").write_text("in the way")
    with pytest.raises(NotebookError, match="No notebook can be made at"):
        Notebook(tmp_path / "file" / "x.candor", "x")


def test_migration_makes_the_schema_the_code_expects(notebook):
    """Column by column, so that schema.py and the migrations cannot drift apart."""
    inspector = sa.inspect(notebook._engine)
    for table in metadata.sorted_tables:
        found = {c["name"]: str(c["type"]) for c in inspector.get_columns(table.name)}
        assert found == {c.name: str(c.type) for c in table.columns}
        assert {i["name"] for i in inspector.get_indexes(table.name)} == {i.name for i in table.indexes}


def test_older_entries_are_upgraded_when_read_and_newer_ones_refused():
    from candor.notebook.entries import UnreadableEntryError

    old = '{"kind": "note", "version": 0, "words": "from long ago"}'
    upgrades = {("note", 0): lambda raw: {"kind": "note", "version": 1, "text": raw["words"]}}
    assert read_body(old, 7, upgrades) == NoteWritten(text="from long ago")
    with pytest.raises(UnreadableEntryError, match="Entry 7 cannot be read by this version"):
        read_body('{"kind": "hologram", "version": 3}', 7)


def test_places_are_kept_and_the_last_one_comes_first(notebook, clock):
    notebook.keep_place(Place("a", "arrive", ""))
    clock.advance(minutes=1)
    notebook.keep_place(Place("b", "calibrate", "plus:as-found:dc+/150/75"))
    clock.advance(minutes=1)
    notebook.keep_place(Place("a", "release", "x"))
    assert [p.job for p in notebook.places()] == ["a", "b"]
    assert notebook.place("b") == Place("b", "calibrate", "plus:as-found:dc+/150/75")
    assert notebook.place("c") is None


def test_striking_an_opened_job_takes_it_off_the_shelf(notebook, pack, clock):
    """A strike matters on the shelf where its target does, decided when it is written."""
    open_job(notebook, pack)
    opened = notebook.entries_of("job1")[0]
    notebook.append("job1", Struck(target=opened.id))
    assert shelf(notebook, clock()) == ()
    notebook.append("job1", Unstruck(target=opened.id))
    assert [line.name for line in shelf(notebook, clock())] == ["Tarnholm VM-6"]
    assert fold("job1", notebook.entries_of("job1")).serial == "123"
