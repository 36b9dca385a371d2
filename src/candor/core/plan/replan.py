"""A plan after something slipped: what must move moves, and at most three deeds besides, where that saves a promise or hours."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from candor.core.late_dataclass import dataclass
from candor.core.plan.in_order import Starts, hours_for, lateness, length, place_in_order, ready_at
from candor.core.plan.order_search import cost_of
from candor.core.plan.shop import Deed, Shop, in_sequence

FREE_MOVES = 3
WORTH = 240.0  # of the plan's cost that a move besides must save: two hours of a job, or a promise kept six minutes better
MOVE = 60.0  # what it costs that a deed stands elsewhere than was said
CANDIDATES = 4  # deeds that are tried for each such move


@dataclass(frozen=True)
class Replanned:
    """The plan anew.

    Attributes
    ----------
    starts : mapping of key to minute
    moved : tuple of str
        Deeds that begin at another time because they must.
    besides : tuple of str
        Deeds that need not have moved, and do better so; at most FREE_MOVES.
    cost : float
    """

    starts: Starts
    moved: tuple[str, ...]
    besides: tuple[str, ...]
    cost: float


def replan(
    deeds: Sequence[Deed],
    shop: Shop,
    promised: Mapping[str, int],
    before: Starts,
    begun: Starts | None = None,
) -> Replanned:
    """Return a plan from one that was made before: each deed where it was, or as early after that as it can.

    Parameters
    ----------
    deeds : sequence of Deed
        As they are now: some take longer, wait for something else, are new, are no more.
    shop : Shop
    promised : mapping of job to minute
    before : mapping of key to minute
        When each was to begin, by the plan of before, from the beginning of this one.
    begun : mapping of key to minute, optional
        Deeds that stand where they are.

    Raises
    ------
    PlanError
        Where deeds wait for each other in a circle, or the hours are too few.
    """
    fixed = dict(begun or {})
    new = max(before.values(), default=0) + 1
    order = list(in_sequence(sorted(deeds, key=lambda d: before.get(d.key, new))))
    held = [replace(d, not_before=max(d.not_before, before.get(d.key, 0))) for d in order]
    ways = [place_in_order(held, shop, fixed), _into_gaps(order, shop, before, fixed)]
    starts = min(ways, key=lambda w: cost_of(deeds, w, promised) + MOVE * len(_moved(w, before)))
    cost = cost_of(deeds, starts, promised)
    besides: list[str] = []
    for _ in range(FREE_MOVES):
        tried = []
        for deed in _may_gain(order, starts, promised, {*fixed, *besides}):
            at = _earlier(deed, order, starts, shop)
            if at < starts[deed.key]:
                there = {**starts, deed.key: at}
                tried.append((cost_of(deeds, there, promised), deed.key, there))
        if not tried or (best := min(tried, key=lambda t: t[0]))[0] > cost - WORTH:
            break
        cost, key, starts = best
        besides.append(key)
    moved = tuple(k for k in _moved(starts, before) if k not in besides)
    return Replanned(starts, moved, tuple(besides), cost)


def _earlier(deed: Deed, order: Sequence[Deed], starts: Starts, shop: Shop) -> int:
    """Return the first gap that a deed fits into, while all others stay where they are."""
    hours = hours_for(order, shop)
    for other in order:
        if other.key != deed.key:
            hours.place(other, starts[other.key])
    return hours.place(deed, ready_at(deed, starts, {d.key: d for d in order}))


def _moved(starts: Starts, before: Starts) -> list[str]:
    return [key for key, at in starts.items() if key in before and at != before[key]]


def _into_gaps(order: Sequence[Deed], shop: Shop, before: Starts, fixed: Starts) -> Starts:
    """Return the plan in which whoever can stays, and who cannot takes the first gap: few move, but perhaps far."""
    by_key = {d.key: d for d in order}
    hours, starts = hours_for(order, shop), dict[str, int]()
    waiting: list[Deed] = []
    for deed in sorted(order, key=lambda d: (d.key not in fixed, before.get(d.key, shop.ends))):
        at = fixed.get(deed.key, before.get(deed.key, -1))
        if deed.key in fixed:
            starts[deed.key] = hours.place(deed, at)
        elif at >= ready_at(deed, starts, by_key) and hours.put(deed, at):
            starts[deed.key] = at
        else:
            waiting.append(deed)
    behind: dict[str, list[Deed]] = {}
    for deed in order:
        for key in deed.after:
            behind.setdefault(key, []).append(deed)
    while waiting:
        deed = waiting.pop(0)
        ready = max(ready_at(deed, starts, by_key), before.get(deed.key, 0))
        starts[deed.key] = hours.place(deed, ready)
        over = starts[deed.key] + length(deed)
        for later in behind.get(deed.key, ()):
            if later.key in starts and later.key not in fixed and starts[later.key] < over:
                hours.give_back(later, starts.pop(later.key))
                waiting.append(later)
    return starts


def _may_gain(order: Sequence[Deed], starts: Starts, promised: Mapping[str, int], kept: set[str]) -> list[Deed]:
    """Return the deeds that are worth trying earlier: of the latest jobs, then the next ones of all."""
    late = lateness(order, starts, promised)
    left = [d for d in order if d.key not in kept and starts[d.key] > d.not_before]
    return sorted(left, key=lambda d: (-late.get(d.job, 0), starts[d.key]))[:CANDIDATES]
