"""Results of a point in words: the verdict with its numbers, where U comes from, what would change it, its risk over a shop."""

from __future__ import annotations

import math
from typing import Any

from candor.core.calibration.point import NO_LIMIT, TestPoint
from candor.core.calibration.result import Agreement, PointResult
from candor.core.quantities import engineering, pair
from candor.core.quantities.show import decimals, plain, scaled, signed, trimmed
from candor.core.reading.kinds import kind_named, kind_of
from candor.core.reading.reading import FRICTION_LIMIT, Reading
from candor.core.uncertainty.simulate import Simulation
from candor.core.verdict.risk import shop_risk
from candor.core.verdict.rules import Outcome, Rule
from candor.words.settling_words import say_settlement, settlement_json

RULES = {
    Rule.GUARDED: "Guard band of U: passes when |error| + U ≤ limit, fails when |error| − U > limit, "
    "in between it is undecided (JCGM 106, 8.3; ILAC-G8, 4.2).",
    Rule.PLAIN: "Simple acceptance: passes when |error| ≤ limit; U is not taken into account (JCGM 106, 8.2; ILAC-G8, 4.2).",
    Rule.FOUR_TO_ONE: "4:1: simple acceptance where limit / U is at least 4, below that a guard band of U "
    "(JCGM 106, 8.2 and 8.3; ILAC-G8, 4.2).",
}
OUTCOMES = {Outcome.PASS: "Passes", Outcome.FAIL: "Fails", Outcome.CANNOT_TELL: "Cannot tell"}
# By simulation: of budgets with fewer than three effective degrees of freedom U holds the truth about 92 times in 100.
FEW_REPEATS = "U rests on the scatter of few readings (under 3 effective degrees of freedom): it covers about 92 in 100, not 95."


def say_result(result: PointResult) -> str:
    """Say the verdict, its numbers, the limit and what is left of doubt, in one line."""
    if result.seen:
        return f"{result.note or result.seen} {result.remark}".strip()
    if result.point.noted:
        value = pair(result.indicated, result.coverage.expanded, result.unit).removeprefix("+")
        return f"{value}, recorded, no limit applies."
    if not result.point.limit.given:
        return f"{result.shown}; {NO_LIMIT}. {result.remark}".strip()
    if result.remark:
        left_out = result.age is None and result.point.needs_reference
        but = ", but U leaves the reference out" if left_out else ""
        return f"{result.shown} against {result.limit_shown}{but}. {result.remark}"
    verdict, unit, expanded = result.verdict, result.unit, result.coverage.expanded
    tur = verdict.test_uncertainty_ratio
    ratio = f" TUR {tur:.1f} (limit / U)." if math.isfinite(tur) else ""
    chance = likely(verdict.probability_in_tolerance)
    what = "value" if result.point.limit.on_value else "error"
    factor, symbol = scaled(unit, verdict.error, expanded)
    found = f"{what} {result.shown.split(' ±')[0]} {symbol}".rstrip()
    u = f"U {plain(expanded / factor, decimals(expanded / factor))} {symbol}".rstrip()
    guard = ", with a guard band of U" if verdict.is_guarded else ""
    said = f"{OUTCOMES[verdict.outcome]}: {found}, {u}, limit {result.limit_shown}{guard}."
    return f"{said}{ratio} {chance[0].upper()}{chance[1:]} to be in tolerance."


def likely(probability: float) -> str:
    """Say a probability without pretending to more digits than it has."""
    # A budget whose parts are judged to a few per cent says no more than three nines.
    if probability > 0.999:
        return "more than 99.9 % likely"
    if probability < 0.001:
        return "less than 0.1 % likely"
    return f"{100 * probability:.1f} % likely"


def short_error(result: PointResult) -> str:
    """Say the judged error in a few words: in per cent of full scale, else of its limit; nothing of a look or what is noted."""
    limit = result.point.limit
    if result.seen or result.point.noted:
        return ""
    is_figured = kind_of(result.point).figured  # of what is calculated there is no full scale
    if is_figured or limit.on_value or limit.judged_in != "value" or limit.percent_of_reading:
        return f"{plain(100 * result.share_of_limit, 0)} % of limit" if limit.given else ""
    return f"{plain(result.percent_of_full_scale, 1)} % of f.s."


