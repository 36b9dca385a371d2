"""From a jot to an entry."""

from __future__ import annotations

from PySide6.QtCore import Qt

from desk import fill


def test_one_change_one_check(qtbot, arrived):
    """A change asks for its check; what is not proven shows on the shelf until it is."""

    def jot(text: str) -> None:
        fill(qtbot, arrived.jot.edit, text)
        qtbot.keyClick(arrived.jot.edit, Qt.Key.Key_Return)

    jot("did replaced C4")
    assert arrived.jot.message.text() == "What proves it? Jot: checked …"
    jot("did cleaned the range switch")
    assert "“replaced C4”, is not proven yet either." in arrived.jot.message.text()
    assert arrived.bench.shelf.lines[0].text == "not proven: cleaned the range switch"
    jot("checked every range holds when the knob is rocked")
    assert [e.body.text for e in arrived.bench.in_hand.job.stay.unproven] == ["replaced C4"]
    assert arrived.bench.shelf.lines[0].text == "not proven: replaced C4"
    jot("checked rail 312 V, ripple gone")
    assert arrived.bench.in_hand.job.stay.unproven == ()
    assert "not proven" not in arrived.bench.shelf.lines[0].text
    arrived.bench.writer.undo()
    assert arrived.bench.shelf.lines[0].text == "not proven: replaced C4"
    arrived.bench.writer.redo()
    jot("checked nothing left to prove")
    assert arrived.bench.in_hand.job.stay.notes[-1].body.text == "checked nothing left to prove"


def test_tab_completes_a_word_in_the_jot_line(qtbot, arrived):
    fill(qtbot, arrived.jot.edit, "fou")
    qtbot.keyClick(arrived.jot.edit, Qt.Key.Key_Tab)
    assert arrived.jot.edit.text() == "found "
    qtbot.keyClick(arrived.jot.edit, Qt.Key.Key_Escape)
    assert arrived.jot.edit.text() == ""
