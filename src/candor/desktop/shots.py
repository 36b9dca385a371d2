"""Pictures of every main view, made from the demo notebook."""

from __future__ import annotations

import datetime as dt
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import QApplication, QWidget

from candor.demo.shop import write_demo
from candor.desktop.app import make_application, make_window
from candor.desktop.preferences import Preferences
from candor.desktop.window import Window

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
    if mode == "light":
        window.arrive.show_view("together")
        made.append(save(window, folder / "take-apart-light.png"))
        window.arrive.show_view("walk")
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
