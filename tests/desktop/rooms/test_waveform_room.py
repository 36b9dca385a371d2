"""Samples opened in the window: drawn, figured, one taken at the step in hand and kept; and files that are none."""

import hashlib

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QApplication

from candor.links.loopback import LoopbackInstrument
from candor.links.simulated_scope import ADDRESS, RISE_S, SimulatedScope
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.storage.checking import check_notebook
from candor.notebook.work.job import fold
from candor.packs.procedure import procedure
from desk import fill
from everykind import PACK

PLACE = np.arange(4000.0)
STEP = np.where(PLACE % 1000 < 500, 1 - np.exp(-(PLACE % 1000) / 15), np.exp(-(PLACE % 1000 - 500) / 15))


@pytest.fixture
def samples(tmp_path):
    path = tmp_path / "edge.csv"
    noise = np.random.default_rng(4).normal(size=4000) * 0.002
    rows = "\n".join(f"{i * 1e-8:.4e},{v:.4f},{0.5 * v:.4f}" for i, v in enumerate(STEP + noise))
    path.write_text(f"time,CH1,CH2\n{rows}\n", encoding="utf-8")
    return path


@pytest.fixture
def room(qtbot, show, notebook):
    notebook.write("k", JobOpened(maker="Corvane", type="ALL", serial="1", pack_digest=notebook.keep_pack(PACK)))
    window = show(notebook)
    step = next(s for s in procedure(PACK) if s.point is not None and s.point.figure == "rise")
    window.bench.place.go("calibrate", step.key)
    window.go_to_stop("calibrate")
    window.enter_room("waveform")
    return window, window.rooms["waveform"]


def opened(qtbot, page, path):
    with qtbot.waitSignal(page.shown, timeout=10_000):
        page.read(path)


def test_a_figure_is_taken_at_the_step_and_its_samples_are_kept(qtbot, room, samples):
    window, page = room
    assert not page.take.isEnabled()
    opened(qtbot, page, samples)
    assert [page.channel.itemText(i) for i in range(2)] == ["CH1", "CH2"]
    figure = page.chosen()
    assert (figure.name, figure.unit) == ("rise", "s")
    assert figure.value == pytest.approx(np.log(9) * 15e-8, rel=0.01)
    assert window.because.word.text().startswith("rise: ")
    qtbot.mouseClick(page.take, Qt.MouseButton.LeftButton)
    job = fold("k", window.bench.notebook.entries_of("k"))
    reading = job.calibrate.readings[-1]
    assert reading.body.indicated == pytest.approx(figure.value)
    assert dict(reading.body.figures)["u"] == pytest.approx(figure.u)
    kept = job.calibrate.waveforms[reading.entry.id].body
    content = (window.bench.notebook.waveform_folder / kept.file).read_bytes()
    assert content == samples.read_bytes()
    assert kept.file.startswith(hashlib.sha256(content).hexdigest()[:32])
    assert (kept.name, kept.channel, kept.figure) == ("edge.csv", "CH1", "rise")
    assert window.bench.in_hand.found.results["rise/s/3.5e-07"].verdict.probability_in_tolerance > 0.99
    path = window.bench.notebook.path
    assert check_notebook(path).faults == ()
    (window.bench.notebook.waveform_folder / kept.file).write_text("otherwise")
    assert [f.kind for f in check_notebook(path).faults] == ["changed"]


def test_only_a_figure_in_the_unit_of_the_step_can_be_taken(qtbot, room, samples):
    _, page = room
    opened(qtbot, page, samples)
    page.figures.picked.emit("overshoot")
    assert not page.take.isEnabled()
    page.figures.picked.emit("fall")
    assert page.take.isEnabled()


