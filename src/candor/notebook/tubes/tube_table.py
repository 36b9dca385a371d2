"""Tubes from a table, matched: columns tube, section, figure, u."""

from __future__ import annotations

from typing import Any

from candor.core.errors import CandorError, ValueTextError
from candor.core.quantities.show import trimmed
from candor.core.tubes.correction import Known, correct_by
from candor.core.tubes.matching import Measured, balance_of, match, tubes_of
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
        raise ValueTextError("which tube? A name was expected.", value="")
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
        "balance": {t.name: dict(b) for t in tubes if (b := balance_of(t)) is not None},
    }


def say_matching(told: dict[str, Any]) -> str:
    """Return the same as lines."""
    lines = []
    for one in told.get("pairs", told.get("sets", ())):
        said = "" if one["told_apart"] else ", cannot be told apart"
        lines.append(
            f"{' and '.join(one['tubes'])}: {trimmed(one['mismatch'], 4)} ± {trimmed(one['U'], 2)} apart{said}"
        )
    lines.append(f"total {trimmed(told['total'], 4)}")
    lines += [f"left over: {', '.join(told['left_over'])}"] if told["left_over"] else []
    lines += [f"cannot be told apart: {', '.join(group)}" for group in told["cannot_be_told_apart"]]
    for name, of in told["balance"].items():
        lines.append(
            f"{name}: sections {of['share']:.1%} ± {of['U']:.1%} apart, {'within' if of['within'] else 'over'} 5 %"
        )
    return "\n".join(lines)


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
        "doubt": found.doubt, "tubes": tubes,
    }  # fmt: skip


def say_correction(told: dict[str, Any]) -> str:
    """Say a correction: its line, who contradicts, and each tube."""
    lines = [
        f"figure = {trimmed(told['intercept'], 4)} + {trimmed(told['slope'], 5)} x shown, through {told['through']} known tubes, "
        f"from {trimmed(told['from'], 4)} to {trimmed(told['to'], 4)}."
    ]
    lines += [f"{name} contradicts the others and was left out." for name in told["contradict"]]
    lines += [told["doubt"]] if told["doubt"] else []
    for tube in told["tubes"]:
        what = tube.get("why") or f"{trimmed(tube['figure'], 4)} ± {trimmed(tube['U'], 2)}"
        lines.append(f"{tube['tube']}: shown {trimmed(tube['shown'], 4)}: {what}")
    return "\n".join(lines)
