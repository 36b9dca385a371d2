"""What a reference is good for: by its specification or its certificate, and how old that is."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import replace
from typing import Literal

import numpy as np

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import in_unit
from candor.core.reference.detector import Detector
from candor.core.uncertainty.budget import Contribution, Shared, rectangular
from candor.core.worded import worded

DAYS_PER_YEAR = 365.25
WRITTEN = 0.25  # of a fixed part's value: farther off another part was meant
SAME_FREQUENCY = 0.05  # of it: a certificate at 1 kHz says nothing of 60 Hz
Current = Literal["", "d.c.", "a.c."]
# Two equal readings of one meter never differ by exactly nothing: a tenth of its per cent of reading (common practice, no source).
LINEARITY = 0.1
Role = Literal["meter", "source", "fixed part", "box"]


@dataclass(frozen=True)
class SpecificationRange:
    """One line of a maker's specification: +-(a % of reading + b % of range + counts x resolution).

    Attributes
    ----------
    upper : float
        The range's full value, SI; the line holds for magnitudes up to it.
    percent_of_reading, percent_of_range : float
    counts, resolution : float
        Last-digit counts, and what one count is worth, SI.
    low_hertz, high_hertz : float
        The band it holds in, Hz; both 0 where it is of d.c., or says nothing of frequency.
    """

    upper: float
    percent_of_reading: float
    percent_of_range: float = 0.0
    counts: float = 0.0
    resolution: float = 0.0
    low_hertz: float = 0.0
    high_hertz: float = 0.0

    def holds_at(self, hertz: float) -> bool:
        """Whether it holds at a frequency, Hz, 0 for d.c."""
        if not self.high_hertz:
            return True
        return self.low_hertz * (1 - 1e-9) <= hertz <= self.high_hertz * (1 + 1e-9)

    def half_width(self, value: float) -> float:
        """Return the specified half-width at `value`, SI."""
        return (
            abs(value) * self.percent_of_reading / 100
            + self.upper * self.percent_of_range / 100
            + self.counts * self.resolution
        )


@dataclass(frozen=True)
class CertifiedPoint:
    """One line of a calibration certificate: at `value` (and `hertz`), add `correction`, known to +-`expanded` with k."""

    value: float
    correction: float
    expanded: float
    factor: float = 2.0
    hertz: float = 0.0


@dataclass(frozen=True)
class Reference:
    """A reference standard.

    Attributes
    ----------
    name : str
    unit : str
    ranges : tuple of SpecificationRange
        Its specification, by rising `upper`; empty where it is used by its certificate.
    points : tuple of CertifiedPoint
        Its certificate, by rising `value`; empty where it is used by its specification.
    drift_percent_per_year : float
        What is allowed for change since the certificate, per cent of the value and year.
    calibrated_on : date or None
        None where it was never checked.
    valid_days : int
        For how long since then the specification or certificate is held to be good.
    low_celsius, high_celsius : float
        Room temperatures for which it holds.
    percent_per_kelvin : float
        What is allowed outside them, per cent of the value and kelvin.
    current : "", "d.c." or "a.c."
        Of which it is; empty where it serves both, or it has no meaning.
    role : "meter", "source", "fixed part" or "box"
        Whether its value is read, set, its own, or one of its steps.
    detector : Detector or None
        What an a.c. meter responds to and is marked in; None where nobody said.
    input_ohms, input_farads : float
        With what it loads; 0 where it does not.
    step : float
        Of a source or box that is stepped, SI.
    most_volts, most_to_earth : float
        Its maximum input, and to earth, V; 0 where nobody said.
    is_typical : bool
        Its specification is what is usual for its class, not its own: nothing it decides counts as 4:1.
    """

    name: str
    unit: str
    ranges: tuple[SpecificationRange, ...] = ()
    points: tuple[CertifiedPoint, ...] = ()
    drift_percent_per_year: float = 0.0
    calibrated_on: dt.date | None = None
    valid_days: int = 365
    low_celsius: float = 18.0
    high_celsius: float = 28.0
    percent_per_kelvin: float = 0.0
    current: Current = ""
    role: Role = "meter"
    detector: Detector | None = None
    input_ohms: float = 0.0
    input_farads: float = 0.0
    step: float = 0.0
    most_volts: float = 0.0
    most_to_earth: float = 0.0
    is_typical: bool = False

    @property
    def is_read(self) -> bool:
        """Whether its value is read off it; else it stands as set, or is its own."""
        return self.role == "meter"

    @property
    def own_value(self) -> float | None:
        """What a fixed part is marked, SI, before its certificate corrects it; None where no certificate says it."""
        if self.role != "fixed part":
            return None
        return self.points[0].value if len(self.points) == 1 else None


@dataclass(frozen=True)
class Age:
    """How old the last check of a reference is, as a state and as a sentence."""

    state: Literal["in date", "expired", "never checked"]
    sentence: str


def age(reference: Reference, on: dt.date) -> Age:
    """Say whether a reference was in date on a day.  An expired one may be used, and is said."""
    if reference.calibrated_on is None:
        return Age("never checked", worded("reference.was_never_checked_against_a_standard", name=reference.name))
    days = (on - reference.calibrated_on).days
    when = reference.calibrated_on.isoformat()
    due = reference.calibrated_on + dt.timedelta(days=reference.valid_days)
    if days > reference.valid_days:
        return Age(
            "expired",
            worded(
                "reference.was_last_checked_on_and_was",
                name=reference.name,
                when=when,
                due=due.isoformat(),
                days=days - reference.valid_days,
            ),
        )
    return Age("in date", worded("reference.was_checked_on_due", name=reference.name, when=when, due=due.isoformat()))


def reference_contributions(
    reference: Reference, value: float, on: dt.date, celsius: float | None = None, hertz: float = 0.0
) -> tuple[float, list[Contribution]]:
    """Return the correction to add to the reference's reading and what it brings to the budget, SI.

    Parameters
    ----------
    reference : Reference
    value : float
        What it showed; its magnitude is used.
    on : date
        The day of the reading.
    celsius : float, optional
        The room; where it is not known the specified span is assumed.
    hertz : float
        The frequency, Hz; 0 for d.c.

    Returns
    -------
    correction : float
        For the magnitude of `value`.
    contributions : list of Contribution
        A specification is rectangular (JCGM 100:2008, 4.3.7); a certificate normal with U/k (4.3.3),
        plus a rectangular drift.

    Raises
    ------
    RangeError
        Where no line of the specification reaches `value` at this frequency, or the certificate does not span them.
    """
    magnitude = abs(value)
    if reference.points:
        correction, found = _by_certificate(reference, magnitude, on, hertz)
    else:
        correction, found = 0.0, [_by_specification(reference, magnitude, hertz)]
    excess = _degrees_outside(reference, celsius)
    if excess > 0 and reference.percent_per_kelvin > 0:
        width = magnitude * reference.percent_per_kelvin / 100 * excess
        words = worded(
            "reference.k_outside_to_c",
            excess=excess,
            low_celsius=reference.low_celsius,
            high_celsius=reference.high_celsius,
        )
        found.append(_wholly_common(rectangular(f"{reference.name}, temperature", width, words, "reference")))
    return correction, [_turned(c, value) for c in found]


def _linearity(reference: Reference) -> float:
    """Return the share of what is common that one reading has of its own where nothing else is said of it: none of a fixed part."""
    return 0.0 if reference.role == "fixed part" else LINEARITY


def _wholly_common(term: Contribution) -> Contribution:
    return replace(term, shared=Shared("", term.standard_uncertainty))


def _turned(term: Contribution, value: float) -> Contribution:
    """What is per cent of a reading below zero errs the other way."""
    if term.shared is None or value >= 0:
        return term
    return replace(term, shared=replace(term.shared, common=-term.shared.common))


def _by_specification(reference: Reference, magnitude: float, hertz: float) -> Contribution:
    lines = tuple(r for r in reference.ranges if r.holds_at(hertz))
    if reference.ranges and not lines:
        bands = "; ".join(dict.fromkeys(_band(r) for r in reference.ranges))
        raise RangeError(
            worded("reference.is_not_specified_its_bands_are", name=reference.name, at=_at(hertz), bands=bands),
            value=in_unit(hertz, "Hz", 6),
            place=reference.name,
            expected=bands,
        )
    line = next((r for r in lines if magnitude <= r.upper * (1 + 1e-9)), None)
    if line is None:
        top = max((r.upper for r in lines), default=0.0)
        raise RangeError(
            worded(
                "reference.is_beyond_the_specification_of_which",
                magnitude=engineering(magnitude, reference.unit),
                name=reference.name,
                top=engineering(top, reference.unit),
            ),
            value=str(magnitude),
            place=reference.name,
            expected=worded("reference.at_most", top=top, unit=reference.unit),
        )
    said = [worded("reference.of_reading", percent_of_reading=line.percent_of_reading)]
    if line.percent_of_range:
        said.append(f"{line.percent_of_range:g} % of {engineering(line.upper, reference.unit)}")
    if line.counts:
        said.append(
            worded("reference.counts_of", counts=line.counts, resolution=engineering(line.resolution, reference.unit))
        )
    band = f" {_band(line)}" if line.high_hertz else ""
    reason = worded("reference.specification_rectangular_jcgm", band=band, listed=" + ".join(said))
    common = magnitude * line.percent_of_reading / 100
    own = (line.half_width(magnitude) - common) or _linearity(reference) * common
    found = rectangular(reference.name, line.half_width(magnitude), reason, "reference")
    return replace(found, shared=Shared(f"{line.upper:g}{band}", common / math.sqrt(3), own / math.sqrt(3)))


def _band(line: SpecificationRange) -> str:
    return f"{engineering(line.low_hertz, 'Hz')} to {engineering(line.high_hertz, 'Hz')}"


def _at(hertz: float) -> str:
    return f"at {engineering(hertz, 'Hz')}" if hertz else "for d.c."


def points_at(reference: Reference, hertz: float) -> tuple[CertifiedPoint, ...]:
    """Return the lines of a certificate that are of a frequency, Hz; those that name none are of every one.

    Raises
    ------
    RangeError
        Where it names others only.
    """
    kept = tuple(p for p in reference.points if not p.hertz or abs(p.hertz - hertz) <= SAME_FREQUENCY * p.hertz)
    if not kept:
        known = ", ".join(dict.fromkeys(engineering(p.hertz, "Hz") for p in reference.points))
        raise RangeError(
            (worded("reference.is_certified_at_not", name=reference.name, known=known, at=_at(hertz))),
            value=in_unit(hertz, "Hz", 6),
            place=reference.name,
            expected=known,
        )
    return kept


def _by_certificate(
    reference: Reference, magnitude: float, on: dt.date, hertz: float
) -> tuple[float, list[Contribution]]:
    points = points_at(reference, hertz)
    values = [p.value for p in points]
    # A fixed part is what it is, however its value was written down.
    slack = WRITTEN if reference.role == "fixed part" else 1e-9
    if not values[0] * (1 - slack) <= magnitude <= values[-1] * (1 + slack):
        raise RangeError(
            worded(
                "reference.is_outside_the_certified_span_of",
                magnitude=engineering(magnitude, reference.unit),
                name=reference.name,
                first=engineering(values[0], reference.unit),
                last=engineering(values[-1], reference.unit),
            ),
            value=str(magnitude),
            place=reference.name,
            expected=f"{values[0]:g} to {values[-1]:g} {reference.unit}",
        )
    correction = float(np.interp(magnitude, values, [p.correction for p in points]))
    u = float(np.interp(magnitude, values, [p.expanded / p.factor for p in points]))
    # How the errors at its points go together a certificate does not say: each point of it is a span of its own.
    nearest = values[int(np.argmin(np.abs(np.array(values) - magnitude)))]
    words = worded("reference.certificate_u_k_jcgm")
    shared = Shared(f"certificate at {nearest:g}", u, _linearity(reference) * u)
    found = [Contribution(reference.name, u, reason=words, kind="reference", shared=shared)]
    if reference.drift_percent_per_year > 0 and reference.calibrated_on is not None:
        years = max((on - reference.calibrated_on).days, 0) / DAYS_PER_YEAR
        width = magnitude * reference.drift_percent_per_year / 100 * years
        words = worded(
            "reference.a_year_over_years_rectangular",
            drift_percent_per_year=reference.drift_percent_per_year,
            years=years,
        )
        found.append(_wholly_common(rectangular(f"{reference.name}, drift", width, words, "reference")))
    return correction, found


def _degrees_outside(reference: Reference, celsius: float | None) -> float:
    if celsius is None or math.isnan(celsius):
        return 0.0
    return max(celsius - reference.high_celsius, reference.low_celsius - celsius, 0.0)
