"""Entries: the frozen, typed and versioned lines of a notebook."""

from __future__ import annotations

import datetime as dt
import json
import re
from collections.abc import Callable, Mapping
from typing import Annotated, Any, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from candor.core.errors import CandorError
from candor.core.jot.meaning import Mark
from candor.core.reading.dial import Direction
from candor.core.verdict.rules import Rule
from candor.notebook.body import Body as Body
from candor.notebook.entry import Entry as Entry
from candor.notebook.part_entries import (
    CircuitTaken,
    OrderArrived,
    OrderPlaced,
    PartDecided,
    PartListed,
    PartMeasured,
    PolicyChosen,
    PriceAgreed,
    ReplacementChosen,
    RunEnded,
    RunStarted,
    Spent,
    StockCounted,
    StockMoved,
)

Phase = Literal["as found", "as left"]
Status = Literal["wants hands", "waiting", "gone home"]
# How the reference's value came: read and typed, from the instrument's link, confirmed by a press of its own, or, of a
# source or fixed part, as it was set. Empty in entries of before this was kept.
ReferenceFrom = Literal["", "typed", "captured", "confirmed", "as set"]
StandardRole = Literal["meter", "source", "fixed part"]
StandardUnit = Literal["V", "A", "ohm", "F", "H", "Hz", "S", "s", "1"]
Means = Literal["number", "ticks", "drag", "jot", "pedal", "csv"]


class JobOpened(Body):
    """An instrument came to the bench."""

    kind: Literal["job_opened"] = "job_opened"
    maker: str
    type: str
    serial: str
    pack_digest: str


class DetailWritten(Body):
    """A detail of the instrument or its stay; the last one written for a field holds."""

    kind: Literal["detail"] = "detail"
    field: str
    text: str


class FindingNoted(Body):
    """Something found on the walk round."""

    kind: Literal["finding"] = "finding"
    zone: str
    mark: Mark
    text: str


class PhotoAdded(Body):
    """A photo of a finding; the file lies beside the notebook under its own digest."""

    kind: Literal["photo"] = "photo"
    finding: str
    file: str


class FindingSettled(Body):
    """A hazard or fix that was put right, or overridden with a written reason."""

    kind: Literal["finding_settled"] = "finding_settled"
    finding: str
    how: Literal["cleared", "overridden"]
    reason: Annotated[str, Field(min_length=1)]


class ItemLookedAt(Body):
    """An item of a zone's checklist that was looked for and is not there."""

    kind: Literal["looked"] = "looked"
    zone: str
    item: str


class ItemAdded(Body):
    """An item of one's own on the checklist of a zone, for every instrument of a pack; an entry of the shop."""

    kind: Literal["item_added"] = "item_added"
    pack: str
    zone: str
    item: Annotated[str, Field(min_length=1)]


class Fasteners(BaseModel):
    """So many fasteners of one kind from one place; length and head as they were written."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)
    count: Annotated[int, Field(ge=1, le=500)]
    length: str = ""
    head: str = ""
    where: str = ""


class TakenOff(Body):
    """A step of taking apart: what came off, what held it, which wire went where."""

    kind: Literal["taken_off"] = "taken_off"
    what: Annotated[str, Field(min_length=1)]
    fasteners: tuple[Fasteners, ...] = ()
    wires: str = ""


class PutBack(Body):
    """A step of taking apart undone; `left_over` counts fasteners that found no place."""

    kind: Literal["put_back"] = "put_back"
    step: str
    left_over: Annotated[int, Field(ge=0)] = 0


class StepDone(Body):
    """A step that was done and confirmed."""

    kind: Literal["step_done"] = "step_done"
    step: str


class StepSkipped(Body):
    """A step left out, with its reason."""

    kind: Literal["step_skipped"] = "step_skipped"
    step: str
    reason: Annotated[str, Field(min_length=1)]


class TimerStarted(Body):
    """A wait began; it ends `seconds` after the entry's time."""

    kind: Literal["timer"] = "timer"
    step: str
    label: str
    seconds: Annotated[float, Field(gt=0)]


class ReadingTaken(Body):
    """A reading: what the needle and the reference showed, SI magnitudes."""

    kind: Literal["reading"] = "reading"
    step: str
    phase: Phase
    point: str
    indicated: Annotated[float, Field(allow_inf_nan=False)]
    reference: Annotated[float, Field(allow_inf_nan=False)]
    direction: Direction = ""
    standard: str = ""
    reference_from: ReferenceFrom = ""
    means: Means = "number"
    written: str = ""


class ArrivedDead(Body):
    """As found: inoperative. There is no as-found reading, and drift counts none."""

    kind: Literal["inoperative"] = "inoperative"
    reason: Annotated[str, Field(min_length=1)]


class AdjustmentMade(Body):
    """A trim that was turned, and what the needle read when it was left alone."""

    kind: Literal["adjustment"] = "adjustment"
    step: str
    trim: str
    indicated: float | None = None
    reference: float | None = None


class ConditionNoted(Body):
    """A condition of room or line: degrees Celsius, per cent relative humidity, volts."""

    kind: Literal["condition"] = "condition"
    which: Literal["celsius", "humidity", "line_volts"]
    value: Annotated[float, Field(allow_inf_nan=False)]


class RuleChosen(Body):
    """The decision rule of the job."""

    kind: Literal["rule"] = "rule"
    rule: Rule


class StandardChosen(Body):
    """The standard the job is read against, by the entry that recorded it."""

    kind: Literal["standard_chosen"] = "standard_chosen"
    standard: str


