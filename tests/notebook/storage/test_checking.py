"""A check finds what was changed, taken out or put in, and changes nothing itself; a paper's eight words prove a notebook."""

import gzip
import hashlib
import json
import shutil
import sqlite3
from pathlib import Path

import pytest
from typer.testing import CliRunner

from candor.cli import app
from candor.core.errors import CancelledError
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.notebook_errors import DamagedNotebookError, NotebookError, ReadOnlyNotebookError
from candor.notebook.storage.chain import chained
from candor.notebook.storage.checking import check_notebook, find_head
from candor.notebook.storage.head_words import head_of, words_of
from candor.notebook.store import Notebook
from candor.words.faults import say_checked, say_head

OLD = Path(__file__).parents[2] / "data"


def change(path: Path, *statements: str) -> None:
    with sqlite3.connect(path) as raw:
        for statement in statements:
            raw.execute(statement)
    raw.close()


def kinds(path: Path) -> list[str]:
    return sorted({fault.kind for fault in check_notebook(path).faults})


def listing(folder: Path) -> dict[str, str]:
    return {str(p): hashlib.sha256(p.read_bytes()).hexdigest() for p in sorted(folder.rglob("*")) if p.is_file()}


@pytest.fixture
def closed(demo) -> Path:
    demo.close()
    return demo.path


@pytest.fixture
def notes(notebook) -> Path:
    for job in ("one", "two", "one", "two", "one"):
        notebook.write(job, NoteWritten(text=f"a note of {job}"))
    notebook.close()
    return notebook.path


@pytest.mark.parametrize(
    ("statements", "found"),
    [
        (["delete from entries where number = (select max(number) from entries)"], ["gone"]),
        (["delete from entries where job = 'two'"], ["gone"]),
        (
            ["delete from entries where number = 5", "update sqlite_sequence set seq = 4"],
            [],
        ),  # see the words of a paper
        (["create trigger t after insert on entries begin delete from entries where number = 1; end"], ["foreign"]),
        (["create table extra (a)"], ["foreign"]),
        (["create view v as select * from entries"], ["foreign"]),
        (["update entries set body = x'ff00ff' where number = 2"], ["not as written", "unreadable"]),
        (["update entries set body = cast(x'7b22ff7d' as text) where number = 2"], ["not as written", "unreadable"]),
        (["update entries set at = 'when it rained' where number = 3"], ["not as written", "unreadable"]),
        (["update entries set who = '', chain = '' where number = 3"], ["not as written"]),
        (["update entries set body = '[1, 2' where number = 3"], ["not as written", "unreadable"]),
    ],
)
def test_what_was_changed_in_the_file_is_found(notes, statements, found):
    before = listing(notes.parent)
    assert kinds(notes) == []
    change(notes, *statements)
    assert kinds(notes) == found
    # The window opens it, whatever stands in one entry, and shows every other.
    opened = Notebook(notes, "x")
    assert sum(len(opened.entries_of(job)) for job in ("one", "two")) >= 3
    opened.close()
    assert set(listing(notes.parent)) == set(before)


def test_what_lies_beside_it_is_found_too(closed):
    assert kinds(closed) == []
    folder = closed.parent / "demo certificates"
    folder.rename(closed.parent / "elsewhere")
    for run in (closed.parent / "demo runs").iterdir():
        run.unlink()
    photo = next((closed.parent / "demo photos").iterdir())
    (photo.parent / "0123.jpg").write_bytes(photo.read_bytes())
    change(closed, "delete from packs")
    faults = check_notebook(closed).faults
    assert {(f.kind, f.what) for f in faults} == {
        ("missing", "certificates"), ("missing", "runs"), ("not named", "photos"), ("pack missing", "pack"),
    }  # fmt: skip
    said = "\n".join(say_checked(check_notebook(closed), "demo"))
    assert "No entry names the photo 0123.jpg" in said


def test_a_run_file_that_was_changed_is_found(closed):
    run = next((closed.parent / "demo runs").iterdir())
    run.write_bytes(run.read_bytes().replace(b"0.0029", b"0.0003"))
    assert kinds(closed) == ["changed"]


