"""Points proposed for a range: enough to see its scale, at marks, both ends of what it can show among them."""

from __future__ import annotations

import math

from candor.core.instrument.how import OHMS, HowRead, printed_marks

MANY = (0.2, 0.4, 0.6, 0.8, 1.0)  # of full scale: on the range that is read throughout (common practice, no source)
FEW = (1 / 3, 2 / 3, 1.0)  # on the others, which share its scale
# Of a dial turned to a null: nearer its end the upper side of the null is off it (common practice, no source).
_NULL_MANY = (0.1, 0.2, 0.4, 0.6, 0.9)
_NULL_FEW = (0.2, 0.5, 0.9)
# Of the centre of an ohms arc: a fifth of the arc, about its middle, and four fifths (common practice, no source).
_OHMS_MANY = (0.25, 0.5, 1.0, 2.0, 4.0)
_OHMS_FEW = (0.5, 1.0, 2.0)
_OF_A_SCREEN = (2, 4, 6)  # divisions


def proposed_points(how: HowRead, full_scale: float, divisions: int, first: bool) -> tuple[float, ...]:
    """Return the values at which a range is usually read, SI, rising: five on the first of a function, three on the others
    (common practice, no source).

    Zero is among them only where it is a reading and not a setting: on a scale that has it in the middle.

    Parameters
    ----------
    how : HowRead
    full_scale : float
        Its end, SI; of an ohms arc its centre.
    divisions : int
        Of its scale, or between two marks.
    first : bool
        Whether it is the range of its function that is read throughout.
    """
    if how.listed:
        return () if how.kind == "look" else (full_scale,)
    if how.steps:
        return how.steps
    if how.kind == "screen":
        return tuple(n * how.per_division for n in _OF_A_SCREEN if n * how.per_division <= full_scale)
    if how.shape in OHMS:
        return tuple(_plain(full_scale * share) for share in (_OHMS_MANY if first else _OHMS_FEW))
    if how.shape == "decibels" or how.marks:
        marks = [
            m
            for m in sorted(printed_marks(how, full_scale))
            if (math.isfinite(m) and m != 0) or how.shape == "decibels"
        ]
        return _spread(marks, 5 if first else 3)
    shares = MANY if first else FEW
    if how.kind == "null":
        shares = _NULL_MANY if first else _NULL_FEW
    if how.shape == "centre zero":
        halves = (0.5, 1.0) if first else (1.0,)
        return tuple(sorted({0.0, *(_plain(sign * share * full_scale) for share in halves for sign in (-1, 1))}))
    return tuple(_on_mark(full_scale * share, full_scale, divisions) for share in shares)


def _on_mark(value: float, full_scale: float, divisions: int) -> float:
    """The nearest tick of an even scale from zero."""
    tick = full_scale / divisions if divisions else full_scale / 100
    return _plain(round(value / tick) * tick)


def _spread(marks: list[float], count: int) -> tuple[float, ...]:
    """So many of the marks, evenly among them, the last always."""
    if len(marks) <= count:
        return tuple(marks)
    return tuple(marks[round((i + 1) * len(marks) / count) - 1] for i in range(count))


def _plain(value: float) -> float:
    return float(f"{value:.9g}")