def say_rule(result: PointResult) -> str:
    """Say the decision rule with its source."""
    return (
        "A look is judged by its outcomes: no error, no uncertainty." if result.seen else RULES[result.verdict.rule]
    )


def say_friction(result: PointResult) -> str:
    """Say rising, falling and what the friction is against its own limit, or nothing."""
    friction, means = result.friction_divisions, result.means
    if friction is None or means.rising is None or means.falling is None:
        return ""
    factor, symbol = scaled(result.unit, means.rising, means.falling, result.coverage.expanded)
    places = decimals(result.coverage.expanded / factor)
    rising, falling = (signed(error / factor, places) for error in (means.rising, means.falling))
    side = "over" if friction > FRICTION_LIMIT else "within"
    words = f"Rising {rising}, falling {falling} {symbol}: the worse is judged. "
    words += f"Friction {trimmed(friction, 2)} division, {side} ½ (common practice, no source)."
    if means.left_aside:
        words += f" {means.left_aside} without a direction left aside."
    return words


def say_agreements(result: PointResult) -> str:
    """Say how a result agrees with those beside it; nothing where there is none."""
    return " ".join(map(say_agreement, result.agreements))


def say_agreement(found: Agreement) -> str:
    """Say how a result agrees with one by another standard, or of another day."""
    verdict = "They agree." if found.agree else "They disagree: find out which one is wrong."
    before = f"By another standard, or on another day, it was {found.other.shown}"
    return f"{before}: E_n {plain(found.number, 2 if abs(found.number) < 10 else 0)}. {verdict}"


def say_coverage(result: PointResult) -> str:
    """Say where U comes from beside its bars: the largest term, k, friction, agreement, the age of the reference."""
    if result.seen:
        return ""
    coverage = result.coverage
    largest = result.budget.largest_first()[0].reason if result.budget.contributions else ""
    words = (
        largest,
        f"k = {coverage.factor:.2f} {coverage.reason}.",
        say_friction(result),
        result.note,
        say_agreements(result),
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
        return say_settlement(result.settlement, result.unit)
    verdict, unit = result.verdict, result.unit
    if not result.point.limit.given:
        return "A limit: the maker's, the owner's, or one of your own. Type the range again with it."
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


def results_json(results: list[PointResult]) -> list[dict[str, Any]]:
    """Return results as JSON lists them: SI; error, U and limit in `unit`, which is the point's or what it is judged in."""
    return [_json(result) for result in results]


def _json(result: PointResult) -> dict[str, Any]:
    verdict, coverage, point = result.verdict, result.coverage, result.point
    bounds = verdict.bounds
    return {
        "point": point.key,
        "phase": result.phase,
        "kind": result.readings[0].kind,
        "indicated": result.seen or _number(result.indicated),
        "reference": None if result.seen else _number(result.reference),
        "error": None if result.seen else _number(verdict.error),
        "U": None if result.seen else coverage.expanded,
        "k": None if result.seen else coverage.factor,
        "dof": _number(coverage.dof),
        "unit": result.unit,
        "limit": _limit(bounds.low, bounds.high) if point.limit.given and not result.seen else None,
        "tur": _number(verdict.test_uncertainty_ratio),
        "verdict": str(verdict.outcome),
        "probability": verdict.probability_in_tolerance if point.limit.given and not result.seen else None,
        "budget": [
            {"name": c.name, "u": c.size, "dof": _number(c.dof), "shape": c.shape, "reason": c.reason}
            for c in result.budget.largest_first()
        ],
        "agreements": [{"with": o.other.shown, "E_n": o.number, "agree": o.agree} for o in result.agreements],
        "settlement": settlement_json(result.settlement, result.unit) if result.settlement else None,
        "sentence": say_result(result),
    }


def _limit(low: float, high: float) -> float | dict[str, float | None]:
    """±L as a number; else from where to where."""
    return high if low == -high else {"low": _number(low), "high": _number(high)}


def _number(value: float) -> float | None:
    return value if math.isfinite(value) else None


def say_results(results: list[PointResult]) -> list[str]:
    """Return a line for every point."""
    return [f"{r.point.key}, {r.phase}: {_with_outcome(r)}" for r in results]


def _with_outcome(result: PointResult) -> str:
    said, outcome = say_result(result), str(result.verdict.outcome)
    return said if said.casefold().startswith(outcome) else f"{outcome}. {said}"
