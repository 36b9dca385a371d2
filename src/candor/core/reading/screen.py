"""A screen: divisions between two edges, or the two places they stand at."""

from __future__ import annotations

import math
import re

from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError
from candor.core.quantities import parse_number
from candor.core.quantities.show import in_unit, trimmed
from candor.core.reading.indicators import Graticule
from candor.core.reading.judged import Judged
from candor.core.reading.kind import Figures, ReadingKind, Readings, scatter, shown
from candor.core.reading.means import means_of
from candor.core.reading.reading import Asked
from candor.core.uncertainty.budget import Contribution, rectangular
from candor.core.worded import worded

DIVISIONS, FROM, TO = "divisions", "from", "to"
SCREEN_FIGURES = (DIVISIONS, FROM, TO)  # in divisions, not in the unit of the point
_DIV = re.compile(r"(?P<n>[-+]?[\d.,/\s]*\d)\s*div(?:isions?|s)?", re.I)
_PLACES = re.compile(r"from\s+(?P<first>[-+\d.,]+)\s+to\s+(?P<last>[-+\d.,]+)(?:\s*div)?", re.I)
WHAT = worded("reading.divisions_such_as")


def _read(text: str, point: TestPoint) -> dict[str, float] | None:
    clean = text.strip()
    if match := _DIV.fullmatch(clean):
        found = {DIVISIONS: parse_number(match["n"], WHAT)}
    elif match := _PLACES.fullmatch(clean):
        first, last = (parse_number(match[name], WHAT) for name in ("first", "last"))
        if first == last:
            raise RangeError(worded("reading.both_edges_stand_at_the_same"), value=text)
        found = {FROM: first, TO: last}
    else:
        return None
    point.indicator.check(_indicated(point, found))
    return found


def _indicated(point: TestPoint, figures: Figures) -> float:
    """Return divisions x factor, SI."""
    count = (
        figures[DIVISIONS] if DIVISIONS in figures else abs(figures.get(TO, math.nan) - figures.get(FROM, math.nan))
    )
    return count * point.indicator.division_at(0.0)


def graticule_of(point: TestPoint) -> Graticule:
    """Return the screen that a point is read on.

    Raises
    ------
    RangeError
        Where it has none.
    """
    if not isinstance(point.indicator, Graticule):
        raise RangeError(worded("reading.has_no_screen_so_no_divisions", name=point.name), place=point.key)
    return point.indicator


def _contributions(
    point: TestPoint, readings: Readings, judged: Judged, friction: float | None
) -> list[Contribution]:
    at = means_of(readings, judged.place).indicated
    edge = graticule_of(point).edge_divisions
    reason = worded("reading.an_edge_is_read_to_division", edge=trimmed(edge, 2))
    width = judged.divisions(at, edge)
    found = [rectangular(f"{side} edge", width, reason, "needle") for side in ("first", "second")]
    return found + scatter(point, readings, judged)


def _say(point: TestPoint, figures: Figures) -> str:
    places = (
        worded("reading.from_to", figures=trimmed(figures[FROM]), figures_2=trimmed(figures[TO]))
        if FROM in figures
        else ""
    )
    value = _indicated(point, figures)
    return worded(
        "reading.div",
        value=trimmed(value / point.indicator.division_at(0.0), 4),
        places=places,
        shown=shown(point, value, 4),
    )


SCREEN = ReadingKind(
    key="screen",
    title=worded("reading.divisions_on_a_screen"),
    drawn="screen",
    read_on=("screen",),
    compares="reference",
    asks=lambda point: (
        Asked(DIVISIONS, "divisions", "div", needed=False),
        Asked(FROM, "first edge at", "div", needed=False),
        Asked(TO, "second edge at", "div", needed=False),
    ),
    example=lambda point: in_unit(point.nominal / (point.indicator.division_at(0.0) or 1.0) * 0.99, "div", 3),
    understand=_read,
    indicated=_indicated,
    contributions=_contributions,
    say=_say,
)
