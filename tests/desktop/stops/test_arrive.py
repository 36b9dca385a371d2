"""Arrive, whole: checklists that grow, the take-apart map and its way back, the sticker that opens a history."""

from __future__ import annotations

import struct
import zlib

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication, QImage

from candor.core.errors import CandorError, ValueTextError
from candor.desktop.frame.thumbnails import thumbnail
from candor.notebook.arrive.fasteners_text import read_fasteners
from candor.notebook.entries.arrive_entries import Fasteners, say_fasteners
from candor.notebook.entries.release_entries import CertificateIssued
from candor.notebook.work.history_of import check_detail
from candor.packs.load import parse_pack
from desk import fill, jot
from workbench import PACK_TEXT, open_job


@pytest.fixture
def page(show, notebook, pack):
    open_job(notebook, pack)
    return show(notebook).arrive


def take_off(qtbot, page, what: str, held: str = "", wires: str = "") -> None:
    for field, text in ((page.map.what, what), (page.map.fasteners, held), (page.map.wires, wires)):
        fill(qtbot, field, text)
    qtbot.keyClick(page.map.wires, Qt.Key.Key_Return)


def test_a_checklist_comes_from_the_pack_and_grows(qtbot, page, notebook, show):
    bench = page.window().bench
    page.zones.picked.emit("cord")
    assert list(page.checklist.items) == ["perished rubber", "no earth", "clamp that holds nothing", "no fuse"]
    fuse = page.checklist.items["no fuse"]
    qtbot.mouseClick(fuse.absent, Qt.MouseButton.LeftButton)
    assert set(bench.in_hand.job.arrive.looked) == {("cord", "no fuse")}
    assert (fuse.absent.isChecked(), fuse.seen.isChecked(), bench.in_hand.job.arrive.findings) == (True, False, ())
    qtbot.mouseClick(fuse.absent, Qt.MouseButton.LeftButton)
    assert set(bench.in_hand.job.arrive.looked) == set()
    qtbot.mouseClick(page.checklist.another, Qt.MouseButton.LeftButton)
    fill(qtbot, page.checklist.own, "plug fuse of the wrong rating")
    qtbot.keyClick(page.checklist.own, Qt.Key.Key_Return)
    assert "plug fuse of the wrong rating" in page.checklist.items
    open_job(notebook, bench.in_hand.pack, "another")
    bench.open_job("another")
    page.zones.picked.emit("cord")
    assert "plug fuse of the wrong rating" in page.checklist.items
    page.zones.picked.emit("face")
    assert "plug fuse of the wrong rating" not in page.checklist.items


def test_seen_and_not_seen_are_two_deeds_and_what_is_severe_carries_its_mark(qtbot, page):
    """Pressing says that it is there: a hazard where such a thing is one, with a shape of its own."""
    bench = page.window().bench
    page.zones.picked.emit("cord")
    items = page.checklist.items
    shapes = lambda: {name: made.shape._shape for name, made in items.items()}  # noqa: E731
    assert set(shapes().values()) == {"ring"}
    qtbot.mouseClick(items["perished rubber"].absent, Qt.MouseButton.LeftButton)
    qtbot.mouseClick(items["no earth"].seen, Qt.MouseButton.LeftButton)
    qtbot.mouseClick(items["no fuse"].seen, Qt.MouseButton.LeftButton)
    found = {f.text: f.mark for f in bench.in_hand.job.arrive.findings}
    assert found == {"no earth": "fix", "no fuse": "hazard"}
    assert shapes() == {
        "perished rubber": "full",
        "no earth": "fix",
        "clamp that holds nothing": "ring",
        "no fuse": "hazard",
    }
    qtbot.mouseClick(items["perished rubber"].seen, Qt.MouseButton.LeftButton)  # it is there after all
    assert bench.in_hand.job.arrive.looked == {}
    assert [f.text for f in bench.in_hand.job.arrive.open_hazards] == ["no fuse", "perished rubber"]
    qtbot.mouseClick(items["no fuse"].seen, Qt.MouseButton.LeftButton)
    assert "strike that" in page.window().jot.message.text()
    assert len(bench.in_hand.job.arrive.findings) == 3


