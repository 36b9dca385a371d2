"""Arrive, Release, the rooms and the frame of the window, from an empty notebook to a certificate."""

from __future__ import annotations

import itertools
import json
from itertools import pairwise

import pypdf
import pytest
from PySide6.QtCore import QMimeData, QPoint, QPointF, QRect, Qt, QUrl
from PySide6.QtGui import QDropEvent, QImage
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel, QLineEdit, QListWidget, QWidget

from candor.desktop.app import TITLE_BAR, fitting_size, make_application, trouble
from candor.desktop.frame.preferences import Preferences
from candor.desktop.frame.speech import Speech
from candor.desktop.shots import draw_shots
from candor.desktop.widgets.controls import Tight
from candor.notebook.entries.kinds import in_words
from candor.notebook.pack_choice import packs_at_hand
from candor.packs.procedure import procedure
from workbench import PACK_TEXT, open_job


def fill(qtbot, edit, text: str) -> None:
    edit.setFocus()
    edit.clear()
    qtbot.keyClicks(edit, text)


def test_from_an_empty_notebook_to_the_first_reading(qtbot, show, notebook):
    """What a newcomer does: a standard, a job, a finding, a reading."""
    window = show(notebook)
    room = window.rooms["standards"]
    assert window.work.currentWidget() is room
    for key, text in (("name", "bench meter"), ("calibrated_on", "2026-01-10")):
        fill(qtbot, room.fields[key], text)
    qtbot.keyClicks(room.lines, "to 2 kV: 0.01 %")
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    assert window.jot.message.text() == "bench meter is recorded."
    window.enter_room("new job")
    fill(qtbot, window.rooms["new job"].serial, "778")
    qtbot.keyClick(window.rooms["new job"].serial, Qt.Key.Key_Return)
    assert (window.bench.in_hand.job.serial, window.bench.in_hand.job.calibrate.standard) == (
        "778",
        next(iter(window.bench.shop.standards)),
    )
    assert window.work.currentWidget() is window.arrive
    window.go_to_stop("calibrate")
    assert window.bench.place.step.title == "Mechanical zero"
    qtbot.keyClick(window.calibrate, Qt.Key.Key_Space)
    assert window.bench.place.step.title == "Warm-up 30 min"


@pytest.mark.parametrize(
    ("field", "text", "words"),
    [
        ("name", "", "A standard needs a name"),
        ("calibrated_on", "2027-01-01", "2027-01-01 is in the future"),
        ("calibrated_on", "last May", "is not a date Candor can read"),
        ("valid_days", "soon", "does not begin with a number"),
        ("valid_days", "0", "greater than 0"),
    ],
)
def test_a_standard_that_cannot_be_is_refused(qtbot, show, demo, field, text, words):
    window = show(demo)
    window.enter_room("standards")
    room, before = window.rooms["standards"], len(window.bench.shop.standards)
    fill(qtbot, room.fields[field], text)
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    assert words in window.jot.message.text()
    assert room.fields[field].text() == text
    assert len(window.bench.shop.standards) == before


def test_recording_a_standard_again_supersedes_it(qtbot, show, demo):
    window = show(demo)
    window.enter_room("standards")
    room = window.rooms["standards"]
    room.list.picked.emit("dc-source")
    assert window.because.word.text() == "Expired"
    fill(qtbot, room.fields["calibrated_on"], "2026-06-14")
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    assert window.because.word.text() == "In date"
    assert sum(s.body.key == "dc-source" for s in window.bench.shop.standards.values()) == 2


