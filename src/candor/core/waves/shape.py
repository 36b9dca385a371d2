"""The shape of a waveform's levels: overshoot, aberration, tilt."""

from __future__ import annotations

import math
from itertools import pairwise
from statistics import NormalDist

import numpy as np

from candor.core.late_dataclass import dataclass
from candor.core.waves.edges import Edges
from candor.core.waves.levels import Levels
from candor.core.waves.wave_figure import Figure, Untold, mean_of
from candor.core.waves.waveform import Floats, Waveform
from candor.core.worded import worded

MOST_PLATEAUS = 8  # that are looked at
MOST_SAMPLES = 200  # of one, for its line
FEWEST = 8  # samples of one that say anything
FEWEST_OF_LINE = 5  # samples of a cubic
SURELY = 3.0  # times its u, that a step between thirds of a plateau must be
GOES_ON = 0.8  # of the step before: what hardly slows down is a tilt, not an approach
EDGE_OVER = 4.0  # times what it takes from 40 to 60 %
STRAIGHT = 0.12  # of the amplitude, that the middle of a level may lie beside its chord


@dataclass(frozen=True, eq=False)
class Plateau:
    """What lies between two edges.

    Attributes
    ----------
    values, settled : array of shape (samples,)
        From edge to edge, and where both are over, in the unit of the waveform.
    is_top : bool
    lead, trail : float
        Samples from the half crossing before it to the first settled one, and from the last one to the half crossing after it.
    """

    values: Floats
    is_top: bool
    settled: Floats
    lead: float
    trail: float


def plateaus(wave: Waveform, middle: tuple[Edges, Edges]) -> list[Plateau]:
    """Return what lies between neighbouring edges, in the unit of the waveform.

    An edge counts as over four times as long after its half crossing as it took from 40 to 60 %: of a single pole 92 % is
    there (common practice, no source).
    """
    edges = sorted(
        (*one, is_top)
        for found, is_top in zip(middle, (True, False), strict=True)
        for one in zip(found.starts[:MOST_PLATEAUS].tolist(), found.ends[:MOST_PLATEAUS].tolist(), strict=True)
    )
    kept = []
    for (left, begin, is_top), (end, reached, _) in pairwise(edges):
        first, last = (
            math.ceil((begin - wave.start_s) / wave.interval_s),
            math.floor((end - wave.start_s) / wave.interval_s),
        )
        skip, cut = (round(EDGE_OVER * took / wave.interval_s) for took in (begin - left, reached - end))
        part = wave.values[first:last]
        settled = part[skip : max(len(part) - cut, 0)]
        if len(settled) < FEWEST:
            continue
        rose, fell = (
            ((one + two) / 2 - wave.start_s) / wave.interval_s for one, two in ((left, begin), (end, reached))
        )
        lead, trail = first + skip - rose, fell - (first + skip + len(settled) - 1)
        kept.append(Plateau(values=part, is_top=is_top, settled=settled, lead=lead, trail=trail))
    return kept


def still_to_go(wave: Waveform, found: list[Plateau], is_top: bool, level: float) -> float:
    """Return how far a level lies from where its plateaus go to, in the unit of the waveform; 0 where they rest, or go on straight.

    The means of their thirds are taken for three points of one approach by a constant ratio (A. C. Aitken 1926).
    """
    own = [p for p in found if p.is_top == is_top]
    if not own:
        return 0.0
    thirds = np.array([[float(part.mean()) for part in np.array_split(p.settled, 3)] for p in own])
    count = sum(len(p.settled) for p in own) / 3
    step = float(np.mean(thirds[:, 2] - thirds[:, 1]))
    gap = _goes_to(thirds) - level
    if abs(step) <= SURELY * wave.u_sample * math.sqrt(2 / max(count, 1.0)) or not math.isfinite(gap):
        return 0.0
    # What the plateaus say of it scatters by more than white noise does: each is left out in turn (J. W. Tukey's jackknife).
    without = [x for i in range(len(own)) if math.isfinite(x := _goes_to(np.delete(thirds, i, 0)) - level)]
    scatter = math.sqrt(len(without) - 1) * float(np.std(without)) if len(without) > 1 else 0.0
    return math.hypot(gap, 2 * scatter)


def _goes_to(thirds: Floats) -> float:
    """Return where an approach by a constant ratio ends, by means of thirds, shape (plateaus, 3); not a number where none is."""
    if not len(thirds):
        return math.nan
    one, two, three = thirds.mean(0)
    first, second = two - one, three - two
    ratio = second / first if first else math.nan
    return float(three + second * ratio / (1 - ratio)) if 0 < ratio < GOES_ON else math.nan


