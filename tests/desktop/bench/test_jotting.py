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


def test_what_is_the_shop_s_is_written_with_no_job_open(qtbot, show, notebook):
    """`mains 230 V 50 Hz` as the first thing typed stayed in the line, without a word."""
    window = show(notebook)
    fill(qtbot, window.jot.edit, "mains 230 V 50 Hz")
    qtbot.keyClick(window.jot.edit, Qt.Key.Key_Return)
    assert window.jot.edit.text() == ""
    assert "Kept for all jobs" in window.jot.message.text()
    assert window.bench.shop.settings.mains.volts == 230
    fill(qtbot, window.jot.edit, "found a cracked knob")
    qtbot.keyClick(window.jot.edit, Qt.Key.Key_Return)
    assert "Open a job first" in window.jot.message.text()
    assert window.jot.edit.text() == "found a cracked knob"
