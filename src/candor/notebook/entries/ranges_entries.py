"""Ranges and points made as one goes: what the job itself says of the face of its instrument."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import asdict, field, fields
from typing import Annotated, Literal
from zlib import crc32

from pydantic import ConfigDict, Field

from candor.core.instrument.how import EVEN, HowRead, Kind, SecondDial, Shape
from candor.core.instrument.limit import LimitBy, LimitSaid
from candor.core.instrument.words import how_words
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import in_si, trimmed
from candor.core.quantities.units import normalise, suffix_meaning
from candor.core.worded import worded
from candor.notebook.entries.body import Body, Nested
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields_entries import Above, Finite, NotBelow, Number, Text
from candor.notebook.entries.standing_entries import Standing

NO_LIMIT = "no limit"
RangeUnit = Literal["V", "A", "ohm", "F", "H", "Hz", "S", "s", "dB", "1"]
_OPEN = ConfigDict(
    frozen=True, extra="forbid", defer_build=True, ser_json_inf_nan="strings"
)  # an arc may end in infinity


class SecondDialSaid(Nested):
    """The other of two dials: what it is called, and where it ends, in its SI unit."""

    title: Text
    unit: RangeUnit
    end: Above
    divisions: Annotated[int, Field(ge=1, le=1000)]


class HowItIsRead(Nested):
    """How a range is read where that is not a needle over an even scale from zero: see `core.instrument.how`."""

    model_config = _OPEN
    kind: Kind = "needle"
    shape: Shape = "even"
    begins: Finite = 0.0
    ends: Finite = 0.0
    knee: NotBelow = 0.0
    marks: tuple[Number, ...] = ()
    places: tuple[Finite, ...] = ()
    # Left out where nothing was said of it: entries of before keep the bytes they have.
    places_u: Annotated[float, Field(ge=0, lt=0.5, exclude_if=lambda u: not u)] = 0.0
    per_division: NotBelow = 0.0
    edge: Annotated[float, Field(gt=0, le=1)] = 0.1
    axis: Literal["vertical", "horizontal"] = "vertical"
    steps: tuple[Finite, ...] = ()
    on_side: Literal[-1, 0, 1] = 0
    passes: tuple[Text, ...] = ()
    fails: tuple[Text, ...] = ()
    second: SecondDialSaid | None = None
    formula: Annotated[str, Field(max_length=300, exclude_if=lambda f: not f)] = ""
    points: Annotated[tuple[tuple[Text, Text], ...], Field(exclude_if=lambda p: not p)] = ()
    comes_to: Annotated[Finite, Field(exclude_if=lambda v: not v)] = 0.0

    @classmethod
    def of(cls, how: HowRead) -> HowItIsRead | None:
        """Return it as it is written; None of the even scale, of which nothing need be said."""
        return None if how == EVEN else cls.model_validate(asdict(how))

    @property
    def core(self) -> HowRead:
        """It as the core reads by it."""
        said = self.model_dump()
        return HowRead(**{**said, "second": SecondDial(**said["second"]) if said["second"] else None})


class RangeMade(Body):
    """A range as it is written on the instrument; made again, the newer one holds for all its readings.

    Attributes
    ----------
    function : str
        As the restorer calls it.
    full_scale : float
        SI, above zero; of an ohms arc the value at half of it.
    divisions : int
        Of its even scale, or between two marks; 0 where it has none.
    percent_of_full_scale to combine
        The limit; all 0 or None where none is known.
    name : str
        What the range switch calls it, where that is not its end.
    how : HowItIsRead or None
        None: a needle over an even scale from zero.
    stands, stands_s : float
        The greatest that its maker states, V or A, and for how many seconds; 0 where nothing is stated.
    """

    model_config = _OPEN
    kind: Literal["range"] = "range"
    gives_on = "how it is read"
    function: Text
    unit: RangeUnit
    polarity: Literal["+", "-", "both"] = "+"
    full_scale: Above
    divisions: Annotated[int, Field(ge=0, le=1000)]
    mirror: bool = False
    percent_of_full_scale: Annotated[float, Field(ge=0, le=100)] = 0.0
    percent_of_reading: Annotated[float, Field(ge=0, le=100)] = 0.0
    absolute: NotBelow = 0.0
    by: LimitBy = "maker"
    current: Annotated[Literal["", "d.c.", "a.c."], Field(description="of what; empty where nobody said")] = ""
    hertz: Annotated[NotBelow, Field(description="at which it is read; 0 where that is not said")] = 0.0
    name: str = ""
    how: HowItIsRead | None = None
    limit_divisions: NotBelow = 0.0
    percent_of_arc: NotBelow = 0.0
    degrees_of_arc: NotBelow = 0.0
    decibels: NotBelow = 0.0
    factor: NotBelow = 0.0
    at_least: Finite | None = None
    at_most: Finite | None = None
    combine: Literal["", "sum", "greater"] = ""
    # Left out where nothing was said of it: entries of before keep the bytes they have.
    stands: Annotated[NotBelow, Field(exclude_if=lambda v: not v)] = 0.0
    stands_s: Annotated[NotBelow, Field(exclude_if=lambda v: not v)] = 0.0
    # What its points are kept under; entries of before have none, and are named as the units shown have it.
    key: Annotated[str, Field(pattern=r"^([a-z0-9][a-z0-9._-]*\+?)?$", exclude_if=lambda v: not v)] = ""

    # The same of its function, where its name has no letter that a short name is made of.
    function_id: Annotated[str, Field(pattern=r"^[a-z0-9-]*$", exclude_if=lambda v: not v)] = ""

    @property
    def function_key(self) -> str:
        """The function's short name."""
        return self.function_id or short(self.function, f"f{self.unit}")

    @property
    def proper_function_id(self) -> str:
        """What its function is kept under where its name makes no short name: of its letters, so that no two are one."""
        return "" if short(self.function, "") else f"f{self.unit.lower()}-{crc32(self.function.encode()):08x}"

    @property
    def range_key(self) -> str:
        """The range's short name within its function."""
        return self.key or short(self.name or self._plain_title(6).replace(" ", "").replace("\u00a0", ""), "r")

    @property
    def proper_key(self) -> str:
        """The short name it gets where it has none yet: by its end in the SI, however the face writes that; else by its name."""
        end = suffix_value(self.name, self.unit)
        how = self.read_how
        if self.name and not (end is not None and math.isclose(end, self.full_scale, rel_tol=1e-9)):
            return short(self.name, f"r-{crc32(self.name.encode()):08x}")
        if how.kind in ("look", "screen", "figured") or how.shape == "decibels":
            return short(self._plain_title(6).replace(" ", "").replace("\u00a0", ""), "r")
        return short(in_si(self.full_scale, self.unit, 6).replace(" ", ""), "r")

    @property
    def title(self) -> str:
        """What the range is called: ``30 V``, ``Rx1``, ``−20 to 2 dB``."""
        return self.name or self._plain_title(4)

    def _plain_title(self, digits: int) -> str:
        how = self.read_how
        if how.kind in ("look", "figured"):
            return self.function
        if how.shape == "decibels":
            return worded("entries.to_db", begins=trimmed(how.begins), ends=trimmed(how.ends))
        if how.kind == "screen":
            return f"{engineering(how.per_division, self.unit)}/div"
        return (
            engineering(self.full_scale, self.unit, digits)
            if digits != 4
            else engineering(self.full_scale, self.unit)
        )

    @property
    def read_how(self) -> HowRead:
        """How it is read."""
        return self.how.core if self.how is not None else EVEN

    @property
    def limit(self) -> LimitSaid:
        """Its limit."""
        return LimitSaid(**{f.name: getattr(self, f.name) for f in fields(LimitSaid)})