def test_a_check_changes_nothing_of_an_empty_an_old_or_a_half_written_notebook(tmp_path, notes):
    empty = tmp_path / "empty.candor"
    empty.touch()
    (tmp_path / "empty photos").mkdir()
    fault = check_notebook(empty).faults[0]
    assert (fault.kind, fault.what, empty.stat().st_size) == ("empty", "photos", 0)
    with pytest.raises(DamagedNotebookError, match="it is empty, although its photos are beside it"):
        Notebook(empty, "x")
    assert empty.stat().st_size == 0
    for kept in sorted(OLD.glob("notebook-*.candor.gz")):
        old = tmp_path / kept.stem
        old.write_bytes(gzip.decompress(kept.read_bytes()))
        before = hashlib.sha256(old.read_bytes()).hexdigest()
        assert not [
            f for f in check_notebook(old).faults if f.kind in ("not as written", "gone", "foreign", "unreadable")
        ]
        assert hashlib.sha256(old.read_bytes()).hexdigest() == before
        if "0001" not in kept.name:
            change(old, "update entries set body = replace(body, 'e', 'f') where number = 4")
            assert "not as written" in kinds(old)
    # What a crash left half written is looked at as it will be when it is opened, and stays as it lies.
    hot = tmp_path / "hot.candor"
    raw = sqlite3.connect(notes, isolation_level=None)
    raw.execute("pragma cache_size = 1")
    raw.execute("begin immediate")
    raw.execute("update entries set body = 'half written' || hex(zeroblob(20000))")
    shutil.copyfile(notes, hot)
    shutil.copyfile(f"{notes}-journal", f"{hot}-journal")
    raw.execute("rollback")
    raw.close()
    before = listing(tmp_path)
    assert kinds(hot) == []
    assert listing(tmp_path) == before


def test_a_notebook_with_a_foreign_trigger_is_only_read(notes):
    change(notes, "create trigger t after insert on entries begin delete from entries where number = 1; end")
    opened = Notebook(notes, "x")
    with pytest.raises(ReadOnlyNotebookError, match="a trigger “t” in it that Candor does not make"):
        opened.write("one", NoteWritten(text="x"))
    assert len(opened.entries_of("one")) == 3
    opened.close()


# --- the words of a paper ----------------------------------------------------------------------------------------------


def test_a_paper_proves_a_notebook_or_shows_that_it_is_another(notes):
    """Whoever rewrites an entry with every digest after it, or takes the newest away, does not know what the paper says."""
    opened = Notebook(notes, "x")
    rows = opened.store.of_job("one")
    words = words_of(rows[-1].chain)
    opened.write("one", NoteWritten(text="later"))
    opened.close()
    head = find_head(notes, words)
    assert (head.job, head.number, head.since, head.sound) == ("one", 5, 1, True)
    assert find_head(notes, " ".join(word[:4] for word in words.upper().split())) == head
    forged, before = [], ""
    for row in rows:
        body = row.body.replace("a note", "another note") if row.number == 3 else row.body
        before = chained(before, row.id, row.job, row.kind, row.at, row.who, body)
        forged.append((body, before, row.number))
    with sqlite3.connect(notes) as raw:
        raw.executemany("update entries set body = ?, chain = ? where number = ?", forged)
        raw.execute("delete from entries where number = 6")
        raw.execute("update sqlite_sequence set seq = 5")
    raw.close()
    assert kinds(notes) == []  # the notebook alone cannot tell
    assert find_head(notes, words) is None
    assert "No entry has these words" in say_head(None)
    change(notes, f"update entries set chain = '{rows[-1].chain}' where number = 5")  # the head alone put back
    assert find_head(notes, words).sound is False


def test_words_are_88_bits_there_and_back():
    for text in (b"", b"a", b"candor"):
        digest = hashlib.sha256(text).hexdigest()
        assert head_of(words_of(digest)) == digest[:22]
    # BIP-39's own list: the words of the lowest and the highest number.
    assert words_of("0" * 64) == " ".join(["abandon"] * 8)
    assert words_of("f" * 64) == " ".join(["zoo"] * 8)


@pytest.mark.parametrize(
    ("typed", "said"),
    [
        ("zoo zoo", "2 words were given. Expected: the eight words"),
        ("zoo zoo zoo zebr zoo zoo zoo zooo", "Word 8, “zooo”, is not one of the list. Words like it: zoo"),
        ("aban aban aban aban aban aban aban ab", "Word 8, “ab”"),
    ],
)
def test_words_that_are_none_are_said(typed, said):
    with pytest.raises(ValueError, match=said):
        head_of(typed)


def test_the_command_line_checks_and_proves(notes):
    opened = Notebook(notes, "x")
    words = words_of(opened.store.of_job("two")[-1].chain)
    opened.close()
    run = CliRunner()
    done = run.invoke(app, ["check", str(notes), "--against", words, "--json"])
    said = json.loads(done.stdout)
    assert (done.exit_code, said["head"]["number"], said["faults"]) == (0, 4, [])
    change(notes, "delete from entries where number = 4")
    done = run.invoke(app, ["check", str(notes), "--against", words])
    assert done.exit_code == 1
    assert "Entry 4 is gone" in done.stdout
    assert "No entry has these words" in done.stdout
    with pytest.raises(NotebookError, match="There is no notebook"):
        check_notebook(notes.with_name("none.candor"))


def test_a_check_that_is_not_wanted_any_more_stops_before_it_has_read_all(demo, monkeypatch):
    read = []
    monkeypatch.setattr("candor.notebook.storage.kept_files._digest_of", lambda path, *_: read.append(path) or "")
    demo.close()
    for most in (0, 1, 4):
        asked = iter(range(1000))
        with pytest.raises(CancelledError):
            check_notebook(demo.path, lambda asked=asked, most=most: next(asked) >= most)
    assert len(read) < 4
