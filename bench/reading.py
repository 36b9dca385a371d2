"""A reading entered to its verdict drawn, with 224 points in the job, fsync included."""

from __future__ import annotations

import os
import statistics
import tempfile
from importlib import resources
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtWidgets import QApplication

from candor.desktop.app import make_application, make_window
from candor.desktop.frame.preferences import Preferences
from candor.notebook.entries.calibrate import ReadingTaken, StandardChosen
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.standards import SpecificationLine, StandardRecorded
from candor.notebook.entries.stay import JobOpened, NoteWritten
from candor.notebook.store import Notebook
from candor.packs.load import parse_pack
from candor.packs.procedure import procedure
from timing import report_limit, seconds


def prepare(path: Path) -> Notebook:
    """Return a notebook with one job of 224 points, every one read."""
    text = (resources.files("candor.packs") / "shipped" / "tarnholm-vm6.yaml").read_text(encoding="utf-8")
    pack = parse_pack(text.replace("[0.2, 0.5, 1.0]", "[0.1, 0.2, 0.3, 0.4, 0.5, 0.7, 0.8, 1.0]"), "bench")
    notebook = Notebook(path, "bench")
    body = StandardRecorded(key="m", name="meter", ranges=(SpecificationLine(upper=2000, percent_of_reading=0.01),))
    standard = notebook.write("", body).id
    opened = JobOpened(maker=pack.maker, type=pack.type, serial="1", pack_digest=notebook.keep_pack(pack))
    notebook.append(drafts_of("job", [opened, StandardChosen(standard=standard)]))
    steps = [s for s in procedure(pack) if s.kind == "point"]
    notebook.append(drafts_of(
        "job",
        [
            ReadingTaken.model_validate(
                {
                    "step": s.key, "phase": s.phase, "point": s.point.key, "indicated": s.point.nominal * 1.01,
                    "reference": s.point.nominal, "standard": standard,
                }
            )
            for s in steps
        ],
    ))  # fmt: skip
    return notebook


def main() -> None:
    """Take readings on every tenth point and time each until it is drawn."""
    with tempfile.TemporaryDirectory() as folder:
        notebook = prepare(Path(folder) / "bench.candor")
        app = make_application()
        window, _ = make_window(notebook, Preferences("light", 1.0, Path(folder) / "look.json"))
        window.resize(1280, 800)
        window.show()
        steps = [s for s in procedure(window.bench.in_hand.pack) if s.kind == "point"]

        def enter() -> None:
            window.hand.nudge(0.25)
            assert window.hand.take()
            QApplication.processEvents()

        def yardstick() -> None:
            notebook.write("other", NoteWritten(text="a durable entry and nothing else"))
            window.repaint()

        ours, other = [], []
        for step in steps[::10] * 3:
            window.bench.place.go("calibrate", step.key)
            window.hand.confirm_reference()
            app.processEvents()
            ours.append(seconds(enter))
            other.append(seconds(yardstick))
        window.close()
    report_limit(
        f"Reading entered to verdict drawn, {len(steps)} points", statistics.median(ours), 0.05,
        statistics.median(other), "one durable entry and one repaint",
    )  # fmt: skip


if __name__ == "__main__":
    main()
