"""A text with numbered lines: what differs alone is exchanged, so that the place stays and all can be undone."""

from __future__ import annotations

import pytest

from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.text_editor import TextEditor


@pytest.fixture
def editor(qtbot):
    made = TextEditor(Theme("light", 1.0), "Text")
    qtbot.addWidget(made)
    made.resize(300, 200)
    made.show()
    return made


@pytest.mark.parametrize(
    "new", ("a\nb two\nc\n", "a\nc\n", "", "x\na\nb\nc\nd\n", "a\nb 𝛍 and 🔧 µ\nc\n", "a\na\nb\nc\n")
)
def test_another_text_is_shown_and_undone(editor, new):
    old = "a\nb 🔧\nc\n"
    editor.begin(old)
    editor.show_text(new)
    assert editor.toPlainText() == new
    editor.undo()
    assert editor.toPlainText() == old
    editor.redo()
    assert editor.toPlainText() == new


def test_the_line_in_hand_stays_and_is_told_when_it_changes_by_hand(editor, qtbot):
    told = []
    editor.stoodOn.connect(told.append)
    editor.begin("one\ntwo\nthree\nfour\n")
    editor.go_to_line(3)
    assert (editor.line_in_hand(), told) == (3, [])
    editor.show_text("one\ntwo and more\nthree\nfour\n")
    editor.show_faults({2: "it is wrong"})
    assert "wrong" not in editor.accessibleDescription()
    editor.moveCursor(editor.textCursor().MoveOperation.Start)
    editor.moveCursor(editor.textCursor().MoveOperation.Down)
    assert told[-1] == 2 and editor.accessibleDescription() == "it is wrong"
    assert editor.numbers_width() > 0
