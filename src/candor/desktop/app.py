"""Starting the window."""

from __future__ import annotations

import sys
from importlib import import_module, resources
from pathlib import Path
from threading import Thread

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QIcon, QPixmap
from PySide6.QtWidgets import QApplication, QMessageBox

from candor.core.jot import JotContext, understand
from candor.desktop.bench import Bench
from candor.desktop.preferences import Preferences
from candor.desktop.theme import Theme, load_fonts
from candor.desktop.window import Window
from candor.notebook.store import Notebook


def make_application() -> QApplication:
    """Return the application with its name, fonts and icon."""
    existing = QApplication.instance()
    app = existing if isinstance(existing, QApplication) else QApplication(sys.argv[:1])
    app.setApplicationName("candor")
    app.setApplicationDisplayName("Candor")
    app.setDesktopFileName("candor")
    app.setStyle("Fusion")
    load_fonts()
    icon = QPixmap()
    icon.loadFromData((resources.files("candor.assets") / "candor.svg").read_bytes())
    if not icon.isNull():
        app.setWindowIcon(QIcon(icon))
    return app


def make_window(notebook: Notebook, preferences: Preferences) -> tuple[Window, Theme]:
    """Return the window on a notebook, not shown yet."""
    theme = Theme(preferences.mode, preferences.scale)
    theme.apply()
    return Window(theme, Bench(notebook), preferences), theme


def start(path: Path, who: str) -> int:
    """Open the notebook at `path` in a window and run until it is closed.

    Raises
    ------
    NotebookError
        Where the notebook cannot be opened.
    """
    notebook = Notebook(path, who)
    app = make_application()
    window, theme = make_window(notebook, Preferences.load())
    app.styleHints().colorSchemeChanged.connect(lambda _: theme.set() if theme.mode == "system" else None)
    window.resize(1280, 800)
    window.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    window.show()
    QTimer.singleShot(400, warm_up)
    return app.exec()


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


def warm_up() -> None:
    """Load, beside the window, what is slow to load and needed later: the first use then waits for nothing."""

    def load() -> None:
        import_module("scipy.special")
        import_module("candor.paper.certificate")
        understand("0t", JotContext())

    Thread(target=load, name="candor-warm-up", daemon=True).start()
