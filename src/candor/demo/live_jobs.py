"""The demo's instrument on its way up, and one traced to its fault; both invented, neither has a pack."""

from __future__ import annotations

import datetime as dt

from candor.core.parts.mains import Mains
from candor.core.power.plan_text import plan_lines
from candor.core.power.power_states import Rail, SupplyTraits
from candor.core.power.propose import proposed_plan
from candor.core.trace.expected_nodes import perveance_of
from candor.demo.gathered_entries import Writing
from candor.notebook.entries.arrive_entries import FindingNoted, FindingSettled
from candor.notebook.entries.body import Body
from candor.notebook.entries.parts_entries import CircuitTaken, NodeAlias, PartListed
from candor.notebook.entries.power_entries import (
    CautionUnderstood,
    EventSeen,
    MeterProved,
    PlanKept,
    PowerChecked,
    RailOhmsRead,
    RailRead,
    RailSaid,
    StateBegun,
    SupplySaid,
    SupplyTyped,
)
from candor.notebook.entries.release_entries import EarthRead
from candor.notebook.entries.setup_entries import ConditionNoted
from candor.notebook.entries.stay_entries import DetailWritten, JobOpened
from candor.notebook.entries.trace_entries import (
    CauseFound,
    LeadProved,
    LookTaken,
    NodeDrawn,
    NodeRead,
    StageSaid,
    TubeJoined,
)
from candor.notebook.power.may_power import CHECKS
from candor.notebook.store import Place

POWERED, TRACED = "sb40236", "sb40233"
SUPPLY = "200-0-200 V, 260 ohm, vacuum 45 V at 110 mA, 10 uF 350 V, 2.2k, 10 uF 350 V, load 14 mA, tubes after 14 s, bleeder 330k"
NETLIST = """R1 b1 p1 100k
R2 k1 0 2.2k
R3 g1 0 1meg
R4 b1 p2 47k
R5 k2 0 1k
R6 g2 0 470k
R7 b1 0 150k
C1 p1 g2 0.02u"""
WATTS = {"R1": 0.5, "R2": 0.5, "R3": 0.5, "R4": 1.0, "R5": 0.5, "R6": 0.5, "R7": 1.0}
VALUES = {"R1": 100e3, "R2": 2.2e3, "R3": 1e6, "R4": 47e3, "R5": 1e3, "R6": 470e3, "R7": 150e3}
# What was read, min after its state began.
LOW = ((0.2, "watts", 8.1), (0.5, "b1", 61.0), (2.0, "b1", 168.0), (4.0, "b1", 141.0), (5.0, "c-", -17.2))
FULL = (
    (0.2, "watts", 17.9), (0.4, "b1", 248.0), (0.8, "b1", 226.0), (1.4, "b1", 214.0), (1.6, "c-", -27.1), (2.5, "watts", 18.6),
    (3.2, "b1", 213.0),
)  # fmt: skip
STAGES = ("input and attenuator", "first stage", "coupling", "second stage", "detector", "meter")


def write_live_jobs(writing: Writing, now: dt.datetime) -> None:
    """Gather both jobs."""
    _powered(writing, now)
    _traced(writing, now)


