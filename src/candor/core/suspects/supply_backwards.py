"""A supply from its rails backwards: what the winding, the rectifier, the filter and the load must be to make what was measured.

Every figure of the supply is varied and the circuit stepped through time anew; what was measured is held against each, with all
other figures within what such supplies have. One figure off at a time: its evidence is a sum of Gaussians about the steps of it
(the linear Gaussian model; D. J. C. MacKay, Neural Computation 4, 1992). How often, and how far: common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import replace
from itertools import combinations
from typing import NamedTuple

import numpy as np

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.power.supply import calculate_supply
from candor.core.power.supply_read import SupplyRead
from candor.core.power.typed import TypedSupply
from candor.core.suspects.observed import Floats
from candor.core.worded import worded

FEWEST = 2  # readings from which anything is said
MEAN_U, RIPPLE_U, OPEN_U = (
    0.008,
    0.10,
    0.008,
)  # standard uncertainties, shares: a bench meter; a ripple read off a screen
MODEL_U = 0.01  # of a calculated rail: 1.05 of a whole process, see docs/calculations.md
NAMED, WORTH, ALIKE, RARE = 6, 0.02, 1.2, 0.01
TRUSTED = 0.8  # of the evidence: a supply has more in it than any model
NOTHING = 0.55  # how often nothing is off


@dataclass(frozen=True)
class Figure:
    """A figure of a supply: its name, how well a sound one is known (ln), the steps it takes where it is off (ln), how often."""

    name: str
    sound: float
    steps: tuple[float, ...]
    often: float


# What a sound one has, how far each goes, how often: common practice, no source.
FIGURES = {
    "winding": Figure("winding", 0.03, (-0.45, -0.2, -0.08, 0.08, 0.2), 0.06),
    "winding ohms": Figure("winding ohms", 0.15, (0.5, 1.1, 1.9), 0.02),
    "rectifier": Figure("rectifier", 0.2, (-2.3, -1.4, -0.7), 0.11),
    "silicon": Figure("silicon", 0.0, (1.0,), 0.05),
    "load": Figure("load", 0.12, (-3.0, -1.0, -0.45, 0.35, 0.7), 0.11),
    "capacitor": Figure("capacitor", 0.12, (-4.0, -2.0, -1.0, -0.5), 0.1),
    "dropper": Figure("dropper", 0.06, (-0.7, -0.25, 0.25, 0.7), 0.05),
}


class Way(NamedTuple):
    """A figure off by a step (ln): log of its prior, what is then shown (ln V), and how that moves for the width of the step."""

    figure: str
    which: int
    step: float
    log_prior: float
    mean: Floats
    column: Floats

    @property
    def key(self) -> tuple[str, int]:
        """The figure, whatever the step."""
        return self.figure, self.which


class Scored(NamedTuple):
    """A way against what was measured: its evidence; how far beyond its step, in widths, and the variance; what is left over."""

    evidence: float
    more: float
    variance: float
    left_over: float
    explained: Floats


@dataclass(frozen=True)
class SupplySuspect:
    """One explanation: of which figure (a key of `FIGURES`), which capacitor or resistor (1 the first; 0 where there is one alone),
    its probability, how far it is off (ln) with one standard deviation, and what should then have been measured, ln V."""

    figure: str
    which: int
    probability: float
    amount: float
    u: float
    explained: Floats
    group: int = -1


@dataclass(frozen=True)
class SupplyWeighed:
    """What explains the rails, the likeliest first; how seldom chance leaves as much; by name what was measured and calculated, V.

    `next` says what would tell most: "winding open", "C2 ripple", "C1" and the like, with its bits; empty where nothing would.
    """

    suspects: tuple[SupplySuspect, ...]
    left_over: float
    rows: tuple[tuple[str, float, float], ...]
    next: tuple[tuple[str, float], ...]

    @property
    def explains(self) -> bool:
        """Whether the likeliest explains what was measured."""
        return self.left_over >= RARE


def weigh_supply(
    asked: TypedSupply, read: SupplyRead, should_stop: Callable[[], bool] = lambda: False
) -> SupplyWeighed | None:
    """Return what explains what was measured of a supply; None where fewer than two rails, ripples or windings were.

    Raises
    ------
    RangeError
        Where the circuit has no answer.
    CancelledError
        When it was stopped.
    """
    values = _values(read)
    if len(values) < FEWEST:
        return None
    names = _names(asked)
    shown = {("", 0, 0.0): _shown(asked, read, should_stop)}
    figures = list(_figures(asked))
    for key, which in figures:
        for step in FIGURES[key].steps:
            shown[key, which, step] = _shown(_varied(asked, key, which, step), read, should_stop)
    nominal = shown["", 0, 0.0]
    slopes = {f: _slope(f, shown, nominal) for f in figures}
    seen = [names.index(name) for name, _ in values]
    measured = np.array([math.log(v) for _, v in values])
    sound = (
        sum(np.outer(s, s) * FIGURES[key].sound ** 2 for (key, _), s in slopes.items())
        + np.eye(len(names)) * MODEL_U**2
    )
    ways = [Way(figure="", which=0, step=0.0, log_prior=math.log(NOTHING), mean=nominal, column=np.zeros(len(names)))]
    for key, which in figures:
        figure, count = FIGURES[key], sum(k == key for k, _ in figures)
        for step in figure.steps:
            mean = shown[key, which, step]
            wide = _width(figure, step)
            share = math.log(figure.often / count / len(figure.steps))
            ways.append(
                Way(
                    figure=key,
                    which=which,
                    step=step,
                    log_prior=share,
                    mean=mean,
                    column=(mean - nominal) / step * wide,
                )
            )
    noise = np.array([_noise(n) for n in names])
    scored = [_score(way, sound, noise, seen, measured) for way in ways]
    scores = np.array([way.log_prior + TRUSTED * s.evidence for way, s in zip(ways, scored, strict=True)])
    shares = np.exp(scores - scores.max())
    shares /= shares.sum()
    likely: dict[tuple[str, int], float] = {}
    for way, share in zip(ways, shares, strict=True):
        likely[way.key] = likely.get(way.key, 0.0) + float(share)
    order = sorted(likely, key=lambda k: -likely[k])[:NAMED]
    suspects = [_suspect(k, likely[k], ways, scored, shares) for k in order if likely[k] >= WORTH]
    best = min(s.left_over for w, s in zip(ways, scored, strict=True) if w.key == order[0])
    rows = tuple((name, v, float(math.exp(nominal[names.index(name)]))) for name, v in values)
    following = _next(ways, shares, names, seen, sound, noise, measured)
    return SupplyWeighed(tuple(_grouped(suspects, noise[seen])), _rare(best, len(seen)), rows, following)


def _values(read: SupplyRead) -> list[tuple[str, float]]:
    found = [(f"C{k}", v) for k, v in sorted(read.means)] + [(f"C{k} ripple", v) for k, v in sorted(read.ripples)]
    return found + ([("winding open", read.open_volts)] if read.open_volts else [])


def _names(asked: TypedSupply) -> list[str]:
    """Everything that can be measured."""
    each = range(1, len(asked.sections) + 1)
    return [*(f"C{k}" for k in each), *(f"C{k} ripple" for k in each), "winding open"]


def _noise(name: str) -> float:
    return OPEN_U if name == "winding open" else RIPPLE_U if name.endswith("ripple") else MEAN_U


def _figures(asked: TypedSupply) -> Iterator[tuple[str, int]]:
    """The figures a supply has, with which capacitor or resistor."""
    yield "winding", 0
    yield "winding ohms", 0
    if asked.rectifier in ("vacuum", "selenium", "mercury"):
        yield "rectifier", 0
    if asked.rectifier != "silicon":
        yield "silicon", 0
    if asked.load_amperes:
        yield "load", 0
    for k, section in enumerate(asked.sections, 1):
        yield "capacitor", k
        if section.series_ohms and not section.henry:
            yield "dropper", k


def _varied(asked: TypedSupply, key: str, which: int, step: float) -> TypedSupply:
    """The same supply with one figure off."""
    by = math.exp(step)
    if key == "winding":
        return replace(asked, volts=asked.volts * by)
    if key == "winding ohms":
        return replace(asked, winding_ohms=asked.ohms * by)
    if key == "load":
        return replace(asked, load_amperes=asked.load_amperes * by)
    if key == "silicon":
        return replace(asked, rectifier="silicon")
    if key == "rectifier":
        if asked.rectifier == "vacuum":
            return replace(asked, perveance=asked.perveance * by)
        if asked.rectifier == "mercury":
            return replace(asked, drop=asked.drop / by)
        return replace(asked, winding_ohms=asked.ohms / by)  # plates that drop more stand in series
    changed = list(asked.sections)
    section = changed[which - 1]
    changed[which - 1] = (
        replace(section, farad=section.farad * by)
        if key == "capacitor"
        else replace(section, series_ohms=section.series_ohms * by)
    )
    return replace(asked, sections=tuple(changed))


def _shown(asked: TypedSupply, read: SupplyRead, should_stop: Callable[[], bool]) -> Floats:
    """What everything would measure, ln V, warm and at the line of the day."""
    netlist = asked.netlist(read.line_ratio, warm=True)
    answer = calculate_supply(netlist, should_stop=should_stop)
    nodes = [e.plus for e in netlist.elements if e.LETTER == "C"]
    found = [answer.nodes[n].mean for n in nodes] + [answer.nodes[n].ripple for n in nodes]
    found.append(asked.open_volts(read.line_ratio) / math.sqrt(2))
    if min(found[: len(nodes)]) <= 0:
        raise RangeError(worded("suspects.nothing_reaches_a_rail_of_this"))
    return np.log(np.maximum(found, 1e-4))


def _slope(figure: tuple[str, int], shown: dict[tuple[str, int, float], Floats], nominal: Floats) -> Floats:
    """How everything moves with a figure near its value: by its smallest step."""
    step = min(FIGURES[figure[0]].steps, key=abs)
    made: Floats = (shown[figure[0], figure[1], step] - nominal) / step
    return made


def _width(figure: Figure, step: float) -> float:
    """Half the way to the steps beside one, as a rectangle's standard deviation; 0 where it is so or it is not."""
    if not figure.sound:
        return 0.0
    steps = figure.steps
    listed = sorted((*steps, 0.0))
    at = listed.index(step)
    gaps = [abs(step - listed[k]) / 2 for k in (at - 1, at + 1) if 0 <= k < len(listed)]
    return max(gaps) / math.sqrt(3)


