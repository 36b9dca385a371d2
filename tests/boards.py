"""Boards with something wrong on them, solved without the model: tubes by Child's law, the meter on, all parts off their values."""

from __future__ import annotations

import math
import random
import time
from dataclasses import dataclass

import numpy as np

from candor.core.circuit.elements import Resistor
from candor.core.circuit.netlist import Netlist, parse_netlist
from candor.core.circuit.resistance import resistance_between
from candor.core.errors import CandorError
from candor.core.suspects.board import Board, Draw, NodeSeen, PairSeen
from candor.core.suspects.board_faults import PRIORS
from candor.core.suspects.weigh_board import BoardModel, weigh_board
from candor.core.trace.expected_nodes import Tube, calculate_nodes

STAGES = parse_netlist(
    "V1 b1 0 280\nR1 b1 b2 22k\nR2 b2 p1 220k\nR3 k1 0 2.2k\nR4 g1 0 1meg\nC1 p1 g2 0.05u\nR5 g2 0 470k\nR6 b1 p2 47k\n"
    "R7 k2 k3 1k\nR8 k3 0 10k\nC2 k1 0 25u\nR9 p2 n9 330k\nR10 n9 0 100k\nC3 b2 0 16u\nR11 p2 n11 1meg\nR12 n11 0 2.2meg"
)
TUBES = (Tube("a", "p1", "g1", "k1", 70, 1.8e-6), Tube("b", "p2", "g2", "k2", 20, 6e-4))
DRAWS = tuple(Draw(t.name, t.plate, t.cathode) for t in TUBES)
BESIDE = {
    "b1": ("b2", "p2", "0"), "b2": ("b1", "p1"), "p1": ("b2", "g2", "k1"), "g1": ("k1", "0"), "k1": ("g1", "p1", "0"),
    "g2": ("p1", "k2"), "k2": ("g2", "k3", "p2"), "k3": ("k2", "0"), "p2": ("b1", "k2", "n9"), "n9": ("p2", "n11"),
    "n11": ("n9", "0"), "0": ("k1", "k3", "n11"),
}  # fmt: skip
NODES = tuple(n for n in STAGES.nodes if n != "0")
PARTS = tuple(e.name for e in STAGES.elements if e.LETTER == "R")
ONE_MEGOHM, FLOATS = 1e7, 1e10  # ohm: the meter; what leaks over a chassis


@dataclass(frozen=True)
class Wrong:
    """What is wrong: its kind, of what, and how far."""

    kind: str
    of: tuple[str, ...] = ()
    amount: float = 0.0


def board(*, photos: bool = True) -> Board:
    """The board as drawn."""
    return Board(
        STAGES, tolerances=dict.fromkeys(PARTS, 0.1), draws=DRAWS, held={"b1"}, beside=BESIDE if photos else None
    )


def drawn_fault(chance: random.Random) -> Wrong:
    """Something wrong, as often as the model takes each kind; how far is not its: two thirds of the resistors a Gaussian."""
    kind = chance.choices(list(PRIORS), list(PRIORS.values()))[0]
    if kind == "part":
        far = chance.choice([chance.gauss(0.6, 0.5), chance.uniform(0.25, 2), math.inf])
        return Wrong("part", (chance.choice(PARTS),), far)
    if kind == "moved":
        part = STAGES.element(chance.choice(PARTS))
        off, stays = chance.sample([part.plus, part.minus], 2)
        onto = [n for n in BESIDE[off] if n not in (off, stays)]
        return Wrong("moved", (part.name, off, chance.choice(onto))) if onto else Wrong("nothing")
    if kind == "bridge":
        one = chance.choice(NODES)
        other = chance.choice([n for n in BESIDE[one] if {n, one} != {"b1", "0"}])  # that would be the fuse
        return Wrong("bridge", (one, other))
    if kind == "leak":
        return Wrong("leak", (chance.choice(["C1", "C2", "C3"]),), 10 ** chance.uniform(3.5, 6.5))
    if kind == "reading":
        return Wrong("reading", (chance.choice(NODES),), chance.choice([-1, 1]) * chance.uniform(0.1, 0.5))
    if kind == "probe":
        meant = chance.choice(NODES)
        return Wrong("probe", (meant, chance.choice([n for n in BESIDE[meant] if n != "0"])))
    return Wrong("nothing")