def test_a_standard_says_what_it_is_and_of_what(qtbot, show, demo):
    """A meter is read, a source stands as set: what is recorded decides; what the fields do not show is kept."""
    window = show(demo)
    key = next(s.body.key for s in window.bench.shop.standards.values() if s.current)
    known = next(s.body for s in window.bench.shop.standards.values() if s.current and s.body.key == key)
    window.bench.writer.write_shop(known.model_copy(update={"percent_per_kelvin": 0.001, "high_celsius": 25.0}))
    window.enter_room("standards")
    room = window.rooms["standards"]
    room.list.picked.emit(key)
    room.role.setCurrentIndex(room.role.findData("fixed part"))
    room.unit.setCurrentIndex(room.unit.findData("ohm"))
    room.lines.setPlainText("at 100 k: correction 2 U 5 k 2")
    qtbot.mouseClick(room.record, Qt.MouseButton.LeftButton)
    body = next(s.body for s in window.bench.shop.standards.values() if s.current and s.body.key == key)
    assert (body.role, body.unit, body.points[0].value) == ("fixed part", "ohm", 100e3)
    assert (body.percent_per_kelvin, body.high_celsius) == (0.001, 25.0)
    said = " ".join(w.text() for w in window.because.findChildren(QLabel))
    assert "A fixed part: it has one value. A meter's value must be typed" in said
    room.list.picked.emit("")
    assert (room.role.currentData(), room.unit.currentData()) == ("meter", "V")
    room.list.picked.emit(key)
    assert (room.role.currentData(), room.unit.currentData()) == ("fixed part", "ohm")


@pytest.fixture
def arrived(show, notebook, pack):
    open_job(notebook, pack)
    return show(notebook)


def test_findings_by_zone_with_marks(qtbot, arrived):
    page = arrived.arrive
    page.zones.picked.emit("supply")
    fill(qtbot, page.text, "can has wept")
    qtbot.keyClick(page.text, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    fill(qtbot, page.text, "selenium rectifier")
    qtbot.mouseClick(page.hazard, Qt.MouseButton.LeftButton)
    found = [(f.zone, f.mark, f.text) for f in arrived.bench.in_hand.job.arrive.findings]
    assert found == [("supply", "fix", "can has wept"), ("supply", "hazard", "selenium rectifier")]
    assert arrived.because.word.text() == "Bars the way"
    assert [s.accessibleName() for s in arrived.route.line.stations][:3] == [
        "Arrive: begun, 2 open",
        "Parts: untouched",
        "Calibrate: barred",
    ]
    fill(qtbot, page.reason, "replaced by silicon and a resistor")
    qtbot.mouseClick(page.cleared, Qt.MouseButton.LeftButton)
    assert arrived.bench.in_hand.job.arrive.open_hazards == ()
    assert arrived.because.word.text() == "Hazard, cleared"
    qtbot.mouseClick(page.strike, Qt.MouseButton.LeftButton)
    assert [f.text for f in arrived.bench.in_hand.job.arrive.findings] == ["can has wept"]
    fill(qtbot, page.text, "")
    qtbot.keyClick(page.text, Qt.Key.Key_Return)
    assert "Write what you see first" in arrived.jot.message.text()


def test_a_hazard_is_in_hand_first_when_one_comes_back(qtbot, arrived):
    page = arrived.arrive
    fill(qtbot, arrived.jot.edit, "found cord perished hazard")
    qtbot.keyClick(arrived.jot.edit, Qt.Key.Key_Return)
    fill(qtbot, arrived.jot.edit, "found meter window cracked fix")
    qtbot.keyClick(arrived.jot.edit, Qt.Key.Key_Return)
    page.zones.picked.emit("face")
    assert page.finding().text == "meter window cracked"
    arrived.go_to_stop("calibrate")
    arrived.go_to_stop("arrive")
    assert page.finding().text == "cord perished"
    assert page.zone_title.text() == "Cord and plug"
    page.zones.picked.emit("knobs")
    assert page.finding() is None
    assert arrived.because.word.text() == "Nothing found here yet"


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
    arrived.bench.writer.strike_last()
    assert arrived.bench.shelf.lines[0].text == "not proven: replaced C4"
    arrived.bench.writer.unstrike_last()
    jot("checked nothing left to prove")
    assert arrived.bench.in_hand.job.stay.notes[-1].body.text == "checked nothing left to prove"


def test_details_are_kept_when_a_field_is_left(qtbot, arrived):
    page = arrived.arrive
    qtbot.mouseClick(page.views["who"], Qt.MouseButton.LeftButton)
    fill(qtbot, page.fields["owner"], "the collection")
    page.fields["serial"].setFocus()
    assert arrived.bench.in_hand.job.stay.details["owner"] == "the collection"
    count = len(arrived.bench.in_hand.job.entries)
    page.fields["owner"].setFocus()
    page.fields["serial"].setFocus()
    assert len(arrived.bench.in_hand.job.entries) == count
    page.fields["owner"].setFocus()
    fill(qtbot, arrived.jot.edit, "serial 9001")
    qtbot.keyClick(arrived.jot.edit, Qt.Key.Key_Return)
    assert page.fields["serial"].text() == "9001"
    assert "no. 9001" in arrived.route.under.text()


def test_photos_are_dropped_kept_and_shown_the_right_way_up(qtbot, arrived, tmp_path):
    page = arrived.arrive
    picture = tmp_path / "wide.png"
    QImage(400, 100, QImage.Format.Format_RGB32).save(str(picture))
    bad = tmp_path / "letter.jpg"
    bad.write_text("not a picture")
    page.attach([picture])
    assert "Write the finding first" in arrived.jot.message.text()
    fill(qtbot, page.text, "flash mark")
    qtbot.keyClick(page.text, Qt.Key.Key_Return)
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(bad)), QUrl.fromLocalFile(str(picture))])
    copy, left, plain = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    page.dropEvent(QDropEvent(QPointF(5, 5), copy, data, left, plain))
    assert "letter.jpg is not a picture Candor knows" in arrived.jot.message.text()
    kept = arrived.bench.in_hand.job.arrive.findings[0].photos
    assert len(kept) == 1
    assert (arrived.bench.notebook.photo_folder / kept[0]).read_bytes() == picture.read_bytes()
    qtbot.waitUntil(lambda: any(w.pixmap().width() == 108 for w in page.photos.findChildren(QLabel)), timeout=5000)


