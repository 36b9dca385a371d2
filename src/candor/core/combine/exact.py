"""The best value from what is on hand: one to four pieces in series, parallel and mixed, and proof that none is better.

All series-parallel arrangements of up to four pieces are covered. Written with two operations, `sum` (resistors in
series, capacitors side by side) and `share` (the other way, 1/(1/a + 1/b)), four pieces are either two pairs or one piece
with a piece and a pair; so every four-piece value is met by a search in the sorted table of pairs, and nothing is drawn
at random. The table holds n(n+1)/2 pairs of each kind for n values.
"""

from __future__ import annotations

import heapq
import math
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from functools import partial
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import CancelledError, RangeError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

Operation = Literal["sum", "share"]
Tree = int | tuple[Operation, "Tree", "Tree"]
Floats = NDArray[np.float64]
Ints = NDArray[np.intp]
Places = Ints | slice
OPERATIONS: tuple[Operation, Operation] = ("sum", "share")
TWO_PAIRS: tuple[tuple[Operation, Operation], ...] = (("sum", "sum"), ("sum", "share"), ("share", "share"))


@dataclass(frozen=True)
class Piece:
    """A piece on hand.

    Attributes
    ----------
    value : float
        F or ohm.
    tolerance : float
        Share, both ways.
    count : int
        How many there are.
    name : str
    volts, watts : float
        Ratings, 0 where unknown.
    to_order : bool
        Not on hand.
    """

    value: float
    tolerance: float = 0.0
    count: int = 4
    name: str = ""
    volts: float = 0.0
    watts: float = 0.0
    to_order: bool = False


@dataclass(frozen=True)
class Combination:
    """An arrangement of pieces; `tree` holds their places in the list searched."""

    tree: Tree
    value: float
    low: float
    high: float

    @property
    def pieces(self) -> tuple[int, ...]:
        """Places of the pieces, in order."""
        return leaves(self.tree)

    def worst(self, target: float) -> float:
        """Return the largest error the tolerances allow."""
        return max(self.high - target, target - self.low)


def leaves(tree: Tree) -> tuple[int, ...]:
    """Return the pieces of an arrangement, left to right."""
    return (tree,) if isinstance(tree, int) else leaves(tree[1]) + leaves(tree[2])


def value_of(tree: Tree, values: Sequence[float]) -> float:
    """Return the value of an arrangement, in the unit of `values`: sums and sums of reciprocals (Kirchhoff's laws)."""
    if isinstance(tree, int):
        return values[tree]
    a, b = value_of(tree[1], values), value_of(tree[2], values)
    return a + b if tree[0] == "sum" else a * b / (a + b)


def combination(tree: Tree, pieces: Sequence[Piece]) -> Combination:
    """Return an arrangement with its nominal value and its limits, ohm or F: all pieces low, all high.

    It can only rise where a piece rises (Rayleigh's monotonicity law), so no mixture of limits lies outside."""
    nominal, low, high = (
        value_of(tree, [p.value * (1 + side * p.tolerance) for p in pieces]) for side in (0.0, -1.0, 1.0)
    )
    return Combination(tree, nominal, low, high)