def with_fault(wrong: Wrong, chance: random.Random) -> Netlist:
    """The board with every part off within a Gaussian of heavy tails, the line off too, and what is wrong."""
    shares = {n: chance.gauss(0, 0.05) * (2.5 if chance.random() < 0.1 else 1) for n in PARTS}
    elements = []
    for e in STAGES.elements:
        made = e.with_value(e.value * (1 + shares[e.name])) if e.name in shares else e
        if wrong.kind == "part" and e.name == wrong.of[0]:
            made = made.with_value(1e12 if wrong.amount == math.inf else made.value * math.exp(wrong.amount))
        if wrong.kind == "moved" and e.name == wrong.of[0]:
            ends = [wrong.of[2] if n == wrong.of[1] else n for n in (e.plus, e.minus)]
            made = Resistor(e.name, *ends, made.value)
        elements.append(made)
    if wrong.kind == "bridge":
        elements.append(Resistor("RX", *wrong.of, 0.1))
    if wrong.kind == "leak":
        across = STAGES.element(wrong.of[0])
        elements.append(Resistor("RX", across.plus, across.minus, wrong.amount))
    return Netlist(tuple(elements)).with_value("V1", 280 * chance.uniform(0.93, 1.07))


def read(network: Netlist, wrong: Wrong, nodes: list[str], pairs: list[tuple[str, str]], chance: random.Random):
    """What a meter of 10 megohm and 1 % reads at nodes, and an ohmmeter between pairs."""
    tubes = [Tube(t.name, t.plate, t.grid, t.cathode, t.mu, t.perveance * chance.uniform(0.7, 1.1)) for t in TUBES]
    leaks = tuple(Resistor(f"RF{i}", n, "0", FLOATS) for i, n in enumerate(NODES))
    seen = []
    for node in nodes:
        at = wrong.of[1] if wrong.kind == "probe" and node == wrong.of[0] else node
        meter = Resistor("RM", at, "0", ONE_MEGOHM)
        volts = calculate_nodes(Netlist((*network.elements, *leaks, meter)), tubes)[at] * (
            1 + chance.uniform(-0.01, 0.01)
        )
        if wrong.kind == "reading" and node == wrong.of[0]:
            volts *= 1 + wrong.amount
        seen.append(NodeSeen(node, volts, ONE_MEGOHM))
    for one, other in pairs:
        ohms = resistance_between(network, one, other)
        seen.append(PairSeen(one, other, ohms * (1 + chance.uniform(-0.015, 0.015)) if ohms < 1e8 else math.inf))
    return seen


def named(wrong: Wrong) -> tuple[str, tuple[str, ...]]:
    """What the model calls what is wrong."""
    if wrong.kind == "bridge":
        across = next(
            (e.name for e in STAGES.elements if e.LETTER == "R" and {e.plus, e.minus} == set(wrong.of)), None
        )
        return ("part", (across,)) if across else ("bridge", tuple(sorted(wrong.of)))
    if wrong.kind == "probe":
        return "probe", (wrong.of[0], "", wrong.of[1])
    return wrong.kind, wrong.of


def run(cases: int, seed: int = 5, **how: bool) -> dict[str, object]:
    """Return, over cases, each probability with whether it was so; and of faults that stand out how often the first was it."""
    chance, of = random.Random(seed), board(**how)
    said, top, took, sound = [], [], [], []
    while len(took) < cases:
        wrong = drawn_fault(chance)
        network = with_fault(wrong, chance)
        nodes = chance.sample(NODES, chance.choice([5, 7, len(NODES)]))
        nodes += [n for n in ("b1", wrong.of[0] if wrong.kind in ("reading", "probe") else "b1") if n not in nodes]
        pairs = [p for p in (("p1", "b2"), ("k1", "0"), ("p2", "0"), ("g2", "0")) if chance.random() < 0.4]
        try:
            seen = read(network, wrong, list(dict.fromkeys(nodes)), pairs, chance)
        except CandorError:  # the tubes find no state with that network
            continue
        start = time.perf_counter()
        found = weigh_board(of, seen)
        took.append(time.perf_counter() - start)
        key = named(wrong)
        said += [(s.probability, (s.kind, s.of) == key) for s in found.suspects]
        first = found.suspects[0]
        if key[0] == "nothing":
            sound.append(max([s.probability for s in found.suspects if s.kind != "nothing"], default=0.0))
        elif _stands_out(of, seen, key):
            alike = {(s.kind, s.of) for s in found.suspects if s is first or s.group == first.group >= 0}
            top.append(key in alike)
    return {"said": np.array(said), "top": (sum(top), len(top)), "took": took,
            "sound": (sum(p > 0.2 for p in sound), len(sound))}  # fmt: skip


def _stands_out(of: Board, seen, key) -> bool:
    """Whether the fault's best explanation leaves 16 less than nothing wrong does: 4 standard uncertainties."""
    model = BoardModel(of, seen)
    sizes = {}
    for way, size in zip(model.ways, model.sizes, strict=True):
        sizes[way.kind, way.of] = min(size, sizes.get((way.kind, way.of), math.inf))
    return sizes["nothing", ()] - sizes.get(key, math.inf) > 16
