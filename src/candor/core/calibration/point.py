"""A test point of a procedure and what its readings say."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import dataclass
from statistics import fmean
from typing import Literal

from candor.core.errors import RangeError
from candor.core.quantities import engineering, pair
from candor.core.quantities.show import decimals, plain, trimmed
from candor.core.reading.dial import DialRange, NeedleReading, needle_contributions
from candor.core.reading.reference import Age, Reference, age, reference_contributions
from candor.core.uncertainty.budget import Budget
from candor.core.uncertainty.coverage import Coverage, cover
from candor.core.verdict.rules import RULE_WORDS, Limit, Outcome, Rule, Verdict, judge
from candor.core.verdict.settle import Settlement, settle

Phase = Literal["as found", "as left"]


@dataclass(frozen=True)
class TestPoint:
    """One value on one range of one function.

    Attributes
    ----------
    key : str
        Unique in its pack, such as ``dc+/150/75``.
    function, range_name : str
        As the restorer calls them: "DC volts +", "150 V".
    polarity : int
        +1 or -1: the sign of what is applied. Readings are kept as magnitudes, so that a positive
        error always means that the instrument reads too far from zero.
    full_scale, nominal : float
        SI, positive.
    dial : DialRange
    limit : Limit
    """

    __test__ = False  # not a test case, whatever its name says to a test runner

    key: str
    function: str
    range_name: str
    polarity: int
    full_scale: float
    nominal: float
    dial: DialRange
    limit: Limit

    @property
    def unit(self) -> str:
        """The SI unit of the point."""
        return self.dial.unit

    @property
    def name(self) -> str:
        """Range and value, such as ``150 V range at +75 V``."""
        return f"{self.range_name} range at {self.applied}"

    @property
    def applied(self) -> str:
        """What to apply, with its sign."""
        sign = "−" if self.polarity < 0 else ""
        return f"{sign}{engineering(self.nominal, self.unit)}"

    @property
    def nominal_limit(self) -> float:
        """The limit at the nominal value, SI."""
        return self.limit.at(self.nominal, self.full_scale)

    def reference_magnitude(self, value: float) -> float:
        """Return a reference reading as a magnitude.

        Raises
        ------
        RangeError
            Where its sign contradicts the function, or it is nowhere near the range.
        """
        if value < 0 < self.polarity:
            raise RangeError(
                f"{engineering(value, self.unit)} is negative, but {self.function} expects a positive reference.",
                value=str(value),
                expected="a positive value",
            )
        if abs(value) > 1.5 * self.full_scale:
            raise RangeError(
                f"A reference of {engineering(value, self.unit)} is far beyond the {self.range_name} range; "
                f"about {self.applied} was expected.",
                value=str(value),
                expected=self.applied,
            )
        return abs(value)


@dataclass(frozen=True)
class PointResult:
    """What the readings at one point say.

    Attributes
    ----------
    point : TestPoint
    phase : "as found" or "as left"
    readings : tuple of NeedleReading
    indicated, reference, error : float
        Means, SI; the reference corrected by its certificate.
    budget : Budget
    coverage : Coverage
    verdict : Verdict
    settlement : Settlement or None
        What would settle a "cannot tell".
    age : Age or None
        Of the reference on the day; None where no reference could be used.
    remark : str
        Why there is none.
    """

    point: TestPoint
    phase: Phase
    readings: tuple[NeedleReading, ...]
    indicated: float
    reference: float
    error: float
    budget: Budget
    coverage: Coverage
    verdict: Verdict
    settlement: Settlement | None
    age: Age | None
    remark: str = ""

    @property
    def percent_of_full_scale(self) -> float:
        """The error in per cent of full scale."""
        return 100 * self.error / self.point.full_scale

    @property
    def share_of_limit(self) -> float:
        """The error as a share of its limit, signed; infinite where the limit is zero."""
        limit = self.verdict.limit
        return self.error / limit if limit > 0 else math.copysign(math.inf, self.error) if self.error else 0.0

    @property
    def shown(self) -> str:
        """Error and expanded uncertainty, rounded: ``−1.2 ± 1.0 V``."""
        return pair(self.error, self.coverage.expanded, self.point.unit)

    @property
    def sentence(self) -> str:
        """The sum in one line, as the reasons panel puts it."""
        places = decimals(self.coverage.expanded)
        limit = f"±{trimmed(self.verdict.limit, 3)} {self.point.unit}"
        if self.age is None:
            return f"{self.shown} against {limit}, but U leaves the reference out. {self.remark}"
        ratio = self.verdict.test_uncertainty_ratio
        tur = f" TUR {ratio:.1f} (limit / U)." if math.isfinite(ratio) else ""
        chance = likely(self.verdict.probability_in_tolerance)
        places_words = {
            Outcome.PASS: f"{self.shown} is inside {limit}{_guard(self.verdict.rule)}.",
            Outcome.FAIL: f"{self.shown} is outside {limit}{_guard(self.verdict.rule)}.",
            Outcome.CANNOT_TELL: f"Read to ±{plain(self.coverage.expanded, places)} {self.point.unit}, "
            f"limit {limit}, error {self.shown.split(' ±')[0]} {self.point.unit}.",
        }
        return f"{places_words[self.verdict.outcome]}{tur} In tolerance: {chance}."

    @property
    def rule_words(self) -> str:
        """The decision rule with its source."""
        return RULE_WORDS[self.verdict.rule]


def likely(probability: float) -> str:
    """Say a probability without pretending to more digits than it has."""
    if probability > 0.999:
        return "more than 99.9 % likely"
    if probability < 0.001:
        return "less than 0.1 % likely"
    return f"{100 * probability:.1f} % likely"


def _guard(rule: Rule) -> str:
    return " with the guard band kept" if rule is Rule.GUARDED else ""


def assess_point(
    point: TestPoint,
    phase: Phase,
    readings: tuple[NeedleReading, ...],
    reference: Reference | None,
    on: dt.date,
    rule: Rule = Rule.GUARDED,
    celsius: float | None = None,
    remark: str = "No reference was chosen: choose one of the standards.",
) -> PointResult:
    """Turn readings at one point into an error, its uncertainty and a verdict.

    The model is error = mean(indicated) - (mean(reference) + correction), every sensitivity 1 or -1
    (EA-4/02 M:2022, S9).

    Parameters
    ----------
    point : TestPoint
    phase : "as found" or "as left"
    readings : tuple of NeedleReading
        At least one.
    reference : Reference or None
        Without one nothing is decided: the outcome is "cannot tell".
    on : date
        The day of the readings, for the age and drift of the reference.
    rule : Rule
    celsius : float, optional
        Room temperature.
    remark : str
        Why `reference` is None, where it is.

    Raises
    ------
    RangeError
        Where there is no reading, or the reference does not reach the value.
    """
    if not readings:
        raise RangeError(f"{point.name} has no reading; at least one is needed.", place=point.key)
    indicated = fmean(r.indicated for r in readings)
    shown = fmean(r.reference for r in readings)
    contributions = needle_contributions(point.dial, readings)
    correction, how_old = 0.0, None
    if reference is not None:
        correction, more = reference_contributions(reference, shown, on, celsius)
        contributions += more
        how_old = age(reference, on)
    budget = Budget(tuple(contributions))
    coverage = cover(budget)
    error = indicated - (shown + correction)
    limit = point.limit.at(shown, point.full_scale)
    verdict = judge(error, coverage, limit, rule)
    if reference is None:
        verdict = Verdict(
            Outcome.CANNOT_TELL,
            rule,
            error,
            coverage.expanded,
            limit,
            math.nan,
            verdict.probability_in_tolerance,
        )
    settlement = settle(error, budget, limit, rule, point.unit) if reference is not None else None
    return PointResult(
        point, phase, readings, indicated, shown + correction, error, budget, coverage, verdict, settlement, how_old,
        "" if reference is not None else remark,
    )  # fmt: skip