def best(
    target: float,
    pieces: Sequence[Piece],
    most: int = 4,
    should_stop: Callable[[], bool] = lambda: False,
    operations: tuple[Operation, ...] = OPERATIONS,
    beside: float = math.inf,
    allowed: Callable[[Tree], bool] = lambda _: True,
    within: float = math.inf,
) -> tuple[Combination, ...]:
    """Return the nearest arrangement for each number of pieces from 1 to `most`, by nominal value.

    With a part `beside`, joined to the arrangement by `share`, it is the whole of both that comes nearest to what the
    target makes with it: 1/(1/x + 1/beside) bends, so the nearest arrangement alone need not be it.

    Parameters
    ----------
    target : float
        F or ohm.
    pieces : sequence of Piece
        At least one; each is used at most `count` times.
    most : int
        1 to 4.
    should_stop : callable
        Asked between the steps.
    operations : tuple of "sum" and "share"
        Those that may be used: both, or sums alone.
    beside : float
        F or ohm; infinite for none.
    allowed : callable
        Asked for every arrangement before it is taken, its leaves places in `pieces`: such as whether it stands the volts.
    within : float
        Nothing that is off by so much or more is wanted, F or ohm of the whole.

    Returns
    -------
    tuple of Combination
        One for each number of pieces that can be met, fewer pieces first; each is the nearest there is.

    Raises
    ------
    RangeError
        Where the target or a piece is not above zero, or `most` is not 1 to 4.
    CancelledError
    """
    _check(target, pieces, most)
    order = np.argsort([p.value for p in pieces], kind="stable")
    values = np.array([float(pieces[i].value) for i in order])
    counts = [pieces[i].count for i in order]
    search = _Search(
        target=target, values=values, counts=counts, operations=operations, beside=beside, within=within
    )  # fmt: skip
    search.allowed = lambda tree: allowed(_renamed(tree, order))
    found = []
    for number in range(1, most + 1):
        if should_stop():
            raise CancelledError(worded("combine.the_search_was_stopped_nothing_was"))
        tree = search.nearest(number)
        if tree is not None:
            found.append(combination(_renamed(tree, order), pieces))
    return tuple(found)


def _check(target: float, pieces: Sequence[Piece], most: int) -> None:
    if not 0 < target < math.inf:
        raise RangeError(worded("combine.the_value_wanted_is_expected_one", target=target))
    if not pieces:
        raise RangeError(worded("combine.there_is_nothing_on_hand_to"))
    if any(not 0 < p.value < math.inf for p in pieces):
        raise RangeError(worded("combine.a_piece_on_hand_has_no"))
    if most not in (1, 2, 3, 4):
        raise RangeError(worded("combine.one_to_four_pieces_can_be", most=most))


def _renamed(tree: Tree, order: Ints) -> Tree:
    if isinstance(tree, int):
        return int(order[tree])
    return tree[0], _renamed(tree[1], order), _renamed(tree[2], order)


