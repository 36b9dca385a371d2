"""Calibrate: steps, waits, readings, trims, conditions, the standard and the rule."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from types import MappingProxyType
from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from candor.core.calibration.point import Phase, TestPoint
from candor.core.calibration.setup import SetUpTerm
from candor.core.jot.adjuster_line import say_turns
from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import trimmed
from candor.core.reading.kinds import reading_of
from candor.core.reading.reading import INDICATED, Direction, Reading
from candor.core.verdict.rules import Rule
from candor.core.worded import worded
from candor.notebook.entries.arrive_entries import PhotoAdded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said, says
from candor.notebook.entries.fields_entries import Number
from candor.notebook.entries.setup_entries import ConditionNoted, Noted, SetUpSaid
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.entries.strikes_entries import Struck, Unstruck
from candor.notebook.entries.timers_entries import Timer, TimerStarted, timers_of

# How it came: read and typed, from a link, confirmed by a press of its own, as a source or fixed part was set; empty of before.
ReferenceFrom = Literal["", "typed", "captured", "confirmed", "as set"]
Means = Literal["number", "ticks", "drag", "jot", "pedal", "csv"]


class StepDone(Body):
    """A step that was done and confirmed."""

    kind: Literal["step_done"] = "step_done"
    step: str


class StepSkipped(Body):
    """A step left out, with its reason."""

    kind: Literal["step_skipped"] = "step_skipped"
    step: str
    reason: Annotated[str, Field(min_length=1)]


class ReadingTaken(Body):
    """A reading: what was read at a point, by the names its kind asks for, and what the reference showed; SI.

    Magnitudes where the function has a polarity. A needle's, of before there were other kinds, has `indicated` alone.
    """

    # An ohms scale can be read at infinity, which JSON has no number for.
    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True, ser_json_inf_nan="strings")
    kind: Literal["reading"] = "reading"
    step: str
    phase: Phase
    point: str
    indicated: Number | None = None
    reference: Annotated[float, Field(allow_inf_nan=False)] = 0.0
    read_as: Annotated[str, Field(description="kind of reading, where it is not the point's own")] = ""
    figures: tuple[tuple[str, Number], ...] = Field(default=(), description="by the names the kind asks for, SI")
    word: str = ""
    direction: Direction = ""
    standard: str = ""
    reference_from: ReferenceFrom = ""
    reference_u: Annotated[float, Field(ge=0, description="of a captured mean, from its scatter; SI")] = 0.0
    reference_count: int = 0
    means: Means = "number"
    written: str = ""
    simulated: Annotated[
        bool, Field(description="its reference was a simulated meter or source: practice, no evidence")
    ] = False


class ArrivedDead(Body):
    """As found: inoperative. There is no as-found reading, and drift counts none."""

    kind: Literal["inoperative"] = "inoperative"
    reason: Annotated[str, Field(min_length=1)]


class AsFoundWaived(Body):
    """It is changed without having been read as found first: asked once, and said on page one."""

    kind: Literal["as_found_waived"] = "as_found_waived"
    reason: str = ""


class AdjustmentMade(Body):
    """A trim that was turned: where it stood, how far it went, and what the needle read when it was left alone."""

    kind: Literal["adjustment"] = "adjustment"
    step: str
    trim: str
    indicated: float | None = None
    reference: float | None = None
    stood: Annotated[str, Field(description="before it was moved, in words")] = ""
    turns: Annotated[float | None, Field(allow_inf_nan=False, description="+ clockwise")] = None

    @property
    def moved_words(self) -> str:
        """Where it stood and how far it went, in brackets; nothing where nobody said."""
        said = (f"stood {self.stood}" if self.stood else "", say_turns(self.turns) if self.turns is not None else "")
        return f" ({', '.join(filter(None, said))})" if any(said) else ""


class WaveformKept(Body):
    """The samples that a reading was taken from: a file beside the notebook, by the digest of its content."""

    kind: Literal["waveform"] = "waveform"
    reading: Annotated[str, Field(description="entry of the reading")]
    file: Annotated[str, Field(min_length=1)]
    name: str = ""
    channel: str = ""
    figure: str = ""


class RuleChosen(Body):
    """The decision rule of the job."""

    kind: Literal["rule"] = "rule"
    gives_on = "how it is read"
    rule: Rule


class StandardNamed(Body):
    """Readings for which no standard was named, by their entries: somebody says afterwards which was connected."""

    kind: Literal["standard_named"] = "standard_named"
    readings: Annotated[tuple[str, ...], Field(min_length=1)]
    standard: str


class StandardChosen(Body):
    """A standard the job is read against, by the entry that recorded it: from here on for points of its quantity."""

    kind: Literal["standard_chosen"] = "standard_chosen"
    gives_on = "how it is read"
    standard: str


_WAYS = {"up": ", from below", "down": ", from above", "": ""}


def _reading(b: ReadingTaken) -> str:
    way = _WAYS[b.direction]
    if b.word:
        return f"{b.point}, {b.phase}: seen {b.word}"
    said = [f"{name} {trimmed(value, 6)}" for name, value in b.figures]
    if b.indicated is not None:
        said.insert(0, f"{trimmed(b.indicated, 6)} read")
    return f"{b.point}, {b.phase}: {', '.join(said)}, {trimmed(b.reference, 7)} applied{way}"


def _adjustment(b: AdjustmentMade) -> str:
    left = "" if b.indicated is None else worded("entries.left_at", indicated=trimmed(b.indicated, 6))
    return f"trimmed {b.trim}{left}"


def _waveform(b: WaveformKept, n: Mapping[str, int]) -> str:
    name = "entries.samples_of_the_reading_of_entry"
    return worded(name, n=n.get(b.reading, 0), name=b.name, channel=b.channel, figure=b.figure)


WORDS = dict(
    (
        said(StepDone, lambda b, _: f"done: {b.step}"),
        said(StepSkipped, lambda b, _: worded("entries.left_out_because", step=b.step, reason=b.reason)),
        said(TimerStarted, lambda b, _: worded("entries.timer", label=b.label, minutes=trimmed(b.seconds / 60))),
        said(ReadingTaken, lambda b, _: _reading(b)),
        said(AsFoundWaived, lambda b, _: worded("entries.without_as_found", reason=b.reason and f": {b.reason}")),
        said(ArrivedDead, lambda b, _: worded("entries.as_found_inoperative_because", reason=b.reason)),
        said(AdjustmentMade, lambda b, _: _adjustment(b)),
        said(WaveformKept, _waveform),
        said(RuleChosen, lambda b, _: f"decision rule: {b.rule}"),
        said(StandardChosen, lambda b, n: worded("entries.read_against_standard", n=n.get(b.standard, 0))),
        said(
            StandardNamed,
            lambda b, n: worded("entries.named_later", n=n.get(b.standard, "?"), readings=len(b.readings)),
        ),
    )
)


@dataclass(frozen=True)
class TakenReading:
    """A reading with what stood when it was taken: later entries and strikes do not change it.

    Attributes
    ----------
    entry : Entry
    place : int
        Among the job's entries, in order.
    noted : mapping of str to Entry
        The conditions of room and line, and the terms of the set-up, that had been noted by then, and not struck.
    named : Entry or None
        Which standard was connected, where that was said afterwards.
    """

    entry: Entry[ReadingTaken]
    place: int
    noted: Mapping[str, Noted] = field(default_factory=dict)
    named: Entry[StandardNamed] | None = None
    _read: list[tuple[TestPoint, Reading]] = field(default_factory=list, compare=False, repr=False)

    @property
    def standard(self) -> str:
        """The entry of the standard it was read against: named with it, or afterwards; empty where none was."""
        return self.body.standard or (self.named.body.standard if self.named is not None else "")

    @property
    def body(self) -> ReadingTaken:
        """What was read."""
        return self.entry.body

    @property
    def celsius(self) -> float | None:
        """The room then, None where it was not noted before."""
        entry = self.noted.get("celsius")
        return entry.body.value if entry else None

    @property
    def line_volts(self) -> float:
        """The line then, V; 0 where it was not noted before."""
        entry = self.noted.get("line_volts")
        return entry.body.value if entry else 0.0

    @property
    def setup(self) -> tuple[SetUpTerm, ...]:
        """The terms of the set-up then."""
        return tuple(e.body.term for e in self.noted.values() if says(e, SetUpSaid))

    def reading(self, point: TestPoint) -> Reading:
        """Return it as the core knows readings of a point; asked of the same point again it is the very same."""
        if not self._read or self._read[0][0] is not point:
            self._read[:] = ((point, self._reading(point)),)
        return self._read[0][1]

    def _reading(self, point: TestPoint) -> Reading:
        body = self.entry.body
        figures = dict(body.figures) if body.indicated is None else {INDICATED: body.indicated, **dict(body.figures)}
        return reading_of(
            point, figures, body.reference, kind=body.read_as, direction=body.direction, entry=self.entry.number,
            captured=(body.reference_u, body.reference_count), simulated=body.simulated, by_place=body.means == "drag",
        )  # fmt: skip


@dataclass(frozen=True)
class Opening:
    """What opened a state of the instrument.

    Attributes
    ----------
    entry : Entry
    place : int
        Among the job's entries, in order.
    moves : frozenset of str
        The adjuster or the part by name; empty where it may be anything.
    trim : bool
        An adjuster was moved.
    """

    entry: Entry[AdjustmentMade] | Entry[ChangeMade]
    place: int
    moves: frozenset[str]
    trim: bool


@dataclass(frozen=True)
class CalibrateRecord:
    """What stands of the calibration.

    Attributes
    ----------
    done, skipped : mapping of step key to Entry
    readings : tuple of TakenReading
        In the order they were taken.
    openings : tuple of Opening
        What opened each state after the first.
    inoperative : Entry or None
        That it arrived dead.
    waived : Entry or None
        That it was changed without having been read as found.
    conditions : mapping of str to Entry
        The newest of each.
    standards : tuple of str
        The entries that recorded the standards in use, as they were chosen; see notebook.standards.chosen_for.
    rule_entry : int
        The number of the entry that chose the rule; 0 where none did.
    photos : mapping of str to tuple of str
        File names of the pictures of a reading, by the id of its entry.
    waveforms : mapping of str to Entry
        The samples of a reading, by the id of its entry.
    """

    done: Mapping[str, Entry[StepDone] | Entry[AdjustmentMade]] = field(default_factory=dict)
    skipped: Mapping[str, Entry[StepSkipped]] = field(default_factory=dict)
    timers: tuple[Timer, ...] = ()
    readings: tuple[TakenReading, ...] = ()
    openings: tuple[Opening, ...] = ()
    inoperative: Entry[ArrivedDead] | None = None
    waived: Entry[AsFoundWaived] | None = None
    adjustments: tuple[Entry[AdjustmentMade], ...] = ()
    conditions: Mapping[str, Entry[ConditionNoted]] = field(default_factory=dict)
    set_up: Mapping[str, Entry[SetUpSaid]] = field(default_factory=dict)
    rule: Rule = Rule.GUARDED
    rule_entry: int = 0
    standards: tuple[str, ...] = ()
    photos: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    waveforms: Mapping[str, Entry[WaveformKept]] = field(default_factory=dict)

    def timer_of(self, step: str) -> Timer | None:
        """Return the last timer started for a step."""
        return next((t for t in reversed(self.timers) if t.step == step), None)

    @property
    def celsius(self) -> float | None:
        """The room as last noted, °C."""
        return self.conditions["celsius"].body.value if "celsius" in self.conditions else None


def calibrate_record(standing: Standing) -> CalibrateRecord:
    """Return what stands of the calibration."""
    rule = standing.newest(RuleChosen)
    return CalibrateRecord(
        done=MappingProxyType({e.body.step: e for e in standing.of(StepDone, AdjustmentMade)}),
        skipped=_skipped(standing),
        timers=timers_of(standing),
        readings=_readings(standing),
        openings=tuple(_opening(place, e) for place, e in standing.placed(AdjustmentMade, ChangeMade)),
        inoperative=standing.newest(ArrivedDead),
        waived=standing.newest(AsFoundWaived),
        adjustments=standing.of(AdjustmentMade),
        conditions=standing.by(ConditionNoted, lambda b: b.which),
        set_up=standing.by(SetUpSaid, lambda b: b.which),
        rule=rule.body.rule if rule else Rule.GUARDED,
        rule_entry=rule.number if rule else 0,
        standards=tuple(e.body.standard for e in standing.of(StandardChosen)),
        photos=_photos(standing),
        waveforms=standing.by(WaveformKept, lambda b: b.reading),
    )


def _photos(standing: Standing) -> Mapping[str, tuple[str, ...]]:
    """The pictures of every reading that has some, by its entry."""
    read, grouped = {e.id for e in standing.of(ReadingTaken)}, standing.grouped(PhotoAdded, lambda b: b.finding)
    return {of: tuple(e.body.file for e in added) for of, added in grouped.items() if of in read}


def moved_words(done: Entry[StepDone] | Entry[AdjustmentMade]) -> str:
    """Return where an adjuster stood and how far it went, in brackets; nothing of a step that turned none."""
    return done.body.moved_words if isinstance(done.body, AdjustmentMade) else ""


def _skipped(standing: Standing) -> Mapping[str, Entry[StepSkipped]]:
    """A step that was done or read after it was left out is left out no more."""
    found: dict[str, Entry[StepSkipped]] = {}
    if not standing.of(StepSkipped):
        return MappingProxyType(found)
    for entry in standing.of(StepSkipped, StepDone, ReadingTaken):
        if says(entry, StepSkipped):
            found[entry.body.step] = entry
        else:
            found.pop(entry.body.step, None)
    return MappingProxyType(found)


def _opening(place: int, entry: Entry[AdjustmentMade] | Entry[ChangeMade]) -> Opening:
    body = entry.body
    if isinstance(body, AdjustmentMade):
        return Opening(entry, place, frozenset({body.trim}), trim=True)
    if body.turned:
        return Opening(entry, place, frozenset({body.turned}), trim=True)
    return Opening(entry, place, frozenset((body.part or body.touches).split(", ")) - {""}, trim=False)


def _readings(standing: Standing) -> tuple[TakenReading, ...]:
    """Every reading with the conditions that had been noted by then: a strike counts from when it was made."""
    found, conditions, struck = list[TakenReading](), list[Noted](), set[str]()
    noted, named = dict[str, Noted](), {reading: e for e in standing.of(StandardNamed) for reading in e.body.readings}
    for place, entry in enumerate(standing.entries):
        if says(entry, ReadingTaken):
            taken = TakenReading(entry, place, noted, named.get(entry.id))
            found += [taken] if entry.id not in standing.struck else []
            continue
        if says(entry, ConditionNoted) or says(entry, SetUpSaid):
            conditions.append(entry)
        elif says(entry, Struck):
            struck.add(entry.body.target)
        elif says(entry, Unstruck):
            struck.discard(entry.body.target)
        else:
            continue
        noted = {e.body.which: e for e in conditions if e.id not in struck}
    return tuple(found)
