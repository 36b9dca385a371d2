"""Figures as bars: what is drawn stands where the figure is, and only where there is room."""

import pytest
from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter

from candor.desktop.app import make_application
from candor.desktop.frame.theme import Theme
from candor.desktop.widgets.row_bars import ENDS_AT, Bar, draw_bars, room_for


@pytest.fixture
def theme(qtbot):
    make_application()
    return Theme("light", 1.0)


def drawn(theme, *bars, wide=280, high=40):
    image = QImage(wide, high, QImage.Format.Format_RGB32)
    image.fill(theme.colour("ground"))
    painter = QPainter(image)
    draw_bars(painter, theme, QRectF(0, 0, wide, high), bars)
    painter.end()
    return image


def coloured(theme, image, name, rows=None):
    wanted = theme.colour(name).rgb()
    rows = range(image.height()) if rows is None else rows
    return [x for x in range(image.width()) if any(image.pixel(x, y) == wanted for y in rows)]


def test_a_figure_stands_at_its_share_of_nominal_with_its_u(theme):
    image = drawn(theme, Bar(0.7, 0.1, 0.5, "full"))
    found = coloured(theme, image, "petrol")
    assert min(found) == pytest.approx(280 * 0.6 / ENDS_AT, abs=2)
    assert max(found) == pytest.approx(280 * 0.8 / ENDS_AT, abs=2)
    assert max(coloured(theme, image, "rule")) == pytest.approx(280 * 0.5 / ENDS_AT, abs=2)
    assert not coloured(theme, drawn(theme, Bar(0.7, 0.1, 0.0, "full")), "rule")  # nobody said what is too little


def test_two_sections_are_two_bars_and_one_beyond_the_end_stays_inside(theme):
    image = drawn(theme, Bar(0.4, 0.05, 0.5, "cross"), Bar(2.0, 0.1, 0.5, "full"))
    assert coloured(theme, image, "brick", range(20)) and not coloured(theme, image, "brick", range(20, 40))
    assert not coloured(theme, image, "petrol", range(20))
    assert min(coloured(theme, image, "petrol", range(20, 40))) > 0.9 * 280


def test_there_is_room_in_a_wide_row_alone(theme):
    bars = (Bar(1, 0.1, 0.5, "full"),)
    assert room_for(theme, QRectF(0, 0, 700, 45), bars) > 0
    assert room_for(theme, QRectF(0, 0, 300, 45), bars) == room_for(theme, QRectF(0, 0, 700, 45), ()) == 0
