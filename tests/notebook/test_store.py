"""The store: nothing shown is lost, nothing foreign is touched, two windows do not hurt each other."""

import datetime as dt
import gzip
import hashlib
import os
import signal
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest
from pydantic import ValidationError

from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.kinds_entries import in_words, read_body
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.entries.strikes_entries import Struck, Unstruck
from candor.notebook.notebook_errors import (
    BusyNotebookError,
    DamagedNotebookError,
    DiskFullError,
    ForeignFileError,
    NewerNotebookError,
    NotebookError,
    ReadOnlyNotebookError,
    UnreadableEntryError,
)
from candor.notebook.shelf import shelf
from candor.notebook.standards.standards import standards
from candor.notebook.storage.chain import chained
from candor.notebook.storage.checking import check_notebook
from candor.notebook.store import Notebook, Place
from candor.notebook.work.facts import facts_in_words
from candor.notebook.work.job import fold
from candor.words.faults import say_checked
from workbench import NOW, open_job, point_steps, reading

SRC = Path(__file__).parents[2] / "src"

WRITER = """
import sys
from pathlib import Path
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.store import Notebook
notebook = Notebook(Path(sys.argv[1]), sys.argv[2])
for number in range(int(sys.argv[3])):
    entry = notebook.write("job", NoteWritten(text=f"{sys.argv[2]} {number}"))
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
    entry = notebook.write("job1", reading(point_steps(pack)[0], standard))
    again = Notebook(notebook.path, "other")
    assert again.entries_of("job1")[-1] == entry
    assert again.pack(pack.digest) == pack
    again.close()


def test_every_commit_is_on_the_disk_with_its_folder(notebook):
    """SQLite's synchronous = EXTRA (3): the journal's folder is synced too, so that no entry is lost to a pulled plug."""
    connection = notebook.store._connection
    assert connection.execute("pragma synchronous").fetchone() == (3,)
    assert connection.execute("pragma journal_mode").fetchone() == ("delete",)


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
    notebook.write("job", NoteWritten(text="goes on"))
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
    with pytest.raises(ForeignFileError, match=r"is not a Candor notebook. Candor did not change it"):
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
        notebook.write("job", NoteWritten(text=f"entry {number} " + "x" * 300))
    notebook.close()
    content = bytearray(notebook.path.read_bytes())
    start = max(int(len(content) * cut), 120)
    content[start : start + 9000] = b"\xa5" * 9000
    notebook.path.write_bytes(content)
    before = digest(notebook.path)
    with pytest.raises((DamagedNotebookError, ForeignFileError), match="Candor did not change it"):
        Notebook(notebook.path, "x")
    assert digest(notebook.path) == before


def test_a_newer_notebook_is_refused_and_left_untouched(notebook):
    notebook.close()
    with sqlite3.connect(notebook.path) as raw:
        raw.execute("update alembic_version set version_num = '9999'")
    raw.close()
    before = digest(notebook.path)
    with pytest.raises(
        NewerNotebookError, match=r"written by a newer Candor \(form 9999; this one knows up to 0003\)"
    ):
        Notebook(notebook.path, "x")
    assert digest(notebook.path) == before


def test_a_write_protected_notebook_can_be_read_only(notebook):
    notebook.write("job", NoteWritten(text="kept"))
    notebook.close()
    notebook.path.chmod(0o444)
    protected = Notebook(notebook.path, "x")
    assert protected.read_only == "the file is write-protected"
    assert protected.entries_of("job")[0].body.text == "kept"
    with pytest.raises(ReadOnlyNotebookError, match="because the file is write-protected"):
        protected.write("job", NoteWritten(text="lost?"))
    protected.keep_place(Place("job", "arrive", ""))
    protected.close()


def test_a_full_disk_loses_nothing(notebook):
    """SQLite's own limit on pages stands in for the disk: the answer it gives is the same."""
    notebook.write("job", NoteWritten(text="before"))
    connection = notebook.store._connection
    pages = connection.execute("pragma page_count").fetchone()[0]
    connection.execute(f"pragma max_page_count = {pages}")
    with pytest.raises(DiskFullError, match=r"The disk is full\. The entry was not written"):
        notebook.write("job", NoteWritten(text="x" * 50_000))
    assert [e.body.text for e in notebook.entries_of("job")] == ["before"]
    connection.execute("pragma max_page_count = 1000000")
    assert notebook.write("job", NoteWritten(text="after")).number == 2


