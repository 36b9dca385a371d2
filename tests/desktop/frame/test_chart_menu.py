"""Any chart can be copied and saved, as picture and as figures; what is saved is what is drawn."""

import csv
import io

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from candor.core.waves.analysis import analyse
from candor.core.waves.waveform import Waveform


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


def _values():
    return np.concatenate([np.zeros(200), np.linspace(0, 1, 20), np.ones(200)])
