"""Why a deed stands where it stands in a plan: what kept it from beginning earlier."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.core.plan.in_order import Starts, length
from candor.core.plan.shop import LAST_HOUR, SLOT, Deed, Shop, slots

Because = Literal["begun", "pinned", "now", "date", "after", "thing", "hands", "opens", "safe", "watch", "kept"]


@dataclass(frozen=True)
class Why:
    """What kept a deed from beginning earlier.

    Attributes
    ----------
    because : str
        "begun", "pinned", "now" (nothing did), "date", "after" (of its own job), "thing" (another job has it), "hands" (all at
        another deed), "opens" (the shop was shut), "safe" (too near to closing for power), "watch" (somebody must be there
        while it runs), "kept" (it stands where it stood).
    other : str
        The deed that is in its way, where one is.
    thing : str
    """

    because: Because
    other: str = ""
    thing: str = ""


def why_there(
    deeds: Sequence[Deed], shop: Shop, starts: Starts, begun: Starts, pinned: Starts | None = None
) -> Mapping[str, Why]:
    """Return, for every deed of a plan, why it does not begin a slot earlier."""
    by_key = {d.key: d for d in deeds}
    return {d.key: _why(d, by_key, shop, starts, begun, pinned or {}) for d in deeds}


def _why(deed: Deed, by_key: Mapping[str, Deed], shop: Shop, starts: Starts, begun: Starts, pinned: Starts) -> Why:
    at = starts[deed.key]
    if deed.key in pinned:
        return Why("pinned")
    if deed.key in begun:
        return Why("begun")
    if at == 0:
        return Why("now")
    if at - SLOT < deed.not_before or (deed.not_before and _is_shut(shop, deed.not_before, at)):
        return Why("date")  # also where the shop first opens after it: the date is what kept it
    for key in deed.after:
        if key in starts and starts[key] + length(by_key[key]) > at - SLOT:
            return Why("after", key)
    early, hands = at - SLOT, slots(deed.hands) * SLOT
    if not any(a <= early and early + hands <= b for a, b in shop.open):
        return Why("opens")
    if deed.never_last and not any(a <= early and early + hands <= b - LAST_HOUR for a, b in shop.open):
        return Why("safe")
    over = early + hands + slots(deed.runs) * SLOT
    if deed.watched and not any(a <= early and over <= b for a, b in shop.open):
        return Why("watch")
    for thing in deed.needs:
        held = [
            d
            for d in by_key.values()
            if d.key != deed.key and thing in d.needs and starts[d.key] < over and starts[d.key] + length(d) > early
        ]
        if len(held) >= shop.things.get(thing, len(held) + 1):
            return Why("thing", _latest(held, starts), thing)
    busy = [
        d
        for d in by_key.values()
        if d.key != deed.key and starts[d.key] < early + hands and starts[d.key] + slots(d.hands) * SLOT > early
    ]
    return Why("hands", _latest(busy, starts)) if len(busy) >= shop.hands else Why("kept")


def _is_shut(shop: Shop, since: int, until: int) -> bool:
    return not any(a < until and b > since for a, b in shop.open)


def _latest(deeds: Sequence[Deed], starts: Starts) -> str:
    return max(deeds, key=lambda d: starts[d.key]).key if deeds else ""
