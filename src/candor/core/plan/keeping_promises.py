"""A plan that leaves room where a promise needs it: times scatter, and a job that is just in time by its medians is often not."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from candor.core.late_dataclass import dataclass
from candor.core.plan.in_order import Starts
from candor.core.plan.order_search import Planned, by_rule, plan
from candor.core.plan.promise_risk import SAFE, Promise, promises
from candor.core.plan.shop import Deed, Shop

FEWER = 40  # draws while plans are compared
WORTH = 0.03  # promises that another plan must keep more, on the average
EARLIER = (240, 480, 960)  # min that what is at risk is planned to be over before it was promised


@dataclass(frozen=True)
class Kept:
    """A plan, and how the promises stand by it."""

    planned: Planned
    promises: tuple[Promise, ...]

    @property
    def worth(self) -> float:
        """How many promises are kept, on the average of the draws."""
        return sum(p.kept for p in self.promises)


def plan_to_keep(
    deeds: Sequence[Deed],
    shop: Shop,
    promised: Mapping[str, int],
    *,
    begun: Starts | None = None,
    is_outdated: Callable[[], bool] = lambda: False,
) -> Kept:
    """Return the plan in which the promises are kept best: what is at risk is also planned as if promised for earlier.

    Raises
    ------
    PlanError
        Where deeds wait for each other in a circle, or the hours are too few.
    """
    wanted = dict(promised)
    best = _kept(deeds, shop, plan(deeds, shop, wanted, begun=begun, is_outdated=is_outdated), promised, is_outdated)
    first = by_rule(deeds, shop, promised, lambda d: promised.get(d.job, shop.ends), begun)
    if first is not None:
        best = _better(best, _kept(deeds, shop, first, promised, is_outdated))
    for earlier in EARLIER:
        risky = [p.job for p in best.promises if p.kept < SAFE]
        if not risky or is_outdated():
            break
        wanted |= {job: promised[job] - earlier for job in risky}
        other = plan(deeds, shop, wanted, begun=begun, is_outdated=is_outdated)
        best = _better(best, _kept(deeds, shop, other, promised, is_outdated))
    return Kept(best.planned, promises(deeds, shop, promised, best.planned.starts, is_outdated=is_outdated))


def _better(one: Kept, other: Kept) -> Kept:
    return other if other.worth > one.worth + WORTH else one


def _kept(
    deeds: Sequence[Deed],
    shop: Shop,
    planned: Planned,
    promised: Mapping[str, int],
    is_outdated: Callable[[], bool],
) -> Kept:
    return Kept(planned, promises(deeds, shop, promised, planned.starts, draws=FEWER, is_outdated=is_outdated))
