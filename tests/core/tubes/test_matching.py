"""Matching over all on hand: against brute force and NetworkX, groups that cannot be told apart, and tubes that are no tubes."""

import itertools
import json
import math

import networkx
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import studentized_range
from typer.testing import CliRunner

from candor.cli import app
from candor.core.errors import CandorError
from candor.core.tubes.matching import Measured, alike, balance_of, factor_of_range, match, tubes_of

FIGURES = st.lists(st.integers(700, 1300), min_size=2, max_size=8)


def one_section(figures, u=5.0):
    return tubes_of(Measured(f"T{i}", "", float(f), u) for i, f in enumerate(figures))


def spread(tubes):
    every = [f for t in tubes for f in t.figures]
    return max(every) - min(every)


def by_force(tubes, size):
    """The least total over every way to make as many sets as there can be."""
    if len(tubes) < size:
        return 0.0
    best = math.inf
    for rest in itertools.combinations(tubes[1:], size - 1):
        left = [t for t in tubes[1:] if t not in rest]
        best = min(best, spread((tubes[0], *rest)) + by_force(left, size))
    return min(best, by_force(tubes[1:], size)) if len(tubes) % size else best


@given(FIGURES)
def test_pairs_of_one_section_are_the_best_there_are(figures):
    tubes = one_section(figures)
    found = match(tubes)
    assert found.total == pytest.approx(by_force(list(tubes), 2))
    assert len(found.sets) == len(tubes) // 2
    assert len(found.left_over) == len(tubes) % 2


@given(st.lists(st.integers(700, 1300), min_size=4, max_size=9))
def test_quads_are_the_best_there_are(figures):
    tubes = one_section(figures)
    assert match(tubes, 4).total == pytest.approx(by_force(list(tubes), 4))


@given(st.lists(st.tuples(st.integers(700, 1300), st.integers(700, 1300)), min_size=2, max_size=8))
def test_twins_are_paired_with_all_four_sections_in_mind(pairs):
    tubes = tubes_of(
        Measured(f"T{i}", s, float(f), 5.0) for i, both in enumerate(pairs) for s, f in zip("ab", both, strict=True)
    )
    assert match(tubes).total == pytest.approx(by_force(list(tubes), 2))


def test_twelve_tubes_against_networkx():
    chance = np.random.default_rng(5)
    for _ in range(20):
        tubes = one_section(chance.normal(1000, 80, 12).round())
        graph = networkx.Graph()
        graph.add_weighted_edges_from((a.name, b.name, spread((a, b))) for a, b in itertools.combinations(tubes, 2))
        total = sum(graph.edges[pair]["weight"] for pair in networkx.min_weight_matching(graph))
        assert match(tubes).total == pytest.approx(total)


def test_no_two_of_a_group_can_be_told_apart_and_no_group_could_be_larger():
    chance = np.random.default_rng(8)
    for _ in range(30):
        tubes = tubes_of(Measured(f"T{i}", "", float(f), float(u)) for i, (f, u) in enumerate(
            zip(chance.normal(1000, 30, 10), chance.uniform(2, 15, 10), strict=True)
        ))  # fmt: skip
        known = {t.name: t for t in tubes}

        def close(a, b, known=known):
            one, other = known[a], known[b]
            return abs(one.figures[0] - other.figures[0]) <= factor_of_range(10) * math.hypot(one.us[0], other.us[0])

        groups = alike(tubes)
        for group in groups:
            assert all(close(a, b) for a, b in itertools.combinations(group, 2))
            assert not any(all(close(x, a) for a in group) for x in known if x not in group)
        told = {frozenset(p) for g in groups for p in itertools.combinations(g, 2)}
        for found in match(tubes).sets:
            assert found.told_apart is not (frozenset(found.tubes) in told)


@pytest.mark.parametrize(
    ("measured", "words"),
    [
        ([("A", "", 1, 1), ("A", "", 2, 1)], "A: its one section is given twice"),
        ([("A", "1", 1, 1), ("A", "2", 2, 1), ("B", "1", 1, 1)], "B has 1 of the 2 sections that others have"),
        ([("A", "", math.nan, 1)], "A: nan with u 1 is not a figure"),
        ([("A", "", 1, -1), ("B", "", 1, 1)], "A: 1 with u -1 is not a figure"),
        ([("A", "", 1, 1)], "1 tube cannot make a set of 2"),
    ],
)
def test_what_cannot_be_matched_is_said(measured, words):
    with pytest.raises(CandorError, match=words):
        match(tubes_of(Measured(*one) for one in measured))


def test_the_command_line_answers(tmp_path):
    file = tmp_path / "t.csv"
    file.write_text(
        "tube,section,figure,u\nA,1,1010,6\nA,2,990,6\nB,1,1100,6\nB,2,900,6\nC,1,1003,6\nC,2,1001,6\n",
        encoding="utf-8",
    )
    told = json.loads(CliRunner().invoke(app, ["match", str(file), "--json"]).stdout)
    assert (told["pairs"][0]["tubes"], told["total"], told["left_over"]) == (["A", "C"], 20, ["B"])
    assert told["cannot_be_told_apart"] == [["A", "B", "C"]]
    assert told["balance"]["B"] == {"share": 0.2, "U": pytest.approx(2 * math.hypot(6, 6) / 1000), "within": False}
    assert "A and C: 20 ± 24 apart, cannot be told apart" in CliRunner().invoke(app, ["match", str(file)]).stdout
    file.write_text("tube,section,figure,u\nA,1,high,6\nB,1,1,2\n", encoding="utf-8")
    assert CliRunner().invoke(app, ["match", str(file)]).exception is not None
    assert balance_of(one_section([5, 6])[0]) is None


@pytest.mark.parametrize("count", [2, 3, 4, 8, 12])
def test_alike_tubes_are_told_apart_in_one_of_twenty_and_no_oftener(count):
    """Drawn alike, normal; a set of all of them, and any two among all on hand (the factor is that of the studentized range)."""
    assert factor_of_range(count) == pytest.approx(
        studentized_range.ppf(math.erf(math.sqrt(2)), count, np.inf) / math.sqrt(2), rel=1e-4
    )
    chance = np.random.default_rng(5)
    apart = grouped = 0
    for _ in range(800):
        tubes = tubes_of(
            Measured(f"T{i}", "", figure, 1.0) for i, figure in enumerate(chance.normal(50.0, 1.0, count))
        )
        apart += match(tubes, count).sets[0].told_apart
        grouped += len(alike(tubes)[:1]) == 1 and len(alike(tubes)[0]) == count
    assert apart / 800 == pytest.approx(0.0455, abs=0.02)
    assert grouped / 800 == pytest.approx(0.9545, abs=0.02)
