"""A long record drawn: every sample lies on what is drawn, and the trace has no gap."""

from __future__ import annotations

import itertools

import numpy as np
from PySide6.QtGui import QColor

from candor.core.waves.analysis import analyse
from candor.core.waves.waveform import Waveform
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.waveplot import WavePlot


def test_every_sample_of_a_long_record_lies_on_what_is_drawn(qtbot):
    chance = np.random.default_rng(3)
    values = np.sin(np.arange(60_000) / 900) + chance.normal(0, 0.05, 60_000)
    values[[12_345, 40_001]] = 2.5, -2.5  # one sample each: a peak that must be seen
    plot = WavePlot(Theme("light"))
    qtbot.addWidget(plot)
    plot.resize(700, 300)
    width = int(plot._plot().width())
    values[int(len(values) / width * 400) :] += 1.5  # a step just where one pixel ends
    plot.show_analysis(analyse(Waveform("A", "V", values, 1e-6)))
    area = plot._plot()
    lines = plot._columns(plot.shown, area)
    assert len(lines) == int(area.width())
    for place in (*chance.integers(0, len(values), 500), 12_345, 40_001):
        column = lines[min(int(place / len(values) * len(lines)), len(lines) - 1)]
        beside = [x for x in lines if abs(x.x1() - column.x1()) <= 1]
        y = plot._y(float(plot.shown.wave.values[place]))
        assert min(x.y1() for x in beside) - 1e-6 <= y <= max(x.y2() for x in beside) + 1e-6
    for one, two in itertools.pairwise(lines):
        assert one.y1() <= two.y2()
        assert two.y1() <= one.y2()
    picture = plot.grab().toImage()
    ink = QColor(plot._theme.colour("ink")).lightness()
    x = int(lines[int(12_345 / len(values) * len(lines))].x1())
    top = int(plot._y(2.4))
    assert any(picture.pixelColor(x + dx, top).lightness() < ink + 60 for dx in (-1, 0, 1))