def test_several_jobs_are_written_together_or_not_at_all(notebook, monkeypatch):
    """One transaction for all of it, each entry with its own time, in a chain for each job; another window sees it whole."""
    other = Notebook(notebook.path, "other")
    seen = other.revision()
    first = Draft("job", NoteWritten(text="one"), NOW)
    drafts = [
        first,
        Draft("", NoteWritten(text="two")),
        Draft("job", Struck(target=first.id), NOW + dt.timedelta(hours=1)),
    ]
    written = notebook.append(drafts)
    assert [e.id for e in written] == [d.id for d in drafts]
    assert [e.at for e in other.entries_of("job")] == [NOW, NOW + dt.timedelta(hours=1)]
    assert [len(other.entries_of(job)) for job in ("job", "")] == [2, 1]
    assert other.broken_links("job") == other.broken_links("") == ()
    assert other.revision() != seen
    monkeypatch.setattr(
        "candor.notebook.storage.sqlite.chained", lambda _before, *row: None if row[1] == "bad" else "x"
    )
    with pytest.raises(NotebookError, match="NOT NULL"):
        notebook.append([Draft("good", NoteWritten(text="lost with the rest")), Draft("bad", NoteWritten(text="x"))])
    assert other.entries_of("good") == ()
    monkeypatch.undo()
    notebook.write("job", NoteWritten(text="goes on"))
    assert other.broken_links("job") == ()
    other.close()


def test_a_window_knows_when_others_have_written(notebook):
    """Not by numbers: they may have gaps, and on a server come out of order."""
    other = Notebook(notebook.path, "other")
    seen = notebook.revision()
    assert notebook.revision() == seen
    notebook.write("job", NoteWritten(text="mine"))
    assert (notebook.revision().own, notebook.revision().others) == (seen.own + 1, seen.others)
    other.write("job", NoteWritten(text="theirs"))
    assert notebook.revision().others != seen.others
    other.close()


def test_a_place_that_cannot_be_made(tmp_path):
    (tmp_path / "file").write_text("in the way")
    with pytest.raises(NotebookError, match="No notebook can be made at"):
        Notebook(tmp_path / "file" / "x.candor", "x")


def test_an_older_notebook_comes_to_the_form_a_new_one_has(tmp_path):
    """Column by column and index by index, so that schema.py and the migrations cannot drift apart."""
    Notebook(tmp_path / "new.candor", "x").close()
    old = tmp_path / "old.candor"
    old.write_bytes(gzip.decompress((Path(__file__).parents[1] / "data" / "notebook-0001.candor.gz").read_bytes()))
    Notebook(old, "x").close()

    def form(path):
        with sqlite3.connect(path) as raw:
            tables = [
                row[0] for row in raw.execute("select name from sqlite_master where type = 'table' order by name")
            ]
            columns = {
                table: [(name, kind.upper(), must, default, key) for _, name, kind, must, default, key in
                        raw.execute(f"pragma table_info({table})")]
                for table in tables
            }  # fmt: skip
            indexes = {
                name: [row[2] for row in raw.execute(f"pragma index_info({name})")]
                for table in tables
                for _, name, *_ in raw.execute(f"pragma index_list({table})")
            }
        raw.close()
        return columns, indexes

    assert form(old) == form(tmp_path / "new.candor")


