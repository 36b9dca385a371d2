"""Which standard on hand serves a point best, and whether that is enough."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Callable, Mapping
from functools import cache

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError, RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.formula import calculate, parse_formula
from candor.core.quantities.show import in_unit
from candor.core.reading.judged import Judged
from candor.core.reading.kinds import kind_of, reading_of
from candor.core.reading.reading import INDICATED
from candor.core.reference.chains import Chain, age_of, comes_to, serve
from candor.core.reference.reference import Reference
from candor.core.uncertainty.budget import Budget, Contribution
from candor.core.uncertainty.coverage import cover
from candor.core.worded import worded

ENOUGH = 4.0  # limit / U: the rule of 4:1


@dataclass(frozen=True)
class Candidate:
    """One standard or chain for one point.

    Attributes
    ----------
    key, name : str
    ratio : float
        TUR: half the limit interval / U, the instrument's own resolution counted in.
    span_ratio : float
        Half the limit interval / U of the process without the instrument's resolution: what many call TUR.
    words : str
        Both with their definitions and the age of the standard, or why it cannot serve.
    serves : bool
    """

    key: str
    name: str
    ratio: float
    span_ratio: float
    words: str
    serves: bool


def propose(
    point: TestPoint, known: Mapping[str, Reference | Chain], on: dt.date, celsius: float | None = None
) -> tuple[Candidate, ...]:
    """Return the standards on hand for a point, the best TUR first, those that cannot serve last with the reason.

    TUR = half the limit interval / U at 95.45 %, each with the k of its own budget.

    Parameters
    ----------
    point : TestPoint
    known : mapping of key to Reference or Chain
    on : date
    celsius : float, optional
        The room, °C.
    """
    own = cache(lambda: _own_part(point))  # the same beside every one of them; asked for only where one serves
    found = [_weigh(point, key, of, on, celsius, own) for key, of in known.items() if of.unit == point.asked_unit]
    return tuple(
        sorted(found, key=lambda c: (not c.serves, -(c.ratio if math.isfinite(c.ratio) else 0.0), -c.span_ratio))
    )


def _weigh(
    point: TestPoint,
    key: str,
    of: Reference | Chain,
    on: dt.date,
    celsius: float | None,
    own: Callable[[], list[Contribution]],
) -> Candidate:
    try:
        reference = reference_part(point, of, on, celsius)
        instrument = own()
    except CandorError as error:
        return Candidate(key=key, name=of.name, ratio=math.nan, span_ratio=0.0, words=str(error), serves=False)
    with_needle = cover(Budget((*instrument, *reference))).expanded
    alone = cover(Budget(tuple(reference))).expanded
    half = point.nominal_bounds.half if point.limit.given else math.nan
    ratio, span = (half / u if u > 0 and math.isfinite(half) else math.inf for u in (with_needle, alone))
    if not math.isfinite(half):
        words = worded("reference.one_sided_or_no_limit_no")
        ratio = span = math.nan
    else:
        enough = "enough for 4:1" if ratio >= ENOUGH else "not 4:1: a guard band is kept"
        words = worded("reference.tur_limit_u_the_reading_of", ratio=ratio, enough=enough, span=span)
    how_old = age_of(of, on)
    words += "" if how_old.state == "in date" else f" {how_old.sentence}"
    return Candidate(
        key=key, name=of.name, ratio=ratio, span_ratio=0.0 if math.isnan(span) else span, words=words, serves=True
    )


def reference_part(
    point: TestPoint, of: Reference | Chain, on: dt.date, celsius: float | None = None
) -> list[Contribution]:
    """Return what a standard brings at the nominal value of a point, in the unit its error is judged in (JCGM 100, 5.1.3).

    Raises
    ------
    RangeError
        Where it cannot serve there: its range, its frequency, its waveform, its current.
    """
    wrong_current(point, of)
    at = point.nominal if math.isfinite(point.nominal) else point.full_scale
    shown = shown_for(of, point.reference_for(at))
    bears(of, shown)
    stimulus = point.stimulus
    _, found = serve(of, shown, on, celsius=celsius, hertz=stimulus.hertz, waveform=stimulus.waveform)
    slope = Judged(point).slope(at) / point.worth
    return [
        Contribution(c.name, c.size * slope, dof=c.dof, shape=c.shape, reason=c.reason, kind=c.kind) for c in found
    ]


def _own_part(point: TestPoint) -> list[Contribution]:
    kind = kind_of(point)
    at = point.nominal if math.isfinite(point.nominal) else point.full_scale
    reading = reading_of(point, {INDICATED: at}, point.reference_for(at))
    return (
        kind.contributions(point, (reading, reading)[:1], Judged(point), 0.0)
        if not (kind.named or kind.figured)
        else []
    )


def bears(of: Reference | Chain, shown: float) -> None:
    """See that no standard gets more volts than it bears when `shown` is read or set; of a chain every link.

    A link that is not read has across it what is read in volts, or what comes out in volts, the greater.

    Raises
    ------
    RangeError
        Naming the standard: the lead is not moved there.
    """
    if isinstance(of, Reference):
        volts = abs(shown) if of.unit == "V" else 0.0
        _bears(of, volts)
        return
    volts = abs(shown) if of.read_unit == "V" else 0.0
    volts = max(volts, abs(comes_to(of, shown)) if of.unit == "V" else 0.0)
    for link in of.links:
        if link.own is None:
            bears(link.of, shown)
        elif isinstance(link.of, Reference):
            _bears(link.of, volts)


def _bears(of: Reference, volts: float) -> None:
    if of.most_volts and volts > of.most_volts * (1 + 1e-9):
        raise RangeError(
            worded(
                "reference.bears_at_most_and_would_stand",
                name=of.name,
                most_volts=engineering(of.most_volts, "V"),
                volts=engineering(volts, "V"),
            ),
            value=in_unit(volts, "V", 6),
            place=of.name,
            expected=worded("reference.at_most_v", most_volts=of.most_volts),
        )


def wrong_current(point: TestPoint, of: Reference | Chain) -> None:
    """See that a standard is of the current that is measured.

    Raises
    ------
    RangeError
        Where a d.c. standard is asked for a.c., or the other way round.
    """
    asked = point.current
    if of.current and asked and of.current != asked:
        raise RangeError(
            worded(
                "reference.is_a_standard_for_is", name=of.name, current=of.current, point_name=point.name, asked=asked
            ),
            value=of.current,
            place=point.key,
            expected=asked,
        )


def shown_for(of: Reference | Chain, value: float) -> float:
    """Return what a reference shows when its true value is `value`, SI.

    Of a chain by Newton's steps through its formula: by definition its inverse.

    Raises
    ------
    RangeError
        Where no reading of the chain comes to it.
    """
    if isinstance(of, Reference):
        return value
    formula = parse_formula(of.formula)
    fixed = {link.name: link.own for link in of.links if link.own is not None}

    guess = 1.0
    for _ in range(60):
        here = calculate(formula, {**fixed, of.read.name: guess})
        got = here.value
        if got and abs(got - value) <= 1e-12 * abs(value):
            break
        slope = here.slopes.get(of.read.name, 0.0)
        if not slope:
            raise RangeError(
                worded("reference.does_not_come_to_by_its", name=of.name, value=value, unit=of.unit),
                value=str(value),
                place=of.name,
            )
        guess -= (got - value) / slope
    return shown_for(of.read.of, guess)


def kept_reading(of: Reference | Chain | None, point: TestPoint, value: float) -> float:
    """Return what a reference was read to show, SI, as it is kept: a magnitude where the point has a polarity.

    Raises
    ------
    RangeError
        Where what it comes to contradicts the function, or is nowhere near the range.
    """
    if not isinstance(of, Chain):
        return point.reference_magnitude(value)
    point.reference_magnitude(comes_to(of, value))
    return abs(value) if point.polarity else value


def set_value(of: Reference | Chain, point: TestPoint) -> float:
    """Return what a source is set to for a point, SI; of a fixed part what it is marked.

    Raises
    ------
    RangeError
        Where no setting of a chain comes to it.
    """
    own = of.own_value if isinstance(of, Reference) else None
    if own is not None:
        return own
    at = point.nominal if math.isfinite(point.nominal) else point.full_scale
    return shown_for(of, point.reference_for(at))
