"""A history as a table, and what follows from it: slopes, the probability of being in tolerance by date, when it is due and why."""

from __future__ import annotations

import datetime as dt
import math
import re
from collections.abc import Mapping, Sequence
from typing import Any, cast

from candor.core.drift.due import TARGET, all_in, due_by_custom, due_by_forecast, due_of_all
from candor.core.drift.forecast import USUAL, PointForecast, Prior, forecast_all
from candor.core.drift.history import DAYS, Calibration, PointHistory, When, segments_of
from candor.core.errors import CandorError, ValueTextError
from candor.core.quantities import parse_date, parse_number, parse_quantity
from candor.core.quantities.show import signed, trimmed
from candor.notebook.exchange.csv_table import CsvRow, read_table

REQUIRED = ("date", "point", "error", "u", "limit", "when")
UNITS = ("V", "A", "ohm", "F", "H", "Hz", "S", "s")
AHEAD = 5  # years of the fan that is printed


def read_history(content: bytes, today: dt.date) -> tuple[PointHistory, ...]:
    """Return the points of a table with columns date, point, error, U (k = 2), limit, when (found or left); standard may be added.

    Raises
    ------
    ValueTextError
        With every fault by its line: a date that is none or lies ahead, a U that is missing, units that are mixed, two
        adjustments in one day. An error that is empty is one that arrived dead: absent, not zero.
    """
    table = read_table(content, REQUIRED)
    faults = [table.fault] if table.fault else []
    rows: dict[str, list[Calibration]] = {}
    limits: dict[str, tuple[dt.date, float]] = {}
    units: dict[str, str] = {}
    for row in table.rows:
        try:
            if row.fault:
                raise ValueTextError(row.fault)
            name, on, amounts, when = row_of_history(row, today)
            for _, unit in amounts.values():
                known = units.setdefault(name, unit)
                if unit != known:
                    plain = "plain numbers"
                    raise ValueTextError(
                        f"{name} was in {known or plain} before, and is in {unit or plain} here.", expected=known
                    )
            limit = amounts["limit"][0]
            if not limit > 0:
                raise ValueTextError(f"a limit of {limit:g}; expected one above zero.", value=f"{limit:g}")
            if name not in limits or on >= limits[name][0]:
                limits[name] = on, limit
            if "error" in amounts:
                standard = row.cells.get("standard", "").strip()
                rows.setdefault(name, []).append(
                    Calibration(
                        on=on, error=amounts["error"][0], expanded=amounts["u"][0], when=when, standard=standard
                    )
                )
            else:
                rows.setdefault(name, [])
        except CandorError as error:
            faults.append(f"line {row.number}: {error}")
    found = []
    for name, results in rows.items():
        try:
            found.append(
                PointHistory(name=name, segments=segments_of(results), limit=limits[name][1], unit=units[name])
            )
        except CandorError as error:
            faults.append(f"{name}: {error}")
    if not rows and not faults:
        faults.append("there is no result in the table.")
    if faults:
        raise ValueTextError("\n".join(("The history cannot be taken:", *(f"  {f}" for f in faults))))
    return tuple(found)


def row_of_history(row: CsvRow, today: dt.date) -> tuple[str, dt.date, dict[str, tuple[float, str]], When]:
    """Return name, day, amounts with their units by column, and when, of a row of a history.

    Raises
    ------
    CandorError
        Where it cannot be read; an error that is empty is one that arrived dead, and has no amount.
    """
    cells = row.cells
    name, when = cells["point"].strip(), cells["when"].strip().lower().removeprefix("as ")
    if not name:
        raise ValueTextError("which point? A name was expected.")
    if when not in ("found", "left"):
        raise ValueTextError(
            f"“{cells['when']}”: found or left was expected.", value=cells["when"], expected="found or left"
        )
    on = parse_date(cells["date"], today, "the day of a calibration")
    amounts = {"limit": _amount(cells["limit"], "a limit")}
    if cells["error"].strip():
        if not cells["u"].strip():
            raise ValueTextError("U is missing; the expanded uncertainty (k = 2) was expected.", expected="U")
        amounts |= {"error": _amount(cells["error"], "an error"), "u": _amount(cells["u"], "U")}
    return name, on, amounts, cast("When", when)


def _amount(text: str, what: str) -> tuple[float, str]:
    """Return a number with the unit it was written in; of plain numbers no unit."""
    clean = text.strip().removeprefix("±").strip()
    if re.fullmatch(r"[-+−]?[\d.,]+(?:e[-+]?\d+)?", clean, re.I):
        return parse_number(clean.replace("−", "-"), what), ""
    if clean.endswith("%"):
        return parse_number(clean.removesuffix("%").strip(), what), "%"
    for unit in UNITS:
        try:
            return parse_quantity(clean, unit).value, unit
        except CandorError:
            continue
    raise ValueTextError(f"“{text}”: {what} as a number, with a unit or without one, was expected.", value=text)


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
        "reason": day.reason,
        "worst": day.worst,
        "not_counted": list(left_out),
        "in_tolerance": {on.isoformat(): all_in(counted, on) for on in _ahead(today)} if counted else {},
    }


def forecasts_of(points: Sequence[PointHistory], prior: Prior = USUAL) -> Mapping[str, PointForecast]:
    """Return the forecast of every point that has a result, by name."""
    with_results = [p for p in points if p.segments]
    made = forecast_all([(p.segments, p.limit) for p in with_results], prior) if with_results else ()
    return {p.name: f for p, f in zip(with_results, made, strict=True)}


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
        "by_date": by_date, "due": due.on.isoformat(), "reason": due.reason,
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
