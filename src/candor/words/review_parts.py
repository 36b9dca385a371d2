"""Examples of every sentence about a part: a bench full of parts, measured in every way, under every policy."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from itertools import product
from typing import get_args

from candor.core.circuit.netlist import parse_netlist
from candor.core.finding import Finding
from candor.core.leakage.capacitor import LeakageRule
from candor.core.parts.component import OnHand
from candor.core.parts.judge import judge_all
from candor.core.parts.judge_resistor import Circuit
from candor.core.parts.mains import Mains
from candor.core.parts.part import Kind, Measured, Part
from candor.core.parts.policy import Electrolytics, Policy, Resistors, Sight
from candor.core.parts.replacement import Proposal, needs, own, propose
from candor.words.parts_words import (
    say_change,
    say_how_sure,
    say_measured,
    say_moved,
    say_needs,
    say_proposal,
    say_reason,
    say_rule,
    say_verdict,
)

COUPLING = Part(
    ref="C3",
    kind="capacitor",
    nominal=33e-9,
    make="paper",
    role="coupling",
    volts=400,
    volts_across=210,
    grid_ohms=1e6,
)
FILTER = Part(
    ref="C12",
    kind="capacitor",
    nominal=16e-6,
    make="electrolytic",
    role="filter",
    volts=450,
    volts_across=310,
    no_load_volts=390,
)
DRY = Part(ref="C7", kind="capacitor", nominal=0.1e-6, make="film", role="bypass", volts=400, volts_across=180)
TANTALUM = Part(
    ref="C20", kind="capacitor", nominal=4.7e-6, make="tantalum", role="bypass", volts=35, volts_across=20
)
LOAD = Part(
    ref="R5",
    kind="resistor",
    nominal=220e3,
    make="carbon composition",
    role="load",
    below=0.1,
    above=0.1,
    volts_across=140,
)
CAPACITORS = (
    COUPLING,
    FILTER,
    DRY,
    TANTALUM,
    replace(DRY, ref="C9", nominal=2.2e-9),
    replace(DRY, ref="C8", make="", volts=0.0, volts_across=0.0),
    replace(FILTER, ref="C13", leakage_limit=400e-6),
    replace(DRY, ref="C1", role="mains", mains="line to chassis"),
    replace(DRY, ref="C2", role="mains", mains="line to line"),
)
CIRCUIT = Circuit(
    parse_netlist("R5 a 0 220k\nR6 a 0 560k\nR8 b 0 470k\nR9 b 0 4.7k\nR1 in tap 900k\nR2 tap 0 100k"),
    {"R5": 0.1, "R8": 0.1},
)
RESISTORS = (
    LOAD,
    replace(LOAD, ref="R8", nominal=470e3),
    replace(LOAD, ref="R99"),
    replace(LOAD, ref="R2", nominal=100e3, role="divider", tap=("in", "tap", "0")),
)


def bench_of_parts() -> Iterator[tuple[tuple[tuple[Part, Measured], ...], Policy]]:
    """Yield parts as they come, with what was measured of them, under a policy; those of one can together."""
    plain = Policy(mains=Mains(230, 50))
    for part, policy in product(
        CAPACITORS, (plain, Policy(Sight.REPLACE, Electrolytics.REPLACE, rule=LeakageRule.PERIOD))
    ):
        volts, limit = part.working_volts or 100.0, 1e-3
        yield ((part, Measured()),), policy
        yield ((part, Measured(state="open")),), policy
        for times in (0.3, 0.75, 0.8, 1.0, 1.02, 1.15, 1.7, 2.6):
            read = Measured(value=times * part.nominal)
            yield ((part, read),), policy
            yield ((part, replace(read, in_circuit=True)),), policy
        for loss, hertz in product((0.001, 0.012, 0.15, 0.2, 0.9), (0.0, 100.0, 120.0, 1e3, 1e5)):
            read = Measured(value=part.nominal, dissipation=loss, hertz=hertz)
            yield ((part, read),), policy
            yield ((part, replace(read, leakage=1e-7, leakage_volts=volts, dwell_s=300)),), policy
        for leak, ended, dwell in product(
            (0.0, 1e-10, 1e-7, 2.5e-7, 5e-7, 1e-5, limit, 5e-3), ("", "no progress"), (20.0, 300.0)
        ):
            for at in (0.1 * volts, volts):
                read = Measured(leakage=leak, leakage_volts=at, dwell_s=dwell, reformed=ended)
                yield ((part, read),), policy
                yield ((part, replace(read, simulated=True)),), policy
        for near in (0.1e-6, 0.5e-6, 0.1 / 1e6, 10e-9 * 1.8, 1.8e-7, 1.8e-6, 3.6e-9, 0.000296):
            yield ((part, Measured(leakage=near, leakage_volts=volts, dwell_s=300, leakage_share=0.9)),), policy
    for part, policy in product(RESISTORS, (plain, Policy(resistors=Resistors.ALL))):
        yield ((part, Measured()),), policy
        yield ((part, Measured(state="open", in_circuit=True)),), policy
        for times, warm in product((0.009, 0.2, 0.6, 0.95, 1.05, 1.097, 1.1, 1.15, 1.6), (None, 1.02, 1.12)):
            read = Measured(value=times * part.nominal, warm_value=warm and warm * times * part.nominal)
            yield ((part, read),), policy
            yield ((part, replace(read, in_circuit=True)),), policy
    for kind in get_args(Kind):
        if kind not in ("capacitor", "resistor"):
            odd = Part("X1", kind, 10e3)
            for read in (
                Measured(),
                Measured(state="open"),
                Measured(state="worn"),
                Measured(state="good"),
                Measured(value=10.5e3),
                Measured(value=30e3),
            ):
                yield ((odd, read),), plain
    sections = [replace(FILTER, ref=f"C30 {x}", can="C30") for x in "ab"]
    both = Measured(value=16e-6, dissipation=0.05, hertz=120, leakage=1.5e-3, leakage_volts=310, dwell_s=300)
    yield tuple((section, both) for section in sections), plain
    yield ((sections[0], Measured(state="open")), (sections[1], both)), plain


def judged_examples() -> Iterator[tuple[str, str]]:
    """Yield (finding, sentence) once for every finding, rule and change there is."""
    seen: set[tuple[str, str]] = set()
    for listed, policy in bench_of_parts():
        measured = {part.ref: say_measured(part, m) for part, m in listed}
        for ref, verdict in judge_all(listed, policy, CIRCUIT).items():
            for reason in verdict.reasons:
                new = {("found", reason.found), ("rule", reason.rule), ("change", reason.change)}
                new |= {
                    (reason.found if one.kind == "climbing" else "inside", one.kind)
                    for one in Finding(reason.found, reason.figures).inside()
                }
                if new - seen:
                    seen |= new
                    said = f"{say_reason(reason)}. {say_rule(reason)} {say_change(reason)}"
                    yield f"{measured[ref]}: {reason.action}", said
    verdict = judge_all([(FILTER, Measured())], Policy())[FILTER.ref]
    yield "the deciding reason", say_verdict(verdict)


def surely_examples() -> Iterator[tuple[str, str]]:
    """Yield how well what was measured is known, and what a policy moves."""
    stated = Measured(value=16e-6, leakage=1e-4, leakage_volts=310, leakage_share=0.02)
    for name, read in (
        ("all stated", stated),
        ("nothing stated", replace(stated, assumed=frozenset({"value", "leakage"}))),
    ):
        yield name, say_how_sure(read)
    yield "nothing measured", say_how_sure(Measured())
    listed = [(COUPLING, stated), (LOAD, Measured())]
    before = judge_all(listed, Policy())
    yield "what a policy moves", say_moved(before, judge_all(listed, Policy(Sight.REPLACE, resistors=Resistors.ALL)))
    yield "nothing moved", say_moved(before, before)


def proposals() -> Iterator[tuple[Part, Proposal]]:
    """Yield what may go in, from stock, to order and by one's own choice."""
    film = OnHand(kind="capacitor", key="a", value=33e-9, count=2, make="film", volts=400)
    for part in (
        *CAPACITORS, *RESISTORS, replace(FILTER, no_load_volts=520), replace(COUPLING, note="oil filled", no_load_volts=400),
        replace(LOAD, nominal=6.7e6, role="divider", below=0.01, above=0.01, volts_across=1005), Part("V1", "tube", 0.0, type="Q7"),
        replace(LOAD, watts=2.0),
    ):  # fmt: skip
        tube = OnHand(kind="tube", key="t", count=1, value=0.0, type="Q7")
        for proposal in propose(part, [film, replace(film, value=40e-9), tube]):
            yield part, proposal
        for chosen in _chosen(part):
            yield part, own(part, chosen)


def _chosen(part: Part) -> Iterator[OnHand]:
    """Yield pieces of one's own choice, good and bad."""
    piece = OnHand(kind=part.kind, value=part.nominal, make="film")
    if part.kind == "capacitor":
        yield piece
        yield replace(piece, volts=100.0, value=9e-9)
        yield replace(piece, value=2 * part.nominal, volts=400.0, count=2, make="electrolytic", celsius=105.0)
    elif part.kind == "resistor":
        yield piece
        yield replace(piece, volts=350.0, watts=0.05)
        yield replace(piece, volts=350.0, watts=2.0, value=0.97 * part.nominal)


def proposed_examples() -> Iterator[tuple[str, str]]:
    """Yield (what goes in, what is said of it) once for every thing there is to say."""
    seen: set[str] = set()
    for part, proposal in proposals():
        wanted = needs(part) if part.kind in ("capacitor", "resistor") else None
        kinds = {f.kind for f in proposal.found} | {n.kind for n in (wanted.notes if wanted else ())}
        if kinds - seen:
            seen |= kinds
            noted = " ".join(say_needs(wanted)) if wanted else ""
            yield f"{part.ref}, {part.words}: {proposal.text}", f"{say_proposal(proposal)} {noted}".strip()
