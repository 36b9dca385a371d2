"""Readings over time as a table, and what they say: settling, Allan deviations, frequency by phase."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Any

import numpy as np

from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.quantities import parse_number
from candor.core.quantities.show import trimmed
from candor.core.stability.allan import KINDS, average_for, deviations, phase_log
from candor.core.stability.settle import settling
from candor.notebook.csv_table import read_table

PART = 0.1  # of the limit, that may be left
EVEN = 0.05  # of the step, that times may be uneven by


def read_record(content: bytes, column: str = "value") -> tuple[list[float], list[float]]:
    """Return seconds and values of a table with those columns, in order of time.

    Raises
    ------
    ValueTextError
        With every fault by its line; where two readings have one moment.
    """
    table = read_table(content, ("seconds", column))
    faults = [table.fault] if table.fault else []
    rows = []
    for row in table.rows:
        try:
            if row.fault:
                raise ValueTextError(row.fault)
            rows.append(tuple(parse_number(row.cells[key], f"{key}, a number") for key in ("seconds", column)))
        except CandorError as error:
            faults.append(f"line {row.number}: {error}")
    rows.sort()
    twice = next((a[0] for a, b in pairwise(rows) if a[0] == b[0]), None)
    if twice is not None:
        faults.append(f"two readings have the moment {twice:g} s.")
    if faults:
        raise ValueTextError("\n".join(("The readings cannot be taken:", *(f"  {f}" for f in faults))))
    return [t for t, _ in rows], [v for _, v in rows]


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


def allan_told(content: bytes) -> dict[str, Any]:
    """Return four Allan deviations of readings at equal times (columns seconds and value), and how long to average.

    With a column phase in place of value: the frequency's offset and ageing by it, and the deviations of the frequency between.

    Raises
    ------
    CandorError
        Where times are uneven or readings too few.
    """
    by_phase = "phase" in content.split(b"\n", 1)[0].decode("latin-1").casefold()
    seconds, values = read_record(content, "phase" if by_phase else "value")
    if len(seconds) < 4:
        raise RangeError(
            "Four readings or more at equal times are needed.", value=str(len(seconds)), expected="4 or more"
        )
    steps = np.diff(seconds)
    every = float(np.median(steps))
    uneven = int(np.argmax(np.abs(steps - every)))
    if abs(steps[uneven] - every) > EVEN * every:
        raise RangeError(
            f"The readings are not at equal times: {steps[uneven]:g} s after {seconds[uneven]:g} s, {every:g} s elsewhere.",
            value=f"{steps[uneven]:g}", expected=f"{every:g} s",
        )  # fmt: skip
    told: dict[str, Any] = {"every": every, "count": len(values)}
    if by_phase:
        found = phase_log(seconds, values)
        told |= {
            "offset": found.offset,
            "u_offset": found.u_offset,
            "ageing_a_day": found.ageing,
            "scatter": found.scatter,
        }
        values = list(np.diff(values) / every)
    for kind in KINDS:
        told[kind] = [
            {"seconds": d.seconds, "deviation": d.value, "u": d.u, "count": d.count}
            for d in deviations(values, every, kind)
        ]
    told["average"] = average_for(deviations(values, every)).seconds
    return told


def say_allan(told: dict[str, Any]) -> str:
    """Say the overlapping deviations, and how long to average."""
    lines = [f"{trimmed(d['seconds'], 4)} s: {d['deviation']:.3g} ± {d['u']:.1g}" for d in told["overlapping"]]
    if "offset" in told:
        lines.insert(
            0, f"Offset {told['offset']:.4g} ± {2 * told['u_offset']:.2g}, ageing {told['ageing_a_day']:.2g} a day."
        )
    return "\n".join([*lines, f"Least at {trimmed(told['average'], 4)} s: averaging longer is of no use."])
