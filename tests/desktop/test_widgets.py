"""The drawn parts: geometry that can be trusted, shapes that differ without colour, rows that stay put."""

from __future__ import annotations

import threading

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QImage, QPainter
from PySide6.QtWidgets import QPushButton, QWidget

from candor.core.calibration.run import RunResult
from candor.core.errors import RangeError
from candor.core.verdict.rules import Outcome
from candor.desktop.app import make_application
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.drawn import Drawn
from candor.desktop.widgets.error_ribbon import TOP, Ribbon
from candor.desktop.widgets.flow import flow
from candor.desktop.widgets.glyphs import SHAPES, Glyph, draw_glyph
from candor.desktop.widgets.needle_dial import Dial
from candor.desktop.widgets.row_list import Row, RowList
from candor.desktop.widgets.worker import Work
from candor.packs.load import parse_pack
from candor.packs.procedure import test_points as points_of


@pytest.fixture
def theme(qapp) -> Theme:
    make_application()
    return Theme("light")


def drawn(widget: QWidget) -> QImage:
    return widget.grab().toImage()


@pytest.fixture
def dial(qtbot, theme, pack) -> Dial:
    made = Dial(theme)
    qtbot.addWidget(made)
    made.resize(450, 250)
    made.show_face(pack.dial)
    return made


