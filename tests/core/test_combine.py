"""The combiner against brute force on small stocks, its worst case, trims, and what every piece carries."""

import itertools
import json
import math
import random
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from typer.testing import CliRunner

from candor.cli import app
from candor.core.combine import worst_case
from candor.core.combine.exact import Piece, _Search, best, combination, leaves, value_of
from candor.core.combine.preferred import decade, nearest
from candor.core.combine.search import Asked, search
from candor.core.combine.trims import loads, say_tree, split_for_voltage, trim
from candor.core.combine.worst_case import best_worst_case
from candor.core.errors import CancelledError, RangeError
from candor.words.combining import say_answer, say_over, say_search, say_trim

VALUES = st.one_of(st.floats(1, 1e4), st.sampled_from([10.0, 22.0, 47.0, 100.0, 220.0]))
PIECES = st.builds(
    Piece, VALUES, tolerance=st.sampled_from([0.0, 0.01, 0.05, 0.2]), count=st.sampled_from([1, 1, 2, 4])
)


def every_tree(places):
    """Every series-parallel arrangement of just these pieces."""
    if len(places) == 1:
        yield places[0]
        return
    for mask in range(1, 2 ** (len(places) - 1)):
        one = [p for i, p in enumerate(places) if mask >> i & 1]
        other = [p for i, p in enumerate(places) if not mask >> i & 1]
        for a, b in itertools.product(list(every_tree(one)), list(every_tree(other))):
            yield "sum", a, b
            yield "share", a, b


def all_arrangements(pieces, number):
    places = [i for i, p in enumerate(pieces) for _ in range(min(p.count, number))]
    for chosen in set(itertools.combinations(places, number)):
        yield from every_tree(list(chosen))


@settings(max_examples=60)
@given(st.lists(PIECES, min_size=1, max_size=4), st.floats(0.5, 3e4))
def test_nothing_is_nearer_than_the_best(pieces, target):
    """For each number of pieces the search holds against brute force, and no piece is used more often than it is there."""
    found = {len(c.pieces): c for c in best(target, pieces)}
    values = [p.value for p in pieces]
    assert set(found) == set(range(1, min(4, sum(min(p.count, 4) for p in pieces)) + 1))
    for number, answer in found.items():
        nearest = min(abs(value_of(tree, values) - target) for tree in all_arrangements(pieces, number))
        assert abs(answer.value - target) == pytest.approx(nearest, rel=1e-9, abs=1e-9 * target)
        assert all(answer.pieces.count(i) <= pieces[i].count for i in answer.pieces)


@settings(max_examples=40)
@given(st.lists(PIECES, min_size=1, max_size=3), st.floats(0.5, 3e4))
def test_worst_case_is_the_best_there_is_or_says_how_near(pieces, target):
    brute = min(combination(tree, pieces).worst(target) for n in (1, 2, 3) for tree in all_arrangements(pieces, n))
    exact = best_worst_case(target, pieces, 3)
    assert exact.proved
    assert exact.worst == pytest.approx(brute, rel=1e-9, abs=1e-9)
    few, worst_case.FEW = worst_case.FEW, 0
    try:
        bounded = best_worst_case(target, pieces, 3)
    finally:
        worst_case.FEW = few
    assert bounded.floor <= brute * (1 + 1e-9) + 1e-9
    assert bounded.worst >= brute * (1 - 1e-9) - 1e-9


@pytest.mark.parametrize(
    ("target", "pieces", "most"),
    [
        (0, [Piece(1)], 2),
        (-1, [Piece(1)], 2),
        (math.inf, [Piece(1)], 2),
        (1, [], 2),
        (1, [Piece(0)], 2),
        (1, [Piece(1)], 5),
    ],
)
def test_what_cannot_be_searched_is_said(target, pieces, most):
    with pytest.raises(RangeError, match=r"above zero|nothing on hand|One to four"):
        best(target, pieces, most)


def test_a_search_can_be_stopped():
    with pytest.raises(CancelledError):
        best(7, [Piece(1), Piece(2)], should_stop=lambda: True)


