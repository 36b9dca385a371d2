"""What the readings at one test point say: error, uncertainty, verdict."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import replace
from functools import cached_property

from candor.core.calibration.against import against
from candor.core.calibration.point import NO_LIMIT, Phase, TestPoint
from candor.core.calibration.setup import SetUpTerm
from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import pair
from candor.core.reading.judged import Judged
from candor.core.reading.kind import ReadingKind
from candor.core.reading.kinds import kind_of
from candor.core.reading.look import judge_looks
from candor.core.reading.means import Means
from candor.core.reading.reading import Reading
from candor.core.reference.chains import Chain, age_of, is_typical
from candor.core.reference.reference import Age, Reference
from candor.core.uncertainty.budget import Budget, Contribution
from candor.core.uncertainty.coverage import Coverage, cover
from candor.core.verdict.limits import Bounds, Limit, say_bounds
from candor.core.verdict.rules import Outcome, Rule, Verdict, give_verdict
from candor.core.verdict.would_settle import Settlement, settle
from candor.core.worded import worded

OPEN = Bounds(-math.inf, math.inf)


@dataclass(frozen=True)
class PointResult:
    """What the readings at one point say.

    Attributes
    ----------
    point : TestPoint
    phase : "as found" or "as left"
    readings : tuple of Reading
    means : Means
    indicated, reference : float
        Means, SI; the reference corrected by its certificate.
    error : float
        The mean of both directions, in what it is judged in; of a limit on the value the value itself.
    budget : Budget
    coverage : Coverage
        In what the error is judged in.
    verdict : Verdict
        Of the worse of rising and falling.
    age : Age or None
        Of the reference on the day; None where no reference could be used.
    remark : str
        Why nothing is decided, or which reference is missing.
    note : str
        What else the readings say.
    seen : str
        What was seen, where it was a look.
    beside : tuple of PointResult
        The same point in the same state by another standard, or on another day.
    """

    point: TestPoint
    phase: Phase
    readings: tuple[Reading, ...]
    means: Means
    indicated: float
    reference: float
    error: float
    budget: Budget
    coverage: Coverage
    verdict: Verdict
    age: Age | None
    remark: str = ""
    note: str = ""
    seen: str = ""
    beside: tuple[PointResult, ...] = ()

    @property
    def is_simulated(self) -> bool:
        """Whether any of its readings stands on a simulated meter or source: then it is practice, no evidence."""
        return any(r.simulated for r in self.readings)

    @property
    def word(self) -> str:
        """The verdict in a word or two, and that it is simulated where it is."""
        return (
            worded("calibration.simulated_no_evidence", outcome=self.verdict.outcome)
            if self.is_simulated
            else str(self.verdict.outcome)
        )

    @property
    def unit(self) -> str:
        """The unit the error is judged in."""
        return self.point.judged_unit

    @cached_property
    def settlement(self) -> Settlement | None:
        """What would settle a "cannot tell"; calculated when it is asked for."""
        if self.seen or self.remark or not self.point.limit.given:
            return None
        return settle(self.verdict.error, self.budget, self.verdict.bounds, self.verdict.rule)

    @property
    def friction_divisions(self) -> float | None:
        """Half the difference of falling and rising, in divisions; None from one side alone."""
        friction = self.means.friction
        if friction is None:
            return None
        division = Judged(self.point).divisions(self.means.indicated, 1.0)
        return friction / division if division > 0 else None

    @property
    def agreements(self) -> tuple[Agreement, ...]:
        """How it agrees with the results beside it, as far as a number can be told."""
        numbers = ((other, normalised_difference(self, other)) for other in self.beside)
        return tuple(Agreement(other=other, number=number) for other, number in numbers if number is not None)

    @property
    def percent_of_full_scale(self) -> float:
        """The judged error in per cent of full scale."""
        return 100 * self.verdict.error / self.point.full_scale

    @property
    def share_of_limit(self) -> float:
        """Where the judged error stands in its limit, signed, 1 being the limit; 0 where none was given."""
        return self.verdict.bounds.share(self.verdict.error) if self.point.limit.given and not self.seen else 0.0

    @property
    def shown(self) -> str:
        """The judged error and its expanded uncertainty, rounded: ``−1.2 ± 1.0 V``; what was seen, where it was a look."""
        if self.seen:
            return self.seen
        if self.point.limit.on_value or self.point.noted:  # a value, not an error: it carries no plus
            shown = self.indicated if self.point.noted else self.verdict.error
            return pair(shown, self.coverage.expanded, self.unit).removeprefix("+")
        return pair(self.verdict.error, self.coverage.expanded, self.unit)

    @property
    def limit_shown(self) -> str:
        """The limit at what was indicated: ``±4.5 V``, ``at least 60 V``."""
        return say_bounds(self.verdict.bounds, self.unit) if self.point.limit.given else NO_LIMIT


@dataclass(frozen=True)
class Agreement:
    """A result with one beside it, by another standard or of another day: E_n (ISO 13528:2022, 9.7, from memory)."""

    other: PointResult
    number: float

    @property
    def agree(self) -> bool:
        """Whether the two agree: |E_n| is 1 at most."""
        return abs(self.number) <= 1


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
    readings: tuple[Reading, ...],
    reference: Reference | Chain | None,
    on: dt.date,
    rule: Rule = Rule.GUARDED,
    celsius: float | None = None,
    remark: str = worded("calibration.no_reference_was_chosen_choose_one"),
    friction_divisions: float | None = None,
    setup: tuple[SetUpTerm, ...] = (),
) -> PointResult:
    """Turn readings at one point into an error, its uncertainty and a verdict, whatever the kind of reading.

    The model is error = place(indicated) - place(reference + correction), place being the value itself, its place along the
    arc, or its logarithm (EA-4/02 M:2022, S9 for the first); the mean is that of the two direction means, and the worse of
    them is judged. A limit in per cent of reading is of what the instrument indicates or is set to.

    Parameters
    ----------
    point : TestPoint
    phase : "as found" or "as left"
    readings : tuple of Reading
        At least one.
    reference : Reference, Chain or None
        Without one nothing is decided where the point needs one: the outcome is "cannot tell".
    on : date
        The day of the readings, for the age and drift of the reference.
    rule : Rule
        4:1 becomes the guard band where the reference's specification is only typical.
    celsius : float, optional
        Room temperature.
    remark : str
        Why `reference` is None, where it is.
    friction_divisions : float, optional
        The largest friction found on this movement in this state, for readings from one side alone.
    setup : tuple of SetUpTerm
        Leads, thermal e.m.f. and the like between the reference and the instrument.

    Raises
    ------
    RangeError
        Where there is no reading, the reference does not reach the value, or is of another quantity.
    """
    if not readings:
        raise RangeError(worded("calibration.has_no_reading_at_least_one", name=point.name), place=point.key)
    kind = kind_of(point)
    if kind.named:
        return _seen(point, phase, readings, rule)
    counted = kind.judged(point, readings)
    nowhere = Judged(point).unplaced(counted)
    if nowhere:  # its error is known, and cannot be judged by a limit of that kind
        point, remark = replace(point, limit=Limit()), nowhere
    judged = Judged(point)
    found: list[Contribution] = []
    how_old = None
    if reference is not None and point.needs_reference:
        counted, found = against(reference, point, counted, on, celsius, setup)
        how_old = age_of(reference, on)
        if rule is Rule.FOUR_TO_ONE and is_typical(reference):
            rule = Rule.GUARDED  # what is only usual for its class is no ratio
    elif point.worth != 1:
        counted = tuple(replace(r, reference=r.reference / point.worth) for r in counted)
    why = kind.remark(point, readings) or (
        "" if not nowhere and (how_old is not None or not point.needs_reference) else remark
    )
    means = judged.means(counted)
    instrument = _brought_by(kind, point, counted, judged, friction_divisions)
    return concluded(
        point=point, phase=phase, readings=readings, means=means, budget=Budget((*instrument, *found)), rule=rule, age_=how_old,
        remark=why, note=kind.note(point, readings),
    )  # fmt: skip


def _brought_by(
    kind: ReadingKind, point: TestPoint, readings: tuple[Reading, ...], judged: Judged, friction: float | None
) -> list[Contribution]:
    """A needle point whose every look was set on a mark is as good as that; else as the point's own kind is."""
    kinds = {r.kind for r in readings}
    read = kind_of(replace(point, kind=kinds.pop())) if len(kinds) == 1 else kind
    return read.contributions(point, readings, judged, friction)


