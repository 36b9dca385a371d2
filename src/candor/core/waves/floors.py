"""What two analysers, each with a residual of its own, say of one source: where it must lie, and whether they can be compared.

Two vectors at one frequency whose phase nobody knows add to anything between the difference and the sum of their sizes (triangle
inequality). Harmonics of other orders add by squares and lie inside of that.
"""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from typing import Literal

from candor.core.errors import RangeError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities.values import parse_number
from candor.core.worded import worded

EXAMPLE = "0.26 % own 0.23 % u 0.01 %"
AT_FLOOR = 3.0  # times its own residual: a reading below tells more of the analyser than of the source; common practice, no source


@dataclass(frozen=True)
class AnalyserReading:
    """What one analyser shows of a source, all in one unit, a share of the fundamental mostly.

    Attributes
    ----------
    shown : float
        Its reading.
    own : float
        Its residual: what it shows of a source that has nothing, at most.
    expanded : float
        U of the reading.
    """

    shown: float
    own: float = 0.0
    expanded: float = 0.0

    def __post_init__(self) -> None:
        for value in (self.shown, self.own, self.expanded):
            if not (math.isfinite(value) and value >= 0):
                raise RangeError(worded("waves.a_residual_is_zero_or_more"), value=f"{value:g}")

    @property
    def is_at_floor(self) -> bool:
        """Whether it says more of the analyser than of the source."""
        return self.shown < AT_FLOOR * self.own

    @property
    def between(self) -> tuple[float, float]:
        """Where the source lies by it: |shown - own| to their sum, U outside of both, nothing below zero."""
        low = abs(self.shown - self.own) - self.expanded
        return max(low, 0.0), self.shown + self.own + self.expanded


@dataclass(frozen=True)
class Compared:
    """What several analysers say of one source.

    Attributes
    ----------
    between : (float, float) or None
        Where it lies by all of them; None where no value goes with all.
    outcome : str
        "differ" where none goes with all; "cannot tell" where one of them stands at its floor; else "agree".
    """

    between: tuple[float, float] | None
    outcome: Literal["agree", "differ", "cannot tell"]


def compare_floors(readings: Sequence[AnalyserReading]) -> Compared:
    """Return what readings of one source by several analysers say together, in their unit (triangle inequality, as above).

    Raises
    ------
    RangeError
        Where there is no reading.
    """
    if not readings:
        raise RangeError(worded("waves.there_is_no_reading_to_compare"))
    low, high = max(r.between[0] for r in readings), min(r.between[1] for r in readings)
    if low > high:
        return Compared(None, "differ")
    return Compared((low, high), "cannot tell" if any(r.is_at_floor for r in readings) else "agree")


def read_analyser(text: str) -> AnalyserReading:
    """Read one analyser's reading, its residual and its U, all in per cent: ``0.26 % own 0.23 % u 0.01``.

    Raises
    ------
    ValueTextError
        Where it is none.
    """
    number = r"([\d.,]+)\s*%?"
    match = re.fullmatch(rf"{number}(?:\s*own\s*{number})?(?:\s*(?:u|±)\s*{number})?", text.strip(), re.I)
    if match is None:
        raise ValueTextError(
            worded("waves.no_reading_of_an_analyser", text=text, example=EXAMPLE), value=text, expected=EXAMPLE
        )
    shown, own, expanded = (parse_number(part, EXAMPLE) if part else 0.0 for part in match.groups())
    return AnalyserReading(shown, own, expanded)
