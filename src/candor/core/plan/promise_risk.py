"""Whether what was promised to owners is kept: how likely, and what would save it.

Each deed's hands take a time drawn about its median; a part of what a draw is off is common to a whole job (who is slow with an
instrument is slow with all of it), and now and then a deed finds more than it looked for and takes several times as long. Hands go
on with the next in the plan's order.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import Literal

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.plan.in_order import lateness, place_in_order
from candor.core.plan.shop import Deed, PlanError, Shop, in_sequence

DRAWS, RESCUE_DRAWS = 100, 40
COMMON = 0.5  # of the variance, that all deeds of a job share
SURPRISE, TIMES = 0.02, 3.0  # how often a deed finds more than it looked for, and then takes so many times as long
SAFE, LOST = 0.9, 0.5  # kept so often: "kept"; less than that: "late"; between: "at risk"
EXTRA = 120  # min that the shop would stay open longer each day until then
Standing = Literal["kept", "at risk", "late"]
Saving = Literal["first", "longer", "hands", "nothing"]


@dataclass(frozen=True)
class Promise:
    """How a promised job stands.

    Attributes
    ----------
    job : str
    due, over : int
        When it was promised, and when the plan has it over, min.
    kept : float
        The share of draws in which it is.
    """

    job: str
    due: int
    over: int
    kept: float

    @property
    def standing(self) -> Standing:
        """In a word."""
        return "kept" if self.kept >= SAFE else "at risk" if self.kept >= LOST else "late"


@dataclass(frozen=True)
class Rescue:
    """What would save a promise: this job "first", the shop open "longer", one more pair of "hands", or "nothing" of these.

    Attributes
    ----------
    job : str
    by : "first", "longer", "hands" or "nothing"
    kept : float
        The share of draws in which it then is.
    costs : tuple of str
        The jobs whose promise it would break.
    """

    job: str
    by: Saving
    kept: float
    costs: tuple[str, ...] = ()


def promises(
    deeds: Sequence[Deed],
    shop: Shop,
    promised: Mapping[str, int],
    starts: Mapping[str, int],
    *,
    draws: int = DRAWS,
    is_outdated: Callable[[], bool] = lambda: False,
) -> tuple[Promise, ...]:
    """Return how every promised job stands by a plan, the least likely first.

    Raises
    ------
    PlanError
        Where deeds wait for each other in a circle.
    """
    order = in_sequence(sorted(deeds, key=lambda d: starts[d.key]))
    jobs = [job for job in promised if any(d.job == job for d in order)]
    kept = _kept(order, shop, {job: promised[job] for job in jobs}, draws, is_outdated)
    over = {job: max(starts[d.key] + d.minutes for d in order if d.job == job) for job in jobs}
    found = (Promise(job, promised[job], over[job], kept[job]) for job in jobs)
    return tuple(sorted(found, key=lambda p: (p.kept, p.due)))


def _kept(
    order: Sequence[Deed],
    shop: Shop,
    promised: Mapping[str, int],
    draws: int,
    is_outdated: Callable[[], bool],
) -> dict[str, float]:
    rng = np.random.default_rng(1)
    jobs = {job: at for at, job in enumerate(dict.fromkeys(d.job for d in order))}
    count = dict.fromkeys(promised, 0)
    done = 0
    for _ in range(draws if promised else 0):
        if is_outdated():
            break
        of_job, own = rng.standard_normal(len(jobs)), rng.standard_normal(len(order))
        more = np.where(rng.random(len(order)) < SURPRISE, TIMES, 1.0)
        drawn = [
            replace(
                d, hands=_minutes(d, n, math.sqrt(COMMON) * of_job[jobs[d.job]] + math.sqrt(1 - COMMON) * z, shop)
            )
            for d, n, z in zip(order, more, own, strict=True)
        ]
        done += 1
        try:
            late = lateness(drawn, place_in_order(drawn, shop), promised)
        except PlanError:  # it runs out of the hours that are planned: nothing of it counts as kept
            continue
        for job in promised:
            count[job] += late[job] == 0
    return {job: many / max(done, 1) for job, many in count.items()}


def _minutes(deed: Deed, times: float, z: float, shop: Shop) -> int:
    """Return the minutes of one draw, not longer than one sitting can be."""
    room = shop.longest - (60 if deed.never_last else 0) - (deed.runs if deed.watched else 0)
    return max(1, min(round(deed.hands * times * math.exp(deed.spread * z)), room - 5))


def rescue(
    deeds: Sequence[Deed],
    shop: Shop,
    promised: Mapping[str, int],
    starts: Mapping[str, int],
    job: str,
    *,
    draws: int = RESCUE_DRAWS,
) -> Rescue:
    """Return what would save a promise, the least that does: its job first, longer days, one more pair of hands.

    Raises
    ------
    PlanError
        Where deeds wait for each other in a circle, or the hours are too few.
    """
    order = in_sequence(sorted(deeds, key=lambda d: starts[d.key]))
    due = promised[job]
    first = in_sequence([*(d for d in order if d.job == job), *(d for d in order if d.job != job)])
    longer = replace(shop, open=tuple((a, b + EXTRA if _last(b, shop) and a < due else b) for a, b in shop.open))
    ways: tuple[tuple[Saving, Sequence[Deed], Shop], ...] = (
        ("first", first, shop),
        ("longer", order, longer),
        ("hands", order, replace(shop, hands=shop.hands + 1)),
    )
    for by, anew, there in ways:
        kept = _kept(anew, there, {job: due}, draws, lambda: False)[job]
        if kept >= SAFE:
            return Rescue(job, by, kept, _broken(order, anew, shop, promised, job) if by == "first" else ())
    return Rescue(job, "nothing", 0.0)


def _last(end: int, shop: Shop) -> bool:
    """Whether the shop shuts then for the night, not for a break."""
    return not any(end < a <= end + 2 * EXTRA for a, _ in shop.open)


def _broken(
    before: Sequence[Deed], after: Sequence[Deed], shop: Shop, promised: Mapping[str, int], job: str
) -> tuple[str, ...]:
    was = lateness(before, place_in_order(before, shop), promised)
    now = lateness(after, place_in_order(after, shop), promised)
    return tuple(name for name in now if name != job and now[name] > 0 == was[name])
