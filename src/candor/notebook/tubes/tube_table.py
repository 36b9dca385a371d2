"""Tubes from a table, matched: columns tube, section, figure, u."""

from __future__ import annotations

from typing import Any

from candor.core.errors import CandorError, ValueTextError
from candor.core.tubes.correction import Known, correct_by
from candor.core.tubes.matching import Measured, balance_of, match, tubes_of
from candor.core.worded import worded
from candor.notebook.exchange.columns import Number, TableRow, all_rows


class MeasuredRow(TableRow):
    """The columns of a table of tubes to match."""

    tube: str
    section: str = ""
    figure: Number
    u: Number


class ShownRow(TableRow):
    """The columns of a table of tubes to correct: what a tester shows, and of the known ones their figure."""

    tube: str
    shown: Number
    figure: Number | None = None
    u: Number = 0.0


def read_measured(content: bytes) -> tuple[Measured, ...]:
    """Return the tubes of a table.

    Raises
    ------
    ValueTextError
        With every fault by its line.
    """
    return all_rows(content, MeasuredRow, _measured, "The tubes")


def _measured(row: MeasuredRow) -> Measured:
    if not row.tube:
        raise ValueTextError(worded("tubes.which_tube_a_name_was_expected"), value="")
    return Measured(row.tube, row.section, row.figure, row.u)


def match_told(content: bytes, size: int = 2) -> dict[str, Any]:
    """Return pairs (or sets of `size`), their total mismatch, who is left over, what cannot be told apart, the balance of twins.

    Raises
    ------
    CandorError
        Where the table cannot be read, or no set can be made.
    """
    tubes = tubes_of(read_measured(content))
    found = match(tubes, size)
    return {
        "pairs" if size == 2 else "sets": [
            {"tubes": list(s.tubes), "mismatch": s.mismatch, "U": s.expanded, "told_apart": s.told_apart}
            for s in found.sets
        ],
        "total": found.total,
        "left_over": list(found.left_over),
        "cannot_be_told_apart": [list(group) for group in found.alike],
        "balance": {
            t.name: {"share": b.share, "U": b.expanded, "within": b.within}
            for t in tubes
            if (b := balance_of(t)) is not None
        },
    }


def correct_told(content: bytes) -> dict[str, Any]:
    """Return the line through tubes of known figures, who contradicts it, and every tube corrected, with what could not be.

    Raises
    ------
    CandorError
        Where the table cannot be read, or the known ones are too few.
    """
    rows = all_rows(content, ShownRow, lambda row: row, "The tubes")
    known = [Known(row.tube, row.shown, row.figure, row.u) for row in rows if row.figure is not None]
    found = correct_by(known)
    tubes: list[dict[str, Any]] = []
    for name, value in ((row.tube, row.shown) for row in rows):
        try:
            figure, expanded = found.corrected(value)
            tubes.append({"tube": name, "shown": value, "figure": figure, "U": expanded})
        except CandorError as error:
            tubes.append({"tube": name, "shown": value, "figure": None, "why": str(error)})
    return {
        "intercept": found.intercept, "slope": found.slope, "u_intercept": found.u_intercept, "u_slope": found.u_slope,
        "scatter": found.scatter, "through": found.count, "from": found.low, "to": found.high, "contradict": list(found.contradict),
        "doubted": list(found.doubted), "tubes": tubes,
    }  # fmt: skip
