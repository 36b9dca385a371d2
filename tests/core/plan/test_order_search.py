"""The plan against brute force, and slot by slot."""

from __future__ import annotations

from dataclasses import replace
from itertools import permutations

import pytest

from candor.core.plan.in_order import lateness, place_in_order
from candor.core.plan.order_search import by_rules, cost_of, plan
from candor.core.plan.shop import Deed, PlanError, Shop, in_sequence, misfits
from shops import deeds, shop, wrongs


@pytest.mark.parametrize("seed", range(6))
@pytest.mark.parametrize("hands", [1, 3])
def test_a_plan_holds_hours_hands_things_and_order(seed: int, hands: int) -> None:
    made, promised = deeds(12, 5, seed)
    there = shop(hands)
    found = plan(made, there, promised, tries=5)
    assert wrongs(made, there, found.starts) == []
    assert found.cost == cost_of(made, found.starts, promised) <= by_rules(made, there, promised).cost


def test_small_shops_are_planned_within_a_tenth_of_the_best_of_all_orders() -> None:
    """Every order of placing is tried: among them is the best plan there is, for a cost that only grows with time."""
    near, over = 0, []
    for seed in range(24):
        made, promised = deeds(3, 2, seed)
        there = shop()
        orders = {tuple(d.key for d in order): order for order in map(in_sequence, permutations(made))}
        best = min(cost_of(made, place_in_order(order, there), promised) for order in orders.values())
        cost = plan(made, there, promised).cost
        near += cost <= best + 1e-9
        over.append(cost / best - 1)
    assert max(over) < 0.1
    assert near >= 20


def test_promises_go_before_the_rest() -> None:
    long_, short = Deed("a", "long", 240), Deed("b", "short", 60)
    there = Shop(((0, 480),))
    assert plan([long_, short], there, {}).starts == {"a": 60, "b": 0}
    assert plan([long_, short], there, {"long": 240}).starts == {"a": 0, "b": 240}


def test_long_runs_come_early_and_gaps_are_filled() -> None:
    dry, fill = Deed("dry", "1", 10, 400), [Deed(f"fill {n}", str(n + 2), 100) for n in range(3)]
    after = Deed("sign", "1", 30, after=("dry",))
    starts = plan([*fill, dry, after], Shop(((0, 480),)), {}).starts
    assert starts["dry"] <= 100 and starts["sign"] == starts["dry"] + 410


def test_what_runs_holds_its_thing_until_it_is_over():
    there = Shop(((0, 480),), 2, {"source": 1})
    made = [Deed("reform", "1", 10, 120, needs=("source",)), Deed("read", "2", 30, needs=("source",), not_before=5)]
    assert plan(made, there, {"1": 130}).starts == {"reform": 0, "read": 130}


def test_deeds_of_one_set_up_stand_together_where_nothing_speaks_against_it():
    made = [Deed(f"{n}", str(n), 60, set_up="dc" if n in (0, 3) else "") for n in range(4)]
    starts = plan(made, Shop(((0, 480),)), {}).starts
    assert abs(starts["0"] - starts["3"]) == 60


def test_of_plans_that_are_alike_the_one_that_is_over_first_is_taken():
    made = [Deed("a", "1", 60), Deed("b", "2", 60), Deed("c", "3", 120)]
    starts = plan(made, Shop(((0, 480),), 2), {}).starts
    assert max(starts[d.key] + d.hands for d in made) == 120


def test_what_stands_is_not_moved() -> None:
    made, promised = deeds(6, 3, 1)
    assert plan(made, shop(), promised, begun={"3.0": 45}, tries=3).starts["3.0"] == 45


def test_nothing_that_must_be_watched_runs_into_the_night() -> None:
    reform = Deed("reform", "1", 10, 120, watched=True, not_before=400)
    there = Shop(((0, 480), (1440, 1920)))
    assert plan([reform], there, {}).starts == {"reform": 1440}
    assert plan([replace(reform, watched=False)], there, {}).starts == {"reform": 400}


def test_no_hand_puts_a_watched_run_into_the_night():
    """Not even what is in hand, or was put at an hour: it waits for the next day that holds it."""
    there = Shop(((0, 480), (1440, 1920)))
    reform = Deed("reform", "1", 10, 120, watched=True)
    assert plan([reform], there, {}, begun={"reform": 400}).starts == {"reform": 1440}
    power = Deed("power", "2", 40, never_last=True)
    assert plan([power], there, {}, begun={"power": 385}).starts == {"power": 1440}
    assert plan([power], there, {}, begun={"power": 380}).starts == {"power": 380}


def test_deeds_that_fit_no_day_are_named() -> None:
    there = Shop(((0, 240),), things={"source": 0})
    made = [
        Deed("long", "1", 245), Deed("watch", "2", 10, 300, watched=True), Deed("power", "3", 200, never_last=True),
        Deed("none", "4", 10, needs=("source",)), Deed("fits", "5", 240),
    ]  # fmt: skip
    assert [(m.deed.key, m.why, m.thing) for m in misfits(made, there)] == [
        ("long", "hands", ""), ("watch", "watch", ""), ("power", "hands", ""), ("none", "none", "source"),
    ]  # fmt: skip


def test_a_circle_is_named() -> None:
    made = [
        Deed("a", "1", 5, after=("c",)),
        Deed("b", "1", 5, after=("a",)),
        Deed("c", "1", 5, after=("b",)),
        Deed("d", "2", 5),
    ]
    with pytest.raises(PlanError, match=r"circle: (a → c → b → a|b → a → c → b|c → b → a → c)"):
        plan(made, shop(), {})


def test_too_few_hours_are_said() -> None:
    with pytest.raises(PlanError, match="b does not fit"):
        plan([Deed("a", "1", 60), Deed("b", "2", 60)], Shop(((0, 100),)), {})


def test_a_promise_of_the_past_is_late_by_all_of_it() -> None:
    made = [Deed("a", "1", 60)]
    assert lateness(made, {"a": 0}, {"1": -30}) == {"1": 90}
    assert plan(made, shop(), {"1": -30}).starts == {"a": 0}
