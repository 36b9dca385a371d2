"""What is done where a further point of a range is made: as its kind of reading is written."""

from __future__ import annotations

from candor.core.calibration.point import TestPoint
from candor.core.reading.kinds import kind_of

_AIM = "Three points or more over the range, the end of it among them."


def next_words(point: TestPoint) -> tuple[str, str, str, str]:
    """Return title, what to do, aim and usual mistake of the step that makes a further point of a range."""
    kind = kind_of(point)
    title = f"{point.function}, {point.range_name} range: an extra point"
    if kind.has_friction:
        return (
            title, "Apply a value, or bring the needle to a mark; then write both: 10.2 ref 10.03.", _AIM,
            "Reading a point once only: from below and from above tells friction.",
        )  # fmt: skip
    example = kind.example(point)
    says = example if "reads" in example else f"{example} ref {point.bare(point.nominal, 3)}"
    return (
        title,
        f"Connect or apply a known value; then write what you read and what it is: {says}.",
        _AIM,
        ("Reading one point alone: it says nothing of the rest of the range."),
    )
