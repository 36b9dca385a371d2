"""A plan after something slipped: nothing moves without a need, but three."""

from __future__ import annotations

from dataclasses import replace

import pytest

from candor.core.plan.order_search import cost_of, plan
from candor.core.plan.replan import FREE_MOVES, replan
from candor.core.plan.shop import Deed, Shop
from shops import deeds, shop, wrongs


@pytest.mark.parametrize("seed", range(8))
def test_only_what_must_moves_and_three_besides(seed: int) -> None:
    made, promised = deeds(14, 4, seed)
    there = shop(2)
    before = plan(made, there, promised, tries=3).starts
    first = min(before, key=lambda k: before[k])
    slipped = [replace(d, hands=d.hands + 60) if d.key == first else d for d in made]
    found = replan(slipped, there, promised, before)
    assert wrongs(slipped, there, found.starts) == []
    assert len(found.besides) <= FREE_MOVES
    assert {k for k in found.starts if found.starts[k] != before[k]} == {*found.moved, *found.besides}
    assert found.cost == cost_of(slipped, found.starts, promised)
    late = [k for k in found.moved if found.starts[k] < before[k]]
    assert late == []  # who must move moves back; forward only those besides


def test_nothing_moves_where_nothing_slipped() -> None:
    made, promised = deeds(10, 4, 3)
    before = plan(made, shop(), promised, tries=3).starts
    found = replan(made, shop(), promised, before)
    assert found.moved == ()


def test_a_late_promise_takes_the_gap_that_a_slip_left() -> None:
    there = Shop(((0, 480),))
    waits, fill, owed = Deed("waits", "1", 100, not_before=200), Deed("fill", "2", 60), Deed("owed", "3", 90)
    before = {"waits": 0, "fill": 100, "owed": 300}
    found = replan([waits, fill, owed], there, {"3": 200}, before)
    assert found.starts == {"waits": 200, "fill": 100, "owed": 0}
    assert found.besides == ("owed",) and found.moved == ("waits",)


def test_one_that_cannot_stay_takes_a_gap_and_leaves_the_rest() -> None:
    there = Shop(((0, 480),))
    before = {"a": 0, "b": 60, "c": 120, "d": 180}
    made = [Deed("a", "1", 115), Deed("b", "2", 60), Deed("c", "3", 60), Deed("d", "4", 60)]
    found = replan(made, there, {}, before)
    assert found.moved == ("b",)
    assert {k: found.starts[k] for k in "acd"} == {"a": 0, "c": 120, "d": 180}


def test_a_new_deed_finds_a_place() -> None:
    found = replan([Deed("a", "1", 60), Deed("new", "2", 30)], Shop(((0, 480),)), {}, {"a": 0})
    assert found.starts == {"a": 0, "new": 60} and found.moved == ()


def test_no_more_than_three_move_besides_however_much_it_would_save():
    there = Shop(((0, 480), (1440, 1920)))
    owed = [Deed(f"owed {n}", str(n + 1), 50) for n in range(6)]
    before = {d.key: 1440 + 60 * n for n, d in enumerate(owed)}
    found = replan(owed, there, {d.job: 480 for d in owed}, before)
    assert len(found.besides) == FREE_MOVES
    assert sum(at < 480 for at in found.starts.values()) == FREE_MOVES