def test_release_shows_and_saves_what_it_says(qtbot, show, demo, tmp_path):
    window = show(demo)
    window.shelf.job.emit("sb40188")
    with qtbot.waitSignal(window.release.previewed, timeout=20_000):
        window.go_to_stop("release")

    def pages() -> list[QLabel]:
        return [page for page in window.release.pages.findChildren(QLabel) if page.isVisible()]

    qtbot.waitUntil(lambda: len(pages()) >= 4, timeout=5000)
    qtbot.waitUntil(lambda: all(page.height() >= page.pixmap().height() for page in pages()), timeout=2000)
    assert cut_off(window) == []
    assert window.release.left_words.text() == "As left: passes. 42 pass, of 42."
    assert window.release.save(tmp_path / "c.pdf")
    assert window.release.save(tmp_path / "c.json")
    assert "Saltmarsh Bench" in pypdf.PdfReader(tmp_path / "c.pdf").pages[0].extract_text()
    record = json.loads((tmp_path / "c.json").read_text())
    assert (record["serial"], record["as_left"]["outcome"]) == ("40188", "passes")
    assert not window.release.save(tmp_path / "no such folder" / "c.pdf")
    assert "could not be written" in window.jot.message.text()
    assert not window.release.sign.isEnabled()  # nothing was written since the last was signed
    fill(qtbot, window.release.fields["celsius"], "22.7")
    window.release.waits_for.setFocus()
    assert window.release.sign.isEnabled()
    window.release.sign.click()
    assert len(window.bench.in_hand.job.release.certificates) == 2