@settings(max_examples=30, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(share=st.floats(-0.03, 1.05), width=st.integers(240, 1400), height=st.integers(190, 900))
def test_where_the_needle_is_drawn_is_what_it_reads(dial, pack, share, width, height):
    """The spot for a value, taken back through the mouse, is that value, at any size of the dial."""
    point = points_of(pack, "as found")[0]
    dial.resize(width, height)
    dial.show_reading(
        point, Drawn(point.nominal, None, point.nominal - point.nominal_limit, point.nominal + point.nominal_limit)
    )
    told = []
    dial.dragged.connect(told.append)
    value = point.indicator.value_at_deflection(share)
    spot = dial._spot(point.indicator.deflection_of(value), dial._geometry()[1])

    class At:
        def position(self) -> QPointF:
            return spot

    dial._drag_to(At())
    dial.dragged.disconnect(told.append)
    assert told[-1] == pytest.approx(value, abs=1e-6 * point.full_scale)


def test_the_needle_and_the_limit_are_seen(dial, pack):
    """The picture changes where, and only where, something moved."""
    point = points_of(pack, "as found")[13]
    dial.show_reading(point, Drawn(75.0, None, 75.0 - 4.5, 75.0 + 4.5))
    without = drawn(dial)
    dial.show_reading(point, Drawn(75.0, 60.0, 75.0 - 4.5, 75.0 + 4.5))
    with_needle = drawn(dial)
    assert with_needle != without
    assert "needle 60 V" in dial.accessibleDescription()
    dial.show_reading(point, Drawn(75.0, 60.0, 75.0 - 20.0, 75.0 + 20.0))
    assert drawn(dial) != with_needle
    inside = QColor(dial._theme.colours.inside)
    wedge = dial._spot(point.indicator.deflection_of(90.0), dial._geometry()[1] * 0.9).toPoint()
    ratio = dial.devicePixelRatioF()
    assert drawn(dial).pixelColor(wedge * ratio) == inside


def test_an_uneven_arc_without_mirror_is_drawn(qtbot, theme):
    from workbench import PACK_TEXT

    text = PACK_TEXT.replace("mirror: true", "mirror: false").replace(
        "even: {start: 0, stop: 15, divisions: 30, number_every: 10, long_every: 5}",
        "uneven: {marks: [[0, 0], [5, 0.6], [15, 1]], divisions_between: 5}",
    )
    pack = parse_pack(text, "uneven")
    made = Dial(theme, large=True)
    qtbot.addWidget(made)
    made.resize(700, 500)
    made.show_face(pack.dial)
    point = points_of(pack, "as found")[1]
    made.show_reading(
        point,
        Drawn(point.nominal, point.nominal, point.nominal - point.nominal_limit, point.nominal + point.nominal_limit),
    )
    picture = drawn(made)
    assert len({picture.pixel(x, y) for x in range(0, 700, 7) for y in range(0, 500, 7)}) > 4


def test_shapes_differ_without_colour(theme):
    """State never by colour alone: as black on white every shape is another picture."""
    pictures = {}
    for shape in ("full", "half", "cross", "ring", "hazard", "barred", "fix", "note"):
        image = QImage(40, 40, QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.white)
        painter = QPainter(image)
        draw_glyph(painter, theme, shape, QPointF(20, 20), 12)
        painter.end()
        grey = image.convertToFormat(QImage.Format.Format_Mono, Qt.ImageConversionFlag.ThresholdDither)
        pictures[shape] = bytes(grey.constBits())
    assert len(set(pictures.values())) == len(pictures)
    assert len(set(SHAPES.values())) == len(Outcome)


def test_a_glyph_says_its_outcome(qtbot, theme):
    glyph = Glyph(theme)
    qtbot.addWidget(glyph)
    glyph.show_outcome(Outcome.CANNOT_TELL)
    assert glyph.accessibleName() == "cannot tell"


def test_the_ribbon_keeps_wild_points_on_the_picture(qtbot, theme, pack):
    made = Ribbon(theme)
    qtbot.addWidget(made)
    made.resize(560, 190)
    points = points_of(pack, "as found")
    run = RunResult("as found", points, {})
    made.show_runs(run, run, points[3].key, "DC volts +")
    assert made._y(1e9) == made._y(TOP)
    assert made._y(-1e9) == made._y(-TOP)
    assert made.accessibleDescription() == "DC volts +: 0 of 21 points read. As found: 42 not measured, 42 in all."
    told = []
    made.chosen.connect(told.append)
    qtbot.keyClick(made, Qt.Key.Key_Left)
    qtbot.mouseClick(made, Qt.MouseButton.LeftButton, pos=QPointF(made._x(20), 50).toPoint())
    assert told == [points[2].key, points[20].key]


def test_rows_keep_their_scroll_and_say_their_state(qtbot, theme):
    made = RowList(theme, "Rows")
    qtbot.addWidget(made)
    made.resize(180, 100)
    made.show()
    rows = tuple(Row(str(i), f"row {i}", "under", "ring", says="open") for i in range(40))
    made.show_rows(rows, "30")
    place = made.verticalScrollBar().value()
    assert place > 0
    made.show_rows((*rows[:5], Row("5", "row 5", "under", "full", says="done"), *rows[6:]), "30")
    assert made.verticalScrollBar().value() == place
    assert made.item(5).text() == "row 5, under, done"
    told = []
    made.picked.connect(told.append)
    made.setCurrentRow(7)
    qtbot.keyClick(made, Qt.Key.Key_Return)
    assert told == ["7"]


def test_wrapped_rows_grow_with_their_words(qtbot, theme):
    made = RowList(theme, "Faults", wrap=True)
    qtbot.addWidget(made)
    made.resize(200, 300)
    made.show()
    made.show_rows((Row("a", "line 1", "short"), Row("b", "line 2", "a long sentence " * 12)), "")
    assert made.sizeHintForRow(1) > 2 * made.sizeHintForRow(0)


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(widths=st.lists(st.integers(20, 300), min_size=1, max_size=7), room=st.integers(60, 700))
def test_a_flow_overlaps_nothing_and_hides_nothing(qtbot, theme, widths, room):
    holder = QWidget()
    buttons = [QPushButton("x") for _ in widths]
    for made, width in zip(buttons, widths, strict=True):
        made.setFixedSize(width, 30)
    holder.setLayout(flow(6, *buttons))
    high = holder.layout().heightForWidth(room)
    holder.layout().setGeometry(holder.rect().adjusted(0, 0, room - holder.width(), high - holder.height()))
    boxes = [made.geometry() for made in buttons]
    assert all(not a.intersects(b) for i, a in enumerate(boxes) for b in boxes[i + 1 :])
    assert all(box.bottom() < high for box in boxes)
    assert all(box.right() < max(room, box.width()) for box in boxes)
    holder.deleteLater()


def test_outdated_work_is_dropped_and_errors_become_sentences(qtbot, theme):
    """Long work: only the newest answers, a cancelled one never does, no thread is left behind."""
    holder, before = QWidget(), set(threading.enumerate())
    qtbot.addWidget(holder)
    work, gate = Work(holder), threading.Event()
    answers, failures = [], []
    work.answered.connect(answers.append)
    work.failed.connect(failures.append)

    def slow(should_stop):
        gate.wait(5)
        return "stopped" if should_stop() else "late"

    work.start(slow)
    work.start(lambda _: "newest")
    gate.set()
    qtbot.waitUntil(lambda: bool(answers))
    assert answers == ["newest"]

    def broken(should_stop):
        raise RangeError("too far")

    work.start(broken)
    qtbot.waitUntil(lambda: bool(failures))
    assert failures == ["too far"]
    work.start(lambda _: "never heard")
    work.finish()
    qtbot.wait(50)
    assert answers == ["newest"]
    assert not [t for t in set(threading.enumerate()) - before if t.name.startswith("candor-work")]
