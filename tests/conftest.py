"""What many tests need: a clock, a pack, a notebook, the demo, a window."""

from __future__ import annotations

import datetime as dt
import os
import shutil
import time
from collections.abc import Iterator
from contextlib import ExitStack
from functools import cache, partial
from pathlib import Path

import hypothesis
import pytest
import typer.main
import typer.testing
from pytestqt.qtbot import QtBot

from candor.core.quantities.show import show_old
from candor.core.reference.reference import Reference, SpecificationRange
from candor.demo.demo_notebook import WHO, write_demo
from candor.notebook.store import Notebook
from candor.packs.bundled import bundled_packs
from candor.packs.model import Pack
from heartbeat import Heartbeat
from pgserver import INITDB, Server
from workbench import NOW, PATIENCE_MS, Clock

hypothesis.settings.register_profile("untimed", deadline=None)
hypothesis.settings.load_profile("untimed")


def pytest_sessionstart() -> None:
    """A real window under Xvfb where there is one; without a screen Qt draws off screen."""
    if not os.environ.get("DISPLAY"):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")


def pytest_terminal_summary(terminalreporter) -> None:
    """Say where an outside reference was not there and its recorded answers stood in."""
    if shutil.which("ngspice") is None:
        terminalreporter.write_line("ngspice is not installed: its recorded answers stood in for it.")
    if not INITDB:
        terminalreporter.write_line("PostgreSQL is not installed: nothing of a notebook on a server was tested.")


@pytest.fixture(scope="session", autouse=True)
def time_that_was_lived() -> Iterator[None]:
    """Links, rigs and what waits for them are timed by a clock that a busy machine holds for all of them alike."""
    heart = Heartbeat()
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(time, "monotonic", heart.monotonic)
        yield
    heart.close()


@pytest.fixture(scope="session", autouse=True)
def command_line_made_once() -> Iterator[None]:
    """The library makes all commands anew from their signatures each time one is run: a tenth of a second."""
    made = cache(typer.main.get_command)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(typer.main, "get_command", made)
        patch.setattr(typer.testing, "_get_command", made)
        yield


@pytest.fixture
def qtbot(qtbot: QtBot) -> QtBot:
    """The hands of pytest-qt, with patience: what is waited for comes later on a busy machine."""
    qtbot.waitUntil = partial(qtbot.waitUntil, timeout=PATIENCE_MS)
    return qtbot


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture(scope="session")
def pack() -> Pack:
    return next(p for p in bundled_packs() if p.id == "tarnholm-vm6")


@pytest.fixture(autouse=True)
def no_minute_of_waiting(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> None:
    """What is discharged need not still be safe a minute later, where a test is not about that."""
    if "waits_a_minute" not in request.keywords:
        monkeypatch.setattr("candor.links.live_run.STILL_SAFE_S", 0.0)


@pytest.fixture(autouse=True)
def units_of_the_si() -> Iterator[None]:
    """What one test's shop shows in old units, the next one's does not."""
    yield
    show_old(())


@pytest.fixture
def closing() -> Iterator[ExitStack]:
    """What is closed at the end, the last made first: a window always before its notebook."""
    with ExitStack() as stack:
        yield stack


@pytest.fixture
def notebook(tmp_path: Path, clock: Clock, closing: ExitStack) -> Notebook:
    made = Notebook(tmp_path / "bench.candor", "tester", clock, moment=clock.moment)
    closing.callback(made.close)
    return made


@pytest.fixture(scope="session")
def written_demo(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo's notebook and the folders beside it, written once; every test has its own copy."""
    folder = tmp_path_factory.mktemp("demo")
    write_demo(folder / "demo.candor", NOW).close()
    return folder


@pytest.fixture
def demo(tmp_path: Path, written_demo: Path, closing: ExitStack) -> Notebook:
    shutil.copytree(written_demo, tmp_path, dirs_exist_ok=True)
    made = Notebook(tmp_path / "demo.candor", WHO, lambda: NOW)
    closing.callback(made.close)
    return made


@pytest.fixture(scope="session")
def pg() -> Iterator[Server]:
    """A PostgreSQL server of the tests' own."""
    if not INITDB:
        pytest.skip("PostgreSQL is not installed")
    server = Server()
    yield server
    server.close()


@pytest.fixture
def meter() -> Reference:
    """A reference good to 0.01 % of reading, checked half a year ago."""
    return Reference("bench meter", "V", (SpecificationRange(2000.0, 0.01),), calibrated_on=dt.date(2026, 1, 10))
