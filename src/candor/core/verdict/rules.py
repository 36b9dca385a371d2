"""Limits and decision rules: pass, fail or cannot tell."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from candor.core.errors import RangeError
from candor.core.uncertainty.coverage import Coverage


class Outcome(StrEnum):
    """What can be said of a point or of an instrument."""

    PASS = "passes"
    FAIL = "fails"
    CANNOT_TELL = "cannot tell"
    NOT_MEASURED = "not measured"


class Rule(StrEnum):
    """Decision rules (JCGM 106:2012, 8; ILAC-G8:09/2019)."""

    GUARDED = "guarded"
    PLAIN = "plain"
    FOUR_TO_ONE = "4:1"


RULE_WORDS = {
    Rule.GUARDED: "Guard band of U: passes when |error| + U ≤ limit, fails when |error| − U > limit, "
    "between them it cannot be told (JCGM 106, 8.3; ILAC-G8, 4.2).",
    Rule.PLAIN: "Simple acceptance: passes when |error| ≤ limit, whatever U is (JCGM 106, 8.2; ILAC-G8, 4.2).",
    Rule.FOUR_TO_ONE: "4:1: simple acceptance where limit / U is at least 4, below that a guard band of U "
    "(JCGM 106, 8.2 and 8.3; ILAC-G8, 4.2).",
}


@dataclass(frozen=True)
class Limit:
    """A maximum permissible error: the sum of its parts.

    Attributes
    ----------
    percent_of_full_scale, percent_of_reading : float
        Of the fiducial value (IEC 60051-1) and of the value itself.
    absolute : float
        SI.
    """

    percent_of_full_scale: float = 0.0
    percent_of_reading: float = 0.0
    absolute: float = 0.0

    @property
    def given(self) -> bool:
        """Whether there is a limit at all: without one an error is known, and nothing is decided."""
        return self.percent_of_full_scale > 0 or self.percent_of_reading > 0 or self.absolute > 0

    def at(self, value: float, full_scale: float) -> float:
        """Return the limit L at `value`, SI, zero or more."""
        limit = (
            abs(full_scale) * self.percent_of_full_scale / 100
            + abs(value) * self.percent_of_reading / 100
            + self.absolute
        )
        if not (limit >= 0 and math.isfinite(limit)):
            raise RangeError(f"A limit of {limit:g} cannot be held; zero or more was expected.", value=str(limit))
        return limit


@dataclass(frozen=True)
class Verdict:
    """A decision with its grounds.

    Attributes
    ----------
    outcome : Outcome
    rule : Rule
    error, expanded, limit : float
        e, U and L, in one unit.
    test_uncertainty_ratio : float
        TUR = L / U; infinite where U is zero and L is not.
    probability_in_tolerance : float
        P(|true error| <= L) given the reading and its distribution.
    """

    outcome: Outcome
    rule: Rule
    error: float
    expanded: float
    limit: float
    test_uncertainty_ratio: float
    probability_in_tolerance: float


def decide(error: float, expanded: float, limit: float, rule: Rule) -> Outcome:
    """Apply a decision rule to an error, its expanded uncertainty and a limit, all in one unit."""
    size = abs(error)
    if has_guard_band(rule, expanded, limit):
        if size + expanded <= limit:
            return Outcome.PASS
        return Outcome.FAIL if size - expanded > limit else Outcome.CANNOT_TELL
    return Outcome.PASS if size <= limit else Outcome.FAIL


def has_guard_band(rule: Rule, expanded: float, limit: float) -> bool:
    """Say whether a rule keeps a guard band of U at an expanded uncertainty and a limit, both in one unit."""
    return rule is Rule.GUARDED or (rule is Rule.FOUR_TO_ONE and limit < 4 * expanded)


def give_verdict(error: float, coverage: Coverage, limit: float, rule: Rule = Rule.GUARDED) -> Verdict:
    """Judge an error of indication against a limit.

    Parameters
    ----------
    error : float
        e, in the unit of the coverage.
    coverage : Coverage
    limit : float
        L, zero or more.
    rule : Rule

    Returns
    -------
    Verdict
    """
    expanded = coverage.expanded
    ratio = limit / expanded if expanded > 0 else math.inf if limit > 0 else math.nan
    if coverage.combined == 0:
        probability = 1.0 if abs(error) <= limit else 0.0
    else:
        below = coverage.distribution.probability_below
        probability = below(limit - error) - below(-limit - error)
    outcome = decide(error, expanded, limit, rule)
    return Verdict(
        outcome=outcome,
        rule=rule,
        error=error,
        expanded=expanded,
        limit=limit,
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
