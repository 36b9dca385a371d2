"""Ranges and points made as one goes: what the job itself says of the face of its instrument."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Annotated, Literal

from pydantic import Field

from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields import Above, NotBelow, Text
from candor.notebook.entries.standing import Standing

NO_LIMIT = "no limit"
RangeUnit = Literal["V", "A", "ohm", "F", "H", "Hz", "S", "s", "1"]


class RangeMade(Body):
    """A range as it is written on the instrument; made again, the newer one holds for all its readings.

    Attributes
    ----------
    function : str
        As the restorer calls it.
    full_scale : float
        SI, above zero.
    divisions : int
        Of its even scale.
    percent_of_full_scale, percent_of_reading, absolute : float
        The limit; all 0 where none is known.
    """

    kind: Literal["range"] = "range"
    function: Text
    unit: RangeUnit
    polarity: Literal["+", "-"] = "+"
    full_scale: Above
    divisions: Annotated[int, Field(ge=1, le=1000)]
    mirror: bool = False
    percent_of_full_scale: Annotated[float, Field(ge=0, le=100)] = 0.0
    percent_of_reading: Annotated[float, Field(ge=0, le=100)] = 0.0
    absolute: NotBelow = 0.0
    by: Literal["maker", "owner", "shop"] = "maker"

    @property
    def function_key(self) -> str:
        """The function's short name."""
        return short(self.function, f"f{self.unit}")

    @property
    def range_key(self) -> str:
        """The range's short name within its function."""
        return short(engineering(self.full_scale, self.unit, 6).replace(" ", ""), "r")

    @property
    def title(self) -> str:
        """What the range is called: ``30 V``."""
        return engineering(self.full_scale, self.unit)


class PointsPlanned(Body):
    """Points to be read on a range, SI; a point that was read needs no plan."""

    kind: Literal["points_planned"] = "points_planned"
    function: str
    range: str
    values: Annotated[tuple[Above, ...], Field(min_length=1)]


def short(words: str, otherwise: str) -> str:
    """Return words as a short name in lower case, as packs write them: ``DC volts +`` is ``dc-volts+``."""
    table = str.maketrans({"µ": "u", "μ": "u", "Ω": "ohm", "−": "-"})
    text = words.translate(table).lower()
    ends = "+" if text.rstrip().endswith("+") else "-" if text.rstrip().endswith("-") else ""
    kept = re.sub(r"[^a-z0-9._]+", "-", text).strip("-._")
    return f"{kept}{ends}" if re.match(r"[a-z0-9]", kept) else otherwise


def limit_words(b: RangeMade) -> str:
    """Return the limit of a range in words, with whose it is."""
    terms = [f"{trimmed(b.percent_of_full_scale)} % of full scale"] if b.percent_of_full_scale else []
    terms += [f"{trimmed(b.percent_of_reading)} % of reading"] if b.percent_of_reading else []
    terms += [engineering(b.absolute, b.unit)] if b.absolute else []
    return f"limit ±({' + '.join(terms)}), the {b.by}'s" if terms else NO_LIMIT


WORDS = dict(
    (
        said(
            RangeMade,
            lambda b, _: (
                f"range {b.function} {b.title}, {b.divisions} divisions{', mirror' if b.mirror else ''}, {limit_words(b)}"
            ),
        ),
        said(
            PointsPlanned,
            lambda b, _: f"points to read on {b.function}/{b.range}: {', '.join(trimmed(v, 6) for v in b.values)}",
        ),
    )
)


@dataclass(frozen=True)
class RangesRecord:
    """The ranges that stand, in the order they were first made, and the points planned on each; by (function, range)."""

    made: Mapping[tuple[str, str], Entry[RangeMade]] = field(default_factory=dict)
    planned: Mapping[tuple[str, str], tuple[float, ...]] = field(default_factory=dict)


def ranges_record(standing: Standing) -> RangesRecord:
    """Return what stands of ranges made as one goes."""
    plans = standing.grouped(PointsPlanned, lambda b: (b.function, b.range))
    return RangesRecord(
        made=standing.by(RangeMade, lambda b: (b.function_key, b.range_key)),
        planned={key: tuple(v for e in entries for v in e.body.values) for key, entries in plans.items()},
    )
