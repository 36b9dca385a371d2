"""The demo's instruments that something explains: one with its zero off and no part, one with a lead one lug over, one with silicon
where its rectifier tube was."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import replace

from candor.core.circuit.elements import Resistor
from candor.core.circuit.netlist import Netlist, parse_netlist
from candor.core.circuit.solve import operating_point
from candor.core.power.supply import calculate_supply
from candor.core.power.supply_text import read_supply
from candor.demo.gathered_entries import Writing
from candor.demo.read_jobs import write_read_job
from candor.notebook.entries.body import Body
from candor.notebook.entries.parts_entries import CircuitTaken, PartListed
from candor.notebook.entries.power_entries import RailSaid, SupplySaid, SupplyTyped
from candor.notebook.entries.stay_entries import DetailWritten, JobOpened
from candor.notebook.entries.trace_entries import LeadProved, NodeRead
from candor.notebook.store import Place
from candor.packs.model import Pack

LONE_ZERO, ONE_LUG_OVER, SILICON = "sb40263", "sb40264", "sb40265"
# The needle was bent by a lid: a tick and a half low at zero. Then the gain was set over it, so that full scale is right.
TICKS, OFF = 30, -1.5
DIVIDER = """R1 b1 n1 33k
R2 n1 n2 47k
R3 n2 0 22k
R4 n1 n3 150k
R5 n3 0 100k
R6 n3 n4 68k
R7 n4 0 220k"""
SUPPLY, HERTZ = "230-0-230 V, 210 ohm, vacuum 50 V at 125 mA, 16 uF 450 V, 1.8k, 16 uF 450 V, load 32 mA", 60.0


def write_suspect_jobs(writing: Writing, voltmeter: Pack, standard: str, now: dt.datetime) -> None:
    """Gather the three jobs."""
    _lone_zero(writing, voltmeter, standard, now)
    _one_lug_over(writing, now)
    _silicon(writing, now)


def _lone_zero(writing: Writing, pack: Pack, standard: str, now: dt.datetime) -> None:
    read = {}
    for full in (1.5, 5.0, 15.0, 50.0, 150.0):
        for share in (0.2, 0.5, 1.0):
            shown = full * round(4 * (share * TICKS + OFF * (1 - share))) / 4 / TICKS
            read[f"dc+/{full:g}/{full * share:g}"] = f"{shown:.5g} ref {full * share:.5g}"
    said = {"serial": "40291", "owner": "a radio club", "says": "the lid was shut on it"}
    place = "plus:as-found:dc+/500/100"
    write_read_job(writing, LONE_ZERO, pack, now - dt.timedelta(hours=52), read, {"V": standard}, said, place)


def _one_lug_over(writing: Writing, now: dt.datetime) -> None:
    minute, start = dt.timedelta(minutes=1), now - dt.timedelta(hours=76)
    drawn = parse_netlist(f"V1 b1 0 240\n{DIVIDER}")
    listed = [
        PartListed(ref=e.name, what="resistor", make="carbon composition", nominal=e.value, watts=1.0, role="load")
        for e in drawn.elements
        if e.LETTER == "R"
    ]
    said = [DetailWritten(field="says", text="rebuilt by somebody; the second stage has half of its volts")]
    opened = JobOpened(maker="Wexcombe", type="RT-6", serial="318", instrument_kind="something-else")
    writing.add_all(ONE_LUG_OVER, [opened, *said], start)
    board: list[Body] = [CircuitTaken(netlist=DIVIDER, supply="b1"), RailSaid(name="b1", volts=240, rated_volts=350)]
    writing.add_all(ONE_LUG_OVER, [*listed, *board], start + 20 * minute)
    # As it is soldered: R4 goes to n2, which is the lug beside n1.
    real = Netlist(tuple(Resistor("R4", "n2", "n3", 150e3) if e.name == "R4" else e for e in drawn.elements))
    real = real.with_value("R5", 104e3).with_value("R1", 33.8e3).with_value("V1", 243.0)
    reads: list[Body] = [LeadProved()]
    for node in ("b1", "n1", "n2", "n3", "n4"):
        meter = Resistor("RM", node, "0", 10e6)
        volts = operating_point(Netlist((*real.elements, meter)))[node]
        reads.append(NodeRead(node=node, volts=float(f"{volts:.4g}"), meter_ohms=10e6))
    writing.add_all(ONE_LUG_OVER, reads, start + 60 * minute)
    writing.notebook.keep_place(Place(ONE_LUG_OVER, "trace", ""))


def _silicon(writing: Writing, now: dt.datetime) -> None:
    minute, start = dt.timedelta(minutes=1), now - dt.timedelta(hours=100)
    drawn = read_supply(SUPPLY, HERTZ)
    real = replace(drawn, rectifier="silicon")
    netlist = real.netlist(0.99, warm=True)
    answer = calculate_supply(netlist)
    nodes = [e.plus for e in netlist.elements if e.LETTER == "C"]
    volts = ", ".join(f"C{i} {answer.nodes[node].mean:.4g} V" for i, node in enumerate(nodes, 1))
    ripple, opened_volts = answer.nodes[nodes[0]].ripple, real.open_volts(0.99) / math.sqrt(2)
    measured = f"{volts}, C1 ripple {ripple:.3g} Vpp, line 118.8 of 120 V, winding open {opened_volts:.4g} V"
    opened = JobOpened(maker="Corvane", type="SV-8", serial="2207", instrument_kind="something-else")
    said = [
        DetailWritten(
            field="says", text="runs hot since somebody mended it; its volts were measured where it came from"
        )
    ]
    writing.add_all(SILICON, [opened, *said], start)
    supply: list[Body] = [
        SupplySaid(rectifier="solid state", watts=45), RailSaid(name="b1", volts=270, rated_volts=450),
        SupplyTyped(line=SUPPLY, measured=measured),
    ]  # fmt: skip
    writing.add_all(SILICON, supply, start + 30 * minute)
    writing.notebook.keep_place(Place(SILICON, "power", ""))
