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

from candor.notebook.assessment import standards
from candor.notebook.chain import chained
from candor.notebook.checking import check_notebook
from candor.notebook.entries import NoteWritten, Struck, UnreadableEntryError, Unstruck, read_body
from candor.notebook.errors import (
    BusyNotebookError,
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


def test_every_commit_is_on_the_disk_with_its_folder(notebook):
    """SQLite's synchronous = EXTRA (3): the journal's folder is synced too, so that no entry is lost to a pulled plug."""
    with notebook._engine.connect() as connection:
        assert connection.exec_driver_sql("pragma synchronous").scalar() == 3
        assert connection.exec_driver_sql("pragma journal_mode").scalar() == "delete"


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


@pytest.mark.parametrize("content", [b"just a text file\n", b"SQLite format 2\x00" + b"x" * 200])
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
        NewerNotebookError, match=r"written by a newer Candor \(form 9999; this one knows up to 0002\)"
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


def test_several_jobs_are_written_together_or_not_at_all(notebook, pack):
    """One transaction for all of it; what is read inside sees it, another window only when it is whole."""
    other = Notebook(notebook.path, "other")
    with notebook.together():
        first = notebook.append("job", NoteWritten(text="one"))
        notebook.append("shop", NoteWritten(text="two"))
        notebook.append("job", Struck(target=first.id))
        digest_of_pack = notebook.keep_pack(pack)
        assert len(notebook.entries_of("job")) == 2
        assert other.newest() == 0
    assert [len(other.entries_of(job)) for job in ("job", "shop")] == [2, 1]
    assert (other.broken_links("job"), other.pack(digest_of_pack).id) == ((), pack.id)
    with pytest.raises(ZeroDivisionError), notebook.together():
        notebook.append("job", NoteWritten(text="lost with the rest"))
        raise ZeroDivisionError
    assert other.newest() == 3
    notebook.append("job", NoteWritten(text="goes on"))
    assert other.broken_links("job") == ()
    other.close()


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


# --- crashes and others -----------------------------------------------------------------------------------------------

HOT = """
import os, sqlite3, sys
raw = sqlite3.connect(sys.argv[1], isolation_level=None)
raw.execute("pragma cache_size = 1")  # what is changed goes into the file before the commit
raw.execute("begin immediate")
raw.execute("update entries set body = 'half written'")
os.kill(os.getpid(), 9)
"""


def test_a_notebook_left_half_written_by_a_crash_recovers(notebook):
    """A hot journal beside the file: what was not finished is rolled back, and nothing is called damaged."""
    for number in range(60):
        notebook.append("job", NoteWritten(text=f"{number} " + "x" * 2000))
    notebook.close()
    before = notebook.path.read_bytes()
    subprocess.run([sys.executable, "-c", HOT, str(notebook.path)], check=False)
    journal = Path(f"{notebook.path}-journal")
    assert journal.stat().st_size > 0
    assert notebook.path.read_bytes() != before
    notebook.path.chmod(0o444)
    with pytest.raises(NotebookError, match="was being written when its program ended, and cannot be mended because"):
        Notebook(notebook.path, "x")
    notebook.path.chmod(0o600)
    again = Notebook(notebook.path, "x")
    assert [e.body.text.split()[0] for e in again.entries_of("job")] == [str(n) for n in range(60)]
    again.append("job", NoteWritten(text="goes on"))
    again.close()
    assert not journal.exists() or journal.stat().st_size == 0


def test_an_empty_file_may_become_a_notebook(tmp_path):
    path = tmp_path / "empty.candor"
    path.touch()
    made = Notebook(path, "x")
    made.append("job", NoteWritten(text="first"))
    made.close()
    assert [p.name for p in tmp_path.iterdir()] == ["empty.candor"]
    again = Notebook(path, "x")
    assert again.entries_of("job")[0].body.text == "first"
    again.close()


def test_cut_off_while_it_is_made_nothing_stands_in_the_way(tmp_path, monkeypatch):
    path = tmp_path / "new.candor"

    def cut(*_):
        raise KeyboardInterrupt

    with monkeypatch.context() as patch:
        patch.setattr("candor.notebook.opening._migrate", cut)
        with pytest.raises(KeyboardInterrupt):
            Notebook(path, "x")
    assert not path.exists()
    Notebook(path, "x").close()
    assert path.exists()


@pytest.mark.parametrize("empty", [False, True])
def test_made_by_several_at_once_nobodys_entries_are_lost(tmp_path, empty):
    path = tmp_path / "shared.candor"
    if empty:
        path.touch()
    processes = [writer(path, name, 5) for name in ("a", "b", "c", "d")]
    for process in processes:
        process.communicate(timeout=60)
        assert process.returncode == 0
    notebook = Notebook(path, "x")
    assert len(notebook.entries_of("job")) == 20
    notebook.close()
    assert [p.name for p in tmp_path.iterdir()] == ["shared.candor"]


def test_a_notebook_is_never_renamed_over_another(tmp_path):
    from candor.notebook.opening import _name

    (tmp_path / "mine").write_text("mine")
    (tmp_path / "theirs").write_text("theirs")
    _name(tmp_path / "mine", tmp_path / "theirs")
    assert (tmp_path / "theirs").read_text() == "theirs"


@pytest.mark.parametrize(("folder", "mode"), [(0o755, 0o600), (0o775, 0o660), (0o1777, 0o600), (0o777, 0o666)])
def test_a_notebook_is_its_owners_alone_unless_the_folder_is_shared(tmp_path, folder, mode):
    tmp_path.chmod(folder)
    old = os.umask(0)
    try:
        made = Notebook(tmp_path / "n.candor", "x")
        made.close()
        assert made.path.stat().st_mode & 0o777 == mode | (0o060 if folder == 0o1777 else 0)
    finally:
        os.umask(old)


def test_what_is_no_file_is_said(tmp_path):
    os.mkfifo(tmp_path / "pipe")
    (tmp_path / "folder").mkdir()
    with pytest.raises(ForeignFileError, match="no file but a device or a pipe"):
        Notebook(tmp_path / "pipe", "x")
    with pytest.raises(ForeignFileError, match="is a folder"):
        Notebook(tmp_path / "folder", "x")
    with pytest.raises(NotebookError, match="File name too long"):
        Notebook(tmp_path / ("n" * 300), "x")


def test_in_use_by_another_program_is_not_damaged(notebook):
    notebook.append("job", NoteWritten(text="kept"))
    notebook.close()
    other = sqlite3.connect(notebook.path, isolation_level=None)
    other.execute("begin exclusive")
    with pytest.raises(BusyNotebookError, match="is in use by another program"):
        Notebook(notebook.path, "x", patience_s=0.05)
    other.execute("rollback")
    hasty = Notebook(notebook.path, "x", patience_s=0.05)
    other.execute("begin exclusive")
    for what in (lambda: hasty.entries_of("job"), lambda: hasty.newest(patient=False)):
        with pytest.raises(BusyNotebookError, match="in use by another program"):
            what()
    with pytest.raises(BusyNotebookError, match=r"in use by another program. The entry was not written"):
        hasty.append("job", NoteWritten(text="lost?"))
    other.execute("rollback")
    other.close()
    assert hasty.newest() == 1
    hasty.close()


def test_an_index_that_hides_an_entry_is_found(notebook):
    """quick_check does not see it: the table and its index no longer say the same."""
    for number in range(3):
        notebook.append("job", NoteWritten(text=str(number)))
    notebook.close()
    index = "select type, name, tbl_name, rootpage, sql from sqlite_master where name = 'entries_of_job'"
    with sqlite3.connect(notebook.path) as raw:
        kept = raw.execute(index).fetchone()
        raw.execute("pragma writable_schema = on")
        raw.execute("delete from sqlite_master where name = 'entries_of_job'")
    raw.close()
    change(notebook.path, "update entries set job = 'elsewhere' where number = 2")  # behind the index's back
    with sqlite3.connect(notebook.path) as raw:
        raw.execute("pragma writable_schema = on")
        raw.execute("insert into sqlite_master values (?, ?, ?, ?, ?)", kept)
    raw.close()
    with pytest.raises(DamagedNotebookError, match="left untouched"):
        Notebook(notebook.path, "x")


# --- ink ----------------------------------------------------------------------------------------------------------------


def change(path, sql):
    with sqlite3.connect(path) as raw:
        raw.execute(sql)
    raw.close()


@pytest.mark.parametrize(
    ("sql", "numbers"),
    [
        ("update entries set body = replace(body, 'three', 'trees') where number = 3", (3,)),
        ("update entries set who = 'somebody' where number = 2", (2,)),
        ("update entries set at = '2020-01-01T00:00:00.000+00:00' where number = 4", (4,)),
        ("update entries set shelf = 1 where number = 4", (4,)),
        ("update entries set chain = 'ab' where number = 2", (2, 3)),
        ("delete from entries where number = 2", (3,)),
        ("update entries set job = 'other' where number = 2", (3,)),
    ],
)
def test_ink_that_is_changed_is_seen(notebook, sql, numbers):
    for word in ("one", "two", "three", "four"):
        notebook.append("job", NoteWritten(text=word))
    assert notebook.broken_links("job") == ()
    change(notebook.path, sql)
    assert notebook.broken_links("job") == numbers
    assert not check_notebook(notebook.path).faults[0].startswith("The shop")


def test_every_byte_of_an_entry_is_under_the_digest():
    """Fields cannot be moved into one another, and the link before counts."""
    whole = ("b", "id", "job", "note", "at", "who", False, "body")
    assert len({chained(*whole), chained("c", *whole[1:]), chained("b", "i", "djob", *whole[3:])}) == 3
    assert chained("", "id", "job", "note", "at", "wh", False, "obody") != chained("", *whole[1:])


def test_an_old_notebook_gains_the_chain_on_the_day_it_is_opened(notebook, pack):
    """As version 0001 left it: no column; every entry reads as before, and from then on a change is seen."""
    open_job(notebook, pack)
    for word in ("one", "two"):
        notebook.append("job1", NoteWritten(text=word))
    before = notebook.entries_of("job1")
    notebook.close()
    change(notebook.path, "alter table entries drop column chain")
    change(notebook.path, "update alembic_version set version_num = '0001'")
    again = Notebook(notebook.path, "x")
    assert again.entries_of("job1") == before
    assert again.broken_links("job1") == again.broken_links("") == ()
    again.append("job1", NoteWritten(text="three"))
    assert again.broken_links("job1") == ()
    again.close()
    change(notebook.path, "update entries set who = 'x' where number = 3")
    assert len(check_notebook(notebook.path).faults) == 1


def test_a_check_looks_at_packs_photos_and_certificates_too(demo):
    demo.close()
    assert check_notebook(demo.path).faults == ()
    photo = next(demo.photo_folder.iterdir())
    content = photo.read_bytes()
    photo.write_bytes(content[:-1] + b"x")
    certificate = next(demo.certificate_folder.iterdir())
    certificate.unlink()
    change(demo.path, "update packs set body = replace(body, 'needle', 'noodle')")
    change(demo.path, "update entries set body = replace(body, '\"version\":1', '\"version\":7') where number = 9")
    said = "\n".join(check_notebook(demo.path).faults)
    for words in (
        f"photo {photo.name} is not as it was kept",
        f"certificate {certificate.name} cannot be read (No such file",
        "Entry 9 cannot be read",
        "Entry 9 of this job is not as written",
        "The pack",
    ):
        assert words in said


# --- what cannot be read closes its own job only ------------------------------------------------------------------------


@pytest.mark.parametrize("body", ['{"kind":"hologram","version":1}', '{"kind":"note","version":9,"text":"x"}', "{"])
def test_one_entry_that_cannot_be_read_closes_its_own_job_only(notebook, pack, body):
    open_job(notebook, pack)
    open_job(notebook, pack, "job2")
    note = notebook.append("job2", NoteWritten(text="x"))
    shop = notebook.append("", NoteWritten(text="of the shop"))
    notebook.close()
    change(
        notebook.path, f"update entries set body = '{body}', shelf = 1 where number in ({note.number}, {shop.number})"
    )
    again = Notebook(notebook.path, "x")
    assert fold("job1", again.entries_of("job1")).serial
    with pytest.raises(UnreadableEntryError, match=f"Entry {note.number} cannot be read by this version"):
        again.entries_of("job2")
    lines = {line.job: line.text for line in shelf(again, again.clock())}
    assert lines["job2"] == "an entry cannot be read by this version"
    assert lines["job1"] != lines["job2"]
    assert standards(again)
    assert f"Entry {shop.number} cannot be read" in again.unreadable[shop.number]
    again.close()


def test_a_pack_that_cannot_be_read_is_said(notebook, pack):
    digest_of_pack = notebook.keep_pack(pack)
    notebook.close()
    change(notebook.path, "update packs set body = replace(body, '\"full_scale\":1.5', '\"full_scale\":Infinity')")
    again = Notebook(notebook.path, "x")
    with pytest.raises(NotebookError, match=r"The pack .* of this job cannot be read \(.*finite number"):
        again.pack(digest_of_pack)
    assert again.kept_packs() == ()
    again.close()
