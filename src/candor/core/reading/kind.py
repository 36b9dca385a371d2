"""What every kind of reading says of itself: how it is typed, what it comes to, what it contributes, how it is drawn."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Literal

from candor.core.calibration.point import TestPoint
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.reading.judged import Judged
from candor.core.reading.means import repeats
from candor.core.reading.reading import INDICATED, Asked, Reading
from candor.core.uncertainty.budget import Contribution, rectangular
from candor.core.worded import worded

Figures = Mapping[str, float]
Brought = Callable[[TestPoint, "Readings", Judged, float | None], list[Contribution]]
Readings = tuple[Reading, ...]
Compares = Literal["reference", "nominal", "nothing"]
Drawing = Literal["dial", "knob", "steps", "screen", "look", "digits"]


def _nothing(point: TestPoint, readings: Readings) -> str:
    return ""


def _all(point: TestPoint, readings: Readings) -> Readings:
    return readings


@dataclass(frozen=True)
class ReadingKind:
    """One kind of reading.

    Attributes
    ----------
    key, title : str
        As packs and entries name it, and as people do.
    drawn : str
        How it is drawn on the work surface.
    read_on : tuple of str
        What it can be read on: "scale", "knob", "screen", "digits", "look".
    compares : "reference", "nominal" or "nothing"
        What the indicated value is compared with: what a standard reads at the same time, the value the point names, or nothing.
    asks : function of (TestPoint)
        The figures of one look.
    example : function of (TestPoint)
        How it is typed.
    understand : function of (str, TestPoint)
        Figures from what was typed, None where it is not of this kind; raises where it is and cannot be right.
    indicated : function of (TestPoint, figures)
        The value, SI.
    contributions : function of (TestPoint, readings, Judged, friction in divisions or None)
        What reading it brings to the budget, in what the error is judged in.
    say : function of (TestPoint, figures)
        The figures in words.
    also : tuple of str
        Kinds that may be read at a point of this kind too.
    judged : function of (TestPoint, readings)
        The readings that the verdict is of, where not all count.
    remark : function of (TestPoint, readings)
        Why nothing can be decided yet, or nothing.
    note : function of (TestPoint, readings)
        What else they say, for the certificate.
    moves_reference : bool
        The reference is moved until the instrument stands on a mark: one that is stepped adds half a step.
    prompt : str
        What is asked where nothing was read yet, where it is not "type it, such as ...".
    named : bool
        Whether it has outcomes instead of a value.
    figured : bool
        Whether it is calculated from other points and never read.
    has_sides : bool
        Whether it matters from which side it was approached.
    has_friction : bool
        Whether it is a movement, so that coming from below and from above differ.
    """

    key: str
    title: str
    drawn: Drawing
    read_on: tuple[str, ...]
    compares: Compares
    asks: Callable[[TestPoint], tuple[Asked, ...]]
    example: Callable[[TestPoint], str]
    understand: Callable[[str, TestPoint], dict[str, float] | None]
    indicated: Callable[[TestPoint, Figures], float]
    contributions: Brought
    say: Callable[[TestPoint, Figures], str]
    also: tuple[str, ...] = ()
    judged: Callable[[TestPoint, Readings], Readings] = _all
    remark: Callable[[TestPoint, Readings], str] = _nothing
    note: Callable[[TestPoint, Readings], str] = _nothing
    prompt: str = ""
    moves_reference: bool = False
    named: bool = False
    figured: bool = False
    has_sides: bool = False
    has_friction: bool = False


def ask_for(kind: ReadingKind, point: TestPoint) -> str:
    """Return what is asked at a point where nothing was read yet."""
    example = kind.example(point)
    return kind.prompt or worded("reading.no_reading_yet_type_one_for", title=kind.title, example=example)


# --- what several kinds share ---------------------------------------------------------------------------


def one_value(title: str) -> Callable[[TestPoint], tuple[Asked, ...]]:
    """Return the asking of a single value in the unit of the point."""
    return lambda point: (Asked(INDICATED, title, point.unit),)


def the_value(point: TestPoint, figures: Figures) -> float:
    """Return the figure that is the value itself, SI."""
    return figures.get(INDICATED, math.nan)


def typed(text: str, point: TestPoint) -> float:
    """Return a typed value where the indicator can show it, SI; see core.quantities.parse_quantity.

    Raises
    ------
    ValueTextError, UnitError, RangeError
    """
    if text.strip().lower() in ("inf", "infinity", "∞", "open"):
        return point.indicator.check(math.inf)
    return point.indicator.check(point.signed(point.quantity(text)))


def shown(point: TestPoint, value: float, digits: int = 6) -> str:
    """Return a value in the unit of the point, as it is typed there: per cent where its range is numbered so."""
    if point.marked_unit == "%" and math.isfinite(value):
        return f"{point.bare(value, digits)} %"
    return (
        trimmed(value, digits)
        if point.unit == "1" and math.isfinite(value)
        else engineering(value, point.unit, digits)
    )


def scatter(point: TestPoint, readings: Readings, judged: Judged) -> list[Contribution]:
    """Return the scatter of repeats, in what the error is judged in. Raises as Judged.place."""
    return repeats(readings, judged.place, judged.means(readings).counted)


def half_division(
    name: str, point: TestPoint, at: float, judged: Judged, divisions: float, reason: str
) -> list[Contribution]:
    """Return a rectangle of so many divisions at a value, nothing where there are no divisions."""
    if point.indicator.division_at(at) <= 0:
        return []
    return [rectangular(name, judged.divisions(at, divisions), reason, "needle")]
