"""The room of the entries, driven through the window."""

from __future__ import annotations

from PySide6.QtCore import Qt

from candor.notebook.entries.kinds import in_words
from desk import fill


def test_every_entry_can_be_found_struck_and_stood_again(qtbot, show, demo):
    window = show(demo)
    window.enter_room("entries")
    room = window.rooms["entries"]
    assert room.list.count() == len(window.bench.in_hand.job.entries)
    number = window.bench.in_hand.job.calibrate.readings[3].entry.number
    fill(qtbot, room.search, str(number))
    assert room.list.count() == 1
    assert room.list.item(0).text().startswith(f"{number}   dc+/5/1, as found: ")
    room.list.picked.emit(room.list.item(0).data(Qt.ItemDataRole.UserRole).key)
    assert window.because.word.text() == f"Entry {number}, reading"
    qtbot.mouseClick(room.strike, Qt.MouseButton.LeftButton)
    assert window.bench.in_hand.found.measured == 13
    assert room.list.item(0).data(Qt.ItemDataRole.UserRole).struck
    assert not room.strike.isEnabled()
    qtbot.mouseClick(room.unstrike, Qt.MouseButton.LeftButton)
    assert window.bench.in_hand.found.measured == 14
    fill(qtbot, room.search, "no such words")
    assert room.list.count() == 0
    fill(qtbot, room.search, "on the bench; pack")
    room.list.picked.emit(room.list.item(0).data(Qt.ItemDataRole.UserRole).key)
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
