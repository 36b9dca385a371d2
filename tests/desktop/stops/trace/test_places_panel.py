"""Where things are, driven through the window: a photo, marks by mouse and keys, and the piece beside what names it."""

import pytest
from PIL import Image
from PySide6.QtCore import QPoint, Qt

from candor.notebook.trace.trace_view import pair_view
from desk import LEFT, fill, jot

SIZE = (800, 500)


@pytest.fixture
def window(qtbot, show, demo, tmp_path):
    made = show(demo)
    made.shelf.job.emit("sb40233")
    made.go_to_stop("trace")
    made.trace.show_view("places")
    picture = tmp_path / "under.png"
    Image.new("RGB", SIZE, (120, 90, 60)).save(picture)
    made.trace.places.attach([picture])
    qtbot.waitUntil(lambda: not made.trace.places.board._image.isNull())
    return made


def click(qtbot, board, x, y):
    at = board._at(x, y)
    qtbot.mouseClick(board, LEFT, pos=QPoint(round(at.x()), round(at.y())))


def pins(window):
    return {p.body.name: (p.body.x, p.body.y) for p in window.bench.in_hand.job.places.pins.values()}


def test_a_part_is_marked_by_a_click_and_moved_by_keys_and_stands_beside_its_reasons(qtbot, window):
    panel = window.trace.places
    assert "Not marked yet: R1" in panel.words.text()
    qtbot.mouseClick(panel.mark, LEFT)
    assert "Write first what to mark" in window.jot.message.text()
    fill(qtbot, panel.name, "R4")
    qtbot.keyClick(panel.name, Qt.Key.Key_Return)
    click(qtbot, panel.board, 0.25, 0.6)
    assert pins(window)["R4"] == pytest.approx((0.25, 0.6), abs=0.005)
    qtbot.keyClick(panel.name, Qt.Key.Key_Return)  # again: it is moved
    qtbot.keyClick(panel.board, Qt.Key.Key_Right)
    qtbot.keyClick(panel.board, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(panel.board, Qt.Key.Key_Return)
    assert pins(window)["R4"] == pytest.approx((0.26, 0.598), abs=0.005)
    assert "Not marked yet: R1, R2, R3, R5" in panel.words.text()
    window.go_to_stop("parts")
    window.parts.choose("R4")
    qtbot.waitUntil(lambda: window.because.place.named == "R4")
    assert window.because.place.isVisible()
    window.parts.choose("R5")
    assert window.because.place.named == ""


def test_a_click_on_a_pin_takes_it_in_hand_and_a_drag_or_the_wheel_marks_nothing(qtbot, window):
    panel = window.trace.places
    for name, x in (("n3", 0.3), ("n4", 0.7)):
        fill(qtbot, panel.name, name)
        qtbot.keyClick(panel.name, Qt.Key.Key_Return)
        click(qtbot, panel.board, x, 0.5)
    click(qtbot, panel.board, 0.3, 0.5)
    assert (panel.name.text(), len(pins(window))) == ("n3", 2)
    before = panel.board._at(0.3, 0.5)
    panel.board.zoom(3.0, before)
    assert panel.board._at(0.3, 0.5).x() == pytest.approx(before.x(), abs=1)
    panel.board.marking = True
    at = panel.board._box().center().toPoint()
    qtbot.mousePress(panel.board, LEFT, pos=at)
    qtbot.mouseMove(panel.board, at + QPoint(30, 5))
    qtbot.mouseRelease(panel.board, LEFT, pos=at + QPoint(30, 5))
    assert len(pins(window)) == 2
    fill(qtbot, panel.name, "n4")  # brought into sight
    assert panel.board._box().contains(panel.board._at(0.7, 0.5))


def test_what_is_no_picture_is_said_and_marks_are_undone(qtbot, window, tmp_path):
    panel = window.trace.places
    words = tmp_path / "words.jpg"
    words.write_text("no picture")
    panel.attach([words])
    assert "is not a picture" in window.jot.message.text()
    fill(qtbot, panel.name, "C1")
    qtbot.keyClick(panel.name, Qt.Key.Key_Return)
    click(qtbot, panel.board, 0.5, 0.5)
    assert "C1" in pins(window)
    window.bench.writer.undo()
    assert pins(window) == {}


def test_the_lugs_marked_beside_are_the_neighbours_that_a_lead_may_have_lain_on(qtbot, window):
    """Of all that would read so only those marked beside the ones meant are named; without marks, all of the network."""
    nodes = window.bench.in_hand.parts().circuit.netlist.nodes
    one, other = nodes[1], nodes[2]
    jot(qtbot, window, f"ohms {one} to {other} 1 ohm")
    job, parts = window.bench.in_hand.job, window.bench.in_hand.parts()
    anywhere = pair_view(job, parts, one, other).neighbours
    panel = window.trace.places
    for name, x in ((one, 0.2), (nodes[3], 0.25)):
        fill(qtbot, panel.name, name)
        qtbot.keyClick(panel.name, Qt.Key.Key_Return)
        click(qtbot, panel.board, x, 0.5)
    marked = pair_view(window.bench.in_hand.job, parts, one, other).neighbours
    assert set(marked) <= set(anywhere) | set(marked)
    assert {n for pair in marked for n in pair} <= {one, other, nodes[3]}
