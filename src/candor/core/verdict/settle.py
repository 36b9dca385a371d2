"""What would settle a "cannot tell": the U needed, and which contribution to cut to how much."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from candor.core.quantities import engineering
from candor.core.uncertainty.budget import Budget, Contribution
from candor.core.uncertainty.coverage import cover
from candor.core.verdict.rules import Outcome, Rule, decide


@dataclass(frozen=True)
class Remedy:
    """One way to settle it.

    Attributes
    ----------
    name : str
        The contribution to cut.
    size : float
        The standard uncertainty it may have at most, in the unit of the result.
    sentence : str
        What to do.
    """

    name: str
    size: float
    sentence: str


@dataclass(frozen=True)
class Settlement:
    """What would settle a doubt.

    Attributes
    ----------
    expanded_needed : float
        The largest U that decides, in the unit of the result; zero where none does.
    remedies : tuple of Remedy
        The largest contribution first; only those that suffice alone.
    sentence : str
    """

    expanded_needed: float
    remedies: tuple[Remedy, ...]
    sentence: str


def settle(error: float, budget: Budget, limit: float, rule: Rule, unit: str) -> Settlement | None:
    """Say what would turn "cannot tell" into a decision, the error staying as it is.

    Returns
    -------
    Settlement or None
        None where the point is decided already.
    """
    coverage = cover(budget)
    if decide(error, coverage.expanded, limit, rule) is not Outcome.CANNOT_TELL:
        return None
    needed = limit / 4 if rule is Rule.FOUR_TO_ONE else abs(limit - abs(error))
    if needed <= limit * 1e-6:
        where = "exactly on the limit" if rule is Rule.GUARDED else "against a limit of zero"
        return Settlement(
            needed, (), f"The error stands {where}: no better reading would decide it; trim, or repeat."
        )
    remedies = []
    for contribution in budget.largest_first():
        size = _largest_that_decides(budget, contribution, needed)
        if size > 0:
            remedies.append(Remedy(contribution.name, size, _sentence(contribution, size, unit)))
    words = f"It needs U of at most {engineering(needed, unit, 2)}. "
    if remedies:
        words += remedies[0].sentence + " would settle it."
    else:
        words += "No single contribution is enough; cut the largest first: " + ", then ".join(
            c.name for c in budget.largest_first()[:2]
        )
        words += "."
    return Settlement(needed, tuple(remedies), words)


def _largest_that_decides(budget: Budget, target: Contribution, needed: float) -> float:
    """Return the largest size of one contribution with which U <= needed, zero where none is."""

    def expanded(size: float) -> float:
        scaled = replace(target, standard_uncertainty=size / abs(target.sensitivity))
        kept = tuple(scaled if c.name == target.name else c for c in budget.contributions)
        return cover(replace(budget, contributions=kept)).expanded

    low, high = 0.0, target.size
    if target.size == 0 or expanded(0.0) > needed:
        return 0.0
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if expanded(middle) <= needed else (low, middle)
    return low


def _sentence(contribution: Contribution, size: float, unit: str) -> str:
    half = engineering(size * math.sqrt(3), unit, 2)
    if contribution.kind == "needle":
        return f"Reading the needle to ±{half}, by a lens, a camera or by setting it on a mark and reading the reference,"
    if contribution.kind == "reference":
        return f"A reference good to ±{half}"
    if contribution.kind == "repeats":
        times = math.ceil((contribution.size / size) ** 2)
        return f"About {times} times as many readings"
    if contribution.kind == "friction":
        return f"Bringing from-below and from-above within {engineering(2 * size * math.sqrt(3), unit, 2)}"
    return f"Bringing “{contribution.name}” down to ±{half}"
