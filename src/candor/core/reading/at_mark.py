"""A dial turned until a needle just reaches a line: the dial is read and compared with what is listed."""

from __future__ import annotations

import math
import re

from candor.core.calibration.point import TestPoint
from candor.core.quantities import parse_number
from candor.core.quantities.show import trimmed
from candor.core.reading.judged import Judged
from candor.core.reading.kind import Figures, ReadingKind, Readings, scatter, shown, the_value, typed
from candor.core.reading.means import means_of
from candor.core.reading.reading import INDICATED, Asked
from candor.core.uncertainty.budget import Contribution, rectangular
from candor.core.worded import worded

NUDGE = "nudge"  # what the dial moves for half a tick of the needle, in divisions of the dial
_NUDGE = 0.5  # where nobody tried: common practice, no source


def _read(text: str, point: TestPoint) -> dict[str, float] | None:
    match = re.fullmatch(r"dial\s+(?P<value>.+?)(?:\s+nudge\s+(?P<nudge>.+))?", text.strip(), re.I)
    if match is None:
        return None
    found = {INDICATED: typed(match["value"], point)}
    if match["nudge"]:
        found[NUDGE] = abs(parse_number(match["nudge"], worded("reading.divisions_of_the_dial_such_as")))
    return found


def _contributions(
    point: TestPoint, readings: Readings, judged: Judged, friction: float | None
) -> list[Contribution]:
    at = means_of(readings, judged.place).indicated
    tried = [r.figure(NUDGE) for r in readings if not math.isnan(r.figure(NUDGE))]
    nudge = max(tried, default=point.setting(NUDGE))
    words = worded("reading.found_by_a_nudge") if nudge else worded("reading.assumed_as_nobody_nudged_it_common")
    reason = worded("reading.half_a_tick_of_the_needle", nudge=trimmed(nudge or _NUDGE, 2), words=words)
    found = [
        rectangular(worded("reading.needle_on_its_line"), judged.divisions(at, nudge or _NUDGE), reason, "needle")
    ]
    return found + scatter(point, readings, judged)


def _note(point: TestPoint, readings: Readings) -> str:
    if not point.nominal:
        return ""
    mean = means_of(readings).indicated
    return worded("reading.of_what_is_listed", mean=100 * mean / point.nominal)


def _say(point: TestPoint, figures: Figures) -> str:
    nudge = (
        worded("reading.half_a_tick_is_division_of", figures=trimmed(figures[NUDGE], 2)) if NUDGE in figures else ""
    )
    return worded(
        "reading.needle_reaches_its_line_at_dial", shown=shown(point, the_value(point, figures), 4), nudge=nudge
    )


AT_MARK = ReadingKind(
    key="at mark",
    title=worded("reading.dial_at_a_mark"),
    drawn="knob",
    read_on=("scale", "knob"),
    compares="nominal",
    asks=lambda point: (
        Asked(INDICATED, "dial", point.unit),
        Asked(NUDGE, worded("reading.divisions_for_half_a_tick"), "1", needed=False),
    ),
    example=lambda point: f"dial {point.bare(point.nominal * 0.96, 3)}",
    understand=_read,
    indicated=the_value,
    contributions=_contributions,
    say=_say,
    note=_note,
)
