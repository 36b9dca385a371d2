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
    current: Annotated[Literal["", "d.c.", "a.c."], Field(description="of what; empty where nobody said")] = ""
    hertz: Annotated[NotBelow, Field(description="at which it is read; 0 where that is not said")] = 0.0

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


class FrequencySaid(Body):
    """At which frequency, Hz, a function of alternating current is read, from here on and for what was read before."""

    kind: Literal["frequency"] = "frequency"
    function: str
    hertz: Above


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
        said(FrequencySaid, lambda b, _: f"{b.function} is read at {engineering(b.hertz, 'Hz')}"),
        said(
            PointsPlanned,
            lambda b, _: f"points to read on {b.function}/{b.range}: {', '.join(trimmed(v, 6) for v in b.values)}",
        ),
    )
)


@dataclass(frozen=True)
class RangesRecord:
    """The ranges that stand, in the order they were first made, and the points planned on each; by (function, range).

    `hertz` is at which each function of alternating current is read, by its key.
    """

    made: Mapping[tuple[str, str], Entry[RangeMade]] = field(default_factory=dict)
    planned: Mapping[tuple[str, str], tuple[float, ...]] = field(default_factory=dict)
    hertz: Mapping[str, float] = field(default_factory=dict)

    @property
    def without_frequency(self) -> tuple[str, ...]:
        """The functions of alternating current, by key, of which nobody said at which frequency they are read."""
        asked = {e.body.function_key for e in self.made.values() if e.body.current == "a.c."}
        return tuple(sorted(asked - set(self.hertz)))


def ranges_record(standing: Standing) -> RangesRecord:
    """Return what stands of ranges made as one goes."""
    said_in_range = {e.body.function_key: e.body.hertz for e in standing.of(RangeMade) if e.body.hertz}
    plans = standing.grouped(PointsPlanned, lambda b: (b.function, b.range))
    return RangesRecord(
        made=standing.by(RangeMade, lambda b: (b.function_key, b.range_key)),
        hertz={**said_in_range, **{e.body.function: e.body.hertz for e in standing.of(FrequencySaid)}},
        planned={key: tuple(v for e in entries for v in e.body.values) for key, entries in plans.items()},
    )