def overshoot_and_aberration(wave: Waveform, levels: Levels, found: list[Plateau]) -> list[Figure | Untold]:
    """Return overshoot and aberration as shares of the amplitude.

    Overshoot is how far it goes beyond the level after an edge (IEEE 181-2011, from memory), above the top or below the base, the
    greater; aberration from peak to peak from where it first reaches the level. What noise adds to a greatest is taken out by half,
    and stands in U.
    """
    tops, bases = [p for p in found if p.is_top], [p for p in found if not p.is_top]
    rests = ([p for p in tops if levels.top_rests], [p for p in bases if levels.base_rests])
    if not any(rests):
        why = (
            worded("waves.it_rests_at_neither_level_after")
            if found
            else worded("waves.no_level_between_two_edges_is")
        )
        return [Untold("overshoot", why), Untold("aberration", why)]
    size = levels.amplitude
    over = [(float(p.values.max()) - levels.top) / size for p in rests[0]] + [
        (levels.base - float(p.values.min())) / size for p in rests[1]
    ]
    swings = [_swing(p, levels, wave.resolution) / size for p in (*rests[0], *rests[1])]
    each = _scatter(wave, [*rests[0], *rests[1]]) / size
    common = max(levels.u_base, levels.u_top) / size
    # The greatest of so many samples stands over the truth by the greatest of the noise, or by that of one sample, where the shape
    # itself is greatest there: between the two, rectangular.
    stands_over = each * _greatest(sum(len(p.values) for p in (*rests[0], *rests[1])))
    worst = max(max(over) - stands_over / 2, 0.0)
    swing = max(max(swings) - stands_over, 0.0)
    u_over = math.hypot(each, common, stands_over / 2 / math.sqrt(3))
    u_swing = math.hypot(math.sqrt(2) * each, stands_over / math.sqrt(3), 1.5 * wave.resolution / size / math.sqrt(3))
    noise = worded("waves.noise_is_of_it", noise=3 * wave.noise / size) if wave.noise else ""
    swung = worded("waves.from_peak_to_peak_once_it", noise=noise)
    words = worded("waves.beyond_the_level_after_an_edge", over=len(over), noise=noise)
    return [
        Figure("overshoot", worst, "1", u_over, count=len(over), words=words),
        Figure("aberration", swing, "1", u_swing, count=len(swings), words=swung),
    ]  # fmt: skip


def _scatter(wave: Waveform, found: list[Plateau]) -> float:
    """The standard deviation of samples about a level, in the unit of the waveform: by what changes from one to the next, or, where
    noise is of another colour, by the last half of each settled level about its own line."""
    squares, count = 0.0, 0
    for plateau in found:
        late = plateau.settled[len(plateau.settled) // 2 :]
        if len(late) < FEWEST_OF_LINE:
            continue
        places = np.linspace(-1.0, 1.0, len(late))
        left = late - np.polynomial.polynomial.polyval(places, np.polynomial.polynomial.polyfit(places, late, 1))
        squares, count = squares + float(left @ left), count + len(late) - 2
    return max(wave.u_sample, math.sqrt(squares / count) if count else 0.0)


def _greatest(count: int) -> float:
    """The median of the greatest of so many normal figures, in standard deviations (by definition: Φ(x)^n = 1/2)."""
    return max(NormalDist().inv_cdf(0.5 ** (1 / max(count, 1))), 0.0)


def _swing(plateau: Plateau, levels: Levels, count: float) -> float:
    level = levels.top if plateau.is_top else levels.base
    # A level between two counts is reached at the nearer one.
    near = plateau.values >= level - count / 2 if plateau.is_top else plateau.values <= level + count / 2
    reached = np.flatnonzero(near)
    # Likewise at its end, where the next edge begins.
    part = plateau.values[reached[0] : reached[-1] + 1] if len(reached) else plateau.values
    return float(part.max() - part.min())


def tilt(wave: Waveform, levels: Levels, found: list[Plateau]) -> Figure | Untold:
    """Return the tilt as a share: (start - end) / jump at the edge before it, which for a corner fc is tanh(π fc / 2f).

    Start and end of each level by a cubic through it; the older figure over half the amplitude is twice this (IEEE 181-2011,
    5.5, from memory).
    """
    if not _is_level(found, levels):
        return Untold("tilt", worded("waves.what_lies_between_its_edges_is"))
    shares, other = (_shares([_ends(p, degree) for p in found], levels) for degree in (3, 2))
    if not shares:
        return Untold("tilt", worded("waves.no_two_levels_on_both_sides"))
    length = min(len(p.values) for p in found)
    each = 3 * wave.u_sample / math.sqrt(min(length, MOST_SAMPLES)) / levels.amplitude * math.sqrt(2)
    # A cubic through each level; by how much a parabola says otherwise, the curve is not known, rectangular.
    bend = abs(sum(shares) / len(shares) - sum(other) / len(other)) / math.sqrt(3) if other else 0.0
    value, u = mean_of(shares, each, bend)
    return Figure(
        "tilt",
        value,
        "1",
        u,
        count=len(shares),
        words=worded("waves.start_end_jump_at_the_edge"),
    )


def _is_level(found: list[Plateau], levels: Levels) -> bool:
    """Whether what lies between edges is nearly straight: of a triangle or a sine it is not."""
    bent = [
        abs(float(p.settled[len(p.settled) // 2]) - float(p.settled[0] + p.settled[-1]) / 2)
        for p in found
        if len(p.settled)
    ]
    return bool(bent) and float(np.median(bent)) < STRAIGHT * levels.amplitude


def _shares(lines: list[tuple[float, float]], levels: Levels) -> list[float]:
    return [
        (start - end) / (start - before)
        for (_, before), (start, end) in pairwise(lines)
        if abs(start - before) > levels.amplitude / 4
    ]


def _ends(plateau: Plateau, degree: int) -> tuple[float, float]:
    """The curve through a settled level, its outer twentieths left out, at the half crossings before and after it."""
    values = plateau.settled
    places = np.linspace(0.0, 1.0, len(values))
    keep = np.flatnonzero((places >= 0.05) & (places <= 0.95))[:: max(len(values) // MOST_SAMPLES, 1)]
    if len(keep) < FEWEST_OF_LINE:
        return float(values[0]), float(values[-1])
    line = np.polynomial.Polynomial.fit(places[keep], values[keep], degree)
    steps = len(values) - 1
    return float(line(-plateau.lead / steps)), float(line(1.0 + plateau.trail / steps))
