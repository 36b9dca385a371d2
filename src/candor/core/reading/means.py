"""What several looks at one point come to, and what their scatter contributes."""

from __future__ import annotations

import math
from collections.abc import Callable
from statistics import fmean

from candor.core.late_dataclass import dataclass
from candor.core.reading.reading import FRICTION_LIMIT, Reading
from candor.core.uncertainty.budget import Contribution, rectangular
from candor.core.worded import worded

Place = Callable[[float], float]
Room = Callable[[float, float], float]


@dataclass(frozen=True)
class Means:
    """What several looks at one point come to.

    Attributes
    ----------
    indicated, reference : float
        SI. The mean of the two direction means where there are both, whatever their counts; else the mean of all. The
        reference corrected.
    rising, falling : float or None
        Mean error from below and from above, in what it is judged in; None where it was not read so.
    error : float
        The mean error, in what it is judged in.
    judged, judged_value : float
        The error, and the indicated value, SI, held against the limit: of rising or falling that leaves less room; else the mean.
    counted : int
        How many readings `judged` is the mean of.
    left_aside : int
        Readings without a direction, where others have both: which side they came from is not known.
    """

    indicated: float
    reference: float
    rising: float | None
    falling: float | None
    error: float
    judged: float
    judged_value: float
    counted: int
    left_aside: int = 0

    @property
    def friction(self) -> float | None:
        """Half the difference between falling and rising (IEC 60051-9, from memory); None from one side alone."""
        return None if self.rising is None or self.falling is None else abs(self.falling - self.rising) / 2


def _same(value: float) -> float:
    return value


def _nearness_to_zero(error: float, _: float) -> float:
    return -abs(error)


def means_of(
    readings: tuple[Reading, ...], place: Place = _same, correction: float = 0.0, room: Room = _nearness_to_zero
) -> Means:
    """Return the means of the readings at one point, at least one.

    Rising and falling are both errors of the instrument: friction is not hidden in the uncertainty, the worse is judged. Against an
    uneven or a one-sided limit the worse is not the larger: it is the one that leaves less room.

    Parameters
    ----------
    readings : tuple of Reading
    place : function
        From a value, SI, to what the error is judged in.
    correction : float
        What is to be added to the reference, SI.
    room : function
        From an error and an indicated value to how much room they leave to the limit.

    Raises
    ------
    RangeError
        As `place` does, of a value that has no place.
    """

    def errors(side: tuple[Reading, ...]) -> float:
        return fmean(place(r.indicated) - place(r.reference + correction) for r in side)

    up, down = (tuple(r for r in readings if r.direction == way) for way in ("up", "down"))
    rising, falling = (errors(side) if side else None for side in (up, down))
    if rising is None or falling is None:
        error = errors(readings)
        return Means(
            indicated=fmean(r.indicated for r in readings),
            reference=fmean(r.reference for r in readings) + correction,
            rising=rising,
            falling=falling,
            error=error,
            judged=error,
            judged_value=fmean(r.indicated for r in readings),
            counted=len(readings),
        )
    sides = (up, down)
    values = tuple(fmean(r.indicated for r in side) for side in sides)
    worse = min((0, 1), key=lambda way: room((rising, falling)[way], values[way]))
    return Means(
        indicated=fmean(values),
        reference=fmean(fmean(r.reference for r in side) for side in sides) + correction,
        rising=rising,
        falling=falling,
        error=(rising + falling) / 2,
        judged=(rising, falling)[worse],
        judged_value=values[worse],
        counted=len(sides[worse]),
        left_aside=len(readings) - len(up) - len(down),
    )


def repeats(readings: tuple[Reading, ...], place: Place, counted: int) -> list[Contribution]:
    """Return the scatter of repeats as s/√n, with the degrees of freedom left after a mean for each direction (JCGM 100:2008, 4.2).

    Parameters
    ----------
    readings : tuple of Reading
    place : function
        From a value, SI, to what the error is judged in.
    counted : int
        Of how many readings the judged error is the mean.

    Raises
    ------
    RangeError
        As `place` does.
    """
    squares, dof = 0.0, 0
    for direction in ("up", "down", ""):
        errors = [place(r.indicated) - place(r.reference) for r in readings if r.direction == direction]
        if len(errors) > 1:
            mean = fmean(errors)
            squares += sum((e - mean) ** 2 for e in errors)
            dof += len(errors) - 1
    if not dof:
        return []
    scatter = math.sqrt(squares / dof)
    reason = worded("reading.scatter_of_readings_over_degrees_of", readings=len(readings), counted=counted, dof=dof)
    return [
        Contribution(f"repeats ({counted})", scatter / math.sqrt(counted), dof=dof, reason=reason, kind="repeats")
    ]


def friction_not_known(division: float, divisions: float | None) -> Contribution:
    """Return what is not known of friction where a movement was read from one side alone, a rectangle (JCGM 100:2008, 4.3.7).

    Parameters
    ----------
    division : float
        A division in what the error is judged in.
    divisions : float or None
        The largest friction found on this movement in this state, in divisions; None where none was looked for.
    """
    if divisions is None:
        reason = worded("reading.read_from_one_direction_only_so")
        return rectangular("friction, assumed", FRICTION_LIMIT * division, reason, "friction")
    reason = worded("reading.read_from_one_direction_only_friction", divisions=divisions)
    return rectangular(worded("reading.friction_from_other_points"), divisions * division, reason, "friction")
