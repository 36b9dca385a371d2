"""What would settle a "cannot tell": the U needed, and which contributions to cut to how much.

What is said is rounded to the safe side, so that whoever does just what is said, or better, gets a decision.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from candor.core.quantities import engineering
from candor.core.quantities.show import round_down
from candor.core.uncertainty.budget import Budget, Contribution, rectangular
from candor.core.uncertainty.coverage import cover, distribution_of
from candor.core.uncertainty.distribution import ROUGH
from candor.core.verdict.limits import Bounds, bounds_of
from candor.core.verdict.rules import Outcome, Rule, decide, guard_probability

MOST_READINGS = 30  # more at one point are not read at a bench
_STEPS = 40
_CLOSE = 1e-3  # of the square of a width: far finer than the two digits that are said
_QUANTILES = tuple((i + 0.5) / 24 for i in range(24))  # at which what the repeats may come to is weighed


@dataclass(frozen=True)
class Remedy:
    """One way to settle it.

    Attributes
    ----------
    kind : str
        Which contributions to cut: "needle", "friction", "repeats", "reference", or the name of one.
    half_width : float
        What is said: the half-width that the whole of that kind may have, as a rectangle, in the unit of the result;
        of repeats, 0.
    readings : int
        How many readings in all may settle it; 0 where it is not a matter of repeats.
    chance : float
        That it settles: 1 where it is sure.
    sentence : str
        What to do.
    """

    kind: str
    half_width: float
    readings: int
    chance: float
    sentence: str


@dataclass(frozen=True)
class Settlement:
    """What would settle a doubt.

    Attributes
    ----------
    expanded_needed : float
        The largest U that decides, rounded down to two digits, in the unit of the result; zero where none does.
    remedies : tuple of Remedy
        The largest contribution first; only those that suffice alone.
    sentence : str
    """

    expanded_needed: float
    remedies: tuple[Remedy, ...]
    sentence: str


def settle(error: float, budget: Budget, limit: Bounds | float, rule: Rule, unit: str) -> Settlement | None:
    """Say what would turn "cannot tell" into a decision, the error staying as it is; `error` and `limit` in `unit`.

    A limit that is a number L is ±L.

    A smaller U decides by the rule in force (JCGM 106:2012, 8.3); the chance of readings is of the mean of n of them
    (JCGM 100:2008, 4.2.3).

    Returns
    -------
    Settlement or None
        None where the point is decided already.

    Raises
    ------
    RangeError
        As bounds_of.
    """
    bounds = bounds_of(limit)
    expanded = _guard(budget, bounds)
    if decide(error, expanded, bounds, rule) is not Outcome.CANNOT_TELL:
        return None
    exact = abs(bounds.room(error))
    whole = abs(bounds.middle) if bounds.one_sided else bounds.half
    if rule is Rule.FOUR_TO_ONE and not bounds.one_sided:
        exact = max(exact, whole / 4)  # either the guard band is kept, or the ratio is reached
    needed = round_down(exact)
    if exact <= whole * 1e-6:
        where = "exactly on the limit" if rule is not Rule.PLAIN and whole else "against a limit of zero"
        return Settlement(0.0, (), f"The error stands {where}: no better reading would decide it; trim, or repeat.")
    remedies = [
        r
        for kind in _kinds(budget)
        if (r := _remedy(budget=budget, kind=kind, error=error, needed=needed, bounds=bounds, rule=rule, unit=unit))
    ]
    remedies.sort(key=lambda r: r.chance < 1)  # what is sure goes before what may
    words = f"It needs U of at most {engineering(needed, unit, 2)}. "
    if remedies:
        first = remedies[0]
        words += first.sentence + (" would settle it." if first.chance == 1 else " may settle it")
        words += f", about {_say_chance(first.chance)}." if first.chance < 1 else ""
    else:
        words += "No single contribution is enough; cut the largest first: " + ", then ".join(
            c.name for c in budget.largest_first()[:2]
        )
        words += "."
    return Settlement(needed, tuple(remedies), words)


def _guard(budget: Budget, bounds: Bounds) -> float:
    """Return the U that a rule holds against the limit: at a one-sided one the one-sided quantile."""
    return cover(budget, guard_probability(bounds)).expanded


def _rough_guard(budget: Budget, bounds: Bounds) -> float:
    """Return the same to about 1e-4, quickly, for a search whose answer is checked."""
    found = distribution_of(budget)
    quick = replace(found, terms=found.terms if found.students else ROUGH)
    return quick.half_interval(guard_probability(bounds))


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


def _remedy(
    budget: Budget, kind: str, error: float, needed: float, bounds: Bounds, rule: Rule, unit: str
) -> Remedy | None:
    if kind == "repeats":
        return _by_readings(budget=budget, error=error, needed=needed, bounds=bounds, rule=rule)
    whole = sum(c.size for c in budget.contributions if _of_kind(c, kind)) * math.sqrt(3)

    def over(squared: float) -> float:
        return _rough_guard(with_kind_cut(budget, kind, math.sqrt(squared)), bounds) ** 2 - needed**2

    nothing = over(0.0)
    if nothing > 0:
        return None
    half = round_down(math.sqrt(_widest(over, nothing, whole**2)))
    while half > 0 and _guard(with_kind_cut(budget, kind, half), bounds) > needed:  # the search was a rough one
        half = round_down(half * 0.97)
    if half <= 0:
        return None
    return Remedy(kind=kind, half_width=half, readings=0, chance=1.0, sentence=_sentence(kind, half, unit))


def _widest(over: Callable[[float], float], below: float, whole: float) -> float:
    """Return the greatest square of a width, from 0 to `whole`, at which what rises with it is not over zero, from the inside.

    U² rises nearly straight with the square of a width: false position, the end that stays halved, needs a few steps (M. Dowell
    and P. Jarratt, BIT 11 (1971) 168, from memory).
    """
    low, high, above = 0.0, whole, over(whole)
    if above <= 0:
        return whole
    for _ in range(_STEPS):
        if high - low <= _CLOSE * high:
            break
        least = _CLOSE * high / 2
        middle = min(max(low - below * (high - low) / (above - below), low + least), high - least)
        value = over(middle)
        if value <= 0:
            low, below, above = middle, value, above / 2
        else:
            high, above, below = middle, value, below / 2
    return low


def _by_readings(budget: Budget, error: float, needed: float, bounds: Bounds, rule: Rule) -> Remedy | None:
    """Find how many readings in all would decide if the scatter stayed; the chance weighs that it and the mean may not."""
    repeats = next(c for c in budget.contributions if c.kind == "repeats")
    count = int(repeats.dof) + 1
    if _guard(with_readings(budget, MOST_READINGS), bounds) > needed:
        return None
    low, high = count, MOST_READINGS
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if _guard(with_readings(budget, middle), bounds) <= needed else (middle, high)
    chance = _chance(budget=budget, repeats=repeats, count=count, total=high, error=error, bounds=bounds, rule=rule)
    return Remedy(
        kind="repeats", half_width=0.0, readings=high, chance=chance, sentence=f"About {high} readings in all"
    )


def _chance(
    budget: Budget, repeats: Contribution, count: int, total: int, error: float, bounds: Bounds, rule: Rule
) -> float:
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
    covered = [_guard(with_readings(budget, total, float(r)), bounds) for r in nodes]
    for expanded in np.interp(ratios, nodes, covered):
        for other in _QUANTILES:
            moved = float(stdtrit(seen, other)) * scatter * math.sqrt(1 / count + 1 / new) * new / total
            decided += decide(error + moved, float(expanded), bounds, rule) is not Outcome.CANNOT_TELL
    # Quantiles are finite: certain it never is.
    return min(decided / len(_QUANTILES) ** 2, 0.99)


def _say_chance(chance: float) -> str:
    return (
        f"{round(10 * chance)} times in 10"
        if 0.05 <= chance < 0.95
        else "nearly always"
        if chance > 0.5
        else "hardly ever"
    )


def _sentence(kind: str, half_width: float, unit: str) -> str:
    half = engineering(half_width, unit, 2)
    if kind == "needle":
        return f"Reading the needle to ±{half} (by a magnifier or a camera, or by setting it on a mark and reading the reference)"
    if kind == "reference":
        return f"A reference good to ±{half}"
    if kind == "bracket":
        return f"A bracket of at most {engineering(2 * half_width, unit, 2)} from on to off"
    if kind == "friction":
        return f"Friction known to be at most ±{half} (read from below and from above)"
    return f"Bringing “{kind}” down to ±{half}"
