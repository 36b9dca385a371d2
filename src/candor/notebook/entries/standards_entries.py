"""Standards of the shop: what each is good for, chains of them, checks of one against another, and when one is withdrawn."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from candor.core.quantities import engineering
from candor.core.reference.detector import Marked, Responds
from candor.core.reference.reference import Current, Role
from candor.core.worded import worded
from candor.notebook.entries.body import Body, Nested
from candor.notebook.entries.entry import said
from candor.notebook.entries.fields_entries import Text

StandardUnit = Literal["V", "A", "ohm", "F", "H", "Hz", "S", "s", "dB", "1"]
NotNegative = Annotated[float, Field(ge=0)]
# What an entry of before there were several functions said of its one.
_ONE_FUNCTION = ("unit", "ranges", "points")


class SpecificationLine(Nested):
    """One line of a standard's specification; see core.reference.reference."""

    upper: Annotated[float, Field(gt=0)]
    percent_of_reading: NotNegative = 0.0
    percent_of_range: NotNegative = 0.0
    counts: NotNegative = 0.0
    resolution: NotNegative = 0.0
    low_hertz: NotNegative = 0.0
    high_hertz: NotNegative = 0.0


class CertificateLine(Nested):
    """One line of a standard's certificate; see core.reference.reference."""

    value: NotNegative
    correction: float = 0.0
    expanded: NotNegative
    factor: Annotated[float, Field(gt=0)] = 2.0
    hertz: NotNegative = 0.0


class StandardFunction(Nested):
    """One quantity that a standard is good for."""

    unit: StandardUnit = "V"
    current: Current = ""
    ranges: tuple[SpecificationLine, ...] = ()
    points: tuple[CertificateLine, ...] = ()
    responds: Responds | Literal[""] = ""
    marked: Marked = "rms"
    crest_factor: NotNegative = 0.0
    input_ohms: NotNegative = 0.0
    input_farads: NotNegative = 0.0
    step: NotNegative = 0.0


class StandardRecorded(Body):
    """A standard we own, as it stands after a check; recording it again supersedes it.

    One recorded before standards had several functions is read as one of a single function.
    """

    kind: Literal["standard"] = "standard"
    key: str
    name: str
    serial: str = ""
    role: Role = "meter"
    functions: tuple[StandardFunction, ...] = (StandardFunction(),)
    drift_percent_per_year: NotNegative = 0.0
    calibrated_on: dt.date | None = None
    valid_days: Annotated[int, Field(gt=0)] = 365
    low_celsius: float = 18.0
    high_celsius: float = 28.0
    percent_per_kelvin: NotNegative = 0.0
    most_volts: NotNegative = 0.0
    most_to_earth: NotNegative = 0.0
    traceability: str = ""
    typical: Annotated[
        bool, Field(description="specified by what is usual for its class, not by its own handbook")
    ] = False
    link: Annotated[
        str, Field(description="where it answers, a VISA name, or simulated; empty where it is read by eye")
    ] = ""

    @model_validator(mode="before")
    @classmethod
    def _of_one_function(cls, data: Any) -> Any:
        if not isinstance(data, dict) or "functions" in data or not any(key in data for key in _ONE_FUNCTION):
            return data
        kept = {key: value for key, value in data.items() if key not in _ONE_FUNCTION}
        return {**kept, "functions": ({key: data[key] for key in _ONE_FUNCTION if key in data},)}


class ChainLink(Nested):
    """One name of a chain's formula: the entry that recorded the standard or chain, and its value where it is not read."""

    name: Text
    standard: Text
    unit: StandardUnit = "V"
    current: Current = ""
    value: float | None = None


class ChainRecorded(Body):
    """Standards joined by a formula, a reference of its own; recording it again supersedes it."""

    kind: Literal["chain"] = "chain"
    key: str
    name: Text
    unit: StandardUnit
    current: Current = ""
    formula: Text
    links: Annotated[tuple[ChainLink, ...], Field(min_length=1)]


class StandardCompared(Body):
    """A check of one standard against another: what both showed of one thing, SI, and the U of each (k = 2)."""

    kind: Literal["standard_compared"] = "standard_compared"
    standard: Text
    against: Text
    unit: StandardUnit = "V"
    shown: float
    reference: float
    expanded: NotNegative
    expanded_reference: NotNegative
    note: str = ""


class StandardWithdrawn(Body):
    """A standard is out of service, or back in it (`reason` empty); `until` is the day it is expected back, where one is known."""

    kind: Literal["standard_withdrawn"] = "standard_withdrawn"
    standard: Text
    reason: str = ""
    until: dt.date | None = None


class StandardsCame(Body):
    """Entries of another shop's standards that came with a travelling job: they hold for its readings, and for nothing here."""

    kind: Literal["standards_came"] = "standards_came"
    entries: Annotated[tuple[Text, ...], Field(min_length=1)]
    shop: str = ""


def _standard(b: StandardRecorded) -> str:
    return worded(
        "entries.standard_last_checked",
        name=b.name,
        calibrated_on=b.calibrated_on.isoformat() if b.calibrated_on else "never",
    )


def _numbers(ids: tuple[str, ...], numbers: Mapping[str, int]) -> str:
    return ", ".join(str(numbers.get(i, 0)) for i in ids)


def _compared(b: StandardCompared) -> str:
    return worded(
        "entries.checked_against_and",
        standard=b.standard,
        against=b.against,
        shown=engineering(b.shown, b.unit, 7),
        reference=engineering(b.reference, b.unit, 7),
    )


WORDS = dict(
    (
        said(StandardRecorded, lambda b, _: _standard(b)),
        said(ChainRecorded, lambda b, _: f"chain {b.name} = {b.formula}"),
        said(
            StandardsCame,
            lambda b, n: worded(
                "entries.standards_of_entries", shop=b.shop or "another shop", numbers=_numbers(b.entries, n)
            ),
        ),
        said(StandardCompared, lambda b, _: _compared(b)),
        said(
            StandardWithdrawn,
            lambda b, _: (
                worded("entries.out_of_service", standard=b.standard, reason=b.reason)
                if b.reason
                else worded("entries.back_in_service", standard=b.standard)
            ),
        ),
    )
)