class _Search:
    """One search: sorted values, the tables of pairs once they are needed, and the best error met so far."""

    def __init__(
        self, *, target: float, values: Floats, counts: Sequence[int], operations: tuple[Operation, ...], beside: float,
        within: float,
    ) -> None:  # fmt: skip
        self.target, self.values, self.counts, self.operations = target, values, counts, operations
        self.beside, self.within = beside, within
        self.allowed: Callable[[Tree], bool] = lambda _: True
        self._pairs: dict[Operation, Floats] = {}
        self._met: tuple[float, Tree | None] = (within, None)

    def nearest(self, number: int) -> Tree | None:
        """Return the nearest arrangement of just so many pieces."""
        singles = self.values
        self._met = (self.within, None)
        if number == 1:
            errors = self._error(singles)
            order = np.argsort(errors, kind="stable")
            return next((int(i) for i in order if errors[i] < self.within and self._allowed(int(i))), None)
        if number == 2:
            for op in self.operations:
                self._seek(op, singles, singles, int, int)
        elif number == 3:
            for op in self.operations:
                for inner in self.operations:
                    self._seek(op, singles, self.pairs(inner), int, partial(self._pair, inner))
        else:
            self._four()
        return self._met[1]

    def _four(self) -> None:
        for op in self.operations:
            for a, b in TWO_PAIRS:
                if a in self.operations and b in self.operations:
                    self._seek(op, self.pairs(a), self.pairs(b), partial(self._pair, a), partial(self._pair, b))
        if self.operations == OPERATIONS:
            for op in OPERATIONS:
                for inner in OPERATIONS:
                    self._seek_three(op, "share" if op == "sum" else "sum", inner)

    def pairs(self, op: Operation) -> Floats:
        """Return every pair's value, sorted; of which pieces one is, is found again when it is asked for (`_pair`).

        Values alone: sorted with the places of their pieces 10^7 of them would take ten times as long, and thrice the memory.
        """
        if op not in self._pairs:
            count, twice = len(self.values), [c > 1 for c in self.counts]
            made, end = np.empty(count * (count - 1) // 2 + sum(twice)), 0
            for i in range(count):
                row = _apply(op, self.values[i], self.values[i if twice[i] else i + 1 :])
                made[end : end + len(row)] = row
                end += len(row)
            made.sort()
            self._pairs[op] = made
        return self._pairs[op]

    def _pair(self, op: Operation, place: int) -> Tree:
        """Return the pair that stands at a place: of several of the same value each stands at one of their places."""
        table = self.pairs(op)
        value = float(table[place])
        nth = place - int(np.searchsorted(table, value, "left"))
        for i, low, high in self._windows(op, value):
            others = [j for j in range(max(low, i), high) if j > i or self.counts[i] > 1]
            same = [
                j for j in others if float(_apply(op, self.values[i : i + 1], self.values[j : j + 1])[0]) == value
            ]
            if nth < len(same):
                return op, i, same[nth]
            nth -= len(same)
        raise AssertionError(worded("combine.a_pair_that_was_made_is"))

    def _windows(self, op: Operation, value: float) -> Iterator[tuple[int, int, int]]:
        """Yield the pieces that can be one of a pair of some value, each with the places of what may be the other."""
        if op == "sum":
            rest, slack = value - self.values, 8 * np.finfo(float).eps * value
            low, high = rest - slack, rest + slack
        else:
            rest, slack = 1 / value - 1 / self.values, 8 * np.finfo(float).eps / value
            with np.errstate(divide="ignore"):
                low, high = 1 / np.maximum(rest + slack, 0.0), 1 / np.maximum(rest - slack, 0.0)
        first, last = np.searchsorted(self.values, low, "left"), np.searchsorted(self.values, high, "right")
        for i in np.flatnonzero(last > np.maximum(first, np.arange(len(first)))):
            yield int(i), int(first[i]), int(last[i])

    def _seek(
        self,
        op: Operation,
        queries: Floats,
        table: Floats,
        query: Callable[[int], Tree],
        entry: Callable[[int], Tree],
    ) -> None:
        """Look for the nearest of `query op entry`."""
        if not len(table) or not len(queries):
            return
        wanted = _left_over(op, self.target, queries)
        kept = self._worth(wanted, table, lambda end: _apply(op, queries, end))

        def value(q: Places, f: Ints) -> Floats:
            return _apply(op, queries[kept][q], table[f])

        self._walk(value, wanted[kept], table, lambda q, f: (op, query(int(kept[q])), entry(f)))

    def _seek_three(self, op: Operation, other: Operation, inner: Operation) -> None:
        """Look for the nearest of one piece `op` (another `other` a pair)."""
        table, values = self.pairs(inner), self.values
        if not len(table):
            return
        # Where nothing can be left, the nearest is the least that adds (sum), or the most (share).
        left = np.clip(_left_over(op, self.target, values), 1e-200, 1e200)
        rest = _apply(other, values[[0, -1]], table[[0, -1]])
        rows = self._worth(left, rest, lambda end: _apply(op, values, end))
        wanted = _left_over(other, left[rows][:, None], values[None, :]).ravel()
        outer, middle = np.repeat(values[rows], len(values)), np.tile(values, len(rows))
        kept = self._worth(wanted, table, lambda end: _apply(op, outer, _apply(other, middle, end)))
        outer, middle = outer[kept], middle[kept]

        def value(q: Places, f: Ints) -> Floats:
            return _apply(op, outer[q], _apply(other, middle[q], table[f]))

        def tree(q: int, f: int) -> Tree:
            row, column = divmod(int(kept[q]), len(values))
            return op, int(rows[row]), (other, column, self._pair(inner, f))

        self._walk(value, wanted[kept], table, tree)

    def _worth(self, wanted: Floats, table: Floats, at: Callable[[Floats], Floats]) -> Ints:
        """Return the queries that can come as near as what was met: inside the table, or near enough at its end."""
        inside = (wanted >= table[0]) & (wanted <= table[-1])
        if math.isinf(self._met[0]):
            return np.arange(len(wanted))
        end = np.where(wanted < table[0], table[0], table[-1])
        return np.flatnonzero(inside | (self._error(at(end)) <= self._met[0]))

    def _walk(
        self, value: Callable[[Places, Ints], Floats], wanted: Floats, table: Floats, tree: Callable[[int, int], Tree]
    ) -> None:
        """Take the nearest neighbours of every query, below and above, in the order of their error.

        One that needs more of a piece than there are makes room for the next neighbour on its side.
        """
        if not len(wanted):
            return
        size = len(table)
        place = np.searchsorted(table, wanted)
        sides = np.clip(place - 1, 0, size - 1), np.clip(place, 0, size - 1)
        errors = np.concatenate([self._error(value(slice(None), side)) for side in sides])
        # Most often one of the first few is affordable; sorting all 10^6 would take longer than asking again with more.
        keep = min(64, len(errors))
        while True:
            first = np.argpartition(errors, keep - 1)[:keep]
            bound = float(errors[first].max()) if keep < len(errors) else math.inf
            heap = []
            for number in first:
                side, query = divmod(int(number), len(wanted))
                heap.append((float(errors[number]), query, int(sides[side][query]), 2 * side - 1))
            if self._from_heap(heap, bound, value, size, tree) or keep >= len(errors):
                return
            keep = min(keep * 8, len(errors))

    def _from_heap(
        self,
        heap: list[tuple[float, int, int, int]],
        bound: float,
        value: Callable[[Places, Ints], Floats],
        size: int,
        tree: Callable[[int, int], Tree],
    ) -> bool:
        """Say whether the heap held the answer: something allowed, or nothing as near as what was met before."""
        heapq.heapify(heap)
        while heap and heap[0][0] <= bound:
            error, query, at, step = heapq.heappop(heap)
            if error >= self._met[0]:
                return True
            made = tree(query, at)
            if self._allowed(made):
                self._met = (error, made)
                return True
            if 0 <= at + step < size:
                nearer = value(np.array([query]), np.array([at + step]))
                heapq.heappush(heap, (float(self._error(nearer)[0]), query, at + step, step))
        return False

    def _allowed(self, tree: Tree) -> bool:
        enough = all(self.counts[place] >= needed for place, needed in Counter(leaves(tree)).items())
        return enough and self.allowed(tree)

    def _error(self, values: Floats) -> Floats:
        """Return how far the whole is off, that of the part beside included."""
        return np.asarray(np.abs(joined(values, self.beside) - joined(self.target, self.beside)))


def joined(value: float | Floats, beside: float) -> float | Floats:
    """Return 1/(1/value + 1/beside), in the unit of both (Kirchhoff's laws); `value` itself beside nothing, which is infinite."""
    with np.errstate(divide="ignore"):
        return 1.0 / (1.0 / np.asarray(value, dtype=float) + 1.0 / beside) if math.isfinite(beside) else value


def _apply(op: Operation, a: Floats, b: Floats) -> Floats:
    total: Floats = a + b
    if op == "sum":
        return total
    product: Floats = a * b
    product /= total
    return product


def _left_over(op: Operation, target: float | Floats, part: Floats) -> Floats:
    """Return what must be combined with `part` to make `target`; infinite or below zero where nothing does."""
    if op == "sum":
        return np.asarray(target - part)
    with np.errstate(divide="ignore", invalid="ignore"):
        left = 1.0 / (1.0 / target - 1.0 / part)
    return np.where(left > 0, left, np.inf)
