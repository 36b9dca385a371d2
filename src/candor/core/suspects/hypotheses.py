"""What may be wrong, each with the pattern that it leaves on the errors and how large it usually is.

The model of a range: shown = z + g k (x + t(x)); z is in arc and the same on every range, g the gain of a function, k the divider
of the range, t the tracking. Which of them is wrong is a question of patterns: a zero over a gain that was trimmed at full scale
leaves z (1 - x), a gain x, a divider x on its range alone, tracking a bow, a part x times what the network makes of it.
How often each is wrong, and how far, is the experience of benches: common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import field
from functools import cached_property
from itertools import combinations
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass
from candor.core.suspects.observed import Circuit, Floats, Observed, PartPatterns, Place

Kind = Literal[
    "nothing",
    "zero",
    "bridge zero",
    "gain",
    "all gains",
    "tracking",
    "friction",
    "range",
    "part",
    "two parts",
    "reading",
]

# How often each is wrong, all of a kind together: common practice, no source.
PRIORS: dict[Kind, float] = {
    "nothing": 0.65, "zero": 0.08, "bridge zero": 0.03, "gain": 0.08, "all gains": 0.04, "tracking": 0.05, "friction": 0.03,
    "range": 0.05, "part": 0.12, "two parts": 0.01, "reading": 0.02,
}  # fmt: skip
# What a sound instrument has of each, one standard deviation, shares of the arc or ln: within what its maker lets it have.
SOUND_ZERO, SOUND_GAIN, SOUND_TRACKING, SOUND_RANGE = 0.0015, 0.004, 0.002, 0.003
# How far each goes where it is wrong, either way, each as often as the others: tails are heavy.
ZERO, GAIN, TRACKING = (0.01, 0.025, 0.06), (0.025, 0.06, 0.15), (0.012, 0.03)
FRICTION, RANGE, READING = (0.008, 0.02), (0.015, 0.05, 0.15), (0.015, 0.05, 0.2)
PART_TAILS = ((0.45, 3.0), (0.35, 10.0), (0.2, 40.0))  # weight, times of its usual drift
SHORT_OR_OPEN = 0.1  # of a part that is wrong, that it is gone altogether
AROUND = 0.33  # of each of these: what is wrong is not nothing, which is another answer
OUTSIDE = 1.3  # tolerances: how far a part is off at least that is called off
PAIRED = ((3.0, 3.0), (3.0, 15.0), (15.0, 3.0), (15.0, 15.0))  # of two parts: times of their usual drift
PAIR_TRIMMED = 0.03  # ln
MISREAD = 40  # points that are asked whether they were misread
PEGGED = 5.0  # times: a needle that should go farther stands at its stop, and is not read
REACH = 0.2  # ln: how far a trimmer goes, one standard deviation; a part that is gone is not trimmed over
SLOPED = 0.05  # share of the arc: what was read nearer to zero says nothing of a gain
ACTS = 1e-5  # share: what a part must do to some range to be among its suspects
MOST_SHARE = 0.5  # ln: how far the pattern of two parts is straight


@dataclass(frozen=True)
class Component:
    """One way a hypothesis may be so: a known pattern, and columns of unknown amounts with their standard deviations.

    Attributes
    ----------
    log_weight : float
    mean : array, shape (places,)
        What is known of the errors; shares of the arc.
    columns : array, shape (places, amounts)
    spread : array, shape (amounts,)
    trimmed : float
        How far the gains may have been trimmed over it, one standard deviation, ln: as far as the fault goes; 0 where nobody trims.
    amount : float
        What the pattern stands for, where it is known; ln of a part's change.
    scale : array, shape (places,), or None
        What the fault leaves of each range, which a gain set over it multiplies; None where it is all of it.
    """

    log_weight: float
    mean: Floats
    columns: Floats
    spread: Floats
    trimmed: float = 0.0
    amount: float = math.nan
    scale: Floats | None = None

    def gains(self, gains: Floats) -> Floats:
        """Return what gains do to the places where this is so, shape (places, functions)."""
        return gains * self.trimmed if self.scale is None else gains * self.trimmed * self.scale[:, None]


@dataclass(frozen=True)
class Hypothesis:
    """Something that may be wrong: its kind, of what, and the ways it may be so.

    `of` are the key of a function, a range, a point, or the designators of parts.
    """

    kind: Kind
    of: tuple[str, ...]
    prior: float
    components: tuple[Component, ...] = field(repr=False)


def bow(at: NDArray[np.float64]) -> Floats:
    """Return the shape of tracking at places, shares of the arc: nothing at both ends, 1 in the middle."""
    return 4.0 * at * (1.0 - at)


class Columns:
    """The patterns of everything that may be wrong, over the points that were read and those that could be.

    Parameters
    ----------
    places : sequence of Place
    observed : sequence of Observed
        The first of the places, in order.
    """

    def __init__(self, places: Sequence[Place], observed: Sequence[Observed]) -> None:
        self.places = tuple(places)
        self.at = np.array([p.at for p in places])
        self.slope = np.array([p.slope for p in places])
        self.functions = tuple(dict.fromkeys(p.function for p in places))
        self.ranges = tuple(dict.fromkeys(p.range for p in places))
        self.read = frozenset(o.place.range for o in observed), frozenset(o.place.function for o in observed)
        self.of_function = {f: np.array([p.function == f for p in places], float) for f in self.functions}
        self.of_range = {r: np.array([p.range == r for p in places], float) for r in self.ranges}
        self.moves = np.array([p.movement for p in places], float)
        self.polarity = np.array([float(p.polarity) for p in places])
        sides = {o.place.key: {"up": -1.0, "down": 1.0}.get(o.side, 0.0) for o in observed}
        self.side = np.array([sides.get(p.key, 0.0) for p in places])

    def sound(self, circuit: Circuit) -> Floats:
        """Return the covariance that a sound instrument's errors have, shape (places, places).

        The ranges whose parts are known scatter by their parts, the others by what a maker lets a divider have.
        """
        gains = [column * SOUND_GAIN for column in self.gains.T]
        own = [self.slope * m * SOUND_RANGE for r, m in self.of_range.items() if r not in circuit.ranges]
        columns = [
            self.moves * SOUND_ZERO,
            bow(self.at) * self.moves * SOUND_TRACKING,
            self.slope * self.moves * SOUND_GAIN,
            *gains,
            *own,
        ]
        columns += [self.part_column(p) * p.tolerance / math.sqrt(3) for p in circuit.parts]
        stacked = np.stack(columns, axis=1)
        made: Floats = stacked @ stacked.T
        return made

    @cached_property
    def gains(self) -> Floats:
        """What a gain of each function does, shape (places, functions)."""
        gained = self.slope * np.array([p.has_gain for p in self.places], float)
        made: Floats = np.stack([gained * own for own in self.of_function.values()], axis=1)
        return made

    def part_column(self, part: PartPatterns) -> Floats:
        """Return d(error)/d(ln value) of a part at every place."""
        by_range = dict(zip(self.ranges, part.linear(self.ranges), strict=True))
        found: Floats = self.slope * np.array([by_range[p.range] for p in self.places])
        return found

    def part_shares(self, part: PartPatterns) -> Floats:
        """Return by what share each step of a part makes every place show more, shape (steps, places)."""
        rows = [part.shown[p.range] if p.range in part.shown else np.zeros(len(part.steps)) for p in self.places]
        found: Floats = np.clip(np.stack(rows, axis=1), -PEGGED, PEGGED)
        return found


def hypotheses(columns: Columns, observed: Sequence[Observed], circuit: Circuit) -> list[Hypothesis]:
    """Return everything that may explain what was read, with its prior; a kind that nothing was read of is left out.

    Parameters
    ----------
    columns : Columns
    observed : sequence of Observed
    circuit : Circuit
        Its parts as they act on the ranges; empty where none is known.
    """
    ranges, functions = columns.read
    count = len(columns.places)
    ones, still = columns.moves, np.zeros(count)
    found = [
        Hypothesis("nothing", (), PRIORS["nothing"], (Component(0.0, still, np.zeros((count, 0)), np.zeros(0)),))
    ]

    def amounts(
        kind: Kind, of: tuple[str, ...], prior: float, column: Floats, widths: Sequence[float], over: float = 1.0
    ) -> None:
        made = tuple(
            Component(
                -math.log(2 * len(widths)), sign * w * column, column[:, None], np.array([w * AROUND]), trimmed=over * w,
                amount=sign * w, scale=None if kind != "range" else 1 + sign * w * (column != 0),
            )
            for w in widths for sign in (-1.0, 1.0)
        )  # fmt: skip
        found.append(Hypothesis(kind, of, prior, made))

    if any(o.place.movement for o in observed):
        amounts("zero", (), PRIORS["zero"], ones, ZERO)
        amounts("tracking", (), PRIORS["tracking"], bow(columns.at) * ones, TRACKING)
        if {-1.0, 1.0} <= {o.place.polarity for o in observed}:
            amounts("bridge zero", (), PRIORS["bridge zero"], ones * columns.polarity, ZERO)
    if any(o.side in ("up", "down") for o in observed):
        amounts("friction", (), PRIORS["friction"], columns.side, FRICTION, 0.0)
    slopes = {
        f: max((abs(o.place.slope) for o in observed if o.place.function == f and o.place.has_gain), default=0.0)
        for f in functions
    }
    for function in sorted(f for f in functions if slopes[f] > SLOPED):
        amounts(
            "gain",
            (function,),
            PRIORS["gain"] / len(functions),
            columns.slope * columns.of_function[function],
            GAIN,
            0.0,
        )
    if len({o.place.function for o in observed if o.place.movement}) > 1:
        amounts("all gains", (), PRIORS["all gains"], columns.slope * ones, GAIN, 0.0)
    of = {r: next(p.function for p in columns.places if p.range == r) for r in ranges}
    for name in sorted(r for r in ranges if list(of.values()).count(of[r]) > 1):  # of one alone it is the gain
        amounts("range", (name,), PRIORS["range"] / len(ranges), columns.slope * columns.of_range[name], RANGE)
    # Those farthest out, in what each is known to: no other would be called misread.
    outermost = sorted(range(len(observed)), key=lambda i: -abs(observed[i].error) / observed[i].own)[:MISREAD]
    for place in sorted(outermost):
        one, column = observed[place], np.zeros(count)
        column[place] = 1.0
        amounts("reading", (one.place.key,), PRIORS["reading"] / len(observed), column, READING, 0.0)
    acting = [p for p in circuit.parts if any(r in p.shown and np.abs(p.shown[r]).max() > ACTS for r in ranges)]
    for part in acting:
        found.append(Hypothesis("part", (part.ref,), PRIORS["part"] / len(acting), tuple(_steps(columns, part))))
    column_of = {part.ref: columns.part_column(part) for part in acting}
    for first, second in combinations(acting, 2):
        pair = np.stack([column_of[first.ref], column_of[second.ref]], axis=1)
        made = tuple(
            Component(
                -math.log(len(PAIRED)),
                still,
                pair,
                np.minimum([a * first.spread, b * second.spread], MOST_SHARE),
                trimmed=PAIR_TRIMMED,
            )
            for a, b in PAIRED
        )
        prior = PRIORS["two parts"] / (len(acting) * (len(acting) - 1) / 2)
        found.append(Hypothesis("two parts", (first.ref, second.ref), prior, made))
    return found


def drift_weights(part: PartPatterns, outside: float) -> Floats:
    """Return how often a part that is wrong goes to each of its steps, shape (steps,), together 1: shares.

    `outside` is how many tolerances it is off at least.
    """
    steps = np.array(part.steps)
    finite = np.isfinite(steps)
    weights = np.zeros(len(steps))
    inside = steps[finite]
    density = sum(
        weight * np.exp(-0.5 * ((inside - part.upward) / (times * part.spread)) ** 2) / (times * part.spread)
        for weight, times in PART_TAILS
    )
    weights[finite] = density * np.gradient(inside) * (np.abs(inside) >= outside * part.tolerance)
    whole = weights.sum() or 1.0
    weights *= (1 - SHORT_OR_OPEN * bool((~finite).any())) / whole
    weights[~finite] = SHORT_OR_OPEN / max(1, int((~finite).sum()))
    return weights


def _steps(columns: Columns, part: PartPatterns) -> list[Component]:
    """A part at each of its steps, by how often it goes that far: its usual drift, wider, and gone altogether."""
    count = len(columns.places)
    steps = np.array(part.steps)
    finite = np.isfinite(steps)
    inside = steps[finite]
    gaps = np.gradient(inside)
    weights = drift_weights(part, OUTSIDE)
    shares = columns.part_shares(part)
    patterns = shares * columns.slope
    # Between two steps the pattern goes on by its slope: as wide as half a gap.
    slopes = np.zeros_like(patterns)
    slopes[finite] = np.nan_to_num(np.gradient(patterns[finite], inside, axis=0), posinf=0.0, neginf=0.0)
    wide = np.zeros(len(steps))
    wide[finite] = gaps / math.sqrt(12)
    return [
        Component(
            math.log(weights[i]),
            patterns[i],
            slopes[i][:, None],
            np.array([max(wide[i], 1e-9)]),
            trimmed=min(REACH, max(0.002, float(np.abs(patterns[i]).max(initial=0.0)))),
            amount=float(steps[i]),
            scale=1 + shares[i],
        )
        for i in range(len(steps))
        if weights[i] > 0 and np.isfinite(patterns[i]).all() and count
    ]
