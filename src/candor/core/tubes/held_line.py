"""The line of a tube tester while its button is held: found in a log of it, and what the reading comes to at the line as it was.

A button pressed is a step between one reading of the meter and the next; a line that wanders goes slowly. So a press is a fall of
three readings against the three before, beyond what such steps do otherwise in the same log; its end is the rise after it. How the
steps of the log scatter when nobody presses is the uncertainty of the fall: white, wandering and in counts alike.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.tubes.sag import METER_V
from candor.core.tubes.tester_reading import STEEP
from candor.core.worded import worded

LEAST = 20  # readings of a log, of which a press takes some: with fewer nobody knows what the line does by itself
NEAR = 1 / 2000  # of the line: what falls by less moves no reading that anybody sees
_BESIDE = 3  # readings on either side of a step
_BEYOND = 6.0  # robust standard deviations that a step stands out by
TWICE_READ = METER_V / math.sqrt(6)  # of the difference of two readings of one meter, standard uncertainty, V
TRIED = 0.1  # of what a tried volt of line adds: two readings so near tell it no better (common practice, no source)
_TO_SIGMA = 1.4826  # median absolute deviation of a normal
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class HeldLine:
    """A line as it stood before a press and while the button was held.

    Attributes
    ----------
    before_volts, held_volts : float
    u_fall : float
        Standard uncertainty of the fall between them, V.
    held_s : float
        How long it was held, or has been until the log ends.
    released : bool
        Whether the log goes on after it.
    begun_s : float
        When it was pressed, in the time of the log.
    """

    before_volts: float
    held_volts: float
    u_fall: float
    held_s: float
    released: bool = True
    begun_s: float = 0.0

    @property
    def fall(self) -> float:
        """By how much the line fell, V."""
        return self.before_volts - self.held_volts


@dataclass(frozen=True)
class AtLine:
    """What a reading would have been at the line as it was set, in its unit.

    Attributes
    ----------
    figure : float
    added : float
        What was added for the fall of the line.
    u : float
        Standard uncertainty of that.
    tried : bool
        Whether what a volt of line is worth was tried on this tester, or is common practice.
    """

    figure: float
    added: float
    u: float
    tried: bool


def told_line(before_volts: float, held_volts: float) -> HeldLine:
    """Return a line that somebody read twice on one meter, V, before the button was pressed and while it was held.

    Raises
    ------
    RangeError
        Where no line does that: none at all, or off by more than a fifth.
    """
    if not (before_volts > 0 and held_volts > 0 and 0.8 <= held_volts / before_volts <= 1.2):
        raise RangeError(
            worded("tubes.a_line_before_and_held", before=before_volts, held=held_volts),
            value=f"{held_volts:g}",
            expected="120 V, 118.6 V",
        )
    return HeldLine(before_volts, held_volts, TWICE_READ, 0.0)


def held_in(log: Sequence[tuple[float, float]]) -> HeldLine | None:
    """Return the newest press in a log of a line, None where none stands out of what the line does by itself.

    How the steps scatter is taken from their median absolute deviation (Hampel 1974, from memory).

    Parameters
    ----------
    log : sequence of (float, float)
        s and V, in order, about evenly read.

    Raises
    ------
    RangeError
        Of fewer than 20 readings.
    """
    if len(log) < LEAST:
        raise RangeError(
            worded("tubes.a_log_of_the_line_is_short", count=len(log), least=LEAST),
            value=str(len(log)),
            expected=str(LEAST),
        )
    times, volts = (np.array(x, float) for x in zip(*log, strict=True))
    places, steps, own = _steps(volts)
    beyond = max(_BEYOND * own, NEAR * float(np.median(volts)))
    falls, rises = (_peaks(places, sign * steps, beyond) for sign in (1.0, -1.0))
    edges = sorted([(at, step) for at, step in falls] + [(at, -step) for at, step in rises])
    for i in reversed(range(len(edges))):
        (press, fall), after = edges[i], edges[i + 1] if i + 1 < len(edges) else None
        if fall < 0 or (after is not None and after[1] > 0):
            continue  # a rise; or a fall upon a fall, which is no button
        last = after[0] if after is not None else len(volts) - 1
        if last - press <= _BESIDE or press == places[-1]:
            continue
        # Either edge tells the fall, and what a step tells when nobody presses is known of this very log.
        # One at the very end of the log may stand out more with the next reading: not yet told by that.
        told = [fall] if after is None or after[0] == places[-1] else [fall, -after[1]]
        before = float(np.mean(volts[max(press - _BESIDE, 0) : press]))
        apart = (max(told) - min(told)) / 2
        # What only just stands out was taken for standing out: its fall is more likely told too large.
        barely = own if min(told) < 1.5 * _BEYOND * own else 0.0
        u = math.hypot(own / math.sqrt(len(told)), apart / math.sqrt(3), barely)
        held = before - sum(told) / len(told)
        return HeldLine(
            before,
            held,
            u,
            float(times[last] - times[press]),
            released=after is not None,
            begun_s=float(times[press]),
        )
    return None


def _steps(volts: Floats) -> tuple[NDArray[np.int64], Floats, float]:
    """The places at which three readings lie before and three after, the fall of their means there, V, and how it scatters.

    The fall that a line which drifts has everywhere is taken off.
    """
    means = np.lib.stride_tricks.sliding_window_view(volts, _BESIDE).mean(axis=1)
    # One reading between them may be of both: the meter was at it while the button went down.
    places = np.arange(_BESIDE, len(volts) - _BESIDE)
    steps = means[places - _BESIDE] - means[places + 1]
    steps = steps - np.median(steps)
    moves = np.abs(np.diff(volts))
    count = float(np.min(moves[moves > 0])) if np.any(moves > 0) else METER_V
    return places, steps, max(_TO_SIGMA * float(np.median(np.abs(steps))), count / math.sqrt(12))


def _peaks(places: NDArray[np.int64], steps: Floats, beyond: float) -> list[tuple[int, float]]:
    """Where steps stand out most, and by how much: one place for each run of places that stand out."""
    found: list[tuple[int, float]] = []
    run: list[tuple[float, int]] = []
    for at, step in [*zip(places, steps, strict=True), (-1, 0.0)]:
        if step > beyond:
            run.append((float(step), int(at)))
        elif run:
            step_most, most = max(run)
            found.append((most, step_most))
            run = []
    return found


def at_the_line_set(shown: float, test: str, line: HeldLine, per_volt: float | None = None) -> AtLine:
    """Return what a reading would have been had the line not fallen, in its unit.

    Parameters
    ----------
    shown : float
        In its unit.
    test : "emission" or "gm"
    line : HeldLine
    per_volt : float, optional
        What a volt of line is worth in the reading, as it was tried here; else a reading of gm goes with the line and of emission
        with its square (common practice, no source), and half of what that adds is its bound.
    """
    slope = STEEP[test] * shown / line.before_volts if per_volt is None else per_volt
    added = slope * line.fall
    unsure = abs(added) * (1 / 2 / math.sqrt(3) if per_volt is None else TRIED)
    return AtLine(shown + added, added, math.hypot(slope * line.u_fall, unsure), tried=per_volt is not None)
