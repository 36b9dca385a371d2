"""A large notebook is up before it is looked through; what is damaged is said first, and nothing more is written in it."""

from __future__ import annotations

import contextlib
import sqlite3

import pytest

from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.notebook_errors import DamagedNotebookError
from candor.notebook.storage import opening
from candor.notebook.store import Notebook
from workbench import open_job, put


def torn(notebook: Notebook) -> None:
    """Put rubbish into a page that opening does not read: one of the bodies of many notes."""
    notebook.append(drafts_of("job1", [NoteWritten(text=f"{i} {'x' * 200}") for i in range(400)]))
    notebook.close()
    raw = bytearray(notebook.path.read_bytes())
    at = len(raw) // 2 // 4096 * 4096
    raw[at : at + 64] = b"\xff" * 64
    notebook.path.write_bytes(raw)


def test_a_large_notebook_that_is_damaged_is_said_beside_the_window(qtbot, show, notebook, pack, monkeypatch):
    open_job(notebook, pack)
    torn(notebook)
    with pytest.raises(DamagedNotebookError):
        Notebook(notebook.path, "x")
    with pytest.raises(DamagedNotebookError):
        Notebook(notebook.path, "x", later=True)  # a small one is looked through at once
    monkeypatch.setattr("candor.notebook.storage.opening.MANY_BYTES", 0)
    again = Notebook(notebook.path, "x", notebook.clock, later=True)
    assert again.unlooked
    window = show(again)
    qtbot.waitUntil(lambda: "is damaged" in window.warning.words.text())
    assert again.read_only == "the file is damaged"
    assert not put(window.bench.writer, NoteWritten(text="lost?"))


def test_a_sound_one_is_written_as_ever(qtbot, show, notebook, pack, monkeypatch):
    open_job(notebook, pack)
    notebook.close()
    monkeypatch.setattr("candor.notebook.storage.opening.MANY_BYTES", 0)
    again = Notebook(notebook.path, "x", notebook.clock, later=True)
    window = show(again)
    qtbot.waitUntil(lambda: not again.unlooked)
    assert again.read_only == ""
    assert put(window.bench.writer, NoteWritten(text="kept"))


def test_what_is_written_while_it_is_looked_through_is_not_refused(notebook, pack, monkeypatch):
    """A lock held over all of it would refuse every entry of the first second of a large notebook."""
    open_job(notebook, pack)
    notebook.do_not_wait()
    plain, asked = opening._verdict, []

    def meanwhile(uri: str) -> str:
        with contextlib.closing(sqlite3.connect(uri, uri=True)) as connection:  # in the middle of its reading
            rows = connection.execute("select * from entries")
            rows.fetchone()
            asked.append(notebook.write("job1", NoteWritten(text="meanwhile")))
        return plain(uri)

    monkeypatch.setattr(opening, "_verdict", meanwhile)
    opening.refuse_damaged(notebook.path)
    assert len(asked) == 1
