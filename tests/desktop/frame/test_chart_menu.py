"""Any chart can be copied and saved, as picture and as figures; what is saved is what is drawn."""

import csv
import datetime as dt
import io

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QImage, QMouseEvent, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from candor.core.quantities import engineering
from candor.core.waves.analysis import analyse
from candor.core.waves.waveform import Waveform
from candor.desktop.widgets.chartcard import CLOSEST, Stretch
from candor.desktop.widgets.fanchart import said_time, ticks_of


@pytest.fixture
def drift(qtbot, show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40241")
    window.go_to_stop("soak")
    window.soak.show_view("drift")
    panel = window.soak.drift
    qtbot.waitUntil(lambda: bool(panel.chart.table()[1]), timeout=20_000)
    return window, panel


def test_a_fan_is_saved_as_picture_and_as_figures(drift, tmp_path):
    window, panel = drift
    for name in ("fan.png", "fan.svg", "fan.csv"):
        panel.chart_menu.save(tmp_path / name)
        assert window.jot.message.text() == f"Saved as {name}."
    picture = QImage(str(tmp_path / "fan.png"))
    assert picture.width() == 2 * panel.chart.width()
    assert len({picture.pixel(x, y) for x in range(0, picture.width(), 7) for y in range(0, picture.height(), 7)}) > 4
    svg = (tmp_path / "fan.svg").read_text(encoding="utf-8")
    assert "<svg" in svg
    assert svg.count("<path") + svg.count("<polyline") > 5
    rows = list(csv.DictReader(io.StringIO((tmp_path / "fan.csv").read_text(encoding="utf-8"))))
    results = [r for r in rows if r["what"] == "result"]
    drawn = [r for s in panel.chart._point.segments for r in s.results]
    assert [float(r["error"]) for r in results] == [r.error for r in drawn]
    assert [float(r["U"]) for r in results] == [r.expanded for r in drawn]
    assert [r["what"] for r in rows].count("forecast") == 3
    panel.chart_menu.save(tmp_path / "no such folder" / "x.png")
    assert "could not be written" in window.jot.message.text()


def wheel(chart, x, notches):
    at = QPointF(x, chart.height() / 2)
    turned = QWheelEvent(
        at, chart.mapToGlobal(at), QPoint(), QPoint(0, 120 * notches), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(chart, turned)
    chart.grab()


def test_a_chart_is_read_off_and_a_stretch_of_it_shown_by_mouse_and_by_keys(drift):
    """What stands under the pointer stays there while the wheel turns; what is read off is the result that stands there."""
    _, panel = drift
    chart = panel.chart
    chart.grab()
    results = [r for s in chart._point.segments for r in s.results]
    assert len(chart.spots) == len(results)
    third = chart.spots[-1]
    wheel(chart, third.place.x(), 5)
    assert chart.stretch.end - chart.stretch.begin == pytest.approx(0.8**5)
    assert chart.spots[-1].place.x() == pytest.approx(third.place.x(), abs=1)
    move(chart, chart.spots[-1].place)
    assert chart.read_off == chart.spots[-1].words
    assert f"{results[-1].on:%d %b %Y}" in chart.read_off
    assert chart.accessibleDescription().startswith(chart.read_off)
    move(chart, chart.spots[-1].place + QPointF(0, 90))
    assert chart.read_off == ""
    QTest.keyClick(chart, Qt.Key.Key_Home)
    assert chart.stretch.is_whole
    for count in range(len(results) + 2):  # the last stays the last
        QTest.keyClick(chart, Qt.Key.Key_Right)
        assert chart.read_off == chart.spots[min(count, len(results) - 1)].words
    for _ in range(30):
        QTest.keyClick(chart, Qt.Key.Key_Plus)
    assert chart.stretch.end - chart.stretch.begin == pytest.approx(CLOSEST)
    QTest.keyClick(chart, Qt.Key.Key_Left)
    share = chart.spots[len(results) - 2].share
    assert chart.stretch.begin <= share <= chart.stretch.end  # it is walked to
    QTest.mouseDClick(chart, Qt.MouseButton.LeftButton)
    assert chart.stretch.is_whole


def move(chart, at):
    QApplication.sendEvent(chart, QMouseEvent(
        QEvent.Type.MouseMove, at, chart.mapToGlobal(at), Qt.MouseButton.NoButton, Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
    ))  # fmt: skip


def test_dragging_goes_along_and_never_beyond_the_ends():
    shown = Stretch()
    shown.zoom(0.5, 1.0)
    assert (shown.begin, shown.end) == (0.5, 1.0)
    shown.move(0.3)
    assert (shown.begin, shown.end) == (0.5, 1.0)
    shown.move(-0.4)
    assert (shown.begin, shown.end) == pytest.approx((0.3, 0.8))
    assert shown.at(shown.along(0.42)) == pytest.approx(0.42)
    shown.to(0.05)
    assert shown.begin == 0.0
    shown.zoom(9.0)
    assert shown.is_whole


@pytest.mark.parametrize(
    ("first", "last", "words"),
    [
        (dt.date(2019, 3, 4), dt.date(2029, 3, 4), ["2020", "2022", "2024", "2026", "2028"]),
        (dt.date(2024, 11, 2), dt.date(2025, 2, 20), ["Dec 2024", "Jan 2025", "Feb 2025"]),
        (
            dt.date(2024, 2, 2),
            dt.date(2025, 12, 20),
            ["Apr 2024", "Jul 2024", "Oct 2024", "Jan 2025", "Apr 2025", "Jul 2025", "Oct 2025"],
        ),
    ],
)
def test_days_under_a_stretch_are_told_apart(first, last, words):
    assert [said for _, said in ticks_of(first, last)] == words


@given(st.dates(dt.date(1990, 1, 1), dt.date(2060, 1, 1)), st.integers(40, 30_000))
def test_no_stretch_has_two_like_words_or_more_than_nine(first, days):
    said = [words for _, words in ticks_of(first, first + dt.timedelta(days=days))]
    assert len(set(said)) == len(said) <= 9


@given(st.floats(0, 1e6), st.floats(60, 1e6))
def test_times_under_a_soak_are_told_apart(begin, span):
    said = [said_time(begin + span * share, span) for share in (0.0, 0.25, 0.5, 0.75)]
    assert len(set(said)) == 4


def test_the_ribbon_is_copied_by_keys_and_its_figures_are_those_of_the_run(show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40217")
    window.go_to_stop("calibrate")
    page = window.calibrate
    page.ribbon.setFocus()
    QTest.keyClick(page.ribbon, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert not QApplication.clipboard().image().isNull()
    page.chart_menu.copy_table()
    lines = [line.split("\t") for line in QApplication.clipboard().text().splitlines()]
    found = window.bench.in_hand.found.results
    read = {line[0]: line for line in lines[1:] if line[1]}
    assert set(read) == {key for key in found if found[key].point.function == window.hand.point.function}
    for key, line in read.items():
        assert line[3] == str(found[key].verdict.outcome)
    assert [action.text() for action in page.chart_menu.menu.actions()] == [
        "Copy picture", "Copy figures", "Save picture …", "Save figures …",
    ]  # fmt: skip


def test_a_waveform_gives_the_samples_of_the_stretch_that_is_drawn(show, demo):
    window = show(demo)
    window.enter_room("waveform")
    room = window.rooms["waveform"]
    wave = Waveform("ch1", "V", _values(), 1e-9, 2e-9)
    room.plot.show_analysis(analyse(wave))
    heads, rows = room.plot.table()
    assert heads == ("seconds", "ch1")
    assert len(rows) == wave.count
    assert rows[0] == (pytest.approx(2e-9), pytest.approx(wave.values[0]))


def test_a_waveform_is_read_off_at_the_pointer_and_by_keys(show, demo):
    window = show(demo)
    window.enter_room("waveform")
    plot = window.rooms["waveform"].plot
    wave = Waveform("ch1", "V", _values(), 1e-9, 2e-9)
    plot.show_analysis(analyse(wave))
    plot.grab()
    area = plot._plot()
    for sample in (0, 210, 419):
        move(plot, QPointF(area.left() + area.width() * sample / (wave.count - 1), area.center().y()))
        assert (
            plot.read_off
            == f"{engineering(wave.seconds(sample), 's', 5)}: {engineering(wave.values[sample], 'V', 4)}"
        )
    move(plot, QPointF(2, 2))
    assert plot.read_off == ""
    for _ in range(6):
        QTest.keyClick(plot, Qt.Key.Key_Plus)
    begin, end = plot.stretch
    QTest.keyClick(plot, Qt.Key.Key_Right)  # the middle, then along
    QTest.keyClick(plot, Qt.Key.Key_Right)
    read = round((begin + end) / 2) + max(round((end - begin) / 100), 1)
    assert plot.read_off.startswith(f"{engineering(wave.seconds(read), 's', 5)}:")
    assert plot.accessibleDescription() == plot.read_off
    for _ in range(200):
        QTest.keyClick(plot, Qt.Key.Key_Left)
    assert plot.stretch[0] == 0.0  # it is brought into sight
    QTest.keyClick(plot, Qt.Key.Key_Home)
    assert plot.stretch == (0.0, wave.count - 1)


def test_one_range_of_the_ribbon_stands_alone_by_keys_and_by_a_double_click(show, demo):
    window = show(demo)
    window.shelf.job.emit("sb40217")
    window.go_to_stop("calibrate")
    ribbon, point = window.calibrate.ribbon, window.hand.point
    everything = ribbon.table()[1]
    ribbon.setFocus()
    QTest.keyClick(ribbon, Qt.Key.Key_Plus)
    assert ribbon.only == point.range_name
    alone = ribbon.table()[1]
    assert alone == [row for row in everything if row[0].split("/")[1] == point.key.split("/")[1]]
    assert 0 < len(alone) < len(everything)
    assert f"{point.range_name} alone" in ribbon.accessibleDescription()
    QTest.keyClick(ribbon, Qt.Key.Key_Home)
    assert (ribbon.only, ribbon.table()[1]) == ("", everything)
    at = QPoint(int(ribbon._x(len(everything) - 1)), ribbon.height() // 2)
    QTest.mouseDClick(ribbon, Qt.MouseButton.LeftButton, pos=at)
    assert ribbon.only != ""
    assert everything[-1] in ribbon.table()[1]
    QTest.mouseDClick(ribbon, Qt.MouseButton.LeftButton, pos=QPoint(ribbon.width() // 2, ribbon.height() // 2))
    assert (ribbon.only, ribbon.table()[1]) == ("", everything)


def _values():
    return np.concatenate([np.zeros(200), np.linspace(0, 1, 20), np.ones(200)])
