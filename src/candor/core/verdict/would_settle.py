"""What would settle a "cannot tell": the U needed, and which contributions to cut to how much.

A width is rounded to the safe side, and the chance said is that of the width said.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import round_down
from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import cover, distribution_of
from candor.core.uncertainty.distribution import ROUGH, ErrorDistribution
from candor.core.verdict.limits import Bounds, bounds_of
from candor.core.verdict.rules import Outcome, Rule, decide, guard_probability, has_guard_band

MOST_READINGS = 30  # more at one point are not read at a bench
SURE_ENOUGH = 0.9  # of the chance that something settles it: from here on it is said before the others
WORTH_SAYING = 0.5  # and from here on at all
NEARLY = 0.05  # what costs more and settles it no oftener than by this is not asked for
MARGIN = 0.005  # what the quick search may be off by
NARROWEST = 1000  # of the whole width of a kind: nobody measures anew to less than this part of it
_STEPS = 14  # halvings of a ratio of NARROWEST: to well within the two digits that are said
_QUANTILES = tuple((i + 0.5) / 24 for i in range(24))  # at which what the repeats may come to is weighed


@dataclass(frozen=True)
class Remedy:
    """One way to settle it.

    Attributes
    ----------
    kind : str
        Which contributions to cut: "needle", "friction", "repeats", "reference", or the name of one.
    half_width : float
        The half-width that the whole of that kind may have, as a rectangle, in the unit of the result; of repeats, 0.
    readings : int
        How many readings in all; 0 where it is not a matter of repeats.
    chance : float
        That it settles: measured anew, the error moves too, and may move into the doubt of the other limit or stay in this one.
    """

    kind: str
    half_width: float
    readings: int
    chance: float


@dataclass(frozen=True)
class Settlement:
    """What would settle a doubt.

    Attributes
    ----------
    expanded_needed : float
        The largest U that decides if the error stays as it is, rounded down to two digits, in the unit of the result; zero
        where none does.
    remedies : tuple of Remedy
        Those that settle it in nine of ten first, then the largest contribution first; none of less than one of two.
    largest : tuple of str
        The names of the two largest contributions.
    on_limit : bool
        Whether the error stands on its limit.
    """

    expanded_needed: float
    remedies: tuple[Remedy, ...]
    largest: tuple[str, ...]
    on_limit: bool = False


def settle(error: float, budget: Budget, limit: Bounds | float, rule: Rule) -> Settlement | None:
    """Say what would turn "cannot tell" into a decision; `error` and `limit` in one unit, a limit that is a number L is ±L.

    A smaller U decides by the rule in force (JCGM 106:2012, 8.3). What is measured anew takes its old error with it: the new
    result is error + old - new, old drawn by what the budget said of it and new by the rectangle that takes its place (a flat
    prior of the true error); the chance of readings is of the mean of n of them (JCGM 100:2008, 4.2.3).

    Returns
    -------
    Settlement or None
        None where the point is decided already.

    Raises
    ------
    RangeError
        As bounds_of.
    """
    doubt = _Doubt(error, budget, bounds_of(limit), rule)
    if decide(error, _guard(budget, doubt.bounds), doubt.bounds, rule) is not Outcome.CANNOT_TELL:
        return None
    exact = abs(doubt.bounds.room(error))
    whole = abs(doubt.bounds.middle) if doubt.bounds.one_sided else doubt.bounds.half
    if rule is Rule.FOUR_TO_ONE and not doubt.bounds.one_sided:
        exact = max(exact, whole / 4)  # either the guard band is kept, or the ratio is reached
    on_limit = exact <= whole * 1e-6
    found = [_by_readings(doubt) if kind == "repeats" else _by_cutting(doubt, kind) for kind in _kinds(budget)]
    remedies = sorted((r for r in found if r is not None), key=lambda r: r.chance < SURE_ENOUGH)
    return Settlement(
        expanded_needed=0.0 if on_limit else round_down(exact),
        remedies=tuple(remedies),
        largest=tuple(c.name for c in budget.largest_first()[:2]),
        on_limit=on_limit,
    )


@dataclass(frozen=True)
class _Doubt:
    """What is to be settled: an error with its budget, where it may stand, and the rule."""

    error: float
    budget: Budget
    bounds: Bounds
    rule: Rule


def _guard(budget: Budget, bounds: Bounds) -> float:
    """Return the U that a rule holds against the limit: at a one-sided one the one-sided quantile."""
    return cover(budget, guard_probability(bounds)).expanded


def _roughly(budget: Budget) -> ErrorDistribution:
    """Return a distribution good to about 1e-4, quickly, for a search whose answer is checked."""
    found = distribution_of(budget)
    return replace(found, terms=found.terms if found.students else ROUGH)


def _kinds(budget: Budget) -> list[str]:
    """Return the kinds that can be cut, the largest contribution first; "other" ones each by its name."""
    return list(dict.fromkeys(c.name if c.kind == "other" else c.kind for c in budget.largest_first() if c.size > 0))


def _of_kind(contribution: Contribution, kind: str) -> bool:
    return contribution.name == kind if contribution.kind == "other" else contribution.kind == kind


def with_kind_cut(budget: Budget, kind: str, half_width: float) -> Budget:
    """Return a budget in which everything of one kind is one rectangle of ±`half_width`, in the unit of the result.

    What is cut is measured anew, so its correlations go with it.
    """
    gone = {c.name for c in budget.contributions if _of_kind(c, kind)}
    kept = tuple(c for c in budget.contributions if c.name not in gone)
    left = {pair: r for pair, r in budget.correlations.items() if not gone & set(pair)}
    return Budget((*kept, rectangular(f"{kind}, cut", half_width)), left)


def with_readings(budget: Budget, readings: int, ratio: float = 1.0) -> Budget:
    """Return a budget with its repeats read `readings` times in all, their scatter `ratio` times what it was: u = s/√n
    (JCGM 100:2008, 4.2.3)."""

    def more(c: Contribution) -> Contribution:
        if c.kind != "repeats":
            return c
        size = c.standard_uncertainty * math.sqrt((c.dof + 1) / readings) * ratio
        return replace(c, standard_uncertainty=size, dof=float(readings - 1))

    return replace(budget, contributions=tuple(more(c) for c in budget.contributions))


def _by_cutting(doubt: _Doubt, kind: str) -> Remedy | None:
    """Find the widest rectangle in the place of one kind that settles it in nine of ten; else what nearly the narrowest does."""
    whole = sum(c.size for c in doubt.budget.contributions if _of_kind(c, kind)) * math.sqrt(3)
    least = whole / NARROWEST
    best = _chance_cut(doubt, kind, least, _roughly)
    if best < WORTH_SAYING:
        return None
    wanted = SURE_ENOUGH + MARGIN if best >= SURE_ENOUGH + MARGIN else best - NEARLY
    low, high = least, whole
    for _ in range(_STEPS):  # the chance falls as the rectangle widens: the same error moves, and U grows
        middle = math.sqrt(low * high)
        low, high = (middle, high) if _chance_cut(doubt, kind, middle, _roughly) >= wanted else (low, middle)
    half = round_down(low)
    return Remedy(kind=kind, half_width=half, readings=0, chance=_chance_cut(doubt, kind, half, distribution_of))


def _chance_cut(
    doubt: _Doubt, kind: str, half_width: float, distributed: Callable[[Budget], ErrorDistribution]
) -> float:
    """Return the chance that it is decided once everything of one kind is measured anew to ±`half_width`."""
    after = with_kind_cut(doubt.budget, kind, half_width)
    guard = distributed(after).half_interval(guard_probability(doubt.bounds))
    if not has_guard_band(doubt.rule, guard, doubt.bounds):
        return 1.0
    old = (c for c in doubt.budget.contributions if _of_kind(c, kind))
    moves = distributed(Budget((*old, rectangular(f"{kind}, cut", half_width))))

    def between(low: float, high: float) -> float:
        above = 1.0 if math.isinf(high) else moves.probability_below(high - doubt.error)
        return above - (0.0 if math.isinf(low) else moves.probability_below(low - doubt.error))

    low, high = doubt.bounds.low, doubt.bounds.high
    passes = between(low + guard, high - guard) if low + guard <= high - guard else 0.0
    return 1.0 - between(low - guard, high + guard) + passes


def _by_readings(doubt: _Doubt) -> Remedy | None:
    """Find how many readings in all settle it in nine of ten, or nearly as often as MOST_READINGS do."""
    repeats = next(c for c in doubt.budget.contributions if c.kind == "repeats")
    count = int(repeats.dof) + 1

    def chance(readings: int) -> float:
        return _chance(doubt, repeats, count, readings)

    best = chance(MOST_READINGS) if count < MOST_READINGS else 0.0
    if best < WORTH_SAYING:
        return None
    wanted = SURE_ENOUGH if best >= SURE_ENOUGH else best - NEARLY
    low, high = count, MOST_READINGS
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if chance(middle) >= wanted else (middle, high)
    return Remedy(kind="repeats", half_width=0.0, readings=high, chance=chance(high))


def _chance(doubt: _Doubt, repeats: Contribution, count: int, total: int) -> float:
    """Return the chance that `total` readings decide: the scatter and the mean of those to come drawn by what was read.

    The variance still to be seen over the one seen is F distributed, the new mean scaled t: both at the middle of equal
    shares of probability.
    """
    from scipy.special import fdtri, stdtrit  # imported here: asked for only where readings scatter, and slow to load

    seen, new = repeats.dof, total - count
    scatter = repeats.size * math.sqrt(count)
    decided = 0.0
    shares = np.array(_QUANTILES)
    later = (
        fdtri(new - 1, seen, shares) if new > 1 else np.ones_like(shares)
    )  # s² of those to come over s² of those read
    ratios = np.sqrt((seen + (new - 1) * later) / (seen + new - 1)) if new > 1 else later
    # U is smooth in the ratio: calculated at some, drawn through between them.
    nodes = np.unique([*ratios[:: max(len(ratios) // 5, 1)], ratios[-1]])
    covered = [_guard(with_readings(doubt.budget, total, float(r)), doubt.bounds) for r in nodes]
    moved = stdtrit(seen, shares) * scatter * math.sqrt(1 / count + 1 / new) * new / total
    errors, low, high = doubt.error + moved, doubt.bounds.low, doubt.bounds.high
    for expanded in np.interp(ratios, nodes, covered):
        if has_guard_band(doubt.rule, float(expanded), doubt.bounds):
            passes = (errors - expanded >= low) & (errors + expanded <= high)
            decided += float(np.mean(passes | (errors - expanded > high) | (errors + expanded < low)))
        else:
            decided += 1.0
    # Quantiles are finite: certain it never is.
    return min(decided / len(_QUANTILES), 0.99)
