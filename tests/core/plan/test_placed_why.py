"""Why a deed stands where it stands."""

from __future__ import annotations

from candor.core.plan.order_search import plan
from candor.core.plan.placed_why import why_there
from candor.core.plan.shop import Deed, Shop
from shops import deeds, shop


def test_every_reason_is_one() -> None:
    there = Shop(((0, 240), (300, 540), (1440, 1680)), 1, {"meter": 1})
    made = [
        Deed("first", "1", 60, 120, needs=("meter",)), Deed("behind", "1", 30, after=("first",)),
        Deed("reads", "2", 20, needs=("meter",)),
        Deed("waits", "3", 30, not_before=245), Deed("begun", "4", 10), Deed("power", "5", 60, never_last=True),
        Deed("put", "6", 5),
        Deed("watched", "7", 10, 200, watched=True), Deed("busy", "8", 20), Deed("kept", "9", 20),
    ]  # fmt: skip
    starts = {
        "first": 0, "behind": 180, "reads": 210, "waits": 300, "begun": 60, "power": 1440, "put": 75, "watched": 1440, "busy": 80,
        "kept": 110,
    }  # fmt: skip
    whys = why_there(made, there, starts, {"begun": 60}, {"put": 75})
    found = {key: (why.because, why.other, why.thing) for key, why in whys.items()}
    assert found == {
        "first": ("now", "", ""), "behind": ("after", "first", ""), "reads": ("hands", "behind", ""), "waits": ("date", "", ""),
        "begun": ("begun", "", ""), "power": ("opens", "", ""), "put": ("pinned", "", ""), "watched": ("opens", "", ""),
        "busy": ("hands", "put", ""), "kept": ("kept", "", ""),
    }  # fmt: skip


def test_what_is_in_its_way_is_named() -> None:
    there = Shop(((0, 480),), 2, {"meter": 1})
    made = [
        Deed("a", "1", 30, 60, needs=("meter",)),
        Deed("b", "2", 30, needs=("meter",)),
        Deed("c", "3", 30, not_before=60),
    ]
    whys = why_there(made, there, {"a": 0, "b": 90, "c": 60}, {})
    assert (whys["b"].because, whys["b"].other, whys["b"].thing) == ("thing", "a", "meter")
    assert whys["c"].because == "date"


def test_a_plan_leaves_no_deed_later_than_it_need_be() -> None:
    made, promised = deeds(8, 4, 2)
    there = shop()
    starts = plan(made, there, promised, tries=2).starts
    assert "kept" not in {w.because for w in why_there(made, there, starts, {}).values()}