def _powered(writing: Writing, now: dt.datetime) -> None:
    minute, start = dt.timedelta(minutes=1), now - dt.timedelta(hours=5)
    opened = JobOpened(maker="Corvane", type="AV-20", serial="0611", instrument_kind="vacuum-tube-voltmeter")
    said_of_it = [
        DetailWritten(field="owner", text="a school"),
        DetailWritten(field="says", text="in a cupboard for years"),
    ]
    writing.add_all(POWERED, [opened, *said_of_it], start)
    cord = writing.add(
        POWERED, FindingNoted(zone="cord", mark="hazard", text="no earth, plug cracked"), start + 4 * minute
    )
    writing.add(
        POWERED,
        FindingSettled(finding=cord.id, how="cleared", reason="new cord and plug, bond 0.05 ohm"),
        start + 50 * minute,
    )
    rails = (RailSaid(name="b1", volts=212, rated_volts=350), RailSaid(name="c-", volts=-28, rated_volts=50))
    said: list[Body] = [
        *rails,
        SupplySaid(rectifier="directly heated", watts=22),
        SupplyTyped(line=SUPPLY, instead="silicon", measured="C1 243 V, C2 213 V, line 119.4 of 120 V"),
    ]
    writing.add_all(POWERED, said, start + 60 * minute)
    checks: list[Body] = [
        PowerChecked(item=item, outcome="good") for item in (*CHECKS, "electrolytics") if item != "meter"
    ]
    checks.append(EarthRead(ohms=0.09, lead_ohms=0.04, amperes=10.0))
    ohms = [
        RailOhmsRead(rail="b1", ohms=61e3, expected_ohms=55e3),
        RailOhmsRead(rail="c-", ohms=4.9e3, expected_ohms=4.7e3),
    ]
    writing.add_all(POWERED, [*checks, *ohms, MeterProved(on="the outlet")], start + 90 * minute)
    traits = SupplyTraits(
        rectifier="directly heated", watts=22, rails=tuple(Rail(r.name, r.volts, r.rated_volts) for r in rails)
    )
    plan = proposed_plan(traits, Mains(120.0, 60.0), 119.4)
    kept: list[Body] = [
        ConditionNoted(which="line_volts", value=119.4), PlanKept(way=plan.way, why=plan.why, lines=plan_lines(plan)),
        CautionUnderstood(text=plan.steps[0].caution),
    ]  # fmt: skip
    writing.add_all(POWERED, kept, now - 30 * minute)
    courses = (
        (plan.steps[0].title, 83.6, 14, LOW), (plan.steps[1].title, 101.5, 9, ()), (plan.steps[2].title, 119.4, 4, FULL),
    )  # fmt: skip
    for title, volts, ago, reads in courses:
        begun = now - ago * minute
        writing.add(POWERED, StateBegun(title=title, line_volts=volts), begun)
        bodies: list[tuple[float, Body]] = [
            (after, RailRead(name=name, reading=value)) for after, name, value in reads
        ]
        for after, body in sorted([*bodies, (0.1, EventSeen(text="hum"))], key=lambda pair: pair[0]):
            writing.add(POWERED, body, begun + after * minute)
    writing.notebook.keep_place(Place(POWERED, "power", ""))


def _traced(writing: Writing, now: dt.datetime) -> None:
    minute, start = dt.timedelta(minutes=1), now - dt.timedelta(hours=28)
    opened = JobOpened(maker="Halvergate", type="LM-3", serial="2051", instrument_kind="something-else")
    said = [
        DetailWritten(field="says", text="the needle hardly leaves zero"),
        DetailWritten(field="drawing", text="the owner's copy, third edition"),
    ]
    writing.add_all(TRACED, [opened, *said], start)
    listed = [
        PartListed(
            ref=ref,
            what="resistor",
            make="carbon composition",
            nominal=value,
            watts=WATTS[ref],
            role="load",
        )
        for ref, value in VALUES.items()
    ]
    board: list[Body] = [CircuitTaken(netlist=NETLIST, supply="b1"), RailSaid(name="b1", volts=245, rated_volts=350)]
    board += [NodeAlias(node="p2", alias="V2 pin 5"), NodeAlias(node="k2", alias="V2 pin 8")]
    writing.add_all(TRACED, [*listed, *board], start + 20 * minute)
    first, second = perveance_of(1.2e-3, 100, -1, 40), perveance_of(6e-3, 150, -5, 20)
    tubes: list[Body] = [
        TubeJoined(name="V1", plate="p1", grid="g1", cathode="k1", mu=40, perveance=first, plate_watts=1.5),
        TubeJoined(name="V2", plate="p2", grid="g2", cathode="k2", mu=20, perveance=second, plate_watts=3),
    ]
    writing.add_all(TRACED, tubes, start + 24 * minute)
    stages: list[Body] = [StageSaid(name=name, minutes=6 if name == "detector" else 3) for name in STAGES]
    writing.add_all(TRACED, [*stages, LeadProved()], start + 60 * minute)
    looks = (("coupling", "good", 1.0), ("detector", "bad", 2.0), ("second stage", "bad", 3.0))
    for stage, outcome, after in looks:
        writing.add(
            TRACED, LookTaken.model_validate({"stage": stage, "outcome": outcome}), start + (64 + 4 * after) * minute
        )
    drawn = NodeDrawn(node="p1", volts=120, ohms_per_volt=2000, range_volts=300)
    reads = (("b1", 246.0), ("p1", 139.0), ("k1", 2.35), ("p2", 241.5), ("k2", 38.0), ("g2", 0.0))
    writing.add_all(
        TRACED, [drawn, *(NodeRead(node=n, volts=v, meter_ohms=10e6) for n, v in reads)], start + 90 * minute
    )
    cause = (
        "R5, the cathode resistor of the second stage, is open: k2 stands at 38 V and the plate at the rail; good "
        "behind coupling, bad behind "
        "second stage; the coupling capacitor passes no volts to g2."
    )
    writing.add(TRACED, CauseFound(text=cause), start + 100 * minute)
    writing.notebook.keep_place(Place(TRACED, "trace", ""))