def test_trim_of_7_34_megohm():
    """7.34 M to 7 M ±1 %: 151.1 M across, 124.1 M to 192.2 M serves; 14 ohm with 470 across is 13.60 ohm."""
    found = trim(measured=7.34e6, target=7e6, below=0.01, above=0.01, kind="resistor")
    assert (found.how, found.exact) == ("across", pytest.approx(151.1e6, rel=1e-3))
    assert (found.low, found.high) == (pytest.approx(124.06e6, rel=1e-3), pytest.approx(192.2e6, rel=1e-3))
    assert value_of(("share", 0, 1), [14, 470]) == pytest.approx(13.595, abs=1e-3)


@given(st.floats(1, 1e7), st.floats(0.5, 0.999))
def test_a_trim_brings_the_part_to_its_value(target, share):
    for measured in (target * share, target / share):
        for kind in ("resistor", "capacitor"):
            found = trim(measured=measured, target=target, below=0.05, above=0.05, kind=kind)
            beside = (found.how == "across") == (kind == "resistor")
            joined = measured * found.exact / (measured + found.exact) if beside else measured + found.exact
            assert joined == pytest.approx(target, rel=1e-6)
            assert found.low <= found.exact <= found.high


def test_trims_at_the_edges():
    assert math.isinf(trim(measured=5, target=5, below=0.1, above=0.1, kind="resistor").exact)
    assert "nothing is needed" in say_trim(trim(measured=5, target=5, below=0.1, above=0.1, kind="resistor"), "ohm")
    assert math.isinf(trim(measured=5.2, target=5, below=0.1, above=0.1, kind="resistor").high)
    for bad in (0, -1, math.inf):
        with pytest.raises(RangeError):
            trim(measured=bad, target=5, below=0.1, above=0.1, kind="resistor")


def test_voltage_and_power_are_shared():
    """Resistors in series share as their values, capacitors inversely; side by side all have the whole."""
    pieces = [Piece(100, volts=5), Piece(300, watts=0.01)]
    series = loads(("sum", 0, 1), pieces, "resistor", 8)
    assert [(x.volts, x.watts) for x in series] == [(2, 0.04), (6, pytest.approx(0.12))]
    assert say_over(series[1]) == "120 mW in 10 mW"
    assert sum(x.watts for x in series) == pytest.approx(8**2 / 400)
    caps = loads(("share", 0, 1), pieces, "capacitor", 8)
    assert [x.volts for x in caps] == [6, 2]
    assert say_over(caps[0]) == "6 V on 5 V"
    assert [x.volts for x in loads(("sum", 0, 1), pieces, "capacitor", 8)] == [8, 8]
    assert say_tree(("sum", 0, ("share", 1, 1)), pieces, "resistor") == "100 Ω + (300 Ω ∥ 300 Ω)"
    assert leaves(("sum", 0, ("share", 1, 1))) == (0, 1, 1)


def test_odd_megohms_are_split_for_voltage():
    """1500 V on 350 V resistors: five of them."""
    assert split_for_voltage(1500, 350) == 5
    assert split_for_voltage(350, 350) == 1
    with pytest.raises(RangeError):
        split_for_voltage(100, 0)
    found = search(Asked("resistor", 10e6, volts=1500), [Piece(1e6, volts=350), Piece(10e6, volts=350)])
    assert "split it: 5 x 2 MΩ" in say_search(found)
    assert say_over(found.answers[0].loads[0]) == "1500 V on 350 V"
    to_order = search(Asked("resistor", 10e6, volts=1500, series="E24", most=3), [])
    assert say_over(to_order.answers[0].loads[0]) == "1500 V on 350 V"
    assert "split it: 5 x 2 MΩ" in say_search(to_order)


