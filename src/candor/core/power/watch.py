"""Watching a state on the way up: each reading between its band and its cut line, what was expected, and what creeps."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from typing import Literal

from candor.core.finding import Figure, Finding
from candor.core.late_dataclass import dataclass
from candor.core.power.plan import Band, Cut, PlanStep, unit_of

RISE = 0.03  # of the watts, by which they climb at a constant line before it is said: common practice, no source
RISE_S = 60.0
LEAST_READINGS = 4  # of the watts, before anything is said of their slope
BLOCKS = 12
SURE = 4.0  # times its standard uncertainty that a slope must be, as it is asked every second for hours
SAME_LINE = 0.01

DEAD = 0.25  # of the near end of its band, under which a rail has not come up: common practice, no source
COMES_UP_S = 60.0  # within which tubes and rectifiers are warm: common practice, no source

State = Literal["in band", "low", "high", "cut", "dead", "no band", "unknown"]


@dataclass(frozen=True)
class Watched:
    """What a reading means in a state."""

    name: str
    state: State
    found: Finding

    @property
    def is_cut(self) -> bool:
        """Whether the plug must come out."""
        return self.state == "cut"


def judge(step: PlanStep, name: str, value: float, since_s: float) -> Watched:
    """Judge a reading, V, W or A, so many s after its state began."""
    unit, cut, band = unit_of(name), step.cut(name, since_s), step.band(name)
    figures: dict[str, Figure] = {"name": name, "value": value, "unit": unit}
    if cut is not None and is_beyond(cut, value):
        why = Finding("watch.why", {"why": cut.why}) if cut.why else ""
        return Watched(name, "cut", Finding("watch.cut", figures | {"beyond": cut.beyond, "why": why}))
    if band is None:
        return Watched(name, "no band", Finding("watch.no band", figures))
    figures |= {"low": band.low, "high": band.high}
    state, kind = _in_band(band, value)
    if state == "low" and is_dead(band, value) and since_s >= COMES_UP_S and unit == "V":
        state, kind = "dead", "watch.dead"
    return Watched(name, state, Finding(kind, figures | {"state": state}))


def is_dead(band: Band, value: float) -> bool:
    """Say whether a rail that should be up is nearly nothing, V: under DEAD of the near end of its band (common practice, no
    source)."""
    near = min(abs(band.low), abs(band.high)) if band.low * band.high > 0 else 0.0
    return abs(value) < DEAD * near


def _in_band(band: Band, value: float) -> tuple[State, str]:
    if band.low <= value <= band.high:
        return "in band", "watch.in band"
    if band.low <= -value <= band.high:
        return "low", "watch.turned"
    # Away from zero is high, also on a rail below the chassis.
    is_high = value > band.high if band.high + band.low >= 0 else value < band.low
    return "high" if is_high else "low", "watch.outside"


def is_beyond(cut: Cut, value: float) -> bool:
    """Say whether a value, V, W or A, lies beyond a cut line, away from zero to either side."""
    return abs(value) > cut.beyond


@dataclass(frozen=True)
class EventState:
    """Something expected: seen, due about now, late or still to come; `at_s` is when it is due, s."""

    words: str
    state: Literal["seen", "due", "late", "to come"]
    at_s: float


def events_of(step: PlanStep, since_s: float, seen: Iterable[str]) -> tuple[EventState, ...]:
    """Return how what is expected in a state stands, so many s after it began."""
    happened = {words.casefold() for words in seen}
    found = []
    for event in step.events:
        begin, end = event.at_s - event.within_s, event.at_s + event.within_s
        if event.words.casefold() in happened:
            state: Literal["seen", "due", "late", "to come"] = "seen"
        else:
            state = "to come" if since_s < begin else "due" if since_s <= max(end, begin) else "late"
        found.append(EventState(event.words, state, event.at_s))
    return tuple(found)


def creeping(watts: Sequence[tuple[float, float]], line: Sequence[tuple[float, float]] = ()) -> Finding | None:
    """Return how fast the watts climb at a constant line, None where they do not: a filter that leaks more and more, or a load that
    runs away (common practice, no source).

    Parameters
    ----------
    watts, line : sequence of (float, float)
        Time, s, and W or V; in order.
    """
    late = [point for point in watts if point[0] >= watts[-1][0] - 5 * RISE_S] if watts else []
    if len(late) < LEAST_READINGS or late[-1][0] - late[0][0] < RISE_S:
        return None
    volts = [v for t, v in line if t >= late[0][0]]
    if volts and max(volts) - min(volts) > SAME_LINE * max(volts):
        return None
    slope, u = _slope(late)
    span, mean = late[-1][0] - late[0][0], sum(w for _, w in late) / len(late)
    rise = slope * span
    if mean <= 0 or rise <= RISE * mean or slope <= SURE * u:
        return None
    return Finding("watch.creep", {"slope": 60 * slope, "u": 60 * 2 * u, "rise": rise, "minutes": span / 60})


def _slope(points: Sequence[tuple[float, float]]) -> tuple[float, float]:
    """Return the slope of a line through points and its standard uncertainty, W/s (JCGM 100, H.3).

    Neighbouring readings of a meter may hang together: the points are first averaged in at most BLOCKS blocks of equal time, whose
    scatter about the line counts. So a coarse meter, or one whose noise is slow, is not taken for a climb.
    """
    begin, span = points[0][0], points[-1][0] - points[0][0]
    blocks: dict[int, list[tuple[float, float]]] = {}
    for t, w in points:
        blocks.setdefault(min(int(BLOCKS * (t - begin) / span), BLOCKS - 1), []).append((t, w))
    means = [(sum(t for t, _ in b) / len(b), sum(w for _, w in b) / len(b)) for b in blocks.values()]
    n = len(means)
    if n < LEAST_READINGS:
        return 0.0, math.inf
    mt, mw = sum(t for t, _ in means) / n, sum(w for _, w in means) / n
    sxx = sum((t - mt) ** 2 for t, _ in means)
    slope = sum((t - mt) * (w - mw) for t, w in means) / sxx
    residual = sum((w - mw - slope * (t - mt)) ** 2 for t, w in means) / (n - 2)
    return slope, math.sqrt(residual / sxx)


def proposed_rails(names: Sequence[str], meters: int, reference: str = "") -> tuple[str, ...]:
    """Return which rails to watch where there are fewer meters than rails: the reference rail first, the others hang on it."""
    first = [name for name in names if name == reference]
    return (*first, *(name for name in names if name != reference))[: max(meters, 0)]
