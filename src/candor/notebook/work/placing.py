"""Where a reading goes: to the point in hand, to another of its range, or to one made for it, by what was applied."""

from __future__ import annotations

from dataclasses import replace

from candor.core.calibration.belonging import applied_for, is_at
from candor.core.calibration.made_points import VALUE, ends_of, nominal_of, point_at
from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.reading.kind import ReadingKind
from candor.core.worded import worded
from candor.notebook.entries.ranges_entries import PointsPlanned
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, next_key, points_of_range, procedure

OVER_ITS_END = 1.1  # of full scale, that a value applied may be and still be of the end: common practice, no source


@dataclass(frozen=True)
class Placed:
    """Where a reading goes.

    Attributes
    ----------
    step : ProcedureStep
        That of its point.
    made : PointsPlanned or None
        The point that is made for it, in a procedure that has none there.
    words : str
        What is said of it; empty where it goes to the point in hand.
    """

    step: ProcedureStep
    made: PointsPlanned | None = None
    words: str = ""


def placed(pack: Pack, step: ProcedureStep, read: ReadingKind, indicated: float, reference: float) -> Placed:
    """Say where a reading goes that was taken with a step in hand; SI magnitudes.

    Raises
    ------
    CandorError
        Where it is not of the point in hand, and its range has none for it.
    """
    point = step.point
    if point is None:
        return Placed(step)
    applied = applied_for(point, read, indicated, reference)
    if applied is None:
        return Placed(step)
    if step.kind == "next":
        made = point_at(point, nominal_of(point, applied, points_of_range(pack, point)))
        return Placed(replace(step, kind="point", key=f"{step.key}/{made.nominal:g}", point=made))
    if step.kind != "point" or is_at(point, applied):
        return Placed(step)
    said = engineering(applied, point.unit, 5)
    words = worded("work.was_applied_written_at_of_the", said=said, range_name=point.range_name, name=_name(point))
    others = [
        s
        for s in procedure(pack)
        if s.kind == "point" and (s.phase, s.line) == (step.phase, step.line) and _same_range(s.point, point)
    ]
    there = [s for s in others if s.point is not None and is_at(s.point, applied)]
    if there:
        found = min(there, key=lambda s: abs(s.point.nominal - applied) if s.point else 0.0)
        return Placed(found, words=words.format(_name(found.point or point)))
    function, range_, *rest = point.key.split("/")
    own_kind = len(rest) == 1 and VALUE.fullmatch(rest[0]) is not None  # no stimulus or word tells it apart
    known = tuple(s.point.nominal for s in others if s.point is not None)
    made = point_at(point, nominal_of(point, applied, known))
    low, high = ends_of(point)
    outside = not low <= made.nominal <= high or (made.nominal == 0 == low) or applied > max(high, 0.0) * OVER_ITS_END
    if not own_kind or outside or step.line:  # at another line is read what was read before, and nothing else
        raise CandorError(
            worded("work.was_applied_but_is_in_hand", said=said, name=_name(point), range_name=point.range_name),
            value=said,
        )
    own = next(
        (s for s in procedure(pack) if s.kind == "next" and s.phase == step.phase and _same_range(s.point, point)),
        None,
    )
    head = own.key if own is not None else next_key(step.key.split(":")[0], step.phase, function, range_)
    there_now = replace(step, key=f"{head}/{made.nominal:g}".replace(" ", "-"), point=made)
    planned = None if own is not None else PointsPlanned(function=function, range=range_, values=(made.nominal,))
    return Placed(there_now, planned, words.format(worded("work.a_point_made_for_it", name=_name(made))))


def _name(point: TestPoint) -> str:
    return engineering(point.nominal, point.unit, 5)


def _same_range(one: TestPoint | None, other: TestPoint) -> bool:
    """Whether a point is of the range of another, read under the same stimulus."""
    return (
        one is not None
        and one.key.split("/")[:2] == other.key.split("/")[:2]
        and one.range_name == other.range_name
        and one.stimulus == other.stimulus
    )
