"""Tubes from a table, matched: columns tube, section, figure, u."""

from __future__ import annotations

from typing import Any

from candor.core.errors import CandorError, ValueTextError
from candor.core.quantities import parse_number
from candor.core.quantities.show import trimmed
from candor.core.tubes.correction import Known, correct_by
from candor.core.tubes.matching import Measured, balance_of, match, tubes_of
from candor.notebook.exchange.csv_table import read_table

REQUIRED = ("tube", "figure", "u")


def read_measured(content: bytes) -> tuple[Measured, ...]:
    """Return the tubes of a table.

    Raises
    ------
    ValueTextError
        With every fault by its line.
    """
    table = read_table(content, REQUIRED)
    faults = [table.fault] if table.fault else []
    found = []
    for row in table.rows:
        cells = row.cells
        if row.fault:
            faults.append(f"line {row.number}: {row.fault}")
            continue
        try:
            figure, u = (parse_number(cells[key], f"{key}, a number") for key in ("figure", "u"))
            if not cells["tube"].strip():
                raise ValueTextError("which tube? A name was expected.", value="")
            found.append(Measured(cells["tube"].strip(), cells.get("section", "").strip(), figure, u))
        except CandorError as error:
            faults.append(f"line {row.number}: {error}")
    if faults:
        raise ValueTextError("\n".join(("The tubes cannot be taken:", *(f"  {f}" for f in faults))))
    return tuple(found)


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
            {"tubes": list(s.tubes), "mismatch": s.mismatch, "U": 2 * s.u, "told_apart": s.told_apart}
            for s in found.sets
        ],
        "total": found.total,
        "left_over": list(found.left_over),
        "cannot_be_told_apart": [list(group) for group in found.alike],
        "balance": {t.name: dict(b) for t in tubes if (b := balance_of(t)) is not None},
    }


def matching_lines(told: dict[str, Any]) -> list[str]:
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
    return lines


def correct_told(content: bytes) -> dict[str, Any]:
    """Return the line through tubes of known figures, who contradicts it, and every tube corrected, with what could not be.

    Raises
    ------
    CandorError
        Where the table cannot be read, or the known ones are too few.
    """
    table = read_table(content, ("tube", "shown"))
    faults = [table.fault] if table.fault else []
    shown: list[tuple[str, float]] = []
    known: list[Known] = []
    for row in table.rows:
        cells = row.cells
        try:
            if row.fault:
                raise ValueTextError(row.fault)
            value = parse_number(cells["shown"], "shown, a number")
            shown.append((cells["tube"].strip(), value))
            if cells.get("figure"):
                u = parse_number(cells["u"], "u, a number") if cells.get("u") else 0.0
                known.append(
                    Known(cells["tube"].strip(), value, parse_number(cells["figure"], "figure, a number"), u)
                )
        except CandorError as error:
            faults.append(f"line {row.number}: {error}")
    if faults:
        raise ValueTextError("\n".join(("The tubes cannot be taken:", *(f"  {f}" for f in faults))))
    found = correct_by(known)
    tubes: list[dict[str, Any]] = []
    for name, value in shown:
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
