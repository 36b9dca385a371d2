"""What an adjuster's part must be by what was read in a job, with what lies in stock."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from candor.core.calibration.run import RunResult
from candor.core.combine.exact import Piece
from candor.core.errors import CandorError
from candor.notebook.parts.known_values import known_values
from candor.notebook.parts.stock import StockItem, pieces
from candor.notebook.work.job import Job
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep
from candor.packs.retrim import Retrim, retrim

DIGITS = 5  # of an error's share: finer than any part


def retrim_at(
    job: Job, pack: Pack, step: ProcedureStep, run: RunResult | None, stock: Sequence[StockItem]
) -> Retrim | CandorError | None:
    """Return what the part of the adjuster at a step must be by the reading nearest to it, or why no value of it does.

    Parameters
    ----------
    job : Job
    pack : Pack
    step : ProcedureStep
        One that turns an adjuster.
    run : RunResult or None
        What was read before.
    stock : sequence of StockItem
    """
    point, adjuster = step.point, step.adjuster
    if point is None or run is None or adjuster is None or not adjuster.acts:
        return None
    function, range_ = point.key.split("/")[:2]
    read = [r for key, r in run.results.items() if key.startswith(f"{function}/{range_}/") and r.point.nominal]
    if not read:
        return None
    found = min(read, key=lambda r: abs(r.point.nominal - point.nominal))
    truth = found.indicated - found.error
    if found.point.limit.on_value or found.point.limit.judged_in != "value" or not truth:
        return None
    value = dict(known_values(job)).get(adjuster.acts, 0.0)
    _, there = pieces(stock, "resistor" if adjuster.acts.upper().startswith("R") else "capacitor")
    return _retrim(pack, adjuster.key, function, range_, round(found.error / truth, DIGITS), value, there)


@lru_cache(maxsize=32)
def _retrim(
    pack: Pack, adjuster: str, function: str, range_: str, share: float, measured: float, there: tuple[Piece, ...]
) -> Retrim | CandorError | None:
    try:
        return retrim(pack, adjuster, function, range_, share, measured, there)
    except CandorError as error:
        return error
