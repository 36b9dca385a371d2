"""Pictures of every main view, made from the demo notebook."""

from __future__ import annotations

import datetime as dt
import tempfile
import time
from collections.abc import Callable, Collection, Mapping
from pathlib import Path

from PySide6.QtWidgets import QApplication, QGridLayout, QVBoxLayout, QWidget

from candor.core.reading.kinds import kind_named
from candor.demo.demo_notebook import write_demo
from candor.demo.edge_samples import edge_samples
from candor.demo.live_jobs import POWERED, TRACED
from candor.demo.parts_jobs import COOKING, SCOPE
from candor.demo.read_jobs import PANEL
from candor.demo.tested_jobs import TRIGGERED
from candor.desktop.app import cook, make_application, make_window
from candor.desktop.frame.preferences import Preferences
from candor.desktop.frame.theme import Theme, label
from candor.desktop.frame.window import Window
from candor.desktop.widgets.field import Field
from candor.desktop.widgets.surface import Surface
from candor.durably import write_durably
from candor.packs.pack_points import face_of
from candor.packs.procedure import procedure

MOMENT = dt.datetime(2026, 11, 23, 14, 5, tzinfo=dt.UTC)


def settle(seconds: float = 0.25, until: Callable[[], bool] = lambda: False) -> None:
    """Let events, timers and workers run for a while, or until something holds."""
    end = time.monotonic() + seconds
    while time.monotonic() < end and not until():
        QApplication.processEvents()
        time.sleep(0.01)


def save(widget: QWidget, path: Path) -> Path:
    """Save a picture of a widget."""
    settle()
    widget.grab().save(str(path))
    return path


def draw_shots(folder: Path, only: Collection[str] = ()) -> list[Path]:
    """Draw the main views at 1280 x 800 into `folder`, or `only` some of `VIEWS`, and return the files."""
    make_application()
    folder.mkdir(parents=True, exist_ok=True)
    made = []
    with tempfile.TemporaryDirectory() as place:
        notebook = write_demo(Path(place) / "saltmarsh.candor", MOMENT)
        window, theme = make_window(notebook, Preferences("light", 1.0, Path(place) / "look.json"))
        window.resize(1280, 800)
        window.show()
        for name, view in VIEWS.items():
            if only and name not in only:
                continue
            mode = name.rpartition("-")[2]
            if mode != theme.mode:
                theme.set(mode=mode)
            drawn = view(window)
            if window.warning.isVisible() and name != "reform-light":
                window.warning.button.click()  # of the run that an earlier picture began
            made.append(save(drawn or window, folder / f"{name}.png"))
        window.bench.live.close()
        window.close_now()
        settle(0.1)
    return made


def _calibrate(window: Window) -> None:
    window.shelf.job.emit("sb40217")
    window.go_to_stop("calibrate")


def _day(window: Window) -> None:
    window.shelf.job.emit("sb40217")
    window.enter_room("day")
    plan = window.bench.plan
    settle(60, lambda: plan.day is not None and not plan.is_busy)
    page = window.rooms["day"]
    page.after.click()  # type: ignore[attr-defined]  # a whole day