def _score(way: Way, sound: Floats, noise: Floats, seen: list[int], measured: Floats) -> Scored:
    """Evidence, how far the amount goes beyond its step and its variance (of the width), what is left over, what is explained."""
    key, column = way.figure, way.column
    own = np.outer(column, column)
    whole = (sound + own + np.diag(noise**2))[np.ix_(seen, seen)]
    left = measured - way.mean[seen]
    pull = np.linalg.solve(whole, left)
    size = float(left @ pull)
    evidence = -0.5 * size - 0.5 * float(np.linalg.slogdet(whole)[1])
    more = float(column[seen] @ pull) if key else 0.0
    variance = 1 - float(column[seen] @ np.linalg.solve(whole, column[seen])) if key else 0.0
    explained = way.mean[seen] + ((sound + own)[np.ix_(seen, seen)] @ pull)
    return Scored(evidence=evidence, more=more, variance=max(variance, 0.0), left_over=size, explained=explained)


def _suspect(
    key: tuple[str, int], probability: float, ways: list[Way], scored: list[Scored], shares: Floats
) -> SupplySuspect:
    own = [i for i, w in enumerate(ways) if w.key == key]
    weights = shares[own] / shares[own].sum()
    explained = sum(w * scored[i].explained for w, i in zip(weights, own, strict=True))
    if not key[0]:
        return SupplySuspect(figure="", which=0, probability=probability, amount=0.0, u=0.0, explained=explained)
    wide = np.array([_width(FIGURES[key[0]], ways[i].step) for i in own])
    values = np.array([ways[i].step for i in own]) + np.array([scored[i].more for i in own]) * wide
    mean = float(weights @ values)
    spread = np.array([scored[i].variance for i in own]) * wide**2
    u = math.sqrt(float(weights @ (spread + (values - mean) ** 2)))
    return SupplySuspect(figure=key[0], which=key[1], probability=probability, amount=mean, u=u, explained=explained)