def test_a_jotted_finding_is_matched_to_what_is_looked_for(qtbot, page):
    window = page.window()
    jot(qtbot, window, "cord perished")
    (found,) = window.bench.in_hand.job.arrive.findings
    assert (found.mark, found.zone) == ("hazard", "cord")
    page.zones.picked.emit("cord")
    assert page.checklist.items["perished rubber"].seen.isChecked()
    fill(qtbot, page.text, "fuse bridged with wire")
    qtbot.keyClick(page.text, Qt.Key.Key_Return)  # Enter writes it by what it usually is
    assert window.bench.in_hand.job.arrive.findings[-1].mark == "hazard"


def test_one_s_own_items_belong_to_their_pack(qtbot, page, notebook):
    page.zones.picked.emit("cord")
    qtbot.mouseClick(page.checklist.another, Qt.MouseButton.LeftButton)
    fill(qtbot, page.checklist.own, "only this type")
    qtbot.keyClick(page.checklist.own, Qt.Key.Key_Return)
    other = parse_pack(PACK_TEXT.replace("id: tarnholm-vm6", "id: corvane-x1"), "other")
    open_job(notebook, other, "other")
    page.window().bench.open_job("other")
    page.zones.picked.emit("cord")
    assert "only this type" not in page.checklist.items


def test_the_map_goes_back_and_counts_what_is_left_over(qtbot, page):
    job = lambda: page._in_hand.job  # noqa: E731 - the job is folded anew at every entry
    qtbot.mouseClick(page.views["apart"], Qt.MouseButton.LeftButton)
    take_off(qtbot, page, "case back", "4 x 12 mm pan, corners; 1 x 20 mm pan, beside the cord")
    take_off(qtbot, page, "chassis", "2 x 8 mm hex", "white to tag 4")
    assert [(t.entry.body.what, t.count) for t in job().arrive.taken] == [("case back", 5), ("chassis", 2)]
    assert page.map.count.text() == "7 fasteners off, 2 of 2 steps to go back."
    qtbot.mouseClick(page.views["together"], Qt.MouseButton.LeftButton)
    assert page.map.step().entry.body.what == "chassis"  # the last off is the first back
    qtbot.mouseClick(page.map.back, Qt.MouseButton.LeftButton)
    assert page.map.step().entry.body.what == "case back"
    assert page.map.count.text() == "5 fasteners off, 1 of 2 steps to go back."
    fill(qtbot, page.map.left, "6")
    qtbot.keyClick(page.map.left, Qt.Key.Key_Return)
    assert "this step has 5 fasteners. Expected: 0 to 5" in page.window().jot.message.text()
    fill(qtbot, page.map.left, "1")
    qtbot.keyClick(page.map.left, Qt.Key.Key_Return)
    assert page.map.count.text() == "All back on, and 1 fasteners left over: one of the steps is missing something."
    page._writer.undo()
    fill(qtbot, page.map.left, "0")
    qtbot.keyClick(page.map.left, Qt.Key.Key_Return)
    assert page.map.count.text() == "All back on, nothing left over."
    assert (job().arrive.fasteners_off, job().arrive.left_over) == (0, 0)


def test_a_step_that_cannot_be_read_is_kept_in_its_fields(qtbot, page):
    qtbot.mouseClick(page.views["apart"], Qt.MouseButton.LeftButton)
    take_off(qtbot, page, "", "4 x M3")
    assert "Write what comes off first" in page.window().jot.message.text()
    take_off(qtbot, page, "lid", "some screws")
    assert "“some screws” does not count fasteners" in page.window().jot.message.text()
    assert (page.map.what.text(), page.map.fasteners.text()) == ("lid", "some screws")
    assert page._in_hand.job.arrive.taken == ()


