"""Starting the window."""

from __future__ import annotations

import signal
import sys
from collections.abc import Callable, Iterator
from contextlib import suppress
from functools import partial
from importlib import import_module, resources
from pathlib import Path
from threading import Event, Thread

from PySide6.QtCore import QEvent, QObject, QSize, Qt, QTimer
from PySide6.QtGui import QGuiApplication, QIcon, QImageReader, QPixmap
from PySide6.QtWidgets import QApplication, QMessageBox, QWidget

from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.desktop.begin import relax
from candor.desktop.bench.bench import Bench
from candor.desktop.bench.live_in_hand import SIMULATED
from candor.desktop.frame.file_names import keep_in, remember_notebook
from candor.desktop.frame.pages import ROOM_PAGES, STOP_PAGES
from candor.desktop.frame.preferences import Preferences
from candor.desktop.frame.theme import Theme, load_fonts
from candor.desktop.frame.unforeseen import Unforeseen
from candor.desktop.frame.watchdog import Watchdog
from candor.desktop.frame.window import Window
from candor.notebook.entries.kinds_entries import BODIES
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.store import Notebook
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.packs.procedure import procedure

SWITCH_S = 0.0005  # a worker lets the window go on after this: each of a paint's many calls waits for it, Python's usual 5 ms each
UNDRAWN_MS = 500  # that the last job waits at most for the first drawing
DESIGNED, TITLE_BAR = QSize(1280, 800), 40  # px
LARGEST_PICTURE_MB = 384  # decoded, beside the window: 80 megapixels whole; a JPEG is made smaller as it is decoded


def make_application() -> QApplication:
    """Return the application with its name, fonts and icon."""
    existing = QApplication.instance()
    if isinstance(existing, QApplication) and existing.applicationName() == "candor":
        return existing  # it has all of it
    app = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    app.setApplicationName("candor")
    app.setApplicationDisplayName("Candor")
    app.setDesktopFileName("candor")
    app.setStyle("Fusion")
    QImageReader.setAllocationLimit(LARGEST_PICTURE_MB)
    load_fonts()
    icon = QPixmap()
    icon.loadFromData((resources.files("candor.assets") / "candor.svg").read_bytes())
    if not icon.isNull():
        app.setWindowIcon(QIcon(icon))
    return app


def make_window(notebook: Notebook, preferences: Preferences, later: bool = False) -> tuple[Window, Theme]:
    """Return the window on a notebook, not shown yet; `later`, its last job is opened by whoever calls, when the window is up."""
    theme = Theme(preferences.mode, preferences.scale)
    theme.apply()
    keep_in(preferences)
    window = Window(theme, Bench(notebook), preferences)
    if not later:
        window.open_last()
    return window, theme


def start(path: Path, who: str, cooking: tuple[str, str] | None = None) -> int:
    """Open the notebook at `path` in a window and run until it is closed.

    `cooking` names a job and a capacitor of it that is put on the simulated tester at once: the demo's.

    Raises
    ------
    NotebookError
        Where the notebook cannot be opened.
    """
    notebook = Notebook(path, who, later=True)  # waits for others here, before there is a window
    notebook.do_not_wait()
    sys.setswitchinterval(SWITCH_S)
    app = make_application()
    unforeseen = Unforeseen(notebook)
    unforeseen.put_in_place()
    window, theme = make_window(notebook, Preferences.load(), later=True)
    remember_notebook(path)
    unforeseen.happened.connect(window.bench.voice.warn)
    app.styleHints().colorSchemeChanged.connect(lambda _: theme.set() if theme.mode == "system" else None)
    window.resize(fitting_size())
    window.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    window.show()
    once_drawn(window, window.open_last)
    window.bench.plan.begin()
    for name in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        # Asked to end, it closes as by hand: a source on the tester goes to zero first. The bench's clock lets it in. It closes
        # from the event loop, never in the middle of whatever was interrupted.
        signal.signal(name, lambda *_: QTimer.singleShot(0, window.close_now))
    warm_up = WarmUp(notebook)
    QTimer.singleShot(400, warm_up.start)
    if cooking:
        QTimer.singleShot(600, window, lambda: window.isVisible() and cook(window, *cooking))
    watchdog = Watchdog(app, unforeseen.note)
    code = app.exec()
    warm_up.finish()
    watchdog.finish()
    unforeseen.take_away()
    return code


