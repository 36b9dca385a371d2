"""The plan: deeds placed so that promises are kept first, then jobs are over early, then like set-ups stand together.

Deeds are placed one after the other, each as early as it can be; what is sought is the order. The usual rules give some good
ones; then whole jobs, and deeds of one set-up, are tried further up or down for as long as that makes the plan better. For
what a shop plans that comes as near to the best known plan as a general solver does in minutes (docs/plan.md has the figures),
and needs none of its 190 MB. What a minute of what costs is common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.plan.in_order import Starts, lateness, place_in_order
from candor.core.plan.shop import Deed, PlanError, Shop, in_sequence

# What a minute costs: of a promise broken, of a job not over, of one set-up torn apart, until hands have nothing left to do.
LATE, OVER, APART, LAST = 200, 2, 0.1, 10
PLACED = 8_000  # deeds are placed so often while other orders are tried: about a second
TRIES = (40, 400)  # at least, at most
WORSE = (
    0.5  # over the root of how many deeds there are: the share an order may be worse than the one before, at first
)
SEED = 1  # the same jobs give the same plan
Rule = Callable[[Deed], float]


@dataclass(frozen=True)
class Planned:
    """When each deed begins, min, what that costs (`cost_of`), and the order in which they were placed."""

    starts: Starts
    cost: float
    order: tuple[str, ...] = ()


def cost_of(deeds: Sequence[Deed], starts: Starts, promised: Mapping[str, int]) -> float:
    """Return what a plan costs, in units of a minute that counts once.

    LATE a minute that a promise is broken, OVER a minute until a job is over, APART a minute between the first and the last
    deed of one set-up, LAST a minute until the last hands are off.
    """
    over: dict[str, int] = {}
    sets: dict[str, list[int]] = {}
    for deed in deeds:
        over[deed.job] = max(over.get(deed.job, 0), starts[deed.key] + deed.minutes)
        if deed.set_up:
            sets.setdefault(deed.set_up, []).append(starts[deed.key])
    late = sum(lateness(deeds, starts, promised).values())
    apart = sum(max(at) - min(at) for at in sets.values())
    last = max((starts[d.key] + d.hands for d in deeds), default=0)
    return LATE * late + OVER * sum(over.values()) + APART * apart + LAST * last


def ready_first(deeds: Sequence[Deed], rule: Rule) -> list[Deed]:
    """Return deeds by a rule, the smallest first, of those whose turn it can be: none before what it comes after.

    Raises
    ------
    PlanError
        Where they wait for each other in a circle.
    """
    by_key = {d.key: d for d in deeds}
    worth: dict[str, float] = {}
    for deed in reversed(in_sequence(deeds)):  # what comes before an urgent one is as urgent
        worth[deed.key] = min(rule(deed), worth.get(deed.key, float("inf")))
        for key in deed.after:
            if key in by_key:
                worth[key] = min(worth.get(key, float("inf")), worth[deed.key])
    return list(in_sequence(sorted(deeds, key=lambda d: worth[d.key])))


def by_rules(deeds: Sequence[Deed], shop: Shop, promised: Mapping[str, int], begun: Starts | None = None) -> Planned:
    """Return the cheapest of the plans that the usual rules give: promise, slack, short jobs, long runs first.

    Raises
    ------
    PlanError
        Where the hours hold none of them.
    """
    left, far = _left(deeds), shop.ends
    due = {d.key: promised.get(d.job, far) for d in deeds}
    rules: tuple[Rule, ...] = (
        lambda d: due[d.key],
        lambda d: due[d.key] - left[d.key],
        lambda d: left[d.key],
        lambda d: due[d.key] - left[d.key] - 2 * d.runs,
        lambda d: left[d.key] + (0 if d.job in promised else far),
    )
    tried = [_placed(ready_first(deeds, rule), shop, promised, begun) for rule in rules]
    found = [p for p in tried if isinstance(p, Planned)]
    if not found:
        raise next(p for p in tried if isinstance(p, PlanError))
    return min(found, key=lambda p: p.cost)


def by_rule(
    deeds: Sequence[Deed], shop: Shop, promised: Mapping[str, int], rule: Rule, begun: Starts | None = None
) -> Planned | None:
    """Return the plan that one rule gives; None where the hours do not hold it.

    Raises
    ------
    PlanError
        Where deeds wait for each other in a circle.
    """
    placed = _placed(ready_first(deeds, rule), shop, promised, begun)
    return placed if isinstance(placed, Planned) else None


def _placed(
    order: Sequence[Deed], shop: Shop, promised: Mapping[str, int], begun: Starts | None
) -> Planned | PlanError:
    """Return the plan of an order, or why the hours do not hold it."""
    try:
        starts = place_in_order(order, shop, begun)
    except PlanError as error:
        return error
    return Planned(starts, cost_of(order, starts, promised), tuple(d.key for d in order))


def _left(deeds: Sequence[Deed]) -> dict[str, int]:
    """Return the minutes from the beginning of each deed to the end of its job, if nothing else were to do."""
    left: dict[str, int] = {}
    after: dict[str, list[str]] = {}
    for deed in deeds:
        for key in deed.after:
            after.setdefault(key, []).append(deed.key)
    for deed in reversed(in_sequence(deeds)):
        left[deed.key] = deed.minutes + max((left[key] for key in after.get(deed.key, ())), default=0)
    return left


def plan(
    deeds: Sequence[Deed],
    shop: Shop,
    promised: Mapping[str, int],
    *,
    begun: Starts | None = None,
    tries: int | None = None,
    is_outdated: Callable[[], bool] = lambda: False,
) -> Planned:
    """Return a plan; `begun` are deeds that stand where they are.

    Parameters
    ----------
    deeds : sequence of Deed
        All of which fit into the shop's hours (`misfits`).
    shop : Shop
    promised : mapping of job to minute
    begun : mapping of key to minute, optional
    tries : int, optional
        How many other orders are tried; by how many deeds there are where it is not given.
    is_outdated : callable
        Asked between tries: whether nobody waits for it any more.

    Raises
    ------
    PlanError
        Where deeds wait for each other in a circle, or the hours are too few.
    """
    ordered = in_sequence(deeds)
    best = by_rules(ordered, shop, promised, begun)
    draw = np.random.default_rng(SEED)
    by_key = {d.key: d for d in ordered}
    if tries is None:
        tries = min(max(PLACED // max(len(ordered), 1), TRIES[0]), TRIES[1])
    at = best  # may get worse for a while, by less and less: from some orders every single move leads down
    worse = WORSE / max(len(ordered), 1) ** 0.5
    for done in range(tries if len(ordered) > 1 else 0):
        if is_outdated():
            break
        moved = _moved([by_key[key] for key in at.order], draw)
        other = _placed(in_sequence(moved), shop, promised, begun)
        if isinstance(other, Planned) and other.cost <= at.cost * (1 + worse * (1 - done / tries)):
            at = other
            best = min(best, at, key=lambda p: p.cost)
    return best


def _moved(order: list[Deed], draw: np.random.Generator) -> list[Deed]:
    """Return an order with all of one job, or of one set-up, or one deed alone, taken somewhere else."""
    chosen = order[int(draw.integers(len(order)))]
    how = draw.random()
    if how < 0.5:
        taken = [d for d in order if d.job == chosen.job]
    elif how < 0.7 and chosen.set_up:
        taken = [d for d in order if d.set_up == chosen.set_up]
    else:
        taken = [chosen]
    keys = {d.key for d in taken}
    rest = [d for d in order if d.key not in keys]
    at = int(draw.integers(len(rest) + 1))
    return [*rest[:at], *taken, *rest[at:]]
