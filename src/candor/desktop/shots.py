"""Pictures of every main view, made from the demo notebook."""

from __future__ import annotations

import datetime as dt
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import QApplication, QWidget

from candor.demo.parts_jobs import COOKING, SCOPE
from candor.demo.shop import write_demo
from candor.desktop.app import cook, make_application, make_window
from candor.desktop.frame.preferences import Preferences
from candor.desktop.frame.window import Window

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


def draw_shots(folder: Path) -> list[Path]:
    """Draw the main views at 1280 x 800 into `folder` and return the files."""
    make_application()
    folder.mkdir(parents=True, exist_ok=True)
    made = []
    with tempfile.TemporaryDirectory() as place:
        notebook = write_demo(Path(place) / "saltmarsh.candor", MOMENT)
        preferences = Preferences("light", 1.0, Path(place) / "look.json")
        window, theme = make_window(notebook, preferences)
        window.resize(1280, 800)
        window.show()
        for mode in ("light", "dark"):
            theme.set(mode=mode)
            made += _views(window, folder, mode)
        theme.set(mode="light")
        made += _others(window, folder)
        window.close()
        settle(0.1)
    return made


def _views(window: Window, folder: Path, mode: str) -> list[Path]:
    """Draw the stops that are drawn in both themes."""
    window.shelf.job.emit("sb40217")
    window.go_to_stop("calibrate")
    made = [save(window, folder / f"calibrate-{mode}.png")]
    window.go_to_stop("arrive")
    window.arrive.zones.picked.emit("cord")
    settle(0.4)
    made.append(save(window, folder / f"arrive-{mode}.png"))
    window.shelf.job.emit(SCOPE)
    window.go_to_stop("parts")
    window.parts.choose("C8")
    made.append(save(window, folder / f"parts-{mode}.png"))
    window.shelf.job.emit("sb40217")
    window.go_to_stop("arrive")
    if mode == "light":
        window.arrive.show_view("together")
        made.append(save(window, folder / "take-apart-light.png"))
        window.arrive.show_view("walk")
    return made


def _parts(window: Window, folder: Path) -> list[Path]:
    """Draw a reform that cooks, the combiner and the order."""
    job, ref = COOKING
    window.shelf.job.emit(job)
    window.go_to_stop("parts")
    window.parts.choose("R24")
    window.parts.show_panel("place")
    answered: list[bool] = []
    combiner = window.stock.combiner
    combiner.answered.connect(lambda: answered.append(True))
    window.parts.place.several.click()
    settle(10.0, lambda: bool(answered))
    made = [save(window, folder / "stock-light.png")]
    window.enter_room("order")
    made.append(save(window, folder / "order-light.png"))
    window.go_to_stop("parts")
    window.parts.choose(ref)
    window.parts.show_panel("tester")
    cook(window, job, ref, speed=40.0)
    live = window.bench.live
    settle(20.0, lambda: (s := live.status()) is not None and s.last is not None and s.last.values["volts"] > 250)
    settle(2.5)
    made.append(save(window, folder / "reform-light.png"))
    live.close()
    settle(0.3)
    return made


def _others(window: Window, folder: Path) -> list[Path]:
    """Draw the views that are drawn once."""
    made = []
    window.shelf.job.emit("sb40188")
    drawn: list[bool] = []
    window.release.previewed.connect(lambda: drawn.append(True))
    window.go_to_stop("release")
    settle(5.0, lambda: bool(drawn))
    made.append(save(window, folder / "release-light.png"))
    made += _parts(window, folder)
    for room in ("standards", "packs", "entries"):
        window.enter_room(room)
        made.append(save(window, folder / f"{room}-light.png"))
    window.shelf.job.emit("sb40217")
    window.toggle_arms_length()
    window.showNormal()
    window.resize(1280, 800)
    made.append(save(window, folder / "arms-length-light.png"))
    window.toggle_arms_length()
    return made
