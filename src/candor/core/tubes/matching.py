"""Matching tubes over all on hand: pairs and quads by least total mismatch, and the groups that cannot be told apart."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from functools import cache

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import RangeError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded

COVERAGE = 2.0  # U of the difference of two = 2 u
PROBABILITY = math.erf(COVERAGE / math.sqrt(2))  # that two alike differ by no more
BALANCE = 0.05  # of their mean, that two sections may differ: common practice, no source
MOST_TWINS = 120  # tubes of several sections that are matched over all on hand


@dataclass(frozen=True)
class Measured:
    """One section of one tube.

    Attributes
    ----------
    tube, section : str
        The section is empty where a tube has one.
    figure : float
        Emission or transconductance, in any unit, of one sitting: what all share cancels in a difference.
    u : float
        Standard uncertainty of this one alone, in the same unit: scatter and reading, not what all share.
    """

    tube: str
    section: str
    figure: float
    u: float


@dataclass(frozen=True)
class Tube:
    """A tube by its sections, in order."""

    name: str
    figures: tuple[float, ...]
    us: tuple[float, ...]

    @property
    def mean(self) -> float:
        """Of its sections, in the unit of the figures."""
        return sum(self.figures) / len(self.figures)


@dataclass(frozen=True)
class MatchedSet:
    """Tubes that go together.

    Attributes
    ----------
    tubes : tuple of str
    mismatch : float
        From the least to the greatest of all their sections, in the unit of the figures.
    u : float
        Of the difference of those two, in the unit of the figures.
    count : int
        How many figures are compared: those of all tubes on hand, as in the groups that cannot be told apart.
    told_apart : bool
        Whether the mismatch is more than U: closer they cannot be told apart.
    """

    tubes: tuple[str, ...]
    mismatch: float
    u: float
    count: int = 2

    @property
    def expanded(self) -> float:
        """U of the mismatch, in the unit of the figures: of many that are alike the least and the greatest lie farther apart."""
        return factor_of_range(self.count) * self.u

    @property
    def told_apart(self) -> bool:
        """Whether the mismatch is more than its U."""
        return self.mismatch > self.expanded


@dataclass(frozen=True)
class Matching:
    """All sets, the total of their mismatch, who is left over, and groups in which no two can be told apart."""

    sets: tuple[MatchedSet, ...]
    total: float
    left_over: tuple[str, ...]
    alike: tuple[tuple[str, ...], ...]


def tubes_of(measured: Iterable[Measured]) -> tuple[Tube, ...]:
    """Return tubes with their sections.

    Raises
    ------
    ValueTextError
        Where a section is given twice, or one tube has fewer sections than the others: two were recorded as one.
    RangeError
        Where a figure is not a number, or a u below zero.
    """
    found: dict[str, dict[str, Measured]] = {}
    for one in measured:
        if not math.isfinite(one.figure) or not one.u >= 0:
            raise RangeError(
                f"{one.tube} {one.section}".strip()
                + worded("tubes.with_u_is_not_a_figure", figure=one.figure, u=one.u),
                value=f"{one.figure:g}",
            )
        if one.section in found.setdefault(one.tube, {}):
            section = f"section {one.section}" if one.section else "its one section"
            raise ValueTextError(
                worded("tubes.is_given_twice_each_once_was", tube=one.tube, section=section),
                value=one.tube,
            )
        found[one.tube][one.section] = one
    counts = {len(sections) for sections in found.values()}
    if len(counts) > 1:
        most = max(counts)
        odd = next(name for name, sections in found.items() if len(sections) < most)
        raise ValueTextError(
            worded("tubes.has_of_the_sections_that_others", odd=odd, found=len(found[odd]), most=most),
            value=odd,
        )
    tubes = [
        Tube(
            name, tuple(sections[k].figure for k in sorted(sections)), tuple(sections[k].u for k in sorted(sections))
        )
        for name, sections in found.items()
    ]
    return tuple(tubes)


def match(tubes: Sequence[Tube], size: int = 2) -> Matching:
    """Return as many sets of `size` tubes as there can be, with the least total mismatch over all on hand, in their unit.

    Of one section each: sorted, the best sets stand side by side, for an exchange of two never makes both closer; who is left
    over is chosen by dynamic programming. Pairs of several sections by minimum-weight matching (J. Edmonds, 1965).

    Raises
    ------
    RangeError
        Where there are fewer tubes than make a set, too many of several sections, or these are to make larger sets than pairs.
    """
    if size < 2 or len(tubes) < size:
        raise RangeError(
            worded("tubes.tube_make_no_set_of", tubes=len(tubes), tubes_2="s" * (len(tubes) != 1), size=size),
            value=str(len(tubes)),
        )
    if all(len(t.figures) == 1 for t in tubes):
        groups = _side_by_side(sorted(tubes, key=lambda t: t.figures[0]), size)
    elif size == 2:
        groups = _pairs(tubes)
    else:
        raise RangeError(worded("tubes.tubes_of_several_sections_are_matched"), value=str(size))
    count = sum(len(t.figures) for t in tubes)
    sets = tuple(sorted((_set(group, count) for group in groups), key=lambda s: (s.mismatch, s.tubes)))
    used = {name for one in sets for name in one.tubes}
    left_over = tuple(t.name for t in tubes if t.name not in used)
    return Matching(sets=sets, total=sum(s.mismatch for s in sets), left_over=left_over, alike=alike(tubes))


def _set(group: Sequence[Tube], count: int = 2) -> MatchedSet:
    every = [(figure, u) for t in group for figure, u in zip(t.figures, t.us, strict=True)]
    low, high = min(every), max(every)
    return MatchedSet(tuple(t.name for t in group), high[0] - low[0], math.hypot(low[1], high[1]), count)


def _side_by_side(ordered: Sequence[Tube], size: int) -> list[list[Tube]]:
    """The best neighbours, as many sets as there can be: best[i][s] is the least total of the first i tubes with s left over."""
    count = len(ordered)
    spare = count % size
    best = [[math.inf] * (spare + 1) for _ in range(count + 1)]
    best[0][0] = 0.0
    taken = [[False] * (spare + 1) for _ in range(count + 1)]
    for i in range(1, count + 1):
        for s in range(spare + 1):
            skipped = best[i - 1][s - 1] if s else math.inf
            spread = ordered[i - 1].figures[0] - ordered[i - size].figures[0] if i >= size else math.inf
            joined = best[i - size][s] + spread if i >= size else math.inf
            best[i][s], taken[i][s] = min((joined, True), (skipped, False))
    groups, i, s = [], count, spare
    while i:
        if taken[i][s]:
            groups.append(list(ordered[i - size : i]))
            i -= size
        else:
            i, s = i - 1, s - 1
    return groups


def _pairs(tubes: Sequence[Tube]) -> list[list[Tube]]:
    if len(tubes) > MOST_TWINS:
        raise RangeError(
            worded("tubes.tubes_of_several_sections_up_to", tubes=len(tubes), most_twins=MOST_TWINS),
            value=str(len(tubes)),
        )
    from networkx import Graph, min_weight_matching  # imported here: slow to load, and only where twins are matched

    graph = Graph()
    graph.add_nodes_from(range(len(tubes)))
    graph.add_weighted_edges_from(
        (i, j, _set((tubes[i], tubes[j])).mismatch) for i in range(len(tubes)) for j in range(i + 1, len(tubes))
    )
    return [[tubes[i], tubes[j]] for i, j in (sorted(pair) for pair in min_weight_matching(graph))]


def alike(tubes: Sequence[Tube]) -> tuple[tuple[str, ...], ...]:
    """Return groups of two or more in which no two differ by more than the U of their difference.

    U = k √(u1² + u2²), k by how many are compared (J. W. Tukey and C. Y. Kramer, 1956, from memory): what a sitting has in common
    cancels. Tubes of several sections by their means. A group is a longest run of neighbours by their figures, and whatever else
    can be told apart from none of it and of one another: what is known poorly may be alike to a run that it does not stand in.
    """
    k = factor_of_range(len(tubes))
    ordered = sorted(tubes, key=lambda t: t.mean)
    us = np.array([math.sqrt(sum(u * u for u in t.us)) / len(t.us) for t in ordered])
    means = np.array([t.mean for t in ordered])
    close = np.abs(means[:, None] - means[None, :]) <= k * np.hypot(us[:, None], us[None, :])
    groups = {_grown(run, close) for run in _runs(close)}
    return tuple(tuple(ordered[i].name for i in group) for group in sorted(groups) if len(group) > 1)


def _runs(close: NDArray[np.bool_]) -> Iterator[range]:
    """Yield every run of neighbours that is close, each to all others of it, and cannot be longer."""
    first = 0
    for last in range(len(close)):
        apart = np.flatnonzero(~close[first : last + 1, last])
        if len(apart):
            yield range(first, last)
            first += int(apart[-1]) + 1
    yield range(first, len(close))


def _grown(run: range, close: NDArray[np.bool_]) -> tuple[int, ...]:
    """Return a run with all that is close to every one of it, in order, each also to what was taken before it."""
    group = list(run)
    near: NDArray[np.bool_] = np.asarray(close[run.start : run.stop].all(axis=0))
    near[run.start : run.stop] = False
    for other in np.flatnonzero(near):
        if near[other]:
            group.append(int(other))
            near &= close[other]
    return tuple(sorted(group))


@cache
def factor_of_range(count: int) -> float:
    """Return k: `count` alike figures lie within k √(u1² + u2²) of one another with 95.45 per cent; 2 of two figures.

    By the distribution of the range of normal figures (H. A. David, H. N. Nagaraja, Order Statistics, 2003, 2.3), P(R <= q u)
    = n ∫ φ(z) (Φ(z + q) - Φ(z))^(n-1) dz, k = q/√2.
    """
    if count <= 2:
        return COVERAGE
    from scipy.special import ndtr  # imported here: slow to load

    z = np.linspace(-9.0, 9.0, 3601)
    density = np.exp(-0.5 * z * z) / math.sqrt(2 * math.pi)

    def within(q: float) -> float:
        return float(count * np.trapezoid(density * (ndtr(z + q) - ndtr(z)) ** (count - 1), z))

    low, high = COVERAGE, 12.0
    for _ in range(50):
        middle = (low + high) / 2
        low, high = (middle, high) if within(middle) < PROBABILITY else (low, middle)
    return high / math.sqrt(2)


@dataclass(frozen=True)
class Balance:
    """How far the sections of a tube differ.

    Attributes
    ----------
    share, expanded : float
        Of their mean, and its U.
    within : bool or None
        Whether that is within 5 per cent; None where its U does not let one tell.
    """

    share: float
    expanded: float
    within: bool | None


def balance_of(tube: Tube) -> Balance | None:
    """Return how far the sections of a tube differ, None of one section: within 5 per cent is alike (common practice, no source).

    What is inside by U is within, what is outside by U is not, the rest cannot be told (JCGM 106, 8.3).
    """
    if len(tube.figures) < 2 or tube.mean == 0:
        return None
    spread, u = max(tube.figures) - min(tube.figures), math.sqrt(sum(x * x for x in tube.us))
    share = spread / abs(tube.mean)
    expanded = COVERAGE * u / abs(tube.mean)
    within = True if share + expanded <= BALANCE else False if share - expanded > BALANCE else None
    return Balance(share, expanded, within)
