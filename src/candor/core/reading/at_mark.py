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

NUDGE = "nudge"  # what the dial moves for half a tick of the needle, in divisions of the dial
_NUDGE = 0.5  # where nobody tried: common practice, no source


def _read(text: str, point: TestPoint) -> dict[str, float] | None:
    match = re.fullmatch(r"dial\s+(?P<value>.+?)(?:\s+nudge\s+(?P<nudge>.+))?", text.strip(), re.I)
    if match is None:
        return None
    found = {INDICATED: typed(match["value"], point)}
    if match["nudge"]:
        found[NUDGE] = abs(parse_number(match["nudge"], "divisions of the dial such as 1.5"))
    return found


def _contributions(
    point: TestPoint, readings: Readings, judged: Judged, friction: float | None
) -> list[Contribution]:
    at = means_of(readings, judged.place).indicated
    tried = [r.figure(NUDGE) for r in readings if not math.isnan(r.figure(NUDGE))]
    nudge = max(tried, default=point.setting(NUDGE))
    words = "found by a nudge" if nudge else "assumed, as nobody nudged it (common practice, no source)"
    reason = (
        f"Half a tick of the needle moves the dial by {trimmed(nudge or _NUDGE, 2)} division, {words}; rectangular."
    )
    found = [rectangular("needle on its line", judged.divisions(at, nudge or _NUDGE), reason, "needle")]
    return found + scatter(point, readings, judged)


def _note(point: TestPoint, readings: Readings) -> str:
    if not point.nominal:
        return ""
    mean = means_of(readings).indicated
    return f"{100 * mean / point.nominal:.3g} % of what is listed."


def _say(point: TestPoint, figures: Figures) -> str:
    nudge = f", half a tick is {trimmed(figures[NUDGE], 2)} division of it" if NUDGE in figures else ""
    return f"needle reaches its line at dial {shown(point, the_value(point, figures), 4)}{nudge}"


AT_MARK = ReadingKind(
    key="at mark",
    title="dial at a mark",
    drawn="knob",
    read_on=("scale", "knob"),
    compares="nominal",
    asks=lambda point: (
        Asked(INDICATED, "dial", point.unit),
        Asked(NUDGE, "divisions for half a tick", "1", needed=False),
    ),
    example=lambda point: f"dial {point.bare(point.nominal * 0.96, 3)}",
    understand=_read,
    indicated=the_value,
    contributions=_contributions,
    say=_say,
    note=_note,
)
