"""Clicks in a photo of a face, as a table: what each is, the number at it, and where it stands."""

from __future__ import annotations

from typing import Literal

from candor.core.errors import ValueTextError
from candor.core.reading.face_clicks import FaceClicks
from candor.core.worded import worded
from candor.notebook.exchange.columns import Number, TableRow, all_rows


class ClickRow(TableRow):
    """The columns of clicks: x and y in px of the picture, from its upper left."""

    what: Literal["mark", "axis", "even", "corner"]
    x: Number
    y: Number
    number: str = ""


def read_clicks(content: bytes, size: str, sides: str = "") -> tuple[FaceClicks, str]:
    """Return the clicks of a table, and the numbers of its marks.

    Parameters
    ----------
    content : bytes
        With the columns what, x, y, number.
    size : str
        Width and height of the picture, px: ``2400 x 1800``.
    sides : str
        Of the rectangle whose corners it has.

    Raises
    ------
    ValueTextError
        With every fault by its line.
    """
    wide, found_x, high = size.lower().replace("×", "x").partition("x")
    if not (found_x and wide.strip().isdecimal() and high.strip().isdecimal() and int(wide) and int(high)):
        raise ValueTextError(
            worded("arrive.how_large_is_the_picture_is", size=size), value=size, expected="2400 x 1800"
        )
    rows = all_rows(content, ClickRow, lambda row: row, "The clicks")
    of = {
        what: tuple((row.x, row.y) for row in rows if row.what == what) for what in ("mark", "axis", "even", "corner")
    }
    if len(of["axis"]) > 1:
        raise ValueTextError(
            worded("arrive.the_needle_turns_in_one_place", axis=len(of["axis"])), value=str(of["axis"][1])
        )
    clicks = FaceClicks(
        size=(float(wide), float(high)), marks=of["mark"], axis=of["axis"][0] if of["axis"] else None, even=of["even"],
        corners=of["corner"], sides=sides,
    )  # fmt: skip
    return clicks, " ".join(row.number for row in rows if row.what == "mark")
