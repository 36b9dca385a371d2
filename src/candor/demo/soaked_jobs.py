"""The demo's instrument with six years of history, and one that soaks."""

from __future__ import annotations

import datetime as dt
import math

from candor.demo.gathered_entries import Writing
from candor.demo.read_jobs import VOLTMETER
from candor.demo.tested_jobs import TRIGGERED
from candor.notebook.entries.soak_entries import PastResult, SoakRead, SwitchedOff, SwitchedOn

# Of four points: limit, and year by year what was found, and left where it was adjusted; V.
HISTORY: dict[str, tuple[float, tuple[tuple[float, float | None], ...]]] = {
    "DC volts +, 12 V range at 12 V":
        (0.36, ((-0.02, None), (-0.05, None), (-0.11, None), (-0.14, None), (-0.21, -0.10), (-0.14, None))),
    "DC volts +, 12 V range at 6 V":
        (0.36, ((-0.01, None), (-0.02, None), (-0.05, None), (-0.07, None), (-0.11, -0.04), (-0.07, None))),
    "DC volts +, 120 V range at 120 V":
        (3.6, ((-0.4, None), (-0.6, None), (-1.0, None), (-1.2, None), (-1.7, -1.1), (-1.5, None))),
    "DC volts +, 1.2 V range at 1.2 V":
        (0.036, ((0.002, None), (0.003, None), (0.005, None), (0.006, None), (0.011, 0.005), (0.008, None))),
}  # fmt: skip
EXPANDED = 0.12  # of the limit


def write_soaked(writing: Writing, now: dt.datetime) -> None:
    """Write the history of the tube voltmeter from before its first job here, and the oscilloscope's soak."""
    start = now - dt.timedelta(hours=4)
    past = []
    for point, (limit, years) in HISTORY.items():
        for index, (found, left) in enumerate(years):
            on = (now - dt.timedelta(days=365 * (len(years) - index))).date()
            more = {
                "on": on,
                "point": point,
                "expanded": EXPANDED * limit,
                "limit": limit,
                "unit": "V",
                "standard": "another shop's",
            }
            past.append(PastResult.model_validate({**more, "error": found}))
            if left is not None:
                past.append(PastResult.model_validate({**more, "error": left, "when": "left"}))
    writing.add_all(VOLTMETER, past, start)
    begun = now - dt.timedelta(minutes=96)
    writing.add(TRIGGERED, SwitchedOff(), now - dt.timedelta(hours=20))
    writing.add(TRIGGERED, SwitchedOn(), begun)
    for k in range(19):
        minutes = 5 * k + 1
        wander = 0.004 * math.sin(2.1 * k) + 0.003 * math.cos(5.3 * k)
        value = round(100.62 + 1.31 * math.exp(-minutes / 21) + wander, 3)
        writing.add(
            TRIGGERED, SoakRead(value=value, unit="V", what="Calibrator"), begun + dt.timedelta(minutes=minutes)
        )
