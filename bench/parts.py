"""The combiner against brute force, a list judged anew after a policy change, and two hours of a live run."""

from __future__ import annotations

import datetime as dt
import itertools
import os
import random
import statistics
import tempfile
import time
import tracemalloc
from pathlib import Path

import numpy as np

from candor.core.combine.exact import Piece, best, combination
from candor.core.combine.preferred import values_between
from candor.core.leakage.leakage_run import LeakageRun, Plan, Sample
from candor.core.parts.policy import Policy, Sight
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.parts_entries import CircuitTaken, PartListed, PartMeasured
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.work.job import fold
from candor.packs.bundled import bundled_packs
from timing import in_turn, report_limit, seconds


def brute(target: float, values: list[float], most: int) -> float:
    """Return the least error over every arrangement, one after the other in plain loops."""
    least = min(abs(v - target) for v in values)
    pairs = [p for a, b in itertools.combinations_with_replacement(values, 2) for p in (a + b, a * b / (a + b))]
    least = min(least, min(abs(p - target) for p in pairs))
    if most > 2:
        for p in pairs:
            for v in values:
                least = min(least, abs(p + v - target), abs(p * v / (p + v) - target))
    if most > 3:
        triples = [t for p in pairs for v in values for t in (p + v, p * v / (p + v))]
        for t in triples:
            for v in values:
                least = min(least, abs(t + v - target), abs(t * v / (t + v) - target))
        for a, b in itertools.combinations_with_replacement(pairs, 2):
            least = min(least, abs(a + b - target), abs(a * b / (a + b) - target))
    return least


def same_answer(count: int, most: int) -> None:
    """Where brute force can finish it must give the same answer."""
    chance = random.Random(count)
    for _ in range(3):
        values = [10 ** chance.uniform(1, 6) for _ in range(count)]
        target = 10 ** chance.uniform(1, 6)
        ours = min(abs(c.value - target) for c in best(target, [Piece(v) for v in values], most))
        theirs = brute(target, values, most)
        if abs(ours - theirs) > 1e-9 * target:
            raise SystemExit(f"not the same: {ours} against {theirs} for {target} of {values}")


def combiner() -> None:
    """Best of 4 from a stock of 500, best of 3 from all of E96."""
    same_answer(8, 4)
    same_answer(20, 3)
    chance = random.Random(3)
    stock = [Piece(10 ** chance.uniform(1, 7)) for _ in range(500)]
    small = [p.value for p in stock[:10]]
    targets = [12345.6, 7.77e6, 33.3, 1e7, 470.0]
    took = [seconds(lambda t=t: best(t, stock, 4)) for t in targets for _ in range(3)]
    plain = seconds(lambda: brute(12345.6, small, 4))
    report_limit("Best of 4 from a stock of 500", statistics.median(took), 0.150, plain, "brute force on 10 of them")
    series = [Piece(v) for v in values_between("E96", 1.0, 9.76e6)]
    took = [seconds(lambda t=t: best(t, series, 3)) for t in targets for _ in range(3)]
    plain = seconds(lambda: brute(12345.6, [p.value for p in series[::16]], 3))
    report_limit(f"Best of 3 from E96, {len(series)} values", statistics.median(took), 0.300, plain,
                 "brute force on every sixteenth")  # fmt: skip
    combination(0, stock)


