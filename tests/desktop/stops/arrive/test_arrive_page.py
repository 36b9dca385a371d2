"""The walk round, driven through the window."""

from __future__ import annotations

from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent, QImage
from PySide6.QtWidgets import QLabel

from candor.notebook.entries.stay_entries import JobOpened
from candor.packs.bundled import bundled_pack
from desk import fill


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
    assert [s.accessibleName() for s in arrived.route.line.stations][:5] == [
        "Arrive: begun, 2 open",
        "Parts: untouched",
        "Power: barred",
        "Trace: untouched",
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
    assert "Enter the finding first" in arrived.jot.message.text()
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
    qtbot.waitUntil(lambda: any(w.pixmap().width() == 108 for w in page.photos.findChildren(QLabel)))


def test_what_a_zone_is_made_of_is_said_before_anything_is_touched(show, notebook):
    pack = bundled_pack("halvergate-ev9")
    notebook.write("j", JobOpened(maker="Halvergate", type="EV-9", serial="1", pack_digest=notebook.keep_pack(pack)))
    window = show(notebook)
    window.go_to_stop("arrive")
    window.arrive.zones.picked.emit("supply")
    assert "Selenium fails with poisonous fumes" in window.arrive.checklist.materials.words.text()
    window.arrive.zones.picked.emit("cord")
    assert not window.arrive.checklist.materials.isVisible()
    window.arrive.show_view("clean")
    assert "Leaking cells burn skin and eyes" in window.arrive.cleaning.materials.words.text()
    assert window.arrive.cleaning.materials.isVisible()
