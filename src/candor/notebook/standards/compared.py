"""One standard checked against another: what both showed, with the U of each."""

from __future__ import annotations

import datetime as dt

from candor.core.errors import CandorError
from candor.core.quantities import parse_quantity
from candor.core.reference.chains import Chain, serve
from candor.core.uncertainty.budget import Budget
from candor.core.uncertainty.coverage import cover
from candor.core.worded import worded
from candor.notebook.entries.standards_entries import StandardCompared
from candor.notebook.standards.standards import Standard


def comparison(standard: Standard, other: Standard, shown: str, reference: str, on: dt.date) -> StandardCompared:
    """Return the check of one standard against another from what both showed; the U of each is that of its own budget.

    Raises
    ------
    CandorError
        Where a value cannot be read, they have no quantity in common, or one does not reach the value.
    """
    pairs = [(one, two) for one in standard.functions for two in other.functions if one.unit == two.unit]
    if not pairs:
        raise CandorError(
            worded("standards.and_have_no_quantity_in_common", name=standard.name, other_name=other.name)
        )
    one, two = pairs[0]
    found = []
    for of, text in ((one, shown), (two, reference)):
        unit = of.read_unit if isinstance(of, Chain) else of.unit
        value = parse_quantity(text, unit).value
        turned, brought = serve(of, value, on)
        found.append((turned(value), cover(Budget(tuple(brought))).combined * 2))
    return StandardCompared(
        standard=standard.body.key,
        against=other.body.key,
        unit=one.unit,
        shown=found[0][0],
        reference=found[1][0],
        expanded=found[0][1],
        expanded_reference=found[1][1],
    )
