"""The reasons of a point in words: where its factor comes from, what would change its verdict, its risk over a shop."""

from __future__ import annotations

import math

from candor.core.calibration.point import TestPoint
from candor.core.calibration.result import PointResult
from candor.core.quantities import engineering
from candor.core.quantities.show import plain
from candor.core.reading.kinds import kind_named
from candor.core.reading.reading import Reading
from candor.core.uncertainty.simulate import Simulation
from candor.core.verdict.risk import shop_risk
from candor.core.verdict.rules import Outcome


def say_coverage(result: PointResult) -> str:
    """Say where U comes from beside its bars: the largest term, k, friction, agreement, the age of the reference."""
    if result.seen:
        return ""
    coverage = result.coverage
    largest = result.budget.largest_first()[0].reason if result.budget.contributions else ""
    words = (
        largest,
        f"k = {coverage.factor:.2f} {coverage.reason}.",
        result.friction_words,
        result.note,
        result.agreement_words,
        result.age.sentence if result.age else "",
    )
    return " ".join(filter(None, words))


def reading_words(point: TestPoint, reading: Reading) -> str:
    """Return one reading as it was read: of a single figure its value, else all its figures in words. Raises as kind_named."""
    if len(reading.figures) <= 1:
        return engineering(reading.indicated, point.unit, 5)
    return kind_named(reading.kind).say(point, dict(reading.figures))


def what_would_change(result: PointResult) -> str:
    """Say what would change a verdict: what would settle it, how much error it has room for, or how much is to be won.

    A pass changes once the error has grown by its room to the limit less the guard band; a fail once it has shrunk to within
    the limit less the band (JCGM 106:2012, 8.3).
    """
    if result.seen:
        return "Another look, where this one may be wrong."
    if result.verdict.outcome is Outcome.NOTED:
        return "Nothing: no verdict depends on it. Values calculated from it change with it."
    if result.settlement is not None:
        return result.settlement.sentence
    verdict, unit = result.verdict, result.unit
    if not result.point.limit.given:
        return "A limit: the maker's, the owner's, or one of your own. Jot the range again with it."
    if verdict.outcome is Outcome.CANNOT_TELL:
        return result.remark or "A reference that is chosen."
    room = abs(verdict.bounds.room(verdict.error))
    band = verdict.expanded if verdict.is_guarded else 0.0
    if verdict.outcome is Outcome.PASS:
        what = "change of the value" if result.point.limit.on_value else "more error"
        return f"{engineering(max(room - band, 0.0), unit, 2)} {what} would fail it."
    return f"A trim or a part that brings it back by at least {engineering(room + band, unit, 2)}."


def say_simulation(answer: Simulation, result: PointResult) -> str:
    """Say what a simulation of the budget gave, against U."""
    unit, expanded = result.unit, result.coverage.expanded
    apart = 100 * (answer.half_width / expanded - 1) if expanded > 0 else math.nan
    draws = f"{answer.draws:,}".replace(",", " ")
    return (
        f"{draws} draws (JCGM 101): half-width {engineering(answer.half_width, unit, 3)} against "
        f"U = {engineering(expanded, unit, 3)}, {plain(apart, 1)} % apart."
    )


def say_risk(result: PointResult) -> str:
    """Say the risk over all such instruments, 95 % of which come in tolerance (JCGM 106:2012, 9.5).

    Raises
    ------
    RangeError
        As `shop_risk`, for a ratio that cannot be.
    """
    ratio, rule = result.verdict.test_uncertainty_ratio, result.verdict.rule
    if not (math.isfinite(ratio) and ratio > 0):
        return "No ratio can be calculated."
    risk = shop_risk(ratio, rule=rule, factor=result.coverage.factor)
    return (
        f"If 95 % of such instruments come in tolerance: {100 * risk.false_accept:.2f} % of all would pass and be "
        f"out, {100 * risk.false_reject:.1f} % would be in and not pass (JCGM 106, 9.5)."
    )
