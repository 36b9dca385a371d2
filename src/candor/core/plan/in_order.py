"""Deeds put into the hours one after the other, each as early as hands, things and what it waits for let it begin."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from functools import lru_cache

from candor.core.plan.shop import LAST_HOUR, SLOT, Deed, PlanError, Shop, slots
from candor.core.worded import worded

Starts = Mapping[str, int]  # minute at which each deed begins


class _Taken:
    """How many of one kind are taken, slot by slot: bit `n` of `layers[k]` says that more than `k` are in slot `n`."""

    def __init__(self, many: int) -> None:
        self.layers = [0] * many

    @property
    def full(self) -> int:
        """The slots in which all are taken; with none of the kind, every slot is."""
        return self.layers[-1] if self.layers else -1

    def take(self, mask: int) -> None:
        for k in range(len(self.layers) - 1, 0, -1):
            self.layers[k] |= self.layers[k - 1] & mask
        if self.layers:
            self.layers[0] |= mask

    def give_back(self, mask: int) -> None:
        above = [*self.layers[1:], 0]
        self.layers = [(own & ~mask) | (more & mask) for own, more in zip(self.layers, above, strict=True)]


class Hours:
    """What is still free in the shop's hours, a bit for each slot: whole weeks are looked at in a few operations.

    `until` is the last minute that is looked at: enough for all that is to be placed.
    """

    def __init__(self, shop: Shop, until: int) -> None:
        self._all = (1 << slots(until)) - 1
        self._open, self._safe = _hours(shop.open, 0), _hours(shop.open, LAST_HOUR)
        self._when = {thing: _hours(spans, 0) for thing, spans in shop.when.items()}
        self._hands = _Taken(shop.hands)
        self._things = {thing: _Taken(many) for thing, many in shop.things.items()}

    def place(self, deed: Deed, ready: int) -> int:
        """Take the earliest place for a deed from a minute on; return the minute it begins.

        Raises
        ------
        PlanError
            Where it fits nowhere in the hours.
        """
        first = slots(ready)
        can = self._can(deed) >> first
        if not can:
            raise PlanError(worded("plan.fits_nowhere_in_the_hours_that", key=deed.key), value=deed.key)
        at = first + (can & -can).bit_length() - 1
        self._take(deed, at)
        return at * SLOT

    def put(self, deed: Deed, minute: int) -> bool:
        """Take a place for a deed at one minute; False where it is not free."""
        at = slots(minute)
        if not self._can(deed) >> at & 1:
            return False
        self._take(deed, at)
        return True

    def give_back(self, deed: Deed, minute: int) -> None:
        """Free the place of a deed."""
        at, hands = slots(minute), slots(deed.hands)
        self._hands.give_back(_mask(at, at + hands))
        for thing in self._held(deed):
            thing.give_back(_mask(at, at + hands + slots(deed.runs)))

    def _held(self, deed: Deed) -> list[_Taken]:
        return [self._things[thing] for thing in deed.needs if thing in self._things]

    def _take(self, deed: Deed, at: int) -> None:
        hands = slots(deed.hands)
        self._hands.take(_mask(at, at + hands))
        for thing in self._held(deed):
            thing.take(_mask(at, at + hands + slots(deed.runs)))

    def _can(self, deed: Deed) -> int:
        """Return the slots in which a deed can begin."""
        hands, runs = slots(deed.hands), slots(deed.runs)
        free = (self._safe if deed.never_last else self._open) & ~self._hands.full
        for need in deed.needs:
            free &= self._when.get(need, -1)
        can = _stretch(free, hands) if hands else self._all
        if deed.watched and runs:
            can &= _stretch(self._open, runs) >> hands
        for thing in self._held(deed):
            can &= _stretch(self._all & ~thing.full, hands + runs)
        return can


@lru_cache(maxsize=16)
def _hours(spans: tuple[tuple[int, int], ...], before: int) -> int:
    """Return the slots that lie in some spans, so many minutes before their ends."""
    open_ = 0
    for begin, end in spans:
        open_ |= _mask(slots(begin), (end - before) // SLOT)
    return open_


def _mask(first: int, last: int) -> int:
    """Return the bits from `first` until before `last`."""
    return ((1 << (last - first)) - 1) << first if last > first else 0


def _stretch(free: int, length: int) -> int:
    """Return the slots from which so many in a row are free."""
    have = 1
    while have < length:
        step = min(have, length - have)
        free &= free >> step
        have += step
    return free


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


def lateness(deeds: Sequence[Deed], starts: Starts, promised: Mapping[str, int]) -> dict[str, int]:
    """Return by how many minutes each promised job would be late; 0 where it is kept."""
    over: dict[str, int] = {}
    for deed in deeds:
        over[deed.job] = max(over.get(deed.job, 0), starts[deed.key] + deed.minutes)
    return {job: max(0, over[job] - due) for job, due in promised.items() if job in over}
