"""Arrive, Release, the rooms and the frame of the window, from an empty notebook to a certificate."""

from __future__ import annotations

import itertools
from itertools import pairwise

import pytest
from PySide6.QtCore import QEvent, QObject, QPoint, QRect, Qt
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel, QLineEdit, QListWidget, QWidget

from candor.demo.live_jobs import POWERED
from candor.desktop.widgets.caution import CautionLine
from candor.desktop.widgets.controls import Tight
from candor.packs.procedure import procedure
from desk import fill, jot


def test_from_an_empty_notebook_to_the_first_reading(qtbot, show, notebook):
    """What a newcomer does: a standard, a job by a pack, a finding, a reading."""
    window = show(notebook)
    assert window.work.currentWidget() is window.new_job
    assert window.new_job.ways.isVisible()
    qtbot.mouseClick(window.new_job.standard, Qt.MouseButton.LeftButton)
    room = window.rooms["standards"]
    assert window.work.currentWidget() is room
    for key, text in (("name", "bench meter"), ("calibrated_on", "2026-01-10")):
        fill(qtbot, room.fields[key], text)
    qtbot.mouseClick(room.good_for.as_text, Qt.MouseButton.LeftButton)
    qtbot.keyClicks(room.good_for.text, "to 2 kV: 0.01 %")
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    assert window.jot.message.text() == "bench meter is recorded."
    window.enter_room("new job")
    fill(qtbot, window.new_job.name, "Tarnholm VM-6 778")
    qtbot.keyClick(window.new_job.name, Qt.Key.Key_Return)
    assert (window.bench.in_hand.job.serial, window.bench.in_hand.job.calibrate.standards[-1]) == (
        "778",
        next(iter(window.bench.shop.standards)),
    )
    assert window.work.currentWidget() is window.arrive
    window.go_to_stop("calibrate")
    assert window.bench.place.step.title == "Mechanical zero"
    qtbot.keyClick(window.calibrate, Qt.Key.Key_Space)
    assert window.bench.place.step.title == "Warm-up 30 min"


def visit(window):
    """Walk through every page; yield its name."""
    for stop in ("arrive", "calibrate", "release"):
        window.go_to_stop(stop)
        QApplication.processEvents()
        yield stop
    window.shelf.job.emit("sb40221")
    window.go_to_stop("parts")
    window.parts.choose("C17")
    for panel in window.parts.panels:
        window.parts.show_panel(panel)
        QApplication.processEvents()
        yield f"parts, {panel}"
    for room in window.rooms:
        window.enter_room(room)
        QApplication.processEvents()
        yield room


def test_no_place_opens_a_window_of_its_own_and_every_control_has_a_name(show, demo):
    """A window that flashes up takes the keyboard with it."""
    window = show(demo)
    shown = []

    class Watch(QObject):
        def eventFilter(self, watched, event):  # noqa: N802 - Qt calls it so
            if event.type() == QEvent.Type.Show and isinstance(watched, QWidget) and watched.isWindow():
                shown.append(f"{type(watched).__name__} {watched.accessibleName()}")
            return False

    watch = Watch()
    QApplication.instance().installEventFilter(watch)
    for place in visit(window):
        assert unnamed(window) == [], place
    for stop in ("power", "trace", "soak"):
        window.go_to_stop(stop)
        QApplication.processEvents()
        assert unnamed(window) == [], stop
    QApplication.instance().removeEventFilter(watch)
    assert shown == []
    assert window.isActiveWindow()


def unnamed(window) -> list[str]:
    """Controls without a name, buttons without a tip."""
    return [
        f"{kind.__name__} {widget.objectName()} {widget.accessibleName()}"
        for kind in (QAbstractButton, QLineEdit, QListWidget, QComboBox)
        for widget in window.findChildren(kind)
        if widget.isVisible() and not widget.objectName().startswith("qt_")
        if not widget.accessibleName() or (kind is QAbstractButton and not widget.toolTip())
    ]


