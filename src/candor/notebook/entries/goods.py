"""What a piece is, whoever has it."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from candor.core.parts.part import Kind
from candor.core.parts.replacement import piece
from candor.notebook.entries.body import Nested
from candor.notebook.entries.fields import Above, NotBelow, Text


class Goods(Nested):
    """What a piece is, whoever has it."""

    what: Kind
    value: Above
    tolerance: NotBelow = 0.0
    make: str = ""
    volts: NotBelow = 0.0
    watts: NotBelow = 0.0
    safety: str = ""
    celsius: NotBelow = 0.0


class NeedLine(Goods):
    """So many of one kind to put in a part's place."""

    text: Text
    count: Annotated[int, Field(ge=1, le=1000)] = 1
    supplier: str = ""
    price: NotBelow = 0.0
    stock: str = ""


def goods_text(b: Goods) -> str:
    """Return value, tolerance, rating and make: ``47 nF 10 % 630 V film``."""
    return piece(
        kind=b.what,
        value=b.value,
        tolerance=b.tolerance,
        make=b.make,
        volts=b.volts,
        watts=b.watts,
        safety=b.safety,
        celsius=b.celsius,
        count=1,
        key="",
    ).text