def judging() -> None:
    """400 parts of a job in a circuit of 200 resistors, judged anew after a policy change, entries and all."""
    chance = random.Random(1)
    lines = [f"R{i} n{i} n{max(i - chance.randint(1, 4), 0)} {10 ** chance.uniform(2, 6):.4g}" for i in range(1, 201)]
    lines += [f"C{i} n{i} 0 1u" for i in range(1, 201)]
    bodies: list[Body] = [CircuitTaken(netlist="\n".join([*lines, "R900 n0 0 1k"]), supply="n5")]
    for i in range(1, 201):
        ohms = float(lines[i - 1].split()[-1])
        bodies.append(PartListed(ref=f"R{i}", what="resistor", nominal=ohms, make="carbon composition", role="load"))
        bodies.append(PartMeasured(ref=f"R{i}", value=ohms * chance.uniform(0.8, 1.2), in_circuit=True))
        make, role = (("paper", "coupling"), ("electrolytic", "filter"))[i % 2]
        can = f"X{i // 6}" if i % 2 else ""
        bodies.append(PartListed(ref=f"C{i}", what="capacitor", nominal=1e-6, make=make, role=role, volts=450,
                                 volts_across=300, grid_ohms=470e3, can=can))  # fmt: skip
        bodies.append(PartMeasured(ref=f"C{i}", value=1e-6, dissipation=0.05, hertz=120, leakage=chance.uniform(0, 9e-6),
                                   leakage_volts=300, dwell_s=300))  # fmt: skip
    now = dt.datetime(2026, 1, 1, tzinfo=dt.UTC)
    job = fold(
        "b", [Entry(number=i, id=str(i), job="b", at=now, who="bench", body=body) for i, body in enumerate(bodies, 1)]
    )
    pack = next(p for p in bundled_packs() if p.id == "tarnholm-vm6").model_copy(
        update={"parts": (), "circuit": None}
    )
    policies = itertools.cycle([Policy(), Policy(Sight.REPLACE)])
    first = seconds(lambda: list_parts(job, pack, next(policies)))
    solve = np.eye(400)
    ours, other = in_turn(lambda: list_parts(job, pack, next(policies)), lambda: np.linalg.solve(solve, solve), 15)
    report_limit("400 parts judged anew after a policy change", ours, 0.050, other, "one dense solve of 400 unknowns")
    print(f"  (the first time, with every network solved: {1000 * first:.0f} ms)")


def live() -> None:
    """Two hours at 20 readings a second: time for one reading, for one fit, and what memory grows by."""
    watch = LeakageRun(Plan(280, 40e-6, 1e-7, reform=True, steps=1, most_s=1e9, patience_s=1e9))
    chance = random.Random(2)
    readings = 7200 * 20

    def feed(start: int, stop: int) -> None:
        for i in range(start, stop):
            t = (i + 1) / 20
            watch.take(Sample(t, 278.0, (1e-4 + 2e-3 * t**-0.6) * chance.gauss(1, 0.002)))

    feed(0, readings // 8)
    took = seconds(lambda: feed(readings // 8, readings // 4))
    tracemalloc.start()
    before = tracemalloc.get_traced_memory()[0]
    feed(readings // 4, readings)
    grown = tracemalloc.get_traced_memory()[0] - before
    tracemalloc.stop()
    fit = statistics.median(seconds(watch.calculate) for _ in range(15))
    print(f"Live run, {readings} readings: memory grew by {grown / 1024:.0f} KiB after the first half hour; "
          f"{8e6 * took / readings:.0f} µs a reading")  # fmt: skip
    plain = statistics.median(seconds(lambda: np.polyfit(np.arange(1600.0), np.arange(1600.0), 3)) for _ in range(15))
    report_limit("One fit of the fall with its range", fit, 0.025, plain, "a cubic through 1600 points")


def window() -> None:
    """One refresh of the window while a run goes on, curve and all."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from PySide6.QtWidgets import QApplication

    from candor.demo.demo_notebook import write_demo
    from candor.demo.parts_jobs import COOKING
    from candor.desktop.app import make_application, make_window
    from candor.desktop.frame.preferences import Preferences

    with tempfile.TemporaryDirectory() as folder:
        app = make_application()
        shown, _ = make_window(
            write_demo(Path(folder) / "demo.candor"), Preferences("light", 1.0, Path(folder) / "x.json")
        )
        shown.resize(1280, 800)
        shown.show()
        shown.shelf.job.emit(COOKING[0])
        shown.go_to_stop("parts")
        shown.parts.choose(COOKING[1])
        shown.parts.show_panel("tester")
        part = shown.parts.line().part
        plan = Plan(target_volts=280, capacitance=40e-6, limit_amperes=1e-6, dwell_s=1e5, most_s=1e5)
        shown.bench.live.start(COOKING[0], part, plan, "simulated", 20.0)
        end = time.monotonic() + 20
        while time.monotonic() < end and shown.bench.live.running and shown.bench.live.status().readings < 300:
            app.processEvents()

        def refresh() -> None:
            shown.bench.live.changed.emit()
            shown.parts.tester.curve.repaint()

        ours, other = in_turn(refresh, lambda: (shown.shelf.repaint(), QApplication.processEvents()), 40)
        report_limit("One refresh while a run goes on, ten a second", ours, 0.020, other, "one repaint of the shelf")
        shown.close()


if __name__ == "__main__":
    combiner()
    judging()
    live()
    window()
