"""The arrangement whose worst case is best: every piece may lie anywhere inside its tolerance.

Where there are not too many arrangements all of them are tried. Where there are, the nearest by nominal value is found for
the pieces of each tolerance and better; and a floor is given below which no arrangement can be: when every piece has at
least the tolerance t, scaling all of them by 1 ± t scales the whole by as much, so the worst case is at least |v - T| + t v. A part
that stands beside bends both alike.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Iterator, Sequence

import numpy as np

from candor.core.combine.exact import (
    OPERATIONS,
    TWO_PAIRS,
    Combination,
    Floats,
    Operation,
    Piece,
    Tree,
    best,
    combination,
    joined,
    leaves,
)
from candor.core.errors import CancelledError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

FEW = 6_000_000  # arrangements that are tried one by one


@dataclass(frozen=True)
class WorstCase:
    """The best by worst case.

    Attributes
    ----------
    combination : Combination
    worst : float
        Its largest error, in the unit of the target.
    floor : float
        No arrangement of what is on hand has a smaller one; equal to `worst` where all were tried.
    """

    combination: Combination
    worst: float
    floor: float

    @property
    def proved(self) -> bool:
        """Whether nothing better exists."""
        return self.worst <= self.floor * (1 + 1e-12)


@dataclass(frozen=True)
class _Table:
    """Arrangements of so many pieces: limits, and how to write each."""

    low: Floats
    high: Floats
    tree: Callable[[int], Tree]


def best_worst_case(
    target: float,
    pieces: Sequence[Piece],
    most: int = 4,
    should_stop: Callable[[], bool] = lambda: False,
    beside: float = math.inf,
) -> WorstCase:
    """Return the arrangement of 1 to `most` pieces with the smallest worst-case error, of the whole with what is beside it.

    `target` and `beside` are in the unit of the pieces, ohm or F.

    Raises
    ------
    RangeError
        As `combine.best`.
    CancelledError
    """
    nominal = best(target, pieces, most, should_stop, beside=beside)  # checks what was asked, too
    whole = float(joined(target, beside))

    def worst(c: Combination) -> float:
        return max(float(joined(c.high, beside)) - whole, whole - float(joined(c.low, beside)))

    if _count(len(pieces), most) <= FEW:
        found = _exhaustive(target=target, pieces=pieces, most=most, should_stop=should_stop, beside=beside)
        return WorstCase(found, worst(found), worst(found))
    classes = sorted({p.tolerance for p in pieces})
    candidates = list(nominal)
    for tolerance in classes[:-1]:
        places = [i for i, p in enumerate(pieces) if p.tolerance <= tolerance]
        for inner in best(target, [pieces[i] for i in places], most, should_stop, beside=beside):
            candidates.append(combination(_placed(inner.tree, places), pieces))
    chosen = min(candidates, key=worst)
    nearest = min(abs(float(joined(c.value, beside)) - whole) for c in nominal)
    return WorstCase(chosen, worst(chosen), min(_floor(whole, nearest, classes[0], beside), worst(chosen)))


def _floor(whole: float, nearest: float, tolerance: float, beside: float) -> float:
    """No arrangement is nearer than `nearest`; scaled down or up by the least tolerance it is at least so far off."""

    def alone(value: float) -> float:
        return 1 / (1 / value - 1 / beside) if value < beside else math.inf

    low = whole - float(joined(alone(whole - nearest) * (1 - tolerance), beside)) if whole > nearest else math.inf
    top = alone(whole + nearest) * (1 + tolerance)
    return min(low, float(joined(top, beside)) - whole if math.isfinite(top) else math.inf)


def _placed(tree: Tree, places: Sequence[int]) -> Tree:
    if isinstance(tree, int):
        return places[tree]
    return tree[0], _placed(tree[1], places), _placed(tree[2], places)


def _count(n: int, most: int) -> float:
    pairs = n * (n + 1) / 2
    return (
        n + (2 * pairs, 0)[most < 2] + (4 * pairs * n, 0)[most < 3] + (6 * pairs**2 + 4 * pairs * n**2, 0)[most < 4]
    )


def _exhaustive(
    target: float, pieces: Sequence[Piece], most: int, should_stop: Callable[[], bool], beside: float
) -> Combination:
    whole = joined(target, beside)
    counts = [p.count for p in pieces]
    champion: tuple[float, Tree] = (math.inf, 0)
    for number in range(1, most + 1):
        for table in _tables(number, pieces):
            if should_stop():
                raise CancelledError(worded("combine.the_search_was_stopped_nothing_was"))
            errors = np.maximum(joined(table.high, beside) - whole, whole - joined(table.low, beside))
            better = np.flatnonzero(errors < champion[0] * (1 - 1e-12))
            for place in better[np.argsort(errors[better], kind="stable")]:
                tree = table.tree(int(place))
                if all(counts[i] >= needed for i, needed in Counter(leaves(tree)).items()):
                    champion = (float(errors[place]), tree)
                    break
    return combination(champion[1], pieces)


def _tables(number: int, pieces: Sequence[Piece]) -> Iterator[_Table]:
    low = np.array([p.value * (1 - p.tolerance) for p in pieces])
    high = np.array([p.value * (1 + p.tolerance) for p in pieces])
    ones = _Table(low, high, lambda place: place)
    if number == 1:
        yield ones
        return
    twos = {op: _joined(op, ones, ones) for op in OPERATIONS}
    if number == 2:
        yield from twos.values()
        return
    threes = [_joined(op, ones, two) for op in OPERATIONS for two in twos.values()]
    if number == 3:
        yield from threes
        return
    for op in OPERATIONS:
        yield from (_joined(op, ones, three) for three in threes)
        for a, b in TWO_PAIRS:
            yield _joined(op, twos[a], twos[b])


def _joined(op: Operation, one: _Table, other: _Table) -> _Table:
    """Every arrangement of one table joined with every one of another."""
    size = len(other.low)

    def limits(a: Floats, b: Floats) -> Floats:
        total = a[:, None] + b[None, :]
        return np.asarray(total if op == "sum" else a[:, None] * b[None, :] / total).ravel()

    def tree(place: int) -> Tree:
        return op, one.tree(place // size), other.tree(place % size)

    return _Table(limits(one.low, other.low), limits(one.high, other.high), tree)
