"""How the cost of what Candor does grows with the work: three sizes each, the exponent between them, and a row's aim.

An exponent of 1 is linear: twice the work, twice the time. Beside each row stands the time against a yardstick of the same run.
`python bench/growth.py ROW ...` runs some rows, without names all of them.
"""

from __future__ import annotations

import itertools
import json
import math
import os
import random
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np

from timing import seconds

Deed = Callable[[], object]


@dataclass(frozen=True)
class GrowthRow:
    """What is done, at which sizes, and how long the largest may take, s; `prepare` gives the deed for a size."""

    name: str
    sizes: tuple[int, ...]
    aim_s: float
    prepare: Callable[[int], Deed]
    exponent: float = 1.3


# --- calculations -----------------------------------------------------------------------------------------


def modified_allan(size: int) -> Deed:
    """The modified Allan deviation of a record."""
    from candor.core.stability.allan import deviations

    values = np.random.default_rng(1).normal(size=size)
    return lambda: deviations(values, 1.0, "modified")


def settled(size: int) -> Deed:
    """Whether what is watched has settled."""
    from candor.core.stability.settle import settling

    t = np.linspace(0, 7200, size)
    y = 10 + 0.1 * np.exp(-t / 900) + np.random.default_rng(2).normal(0, 0.002, size)
    return lambda: settling(t, y, 0.005)


def combiner(size: int) -> Deed:
    """The nearest of three pieces of a drawer."""
    from candor.core.combine.exact import Piece, best

    chance = random.Random(3)
    stock = [Piece(10 ** chance.uniform(1, 7)) for _ in range(size)]
    return lambda: best(12345.6, stock, 3)


def alike_tubes(size: int) -> Deed:
    """Groups of tubes that cannot be told apart, some known better than others."""
    from candor.core.tubes.matching import Measured, alike, tubes_of

    chance = random.Random(4)
    tubes = tubes_of(
        Measured(tube=str(i), section="", figure=chance.gauss(2000, 150), u=chance.uniform(8, 30))
        for i in range(size)
    )
    return lambda: alike(tubes)


def twins(size: int) -> Deed:
    """Twin triodes in pairs."""
    from candor.core.tubes.matching import Measured, match, tubes_of

    chance = random.Random(5)
    tubes = tubes_of(
        Measured(tube=str(i), section=s, figure=chance.gauss(2000, 150), u=20) for i in range(size) for s in "12"
    )
    return lambda: match(tubes)


def sets_of_four(size: int) -> Deed:
    """Tubes of one section in sets of four."""
    from candor.core.tubes.matching import Measured, match, tubes_of

    chance = random.Random(5)
    tubes = tubes_of(Measured(tube=str(i), section="", figure=chance.gauss(2000, 150), u=20) for i in range(size))
    return lambda: match(tubes, 4)


def ladder(size: int) -> str:
    """A net of resistors with `size` parts."""
    chance, rungs = random.Random(6), size // 2
    lines = ["V1 b 0 250"] + [
        f"R{i} {'b' if i == 1 else f'n{i - 1}'} n{i} {chance.uniform(1, 50):.3g}k" for i in range(1, rungs + 1)
    ]
    return "\n".join(lines + [f"R{rungs + i} n{i} 0 {chance.uniform(20, 500):.3g}k" for i in range(1, rungs + 1)])


def working_point(size: int) -> Deed:
    """Every node of a net."""
    from candor.core.circuit.netlist import parse_netlist
    from candor.core.circuit.solve import operating_point

    netlist = parse_netlist(ladder(size))
    return lambda: operating_point(netlist)


def suspected(size: int) -> Deed:
    """What does not add up among the nodes of a net."""
    from candor.core.circuit.netlist import parse_netlist
    from candor.core.circuit.solve import operating_point
    from candor.core.suspects.board import Board, NodeSeen
    from candor.core.suspects.weigh_board import weigh_board

    netlist, chance = parse_netlist(ladder(size)), random.Random(7)
    volts = {n: v * (1 + chance.uniform(-0.01, 0.01)) for n, v in operating_point(netlist).items() if n != "0"}
    seen = [NodeSeen(n, v, 1e7) for n, v in list(volts.items())[:12]]
    return lambda: weigh_board(Board(netlist, beside=dict.fromkeys(netlist.nodes, ())), seen)


