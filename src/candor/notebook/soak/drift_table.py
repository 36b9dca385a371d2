"""A history as a table, and what follows from it: slopes, the probability of being in tolerance by date, when it is due and why."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Mapping, Sequence
from typing import Annotated

from pydantic import AfterValidator, BeforeValidator, ValidationInfo, model_validator

from candor.core.drift.forecast import PointForecast, forecast_all
from candor.core.drift.history import Calibration, PointHistory, When, segments_of
from candor.core.drift.prior import USUAL, Prior
from candor.core.errors import CandorError, ValueTextError
from candor.core.quantities import parse_date, parse_number, parse_quantity
from candor.core.worded import worded
from candor.notebook.exchange.columns import TableRow, all_rows, refuse_faults

UNITS = ("V", "A", "ohm", "F", "H", "Hz", "S", "s")


def _amount(text: str, what: str) -> tuple[float, str] | None:
    """Return a number with the unit it was written in; of plain numbers no unit; None of an empty cell."""
    clean = text.strip().removeprefix("±").strip()
    if not clean and what != "a limit":
        return None
    if re.fullmatch(r"[-+−]?[\d.,]+(?:e[-+]?\d+)?", clean, re.I):
        return parse_number(clean.replace("−", "-"), what), ""
    if clean.endswith("%"):
        return parse_number(clean.removesuffix("%").strip(), what), "%"
    for unit in UNITS:
        try:
            return parse_quantity(clean, unit).value, unit
        except CandorError:
            continue
    raise ValueTextError(worded("soak.as_a_number_with_a_unit", text=text, what=what), value=text)


def _amount_of(what: str) -> BeforeValidator:
    return BeforeValidator(lambda cell: _amount(cell, what) if isinstance(cell, str) else cell)


def _found_or_left(cell: object) -> object:
    said = cell.strip().lower().removeprefix("as ") if isinstance(cell, str) else cell
    if said not in ("found", "left"):
        raise ValueTextError(
            worded("soak.found_or_left_was_expected", cell=cell),
            value=str(cell),
            expected=worded("soak.found_or_left"),
        )
    return said


def _named(cell: object) -> object:
    if not cell:
        raise ValueTextError(worded("soak.which_point_a_name_was_expected"))
    return cell


def _allowed(cell: tuple[float, str]) -> tuple[float, str]:
    if not cell[0] > 0:
        raise ValueTextError(worded("soak.a_limit_of_expected_one_above", first=cell[0]), value=f"{cell[0]:g}")
    return cell


def _day_of_calibration(cell: object, info: ValidationInfo) -> object:
    return (
        parse_date(cell, (info.context or {})["today"], worded("soak.the_day_of_a_calibration"))
        if isinstance(cell, str)
        else cell
    )


class HistoryRow(TableRow):
    """The columns of a history; of what arrived dead the error is empty. An amount is a number and its unit, if it has one."""

    date: Annotated[dt.date, BeforeValidator(_day_of_calibration)]
    point: Annotated[str, BeforeValidator(_named)]
    error: Annotated[tuple[float, str] | None, _amount_of("an error")]
    u: Annotated[tuple[float, str] | None, _amount_of("U")]
    limit: Annotated[tuple[float, str], AfterValidator(_allowed), _amount_of("a limit")]
    when: Annotated[When, BeforeValidator(_found_or_left)]
    standard: str = ""

    @model_validator(mode="after")
    def _with_its_u(self) -> HistoryRow:
        if self.error is not None and self.u is None:
            raise ValueTextError(worded("soak.u_is_missing_the_expanded_uncertainty"), expected="U")
        return self

    @property
    def amounts(self) -> tuple[tuple[float, str], ...]:
        """What it gives: of what arrived dead, its limit alone."""
        given = (self.limit, self.error, self.u) if self.error is not None else (self.limit,)
        return tuple(one for one in given if one is not None)


def read_history(content: bytes, today: dt.date) -> tuple[PointHistory, ...]:
    """Return the points of a table with columns date, point, error, U (k = 2), limit, when (found or left); standard may be added.

    Raises
    ------
    ValueTextError
        With every fault by its line: a date that is none or lies ahead, a U that is missing, units that are mixed, two
        adjustments in one day. An error that is empty is one that arrived dead: absent, not zero.
    """
    rows: dict[str, list[Calibration]] = {}
    limits: dict[str, tuple[dt.date, float]] = {}
    units: dict[str, str] = {}

    def take(row: HistoryRow) -> None:
        name = row.point
        for _, unit in row.amounts:
            known = units.setdefault(name, unit)
            if unit != known:
                plain = "plain numbers"
                raise ValueTextError(
                    worded("soak.was_in_before_and_is_in", name=name, known=known or plain, unit=unit or plain),
                    expected=known,
                )
        if name not in limits or row.date >= limits[name][0]:
            limits[name] = row.date, row.limit[0]
        results = rows.setdefault(name, [])
        if row.error is not None and row.u is not None:
            results.append(
                Calibration(on=row.date, error=row.error[0], expanded=row.u[0], when=row.when, standard=row.standard)
            )

    all_rows(content, HistoryRow, take, "The history", today)
    faults = []
    found = []
    for name, results in rows.items():
        try:
            found.append(
                PointHistory(name=name, segments=segments_of(results), limit=limits[name][1], unit=units[name])
            )
        except CandorError as error:
            faults.append(f"{name}: {error}")
    refuse_faults("The history", faults if rows else [worded("soak.there_is_no_result_in_the")])
    return tuple(found)


def forecasts_of(points: Sequence[PointHistory], prior: Prior = USUAL) -> Mapping[str, PointForecast]:
    """Return the forecast of every point that has a result, by name."""
    with_results = [p for p in points if p.segments]
    made = forecast_all([(p.segments, p.limit) for p in with_results], prior) if with_results else ()
    return {p.name: f for p, f in zip(with_results, made, strict=True)}
