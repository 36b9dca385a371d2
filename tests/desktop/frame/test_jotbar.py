"""The jot line."""

import pytest
from PySide6.QtCore import Qt

from candor.desktop.frame.theme import plain_tip


@pytest.mark.parametrize("line", ["spent 0", "spent 0 min", "temp 231", "rh 300", "line 0"])
def test_what_cannot_be_written_is_a_question_and_stays_on_the_line(qtbot, bench, line):
    before = len(bench.bench.in_hand.job.entries)
    bench.jot.edit.setText(line)
    qtbot.keyClick(bench.jot.edit, Qt.Key.Key_Return)
    assert any(word in bench.jot.reason.text() for word in ("Example", "Expected"))
    assert (len(bench.bench.in_hand.job.entries), bench.jot.edit.text()) == (before, line)


def test_what_looks_like_markup_is_shown_as_it_stands(bench):
    """Tooltips guess: a name or a finding in angle brackets must not become a picture or a link."""
    bad = "<img src='/etc/hostname'> & <b>bold</b>"
    bench.bench.voice.say(bad)
    tip = bench.jot.message.toolTip()
    assert "<img" not in tip
    assert "&lt;img src=" in tip
    assert bench.jot.message.textFormat() == Qt.TextFormat.PlainText
    bench.route.caution.say(bad)
    assert "<img" not in bench.route.caution.toolTip()
    assert plain_tip("a plain one") == "a plain one"


def test_what_is_next_stands_where_nothing_else_is_said_and_leads_there(qtbot, show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40217")
    window.go_to_stop("power")
    assert window.jot.next.whole().startswith("Next: go on at Calibrate, because ")
    assert window.jot.next.isVisible()
    window.bench.voice.say("Something was said.")
    assert not window.jot.next.isVisible()
    window.jot._let_go()
    assert window.jot.next.isVisible()
    window.jot.edit.setText("rail b1 28x")
    assert not window.jot.next.isVisible()
    window.jot.edit.clear()
    qtbot.mouseClick(window.jot.next, Qt.MouseButton.LeftButton)
    assert window.bench.place.stop == "calibrate"


def test_what_was_refused_is_said_until_the_next_line_is_entered(qtbot, bench):
    def entered(line):
        bench.jot.edit.setText(line)
        qtbot.keyClick(bench.jot.edit, Qt.Key.Key_Return)
        return bench.jot.message.text()

    bench.bench.voice.refuse("This cannot be written.")
    assert bench.jot.message.text() == "This cannot be written."
    assert entered("note the case is scratched") == ""