def test_release_takes_conditions_and_status(qtbot, arrived):
    arrived.go_to_stop("release")
    page = arrived.release
    assert "The procedure is not finished" in page.remarks.text()
    fill(qtbot, page.fields["celsius"], "warm")
    page.waits_for.setFocus()
    assert "does not begin with a number" in arrived.jot.message.text()
    fill(qtbot, page.fields["celsius"], "23,4")
    page.waits_for.setFocus()
    assert arrived.bench.in_hand.job.calibrate.celsius == 23.4
    qtbot.keyClicks(page.waits_for, "two capacitors")
    qtbot.mouseClick(page.status["waiting"], Qt.MouseButton.LeftButton)
    assert (arrived.bench.shelf.lines[0].group, arrived.bench.shelf.lines[0].text) == ("waiting", "two capacitors")


def test_packs_are_taken_in_or_their_faults_listed(qtbot, show, notebook, tmp_path, pack):
    window = show(notebook)
    window.enter_room("packs")
    room = window.rooms["packs"]
    bad = tmp_path / "bad.yaml"
    bad.write_text("pack: 1\nid: X Y\n")
    assert not room.read(bad)
    assert room.faults.isVisible()
    assert room.faults.item(0).text().startswith("line 1, column 1")
    good = tmp_path / "good.yaml"
    good.write_text(PACK_TEXT.replace("id: tarnholm-vm6", "id: halvergate-dv2").replace("type: VM-6", "type: DV-2"))
    assert room.read(good)
    assert not room.faults.isVisible()
    assert {p.id for p in packs_at_hand(window.bench.notebook)} >= {"tarnholm-vm6", "halvergate-dv2"}


def test_theme_and_text_size_are_remembered(qtbot, show, notebook, tmp_path):
    window = show(notebook)
    window.enter_room("look")
    qtbot.mouseClick(window.rooms["look"].modes["dark"], Qt.MouseButton.LeftButton)
    qtbot.mouseClick(window.rooms["look"].sizes[1.5], Qt.MouseButton.LeftButton)
    kept = Preferences.load(tmp_path / "look.json")
    assert (kept.mode, kept.scale) == ("dark", 1.5)
    (tmp_path / "broken.json").write_text("{")
    assert Preferences.load(tmp_path / "broken.json").mode == "system"
    assert "could not be kept" in Preferences("dark", 1.0, tmp_path / "look.json" / "x.json").save()
    fill(qtbot, window.rooms["look"].shop, "My Bench")
    window.rooms["look"].modes["dark"].setFocus()
    assert "My Bench" in window.bench.shop.name


def test_every_entry_can_be_found_struck_and_stood_again(qtbot, show, demo):
    window = show(demo)
    window.enter_room("entries")
    room = window.rooms["entries"]
    assert room.list.count() == len(window.bench.in_hand.job.entries)
    number = window.bench.in_hand.job.calibrate.readings[3].entry.number
    fill(qtbot, room.search, str(number))
    assert room.list.count() == 1
    assert room.list.item(0).text().startswith(f"{number}   dc+/5/1, as found: ")
    room.list.picked.emit(room.list.item(0).data(Qt.ItemDataRole.UserRole).key)
    assert window.because.word.text() == f"Entry {number}, reading"
    qtbot.mouseClick(room.strike, Qt.MouseButton.LeftButton)
    assert window.bench.in_hand.found.measured == 13
    assert room.list.item(0).data(Qt.ItemDataRole.UserRole).struck
    assert not room.strike.isEnabled()
    qtbot.mouseClick(room.unstrike, Qt.MouseButton.LeftButton)
    assert window.bench.in_hand.found.measured == 14
    fill(qtbot, room.search, "no such words")
    assert room.list.count() == 0
    fill(qtbot, room.search, "on the bench; pack")
    room.list.picked.emit(room.list.item(0).data(Qt.ItemDataRole.UserRole).key)
    assert not room.strike.isEnabled()  # the opening of a job is not struck from here


def test_every_kind_of_entry_has_words(demo):
    """No entry is shown as a bare structure."""
    for job in ("", "sb40188", "sb40217", "sb40221", "sb40224"):
        entries = demo.entries_of(job)
        numbers = {e.id: e.number for e in (*demo.entries_of(""), *entries)}
        for entry in entries:
            words = in_words(entry, numbers)
            assert "kind=" not in words
            assert "entry 0" not in words


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


