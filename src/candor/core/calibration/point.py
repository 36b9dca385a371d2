"""A test point of a procedure and what its readings say."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal

from candor.core.errors import RangeError
from candor.core.quantities import engineering, pair
from candor.core.quantities.show import decimals, plain, signed, trimmed
from candor.core.quantities.units import QUANTITY_OF_UNIT, SYMBOLS
from candor.core.reading.dial import (
    FRICTION_LIMIT,
    DialRange,
    NeedleMeans,
    NeedleReading,
    needle_contributions,
    needle_means,
)
from candor.core.reading.reference import Age, Reference, age, reference_contributions
from candor.core.uncertainty.budget import Budget
from candor.core.uncertainty.coverage import Coverage, cover
from candor.core.verdict.rules import RULE_WORDS, Limit, Outcome, Rule, Verdict, give_verdict, has_guard_band
from candor.core.verdict.settle import Settlement, settle

Phase = Literal["as found", "as left"]
NO_LIMIT = "no limit was given: the error is known, not whether it may be that large"


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
    limit_by : str
        Whose limit it is: "maker", "owner" or "shop".
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
    limit_by: str = "maker"

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

    @property
    def limit_words(self) -> str:
        """The limit as it is stated, and whose it is: ``±0.9 V, the owner's``."""
        if not self.limit.given:
            return NO_LIMIT
        whose = "" if self.limit_by == "maker" else f", the {self.limit_by}'s"
        return f"±{trimmed(self.nominal_limit, 3)} {SYMBOLS.get(self.unit, self.unit)}{whose}"

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
        # Half again: a meter over its end is still a reading of it; more is a slip of the range or a decimal.
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
    means : NeedleMeans
    indicated, reference, error : float
        Means, SI; the reference corrected by its certificate, the error the mean of both directions.
    budget : Budget
    coverage : Coverage
    verdict : Verdict
        Of the worse of rising and falling.
    age : Age or None
        Of the reference on the day; None where no reference could be used.
    remark : str
        Why there is none.
    beside : tuple of PointResult
        The same point in the same state by another standard, or on another day.
    """

    point: TestPoint
    phase: Phase
    readings: tuple[NeedleReading, ...]
    means: NeedleMeans
    indicated: float
    reference: float
    error: float
    budget: Budget
    coverage: Coverage
    verdict: Verdict
    age: Age | None
    remark: str = ""
    beside: tuple[PointResult, ...] = ()

    @cached_property
    def settlement(self) -> Settlement | None:
        """What would settle a "cannot tell"; reckoned when it is asked for."""
        if self.age is None or not self.point.limit.given:
            return None
        return settle(self.verdict.error, self.budget, self.verdict.limit, self.verdict.rule, self.point.unit)

    @property
    def friction_divisions(self) -> float | None:
        """Half the difference of falling and rising, in divisions; None from one side alone."""
        friction = self.means.friction
        return None if friction is None else friction / self.point.dial.division_at(self.means.indicated)

    @property
    def friction_words(self) -> str:
        """Say rising, falling and what the friction is against its own limit, or nothing."""
        friction = self.friction_divisions
        if friction is None or self.means.rising is None or self.means.falling is None:
            return ""
        places = decimals(self.coverage.expanded)
        rising, falling = (signed(error, places) for error in (self.means.rising, self.means.falling))
        side = "over" if friction > FRICTION_LIMIT else "within"
        words = f"Rising {rising}, falling {falling} {SYMBOLS.get(self.point.unit, self.point.unit)}: the worse is judged. "
        words += f"Friction {trimmed(friction, 2)} division, {side} ½ (common practice, no source)."
        if self.means.left_aside:
            words += f" {self.means.left_aside} without a direction left aside."
        return words

    @property
    def agreement_words(self) -> str:
        """Say how this result and those by another standard, or of another day, agree (E_n, ISO 13528, from memory)."""
        words = []
        for other in self.beside:
            number = normalised_difference(self, other)
            if number is None:
                continue
            verdict = "they agree" if abs(number) <= 1 else "they do not agree: find out which is off"
            words.append(
                f"Read {other.shown} before by another standard or on another day: E_n {number:.2f}, {verdict}."
            )
        return " ".join(words)

    @property
    def percent_of_full_scale(self) -> float:
        """The judged error in per cent of full scale."""
        return 100 * self.verdict.error / self.point.full_scale

    @property
    def share_of_limit(self) -> float:
        """The judged error as a share of its limit, signed; infinite where the limit is zero, 0 where none was given."""
        if not self.point.limit.given:
            return 0.0
        limit, error = self.verdict.limit, self.verdict.error
        return error / limit if limit > 0 else math.copysign(math.inf, error) if error else 0.0

    @property
    def shown(self) -> str:
        """The judged error and its expanded uncertainty, rounded: ``−1.2 ± 1.0 V``."""
        return pair(self.verdict.error, self.coverage.expanded, self.point.unit)

    @property
    def sentence(self) -> str:
        """The sum in one line, as the reasons panel puts it."""
        if not self.point.limit.given:
            return f"{self.shown}; {NO_LIMIT}. {self.remark}".strip()
        places = decimals(self.coverage.expanded)
        limit = f"±{trimmed(self.verdict.limit, 3)} {self.point.unit}"
        if self.age is None:
            return f"{self.shown} against {limit}, but U leaves the reference out. {self.remark}"
        ratio = self.verdict.test_uncertainty_ratio
        tur = f" TUR {ratio:.1f} (limit / U)." if math.isfinite(ratio) else ""
        chance = likely(self.verdict.probability_in_tolerance)
        places_words = {
            Outcome.PASS: f"{self.shown} is inside {limit}{self._guard}.",
            Outcome.FAIL: f"{self.shown} is outside {limit}{self._guard}.",
            Outcome.CANNOT_TELL: f"Read to ±{plain(self.coverage.expanded, places)} {self.point.unit}, "
            f"limit {limit}, error {self.shown.split(' ±')[0]} {self.point.unit}.",
        }
        return f"{places_words[self.verdict.outcome]}{tur} In tolerance: {chance}."

    @property
    def _guard(self) -> str:
        verdict = self.verdict
        banded = has_guard_band(verdict.rule, verdict.expanded, verdict.limit)
        return " with the guard band kept" if banded else ""

    @property
    def rule_words(self) -> str:
        """The decision rule with its source."""
        return RULE_WORDS[self.verdict.rule]


def likely(probability: float) -> str:
    """Say a probability without pretending to more digits than it has."""
    # A budget whose parts are judged to a few per cent says no more than three nines.
    if probability > 0.999:
        return "more than 99.9 % likely"
    if probability < 0.001:
        return "less than 0.1 % likely"
    return f"{100 * probability:.1f} % likely"


def normalised_difference(one: PointResult, other: PointResult) -> float | None:
    """Return E_n = d / √(U1² + U2²) of two results at one point, None where nothing but the needle is uncertain.

    ISO 13528:2022, 9.7 (from memory): both U at k = 2. What both share, the needle on its scale, is taken out first.
    """
    spread = math.hypot(*(_own_uncertainty(result.budget) for result in (one, other)))
    return (one.error - other.error) / (2 * spread) if spread > 0 else None


def _own_uncertainty(budget: Budget) -> float:
    kept = tuple(c for c in budget.contributions if c.kind not in ("needle", "friction"))
    return Budget(kept).combined


def assess_point(
    point: TestPoint,
    phase: Phase,
    readings: tuple[NeedleReading, ...],
    reference: Reference | None,
    on: dt.date,
    rule: Rule = Rule.GUARDED,
    celsius: float | None = None,
    remark: str = "No reference was chosen: choose one of the standards.",
    friction_divisions: float | None = None,
) -> PointResult:
    """Turn readings at one point into an error, its uncertainty and a verdict.

    The model is error = mean(indicated) - (mean(reference) + correction), every sensitivity 1 or -1
    (EA-4/02 M:2022, S9); the mean is that of the two direction means, and the worse of them is judged. A limit in per cent
    of reading is of what the instrument indicates.

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
    friction_divisions : float, optional
        The largest friction found on this movement in this state, for readings from one side alone.

    Raises
    ------
    RangeError
        Where there is no reading, the reference does not reach the value, or is of another quantity.
    """
    if not readings:
        raise RangeError(f"{point.name} has no reading; at least one is needed.", place=point.key)
    means = needle_means(readings)
    contributions = needle_contributions(point.dial, readings, friction_divisions)
    how_old = None
    if reference is not None:
        if reference.unit != point.unit:
            raise RangeError(
                f"{reference.name} is a standard for {QUANTITY_OF_UNIT[reference.unit][0]}; {point.name} needs one for "
                f"{QUANTITY_OF_UNIT[point.unit][0]}.",
                place=point.key,
                expected=point.unit,
            )
        correction, more = reference_contributions(reference, means.reference, on, celsius)
        means = needle_means(readings, correction)
        contributions += more
        how_old = age(reference, on)
    budget = Budget(tuple(contributions))
    coverage = cover(budget)
    limit = point.limit.at(means.indicated, point.full_scale)
    verdict = give_verdict(means.judged, coverage, limit, rule)
    if reference is None or not point.limit.given:
        verdict = replace(verdict, outcome=Outcome.CANNOT_TELL, test_uncertainty_ratio=math.nan)
    return PointResult(
        point=point,
        phase=phase,
        readings=readings,
        means=means,
        indicated=means.indicated,
        reference=means.reference,
        error=means.indicated - means.reference,
        budget=budget,
        coverage=coverage,
        verdict=verdict,
        age=how_old,
        remark="" if reference is not None else remark,
    )