def _kinds(window: Window) -> QWidget:
    """The work surface of each kind of reading, side by side."""
    window.shelf.job.emit(PANEL)
    window.go_to_stop("calibrate")
    theme = Theme("light", 1.0)
    sheet = QWidget()
    sheet.setFixedSize(1280, 800)
    sheet.setAutoFillBackground(True)
    grid = QGridLayout(sheet)
    grid.setContentsMargins(theme.px(18), theme.px(14), theme.px(18), theme.px(10))
    steps = [s for s in procedure(window.bench.in_hand.pack) if s.point is not None and "gain" not in s.key]
    index = 0
    for step in (s for s in steps if s.key.split(":")[0] not in ("reach",) and "supply/s/90" not in s.key):
        window.bench.place.go("calibrate", step.key)
        point, pack = window.hand.point, window.bench.in_hand.pack
        if point is None or pack is None or not window.hand.readings:  # as left nothing was read
            continue
        cell, column = QWidget(), QVBoxLayout()
        cell.setLayout(column)
        kind = kind_named(window.hand.readings[0].kind)
        said = kind.say(point, window.hand.shown_figures)
        for words in (label(kind.title, "text", bold=True), label(said, "soft")):
            column.addWidget(words)
        surface = Surface(theme)
        surface.show_reading(point, window.hand.drawn(), face_of(pack, point))
        column.addWidget(surface, 1)
        grid.addWidget(cell, index // 3, index % 3)
        index += 1
    sheet.show()
    return sheet


def _drift(window: Window) -> None:
    window.shelf.job.emit("sb40241")
    drawn: list[bool] = []
    window.go_to_stop("soak")
    window.soak.drift.calculated.connect(lambda: drawn.append(True))
    window.soak.show_view("drift")
    settle(5.0, lambda: bool(drawn))
    window.soak.drift.choose("DC volts +, 12 V range at 12 V")


def _before(window: Window) -> None:
    window.shelf.job.emit("sb40188")
    window.go_to_stop("release")
    window.release.show_view("before")
    window.release.before.choose("touch")
    settle(1.0)


def _new_job(window: Window) -> None:
    window.enter_room("new job")
    window.new_job.name.setText("Halvergate signal tracer 1187")


def _power(window: Window) -> None:
    window.shelf.job.emit(POWERED)
    window.go_to_stop("power")
    window.power.show_view("going")


def _trace(window: Window) -> None:
    window.shelf.job.emit(TRACED)
    window.go_to_stop("trace")
    window.trace.show_view("nodes")


def _arrive(window: Window) -> None:
    window.shelf.job.emit("sb40217")
    window.go_to_stop("arrive")
    window.arrive.zones.picked.emit("cord")
    settle(0.4)


def _parts(window: Window) -> None:
    window.shelf.job.emit(SCOPE)
    window.go_to_stop("parts")
    window.parts.choose("C8")


def _stock(window: Window) -> None:
    window.shelf.job.emit(SCOPE)
    window.go_to_stop("parts")
    window.parts.choose("R24")
    window.parts.show_panel("place")
    answered: list[bool] = []
    window.stock.combiner.answered.connect(lambda: answered.append(True))
    window.parts.place.several.click()
    settle(10.0, lambda: bool(answered))


def _reform(window: Window) -> None:
    job, ref = COOKING
    window.shelf.job.emit(job)
    window.go_to_stop("parts")
    window.parts.choose(ref)
    window.parts.show_panel("tester")
    cook(window, job, ref, speed=40.0)
    live = window.bench.live
    settle(20.0, lambda: (s := live.status()) is not None and s.last is not None and s.last.values["volts"] > 250)
    settle(2.5)


def _release(window: Window) -> None:
    window.shelf.job.emit("sb40188")
    drawn: list[bool] = []
    window.release.previewed.connect(lambda: drawn.append(True))
    window.go_to_stop("release")
    window.release.show_view("paper")
    settle(5.0, lambda: bool(drawn))


def _at(job: str, step: str = "") -> Callable[[Window], None]:
    """A job at Calibrate, at its own place or at a step."""

    def go(window: Window) -> None:
        window.bench.live.close()
        window.shelf.job.emit(job)
        window.go_to_stop("calibrate")
        if step:
            window.bench.place.go("calibrate", step)

    return go


def _tubes(window: Window) -> None:
    window.bench.live.close()
    window.enter_room("tubes")
    window.tubes.choose("P02")
    window.tubes.show_panel("match")


def _waveform(window: Window) -> None:
    window.bench.live.close()
    window.shelf.job.emit(TRIGGERED)
    window.go_to_stop("calibrate")
    window.enter_room("waveform")
    drawn: list[bool] = []
    page = window.rooms["waveform"]
    page.shown.connect(lambda: drawn.append(True))  # type: ignore[attr-defined]
    with tempfile.TemporaryDirectory() as place:
        samples = Path(place) / "edge.csv"
        write_durably(samples, edge_samples().encode())
        page.read(samples)  # type: ignore[attr-defined]
        settle(10.0, lambda: bool(drawn))


def _range(window: Window) -> None:
    """A further range of the demo's instrument that no pack describes, as it is said."""
    window.shelf.job.emit("sb40230")
    window.go_to_stop("calibrate")
    form = window.calibrate.range_form
    window.calibrate.another.click()
    for field in form.fields.values():
        if isinstance(field, Field):
            field.clear()
    form.way.setCurrentIndex(form.way.findData("ohms left"))
    form.function.setEditText("Leak")
    for key, text in (("centre", "120 kohm"), ("name", "leak"), ("divisions", "5")):
        form.fields[key].setText(text)  # type: ignore[union-attr]
    form.limit.setText("4 % of arc")
    form.usual.setChecked(True)


def _workshop(window: Window) -> None:
    """The workshop with a step of a pack chosen."""
    window.bench.live.close()
    window.shelf.job.emit("sb40217")
    window.enter_room("packs")
    room = window.rooms["packs"]
    room.choose("tarnholm-vm6")  # type: ignore[attr-defined]
    room.work_on.click()  # type: ignore[attr-defined]
    bench = room.bench  # type: ignore[attr-defined]
    settle(20.0, lambda: bench.state.text() != "")
    bench.choose(("procedure", 1, "steps", 0))


def _arms_length(window: Window) -> None:
    window.shelf.job.emit("sb40217")
    window.toggle_arms_length()
    window.showNormal()
    window.resize(1280, 800)


# By the name of the picture, which ends in the theme; each brings the window to where it is drawn.
VIEWS: Mapping[str, Callable[[Window], QWidget | None]] = {
    "new-job-light": _new_job, "power-light": _power, "trace-light": _trace, "calibrate-light": _calibrate,
    "arrive-light": _arrive, "parts-light": _parts, "calibrate-dark": _calibrate, "kinds-light": _kinds, "release-light": _release,
    "stock-light": _stock, "reform-light": _reform, "range-light": _range, "drift-light": _drift,
    "workshop-light": _workshop, "day-light": _day, "before-light": _before,
    "tubes-light": _tubes, "waveform-light": _waveform, "arms-length-light": _arms_length,
}  # fmt: skip