def once_drawn(window: QWidget, then: Callable[[], None]) -> None:
    """Do something when a window was drawn for the first time, or UNDRAWN_MS after now where it is not: on another desk, say."""
    Drawn(window, then)


class Drawn(QObject):
    """Waits for the first time that a window is drawn."""

    def __init__(self, window: QWidget, then: Callable[[], None]) -> None:
        super().__init__(window)
        self._then: Callable[[], None] | None = then
        handle = window.windowHandle()
        if handle is not None:
            handle.installEventFilter(self)
        QTimer.singleShot(UNDRAWN_MS, self, self._do)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Let everything through; after the first drawing, what waits is done."""
        if event.type() == QEvent.Type.Expose:
            watched.removeEventFilter(self)
            QTimer.singleShot(
                0, self, self._do
            )  # behind the drawing, which is done while the window is told that it shows
        return False

    def _do(self) -> None:
        then, self._then = self._then, None
        if then is not None:
            then()
            self.deleteLater()


def fitting_size() -> QSize:
    """Return the size of a new window: as designed, or what the desktop's panels and a title bar leave."""
    screen = QGuiApplication.primaryScreen()
    free = screen.availableGeometry().size() - QSize(2, TITLE_BAR) if screen else DESIGNED
    return DESIGNED.boundedTo(free)


def cook(window: Window, job: str, ref: str, speed: float = 1.0) -> bool:
    """Put a capacitor of a job on the simulated tester and reform it."""
    from candor.core.leakage.leakage_run import Plan
    from candor.core.parts.judge_capacitor import run_limit

    bench = window.bench
    folded = fold(job, bench.notebook.entries_of(job))
    line = list_parts(folded, description_of(bench.notebook, folded)).line(ref)
    if line is None:
        return False
    volts = line.part.working_volts
    limit = run_limit(line.part, volts, folded.parts.policy)
    plan = Plan(target_volts=volts, capacitance=line.part.nominal, limit_amperes=limit, reform=True)
    return bench.live.start(job, line.part, plan, SIMULATED, speed)


def trouble(sentence: str) -> QMessageBox:
    """Return a window that says why Candor could not start."""
    Theme().apply()
    made = QMessageBox(QMessageBox.Icon.NoIcon, "Candor", sentence, QMessageBox.StandardButton.Close)
    made.setTextFormat(Qt.TextFormat.PlainText)
    return made


def show_trouble(sentence: str) -> None:
    """Say in a window why Candor could not start."""
    make_application()
    trouble(sentence).exec()


class WarmUp:
    """Loads beside the window, once it is up, what is slow to load and needed later. It is over before the program ends: a thread
    that the interpreter ends in the middle of foreign code takes the program down with it."""

    def __init__(self, notebook: Notebook) -> None:
        self._notebook, self._stop = notebook, Event()
        self._thread = Thread(target=self._load, name="candor-warm-up", daemon=True)

    def start(self) -> None:
        """Begin; garbage is collected again from here on."""
        relax()
        if not self._stop.is_set():
            self._thread.start()

    def finish(self) -> None:
        """End after the step in hand."""
        self._stop.set()
        if self._thread.is_alive():
            self._thread.join(10)

    def _load(self) -> None:
        with suppress(CandorError):  # the window may have been closed meanwhile
            for step in self._steps():
                if self._stop.is_set():
                    return
                step()

    def _steps(self) -> Iterator[Callable[[], object]]:
        yield lambda: import_module("scipy.special")
        yield lambda: import_module("scipy.interpolate")
        yield lambda: understand("0t", JotContext())
        for module, _ in (*STOP_PAGES.values(), *ROOM_PAGES.values()):
            yield partial(import_module, module)
        for module in ("pyvisa", "candor.paper.certificate", "scipy.optimize"):
            yield partial(import_module, module)
        for body in BODIES.values():  # each is built where it is first used, a frame or two each
            yield body.model_rebuild
        for row in self._notebook.store.packs():
            yield partial(self._make_steps, row.digest)

    def _make_steps(self, digest: str) -> None:
        procedure(self._notebook.pack(digest))
