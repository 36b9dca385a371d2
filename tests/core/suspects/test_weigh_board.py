"""What explains volts and ohms on a board: against boards solved without the model, a network solved anew, and cases by hand."""

import math
import random

import numpy as np
import pytest

import boards
from boards import BESIDE, DRAWS, STAGES, Wrong
from candor.core.circuit.elements import Resistor
from candor.core.circuit.netlist import Netlist, parse_netlist
from candor.core.circuit.resistance import resistance_between
from candor.core.circuit.solve import operating_point
from candor.core.suspects.board import Board, Change, NodeSeen, PairSeen
from candor.core.suspects.board_faults import ways
from candor.core.suspects.next_on_board import next_on_board
from candor.core.suspects.weigh_board import BoardModel, weigh_board

DIVIDER = parse_netlist(
    "V1 b1 0 250\nR1 b1 n1 10k\nR2 n1 n2 22k\nR3 n2 0 47k\nR4 n1 n3 33k\nR5 n3 0 68k\nR6 n2 n3 100k"
)
TOLERANCES = {f"R{i}": 0.05 for i in range(1, 7)}


def of(netlist=DIVIDER, **more):
    return Board(netlist, tolerances=TOLERANCES, **more)


def seen_of(netlist, nodes=("b1", "n1", "n2", "n3"), meter=1e7):
    """Every node with the meter on it, solved by itself."""
    with_meter = {n: operating_point(Netlist((*netlist.elements, Resistor("RM", n, "0", meter))))[n] for n in nodes}
    return [NodeSeen(n, v, meter) for n, v in with_meter.items()]


def changed(netlist, change):
    """The netlist with what a change puts in and takes out, as conductances in parallel."""
    more = [Resistor(f"RX{i}", a, b, 1 / g) for i, (a, b, g) in enumerate(change.branches) if g]
    return Netlist((*netlist.elements, *more))


def shown(netlist, meter):
    """Three nodes with the meter on each, and ln ohm of two pairs."""
    volts = [s.volts for s in seen_of(netlist, ("n1", "n2", "n3"), meter)]
    return np.array([*volts, *(math.log(resistance_between(netlist, *p)) for p in (("n1", "n3"), ("n2", "0")))])


def test_every_change_is_what_the_network_solved_anew_shows():
    """All parts, moves, bridges: volts with the meter, and ohms, against a plain solve of what is changed; parts by difference."""
    board, meter = of(), 1e6
    rows = [
        *(NodeSeen(n, 0.0, meter) for n in ("n1", "n2", "n3")),
        PairSeen("n1", "n3", 1.0),
        PairSeen("n2", "0", 1.0),
    ]
    asked = [w for w in ways(board, []) if w.change.branches and (w.kind != "part" or math.isfinite(w.amount))]
    assert {w.kind for w in asked} == {"part", "moved", "bridge"} and len(asked) > 60
    made = board.predict([w.change for w in asked], rows)
    for h, way in enumerate(asked):
        if any(g < 0 and way.kind == "moved" for *_, g in way.change.branches):
            e = DIVIDER.element(way.of[0])
            stays = e.minus if way.of[1] == e.plus else e.plus
            network = Netlist(
                (*(x for x in DIVIDER.elements if x.name != e.name), Resistor("RX", stays, way.of[2], e.value))
            )
        else:
            network = changed(DIVIDER, way.change)
        try:
            volts = [s.volts for s in seen_of(network, ("n1", "n2", "n3"), meter)]
        except (
            ValueError
        ):  # a node that nothing joins any more: there the model leaks a little, and plain solving has no answer
            continue
        held = {"b1", "0"} <= set(way.of)
        if not held:  # what bridges a rail to the chassis is the fuse's business
            assert made.mean[h, :3] == pytest.approx(volts, rel=2e-3, abs=1e-3), way
        ohms = [resistance_between(network, "n1", "n3"), resistance_between(network, "n2", "0")]
        assert made.mean[h, 3:] == pytest.approx([math.log(min(o, 1e8)) for o in ohms], abs=2e-3), way
    nothing = board.predict([Change()], rows)
    plain = shown(DIVIDER, meter)
    for place, b in enumerate(board.branches):
        more = shown(DIVIDER.with_value(b.name, DIVIDER.element(b.name).value * math.exp(1e-4)), meter)
        slope = -(more - plain) / 1e-4 * 0.05 / math.sqrt(3)  # more conductance is fewer ohms
        assert nothing.by_part[0, :, place] == pytest.approx(slope, rel=2e-3, abs=1e-4)


def test_evidence_is_that_of_the_gaussian_it_is():
    """One way against the density of a reference library."""
    from scipy.stats import multivariate_normal

    model = BoardModel(of(), seen_of(DIVIDER.with_value("R3", 60e3)))
    for h in (0, 10, len(model.ways) - 1):
        whole = model.covariances[h, :4, :4] + np.diag(model.noise**2)
        want = multivariate_normal(model.means[h, :4], whole).logpdf(model.values)
        assert model.evidence[h] - 2 * math.log(2 * math.pi) == pytest.approx(want, rel=1e-9)


