"""Decision rules: pass, fail or cannot tell."""

from __future__ import annotations

import math
from enum import StrEnum

from candor.core.late_dataclass import dataclass
from candor.core.uncertainty.coverage import COVERAGE_PROBABILITY, Coverage
from candor.core.verdict.limits import Bounds as Bounds
from candor.core.verdict.limits import Limit as Limit
from candor.core.verdict.limits import bounds_of

ONE_SIDED = 0.90  # both tails of a one-sided 95 %


class Outcome(StrEnum):
    """What can be said of a point or of an instrument."""

    PASS = "passes"
    FAIL = "fails"
    CANNOT_TELL = "cannot tell"
    NOT_MEASURED = "not measured"
    NOTED = "noted"  # for what is figured from it: nothing is decided by it


class Rule(StrEnum):
    """Decision rules (JCGM 106:2012, 8; ILAC-G8:09/2019)."""

    GUARDED = "guarded"
    PLAIN = "plain"
    FOUR_TO_ONE = "4:1"


@dataclass(frozen=True)
class Verdict:
    """A decision with its grounds.

    Attributes
    ----------
    outcome : Outcome
    rule : Rule
    error, expanded : float
        e, or the value where the limit is on the value, and its U, in one unit. Of a one-sided limit U is the guard band k1 u.
    bounds : Bounds
        Where e may stand.
    test_uncertainty_ratio : float
        TUR = half the limit interval / U; infinite where U is zero, no number where the limit is one-sided.
    probability_in_tolerance : float
        P(low <= true error <= high) given the reading and its distribution, the prior being flat.
    """

    outcome: Outcome
    rule: Rule
    error: float
    expanded: float
    bounds: Bounds
    test_uncertainty_ratio: float
    probability_in_tolerance: float

    @property
    def limit(self) -> float:
        """Half the limit interval: L of ±L; infinite where it is one-sided."""
        return self.bounds.half

    @property
    def is_guarded(self) -> bool:
        """Whether a guard band was kept."""
        return has_guard_band(self.rule, self.expanded, self.bounds)


def decide(error: float, expanded: float, limit: Bounds | float, rule: Rule) -> Outcome:
    """Apply a decision rule to an error, its U and a limit (a number L is ±L), all in one unit. Raises as bounds_of."""
    bounds = bounds_of(limit)
    if not has_guard_band(rule, expanded, bounds):
        return Outcome.PASS if bounds.low <= error <= bounds.high else Outcome.FAIL
    if bounds.low <= error - expanded and error + expanded <= bounds.high:
        return Outcome.PASS
    return Outcome.FAIL if error - expanded > bounds.high or error + expanded < bounds.low else Outcome.CANNOT_TELL


def has_guard_band(rule: Rule, expanded: float, limit: Bounds | float) -> bool:
    """Say whether a rule keeps a guard band of U at an expanded uncertainty and a limit, in one unit.

    A one-sided limit has no ratio that could reach 4:1, so its guard band is kept by that rule too. Raises as bounds_of.
    """
    bounds = bounds_of(limit)
    return rule is Rule.GUARDED or (rule is Rule.FOUR_TO_ONE and (bounds.one_sided or bounds.half < 4 * expanded))


def guard_probability(bounds: Bounds) -> float:
    """Return the two-sided coverage probability that a guard band is taken at: 95 % on the one side of a one-sided limit
    (normal: k1 = 1.645; JCGM 106:2012, 8.3.2)."""
    return ONE_SIDED if bounds.one_sided else COVERAGE_PROBABILITY


def give_verdict(error: float, coverage: Coverage, limit: Bounds | float, rule: Rule = Rule.GUARDED) -> Verdict:
    """Judge an error of indication, or a value, against a limit.

    Parameters
    ----------
    error : float
        e, in the unit of the coverage.
    coverage : Coverage
    limit : Bounds, or float for ±L
    rule : Rule

    Returns
    -------
    Verdict

    Raises
    ------
    RangeError
        Where the limit cannot be held.
    """
    bounds = bounds_of(limit)
    expanded = coverage.distribution.half_interval(ONE_SIDED) if bounds.one_sided else coverage.expanded
    sure = math.inf if bounds.half > 0 else math.nan
    ratio = math.nan if bounds.one_sided else bounds.half / expanded if expanded > 0 else sure
    if coverage.combined == 0:
        probability = 1.0 if bounds.room(error) >= 0 else 0.0
    else:
        below = coverage.distribution.probability_below
        upper = 1.0 if math.isinf(bounds.high) else below(bounds.high - error)
        probability = upper - (0.0 if math.isinf(bounds.low) else below(bounds.low - error))
    return Verdict(
        outcome=decide(error, expanded, bounds, rule),
        rule=rule,
        error=error,
        expanded=expanded,
        bounds=bounds,
        test_uncertainty_ratio=ratio,
        probability_in_tolerance=min(max(probability, 0.0), 1.0),
    )


def whole(outcomes: list[Outcome]) -> Outcome:
    """Return the verdict of all points together: the worst; not measured while any is missing.

    A point that fails makes the whole fail even before the rest is read.
    """
    for outcome in (Outcome.FAIL, Outcome.NOT_MEASURED, Outcome.CANNOT_TELL):
        if outcome in outcomes:
            return outcome
    return Outcome.PASS if outcomes else Outcome.NOT_MEASURED
