"""Cost as the work grows: by calls, which are counted and not timed, so that a busy machine changes nothing."""

from __future__ import annotations

import math
import sys
from pathlib import Path

import pytest

sys.path.append(str(Path(__file__).parents[2] / "bench"))

import growth
from growth import GrowthRow

# Row by the beginning of its name, two sizes, and the exponent of calls over size that it may have.
SMALL = (
    ("Tubes alike", (60, 240), 1.1),
    ("What explains it", (40, 160), 1.1),
    ("Stock from a table", (50, 200), 1.05),
    ("Readings from a table", (50, 200), 1.05),
    ("Parts judged again", (40, 160), 1.2),
    ("Notebook checked", (100, 400), 1.05),
    ("Job opened", (200, 800), 0.8),
    ("Room of the entries", (200, 800), 0.3),
    ("Room of the standards", (200, 800), 0.3),
    ("Reading to verdict", (200, 800), 0.2),
    ("Trace shown", (40, 160), 0.9),
    ("A node read", (40, 160), 1.0),
    ("Shelf, a status written", (20, 80), 0.3),
    ("Room of the tubes", (20, 80), 0.3),
    ("Room of the stock", (50, 200), 0.9),
)


def row_named(name: str) -> GrowthRow:
    return next(row for row in growth.ROWS if row.name.startswith(name))


def calls_of(deed: growth.Deed) -> int:
    """How many functions a deed calls, those of the interpreter's own included, the second time it is done."""
    count = 0

    def counted(_frame: object, event: str, _of: object) -> None:
        nonlocal count
        count += event in ("call", "c_call")

    deed()
    sys.setprofile(counted)
    try:
        deed()
    finally:
        sys.setprofile(None)
    if held := getattr(deed, "held", None):
        held.close()
    return count


@pytest.mark.parametrize(("name", "sizes", "most"), SMALL, ids=[name for name, *_ in SMALL])
def test_calls_grow_no_faster_than_they_may(qtbot, monkeypatch, name, sizes, most):
    monkeypatch.setattr(growth, "settle", lambda *_: 0.0)  # what turns of the event loop do is not the deed's
    small, large = (calls_of(row_named(name).prepare(size)) for size in sizes)
    assert math.log(large / small) / math.log(sizes[1] / sizes[0]) <= most, (small, large)


def test_switching_between_pages_leaves_nothing_behind(qtbot, show, demo):
    from PySide6.QtWidgets import QWidget

    from candor.desktop.frame.route import TITLES
    from candor.desktop.frame.shelfpanel import ROOMS

    window = show(demo)

    def tour() -> int:
        for stop in TITLES:
            window.go_to_stop(stop)
        for room, _, _ in ROOMS:
            window.enter_room(room)
        qtbot.wait(50)
        return len(window.findChildren(QWidget))

    tour()
    assert [tour() for _ in range(3)] == [tour()] * 3


def test_a_page_that_is_not_shown_is_not_shown_anew(qtbot, show, demo, monkeypatch):
    from candor.desktop.stops.calibrate import calibrate_page
    from candor.desktop.stops.trace import nodes_panel

    window = show(demo)
    job = next(line.job for line in window.bench.shelf.lines if line.group != "gone home")
    window._open_job(job)
    window.go_to_stop("calibrate")
    window.go_to_stop("trace")
    steps, views = [], []
    laid, viewed = calibrate_page.step_rows, nodes_panel.nodes_view
    monkeypatch.setattr(calibrate_page, "step_rows", lambda **asked: (steps.append(1), laid(**asked))[1])
    monkeypatch.setattr(nodes_panel, "nodes_view", lambda *asked: (views.append(1), viewed(*asked))[1])
    window.bench.in_hand.fold_anew()
    window.bench.in_hand.changed.emit()
    assert not steps
    assert len(views) <= 1  # however many ask for it
    window.go_to_stop("calibrate")
    assert steps
