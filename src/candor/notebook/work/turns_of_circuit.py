"""Adjusters that move each other, from the circuit and what was read: the lines that they are set together by."""

from __future__ import annotations

import math
from collections.abc import Iterable

from candor.core.calibration.result import PointResult
from candor.core.errors import RangeError
from candor.core.worded import worded
from candor.packs.adjuster_reach import STEP, adjuster_reach
from candor.packs.model import Pack

DIGITS = 4


def turns_of_circuit(pack: Pack, results: Iterable[PointResult], known: tuple[tuple[str, float], ...] = ()) -> str:
    """Return the lines of core.calibration.interacting: errors and limits in per cent of the value, adjusters in % of their part.

    Of each range the highest point that was read counts.

    Parameters
    ----------
    pack : Pack
    results : iterable of PointResult
        What was read.
    known : tuple of (str, float)
        What parts are known to be, SI.

    Raises
    ------
    RangeError
        Where the pack says of no adjuster which part it is, or nothing was read of what one moves.
    """
    reach = [r for r in adjuster_reach(pack, known) if r.moves]
    if not reach:
        raise RangeError(worded("work.of_no_adjuster_does_the_circuit_say", name=pack.name), value=pack.name)
    top: dict[str, PointResult] = {}
    for result in results:
        function, range_ = result.point.key.split("/")[:2]
        where = f"{function}/{range_}"
        if any(where in r.moves for r in reach) and _counts(result):
            before = top.get(where)
            if before is None or abs(result.point.nominal) > abs(before.point.nominal):
                top[where] = result
    if not top:
        raise RangeError(worded("work.nothing_was_read_that_an_adjuster_moves"), value=pack.name)
    errors = {where: 100 * r.error / (r.indicated - r.error) for where, r in top.items()}
    limits = [100 * _limit(r) / abs(r.indicated - r.error) for r in top.values()]
    lines = [
        "in per cent of the part",
        f"start {_said(errors.values())}",
    ]
    for adjuster in reach:
        moved = {where: errors[where] + 100 * adjuster.moves.get(where, 0.0) for where in top}
        if moved != errors:
            lines.append(f"{adjuster.part} ({adjuster.name}) {100 * STEP:g}: {_said(moved.values())}")
    named = "; ".join(f"{place} {r.point.function}, {r.point.name}" for place, r in enumerate(top.values(), 1))
    return "\n".join((*lines, f"limit {_said(limits)}", f"# points: {named}"))


def _counts(result: PointResult) -> bool:
    """Whether its error is one of the value, in the value's unit, against a limit."""
    limit = result.point.limit
    judged = limit.given and not limit.on_value and limit.judged_in == "value"
    truth = result.indicated - result.error
    return judged and not result.point.noted and math.isfinite(truth) and truth != 0 and _limit(result) > 0


def _limit(result: PointResult) -> float:
    bounds = result.verdict.bounds
    return min((abs(end) for end in (bounds.low, bounds.high) if math.isfinite(end)), default=0.0)


def _said(values: Iterable[float]) -> str:
    return " ".join(f"{value:.{DIGITS}g}" for value in values)