def test_entries_are_found_by_their_kinds_through_the_index(notebook, pack):
    standard = open_job(notebook, pack)
    notebook.write("job1", reading(point_steps(pack)[0], standard))
    asked = []
    notebook.store._connection.set_trace_callback(asked.append)
    kinds = ("status", "job_opened", "standard")
    assert [e.body.kind for e in notebook.entries_of_kinds(kinds)] == ["standard", "job_opened"]
    assert [e.body.kind for e in notebook.entries_of_kinds(("reading",))] == ["reading"]
    assert notebook.unknown_kinds() == ()
    notebook.store._connection.set_trace_callback(None)
    for query in asked:
        plan = notebook.store._connection.execute(f"explain query plan {query}").fetchall()
        assert any("entries_of_kind" in row[3] for row in plan) is ("in ('reading'" not in query), query


def test_older_entries_are_upgraded_when_read_and_newer_ones_are_shown():
    old = '{"kind": "note", "version": 0, "words": "from long ago"}'
    upgrades = {("note", 0): lambda raw: {"kind": "note", "version": 1, "text": raw["words"]}}
    assert read_body(old, upgrades) == NoteWritten(text="from long ago")
    hologram = read_body('{"kind": "hologram", "version": 3}')
    assert isinstance(hologram, Unreadable)
    assert (hologram.says, hologram.why) == ("hologram", "the kind “hologram” is not known")


def test_a_field_that_is_not_known_closes_nothing(notebook):
    """A newer Candor may say more of the same: what is known counts, the rest is kept and shown."""
    body = read_body('{"kind": "note", "version": 1, "text": "seen", "colour": "green"}')
    assert (body.text, facts_in_words(body, {})) == ("seen", ("text: seen", "colour: green"))
    with pytest.raises(ValidationError):
        NoteWritten(text="typed", colour="green")


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
    open_job(notebook, pack)
    opened = notebook.entries_of("job1")[0]
    notebook.write("job1", Struck(target=opened.id))
    assert shelf(notebook, clock()) == ()
    notebook.write("job1", Unstruck(target=opened.id))
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
        notebook.write("job", NoteWritten(text=f"{number} " + "x" * 2000))
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
    again.write("job", NoteWritten(text="goes on"))
    again.close()
    assert not journal.exists() or journal.stat().st_size == 0


def test_an_empty_file_may_become_a_notebook(tmp_path):
    path = tmp_path / "empty.candor"
    path.touch()
    made = Notebook(path, "x")
    made.write("job", NoteWritten(text="first"))
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
        patch.setattr("candor.notebook.storage.opening._fill", cut)
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
    processes = [writer(path, name, 5) for name in ("a", "b", "c")]
    for process in processes:
        process.communicate(timeout=60)
        assert process.returncode == 0
    notebook = Notebook(path, "x")
    assert len(notebook.entries_of("job")) == 15
    notebook.close()
    assert [p.name for p in tmp_path.iterdir()] == ["shared.candor"]


def test_a_notebook_is_never_renamed_over_another(tmp_path):
    from candor.notebook.storage.opening import _name

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
    with pytest.raises(ForeignFileError, match="a device or a pipe, not a file"):
        Notebook(tmp_path / "pipe", "x")
    with pytest.raises(ForeignFileError, match="is a folder"):
        Notebook(tmp_path / "folder", "x")
    with pytest.raises(NotebookError, match="File name too long"):
        Notebook(tmp_path / ("n" * 300), "x")


def test_in_use_by_another_program_is_not_damaged(notebook):
    notebook.write("job", NoteWritten(text="kept"))
    notebook.close()
    other = sqlite3.connect(notebook.path, isolation_level=None)
    other.execute("begin exclusive")
    with pytest.raises(BusyNotebookError, match="is in use by another program"):
        Notebook(notebook.path, "x", patience_s=0.05)
    other.execute("rollback")
    hasty = Notebook(notebook.path, "x", patience_s=0.05)
    other.execute("begin exclusive")
    for what in (lambda: hasty.entries_of("job"), lambda: hasty.revision(patient=False)):
        with pytest.raises(BusyNotebookError, match="in use by another program"):
            what()
    with pytest.raises(BusyNotebookError, match=r"in use by another program. The entry was not written"):
        hasty.write("job", NoteWritten(text="lost?"))
    other.execute("rollback")
    other.close()
    assert len(hasty.entries_of("job")) == 1
    hasty.close()