def test_a_stretch_is_drawn_by_the_wheel_and_whole_again(qtbot, room, samples):
    _, page = room
    opened(qtbot, page, samples)
    plot = page.plot
    whole = plot.stretch
    at = QPointF(plot.width() / 2, plot.height() / 2)
    for _ in range(60):
        QApplication.sendEvent(plot, QWheelEvent(
            at, at, QPoint(), QPoint(0, 120), Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase,
            False,
        ))  # fmt: skip
    begin, end = plot.stretch
    assert end - begin == pytest.approx(16.0)
    assert whole[0] <= begin < end <= whole[1]
    plot.zoom(1e9)
    assert plot.stretch == whole
    plot.grab()


def test_what_is_no_table_of_samples_is_said(qtbot, room, tmp_path):
    window, page = room
    path = tmp_path / "letter.csv"
    path.write_text("Dear reader\n", encoding="utf-8")
    opened(qtbot, page, path)
    assert "letter.csv: no samples in the first 1 lines" in page.words.text()
    opened(qtbot, page, tmp_path / "nowhere.csv")
    assert "cannot be read" in window.jot.message.text()


def named_in_settings(qtbot, window, address):
    """Say in Settings where the oscilloscope answers, and come back."""
    window.enter_room("look")
    settings = window.rooms["look"]
    fill(qtbot, settings.fields["oscilloscope"], address)
    settings.fields["oscilloscope"].editingFinished.emit()
    window.enter_room("waveform")
    return window.rooms["waveform"]


def test_an_oscilloscope_on_a_link_is_read_and_its_figure_taken_with_its_samples(qtbot, room):
    window, page = room
    assert not page.capture.isVisible() and not page.stop.isVisible()
    with SimulatedScope() as scope:
        page = named_in_settings(qtbot, window, scope.address)
        assert page.capture.isVisible()
        with qtbot.waitSignal(page.shown, timeout=10_000):
            qtbot.mouseClick(page.capture, Qt.MouseButton.LeftButton)
            assert page.stop.isVisible() and "being read" in page.words.text()
    assert not page.stop.isVisible() and page.words.text().startswith("oscilloscope 2026-")
    figure = page.chosen()
    assert figure.name == "rise" and abs(figure.value - RISE_S) <= 2 * figure.u
    qtbot.mouseClick(page.take, Qt.MouseButton.LeftButton)
    job = fold("k", window.bench.notebook.entries_of("k"))
    reading = job.calibrate.readings[-1]
    assert reading.body.indicated == pytest.approx(figure.value)
    kept = job.calibrate.waveforms[reading.entry.id].body
    assert (kept.figure, kept.channel) == ("rise", "CH1")
    assert check_notebook(window.bench.notebook.path).faults == ()


def test_a_simulated_oscilloscope_is_shown_and_never_taken(qtbot, room):
    window, _ = room
    page = named_in_settings(qtbot, window, "simulated")
    with qtbot.waitSignal(page.shown, timeout=10_000):
        qtbot.mouseClick(page.capture, Qt.MouseButton.LeftButton)
    assert page.chosen().name == "rise" and "nothing of it is taken" in window.because.rest.text()
    qtbot.mouseClick(page.take, Qt.MouseButton.LeftButton)
    assert "no evidence" in window.jot.message.text()
    assert fold("k", window.bench.notebook.entries_of("k")).calibrate.readings == ()


def test_one_that_never_answers_is_given_up_and_an_address_that_is_none_is_refused(qtbot, room):
    window, _ = room
    page = named_in_settings(qtbot, window, "banana")
    assert "three parts" in window.look.errors["oscilloscope"].text() and not page.capture.isVisible()
    with LoopbackInstrument(lambda _: None) as mute:
        page = named_in_settings(qtbot, window, ADDRESS.format(resource=mute.resource))
        qtbot.mouseClick(page.capture, Qt.MouseButton.LeftButton)
        qtbot.mouseClick(page.stop, Qt.MouseButton.LeftButton)
        assert page.words.text() == "Reading was given up; nothing was taken."
        assert not page.stop.isVisible()
        with qtbot.waitSignal(page.shown, timeout=10_000):
            qtbot.mouseClick(page.capture, Qt.MouseButton.LeftButton)
        assert "no longer answers" in page.words.text() and not page.stop.isVisible()
