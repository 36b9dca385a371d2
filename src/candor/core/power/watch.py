"""Watching a state on the way up: each reading between its band and its cut line, what was expected, and what creeps."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from candor.core.power.plan import Band, Cut, PlanStep, unit_of
from candor.core.quantities import engineering

RISE = 0.03  # of the watts, by which they climb at a constant line before it is said: common practice, no source
RISE_S = 60.0
SAME_LINE = 0.01

State = Literal["in band", "low", "high", "cut", "no band", "unknown"]


@dataclass(frozen=True)
class Watched:
    """What a reading means in a state."""

    name: str
    state: State
    sentence: str

    @property
    def is_cut(self) -> bool:
        """Whether the plug must come out."""
        return self.state == "cut"


def judge(step: PlanStep, name: str, value: float, since_s: float) -> Watched:
    """Judge a reading, V, W or A, so many s after its state began."""
    unit, cut, band = unit_of(name), step.cut(name), step.band(name)
    read = f"{name} {engineering(value, unit, 4)}"
    if cut is not None and is_beyond(cut, value) and since_s >= cut.after_s:
        why = f": {cut.why}" if cut.why else ""
        return Watched(name, "cut", f"{read} is beyond {engineering(cut.beyond, unit, 3)}{why}. Plug out.")
    if band is None:
        return Watched(name, "no band", f"{read}; nothing is said of it in this state.")
    return _in_band(band, value, read, unit)


def _in_band(band: Band, value: float, read: str, unit: str) -> Watched:
    ends = f"{engineering(band.low, unit, 3)} to {engineering(band.high, unit, 3)}"
    if band.low <= value <= band.high:
        return Watched(band.name, "in band", f"{read}, within {ends}.")
    if band.low <= -value <= band.high:
        return Watched(band.name, "low", f"{read}: turned round it is within {ends}. Are the leads, or the sign?")
    # Away from zero is high, also on a rail below the chassis.
    is_high = value > band.high if band.high + band.low >= 0 else value < band.low
    state: State = "high" if is_high else "low"
    return Watched(band.name, state, f"{read}: {state}, expected {ends} in this state.")


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


def creeping(watts: Sequence[tuple[float, float]], line: Sequence[tuple[float, float]] = ()) -> str:
    """Say it where the watts climb at a constant line: a filter that leaks more and more, or a load that runs away.

    Parameters
    ----------
    watts, line : sequence of (float, float)
        Time, s, and W or V; in order.
    """
    late = [point for point in watts if point[0] >= watts[-1][0] - 5 * RISE_S] if watts else []
    if len(late) < 3 or late[-1][0] - late[0][0] < RISE_S:
        return ""
    third = max(len(late) // 3, 1)
    first = sum(w for _, w in late[:third]) / third
    last = sum(w for _, w in late[-third:]) / third
    volts = [v for t, v in line if t >= late[0][0]]
    if volts and max(volts) - min(volts) > SAME_LINE * max(volts):
        return ""
    grows = all(later[1] >= earlier[1] for earlier, later in pairwise(late))
    if first > 0 and last > (1 + RISE) * first and grows:
        return (
            f"The watts climb at a constant line, {first:.3g} to {last:.3g} W: something leaks more and more. Plug "
            "out, and feel what is warm."
        )
    return ""


def proposed_rails(names: Sequence[str], meters: int, reference: str = "") -> tuple[str, ...]:
    """Return which rails to watch where there are fewer meters than rails: the reference rail first, the others hang on it."""
    first = [name for name in names if name == reference]
    return (*first, *(name for name in names if name != reference))[: max(meters, 0)]
