"""Tubes from a table, matched: columns tube, section, figure, u."""

from __future__ import annotations

from typing import Any

from candor.core.errors import CandorError, ValueTextError
from candor.core.quantities import parse_number
from candor.core.quantities.show import trimmed
from candor.core.tubes.matching import Measured, balance_of, match, tubes_of
from candor.notebook.csv_table import read_table

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
