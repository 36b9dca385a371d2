"""A list whose rows are shown anew while keys are on their way in it."""

from PySide6.QtCore import Qt

from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.row_list import Row, RowList


def rows(*keys):
    return tuple(Row(key, f"Row {key}", strong=key == "a") for key in keys)


def test_who_is_on_the_way_in_it_stays_at_the_row_they_reached(qtbot):
    """Rows that came anew put the keys back to what is chosen: Enter then chose what nobody had gone to."""
    made, picked = RowList(Theme(), "Things"), []
    qtbot.addWidget(made)
    made.picked.connect(picked.append)
    made.show()
    made.show_rows(rows("a", "b", "c"), "a")
    made.setFocus()
    qtbot.waitUntil(made.hasFocus)
    qtbot.keyClick(made, Qt.Key.Key_Down)
    qtbot.keyClick(made, Qt.Key.Key_Down)
    made.show_rows(rows("a", "new", "b", "c"), "a")
    qtbot.keyClick(made, Qt.Key.Key_Return)
    assert picked == ["c"]
    made.show_rows(rows("a", "new", "b"), "a")  # it is gone: what is chosen
    assert made.currentRow() == 0
    qtbot.keyClick(made, Qt.Key.Key_Down)
    made.show_rows(rows("a", "new", "b"), "b")  # another is chosen: there
    assert made.currentRow() == 2