@pytest.mark.parametrize(("network", "kind", "of_", "amount"), [
    (DIVIDER, "nothing", (), 0.0),
    (DIVIDER.with_value("R3", 47e3 * 1.6), "part", ("R3",), math.log(1.6)),
    (DIVIDER.with_value("R6", 1e12), "part", ("R6",), math.inf),
    (changed(DIVIDER, Change((("n3", "0", 1 / 12e3),))), "part", ("R5",), None),
])  # fmt: skip
def test_a_plain_fault_is_named_with_how_far_it_is_off(network, kind, of_, amount):
    found = weigh_board(of(), [*seen_of(network), PairSeen("n2", "n3", resistance_between(network, "n2", "n3"))])
    first = found.suspects[0]
    assert (first.kind, first.of) == (kind, of_) and first.probability > 0.6 and found.explains
    if amount is not None:
        assert first.amount == pytest.approx(amount, abs=max(2 * first.u, 1e-9))
    assert weigh_board(of(), seen_of(network)[:1]) is None


def test_a_part_one_lug_over_explains_all_of_it_and_by_photos_only_lugs_beside_its_own_are_asked():
    wrong = Wrong("moved", ("R9", "p2", "k2"))
    chance = random.Random(2)
    seen = boards.read(boards.with_fault(wrong, chance), wrong, list(boards.NODES), [], chance)
    found = weigh_board(boards.board(), seen)
    assert (found.suspects[0].kind, found.suspects[0].of) == ("moved", wrong.of) and found.suspects[
        0
    ].probability > 0.8
    with_photos, without = (
        {w.of for w in ways(boards.board(photos=p), seen) if w.kind == "moved"} for p in (True, False)
    )
    assert all(onto in BESIDE[off] for _, off, onto in with_photos)
    near = boards.board(photos=False)
    assert all(onto in near.about(off) for _, off, onto in without) and with_photos != without


def test_what_cannot_be_told_apart_is_one_group_and_what_would_part_it_is_asked_for():
    """A leak through the coupling capacitor and a current into the next grid: the ohms to its other end part them."""
    wrong = Wrong("leak", ("C1",), 3e6)
    chance = random.Random(4)
    nodes = [n for n in boards.NODES if n not in ("p1", "b2")]
    seen = boards.read(boards.with_fault(wrong, chance), wrong, nodes, [], chance)
    found = weigh_board(boards.board(), seen)
    alike = {(s.kind, s.of) for s in found.suspects if s.group == found.suspects[0].group >= 0}
    assert {("leak", ("C1",)), ("current", ("g2",))} <= alike
    following = next_on_board(boards.board(), seen)
    assert following and following[0].bits > 0.1
    assert [n.bits / n.minutes for n in following] == sorted((n.bits / n.minutes for n in following), reverse=True)


def test_what_is_asked_next_tells_more_of_what_is_wrong_than_what_is_asked_last():
    """Drawn faults of one stage, three readings, and a fourth: bits by which what is wrong is likelier after it."""
    chance, first, last = random.Random(11), [], []
    while len(first) < 14:
        wrong = Wrong("part", (chance.choice(["R6", "R7", "R8", "R9", "R10"]),), chance.uniform(0.3, 0.9))
        network, board = boards.with_fault(wrong, chance), boards.board()
        seen = boards.read(network, wrong, ["b1", "p2", "g2"], [], chance)
        nodes = [n for n in next_on_board(board, seen) if n.kind == "node"]
        if len(nodes) < 3:
            continue
        for which, kept in ((nodes[0], first), (nodes[-1], last)):
            model = BoardModel(board, [*seen, *boards.read(network, wrong, [which.of[0]], [], chance)])
            kept.append(math.log2(max(model.probabilities()["part", wrong.of], 1e-4)))
    assert np.mean(first) > np.mean(last) + 0.3


def test_probabilities_hold_on_boards_that_are_not_the_model():
    found = boards.run(160)
    said = found["said"]
    for low, high in ((0.02, 0.1), (0.1, 0.3), (0.3, 0.6), (0.6, 0.9), (0.9, 1.01)):
        inside = said[(said[:, 0] >= low) & (said[:, 0] < high)]
        mean, held = inside.mean(axis=0)
        assert abs(mean - held) < 0.05 + 2.6 * math.sqrt(mean * (1 - mean) / len(inside)), (
            low,
            mean,
            held,
            len(inside),
        )
    right, standing = found["top"]
    assert standing > 20 and right >= 0.9 * standing
    accused, sound = found["sound"]
    assert sound > 60 and accused <= 0.05 * sound


def test_what_is_off_the_board_or_too_little_is_no_answer():
    assert weigh_board(of(), [NodeSeen("zz", 1.0), NodeSeen("n1", 200.0)]) is None
    assert weigh_board(Board(parse_netlist("C1 a 0 1u")), [NodeSeen("a", 1.0), NodeSeen("a", 1.0)]) is None
    two = Board(parse_netlist("R1 a 0 1k\nR2 c d 2k"), tolerances={}, draws=DRAWS[:0])  # in two pieces: one floats
    found = weigh_board(two, [PairSeen("a", "0", 1e3), PairSeen("c", "d", 2.02e3), PairSeen("a", "c", math.inf)])
    assert found.suspects[0].kind == "nothing"
    assert STAGES.nodes[0] == "0"


@pytest.mark.parametrize(("amperes", "way"), [(1e-3, "out of"), (-1e-3, "into")])
def test_a_current_nobody_drew_has_its_sign_and_its_amount(amperes, way):
    """A source at n3 that the drawing does not show, solved with the meter on each node."""
    from candor.core.circuit.elements import CurrentSource
    from candor.words.board_words import say_board_suspect

    found = weigh_board(of(), seen_of(Netlist((*DIVIDER.elements, CurrentSource("IX", "n3", "0", amperes)))))
    named = next(s for s in found.suspects if s.kind == "current")
    assert named.of == ("n3",) and named.amount == pytest.approx(amperes, rel=0.15)
    assert f"{way} n3" in say_board_suspect(named)
