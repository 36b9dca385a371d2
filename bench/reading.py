"""A reading entered to its verdict drawn, fsync included: 224 points of needles in the job, and over 400 of mixed kinds."""

from __future__ import annotations

import os
import statistics
import sys
import tempfile
from importlib import resources
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from PySide6.QtWidgets import QApplication

from candor.core.calibration.point import TestPoint
from candor.core.jot import JotContext, understand
from candor.core.reading.kinds import kind_of
from candor.desktop.app import make_application, make_window
from candor.desktop.frame.preferences import Preferences
from candor.notebook.entries.calibrate_entries import ReadingTaken, StandardChosen
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.entries.stay_entries import JobOpened, NoteWritten
from candor.notebook.standards.standards_text import read_functions
from candor.notebook.store import Notebook
from candor.packs.load import parse_pack
from candor.packs.model import Pack
from candor.packs.procedure import procedure
from everykind import TEXT
from timing import report, seconds

GOOD_FOR = {"meter": "V\nto 2000 V: 0.01 %\nohm\nto 200 Mohm: 0.01 %", "box": "F\nto 1 uF: 0.1 %"}
MIXED = {"at: [0.5, 1]": 60, "at: [0, 1, infinity]": 60, "ranges: [a], at: [1]": 60, "function: gain, at: [1]": 60,
         "function: shorts, at: [1]": 60, "function: out, at: [1]": 60, "at: [-0.8, 0, 0.8]": 60}  # fmt: skip


def needles() -> Pack:
    """A voltmeter with many points on each range."""
    text = (resources.files("candor.packs") / "shipped" / "tarnholm-vm6.yaml").read_text(encoding="utf-8")
    return parse_pack(text.replace("[0.2, 0.5, 1.0]", "[0.1, 0.2, 0.3, 0.4, 0.5, 0.7, 0.8, 1.0]"), "bench")


def mixed() -> Pack:
    """A pack whose every function is read in another way, with many points on each."""
    text = TEXT
    for old, count in MIXED.items():
        shares = ", ".join(f"{(0.3 + 0.7 * i / (count - 1)):.5f}" for i in range(count))
        new = (
            old[: old.index("at:")] + f"at: [{shares}, 0.5, 1]"
            if "[0.5, 1]" in old
            else old[: old.index("at:")] + f"at: [{shares}]"
        )
        text = text.replace(old, new)
    return parse_pack(text, "mixed")


def prepare(path: Path, pack: Pack) -> Notebook:
    """Return a notebook with one job, every needle of it read, its standards chosen."""
    notebook = Notebook(path, "bench")
    chosen = [
        StandardChosen(standard=notebook.write("", StandardRecorded(
            key=role, name=f"the {role}", role=role, functions=read_functions(text),
        )).id)
        for role, text in GOOD_FOR.items()
    ]  # fmt: skip
    opened = JobOpened(maker=pack.maker, type=pack.type, serial="1", pack_digest=notebook.keep_pack(pack))
    notebook.append(drafts_of("job", [opened, *chosen]))
    steps = [s for s in procedure(pack) if s.kind == "point" and kind_of(s.point).has_friction]
    notebook.append(drafts_of(
        "job",
        [
            ReadingTaken(
                step=s.key, phase=s.phase, point=s.point.key, indicated=s.point.nominal * 1.01, reference=s.point.nominal,
                standard=chosen[0].standard,
            )
            for s in steps
        ],
    ))  # fmt: skip
    return notebook


def whole_line(point: TestPoint) -> str:
    """Return a reading of a point as it is typed, what the reference shows with it."""
    kind = kind_of(point)
    text = kind.example(point)
    asks = kind.compares == "reference" and point.needs_reference and " ref " not in text
    return f"{text} ref {point.nominal:.6g} {point.asked_unit}" if asks else text


def measure(pack: Pack, title: str) -> None:
    """Take readings on every tenth point and time each until it is drawn."""
    with tempfile.TemporaryDirectory() as folder:
        notebook = prepare(Path(folder) / "bench.candor", pack)
        window, _ = make_window(notebook, Preferences("light", 1.0, Path(folder) / "look.json"))
        window.resize(1280, 800)
        window.show()
        steps = [s for s in procedure(pack) if s.kind == "point" and not kind_of(s.point).figured]

        def enter(text: str) -> None:
            jot = understand(text, JotContext(window.hand.point, served=window.hand.served))
            assert window.hand.take_jot(jot, text), text
            QApplication.processEvents()

        def yardstick() -> None:
            notebook.write("other", NoteWritten(text="a durable entry and nothing else"))
            window.repaint()

        ours, other = [], []
        for step in steps[::10] * 3:
            window.bench.place.go("calibrate", step.key)
            QApplication.processEvents()
            text = whole_line(step.point)
            ours.append(seconds(lambda text=text: enter(text)))
            other.append(seconds(yardstick))
        window.close()
    report(
        f"Reading entered to verdict drawn, {len(steps)} points, {title}", statistics.median(ours), statistics.median(other),
        "one durable entry and one repaint", 1.5,
    )  # fmt: skip


def main() -> None:
    """Both kinds of job."""
    app = make_application()
    measure(needles(), "needles")
    measure(mixed(), "mixed kinds")
    app.quit()


if __name__ == "__main__":
    main()
