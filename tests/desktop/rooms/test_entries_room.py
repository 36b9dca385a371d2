"""The room of the entries, driven through the window."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication

from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.kinds_entries import in_words
from candor.notebook.entries.stay_entries import NoteWritten
from desk import fill
from workbench import open_job, put


def test_every_entry_can_be_found_struck_and_stood_again(qtbot, show, demo):
    window = show(demo)
    window.enter_room("entries")
    room = window.rooms["entries"]
    assert room.list.count() == len(window.bench.in_hand.job.entries)
    number = window.bench.in_hand.job.calibrate.readings[3].entry.number
    fill(qtbot, room.search, str(number))
    assert room.list.count() == 1
    assert room.list.row(0).spoken.startswith(
        f"{number}   DC volts +, 5 V range at 1 V, as found: needle 1 V, reference 1 V"
    )
    fill(qtbot, room.search, "dc+/5/1")  # by its key too, as files have it
    qtbot.waitUntil(lambda: "found." in room.words.text())
    assert room.list.count() >= 1
    fill(qtbot, room.search, str(number))
    room.list.picked.emit(room.list.row(0).key)
    assert window.because.word.text() == f"Entry {number}, reading"
    qtbot.mouseClick(room.strike, Qt.MouseButton.LeftButton)
    assert window.bench.in_hand.found.measured == 13
    assert room.list.row(0).struck
    assert not room.strike.isEnabled()
    qtbot.mouseClick(room.unstrike, Qt.MouseButton.LeftButton)
    assert window.bench.in_hand.found.measured == 14
    fill(qtbot, room.search, "no such words")
    assert room.list.count() == 0
    fill(qtbot, room.search, "on the bench; pack")
    room.list.picked.emit(room.list.row(0).key)
    assert not room.strike.isEnabled()  # the opening of a job is not struck from here


def test_every_kind_of_entry_has_words(demo):
    """No entry is shown as a bare structure."""
    for job in ("", "sb40188", "sb40217", "sb40221", "sb40224"):
        entries = demo.entries_of(job)
        numbers = {e.id: e.number for e in (*demo.entries_of(""), *entries)}
        for entry in entries:
            words = in_words(entry, numbers)
            assert "kind=" not in words
            assert "entry 0" not in words


def test_only_the_rows_that_are_seen_are_made_and_words_are_looked_for_in_slices(
    qtbot, show, notebook, pack, monkeypatch
):
    open_job(notebook, pack)
    notebook.append(drafts_of("job1", [NoteWritten(text=f"look {i % 50}") for i in range(5000)]))
    window = show(notebook)
    made = []
    monkeypatch.setattr(
        "candor.notebook.work.lookup.in_words",
        lambda entry, _: made.append(entry) or f"{getattr(entry.body, 'text', '')}'",
    )
    window.enter_room("entries")
    room = window.rooms["entries"]
    QApplication.processEvents()
    assert room.list.count() > 5000
    assert room.list.currentIndex().row() == room.list.count() - 1
    assert len(made) < 300
    monkeypatch.setattr("candor.desktop.rooms.entries_room.SLICE_S", 0.0)  # one entry a slice
    room.search.setText("look 7'")
    assert room.list.count() == 0
    assert "looked through" in room.words.text()
    room.search.setText("look 8")
    monkeypatch.setattr("candor.desktop.rooms.entries_room.SLICE_S", 0.005)
    qtbot.waitUntil(lambda: room.words.text() == "100 found.")
    assert {room.list.row(i).text.split(maxsplit=1)[1] for i in range(100)} == {"look 8'"}
    put(window.bench.writer, NoteWritten(text="look 8 again"))
    qtbot.waitUntil(lambda: room.words.text() == "101 found.")
    for key in (Qt.Key.Key_Home, Qt.Key.Key_End):  # nothing was chosen: the first key comes to the first row
        qtbot.keyClick(room.list, key)
    assert room.list.row(room.list.currentIndex().row()).text.endswith("look 8 again'")


def test_the_newest_stand_first_where_that_is_chosen_also_of_those_that_are_found(qtbot, show, demo):
    window = show(demo)
    window.enter_room("entries")
    room = window.rooms["entries"]
    everything = [e.id for e in window.bench.in_hand.job.entries]
    assert [room.list.row(i).key for i in (0, room.list.count() - 1)] == [everything[0], everything[-1]]
    room.order.setCurrentText("newest first")
    assert [room.list.row(i).key for i in (0, room.list.count() - 1)] == [everything[-1], everything[0]]
    fill(qtbot, room.search, "as found")
    qtbot.waitUntil(lambda: "so far" not in room.words.text())
    found = [room.list.row(i).key for i in range(room.list.count())]
    assert len(found) > 5
    assert found == sorted(found, key=everything.index, reverse=True)
