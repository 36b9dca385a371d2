"""What a reference is good for: by its specification or its certificate, and how old that is."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from candor.core.errors import RangeError
from candor.core.quantities import engineering
from candor.core.uncertainty.budget import Contribution, rectangular

DAYS_PER_YEAR = 365.25


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
    """

    upper: float
    percent_of_reading: float
    percent_of_range: float = 0.0
    counts: float = 0.0
    resolution: float = 0.0

    def half_width(self, value: float) -> float:
        """Return the specified half-width at `value`, SI."""
        return (
            abs(value) * self.percent_of_reading / 100
            + self.upper * self.percent_of_range / 100
            + self.counts * self.resolution
        )


@dataclass(frozen=True)
class CertifiedPoint:
    """One line of a calibration certificate: at `value`, add `correction`, known to +-`expanded` with k."""

    value: float
    correction: float
    expanded: float
    factor: float = 2.0


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


@dataclass(frozen=True)
class Age:
    """How old the last check of a reference is, as a state and as a sentence."""

    state: Literal["in date", "expired", "never checked"]
    sentence: str


def age(reference: Reference, on: dt.date) -> Age:
    """Say whether a reference was in date on a day.  An expired one may be used, and is said."""
    if reference.calibrated_on is None:
        return Age("never checked", f"{reference.name} was never checked against a standard.")
    days = (on - reference.calibrated_on).days
    when = reference.calibrated_on.isoformat()
    due = reference.calibrated_on + dt.timedelta(days=reference.valid_days)
    if days > reference.valid_days:
        return Age(
            "expired",
            f"{reference.name} was last checked on {when} and was due on {due.isoformat()}: "
            f"{days - reference.valid_days} days over.",
        )
    return Age("in date", f"{reference.name} was checked on {when}, due {due.isoformat()}.")


def reference_contributions(
    reference: Reference, value: float, on: dt.date, celsius: float | None = None
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
        Where no line of the specification reaches `value`, or the certificate does not span it.
    """
    magnitude = abs(value)
    if reference.points:
        correction, found = _by_certificate(reference, magnitude, on)
    else:
        correction, found = 0.0, [_by_specification(reference, magnitude)]
    excess = _degrees_outside(reference, celsius)
    if excess > 0 and reference.percent_per_kelvin > 0:
        width = magnitude * reference.percent_per_kelvin / 100 * excess
        words = f"{excess:.1f} K outside {reference.low_celsius:g} to {reference.high_celsius:g} °C."
        found.append(rectangular(f"{reference.name}, temperature", width, words, "reference"))
    return correction, found


def _by_specification(reference: Reference, magnitude: float) -> Contribution:
    line = next((r for r in reference.ranges if magnitude <= r.upper * (1 + 1e-9)), None)
    if line is None:
        top = max((r.upper for r in reference.ranges), default=0.0)
        raise RangeError(
            f"{engineering(magnitude, reference.unit)} is beyond the specification of {reference.name}, "
            f"which ends at {engineering(top, reference.unit)}.",
            value=str(magnitude),
            place=reference.name,
            expected=f"at most {top:g} {reference.unit}",
        )
    said = [f"{line.percent_of_reading:g} % of reading"]
    if line.percent_of_range:
        said.append(f"{line.percent_of_range:g} % of {engineering(line.upper, reference.unit)}")
    if line.counts:
        said.append(f"{line.counts:g} counts of {engineering(line.resolution, reference.unit)}")
    reason = f"Specification ±({' + '.join(said)}), rectangular (JCGM 100, 4.3.7)."
    return rectangular(reference.name, line.half_width(magnitude), reason, "reference")


def _by_certificate(reference: Reference, magnitude: float, on: dt.date) -> tuple[float, list[Contribution]]:
    values = [p.value for p in reference.points]
    if not values[0] * (1 - 1e-9) <= magnitude <= values[-1] * (1 + 1e-9):
        raise RangeError(
            f"{engineering(magnitude, reference.unit)} is outside the certificate of {reference.name}, which "
            f"spans {engineering(values[0], reference.unit)} to {engineering(values[-1], reference.unit)}.",
            value=str(magnitude),
            place=reference.name,
            expected=f"{values[0]:g} to {values[-1]:g} {reference.unit}",
        )
    correction = float(np.interp(magnitude, values, [p.correction for p in reference.points]))
    u = float(np.interp(magnitude, values, [p.expanded / p.factor for p in reference.points]))
    found = [Contribution(reference.name, u, reason="Certificate, U/k (JCGM 100, 4.3.3).", kind="reference")]
    if reference.drift_percent_per_year > 0 and reference.calibrated_on is not None:
        years = max((on - reference.calibrated_on).days, 0) / DAYS_PER_YEAR
        width = magnitude * reference.drift_percent_per_year / 100 * years
        words = f"{reference.drift_percent_per_year:g} % a year over {years:.2f} years, rectangular."
        found.append(rectangular(f"{reference.name}, drift", width, words, "reference"))
    return correction, found


def _degrees_outside(reference: Reference, celsius: float | None) -> float:
    if celsius is None or math.isnan(celsius):
        return 0.0
    return max(celsius - reference.high_celsius, reference.low_celsius - celsius, 0.0)
