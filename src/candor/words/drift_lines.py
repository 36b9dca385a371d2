"""Lines about drift: the day that is said with its reason, and a table of results as JSON and lines."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Mapping
from typing import Any

from candor.core.drift.due import TARGET, all_in, due_by_custom, due_by_forecast, due_of_all
from candor.core.drift.forecast import PointForecast
from candor.core.drift.history import DAYS, PointHistory
from candor.core.drift.prior import USUAL, Prior
from candor.core.quantities.show import signed, trimmed
from candor.notebook.soak.drift_table import forecasts_of, read_history
from candor.notebook.soak.drifting import DriftView
from candor.words.drift_words import say_due

AHEAD = 5  # years of the fan that is printed


def drift_words(view: DriftView) -> str:
    """Say why that day; where it was chosen what a forecast says now, too."""
    reason = say_due(view.due)
    if view.chosen is None:
        return f"{reason[0].upper()}{reason[1:].rstrip('.')}."
    said = view.chosen.body
    kept = (
        f"Chosen {view.chosen.at:%d %b %Y}, by {said.method}: {said.reason.rstrip('.')} (entry {view.chosen.number})."
    )
    if said.on == view.due.on:
        return kept
    return f"{kept} What is known today says {view.due.on:%d %b %Y}: {reason.rstrip('.')}."


def drift_told(
    content: bytes, today: dt.date, target: float = TARGET, prior: Prior = USUAL, kind: str = ""
) -> dict[str, Any]:
    """Return for each point its slope a year with its u, its segments, the probability in tolerance by date; and when all is due.

    Raises
    ------
    CandorError
        Where the table cannot be read.
    """
    points = read_history(content, today)
    forecasts = forecasts_of(points, prior)
    day, left_out = due_of_all(forecasts, today, due_by_custom(kind, today), target)
    counted = [f for name, f in forecasts.items() if name not in left_out]
    return {
        "points": [_told(p, forecasts.get(p.name), today) for p in points],
        "prior": prior.words,
        "target": target,
        "due": day.on.isoformat(),
        "reason": say_due(day),
        "worst": day.worst,
        "not_counted": list(left_out),
        "in_tolerance": {on.isoformat(): all_in(counted, on) for on in _ahead(today)} if counted else {},
    }


def _ahead(today: dt.date) -> tuple[dt.date, ...]:
    return tuple(today + dt.timedelta(days=round(DAYS * years)) for years in range(AHEAD + 1))


def _told(point: PointHistory, found: PointForecast | None, today: dt.date) -> dict[str, Any]:
    segments = [
        [{"date": r.on.isoformat(), "error": r.error, "U": r.expanded, "when": r.when} for r in s.results]
        for s in point.segments
    ]
    if found is None:
        return {
            "point": point.name,
            "unit": point.unit,
            "limit": point.limit,
            "segments": segments,
            "why": "it never had a result",
        }
    by_date = {}
    for on in _ahead(today):
        mean, u = found.at(on)
        by_date[on.isoformat()] = {
            "expected": mean, "u": u, "half": [mean - 0.6745 * u, mean + 0.6745 * u], "fan": [mean - 1.96 * u, mean + 1.96 * u],
            "in_tolerance": found.in_tolerance(on),
        }  # fmt: skip
    due = due_by_forecast({point.name: found}, today)
    return {
        "point": point.name, "unit": point.unit, "limit": point.limit, "jumped": found.jumped,
        "slope": found.slope, "u_slope": found.u_slope,
        "segments": segments,
        "by_date": by_date, "due": due.on.isoformat(), "reason": say_due(due),
    }  # fmt: skip


def say_drift(told: Mapping[str, Any]) -> str:
    """Say a drift: when it is due and why, and each point's slope."""
    lines = [f"Due {told['due']}: {told['reason']}.", f"Prior: {told['prior']}."]
    for point in told["points"]:
        if "slope" not in point:
            lines.append(f"{point['point']}: {point['why']}.")
            continue
        unit = f" {point['unit']}" if point["unit"] else ""
        places = max(0, 1 - math.floor(math.log10(max(point["u_slope"], 1e-300))))
        slope = f"{signed(point['slope'], places)} ± {trimmed(2 * point['u_slope'], 2)}{unit} a year"
        count = sum(len(s) for s in point["segments"])
        lines.append(
            f"{point['point']}: {slope}, {count} results in {len(point['segments'])} segments; alone due {point['due']}."
        )
    return "\n".join(lines)
