"""Deeds put into the hours one after the other, each as early as hands, things and what it waits for let it begin."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from candor.core.plan.shop import LAST_HOUR, SLOT, Deed, PlanError, Shop, slots

Starts = Mapping[str, int]  # minute at which each deed begins
NEAR = 2 * 24 * 60  # min that are looked at first: nearly every deed finds its place there


class Hours:
    """What is still free in the shop's hours, slot by slot.

    `until` is the last minute that is looked at: enough for all that is to be placed.
    """

    def __init__(self, shop: Shop, until: int) -> None:
        self._count = slots(until) + 1
        self._near = slots(NEAR)
        self._open = np.zeros(self._count, bool)
        self._safe = np.zeros(self._count, bool)
        for begin, end in shop.open:
            self._open[slots(begin) : end // SLOT] = True
            self._safe[slots(begin) : (end - LAST_HOUR) // SLOT] = True
        self._hands = np.where(self._open, shop.hands, 0)
        self._things = {thing: np.full(self._count, many) for thing, many in shop.things.items()}

    def place(self, deed: Deed, ready: int) -> int:
        """Take the earliest place for a deed from a minute on; return the minute it begins.

        Raises
        ------
        PlanError
            Where it fits nowhere in the hours.
        """
        hands, runs, first = slots(deed.hands), slots(deed.runs), slots(ready)
        at, look = -1, self._near + hands + runs
        while at < 0:
            at = self._first(deed, first, min(first + look, self._count))
            if at < 0 and first + look >= self._count:
                raise PlanError(f"{deed.key} fits nowhere in the hours that are planned.", value=deed.key)
            look *= 4
        self._take(deed, at, -1)
        return at * SLOT

    def put(self, deed: Deed, minute: int) -> bool:
        """Take a place for a deed at one minute; False where it is not free."""
        at = slots(minute)
        if self._first(deed, at, min(at + slots(deed.hands) + slots(deed.runs) + 1, self._count)) != at:
            return False
        self._take(deed, at, -1)
        return True

    def give_back(self, deed: Deed, minute: int) -> None:
        """Free the place of a deed."""
        self._take(deed, slots(minute), 1)

    def _take(self, deed: Deed, at: int, by: int) -> None:
        hands, runs = slots(deed.hands), slots(deed.runs)
        self._hands[at : at + hands] += by
        for thing in deed.needs:
            if thing in self._things:
                self._things[thing][at : at + hands + runs] += by

    def _first(self, deed: Deed, first: int, last: int) -> int:
        """Return the first slot in which a deed can begin, -1 where there is none from `first` until before `last`."""
        hands, runs, seen = slots(deed.hands), slots(deed.runs), slice(first, last)
        if first >= last:
            return -1
        open_ = self._open[seen]
        can = _stretch((self._hands[seen] > 0) & (self._safe[seen] if deed.never_last else open_), hands)
        if deed.watched and runs:
            can &= _shifted(_stretch(open_, runs), hands)
        for thing in deed.needs:
            if thing in self._things:
                can &= _stretch(self._things[thing][seen] > 0, hands + runs)
        at = int(np.argmax(can))
        return first + at if can[at] else -1


def hours_for(deeds: Iterable[Deed], shop: Shop) -> Hours:
    """Return the shop's hours, all free, and as long after them as the longest run goes on."""
    return Hours(shop, shop.ends + max((d.runs for d in deeds), default=0) + SLOT)


def place_in_order(deeds: Iterable[Deed], shop: Shop, begun: Starts | None = None) -> dict[str, int]:
    """Return when each deed begins if they are placed in this order, each behind what it comes after.

    `begun` are deeds whose beginning stands already: they are placed there and not moved.
    """
    order = list(deeds)
    fixed = begun or {}
    hours = hours_for(order, shop)
    starts: dict[str, int] = {}
    by_key = {d.key: d for d in order}
    for deed in sorted((d for d in order if d.key in fixed), key=lambda d: fixed[d.key]):
        starts[deed.key] = hours.place(deed, fixed[deed.key])
    for deed in order:
        if deed.key not in starts:
            starts[deed.key] = hours.place(deed, ready_at(deed, starts, by_key))
    return starts


def ready_at(deed: Deed, starts: Starts, by_key: Mapping[str, Deed]) -> int:
    """Return the minute from which a deed may begin: its own, and after those it comes after that are placed."""
    over = (starts[key] + length(by_key[key]) for key in deed.after if key in starts)
    return max((deed.not_before, *over))


def length(deed: Deed) -> int:
    """Return how long a deed holds its place, min: whole slots."""
    return (slots(deed.hands) + slots(deed.runs)) * SLOT


def _stretch(free: np.ndarray, length: int) -> np.ndarray:
    """Return, for every slot, whether it and the next ones are all free."""
    if length <= 0:
        return free | True
    taken = np.concatenate(([0], np.cumsum(~free)))
    can = np.zeros(len(free), bool)
    last = len(free) - length + 1
    if last > 0:
        can[:last] = taken[length:] == taken[:last]
    return can


def _shifted(can: np.ndarray, by: int) -> np.ndarray:
    """Return, for every slot, what is said of the one so many behind it."""
    return np.concatenate((can[by:], np.zeros(min(by, len(can)), bool)))[: len(can)]


def lateness(deeds: Sequence[Deed], starts: Starts, promised: Mapping[str, int]) -> dict[str, int]:
    """Return by how many minutes each promised job would be late; 0 where it is kept."""
    over: dict[str, int] = {}
    for deed in deeds:
        over[deed.job] = max(over.get(deed.job, 0), starts[deed.key] + deed.minutes)
    return {job: max(0, over[job] - due) for job, due in promised.items() if job in over}
