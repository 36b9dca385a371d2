"""The line of a tester as it was read at a test: before its button was pressed and while it was held."""

from __future__ import annotations

from collections.abc import Sequence

from candor.core.tubes.held_line import TWICE_READ, AtLine, HeldLine, at_the_line_set
from candor.core.tubes.tester_reading import Nudge
from candor.notebook.entries.tubes_entries import TubeTested


def line_of(test: TubeTested) -> HeldLine | None:
    """Return the line of a test before its button was pressed and while it was held; None where nobody read it."""
    before, held = test.line_before_volts, test.line_held_volts
    return HeldLine(before, held, test.line_u_fall or TWICE_READ, test.hold_s) if before and held else None


def at_its_line(test: TubeTested, sheet: Sequence[Nudge]) -> AtLine | None:
    """Return what a figure would have been had the line not fallen; None where nobody read it.

    Parameters
    ----------
    test : TubeTested
    sheet : sequence of Nudge
        What a dash of each control is worth for this type on its tester; a volt of line, where that was tried.
    """
    line = line_of(test)
    if line is None or test.figure is None:
        return None
    per_volt = next((n.per_volt for n in sheet if n.control == "line"), None)
    return at_the_line_set(test.figure, test.test, line, per_volt)


def with_line(test: TubeTested, line: HeldLine) -> TubeTested:
    """Return a test with the line as it stood before and while the button was held, and for how long, where nobody said so."""
    return test.model_copy(
        update={
            "line_before_volts": line.before_volts,
            "line_held_volts": line.held_volts,
            "line_u_fall": line.u_fall,
            "hold_s": test.hold_s or line.held_s,
        }
    )
