"""What a plan is made of: deeds, the hours somebody is there, the things that only one job can hold at a time.

All times are whole minutes from the plan's own beginning; the grid is SLOT minutes. That power is not left on towards closing is
common practice, no source.
"""

from __future__ import annotations

import heapq
import itertools
from collections.abc import Mapping, Sequence
from dataclasses import field
from functools import cached_property

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

SLOT = 5  # min: finer than anybody keeps to, coarse enough that three weeks are some thousand slots
LAST_HOUR = 60  # min before the shop closes in which no work with the power on begins or ends


class PlanError(CandorError):
    """Deeds that no plan can hold: which, and why."""


@dataclass(frozen=True)
class Deed:
    """One thing to do in one sitting, and what then goes on by itself.

    Attributes
    ----------
    key, job : str
    hands : int
        Minutes that somebody's hands are on it.
    runs : int
        Minutes that it goes on after that.
    watched : bool
        Whether somebody must be in the shop while it runs; no setting lifts it.
    needs : tuple of str
        The shared things that it holds from its beginning until it has run.
    after : tuple of str
        The deeds that are over before it begins.
    not_before : int
        Minutes from the plan's beginning.
    never_last : bool
        Whether its hands must be off LAST_HOUR minutes before the shop closes: work with the power on.
    set_up : str
        What stands ready for it; deeds of one set-up are done together where nothing speaks against it.
    spread : float
        Standard deviation of the logarithm of its minutes of hands.
    """

    key: str
    job: str
    hands: int
    runs: int = 0
    watched: bool = False
    needs: tuple[str, ...] = ()
    after: tuple[str, ...] = ()
    not_before: int = 0
    never_last: bool = False
    set_up: str = ""
    spread: float = 0.0

    @property
    def minutes(self) -> int:
        """From its beginning until it has run, min."""
        return self.hands + self.runs


@dataclass(frozen=True)
class Shop:
    """The hours it is open, how many pairs of hands are there, and how many there are of each shared thing.

    Attributes
    ----------
    open : tuple of (int, int)
        Beginnings and ends, min, in order, apart from each other.
    hands : int
    things : mapping of str to int
    when : mapping of str to spans
        When there is a thing at all, as `open`: dim light, a quiet line. What is not named there is there always.
    """

    open: tuple[tuple[int, int], ...]
    hands: int = 1
    things: Mapping[str, int] = field(default_factory=dict)
    when: Mapping[str, tuple[tuple[int, int], ...]] = field(default_factory=dict)

    @property
    def ends(self) -> int:
        """The last minute it is open."""
        return self.open[-1][1]

    @cached_property
    def longest(self) -> int:
        """The longest stretch it is open, min."""
        return max((b - a for a, b in self.open), default=0)

    def longest_with(self, thing: str) -> int:
        """Return the longest stretch, min, that it is open and has a thing."""
        if thing not in self.when:
            return self.longest
        both = (min(b, d) - max(a, c) for a, b in self.open for c, d in self.when[thing])
        return max((0, *both))


@dataclass(frozen=True)
class Misfit:
    """A deed that no plan can hold: for its "hands", its "watch", a thing there is "none" of, or "when" that is there."""

    deed: Deed
    why: str
    thing: str = ""


def slots(minutes: int) -> int:
    """Return how many slots minutes take: a slot begun is a slot."""
    return -(-minutes // SLOT)


def misfits(deeds: Sequence[Deed], shop: Shop) -> tuple[Misfit, ...]:
    """Return the deeds that do not fit into any day of the shop, whatever else is planned."""
    found = []
    for deed in deeds:
        hands = deed.hands + (LAST_HOUR if deed.never_last else 0)
        if slots(hands) * SLOT > shop.longest:
            found.append(Misfit(deed, "hands"))
        elif deed.watched and (slots(deed.hands) + slots(deed.runs)) * SLOT > shop.longest:
            found.append(Misfit(deed, "watch"))
        else:
            none = [Misfit(deed, "none", thing) for thing in deed.needs if shop.things.get(thing, 1) < 1]
            short = [
                Misfit(deed, "when", thing)
                for thing in deed.needs
                if shop.longest_with(thing) < slots(deed.hands) * SLOT
            ]
            found += [*none, *short][:1]
    return tuple(found)


def in_sequence(deeds: Sequence[Deed]) -> tuple[Deed, ...]:
    """Return deeds so that each stands behind those it comes after, else as they came.

    Raises
    ------
    PlanError
        Where deeds wait for each other in a circle; the message names them.
    """
    place = {deed.key: at for at, deed in enumerate(deeds)}
    waits = {deed.key: {key for key in deed.after if key in place} for deed in deeds}
    frees: dict[str, list[str]] = {}
    for key, before in waits.items():
        for other in before:
            frees.setdefault(other, []).append(key)
    ready = [at for key, at in place.items() if not waits[key]]
    heapq.heapify(ready)
    done: list[Deed] = []
    while ready:
        done.append(deeds[heapq.heappop(ready)])
        for key in frees.get(done[-1].key, ()):
            waits[key].discard(done[-1].key)
            if not waits[key]:
                heapq.heappush(ready, place[key])
    if len(done) < len(deeds):
        over = {deed.key for deed in done}
        names = " → ".join(_circle([d for d in deeds if d.key not in over]))
        raise PlanError(worded("plan.these_wait_for_each_other_in", names=names), value=names)
    return tuple(done)


def _circle(deeds: Sequence[Deed]) -> list[str]:
    """Return the keys of one circle among deeds of which each waits for another of them."""
    waits = {d.key: d.after for d in deeds}
    seen: list[str] = [deeds[0].key]
    for _ in itertools.count():
        behind = next(key for key in waits[seen[-1]] if key in waits)
        if behind in seen:
            return [*seen[seen.index(behind) :], behind]
        seen.append(behind)
    raise AssertionError
