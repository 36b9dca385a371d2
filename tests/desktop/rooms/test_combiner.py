"""The combiner, driven through the window."""

from PySide6.QtCore import Qt

from desk import LEFT, line


def fill(qtbot, field, text):
    field.setFocus()
    field.clear()
    qtbot.keyClicks(field, text)


def test_the_combiner_trims_a_part_from_stock(qtbot, halfway):
    page = halfway.parts
    page.choose("R24")
    page.show_panel("place")
    with qtbot.waitSignal(halfway.rooms["stock"].combiner.answered, timeout=10_000):
        qtbot.mouseClick(page.place.several, LEFT)
    combiner = halfway.rooms["stock"].combiner
    assert combiner.fields["measured"].text() == "366 k"
    assert "across" in combiner.words.text()
    assert "Every arrangement of up to 4" in combiner.words.text()
    assert combiner.answer().serves
    qtbot.mouseClick(combiner.take, LEFT)
    assert halfway.work.currentWidget() is halfway.parts
    assert "across with the old one" in line(halfway, "R24").choice.body.arrangement


def test_the_combiner_says_what_cannot_be_read_and_is_stopped_by_closing(qtbot, scope):
    scope.enter_room("stock")
    combiner = scope.rooms["stock"].combiner
    fill(qtbot, combiner.fields["target"], "seven")
    qtbot.keyClick(combiner.fields["target"], Qt.Key.Key_Return)
    assert "does not begin with a number" in scope.jot.message.text()
    fill(qtbot, combiner.fields["target"], "7M")
    with qtbot.waitSignal(combiner.answered, timeout=10_000):
        qtbot.mouseClick(combiner.search, LEFT)
    assert "Nothing is on hand to combine" in combiner.words.text()  # no drawer is needed for one new piece
    assert "one new, E96:  6.98 MΩ · to order" in combiner.list.item(0).text()
    combiner.series.setCurrentIndex(combiner.series.findData("E96"))
    with qtbot.waitSignal(combiner.answered, timeout=10_000):
        qtbot.mouseClick(combiner.search, LEFT)
    assert "6.98 MΩ" in combiner.list.item(0).text()
