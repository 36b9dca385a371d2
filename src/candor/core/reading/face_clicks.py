"""What was clicked in a photo of a face, and the marks with their places that it makes, as they are typed."""

from __future__ import annotations

import re

from candor.core.errors import RangeError, ValueTextError
from candor.core.finding import Finding
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_number
from candor.core.quantities.show import MINUS, trimmed
from candor.core.reading.face_photo import CORNERS, FEWEST, FEWEST_EVEN, Straightened, straighten
from candor.core.worded import worded

Place = tuple[float, float]
_SIDES = re.compile(r"\s*(\S+?)\s*(?:x|×|\*|by|:)\s*(\S+?)\s*(?:mm|cm|in(?:ch)?)?\s*", re.I)


@dataclass(frozen=True)
class FaceClicks:
    """What was clicked, px of the picture, in the order of the clicks.

    Attributes
    ----------
    size : (float, float)
        Width and height of the picture.
    marks, even, corners : tuple of (float, float)
        Marks of the arc; of an even arc on the same face; corners of a rectangle on it.
    axis : (float, float) or None
    sides : str
        Of the rectangle, as written: ``80 x 60``.
    """

    size: tuple[float, float]
    marks: tuple[Place, ...] = ()
    axis: Place | None = None
    even: tuple[Place, ...] = ()
    corners: tuple[Place, ...] = ()
    sides: str = ""

    def straightened(self) -> Straightened:
        """Return where the marks stand along their arc, shares of it.

        Raises
        ------
        RangeError, ValueTextError
            Where that cannot be told.
        """
        sides = read_sides(self.sides) if self.corners else 0.0
        return straighten(
            self.marks, size=self.size, axis=self.axis, even=self.even, corners=self.corners, sides=sides
        )

    def left(self, numbers: str) -> Finding | None:
        """Return what is to be written or clicked next, before it can be straightened; None where nothing is."""
        items, clicked = read_numbers(numbers), len(self.marks)
        if not items:
            return Finding("face.numbers")
        if len(items) < FEWEST:
            return Finding("face.few", {"numbers": len(items), "fewest": FEWEST})
        if clicked < len(items):
            return Finding("face.mark", {"number": items[clicked], "clicked": clicked, "wanted": len(items)})
        if clicked > len(items):
            return Finding("face.many", {"clicked": clicked, "wanted": len(items)})
        if 0 < len(self.corners) < CORNERS:
            return Finding("face.corner", {"next": len(self.corners) + 1, "corners": CORNERS})
        if 0 < len(self.even) < FEWEST_EVEN:
            return Finding("face.even", {"clicked": len(self.even), "fewest": FEWEST_EVEN})
        return None


def read_numbers(text: str) -> tuple[str, ...]:
    """Return the numbers of an arc as they are printed: ``0 1 2 5 inf``.

    Raises
    ------
    ValueTextError
        Where one is no number.
    """
    items = tuple(re.split(r"[\s;]+", text.strip())) if text.strip() else ()
    for item in items:
        if item.casefold() not in ("inf", "infinity", "∞"):
            parse_number(item, worded("reading.a_number_of_the_arc_such"))
    return items


def read_sides(text: str) -> float:
    """Return the first side of a rectangle over its second, a ratio: ``80 x 60``.

    Raises
    ------
    ValueTextError, RangeError
        Where it says no sides.
    """
    match = _SIDES.fullmatch(text)
    if match is None:
        raise ValueTextError(
            worded("reading.what_are_the_sides_of_the"),
            value=text, expected="80 x 60",
        )  # fmt: skip
    first, second = (parse_number(side, worded("reading.a_side_such_as")) for side in match.groups())
    if not (first > 0 and second > 0):
        raise RangeError(worded("reading.the_sides_are_no_rectangle_expected", text=text.strip()), value=text)
    return first / second


def marks_text(numbers: str, found: Straightened) -> str:
    """Return the marks with their places from the left end of the arc to its right, as a range's line has them.

    ``0@0 1@23.4 … placed to 0.3 %``: places in per cent of the arc, to the digits that are known.

    Raises
    ------
    RangeError
        Where there are not as many numbers as marks.
    """
    items, places = read_numbers(numbers), found.places
    if len(items) != len(places):
        raise RangeError(
            worded("reading.marks_were_clicked_for_numbers", places=len(places), items=len(items)), value=numbers
        )
    if not found.clockwise:  # clicked from the right end: a needle goes from left to right with the clock
        items, places = items[::-1], tuple(1 - place for place in places[::-1])
    said = " ".join(f"{item}@{_percent(place)}" for item, place in zip(items, places, strict=True))
    return worded("reading.placed_to", said=said, worst_u=trimmed(max(200 * found.worst_u, 0.01), 2))


def _percent(place: float) -> str:
    return f"{100 * place:.2f}".rstrip("0").rstrip(".").replace(MINUS, "-")
