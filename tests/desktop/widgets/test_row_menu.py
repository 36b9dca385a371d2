"""The menu of a row: by the pointer and by the menu key, with the deeds that are for it, and its words copied."""

import pytest
from PySide6.QtCore import QPoint
from PySide6.QtGui import QContextMenuEvent, QGuiApplication
from PySide6.QtWidgets import QApplication, QMenu

from candor.desktop.widgets.row_list import ROW

Reason = QContextMenuEvent.Reason


def menu_of(rows, index, reason=Reason.Mouse):
    at = rows.visualRect(index).center() if index is not None else QPoint(2, rows.viewport().height() - 2)
    if reason is Reason.Keyboard:
        rows.setCurrentIndex(index)
    QApplication.sendEvent(rows.viewport(), QContextMenuEvent(reason, at, rows.viewport().mapToGlobal(at)))
    return next((menu for menu in rows.findChildren(QMenu) if menu.isVisible()), None)


def said(menu):
    return [action.text().partition("\t")[0] for action in menu.actions() if action.text()]


def press(menu, name):
    next(action for action in menu.actions() if action.text().startswith(name)).trigger()
    menu.close()


def first(rows, words=""):
    places = (rows.model().index(i, 0) for i in range(rows.model().rowCount()))
    return next(p for p in places if p.data(ROW).key and words in p.data(ROW).text)


@pytest.mark.parametrize("reason", [Reason.Mouse, Reason.Keyboard])
def test_a_job_is_opened_at_a_stop_and_not_by_its_menu_alone(show, demo, reason):
    window = show(demo)
    here = window.bench.in_hand.job.id
    menu = menu_of(window.shelf.list, first(window.shelf.list, "OS-40"), reason)
    assert said(menu)[:3] == ["Open where it was left", "Open at Arrive", "Open at Parts"]
    assert window.bench.in_hand.job.id == here
    press(menu, "Open at Parts")
    assert window.bench.in_hand.job.name.endswith("OS-40")
    assert window.work.currentWidget() is window.parts


def test_the_row_under_the_pointer_is_in_hand_and_its_deeds_are_offered(show, demo):
    window = show(demo)
    window.enter_room("standards")
    room = window.rooms["standards"]
    menu = menu_of(room.list, first(room.list, "source box"))
    assert room.fields["name"].text() == "d.c. source box"
    assert said(menu) == ["Note the check", "Out of service", "Copy what it says"]
    press(menu, "Copy what it says")
    assert QGuiApplication.clipboard().text().startswith("d.c. source box, ")
    assert menu_of(window.shelf.list, window.shelf.list.model().index(0, 0)) is None  # a heading has none


def test_a_long_list_has_it_too(show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40217")
    window.enter_room("entries")
    room = window.rooms["entries"]
    count = len(window.bench.in_hand.job.entries)
    menu = menu_of(room.list, room.list.model().index(count - 1, 0))
    assert said(menu) == ["Strike", "Copy what it says"]
    press(menu, "Strike")
    assert len(window.bench.in_hand.job.entries) == count + 1


def test_a_reading_is_struck_from_its_menu(show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40217")
    window.bench.place.go("calibrate", "plus:as-found:dc+/150/75")
    readings = window.because.readings
    menu = menu_of(readings, first(readings))
    assert said(menu) == ["Strike the reading", "Copy what it says"]
    press(menu, "Strike the reading")
    assert window.because.word.text() == "Not measured"
