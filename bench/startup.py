"""Start to usable window, warm, against a bare window of the same toolkit with an empty plot."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path

from timing import in_turn, report

SRC = Path(__file__).parents[1] / "src"

BARE = """
import sys
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QMainWindow
import pyqtgraph
app = QApplication([])
window = QMainWindow()
window.resize(1280, 800)
window.setCentralWidget(pyqtgraph.PlotWidget())
window.show()
app.processEvents()
QTimer.singleShot(0, app.quit)
app.exec()
"""

CANDOR = """
import sys
from pathlib import Path
from candor.desktop.begin import hurry
hurry()
from candor.notebook.store import Notebook
from candor.desktop.app import make_application, make_window, once_drawn
from candor.desktop.frame.preferences import Preferences
app = make_application()
look = Preferences("light", 1.0, Path(sys.argv[1] + ".json"))
window, theme = make_window(Notebook(Path(sys.argv[1]), "bench"), look, later=True)
window.resize(1280, 800)
window.show()
def drawn():
    if "job" in sys.argv:
        window.open_last()
        app.processEvents()
    window.close_now()  # a job of the demo is under power: by hand it would ask first
once_drawn(window, drawn)
app.exec()
"""


def run(script: str, *arguments: str) -> None:
    """Run a script in a process of its own, drawing off screen."""
    environment = {**os.environ, "PYTHONPATH": str(SRC), "QT_QPA_PLATFORM": "offscreen"}
    environment.pop("PYTHONDONTWRITEBYTECODE", None)  # a start is warm: with what Python compiled at the first one
    subprocess.run([sys.executable, "-c", script, *arguments], check=True, env=environment)


def main() -> None:
    """Time both in turn on the demo notebook."""
    from candor.demo.demo_notebook import write_demo

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "demo.candor"
        write_demo(path).close()
        ours, other = in_turn(lambda: run(CANDOR, str(path)), lambda: run(BARE), 7)
        job, again = in_turn(lambda: run(CANDOR, str(path), "job"), lambda: run(BARE), 7)
    report("Start to window and shelf", ours, other, "bare window with an empty plot", 1.8)
    report("Start to the last job as it was left", job, again, "bare window with an empty plot", 2.6)


if __name__ == "__main__":
    main()
