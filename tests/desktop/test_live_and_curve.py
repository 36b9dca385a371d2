"""The curve of a run and the pieces around it that the window's own tests pass by."""

import datetime as dt

import pytest
from PySide6.QtGui import QColor, QImage

from candor.core.leakage.run import LeakageRun, Plan, Sample
from candor.core.parts.part import Part
from candor.desktop.app import make_application
from candor.desktop.bench.live import Live
from candor.desktop.frame.pages import Pages
from candor.desktop.frame.theme import LIGHT, Theme
from candor.desktop.stops.parts.curve import RunCurve
from candor.links.simulated_part import old_capacitor
from candor.notebook.entries.runs import Run
from candor.notebook.run_files import cut_off, is_held


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
    curve.show_run(tuple(run.curve), run.reckon(), 500e-6)
    ink = pixels(curve, LIGHT.ink)
    left = [y for x, y in ink if x < 90]
    right = [y for x, y in ink if x > 250]
    assert min(left) < min(right)
    assert "limit 500 µA" in curve.accessibleDescription()
    assert len({y for _, y in pixels(curve, LIGHT.brick)}) >= 1


@pytest.mark.parametrize("current", [lambda _: 0.0, lambda _: 1e-12, lambda t: (-1) ** t * 1e-7, lambda _: 0.9])
def test_strange_currents_are_drawn_all_the_same(curve, current):
    run = watch(current, 60)
    curve.show_run(tuple(run.curve), run.reckon(), 1e-6)
    curve.resize(40, 30)
    curve.grab()
    curve.resize(320, 180)
    assert curve.grab().width() == 320


def test_the_simulated_part_is_always_the_same_for_a_designator():
    part = Part(ref="C17", kind="capacitor", nominal=40e-6, make="electrolytic", role="filter", volts=350)
    assert old_capacitor(part) == old_capacitor(part)
    assert old_capacitor(part).unformed_amperes > old_capacitor(part).final_amperes
    paper = [old_capacitor(Part(f"C{i}", "capacitor", 1e-8, "paper", volts=400)) for i in range(60)]
    weak = sum(c.breaks_down_at < 400 for c in paper)
    assert 0 < weak < 30
    film = old_capacitor(Part("C1", "capacitor", 1e-8, "film"))
    assert film.final_amperes < min(c.final_amperes for c in paper)


def test_a_run_is_held_while_it_goes_on_and_warns_when_it_is_left(qtbot, notebook):
    """Another window sees the lock and leaves it alone; closed over a charged part, what must be known is passed on."""
    live = Live(notebook, notebook.write)
    told = []
    live.ended.connect(lambda *words: told.append(words))
    assert live.start("j", Part("C1/2", "capacitor", 1e-6), Plan(100, 1e-6, 1e-6), "by hand")
    (path,) = notebook.run_folder.iterdir()
    assert is_held(path)
    runs = [Run(live.started)]
    later = notebook.clock() + dt.timedelta(days=1)
    assert list(cut_off(notebook.run_folder, runs, later)) == []
    live.take(98.0, 1e-6)
    live.close()
    assert not is_held(path)
    assert told == [
        (
            "C1/2",
            "the window was closed",
            "The part on the clips was not measured safe. Discharge it and measure before you touch.",
        )
    ]
    assert notebook.entries_of("j")[-1].body.measured_volts == 98.0


def test_a_notebook_that_cannot_be_written_starts_no_run(qtbot, notebook):
    live = Live(notebook, lambda *_: None)
    plan = Plan(100, 1e-6, 1e-6)
    assert not live.start("j", Part("C1", "capacitor", 1e-6), plan, "simulated")
    assert not live.running
    live.cancel()
    live.close()
    assert (live.caution(), live.ref, live.job, live.status(), live.plan) == ("", "", "", None, None)


class Made:
    """A page, as the window makes one."""

    def __init__(self, theme):
        self.theme = theme


def test_pages_are_made_once_with_what_they_ask_for_and_only_when_entered():
    added = []
    pages = Pages(
        {"a": (__name__, "Made")}, {"theme": "theme", "notebook": "not asked for"}, lambda name, _: added.append(name)
    )
    assert (list(pages), len(pages), pages.made, added) == (["a"], 1, (), [])
    first = pages["a"]
    assert pages["a"] is first
    assert (added, first.theme, pages.made) == (["a"], "theme", (first,))
    with pytest.raises(KeyError):
        pages["nowhere"]
