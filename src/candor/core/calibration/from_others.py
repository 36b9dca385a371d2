"""Points that are figured from others: a formula of what was read, its uncertainty with what the readings share."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

from candor.core.calibration.point import Phase, TestPoint
from candor.core.calibration.result import PointResult, concluded
from candor.core.errors import RangeError
from candor.core.quantities.formula import calculate, check_units, parse_formula
from candor.core.reading.judged import Judged
from candor.core.reading.kinds import kind_of
from candor.core.reading.means import Means
from candor.core.reading.reading import Reading
from candor.core.reference.chains import together
from candor.core.uncertainty.budget import Budget, Contribution
from candor.core.verdict.limits import Limit
from candor.core.verdict.rules import Rule
from candor.core.worded import worded


def figure_point(
    point: TestPoint, phase: Phase, results: Mapping[str, PointResult], rule: Rule
) -> PointResult | None:
    """Return what a point comes to that is figured from others, None while one of them is not read.

    First-order propagation, U_y² = sum of (df/dx_i u_i)²; what two readings share of one standard has r = 1, so it is added
    with its signs before it is squared (JCGM 100:2008, 5.1.2 and 5.2.2): in a reversed pair the reference's offset goes out.

    Parameters
    ----------
    point : TestPoint
        Its formula says of which points.
    phase : "as found" or "as left"
    results : mapping of point key to PointResult
    rule : Rule

    Raises
    ------
    RangeError
        Where the formula divides by zero with what was read.
    UnitError
        Where it mixes units.
    """
    formula = parse_formula(point.formula.text)
    of = {name: results[key] for name, key in point.formula.points if key in results}
    if len(of) < len(point.formula.points):
        return None
    shown = point.formula.takes == "shown"
    check_units(formula, {name: r.point.unit if shown else r.unit for name, r in of.items()}, point.unit)
    values = {name: r.indicated if shown else r.verdict.error for name, r in of.items()}
    unread = next((name for name, value in values.items() if math.isnan(value)), "")
    if unread:
        raise RangeError(
            worded("calibration.needs_a_number_for_and_that", text=point.formula.text, unread=unread), value=unread
        )
    found = calculate(formula, values)
    judged = Judged(point)
    slope = judged.slope(found.value)
    terms = [
        replace(c, name=_name(c, name), sensitivity=c.sensitivity * _slope(r, found.slopes[name], shown) * slope)
        for name, r in of.items()
        for c in r.budget.contributions
        # What the instrument showed by itself is no matter of the standard; where the standard made the value, it is.
        if not (shown and c.kind == "reference" and kind_of(r.point).compares == "reference")
    ]
    if found.spread:
        # Whatever the phase is, not at a phase drawn by chance: its rectangle reaches over the bound by what 95 % leave out.
        # How far the bound itself lies out is known no better than what was read: each may make it wider by its U.
        by = {n: r.coverage.expanded * abs(_slope(r, 1.0, shown)) for n, r in of.items()}
        wider = (calculate(formula, {**values, n: v + by[n]}).spread - found.spread for n, v in values.items())
        half = (found.spread + sum(max(more, 0.0) for more in wider)) * abs(slope) / 0.95
        terms.append(
            Contribution(
                worded("calibration.phase_that_nobody_knows"), half / math.sqrt(3), shape="rectangular",
                reason=worded("calibration.two_at_one_frequency_add_between"),
            )
        )  # fmt: skip
    error = judged.place(found.value) - judged.place(point.nominal)
    means = Means(
        indicated=found.value,
        reference=point.nominal,
        rising=None,
        falling=None,
        error=error,
        judged=error,
        judged_value=found.value,
        counted=1,
    )
    last = max((x for r in of.values() for x in r.readings), key=lambda reading: reading.entry)
    readings = (Reading(found.value, point.nominal, entry=last.entry, kind="figured", figures=tuple(values.items())),)
    ages = [r.age for r in of.values() if r.age is not None]
    remarks = [r.remark for r in of.values() if r.remark and not shown]
    words = ", ".join(f"{name} is {r.point.function}, {r.point.name}" for name, r in of.items())
    return concluded(
        point=point,
        phase=phase,
        readings=readings,
        means=means,
        budget=Budget(tuple(together(terms))),
        rule=rule,
        age_=ages[0] if ages else None,
        remark=remarks[0] if remarks else "",
        note=worded("calibration.figured_where", text=formula.text, words=words),
    )


def unfigured(
    point: TestPoint, phase: Phase, results: Mapping[str, PointResult], rule: Rule, why: str
) -> PointResult | None:
    """Return a point that cannot be figured from what was read, with the reason: it cannot be told. Raises as concluded."""
    of = [results[key] for _, key in point.formula.points if key in results]
    if not of:
        return None
    means = Means(
        indicated=math.nan,
        reference=point.nominal,
        rising=None,
        falling=None,
        error=0.0,
        judged=0.0,
        judged_value=math.nan,
        counted=1,
    )
    entry = max(reading.entry for r in of for reading in r.readings)
    readings = (Reading(math.nan, point.nominal, entry=entry, kind="figured"),)
    blank = replace(point, limit=Limit())
    return concluded(
        point=blank, phase=phase, readings=readings, means=means, budget=Budget(()), rule=rule, age_=None, remark=why
    )


def _name(contribution: Contribution, name: str) -> str:
    """A term of one reading's own carries the name it has in the formula; what a standard brings keeps its own."""
    return contribution.name if contribution.shared is not None else f"{name}: {contribution.name}"


def _slope(result: PointResult, slope: float, shown: bool) -> float:
    """Turn a slope by the value into one by what the point's error is judged in."""
    if not shown or result.point.limit.judged_in == "value":
        return slope
    of_error = Judged(result.point).slope(result.indicated)
    return slope / of_error if of_error else 0.0