def cold_start(size: int) -> Deed:
    """A tenth of a second of a supply's cold start, with so many resistors behind it."""
    from candor.core.circuit.netlist import parse_netlist
    from candor.core.circuit.time_steps import March

    supply = "V1 a 0 sin(0 440 50)\nRs a a1 90\nD1 a1 b is=1e-9 n=1.5 rs=1\nC1 b 0 32u\n"
    netlist = parse_netlist(supply + ladder(size).partition("\n")[2])
    return lambda: March(netlist).run(0.1, until_settled=False)


def zoomed(size: int) -> Deed:
    """A long waveform drawn."""
    from candor.core.waves.analysis import analyse
    from candor.core.waves.waveform import Waveform
    from candor.desktop.app import make_application
    from candor.desktop.frame.theme import Theme
    from candor.desktop.widgets.waveplot import WavePlot

    make_application()
    t, noise = np.arange(size), np.random.default_rng(1).normal(0, 0.02, size)
    plot = WavePlot(Theme("light"))
    plot.resize(1000, 400)
    plot.show_analysis(analyse(Waveform("A", "V", np.sin(2 * np.pi * t / 250) + noise, 1e-6)))
    return plot.grab


# --- tables ------------------------------------------------------------------------------------------------


def stock_table(size: int) -> Deed:
    """A drawer taken in from a table."""
    from candor.notebook.parts.stock import preview_stock

    chance = random.Random(8)
    rows = [
        f"resistor,{chance.choice([10, 22, 47, 68])}{chance.choice(['', 'k', 'M'])} ohm,5 %,{i % 9 + 1}"
        for i in range(size)
    ]
    content = "\n".join(["what,value,tolerance,count", *rows]).encode()
    return lambda: preview_stock(content)


def readings_table(size: int) -> Deed:
    """Readings taken in from a table."""
    from candor.notebook.work.csv_readings import preview_csv
    from candor.packs.bundled import bundled_pack
    from candor.packs.procedure import test_points

    pack = bundled_pack("tarnholm-vm6")
    points = test_points(pack, "as found")
    rows = [f"{p.key},{p.nominal:g},{p.nominal:g}" for p in (points[i % len(points)] for i in range(size))]
    content = "\n".join(["point,reading,reference", *rows]).encode()
    return lambda: preview_csv(content, pack, "as found", lambda _: ("", None))


def parts_judged(size: int) -> Deed:
    """A parts list judged anew after a policy change."""
    import datetime as dt
    import itertools

    from candor.core.parts.policy import Policy, Sight
    from candor.notebook.entries.entry import Entry
    from candor.notebook.entries.parts_entries import CircuitTaken, PartListed, PartMeasured
    from candor.notebook.parts.parts_list import list_parts
    from candor.notebook.work.job import fold
    from candor.packs.bundled import bundled_pack

    chance, half = random.Random(1), size // 2
    lines = [
        f"R{i} n{i} n{max(i - chance.randint(1, 4), 0)} {10 ** chance.uniform(2, 6):.4g}" for i in range(1, half + 1)
    ]
    bodies: list[object] = [CircuitTaken(netlist="\n".join([*lines, "R90000 n0 0 1k"]), supply="n5")]
    for i in range(1, half + 1):
        ohms = float(lines[i - 1].split()[-1])
        bodies.append(PartListed(ref=f"R{i}", what="resistor", nominal=ohms, make="carbon composition", role="load"))
        bodies.append(PartMeasured(ref=f"R{i}", value=ohms * chance.uniform(0.8, 1.2), in_circuit=True))
        bodies.append(PartListed(ref=f"C{i}", what="capacitor", nominal=1e-6, make="paper", role="coupling", volts=450,
                                 volts_across=300, grid_ohms=470e3))  # fmt: skip
        bodies.append(PartMeasured(ref=f"C{i}", value=1e-6, dissipation=0.05, hertz=120, leakage=chance.uniform(0, 9e-6),
                                   leakage_volts=300, dwell_s=300))  # fmt: skip
    now = dt.datetime(2026, 1, 1, tzinfo=dt.UTC)
    job = fold(
        "b", [Entry(number=i, id=str(i), job="b", at=now, who="bench", body=b) for i, b in enumerate(bodies, 1)]
    )
    pack = bundled_pack("tarnholm-vm6").model_copy(update={"parts": (), "circuit": None})
    policies = itertools.cycle([Policy(), Policy(Sight.REPLACE)])
    return lambda: list_parts(job, pack, next(policies))


