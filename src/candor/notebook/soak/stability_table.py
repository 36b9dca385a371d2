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
    refuse_faults("The readings", [] if twice is None else [f"two readings have the moment {twice:g} s."])
    return [t for t, _ in rows], [v for _, v in rows]


def _moment(row: RecordRow) -> tuple[float, float]:
    pair = row.seconds, row.value
    if max(map(abs, pair)) >= LARGEST:
        raise ValueTextError(f"{max(pair, key=abs):g} is not a reading of anything.", value=f"{pair[1]:g}")
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
            raise ValueTextError(f"{row.seconds:g} s is before it was switched on. Expected: 0 or more.")
        value, unit = read_amount(row.value)
        units.append(unit)
        if unit != units[0]:
            raise ValueTextError(f"“{row.value}” is in another unit than those before. Expected: one unit.")
        return SoakRead(value=value, unit=unit, what=what, seconds=row.seconds)

    found = all_rows(content, SoakRow, read, "The readings")
    refuse_faults("The readings", [] if found else ["there are none."])
    every = -(-len(found) // MOST_SOAK)
    words = f"One in {every} of {len(found)} was taken: the fit asks for no more." if every > 1 else ""
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
            "Settling needs six readings or more over some time.", value=str(len(values)), expected="6 or more"
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
        return f"Still moving, cannot say: {told['why']}."
    head = f"Ends at {trimmed(told['final'], 6)} ± {trimmed(2 * told['u_final'], 2)}, time constant {trimmed(told['tau'], 3)} s."
    if told["settled"]:
        return f"Settled: {told['why']}. {head}"
    low, high = told["ready_range"]
    return f"{head} Ready at {trimmed(told['ready'], 4)} s, between {trimmed(low, 4)} and {trimmed(high, 4)} s."


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
            "A period and an uncertainty of the path are 0 or more.",
            value=f"{min(period, path):g}",
            expected="0 or more",
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
            "Four readings or more at equal times are needed.", value=str(len(seconds)), expected="4 or more"
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
    ageing = f"ageing {pair_in_powers(told['ageing_a_day'], COVERS * u_ageing)} a day" if u_ageing else ""
    known = f", {in_powers(told['path'], 2)}, is in it" if told["path"] else " is not in it"
    offset = pair_in_powers(told["offset"], COVERS * told["u_offset"])
    words = f"Offset {offset}, {ageing or 'no ageing that can be told'}; the path of the reference{known}."
    if told["slips"]:
        words += f" Unwrapped by up to {told['slips']} periods."
    count = told["outliers"]
    return f"{words} Left out: {count} reading{'s' * (count != 1)} far off both neighbours." if count else words


def say_allan(told: dict[str, Any]) -> str:
    """Say the overlapping deviations, and how long to average."""
    lines = [f"{trimmed(d['seconds'], 4)} s: {d['deviation']:.3g} ± {d['u']:.1g}" for d in told["overlapping"]]
    if "offset" in told:
        lines.insert(0, say_offset(told))
    return "\n".join([*lines, f"Least at {trimmed(told['average'], 4)} s: averaging longer is of no use."])