def cut_off(window) -> list[str]:
    """Texts that do not fit where they stand, and parts of a column that lie over each other."""
    found = []
    for column in window.findChildren(Tight):
        boxes = [column.itemAt(i).geometry() for i in range(column.count()) if not column.itemAt(i).isEmpty()]
        if column.parentWidget().isVisible():
            found += [f"{a} over {b}" for a, b in pairwise(boxes) if a.intersects(b)]
    for widget in window.findChildren(QWidget):
        if not widget.isVisible():
            continue
        if isinstance(widget, QLabel) and not widget.pixmap().isNull():
            needs, has = widget.pixmap().height(), widget.height()
        elif isinstance(widget, QLabel) and widget.text() and not widget.wordWrap() and widget.objectName() != "chip":
            needs, has = widget.fontMetrics().horizontalAdvance(widget.text()), widget.width()
        elif isinstance(widget, QAbstractButton) and widget.text():
            needs, has = widget.minimumSizeHint().width(), widget.width()
        elif isinstance(widget, QLabel) and widget.text() and widget.wordWrap():
            needs, has = widget.heightForWidth(widget.width()), widget.height()
        else:
            continue
        if needs > has + 1:
            found.append(f"{type(widget).__name__} “{widget.text()[:40]}” needs {needs}, has {has}")
    return found


@pytest.mark.parametrize(("size", "scale"), [((1280, 800), 1.0), ((1024, 700), 1.5)])
def test_nothing_is_cut_off(qtbot, show, demo, size, scale):
    window = show(demo, scale=scale, size=size)
    assert (window.width(), window.height()) == size
    for place in visit(window):
        if place == "release":  # its pages are drawn beside the window
            qtbot.waitUntil(lambda: bool(window.release.pages.findChildren(QLabel)))

        def fits(place: str = place) -> None:
            assert cut_off(window) == [], place

        qtbot.waitUntil(fits)
    window.shelf.job.emit("sb40217")
    window.toggle_arms_length()
    window.showNormal()
    window.resize(*size)
    qtbot.wait(50)
    for step in procedure(window.bench.in_hand.pack):
        window.bench.place.go("calibrate", step.key)
        window.hand.nudge(-1.25)
        qtbot.wait(5)
        assert cut_off(window.arms_length) == [], step.key


def test_a_narrow_window_still_reaches_every_zone_and_job(qtbot, show, demo):
    window = show(demo, scale=1.5, size=(1024, 700))
    window.go_to_stop("arrive")
    assert not window.arrive.zones.isVisible()
    choice = window.arrive.zone_choice
    qtbot.keyClick(choice, Qt.Key.Key_Down)
    choice.activated.emit(choice.findData("supply"))
    assert window.arrive.zone_title.text() == "Power supply"
    qtbot.mouseClick(window.route.shelf, Qt.MouseButton.LeftButton)
    assert window.shelf.isVisible()
    window.shelf.list.picked.emit("sb40188")
    assert not window.shelf.isVisible()
    assert window.bench.in_hand.job.id == "sb40188"


def test_the_tab_key_reaches_every_kind_of_control(qtbot, show, demo):
    window = show(demo)
    window.go_to_stop("calibrate")
    reached = set()
    window.calibrate.dial.setFocus()
    for _ in range(60):
        focus = QApplication.focusWidget()
        reached.add(focus.accessibleName() or focus.objectName())
        QApplication.focusWidget().nextInFocusChain()
        qtbot.keyClick(focus, Qt.Key.Key_Tab)
    assert {"Dial", "Needle", "Error ribbon", "Again", "Jot", "Shelf", "Steps of the procedure"} <= reached


def place_in(page, widget) -> QRect:
    return QRect(widget.mapTo(page, QPoint(0, 0)), widget.size())


@pytest.mark.parametrize("panel", ["measure", "place", "tester", "decide", "facts"])
def test_nothing_runs_over_anything_at_parts_in_a_small_window_with_large_type(show, demo, panel):
    window = show(demo, scale=1.5, size=(1024, 700))
    window.shelf.job.emit("sb40221")
    window.go_to_stop("parts")
    page = window.parts
    page.choose("C17")
    page.show_panel(panel)
    QApplication.processEvents()
    shown = [page.table, page.panel, page.money, page.order, page.title, page.sample, *page.tabs.values()]
    places = [place_in(page.area.body, w) for w in shown if w.isVisible()]
    for first, second in itertools.combinations(places, 2):
        assert not first.intersects(second), (first, second)
    assert page.table.height() >= window._theme.px(100)