def worksheet(size: int) -> Deed:
    """The worksheet of an instrument with so many steps."""
    import datetime as dt
    from importlib import resources

    from candor.notebook.entries.entry import Entry
    from candor.notebook.entries.stay_entries import JobOpened
    from candor.notebook.work.job import fold
    from candor.packs.load import parse_pack
    from candor.paper.worksheet import worksheet_pdf

    text = (resources.files("candor.packs") / "shipped" / "tarnholm-vm6.yaml").read_text(encoding="utf-8")
    shares = ", ".join(f"{(i + 1) / (size // 28):.4f}" for i in range(size // 28))
    pack = parse_pack(text.replace("[0.2, 0.5, 1.0]", f"[{shares}]"), "bench")
    now = dt.datetime(2026, 1, 1, tzinfo=dt.UTC)
    opened = Entry(number=1, id="1", job="b", at=now, who="x", body=JobOpened(maker="M", type="T", serial="1"))
    job = fold("b", [opened])
    return lambda: worksheet_pdf(job, pack, "shop", now.date(), False)


def certificate(size: int) -> Deed:
    """The certificate of an instrument with so many points, set in pages."""
    import datetime as dt

    from candor.notebook.entries.calibrate_entries import ReadingTaken
    from candor.notebook.entries.entry import Entry
    from candor.notebook.entries.stay_entries import JobOpened
    from candor.notebook.work.job import fold
    from candor.packs.bundled import bundled_pack
    from candor.packs.procedure import procedure
    from candor.paper.certificate import certificate_pdf
    from candor.paper.gather import make_certificate

    pack, now = bundled_pack("tarnholm-vm6"), dt.datetime(2026, 1, 1, tzinfo=dt.UTC)
    steps = [s for s in procedure(pack) if s.kind == "point" and s.phase == "as found"][:size]
    bodies = [JobOpened(maker=pack.maker, type=pack.type, serial="1", pack_digest=pack.digest)] + [
        ReadingTaken(
            step=s.key, phase=s.phase, point=s.point.key, indicated=s.point.nominal, reference=s.point.nominal
        )
        for s in steps
    ]
    job = fold("b", [Entry(number=i, id=str(i), job="b", at=now, who="x", body=b) for i, b in enumerate(bodies, 1)])
    record = make_certificate(job=job, pack=pack, known={}, shop="shop", who="x", now=now).record
    return lambda: certificate_pdf(record)


def packed(size: int) -> Deed:
    """A job with so many photos of a megabyte, as a zip."""
    from candor.notebook.arrive.photos import keep_picture
    from candor.notebook.entries.arrive_entries import FindingNoted, PhotoAdded
    from candor.notebook.entries.entry import drafts_of
    from candor.notebook.entries.stay_entries import JobOpened
    from candor.notebook.exchange.travel_out import travelling
    from candor.notebook.store import Notebook

    held = ExitStack()
    path = Path(held.enter_context(tempfile.TemporaryDirectory())) / "bench.candor"
    notebook = Notebook(path, "bench")
    notebook.append(drafts_of("job0", [JobOpened(maker="M", type="T", serial="1")]))
    finding = notebook.write("job0", FindingNoted(zone="case", mark="note", text="dust"))
    files = [
        keep_picture(notebook.photo_folder, b"\xff\xd8\xff\xe0" + os.urandom(1_000_000), f"{i}.jpg")
        for i in range(size)
    ]
    notebook.append(drafts_of("job0", [PhotoAdded(finding=finding.id, file=file) for file in files]))

    def work() -> None:
        travelling(notebook, "job0")

    work.held = held  # type: ignore[attr-defined]
    return work


# --- notebooks ---------------------------------------------------------------------------------------------


@contextmanager
def notebook_of(readings: int) -> Iterator[Path]:
    """A notebook of one job with so many readings."""
    from candor.notebook.entries.calibrate_entries import ReadingTaken, StandardChosen
    from candor.notebook.entries.entry import drafts_of
    from candor.notebook.entries.standards_entries import StandardRecorded
    from candor.notebook.entries.stay_entries import JobOpened
    from candor.notebook.standards.standards_text import read_functions
    from candor.notebook.store import Notebook
    from candor.packs.bundled import bundled_pack
    from candor.packs.procedure import procedure

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "bench.candor"
        notebook, pack = Notebook(path, "bench"), bundled_pack("tarnholm-vm6")
        functions = read_functions("V\nto 2000 V: 0.01 %\nohm\nto 200 Mohm: 0.01 %")
        standard = notebook.write(
            "", StandardRecorded(key="meter", name="the meter", role="meter", functions=functions)
        ).id
        opened = JobOpened(maker=pack.maker, type=pack.type, serial="1", pack_digest=notebook.keep_pack(pack))
        steps = [s for s in procedure(pack) if s.kind == "point"]
        read = [
            ReadingTaken(
                step=s.key, phase=s.phase, point=s.point.key, indicated=s.point.nominal * (1 + 0.001 * (i % 7)),
                reference=s.point.nominal, standard=standard,
            )
            for i, s in ((i, steps[i % len(steps)]) for i in range(readings))
        ]  # fmt: skip
        notebook.append(drafts_of("job0", [opened, StandardChosen(standard=standard), *read]))
        notebook.close()
        yield path


def checked(size: int) -> Deed:
    """Everything about a notebook checked."""
    from candor.notebook.storage.checking import check_notebook

    held = ExitStack()
    path = held.enter_context(notebook_of(size))

    def work() -> None:
        assert not check_notebook(path).faults

    work.held = held  # type: ignore[attr-defined]
    return work


def opened(size: int) -> Deed:
    """A notebook opened, and its shelf."""
    from candor.notebook.shelf import shelf
    from candor.notebook.store import Notebook, utc_now

    held = ExitStack()
    path = held.enter_context(notebook_of(size))

    def work() -> None:
        notebook = Notebook(path, "bench", later=True)
        shelf(notebook, utc_now())
        notebook.close()

    work.held = held  # type: ignore[attr-defined]
    return work


# --- the window -------------------------------------------------------------------------------------------


@contextmanager
def window_on(path: Path) -> Iterator[Any]:
    """A window on a notebook, shown."""
    from PySide6.QtCore import QEvent
    from PySide6.QtWidgets import QApplication

    from candor.desktop.app import make_application, make_window
    from candor.desktop.frame.preferences import Preferences
    from candor.notebook.store import Notebook

    make_application()
    window, _ = make_window(Notebook(path, "bench"), Preferences("light", 1.0, path.with_name("look.json")))
    window.resize(1280, 800)
    window.show()
    settle()
    try:
        yield window
    finally:
        window.close_now()
        window.deleteLater()  # what is left of it would be dressed again with every other window
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


def settle(most_s: float = 20.0) -> float:
    """Let the window come to rest; return the longest that one turn of its events took, s."""
    from PySide6.QtWidgets import QApplication

    longest, end, busy = 0.0, time.perf_counter() + most_s, time.perf_counter()
    while time.perf_counter() < min(end, busy + 0.15):
        spent = seconds(QApplication.processEvents)
        if spent > 0.002:
            busy, longest = time.perf_counter(), max(longest, spent)
        time.sleep(0.001)
    return longest


def in_window(held: ExitStack, path: Path, deed: Callable[[Any], object]) -> Deed:
    """A deed of a window on a notebook: the deed takes as long as the window stands still for it at the longest."""
    window = held.enter_context(window_on(path))

    def work() -> float:
        return max(seconds(lambda: deed(window)), settle())

    work.held = held  # type: ignore[attr-defined]
    work.says = True  # type: ignore[attr-defined]
    return work


def of_readings(deed: Callable[[Any], object]) -> Callable[[int], Deed]:
    """A deed of a window on a notebook of one job with so many readings."""

    def prepare(size: int) -> Deed:
        held = ExitStack()
        return in_window(held, held.enter_context(notebook_of(size)), deed)

    return prepare


def read_once_more(window: Any, at: int = 3) -> None:
    """Take a reading at a point."""
    from candor.core.jot import JotContext, understand
    from candor.packs.procedure import procedure

    points = [step for step in procedure(window.bench.in_hand.pack) if step.kind == "point"]
    window.bench.place.go("calibrate", points[at % len(points)].key)
    point = window.hand.point
    text = f"{point.nominal:g} ref {point.nominal:g} {point.asked_unit}"
    assert window.hand.take_jot(understand(text, JotContext(point, served=window.hand.served)), text)


def with_standards(size: int) -> Deed:
    """A walk from point to point with so many standards that could serve each of them."""
    from candor.notebook.entries.entry import drafts_of
    from candor.notebook.entries.standards_entries import StandardRecorded
    from candor.notebook.standards.standards_text import read_functions
    from candor.notebook.store import Notebook
    from candor.packs.procedure import procedure

    held, turn = ExitStack(), itertools.count(1)
    path = held.enter_context(notebook_of(20))
    notebook = Notebook(path, "bench")
    functions = read_functions("V\nto 2000 V: 0.02 %\nohm\nto 200 Mohm: 0.02 %")
    notebook.append(
        drafts_of(
            "",
            [
                StandardRecorded(key=f"m{i}", name=f"meter {i}", role="meter", functions=functions)
                for i in range(size)
            ],
        )
    )
    notebook.close()

    def deed(window: Any) -> None:
        points = [step for step in procedure(window.bench.in_hand.pack) if step.kind == "point"]
        window.bench.place.go("calibrate", points[3 * next(turn) % len(points)].key)

    return in_window(held, path, deed)


def traced(size: int) -> Deed:
    """The stop Trace of a job with so many parts."""
    from candor.notebook.entries.entry import drafts_of
    from candor.notebook.entries.parts_entries import CircuitTaken
    from candor.notebook.entries.trace_entries import NodeRead
    from candor.notebook.store import Notebook

    held = ExitStack()
    path = held.enter_context(notebook_of(20))
    notebook = Notebook(path, "bench")
    read = [NodeRead(node=f"n{i}", volts=100.0) for i in range(1, 20)]
    notebook.append(drafts_of("job0", [CircuitTaken(netlist=ladder(size)), *read]))
    notebook.close()

    def deed(window: Any) -> None:
        window.go_to_stop("calibrate")
        window.go_to_stop("trace")

    return in_window(held, path, deed)


def node_read(size: int) -> Deed:
    """A node read at the stop Trace, of a network of so many parts."""
    from candor.core.jot.line import understand_at
    from candor.notebook.entries.entry import drafts_of
    from candor.notebook.entries.parts_entries import CircuitTaken
    from candor.notebook.store import Notebook

    held, turn = ExitStack(), itertools.count(100)
    path = held.enter_context(notebook_of(20))
    notebook = Notebook(path, "bench")
    notebook.append(drafts_of("job0", [CircuitTaken(netlist=ladder(size))]))
    notebook.close()

    def deed(window: Any) -> None:
        window.go_to_stop("trace")
        assert window.bench.writer.jot(understand_at("trace", f"node n5 {next(turn)}"))

    return in_window(held, path, deed)


def released(window: Any) -> None:
    """The stop Release shown."""
    window.go_to_stop("calibrate")
    window.go_to_stop("release")


def shelf_of(size: int) -> Deed:
    """The status of one job written, with so many on the shelf."""
    from candor.notebook.entries.entry import Draft
    from candor.notebook.entries.stay_entries import JobOpened
    from candor.notebook.store import Notebook
    from candor.sitting.commands import stay_commands

    held, turn = ExitStack(), itertools.count()
    path = Path(held.enter_context(tempfile.TemporaryDirectory())) / "bench.candor"
    notebook = Notebook(path, "bench")
    notebook.append([Draft(f"job{i}", JobOpened(maker="M", type="T", serial=str(i))) for i in range(size)])
    notebook.close()
    return in_window(
        held,
        path,
        lambda window: window.bench.writer.do(stay_commands.status("wants hands", f"in hand {next(turn)}")),
    )


def asked_at_closing(size: int) -> Deed:
    """What is under power, asked of a shop in which so many were switched on and the plug pulled again, a tenth of it struck."""
    from candor.notebook.entries.entry import Draft
    from candor.notebook.entries.power_entries import PluggedOut, StateBegun
    from candor.notebook.entries.strikes_entries import Struck
    from candor.notebook.power.powering import under_power
    from candor.notebook.store import Notebook, utc_now

    held = ExitStack()
    path = Path(held.enter_context(tempfile.TemporaryDirectory())) / "bench.candor"
    notebook = Notebook(path, "bench")
    drafts: list[Draft] = []
    day = utc_now()  # told afterwards: such are not barred
    for i in range(size):
        job, last = f"job{i}", Draft(f"job{i}", PluggedOut())
        steps = [Draft(job, StateBegun(title=f"{v:g} V", line_volts=v), day) for v in (40.0, 120.0, 230.0)]
        drafts += [*steps, last]
        if i % 10 == 0:
            drafts += [Draft(job, Struck(target=last.id)), Draft(job, PluggedOut())]
    notebook.append(drafts)

    def work() -> None:
        assert not under_power(notebook)

    work.held = held  # type: ignore[attr-defined]  # the folder goes with it
    return work


def tubes_of_a_shop(size: int) -> Deed:
    """The room of the tubes, of two sections each."""
    from candor.notebook.entries.entry import drafts_of
    from candor.notebook.entries.tubes_entries import TubeRecorded, TubeTested
    from candor.notebook.store import Notebook

    held, chance = ExitStack(), random.Random(1)
    path = Path(held.enter_context(tempfile.TemporaryDirectory())) / "bench.candor"
    notebook, bodies = Notebook(path, "bench"), []
    for i in range(size):
        bodies.append(TubeRecorded(key=f"t{i}", type="MT-1", sections=("1", "2"), nominal=2.2e-3))
        bodies += [
            TubeTested(
                tube=f"t{i}", test="gm", section=s, figure=chance.gauss(2.2e-3, 1e-4), full_scale=5e-3, division=1e-4
            )
            for s in ("1", "2")
        ]
    notebook.append(drafts_of("", bodies))
    notebook.close()
    return in_window(held, path, lambda window: window.enter_room("tubes"))


def stock_of_a_shop(size: int) -> Deed:
    """The room of the stock."""
    from candor.notebook.entries.entry import drafts_of
    from candor.notebook.parts.stock import preview_stock
    from candor.notebook.store import Notebook

    held = ExitStack()
    path = Path(held.enter_context(tempfile.TemporaryDirectory())) / "bench.candor"
    rows = [f"resistor,{10 + i} ohm,5 %,{i % 9 + 1}" for i in range(size)]
    found = preview_stock("\n".join(["what,value,tolerance,count", *rows]).encode())
    notebook = Notebook(path, "bench")
    notebook.append(drafts_of("", found.bodies))
    notebook.close()
    return in_window(held, path, lambda window: window.enter_room("stock"))


def day(readings: int = 1000) -> None:
    """Print what memory grows by with every reading of a day, and what switching between pages leaves behind."""
    import gc

    from PySide6.QtWidgets import QApplication

    from candor.desktop.frame.route import TITLES
    from candor.desktop.frame.shelfpanel import ROOMS

    def resident() -> float:
        gc.collect()
        return int(Path("/proc/self/statm").read_text(encoding="ascii").split()[1]) * os.sysconf("SC_PAGESIZE")

    with notebook_of(20) as path, window_on(path) as window:
        window.go_to_stop("calibrate")
        for _ in range(100):
            read_once_more(window)
        before = resident()
        for turn in range(readings):
            read_once_more(window, turn)
        print(f"Memory: {(resident() - before) / readings / 1000:.1f} kB a reading over {readings} (at most 10)")

        def tour() -> int:
            for stop in TITLES:
                window.go_to_stop(stop)
            for room, _, _ in ROOMS:
                window.enter_room(room)
            settle()
            gc.collect()
            return len(QApplication.allWidgets())

        tour()
        first, last = tour(), [tour() for _ in range(10)][-1]
        print(f"Widgets after {10 * (len(TITLES) + len(ROOMS))} switches: {first} were {last} (at most as many)")


ROWS = (
    GrowthRow("Modified Allan deviation", (10_000, 100_000, 1_000_000), 1.0, modified_allan, 1.3),
    GrowthRow("Settling", (30, 300, 3000), 0.2, settled),
    GrowthRow("Combiner, 3 pieces", (50, 500, 5000), 2.0, combiner, 2.1),
    GrowthRow("Tubes alike", (100, 300, 1000), 0.3, alike_tubes, 2.1),
    GrowthRow("Twin triodes in pairs", (25, 50, 100), 0.5, twins, 3.1),
    GrowthRow("Tubes in fours", (100, 300, 1000), 0.3, sets_of_four),
    GrowthRow("Operating point, elements", (100, 1000, 3000), 0.2, working_point),
    GrowthRow("What explains it, elements", (100, 300, 1000), 0.2, suspected),
    GrowthRow("Cold start of a supply, elements", (20, 80, 300), 1.0, cold_start, 1.5),
    GrowthRow("Waveform drawn, samples", (10_000, 100_000, 1_000_000), 0.03, zoomed),
    GrowthRow("Stock from a table, rows", (100, 1000, 10_000), 1.0, stock_table, 1.1),
    GrowthRow("Readings from a table, rows", (30, 300, 3000), 0.3, readings_table, 1.1),
    GrowthRow("Parts judged again", (100, 300, 1000), 0.1, parts_judged),
    GrowthRow("Worksheet, steps", (56, 280, 2800), 2.0, worksheet, 1.1),
    GrowthRow("Certificate, points", (14, 28, 56), 0.3, certificate),
    GrowthRow("Zip, photos of 1 MB", (10, 30, 100), 2.0, packed),
    GrowthRow("Notebook checked, entries", (1000, 10_000, 100_000), 1.0, checked, 1.1),
    GrowthRow("Notebook opened, entries", (1000, 10_000, 100_000), 0.2, opened, 1.1),
    GrowthRow("Room of the entries", (1000, 10_000, 100_000), 0.05, of_readings(lambda w: w.enter_room("entries"))),
    GrowthRow(
        "Room of the standards, readings", (400, 4000, 40_000), 0.1, of_readings(lambda w: w.enter_room("standards"))
    ),
    GrowthRow("Job opened, readings", (100, 1000, 10_000), 0.1, of_readings(lambda w: w._open_job("job0"))),
    GrowthRow("Reading to verdict, readings", (20, 200, 2000), 0.06, of_readings(read_once_more), 0.2),
    GrowthRow("Release shown, readings", (100, 1000, 10_000), 0.05, of_readings(released)),
    GrowthRow("Trace shown, elements", (100, 300, 1000), 0.1, traced),
    GrowthRow("A node read, elements", (100, 300, 1000), 0.1, node_read),
    GrowthRow("Walk to a step, standards", (3, 30, 300), 0.1, with_standards),
    GrowthRow("Shelf, a status written, jobs", (10, 100, 1000), 0.05, shelf_of),
    GrowthRow("Asked at closing, jobs", (15, 150, 1500), 0.2, asked_at_closing),
    GrowthRow("Room of the tubes", (10, 100, 1000), 0.2, tubes_of_a_shop),
    GrowthRow("Room of the stock", (30, 300, 3000), 0.05, stock_of_a_shop),
)


def yardstick() -> float:
    """One dense solve and the reading of much JSON, s: what the machine is worth just now."""
    matrix, text = np.random.default_rng(9).normal(size=(400, 400)), json.dumps(list(range(20_000)))
    return min(seconds(lambda: (np.linalg.solve(matrix, matrix), json.loads(text))) for _ in range(5))


def exponent(sizes: tuple[int, ...], spent: list[float]) -> float:
    """The slope of time over size, both in their logarithm, between the last two sizes."""
    return math.log(spent[-1] / spent[-2]) / math.log(sizes[-1] / sizes[-2])


def measure(row: GrowthRow) -> None:
    """Print one row."""
    spent = []
    for size in row.sizes:
        deed = row.prepare(size)
        once = (lambda deed=deed: float(deed())) if hasattr(deed, "says") else (lambda deed=deed: seconds(deed))
        first = once()
        spent.append(min([first, *(once() for _ in range(3 if first < 2 else 0))]))
        if held := getattr(deed, "held", None):
            held.close()
    grown, unit = exponent(row.sizes, spent), yardstick()
    times = ", ".join(f"{size:,}: {1000 * s:.3g} ms" for size, s in zip(row.sizes, spent, strict=True))
    held = "as wanted" if spent[-1] <= row.aim_s and grown <= row.exponent else "NOT as wanted"
    print(
        f"{row.name}: {times}; e {grown:.2f} (at most {row.exponent:g}), at most {1000 * row.aim_s:g} ms: {held}; "
        f"ratio {spent[-1] / unit:.2f}",
        flush=True,
    )


def main() -> None:
    """Every row, or those named."""
    for row in ROWS:
        if len(sys.argv) < 2 or any(name.casefold() in row.name.casefold() for name in sys.argv[1:]):
            measure(row)
    if len(sys.argv) < 2 or "day" in sys.argv[1:]:
        day()


if __name__ == "__main__":
    main()