def test_photos_of_a_step_are_pasted_and_kept(qtbot, page, tmp_path):
    qtbot.mouseClick(page.views["apart"], Qt.MouseButton.LeftButton)
    page.paste_photo()
    assert "Write the finding or the step first" in page.window().jot.message.text()
    take_off(qtbot, page, "lid")
    QGuiApplication.clipboard().setText("words, no picture")
    page.paste_photo()
    assert "no picture on the clipboard" in page.window().jot.message.text()
    image = QImage(60, 40, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.darkCyan)
    QGuiApplication.clipboard().setImage(image)
    page.paste_photo()
    kept = page._in_hand.job.arrive.taken[0].photos
    assert QImage(str(page._notebook.photo_folder / kept[0])).size() == image.size()
    picture = tmp_path / "lid.png"
    image.fill(Qt.GlobalColor.darkRed)
    image.save(str(picture))
    page.attach([picture])
    assert len(page._in_hand.job.arrive.taken[0].photos) == 2
    QGuiApplication.clipboard().clear()


def test_a_photo_of_80_megapixels_gets_its_thumbnail(page, tmp_path):
    """A PNG is decoded whole: 320 MB, over the library's own limit."""
    rows = zlib.compress(bytes(1 + 4 * 10_000) * 8_000, 1)  # of four channels, black
    chunks = ((b"IHDR", struct.pack(">IIBBBBB", 10_000, 8_000, 8, 6, 0, 0, 0)), (b"IDAT", rows), (b"IEND", b""))
    packed = [struct.pack(">I", len(d)) + k + d + struct.pack(">I", zlib.crc32(k + d)) for k, d in chunks]
    (tmp_path / "large.png").write_bytes(b"\x89PNG\r\n\x1a\n" + b"".join(packed))
    small = thumbnail(tmp_path / "large.png", 108)
    assert (small.width(), small.height()) == (108, 86)


def test_a_sticker_opens_the_history_and_certificates_go_on(qtbot, page, notebook):
    window = page.window()
    qtbot.mouseClick(page.views["who"], Qt.MouseButton.LeftButton)
    assert window.because.word.text() == "Its history"
    for text, words in (("last May", "The sticker begins with its date."), ("2031-01-01 later", "is in the future")):
        fill(qtbot, page.fields["sticker"], text)
        page.fields["owner"].setFocus()
        assert words in window.jot.message.text()
        assert page.fields["sticker"].text() == text
    fill(qtbot, page.fields["sticker"], "2015-06-01 county laboratory")
    page.fields["owner"].setFocus()
    open_job(notebook, page._in_hand.pack, "later")
    notebook.write("later", CertificateIssued(number="N-1", digest="d", sentence="42 pass, of 42"), notebook.clock())
    page.window().bench.tick()
    lines = [(line.day.isoformat(), line.words) for line in page._in_hand.history()]
    assert lines[0] == ("2015-06-01", "sticker: county laboratory")
    assert lines[1][1] == "certificate N-1: 42 pass, of 42"


@pytest.mark.parametrize(
    ("text", "first"),
    [
        ("4 x 12 mm pan, case bottom", Fasteners(count=4, length="12 mm", head="pan", where="case bottom")),
        ("4x1/4in hex", Fasteners(count=4, length="1/4in", head="hex")),
        ("2 nuts", Fasteners(count=2, head="nuts")),
        ("1 x 20 mm", Fasteners(count=1, length="20 mm")),
        (
            "3 × self-tapping, left, behind the handle",
            Fasteners(count=3, head="self-tapping", where="left, behind the handle"),
        ),
    ],
)
def test_fasteners_as_people_write_them(text, first):
    found = read_fasteners(text)
    assert found == (first,)
    assert read_fasteners(say_fasteners(found)) == found


def test_fasteners_that_cannot_be():
    assert read_fasteners(" ; ") == ()
    for text, words in (
        ("a few screws", "does not count fasteners"),
        ("0 x 3 mm", "from 1 to 500"),
        ("4 x pan; x", "“x”"),
    ):
        with pytest.raises(ValueTextError, match=words):
            read_fasteners(text)


def test_other_details_may_be_anything(clock):
    check_detail("owner", "31.12.2031", clock().date())
    check_detail("sticker", "", clock().date())
    with pytest.raises(CandorError, match="The sticker begins with its date"):
        check_detail("sticker", "no date", clock().date())
