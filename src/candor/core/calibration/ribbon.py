"""The error ribbon, laid out once for screen and paper: every point of a function side by side, in limits of its own.

Heights and bars are shares of the point's limit: ±1 is the limit. What draws it brings only its own pixels or points.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from functools import lru_cache
from itertools import groupby

from candor.core.calibration.result import PointResult
from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import trimmed
from candor.core.verdict.limits import Bounds, bounds_of
from candor.core.verdict.rules import Outcome

TOP = 1.75  # limits shown either side of zero; points beyond are drawn at the edge, with an arrow


@dataclass(frozen=True)
class Place:
    """A point of the ribbon, read or not.

    Attributes
    ----------
    key : str
    function, range_name : str
    limit_percent : float
        Its limit in per cent of full scale.
    """

    key: str
    function: str
    range_name: str
    limit_percent: float


@dataclass(frozen=True)
class Mark:
    """What was read at a point: error and U as shares of its limit, and its outcome."""

    height: float
    bar: float
    outcome: Outcome

    @property
    def beyond(self) -> int:
        """1 where it lies above the top, -1 below the bottom, 0 inside."""
        return int(math.copysign(1, self.height)) if abs(self.height) > TOP else 0


@dataclass(frozen=True)
class Column:
    """One point's marks: as found, as left, and what is history since something changed; None where there is none."""

    key: str
    found: Mark | None = None
    left: Mark | None = None
    voided: Mark | None = None

    @property
    def is_empty(self) -> bool:
        """Whether nothing was read there."""
        return self.found is None and self.left is None and self.voided is None


@dataclass(frozen=True)
class Group:
    """The columns of one range: its name, the first column and how many."""

    title: str
    start: int
    count: int


@dataclass(frozen=True)
class Ribbon:
    """The layout of one function.

    Attributes
    ----------
    function : str
    columns : tuple of Column
    groups : tuple of Group
    lines : tuple of (float, str)
        Where lines stand, in limits, and what they are called: the limits and zero.
    """

    function: str
    columns: tuple[Column, ...] = ()
    groups: tuple[Group, ...] = ()
    lines: tuple[tuple[float, str], ...] = ()

    @property
    def read(self) -> int:
        """How many points were read as found."""
        return sum(column.found is not None for column in self.columns)


@lru_cache(maxsize=8192)
def mark(error: float, expanded: float, limit: Bounds | float, outcome: Outcome) -> Mark:
    """Return the mark of a point from its error, U and limit (a number L is ±L), all in one unit.

    By definition error / limit and U / limit; of a one-sided limit the limit stands at ±1 and the rest is measured in it. Against
    a limit of zero an error stands at the edge (±2 limits) unless it is zero, and has no bar. Where no limit was given it cannot
    be told, and stands on the line of zero without a bar. Raises as bounds_of.
    """
    bounds = bounds_of(limit)
    if bounds.half == 0 and outcome is Outcome.CANNOT_TELL:
        return Mark(0.0, 0.0, outcome)
    return Mark(bounds.share(error), bounds.span(expanded), outcome)


def marks_of(results: Mapping[str, PointResult]) -> dict[str, Mark]:
    """Return the marks of assessed points by their keys; a look, and what is only noted, on the line of zero. Raises as mark."""
    return {
        key: Mark(0.0, 0.0, r.verdict.outcome)
        if r.seen or r.verdict.outcome is Outcome.NOTED
        else mark(r.verdict.error, r.coverage.expanded, r.verdict.bounds, r.verdict.outcome)
        for key, r in results.items()
    }


def lay_out(
    function: str,
    places: Iterable[Place],
    found: Mapping[str, Mark],
    left: Mapping[str, Mark],
    voided: Mapping[str, Mark] | None = None,
) -> Ribbon:
    """Lay the points of one function side by side.

    Parameters
    ----------
    function : str
    places : iterable of Place
        Of all functions, in order.
    found, left, voided : mapping of str to Mark
        By key of the point.
    """
    own = [p for p in places if p.function == function]
    old = voided or {}
    groups, start = [], 0
    for title, members in groupby(own, key=lambda p: p.range_name):
        count = len(list(members))
        groups.append(Group(title, start, count))
        start += count
    shares = {round(p.limit_percent, 6) for p in own}
    limit = "limit" if len(shares) != 1 or shares == {0.0} else f"{trimmed(shares.pop(), 3)} %"
    return Ribbon(
        function=function,
        columns=tuple(Column(p.key, found.get(p.key), left.get(p.key), old.get(p.key)) for p in own),
        groups=tuple(groups),
        lines=((1.0, f"+{limit}"), (0.0, "0"), (-1.0, f"−{limit}")),
    )
