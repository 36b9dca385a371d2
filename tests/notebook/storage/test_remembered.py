"""A job read again: only what is new is made again, and what lies in the file decides."""

import sqlite3

from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.storage import bodies
from candor.notebook.storage.remembered import MOST


def made(monkeypatch) -> list[str]:
    asked: list[str] = []
    read = bodies.read_body
    monkeypatch.setattr(bodies, "read_body", lambda text: (asked.append(text), read(text))[1])
    return asked


def test_only_what_is_new_is_made_again(notebook, monkeypatch):
    for text in ("one", "two"):
        notebook.write("j", NoteWritten(text=text))
    asked = made(monkeypatch)
    first = notebook.entries_of("j")
    assert len(asked) == 2
    notebook.write("j", NoteWritten(text="three"))
    again = notebook.entries_of("j")
    assert [e.body.text for e in again] == ["one", "two", "three"]
    assert len(asked) == 3 and again[0] is first[0]


def test_what_was_changed_or_taken_out_in_the_file_is_never_answered_from_memory(notebook):
    for text in ("one", "two", "three"):
        notebook.write("j", NoteWritten(text=text))
    notebook.entries_of("j")
    with sqlite3.connect(notebook.path) as other:
        other.execute("update entries set body = replace(body, 'two', 'TWO')")
    assert [e.body.text for e in notebook.entries_of("j")] == ["one", "TWO", "three"]
    with sqlite3.connect(notebook.path) as other:
        other.execute("delete from entries where body like '%one%'")
    assert [e.body.text for e in notebook.entries_of("j")] == ["TWO", "three"]
    with sqlite3.connect(notebook.path) as other:
        other.execute("update entries set body = 'broken' where body like '%TWO%'")
    assert isinstance(notebook.entries_of("j")[0].body, Unreadable)
    assert "j" in notebook._closed
    notebook.entries_of("j")
    assert "j" in notebook._closed  # it stays closed, however often it is read


def test_only_the_jobs_read_last_are_kept(notebook, monkeypatch):
    for number in range(MOST + 1):
        notebook.write(f"j{number}", NoteWritten(text="x"))
        notebook.entries_of(f"j{number}")
    asked = made(monkeypatch)
    notebook.entries_of(f"j{MOST}")
    assert not asked
    notebook.entries_of("j0")
    assert len(asked) == 1