def test_every_control_has_a_name(show, demo):
    window = show(demo)
    for place in visit(window):
        for kind in (QAbstractButton, QLineEdit, QListWidget, QComboBox):
            for widget in window.findChildren(kind):
                if widget.isVisible() and not widget.objectName().startswith("qt_"):
                    assert widget.accessibleName(), f"{place}: {widget}"
                    assert kind is not QAbstractButton or widget.toolTip(), f"{place}: {widget.text()}"


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


@pytest.mark.parametrize(
    ("size", "scale"), [((1280, 800), 1.0), ((1024, 700), 1.0), ((1280, 800), 1.5), ((1024, 700), 1.5)]
)
def test_nothing_is_cut_off(qtbot, show, demo, size, scale):
    window = show(demo, scale=scale, size=size)
    assert (window.width(), window.height()) == size
    for place in visit(window):
        if place == "release":  # its pages are drawn beside the window
            qtbot.waitUntil(lambda: bool(window.release.pages.findChildren(QLabel)), timeout=10_000)

        def fits(place: str = place) -> None:
            assert cut_off(window) == [], place

        qtbot.waitUntil(fits, timeout=3000)
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


def test_tab_completes_a_word_in_the_jot_line(qtbot, arrived):
    fill(qtbot, arrived.jot.edit, "fou")
    qtbot.keyClick(arrived.jot.edit, Qt.Key.Key_Tab)
    assert arrived.jot.edit.text() == "found "
    qtbot.keyClick(arrived.jot.edit, Qt.Key.Key_Escape)
    assert arrived.jot.edit.text() == ""


def test_trouble_at_the_start_is_said_in_a_window(qtbot):
    make_application()
    box = trouble("notebook.candor is damaged. It was left untouched.")
    qtbot.addWidget(box)
    box.show()
    assert box.text() == "notebook.candor is damaged. It was left untouched."
    assert box.findChildren(QAbstractButton)[0].isVisible()


def test_an_expired_standard_is_named_so_where_it_is_chosen(qtbot, show, demo):
    window = show(demo)
    names = [window.calibrate.readout.standard.itemText(i) for i in range(window.calibrate.readout.standard.count())]
    assert names == ["bench meter A", "d.c. source box, expired", "record another …"]


def test_speech_without_the_program_says_so():
    assert "not installed" in Speech(program="no-such-program-here").toggle()


def test_speech_runs_the_program_it_is_given(qtbot):
    speech = Speech(program="true")
    speech.say("silent while off")
    assert speech.toggle() == "Speech is on."
    speech.say("seventy-five")
    speech.stop()
    assert speech.toggle() == "Speech is off."


def test_shots_draw_the_views_by_their_names(qapp, tmp_path):
    """Two of them, one in each theme; that each has its picture in docs is looked at with the project."""
    made = draw_shots(tmp_path, only=("packs-light", "parts-dark"))
    assert [path.name for path in made] == ["parts-dark.png", "packs-light.png"]
    ground = []
    for path in made:
        image = QImage(str(path))
        assert (image.width(), image.height()) == (1280, 800)
        colours = {image.pixel(x, y) for x in range(0, 1280, 40) for y in range(0, 800, 40)}
        assert len(colours) > 3, path.name
        ground.append(image.pixelColor(600, 790).lightness())
    assert ground[0] < 100 < ground[1]


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
    qtbot.waitUntil(lambda: window.calibrate.dial.height() < large[0], timeout=5000)
    assert large[0] > 1.25 * window.calibrate.dial.height()
    assert large[1] > 1.5 * window.calibrate.ribbon.height()
    assert cut_off(window) == []


def test_a_new_window_fits_what_the_desktop_leaves(qapp):
    free = qapp.primaryScreen().availableGeometry()
    size = fitting_size()
    assert size.width() <= free.width()
    assert size.height() <= free.height() - TITLE_BAR
    assert size.height() <= 800
