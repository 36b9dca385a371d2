"""Hands for the tests that drive a window."""

from __future__ import annotations

from PySide6.QtCore import Qt

from candor.packs.bundled import bundled_packs

SCOPE = next(p for p in bundled_packs() if p.id == "marrowby-os40")


LEFT = Qt.MouseButton.LeftButton


def fill(qtbot, edit, text: str) -> None:
    """Put a text into a field, as a paste does; its last letter by a key. Each letter by a key is driven in test_jotbar."""
    edit.setFocus()
    edit.clear()
    edit.insert(text[:-1])
    qtbot.keyClicks(edit, text[-1:])


def jot(qtbot, window, text):
    fill(qtbot, window.jot.edit, text)
    qtbot.keyClick(window.jot.edit, Qt.Key.Key_Return)


def line(window, ref):
    return window.bench.in_hand.parts().line(ref)


def row_titles(rows) -> list[str]:
    """What a list of rows says, the first line of each."""
    return [rows.item(i).data(Qt.ItemDataRole.UserRole).text for i in range(rows.count())]