class FrequencySaid(Body):
    """At which frequency, Hz, a function of alternating current is read, from here on and for what was read before."""

    kind: Literal["frequency"] = "frequency"
    gives_on = "how it is read"
    function: str
    hertz: Above


class PointsPlanned(Body):
    """Points to be read on a range, SI; a point that was read needs no plan."""

    kind: Literal["points_planned"] = "points_planned"
    gives_on = "how it is read"
    function: str
    range: str
    values: Annotated[tuple[Finite, ...], Field(min_length=1)]


def suffix_value(words: str, unit: str) -> float | None:
    """Return the value that words say with a unit, ``0.3 V`` or ``3000 µmho``; None where they say something else."""
    named = re.fullmatch(r"(\d+(?:\.\d+)?) ?(\S+)", normalise(words))
    meaning = suffix_meaning(named[2], unit) if named else None
    return float(named[1]) * meaning[0] if named and meaning and meaning[1] in (None, unit) else None


def short(words: str, otherwise: str) -> str:
    """Return words as a short name in lower case, as packs write them: ``DC volts +`` is ``dc-volts+``."""
    table = str.maketrans({"µ": "u", "μ": "u", "Ω": "ohm", "−": "-"})
    text = words.translate(table).lower()
    ends = "+" if text.rstrip().endswith("+") else "-" if text.rstrip().endswith("-") else ""
    kept = re.sub(r"[^a-z0-9._]+", "-", text).strip("-._")
    return f"{kept}{ends}" if re.match(r"[a-z0-9]", kept) else otherwise


def limit_words(b: RangeMade) -> str:
    """Return the limit of a range in words, with whose it is."""
    words = b.limit.words(b.unit)
    return worded("entries.limit_the_s", words=words, by=b.by) if words else NO_LIMIT


def range_words(b: RangeMade) -> str:
    """Return a range in words."""
    how = b.read_how
    if how == EVEN:
        mirror = ", mirror" if b.mirror else ""
        return worded(
            "entries.range_divisions",
            function=b.function,
            title=b.title,
            divisions=b.divisions,
            mirror=mirror,
            limit_words=limit_words(b),
        )
    said = ", ".join(how_words(how, b.full_scale, b.divisions, b.unit))
    limit = "" if how.kind == "look" else f", {limit_words(b)}"
    return worded(
        "entries.range",
        function=b.function,
        title=b.title,
        said=said,
        how=", mirror" if b.mirror else "",
        limit=limit,
    )


WORDS = dict(
    (
        said(RangeMade, lambda b, _: range_words(b)),
        said(
            FrequencySaid,
            lambda b, _: worded("entries.is_read_at", function=b.function, hertz=engineering(b.hertz, "Hz")),
        ),
        said(
            PointsPlanned,
            lambda b, _: worded(
                "entries.points_to_read_on",
                function=b.function,
                range=b.range,
                listed=", ".join(trimmed(v, 6) for v in b.values),
            ),
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

    def of_point(self, key: str) -> RangeMade | None:
        """Return the range that a test point is of, by the point's key; None where the job has not made it."""
        function, range_ = (*key.split("/"), "")[:2]
        made = self.made.get((function, range_))
        return made.body if made is not None else None

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