def test_an_index_that_hides_an_entry_is_found(notebook):
    """quick_check does not see it: the table and its index no longer say the same."""
    for number in range(3):
        notebook.write("job", NoteWritten(text=str(number)))
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
    with pytest.raises(DamagedNotebookError, match="Candor did not change it"):
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
        ("update entries set chain = 'ab' where number = 2", (2, 3)),
        ("delete from entries where number = 2", (3,)),
        ("update entries set job = 'other' where number = 2", (3,)),
    ],
)
def test_ink_that_is_changed_is_seen(notebook, sql, numbers):
    for word in ("one", "two", "three", "four"):
        notebook.write("job", NoteWritten(text=word))
    assert notebook.broken_links("job") == ()
    change(notebook.path, sql)
    assert notebook.broken_links("job") == numbers
    faults = [f for f in check_notebook(notebook.path).faults if f.kind == "not as written" and f.job == "job"]
    assert [f.numbers for f in faults] == [numbers]


def test_every_byte_of_an_entry_is_under_the_digest():
    """Fields cannot be moved into one another, and the link before counts."""
    whole = ("b", "id", "job", "note", "at", "who", "body")
    assert len({chained(*whole), chained("c", *whole[1:]), chained("b", "i", "djob", *whole[3:])}) == 3
    assert chained("", "id", "job", "note", "at", "wh", "obody") != chained("", *whole[1:])


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
    said = "\n".join(say_checked(check_notebook(demo.path), "x"))
    for words in (
        f"photo {photo.name} is not as it was kept",
        f"certificate {certificate.name} cannot be read (No such file",
        f"photo {photo.name}",
        "Entry 9: this version of Candor cannot read it",
        "Entry 9 of this job is not as written",
        "The pack",
    ):
        assert words in said


# --- what cannot be read is shown, and its job only read ---------------------------------------------------------------


@pytest.mark.parametrize("body", ['{"kind":"hologram","version":1}', '{"kind":"note","version":9,"text":"x"}', "{"])
def test_one_entry_that_cannot_be_read_makes_its_own_job_read_only(notebook, pack, body):
    open_job(notebook, pack)
    open_job(notebook, pack, "job2")
    note = notebook.write("job2", NoteWritten(text="x"))
    notebook.write("", NoteWritten(text="of the shop"))
    shop = notebook.entries_of("")[-1]
    notebook.close()
    kind = "hologram" if "hologram" in body else "note"
    change(
        notebook.path,
        f"update entries set body = '{body}', kind = '{kind}' where number in ({note.number}, {shop.number})",
    )
    again = Notebook(notebook.path, "x")
    job = fold("job2", again.entries_of("job2"))
    assert (job.serial, [e.number for e in job.unreadable]) == ("123", [note.number])
    line = in_words(job.entries[-1], {})
    assert line.startswith("this version of Candor cannot read it (")
    assert line.endswith(body)
    with pytest.raises(
        UnreadableEntryError, match=f"This version of Candor cannot read entry {note.number} of this job"
    ):
        again.append([Draft("job1", NoteWritten(text="with it")), Draft("job2", NoteWritten(text="lost?"))])
    assert len(again.entries_of("job1")) == 2
    again.write("job1", NoteWritten(text="all others go on"))
    again.write("", NoteWritten(text="the shop too"))
    if kind == "hologram":  # the shelf reads few kinds, and every one it does not know
        lines = {line.job: line.text for line in shelf(again, again.clock())}
        assert (lines["job2"], lines["job1"]) == ("an entry cannot be read by this version", "just arrived")
    assert standards(again)
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
