"""Entries found again, checked against looking through all of them."""

from __future__ import annotations

from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.work.lookup import Lookup
from workbench import open_job


def test_every_entry_is_found_by_id_and_number_and_what_is_added_too(notebook, pack):
    open_job(notebook, pack)
    open_job(notebook, pack, "job2")
    found = Lookup()
    for text in ("a", "b"):
        notebook.write("job2", NoteWritten(text="between"))
        notebook.write("job1", NoteWritten(text=text))
        entries = notebook.entries_of("job1")
        found.take(entries, {"elsewhere": 7000})
        for place, entry in enumerate(entries):
            assert found.place(entry.id) == found.numbered(entry.number) == place
            assert found.numbers[entry.id] == entry.number
        assert found.numbers["elsewhere"] == 7000
        assert found.has(len(entries) - 1, text)
    assert {found.numbered(e.number) for e in notebook.entries_of("job2")} == {None}
    found.take(notebook.entries_of("job2"), {})
    assert found.place(entries[0].id) is None
    assert found.numbers.get("elsewhere") is None
