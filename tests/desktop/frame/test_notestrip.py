"""Notes stand on the page they were written on, and become an entry of their own kind by one press, at their time."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton


def enter(qtbot, bench, text):
    bench.jot.edit.setText(text)
    qtbot.keyClick(bench.jot.edit, Qt.Key.Key_Return)


def press(strip, words):
    [b for b in strip.findChildren(QPushButton) if b.text() == words][-1].click()


def test_a_note_stands_where_it_was_written_and_becomes_an_entry_at_its_time(qtbot, bench):
    bench.go_to_stop("trace")
    assert not bench.notes.isVisible()
    enter(qtbot, bench, "smells warm behind the mixer")
    note = bench.bench.in_hand.job.stay.notes[-1]
    assert (note.body.stop, bench.notes.isVisible()) == ("trace", True)
    bench.go_to_stop("parts")
    assert not bench.notes.isVisible()
    bench.go_to_stop("trace")
    press(bench.notes, "Make it an entry")
    assert bench.jot.edit.text() == "smells warm behind the mixer"
    enter(qtbot, bench, "cause: R7 runs hot")
    job = bench.bench.in_hand.job
    cause = (
        job.trace.causes[-1]
        if hasattr(job.trace, "causes")
        else next(e for e in job.entries if e.body.kind == "cause_found")
    )
    assert cause.at == note.at
    assert note.id in job.struck
    assert not bench.notes.isVisible()


def test_what_is_not_understood_is_asked_about_and_then_kept(qtbot, bench):
    bench.go_to_stop("trace")
    before = len(bench.bench.in_hand.job.entries)
    enter(qtbot, bench, "ral b1 287")
    assert "Did you mean “rail b1 287”" in bench.jot.message.text()
    assert (len(bench.bench.in_hand.job.entries), bench.jot.edit.text()) == (before, "ral b1 287")
    qtbot.keyClick(bench.jot.edit, Qt.Key.Key_Return)
    assert bench.bench.in_hand.job.stay.notes[-1].body.text == "ral b1 287"


def test_what_was_meant_is_put_in_the_line_by_a_press_and_help_says_what_can_be_typed(qtbot, bench):
    bench.go_to_stop("power")
    bench.jot.edit.setText("0.8 W")
    press(bench.jot, "watts 0.8 W")
    assert bench.jot.edit.text() == "watts 0.8 W"
    enter(qtbot, bench, "?")
    assert "rail b1 287" in bench.jot.message.text()
