"""The curve of a run and the pieces around it that the window's own tests pass by."""

import pytest
from PySide6.QtGui import QColor, QImage

from candor.core.leakage.leakage_run import LeakageRun, Plan, Sample
from candor.desktop.app import make_application
from candor.desktop.frame.theme import LIGHT, Theme
from candor.desktop.stops.parts.curve import RunCurve


@pytest.fixture
def curve(qtbot):
    make_application()
    theme = Theme("light")
    theme.apply()
    made = RunCurve(theme)
    qtbot.addWidget(made)
    made.resize(320, 180)
    return made


def pixels(widget, colour):
    image = widget.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    wanted = QColor(colour).rgb()
    return [(x, y) for x in range(image.width()) for y in range(image.height()) if image.pixel(x, y) == wanted]


def watch(current, seconds=200):
    made = LeakageRun(Plan(280, 40e-6, 500e-6, dwell_s=1e4, most_s=1e5))
    for t in range(1, seconds):
        made.take(Sample(float(t), 278.0, current(t)))
    return made


def test_an_empty_curve_says_so(curve):
    curve.show_run((), None, 1e-3)
    assert "no reading yet" in curve.accessibleDescription()
    assert curve.grab().width() == 320


def test_curve_falls_from_left_to_right_and_the_limit_is_a_line(curve):
    run = watch(lambda t: 2e-4 + 4e-3 * t**-0.8)
    curve.show_run(tuple(run.curve), run.calculate(), 500e-6)
    ink = pixels(curve, LIGHT.ink)
    left = [y for x, y in ink if x < 90]
    right = [y for x, y in ink if x > 250]
    assert min(left) < min(right)
    assert "limit 500 µA" in curve.accessibleDescription()
    assert len({y for _, y in pixels(curve, LIGHT.brick)}) >= 1


@pytest.mark.parametrize("current", [lambda _: 0.0, lambda _: 1e-12, lambda t: (-1) ** t * 1e-7, lambda _: 0.9])
def test_strange_currents_are_drawn_all_the_same(curve, current):
    run = watch(current, 60)
    curve.show_run(tuple(run.curve), run.calculate(), 1e-6)
    curve.resize(40, 30)
    curve.grab()
    curve.resize(320, 180)
    assert curve.grab().width() == 320
