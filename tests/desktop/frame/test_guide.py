"""F1 and F10: help where one is, back to it, and menus that name what there is."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QShortcut

from candor.desktop.frame.guide import ANYWHERE
from candor.desktop.frame.pages import ROOM_PAGES, STOP_PAGES
from candor.desktop.frame.route import TITLES
from candor.desktop.frame.shelfpanel import ROOMS
from candor.words.help import EVERYWHERE, PLACES


@pytest.fixture
def window(show, demo):
    made = show(demo)
    made._open_job(next(line.job for line in made.bench.shelf.lines if line.group != "gone home"))
    return made


def test_help_is_of_where_one_is_and_leads_back(qtbot, window):
    page = window.rooms["help"]
    for go, title in ((lambda: window.go_to_stop("parts"), "Parts"), (lambda: window.enter_room("stock"), "Stock")):
        go()
        here = window.work.currentWidget()
        window.guide.show()
        window.guide.show()  # twice is once
        assert page.title.text() == f"Help: {title}"
        qtbot.keyClick(page, Qt.Key.Key_Escape)
        page.left.emit()
        assert window.work.currentWidget() is here


def test_a_line_of_help_stands_in_the_field_to_be_changed(qtbot, window):
    window.go_to_stop("calibrate")
    window.guide.show()
    page = window.rooms["help"]
    page.search.setText("ohms zero right")
    assert page.list.count() == 1
    page.list.picked.emit(page.list.row(0).key)
    assert window.jot.edit.text().startswith("range Ohms called")
    assert window.work.currentWidget() is window.calibrate


def test_menus_name_every_place_every_key_of_the_window_and_what_the_page_offers(qtbot, window):
    menus = window.guide.menus
    assert not window.menuBar().isVisible()
    menus.open()
    assert window.menuBar().isVisible()
    texts = [[a.text() for a in menu.actions()] for menu in menus.all[1:]]
    assert [t.split("\t")[0] for t in texts[0]] == list(TITLES.values())
    assert [t.split("\t") for t in texts[1]] == [[title, key] for _, title, key in ROOMS]
    assert [tuple(t.split("\t")) for t in texts[2]] == list(ANYWHERE)
    window.go_to_stop("calibrate")
    menus.here.aboutToShow.emit()
    offered = {a.text().split("\t")[0]: a for a in menus.here.actions()}
    assert "Arm's length" in offered and "Paste" in offered
    next(a for a in menus.all[1].actions() if a.text().startswith("Soak")).trigger()
    assert window.bench.place.stop == "soak"
    menus.here.hide()
    qtbot.waitUntil(lambda: not window.menuBar().isVisible())


def test_every_key_of_every_page_stands_in_its_help(window):
    def keys(widget):
        return {made.key().toString() for made in widget.findChildren(QShortcut)}

    pages = {name: window.stops[name] for name in STOP_PAGES} | {
        name: window.rooms[name] for name in ROOM_PAGES if name not in ("help", "find")
    }
    general = " ".join(key for key, _ in EVERYWHERE)
    missing = {
        name: [k for k in keys(page) if k and k not in " ".join((general, *(key for key, _ in PLACES[name].keys)))]
        for name, page in pages.items()
    }
    assert {name: found for name, found in missing.items() if found} == {}
    own = [s.key().toString() for s in window.findChildren(QShortcut) if s.parent() is window]
    spans = {*(f"Ctrl+{n}" for n in range(1, 8)), *(f"Alt+{n}" for n in range(1, 10))}
    assert [key for key in own if key not in general and key not in spans] == []


def test_anything_is_found_and_gone_to(qtbot, window):
    page = window.rooms["find"]

    def choose(sought, kind):
        window.guide.find()
        page.search.setText(sought)
        page._look()
        place = next(i for i, thing in enumerate(page._found) if thing.kind == kind)
        page.list.picked.emit(str(place))

    choose("soak", "place")
    assert window.bench.place.stop == "soak"
    other = next(line for line in window.bench.shelf.lines if line.job != window.bench.in_hand.job.id)
    choose(f"{other.name} {other.serial}", "job")
    assert window.bench.in_hand.job.id == other.job
    choose("range ohms zero", "line")
    assert window.jot.edit.text().startswith("range Ohms")
    entry = window.bench.in_hand.job.entries[0].number
    choose(f"entry {entry}", "entry")
    assert window.work.currentWidget() is window.rooms["entries"]
    choose("bench meter", "standard")
    assert window.work.currentWidget() is window.rooms["standards"]
    window.guide.find()
    page.search.setText("xqzw")
    assert "Nothing has these words" in page.none.text()
