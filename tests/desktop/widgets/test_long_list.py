"""A list of any length keeps its place, and shows what is in hand."""

from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.long_list import LongList
from candor.desktop.widgets.row_list import Row


def row(place: int) -> Row:
    return Row(f"k{place}", f"row {place}", "under it")


def test_what_comes_in_hand_is_seen_and_the_place_is_kept_while_it_stays(qtbot):
    shown = LongList(Theme("light"), "rows")
    qtbot.addWidget(shown)
    shown.resize(300, 200)
    shown.show()
    shown.show_rows(range(100_000), row, 0)
    shown.show_rows(range(100_000), row, 70_000)
    assert shown.rowAt(100) in range(69_990, 70_010)
    shown.verticalScrollBar().setValue(0)
    shown.show_rows(range(100_001), row, 70_000)  # one more was written
    assert (shown.rowAt(0), shown.count()) == (0, 100_001)
    assert shown.currentIndex().row() == 70_000
    told = []
    shown.picked.connect(told.append)
    shown.clicked.emit(shown.model().index(3, 0))
    assert told == ["k3"]
    shown.show_rows((5, 9), row, None)
    assert [shown.row(i).key for i in range(2)] == ["k5", "k9"]
    assert not shown.currentIndex().isValid()
    shown.fit(5)
    assert shown.height() == 2 * shown.rowHeight(0) + 2