def _grouped(made: list[SupplySuspect], noise: Floats) -> list[SupplySuspect]:
    """Give those a number that explain all that was measured alike."""
    group, found = [-1] * len(made), 0
    for i, j in combinations(range(len(made)), 2):
        if (
            made[i].figure
            and made[j].figure
            and np.abs((made[i].explained - made[j].explained) / noise).max() < ALIKE
        ):
            if group[i] < 0:
                group[i], found = found, found + 1
            group[j] = group[i]
    return [replace(s, group=g) for s, g in zip(made, group, strict=True)]


def _rare(size: float, count: int) -> float:
    from scipy.special import gammaincc  # imported here: slow to load, and only needed once something is weighed

    return float(gammaincc(count / 2, size / 2))


def _next(
    ways: list[Way], shares: Floats, names: list[str], seen: list[int], sound: Floats, noise: Floats,
    measured: Floats,
) -> tuple[tuple[str, float], ...]:  # fmt: skip
    """What would tell most of all that was not measured, with its bits."""
    from candor.core.suspects.next_reading import LEAST_BITS, expected_bits

    others = [i for i in range(len(names)) if i not in seen]
    kept = [i for i in np.argsort(-shares)[:14] if shares[i] > 1e-3]
    if not others or len(kept) < 2:
        return ()
    means, spreads = [], []
    for i in kept:
        whole = sound + np.outer(ways[i].column, ways[i].column)
        gain = np.linalg.solve(whole[np.ix_(seen, seen)] + np.diag(noise[seen] ** 2), whole[np.ix_(seen, others)]).T
        means.append(ways[i].mean[others] + gain @ (measured - ways[i].mean[seen]))
        rest = np.diag(whole[np.ix_(others, others)] - gain @ whole[np.ix_(seen, others)])
        spreads.append(np.sqrt(np.maximum(rest, 0) + noise[others] ** 2))
    keys = list(dict.fromkeys(ways[i].key for i in kept))
    merged, deviations, probabilities = [], [], []
    for key in keys:
        own = [k for k, i in enumerate(kept) if ways[i].key == key]
        w = shares[[kept[k] for k in own]]
        w = w / w.sum()
        mean = w @ np.array([means[k] for k in own])
        merged.append(mean)
        deviations.append(
            np.sqrt(w @ (np.array([spreads[k] for k in own]) ** 2 + (np.array([means[k] for k in own]) - mean) ** 2))
        )
        probabilities.append(float(shares[[kept[k] for k in own]].sum()))
    share = np.array(probabilities) / sum(probabilities)
    bits = expected_bits(share, np.array(merged), np.array(deviations))
    found = [(names[o], float(b)) for o, b in zip(others, bits, strict=True) if b >= LEAST_BITS]
    return tuple(sorted(found, key=lambda f: -f[1]))