class ChangeMade(Body):
    """Something done to the instrument; `part` is the designator of a part it replaced, `touches` of one only disturbed."""

    kind: Literal["change"] = "change"
    text: str
    part: str = ""
    touches: str = ""


class ChangeProven(Body):
    """The check that proves a change: one change, one check."""

    kind: Literal["change_proven"] = "change_proven"
    change: str
    check: Annotated[str, Field(min_length=1)]


class NoteWritten(Body):
    """Anything else."""

    kind: Literal["note"] = "note"
    text: str


class StatusSet(Body):
    """What the job waits for."""

    kind: Literal["status"] = "status"
    status: Status
    text: str = ""


class CertificateIssued(Body):
    """A certificate was signed off; `digest` is of the bytes of its JSON, kept beside the notebook under that name."""

    kind: Literal["certificate"] = "certificate"
    number: str
    digest: str
    sentence: str


class SpecificationLine(BaseModel):
    """One line of a standard's specification; see core.reading.reference."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)
    upper: Annotated[float, Field(gt=0)]
    percent_of_reading: Annotated[float, Field(ge=0)] = 0.0
    percent_of_range: Annotated[float, Field(ge=0)] = 0.0
    counts: Annotated[float, Field(ge=0)] = 0.0
    resolution: Annotated[float, Field(ge=0)] = 0.0


class CertificateLine(BaseModel):
    """One line of a standard's certificate; see core.reading.reference."""

    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True)
    value: Annotated[float, Field(ge=0)]
    correction: float = 0.0
    expanded: Annotated[float, Field(ge=0)]
    factor: Annotated[float, Field(gt=0)] = 2.0


class StandardRecorded(Body):
    """A standard we own, as it stands after a check; recording it again supersedes it."""

    kind: Literal["standard"] = "standard"
    key: str
    name: str
    serial: str = ""
    unit: StandardUnit = "V"
    role: StandardRole = "meter"
    ranges: tuple[SpecificationLine, ...] = ()
    points: tuple[CertificateLine, ...] = ()
    drift_percent_per_year: Annotated[float, Field(ge=0)] = 0.0
    calibrated_on: dt.date | None = None
    valid_days: Annotated[int, Field(gt=0)] = 365
    low_celsius: float = 18.0
    high_celsius: float = 28.0
    percent_per_kelvin: Annotated[float, Field(ge=0)] = 0.0
    traceability: str = ""


class Struck(Body):
    """An entry struck out. It stays readable, and counts no more."""

    kind: Literal["strike"] = "strike"
    target: str


class Unstruck(Body):
    """A strike taken back."""

    kind: Literal["unstrike"] = "unstrike"
    target: str


AnyBody = Annotated[
    JobOpened | DetailWritten | FindingNoted | PhotoAdded | FindingSettled | ItemLookedAt | ItemAdded | TakenOff
    | PutBack | StepDone | StepSkipped | TimerStarted | ReadingTaken | AdjustmentMade | ArrivedDead
    | ConditionNoted | RuleChosen | StandardChosen | ChangeMade | ChangeProven | NoteWritten | StatusSet
    | CertificateIssued | StandardRecorded | Struck | Unstruck | PartListed | CircuitTaken | PartMeasured
    | PolicyChosen | PartDecided | ReplacementChosen | RunStarted | RunEnded | StockCounted | StockMoved
    | OrderPlaced | OrderArrived | Spent | PriceAgreed,
    Field(discriminator="kind"),
]  # fmt: skip
BODIES: dict[str, type[Body]] = {arm.model_fields["kind"].default: arm for arm in get_args(get_args(AnyBody)[0])}
_KIND = re.compile(r'"kind":\s*"([a-z_]+)"')

# What the shelf must know of a job without folding all of it.
SHELF_KINDS = frozenset({"job_opened", "timer", "status", "change", "change_proven", "run_started", "run_ended"})
NOTICED_DETAILS = frozenset({"serial"})

Upgrade = Callable[[dict[str, Any]], dict[str, Any]]


class UnreadableEntryError(CandorError, ValueError):
    """An entry whose body this version cannot read."""


def read_body(text: str, number: int = 0, upgrades: Mapping[tuple[str, int], Upgrade] | None = None) -> Any:
    """Return the body of an entry from its JSON, upgraded step by step where it is older.

    Parameters
    ----------
    text : str
        JSON of the body.
    number : int
        Of the entry, for the sentence.
    upgrades : mapping of (kind, version) to function, optional
        Each takes a body of that version to the next.

    Raises
    ------
    UnreadableEntryError
        Where no body of this version comes of it.
    """
    if upgrades:
        raw = json.loads(text)
        while (raw.get("kind"), raw.get("version")) in upgrades:
            raw = upgrades[raw["kind"], raw["version"]](raw)
        text = json.dumps(raw)
    found = _KIND.search(text)
    kind = found[1] if found else ""
    if kind not in BODIES:
        raise _unreadable(text, number, f"the kind “{kind}” is not known" if kind else "it says no kind")
    try:
        return BODIES[kind].model_validate_json(text)
    except ValidationError as error:
        raise _unreadable(text, number, error.errors()[0]["msg"]) from None


def _unreadable(text: str, number: int, why: str) -> UnreadableEntryError:
    return UnreadableEntryError(
        f"Entry {number} cannot be read by this version of Candor ({why}); it was left as it is.",
        value=text[:200],
        place=f"entry {number}",
    )


def matters_on_shelf(body: Body) -> bool:
    """Say whether the shelf must read an entry."""
    kind = getattr(body, "kind", "")
    return kind in SHELF_KINDS or (isinstance(body, DetailWritten) and body.field in NOTICED_DETAILS)