@settings(max_examples=80)
@given(st.lists(PIECES, min_size=1, max_size=3), st.floats(5, 500), st.sampled_from(["resistor", "capacitor"]))
def test_where_all_are_over_their_rating_the_nearest_that_is_not_is_found(pieces, target, kind):
    """Against brute force over every arrangement: resistors in series alone, capacitors that each stand the whole voltage."""
    rated = [replace(p, volts=95 if i == 1 else 50) for i, p in enumerate(pieces)]
    asked = Asked(kind, target, 0.1, 0.5, volts=90, most=3)
    found = search(asked, rated)
    offs = []
    for number in (1, 2, 3):
        for tree in all_arrangements(rated, number):
            made = combination(tree, rated)
            stands = all(rated[i].volts >= 90 for i in leaves(tree))
            if kind == "resistor":
                stands = "share" not in str(tree) and not any(x.is_over for x in loads(tree, rated, "resistor", 90))
            if stands and 0.9 * target <= made.value <= 1.5 * target:
                offs.append(abs(made.value - target))
    needed = any(a.is_over for a in found.answers) and not any(a.serves and not a.is_over for a in found.answers)
    assert (found.rated is not None) == (needed and bool(offs))
    if found.rated is not None:
        assert abs(found.rated.value - target) == pytest.approx(min(offs), rel=1e-9, abs=1e-9 * target)
        assert found.rated.serves
        assert not found.rated.is_over


@settings(max_examples=60)
@given(st.lists(PIECES, min_size=1, max_size=4), st.floats(5, 500), st.floats(0.5, 2.0))
def test_a_trim_brings_the_whole_nearest(pieces, target, ratio):
    """Against brute force: of everything that could be added, that whose whole, the old part included, is nearest."""
    assume(abs(ratio - 1) > 1e-3)
    for kind in ("resistor", "capacitor"):
        asked = Asked(kind, target, measured=target * ratio, most=3)
        found = search(asked, pieces)
        beside = (found.trim.how == "across") == (kind == "resistor")
        for answer in found.answers:
            wholes = []
            for tree in all_arrangements(pieces, len(answer.pieces)):
                added, old = combination(tree, pieces).value, asked.measured
                wholes.append(added * old / (added + old) if beside else added + old)
            assert abs(answer.value - target) == pytest.approx(
                min(abs(w - target) for w in wholes), rel=1e-9, abs=1e-9 * target
            )


@settings(max_examples=30)
@given(st.lists(PIECES, min_size=1, max_size=3), st.floats(5, 500), st.floats(1.01, 2.0))
def test_worst_case_of_a_trim_is_of_the_whole(pieces, target, ratio):
    beside, added = target * ratio, 1 / (1 / target - 1 / (target * ratio))

    def worst(c):
        return max(1 / (1 / c.high + 1 / beside) - target, target - 1 / (1 / c.low + 1 / beside))

    brute = min(worst(combination(tree, pieces)) for n in (1, 2, 3) for tree in all_arrangements(pieces, n))
    exact = best_worst_case(added, pieces, 3, beside=beside)
    assert exact.worst == pytest.approx(brute, rel=1e-7, abs=1e-7)
    few, worst_case.FEW = worst_case.FEW, 0
    try:
        bounded = best_worst_case(added, pieces, 3, beside=beside)
    finally:
        worst_case.FEW = few
    assert bounded.floor <= brute * (1 + 1e-7) + 1e-7


def test_a_trim_is_split_for_the_volts_on_what_is_added():
    """52 kΩ to be 50 kΩ at 500 V: it is the 1.3 MΩ across it that must be split for 350 V, in two."""
    found = search(Asked("resistor", 50e3, measured=52e3, volts=500, series="E24"), [])
    assert "For 500 V split it: 2 x 649 kΩ in series, 250 V each." in say_search(found) or found.rated is not None


def test_eleven_megohms_at_1320_volts():
    """Four of E96 in series carry 330 V each where one of 350 V would not; E24 has none that serve (3 MΩ: 360 V)."""
    asked = Asked("resistor", 11e6, 0.01, 0.01, volts=1320, series="E96")
    found = search(asked, [])
    assert all(a.is_over for a in found.answers)
    assert len(found.rated.pieces) == 4
    assert found.rated.value == pytest.approx(11e6, rel=1e-3)
    assert max(load.volts for load in found.rated.loads) <= 350
    assert "resistors in series with none over its rating, up to 4 pieces, the last is the nearest" in say_search(
        found
    )
    assert search(replace(asked, series="E24"), []).rated is None