def warnings_cut(window) -> list[str]:
    """Warnings of which a word is missing: in a label too small for them, or in a line that stands nowhere whole."""
    labels = [x for x in window.findChildren(QLabel) if x.property("tint") == "brick" and x.isVisible() and x.text()]
    lines = [x for x in window.findChildren(CautionLine) if x.isVisible() and x.is_cut]
    whole = [x.text() for x in labels]
    return [
        *(x.text() for x in labels if x.wordWrap() and x.heightForWidth(x.width()) > x.height() + 1),
        *(x.text() for x in labels if not x.wordWrap() and x.sizeHint().width() > x.width() + 1),
        *(x.text() for x in lines if x.text() not in whole),
    ]


def not_cut(window, place) -> None:
    assert warnings_cut(window) == [], place


@pytest.mark.parametrize(("size", "scale"), [((1024, 700), 1.5)])
def test_no_warning_is_ever_cut_off_at_any_stop_of_any_job(qtbot, show, demo, size, scale):
    window = show(demo, scale=scale, size=size)
    seen = 0
    for job in [x.job for x in window.bench.shelf.lines]:
        window.shelf.job.emit(job)
        for stop in ("arrive", "parts", "power", "trace", "calibrate", "soak", "release"):
            window.go_to_stop(stop)
            qtbot.waitUntil(lambda place=f"{job}, {stop}": not_cut(window, place))
            seen += bool(window.route.caution.text())
    assert seen > 10


@pytest.mark.parametrize("scale", [1.0, 1.5])
def test_a_long_reason_is_said_whole_under_the_line_whatever_was_understood_of_it(qtbot, show, demo, scale):
    window = show(demo, scale=scale, size=(1024, 700))
    window.shelf.job.emit("sb40217")
    window.go_to_stop("calibrate")
    jot(qtbot, window, "10.2 V ref 10.03 parsecs")
    for said in (window.jot.reason, window.jot.message):
        window.bench.voice.refuse("Nothing was written. " + 12 * "Say what it was, and where. ")
        QApplication.processEvents()
        assert said.isVisible()
        assert len(said.text()) > 60
        assert said.heightForWidth(said.width()) <= said.height() + 1
        assert said.visibleRegion().boundingRect().size() == said.size()


@pytest.mark.parametrize(("size", "scale"), [((1280, 800), 1.0), ((1024, 700), 1.5), ((1920, 1080), 1.5)])
def test_plug_out_is_whole_at_arms_length_at_every_size(qtbot, show, demo, size, scale):
    window = show(demo, scale=scale, size=size)
    window.shelf.job.emit(POWERED)
    window.go_to_stop("power")
    window.toggle_arms_length()
    window.showNormal()
    window.resize(*size)
    jot(qtbot, window, "smoke from the transformer")
    window.bench.clock.ticked.emit()
    qtbot.wait(50)
    view = window.afar.power
    assert view.alarm.isVisible()
    for widget in (view.alarm, view.alarm_words):
        inside = QRect(widget.mapTo(view, QPoint(0, 0)), widget.size())
        assert view.rect().contains(inside), (widget, inside)
    assert cut_off(view) == []


def test_the_triangle_of_a_caution_never_stands_on_its_words(show, demo):
    window = show(demo, scale=1.5, size=(1024, 700))
    caution = window.route.caution
    caution.say("a caution that is far too long for the corner it is given, and then some more")
    QApplication.processEvents()
    image = caution.grab().toImage()
    ink = [
        x
        for x in range(image.width())
        if any(image.pixelColor(x, y) != image.pixelColor(0, 0) for y in range(image.height()))
    ]
    gaps = [b - a for a, b in itertools.pairwise(ink)]
    radius = caution._radius()
    assert max(gaps[: 4 * radius]) >= radius // 2  # the triangle, a gap, then words
    assert caution.width() - caution.room() >= 3 * radius


def test_a_large_screen_gives_its_room_to_face_and_ribbon(qtbot, show, demo):
    window = show(demo, size=(1920, 1080))
    window.shelf.job.emit("sb40217")
    window.go_to_stop("calibrate")
    QApplication.processEvents()
    large = (window.calibrate.dial.height(), window.calibrate.ribbon.height())
    window.resize(1280, 800)
    qtbot.waitUntil(lambda: window.calibrate.dial.height() < large[0])
    assert large[0] > 1.25 * window.calibrate.dial.height()
    assert large[1] > 1.5 * window.calibrate.ribbon.height()
    assert cut_off(window) == []
