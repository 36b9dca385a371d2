"""Eight meters at ten readings a second: how soon a crossing is known; and a day of their readings, drawn at any width."""

from __future__ import annotations

import os
import statistics
import tempfile
import threading
import time
import tracemalloc
from pathlib import Path

import numpy as np

from candor.core.power.overview import Overview
from candor.core.power.plan import Cut, PlanStep
from candor.links.channel_file import export_channels, read_channel
from candor.links.loopback import LoopbackInstrument
from candor.links.meters import MeterPlan
from timing import report, seconds

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
METERS, PER_SECOND, DAY = 8, 10.0, 864_000
PIXELS = 1600


def crossings() -> None:
    """From the moment a value jumps on an instrument to the signal in the window's thread; one meter's period is in it."""
    from PySide6.QtCore import QCoreApplication

    from candor.desktop.bench.meters_in_hand import PowerMeters
    from candor.notebook.store import Notebook

    application = QCoreApplication([])
    values = [100.0] * METERS
    instruments = [LoopbackInstrument(lambda _, i=i: f"{values[i]:.6E}") for i in range(METERS)]
    names = [f"b{i}" for i in range(METERS)]
    delays: list[float] = []
    with tempfile.TemporaryDirectory() as folder:
        notebook = Notebook(Path(folder) / "n.candor", "bench")
        meters = PowerMeters(notebook, notebook.write)
        step = PlanStep("warm", 230.0, cuts=tuple(Cut(name, 150.0) for name in names))
        meters.start(
            "j", [MeterPlan(n, x.resource, per_second=PER_SECOND) for n, x in zip(names, instruments, strict=True)]
        )
        while not all(state.readings for state in meters.states().values()):
            until(application, 0.05)
        jumped = [0.0]
        meters.crossed.connect(lambda _: delays.append(time.monotonic() - jumped[0]))
        chance = np.random.default_rng(1)
        for turn in range(24):
            meters.watch(None)
            values[:] = [100.0] * METERS
            until(application, 0.4 + chance.random() * 0.1)
            meters.watch(step)
            jumped[0] = time.monotonic()
            values[turn % METERS] = 400.0
            until(application, 0.6, len(delays) + 1, delays)
        meters.stop()
        notebook.close()
    for instrument in instruments:
        instrument.close()
    worst = max(delays)
    mark = "as wanted" if worst < 0.25 and len(delays) == 24 else "NOT as wanted"
    print(
        f"A crossing among {METERS} meters at {PER_SECOND:g}/s: {1000 * statistics.median(delays):.0f} ms, at most "
        f"{1000 * worst:.0f} ms "
        f"of {len(delays)} (at most 250 ms: {mark}); a meter's own period: 100 ms"
    )


def until(application, span: float, count: int = 0, made: list | None = None) -> None:
    """Let events run for a while, or until so many were made."""
    end = time.monotonic() + span
    while time.monotonic() < end and not (made is not None and count and len(made) >= count):
        application.processEvents()
        threading.Event().wait(0.002)


def a_day() -> None:
    """Eight records of 864 000 readings: drawn whole, an hour and a minute, beside reading the files once; and exported."""
    with tempfile.TemporaryDirectory() as folder:
        files = {}
        for index in range(METERS):
            record = np.stack((np.arange(DAY) / PER_SECOND, 250 + np.sin(np.arange(DAY) / 997 + index)), 1)
            files[f"b{index}"] = Path(folder) / f"{index}.readings"
            record.astype("<f8").tofile(files[f"b{index}"])
        records = {name: read_channel(path) for name, path in files.items()}
        overviews = {name: Overview() for name in files}
        plain = statistics.median(seconds(lambda: [np.fromfile(p) for p in files.values()]) for _ in range(5))
        for name, record in records.items():
            overviews[name].grow(record)
        end = DAY / PER_SECOND
        for title, begin, stop in (
            ("whole", 0, end),
            ("an hour", end / 2, end / 2 + 3600),
            ("a minute", end / 2, end / 2 + 60),
        ):

            def draw(begin: float = begin, stop: float = stop) -> None:
                for name, record in records.items():
                    overviews[name].between(record, begin, stop, PIXELS)

            draw()
            drawn = statistics.median(seconds(draw) for _ in range(9))
            report(
                f"A day of {METERS * DAY / 1e6:.1f} million readings, {title}",
                drawn,
                plain,
                "reading the files once",
                0.3,
            )
        tracemalloc.start()
        spent = seconds(lambda: export_channels({"b0": files["b0"]}, Path(folder) / "all.csv"))
        peak = tracemalloc.get_traced_memory()[1]
        tracemalloc.stop()
        print(f"One meter's day as CSV: {spent:.1f} s, {peak / 1e6:.1f} MB held at most")


def main() -> None:
    """Both."""
    crossings()
    a_day()


if __name__ == "__main__":
    main()