def concluded(
    *,
    point: TestPoint,
    phase: Phase,
    readings: tuple[Reading, ...],
    means: Means,
    budget: Budget,
    rule: Rule,
    age_: Age | None,
    remark: str = "",
    note: str = "",
) -> PointResult:
    """Judge means and a budget, both in what the error is judged in, by the limit of a point. Raises as give_verdict."""
    coverage = cover(budget)
    on_value = point.limit.on_value
    bounds = point.bounds_at(means.indicated) if point.limit.given else Bounds(0.0, 0.0)
    verdict = give_verdict(means.judged_value if on_value else means.judged, coverage, bounds, rule)
    if point.noted and not remark:
        verdict = replace(verdict, outcome=Outcome.NOTED, test_uncertainty_ratio=math.nan)
    elif remark or not point.limit.given:
        verdict = replace(verdict, outcome=Outcome.CANNOT_TELL, test_uncertainty_ratio=math.nan)
    return PointResult(
        point=point,
        phase=phase,
        readings=readings,
        means=means,
        indicated=means.indicated,
        reference=means.reference,
        error=means.indicated if on_value else means.error,
        budget=budget,
        coverage=coverage,
        verdict=verdict,
        age=age_,
        remark=remark,
        note=note,
    )


def _seen(point: TestPoint, phase: Phase, readings: tuple[Reading, ...], rule: Rule) -> PointResult:
    """A look has outcomes instead of an error: what it says is decided by the words."""
    outcome, words = judge_looks(point, readings)
    coverage = cover(Budget(()))
    verdict = replace(give_verdict(0.0, coverage, OPEN, rule), outcome=outcome, test_uncertainty_ratio=math.nan)
    nothing = Means(
        indicated=math.nan,
        reference=math.nan,
        rising=None,
        falling=None,
        error=0.0,
        judged=0.0,
        judged_value=math.nan,
        counted=len(readings),
    )
    seen = ", ".join(dict.fromkeys(r.word for r in readings))
    return PointResult(
        point=point, phase=phase, readings=readings, means=nothing, indicated=math.nan, reference=math.nan, error=0.0,
        budget=Budget(()), coverage=coverage, verdict=verdict, age=None, note=words, seen=seen,
    )  # fmt: skip