@settings(max_examples=60)
@given(st.floats(20, 5e6), st.floats(0.8, 1.25), st.floats(0.002, 0.2), st.sampled_from(["resistor", "capacitor"]))
def test_one_new_piece_is_the_nearest_of_its_series_and_needs_no_drawer(target, ratio, window, kind):
    """Against brute force over the table of IEC 60063: E24 where one of it serves, else E96, else E192."""
    assume(abs(ratio - 1) > 2 * window)
    found = search(Asked(kind, target, window, window, measured=target * ratio), [])
    assert (found.answers, found.covered) == ((), None)
    piece = found.standard.pieces[0]
    wanted = found.trim.exact
    of = [v * 10.0**p for p in range(-3, 14) for v in decade(piece.name)]
    assert abs(math.log(piece.value / wanted)) <= min(abs(math.log(v / wanted)) for v in of) + 1e-9
    low, high = target * (1 - window), target * (1 + window)
    beside = (found.trim.how == "across") == (kind == "resistor")
    for series in ("E24", "E96", "E192"):
        value = nearest(wanted, series)
        whole = value * target * ratio / (value + target * ratio) if beside else value + target * ratio
        if low <= whole <= high:
            break
    else:
        series = "E24"
    assert piece.name == series


def test_a_value_is_made_on_the_command_line(tmp_path):
    drawer = tmp_path / "drawer.csv"
    drawer.write_text("what,value,tolerance,count,shelf\nr,150k,1,4,left\nr,1M,5,2,left\n")
    run = CliRunner().invoke(app, ["combine", "resistor", "75k", "--stock", str(drawer), "--volts", "40", "--json"])
    told = json.loads(run.stdout)
    two = next(a for a in told["answers"] if a["which"] == "1")
    assert (two["text"], two["value"], two["to_order"]) == ("150 kΩ ∥ 150 kΩ", 75e3, [])
    assert "shelf" in run.stderr
    said = CliRunner().invoke(app, ["combine", "resistor", "75k", "--measured", "81k"]).output
    assert "1.012 MΩ across" in said
    assert "one new, E24:  1 MΩ (to order)" in said


def test_search_says_what_serves_and_what_is_to_be_ordered():
    asked = Asked("resistor", 7e6, 0.01, 0.01, measured=7.34e6, volts=500, most=2, series="E24")
    found = search(asked, [Piece(10e6, 0.01, 2, "10 MΩ")])
    assert found.trim.how == "across"
    first = found.answers[0]
    assert first.text == "150 MΩ"
    assert first.serves
    assert "serves" in say_answer(first, asked)
    assert first.loads[0].volts == 500
    assert "Every arrangement of up to 2" in say_search(found)
    none = search(Asked("capacitor", 1e-6, measured=1e-6), [Piece(1e-6)])
    assert none.answers == ()
    with pytest.raises(RangeError):
        search(Asked("resistor", 0), [Piece(1)])


@pytest.mark.parametrize("op", ["sum", "share"])
def test_every_place_of_the_table_of_pairs_is_another_pair_of_its_value(op):
    """Of which two pieces a value is made is found again: every pair once, by counting all of them; values alike, and far apart."""
    chance = random.Random(7)
    for _ in range(40):
        drawer = [chance.choice([10.0, 22.0, 47.0]) * 10 ** chance.randint(0, 12) for _ in range(12)]
        drawer += [10 ** chance.uniform(-3, 14) for _ in range(6)]
        counts = [chance.randint(1, 2) for _ in drawer]
        values = sorted(drawer)
        sought = _Search(
            target=1.0, values=np.array(values), counts=counts, operations=("sum", "share"), beside=math.inf, within=math.inf
        )  # fmt: skip
        table = sought.pairs(op)
        found = [sought._pair(op, place) for place in range(len(table))]
        wanted = {(i, j) for i in range(len(values)) for j in range(i, len(values)) if i < j or counts[i] > 1}
        assert {(i, j) for _, i, j in found} == wanted
        for value, (_, i, j) in zip(table, found, strict=True):
            a, b = values[i], values[j]
            assert value == pytest.approx(a + b if op == "sum" else a * b / (a + b), rel=1e-14)
