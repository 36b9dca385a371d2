"""A source: the instrument is set, and a meter measures what it gives."""

from __future__ import annotations

import re

from candor.core.calibration.point import TestPoint
from candor.core.quantities import engineering
from candor.core.quantities.derived import of_one_standard
from candor.core.quantities.show import trimmed
from candor.core.reading.judged import Judged
from candor.core.reading.kind import Figures, ReadingKind, Readings, half_division, scatter, shown, the_value, typed
from candor.core.reading.means import means_of
from candor.core.reading.reading import INDICATED, Asked
from candor.core.uncertainty.budget import Contribution
from candor.core.worded import worded

REFERENCE = "reference"  # said in the same words: `at 50 reads 49.7`
_AT = re.compile(r"(?:at\s+(?P<set>.+?)\s+)?reads\s+(?P<reads>.+)", re.I)


def _read(text: str, point: TestPoint) -> dict[str, float] | None:
    match = _AT.fullmatch(text.strip())
    if match is None:
        return None
    setting = typed(match["set"], point) if match["set"] else point.indicator.check(point.nominal)
    return {
        INDICATED: setting,
        REFERENCE: point.reference_magnitude(point.quantity(of_one_standard(match["reads"]), point.asked_unit)),
    }


def _reads(point: TestPoint) -> str:
    value = point.nominal * 0.993
    if point.worth != 1:
        return engineering(point.reference_for(value), point.asked_unit, 4).replace("\u00a0", " ")
    return point.bare(value) if point.asked_unit == point.unit else trimmed(value)


def _contributions(
    point: TestPoint, readings: Readings, judged: Judged, friction: float | None
) -> list[Contribution]:
    at = means_of(readings, judged.place).indicated
    reason = worded("reading.set_by_eye_to_half_a")
    return half_division("setting", point, at, judged, 0.5, reason) + scatter(point, readings, judged)


def _say(point: TestPoint, figures: Figures) -> str:
    return f"set to {shown(point, the_value(point, figures), 5)}"


SOURCE = ReadingKind(
    key="source",
    title=worded("reading.source_set_and_measured"),
    drawn="steps",
    read_on=("knob", "scale", "digits"),
    compares="reference",
    asks=lambda point: (Asked(INDICATED, "set to", point.unit),),
    example=lambda point: worded("reading.at_reads", bare=point.bare(point.nominal), reads=_reads(point)),
    understand=_read,
    indicated=the_value,
    contributions=_contributions,
    say=_say,
)
