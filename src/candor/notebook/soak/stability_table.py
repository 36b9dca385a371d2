"""Readings over time as a table, and what they say: settling, Allan deviations, frequency by phase."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Any

import numpy as np
from pydantic import Field

from candor.core.errors import RangeError, ValueTextError
from candor.core.jot.rows.soak_rows import read_amount
from candor.core.quantities.show import in_powers, pair_in_powers, trimmed
from candor.core.stability.allan import KINDS, average_for, deviations
from candor.core.stability.phase import COVERS, DAY, even_step, phase_log
from candor.core.stability.settle import LARGEST, settling
from candor.core.worded import worded
from candor.notebook.entries.soak_entries import SoakRead, StabilityFound
from candor.notebook.exchange.columns import Number, TableRow, all_rows, refuse_faults

PART = 0.1  # of the limit, that may be left


class RecordRow(TableRow):
    """The columns of a record."""

    seconds: Number
    value: Number


class PhaseRow(RecordRow):
    """The same of phases."""

    value: Number = Field(alias="phase")


class SoakRow(TableRow):
    """The columns of what was read while it soaked: the value with or without its unit."""

    seconds: Number
    value: str


def read_record(content: bytes, column: str = "value") -> tuple[list[float], list[float]]:
    """Return seconds and values of a table with those columns, in order of time.

    Raises
    ------
    ValueTextError
        With every fault by its line; where two readings have one moment.
    """
    rows = sorted(all_rows(content, PhaseRow if column == "phase" else RecordRow, _moment, "The readings"))
    twice = next((a[0] for a, b in pairwise(rows) if a[0] == b[0]), None)
    refuse_faults(
        "The readings", [] if twice is None else [worded("soak.two_readings_have_the_moment_s", twice=twice)]
    )
    return [t for t, _ in rows], [v for _, v in rows]


def _moment(row: RecordRow) -> tuple[float, float]:
    pair = row.seconds, row.value
    if max(map(abs, pair)) >= LARGEST:
        raise ValueTextError(
            worded("soak.is_not_a_reading_of_anything", pair=max(pair, key=abs)), value=f"{pair[1]:g}"
        )
    return pair


MOST_SOAK = 1000  # readings of a soak that are written from one file: a fit asks for no more


def soak_readings(content: bytes, what: str = "") -> tuple[tuple[SoakRead, ...], str]:
    """Return what was read while it soaked, of a table (seconds since it was switched on, value with or without its unit), and a
    sentence where only every nth was taken.

    Raises
    ------
    ValueTextError
        With every fault by its line; where units are mixed.
    """
    units: list[str] = []

    def read(row: SoakRow) -> SoakRead:
        if row.seconds < 0:
            raise ValueTextError(worded("soak.s_is_before_it_was_switched", seconds=row.seconds))
        value, unit = read_amount(row.value)
        units.append(unit)
        if unit != units[0]:
            raise ValueTextError(worded("soak.is_in_another_unit_than_those", value=row.value))
        return SoakRead(value=value, unit=unit, what=what, seconds=row.seconds)

    found = all_rows(content, SoakRow, read, "The readings")
    refuse_faults("The readings", [] if found else [worded("soak.there_are_none")])
    every = -(-len(found) // MOST_SOAK)
    words = worded("soak.one_in_of_was_taken_the", every=every, found=len(found)) if every > 1 else ""
    return tuple(found[::every]), words


def settle_told(content: bytes, limit: float = 0.0) -> dict[str, Any]:
    """Return final value, time constant and ready time of a record, each with its range.

    Parameters
    ----------
    content : bytes
        Columns seconds and value.
    limit : float
        Of the point, in the unit of the values: ready is where a tenth of it is left. Without one, a hundredth of what it moved.

    Raises
    ------
    CandorError
    """
    seconds, values = read_record(content)
    if len(values) < 2:
        raise RangeError(
            worded("soak.settling_needs_six_readings_or_more"),
            value=str(len(values)),
            expected=worded("soak.or_more_3"),
        )
    part = PART * limit if limit > 0 else 0.01 * (max(values) - min(values)) or 1e-12
    found = settling(seconds, values, part)
    first = seconds[0]

    def number(value: float) -> float | None:
        return None if math.isnan(value) or math.isinf(value) else value

    low, middle, high = (
        number(first + at) if found.can_say else None for at in (found.ready_low, found.ready_s, found.ready_high)
    )
    return {
        "final": number(found.final), "u_final": number(found.u_final), "tau": found.tau,
        "tau_range": [found.tau_low, found.tau_high], "left": number(found.rest), "part": part, "scatter": found.scatter,
        "settled": found.settled, "can_say": found.can_say, "ready": middle, "ready_range": [low, high], "why": found.why,
    }  # fmt: skip


def say_settling(told: dict[str, Any]) -> str:
    """Say a settling."""
    if not told["can_say"]:
        return worded("soak.still_moving_cannot_say", why=told["why"])
    head = worded(
        "soak.ends_at_time_constant_s",
        final=trimmed(told["final"], 6),
        u_final=trimmed(2 * told["u_final"], 2),
        tau=trimmed(told["tau"], 3),
    )
    if told["settled"]:
        return f"Settled: {told['why']}. {head}"
    low, high = told["ready_range"]
    return worded(
        "soak.ready_at_s_between_and_s",
        head=head,
        ready=trimmed(told["ready"], 4),
        low=trimmed(low, 4),
        high=trimmed(high, 4),
    )


def allan_told(content: bytes, period: float = 0.0, path: float = 0.0) -> dict[str, Any]:
    """Return four Allan deviations of readings at equal times (columns seconds and value), and how long to average.

    With a column phase in place of value: the frequency's offset and ageing by it, and the deviations of the frequency between.

    Parameters
    ----------
    content : bytes
    period : float
        Of the signal compared, s: a log of phase is unwrapped by it; 0 where it does not wrap.
    path : float
        Standard uncertainty of the reference's own fractional frequency over the log, by the path it came on.

    Raises
    ------
    CandorError
        Where times are uneven or readings too few; where a period or an uncertainty is below zero.
    """
    if period < 0 or path < 0:
        raise RangeError(
            worded("soak.a_period_and_an_uncertainty_of"),
            value=f"{min(period, path):g}",
            expected=worded("soak.or_more_2"),
        )
    by_phase = "phase" in content.split(b"\n", 1)[0].decode("latin-1").casefold()
    seconds, values = read_record(content, "phase" if by_phase else "value")
    return stability_told(seconds, values, by_phase=by_phase, period=period, path=path)


def stability_told(
    seconds: Sequence[float],
    values: Sequence[float],
    *,
    by_phase: bool = False,
    period: float = 0.0,
    path: float = 0.0,
) -> dict[str, Any]:
    """Return the same of readings in hand, s and their values."""
    if len(seconds) < 4:
        raise RangeError(
            worded("soak.four_readings_or_more_at_equal"), value=str(len(seconds)), expected=worded("soak.or_more")
        )
    every = even_step(np.asarray(seconds))
    told: dict[str, Any] = {"every": every, "count": len(values)}
    if by_phase:
        found = phase_log(seconds, values, period, path)
        told |= {
            "offset": found.offset, "u_offset": found.u_offset, "ageing_a_day": found.ageing,
            "u_ageing_a_day": found.u_ageing if math.isfinite(found.u_ageing) else None, "scatter": found.scatter,
            "U_offset": COVERS * found.u_offset, "slips": found.slips, "outliers": found.outliers, "path": path,
            "days": (seconds[-1] - seconds[0]) / DAY,
        }  # fmt: skip
        turned = np.unwrap(values, period=period) if period > 0 else values
        values = list(np.diff(turned) / every)
    for kind in KINDS:
        told[kind] = [
            {"seconds": d.seconds, "deviation": d.value, "u": d.u, "count": d.count}
            for d in deviations(values, every, kind)
        ]
    told["average"] = average_for(deviations(values, every)).seconds
    return told


def stability_found(
    told: dict[str, Any], *, what: str, name: str = "", file: str = "", period: float = 0.0
) -> StabilityFound:
    """Return the entry that keeps what `allan_told` said."""
    rows = told["overlapping"]
    frequency = {key: told[key] for key in ("offset", "u_offset", "path", "days")} if "offset" in told else {}
    if frequency:
        frequency |= {"ageing": told["ageing_a_day"], "u_ageing": told["u_ageing_a_day"], "period": period}
    return StabilityFound(
        what=what, name=name, file=file, every=told["every"], count=told["count"], average=told["average"],
        taus=tuple(r["seconds"] for r in rows), deviations=tuple(r["deviation"] for r in rows), us=tuple(r["u"] for r in rows),
        **frequency,
    )  # fmt: skip


def say_offset(told: dict[str, Any]) -> str:
    """Say a frequency by its phase: its offset with U at 95 %, and how it ages, where that can be told."""
    u_ageing = told["u_ageing_a_day"]
    ageing = (
        worded("soak.ageing_a_day", pair_in_powers=pair_in_powers(told["ageing_a_day"], COVERS * u_ageing))
        if u_ageing
        else ""
    )
    known = (
        worded("soak.is_in_it", in_powers=in_powers(told["path"], 2)) if told["path"] else worded("soak.is_not_in_it")
    )
    offset = pair_in_powers(told["offset"], COVERS * told["u_offset"])
    words = worded(
        "soak.offset_the_path_of_the_reference",
        offset=offset,
        ageing=ageing or worded("soak.no_ageing_that_can_be_told"),
        known=known,
    )
    if told["slips"]:
        words += worded("soak.unwrapped_by_up_to_periods", slips=told["slips"])
    count = told["outliers"]
    return (
        worded("soak.left_out_reading_far_off_both", words=words, count=count, count_2="s" * (count != 1))
        if count
        else words
    )


def say_allan(told: dict[str, Any]) -> str:
    """Say the overlapping deviations, and how long to average."""
    lines = [
        worded("soak.s", seconds=trimmed(d["seconds"], 4), deviation=d["deviation"], u=d["u"])
        for d in told["overlapping"]
    ]
    if "offset" in told:
        lines.insert(0, say_offset(told))
    return "\n".join([*lines, worded("soak.least_at_s_averaging_longer_is", average=trimmed(told["average"], 4))])
