"""The pack: a description of one type of instrument. Its JSON Schema is published in docs/."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationInfo, model_validator

from candor.core.reading.scale import Scale, linear_scale, marked_scale
from candor.packs.parts import CHECKED, PackCircuit, PackPartLine, node_faults, was_checked

Key = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9+._-]*$", description="a short name in lower case")]
Words = Annotated[str, Field(min_length=1)]
ProcedurePhase = Literal["preparation", "as found", "adjustment", "as left"]


class PackModel(BaseModel):
    """Every part of a pack is frozen and knows no key that is not written here."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Caution(PackModel):
    """Something that can hurt a person or the instrument, said before the step."""

    key: Key
    level: Literal["danger", "attention"]
    text: Words
    short: Annotated[str, Field(min_length=1, max_length=60)]


class Zone(PackModel):
    """One place of the walk round the instrument, with what to look for."""

    key: Key
    title: Words
    look_for: tuple[Words, ...] = ()
    means: Annotated[
        dict[str, Words], Field(description="item of look_for: what it means, where that is not plain")
    ] = {}


class EvenMarks(PackModel):
    """An even scale: so many divisions from one value to another."""

    start: float = 0.0
    stop: float
    divisions: Annotated[int, Field(ge=1, le=1000)]
    number_every: Annotated[int, Field(ge=1)]
    long_every: Annotated[int, Field(ge=1)] | None = None

    @model_validator(mode="after")
    def _rises(self) -> EvenMarks:
        if not self.stop > self.start:
            raise ValueError(
                f"the scale goes backwards: it stops at {self.stop:g}, which must be above {self.start:g}"
            )
        return self


class UnevenMarks(PackModel):
    """An uneven scale: each mark as [value, deflection], deflection 0 at the left end and 1 at the right."""

    marks: Annotated[tuple[tuple[float, float], ...], Field(min_length=2)]
    divisions_between: Annotated[int, Field(ge=1, le=100)] = 1

    @model_validator(mode="after")
    def _rises(self) -> UnevenMarks:
        for (value, place), (next_value, next_place) in pairwise(self.marks):
            if not (next_value > value and next_place > place):
                raise ValueError(
                    f"the scale goes backwards: mark [{next_value:g}, {next_place:g}] follows [{value:g}, {place:g}]; "
                    "value and deflection must both be greater than the ones before"
                )
        return self


class PrintedScale(PackModel):
    """One printed arc."""

    key: Key
    title: Words
    radius: Annotated[float, Field(gt=0, le=1, description="share of the largest arc's radius")] = 1.0
    mirror: Annotated[bool | None, Field(description="whether it has a mirror; none: as the face says")] = None
    even: EvenMarks | None = None
    uneven: UnevenMarks | None = None

    @model_validator(mode="after")
    def _one_kind(self) -> PrintedScale:
        if (self.even is None) == (self.uneven is None):
            raise ValueError("a scale is either even or uneven: give exactly one of the keys 'even' and 'uneven'")
        return self

    def scale(self) -> Scale:
        """Return the scale as the core reads it."""
        if self.uneven is not None:
            return marked_scale(self.title, self.uneven.marks, self.uneven.divisions_between)
        if self.even is None:
            raise ValueError("a scale is either even or uneven")
        e = self.even
        return linear_scale(
            name=self.title,
            start=e.start,
            stop=e.stop,
            divisions=e.divisions,
            number_every=e.number_every,
            long_every=e.long_every,
        )


class Dial(PackModel):
    """The face of the meter."""

    mirror: bool = False
    parallax_divisions: Annotated[float, Field(ge=0, le=2)] = 0.1
    span_degrees: Annotated[float, Field(gt=10, le=270)] = 90.0
    low_stop: Annotated[float, Field(le=0, ge=-0.5)] = -0.04
    high_stop: Annotated[float, Field(ge=1, le=1.5)] = 1.06
    scales: Annotated[tuple[PrintedScale, ...], Field(min_length=1)]


LimitBy = Literal["maker", "owner", "shop"]


class LimitTerms(PackModel):
    """The limit of error: the sum of its parts; without any, none is known. Whose it is, is said where it is not the maker's."""

    percent_of_full_scale: Annotated[float, Field(ge=0)] = 0.0
    percent_of_reading: Annotated[float, Field(ge=0)] = 0.0
    absolute: Annotated[float, Field(ge=0, description="in the unit of the function")] = 0.0
    by: LimitBy = "maker"


FunctionUnit = Literal["V", "A", "ohm", "F", "H", "Hz", "S", "s", "1"]


class Range(PackModel):
    """One position of the range switch."""

    key: Key
    title: Words
    full_scale: Annotated[float, Field(gt=0, description="in the unit of the function")]
    scale: Annotated[str, Field(description="key of the printed scale it is read on")]
    limit: LimitTerms
    tap: Annotated[str, Field(description="node of the circuit that this range takes its voltage from")] = ""


class Function(PackModel):
    """One position of the function switch."""

    key: Key
    title: Words
    unit: FunctionUnit
    polarity: Literal["+", "-"] = "+"
    ranges: Annotated[tuple[Range, ...], Field(min_length=1)]


class Adjuster(PackModel):
    """A trimmer or screw that moves readings: a thing of the instrument, which steps name in `uses`."""

    key: Key
    name: Words
    place: str = ""
    moves: Annotated[str, Field(description="what it moves, in words")] = ""
    seal: str = ""


class StepWords(PackModel):
    """What every step says. `{range}`, `{applied}`, `{nominal}` are filled in for test points."""

    key: Key
    title: Words
    do: Words
    aim: Words
    mistake: Words
    cautions: tuple[str, ...] = ()


class CheckStep(StepWords):
    """Something to do and confirm."""

    kind: Literal["check"]


class WaitStep(StepWords):
    """Something to wait for; the timer runs while you are elsewhere."""

    kind: Literal["wait"]
    minutes: Annotated[float, Field(gt=0, le=10080)]


class PointsStep(StepWords):
    """Test points: on every range named, at every share of full scale."""

    kind: Literal["points"]
    function: str
    uses: Annotated[
        tuple[str, ...], Field(description="adjusters and parts these points depend on; none: everything")
    ] = ()
    ranges: tuple[str, ...] = ()
    at: tuple[Annotated[float, Field(gt=0, le=1)], ...] = ()
    more: Annotated[bool, Field(description="further points are made as one goes")] = False
    caution_above: dict[str, Annotated[float, Field(ge=0)]] = Field(
        default={}, description="caution key: said where the value applied is above so many volts"
    )

    @model_validator(mode="after")
    def _some(self) -> PointsStep:
        if not self.at and not self.more:
            raise ValueError("no point: give shares of full scale under 'at', or 'more: true'")
        return self


class AdjustStep(StepWords):
    """A trim, set while one point is applied."""

    kind: Literal["adjust"]
    function: str
    range: str
    at: Annotated[float, Field(gt=0, le=1)]
    trim: Words


Step = Annotated[CheckStep | WaitStep | PointsStep | AdjustStep, Field(discriminator="kind")]


class Section(PackModel):
    """A part of the procedure, all of one phase."""

    key: Key
    title: Words
    phase: ProcedurePhase
    steps: Annotated[tuple[Step, ...], Field(min_length=1)]


class Pack(PackModel):
    """A description of one type of instrument: dial, functions, procedure, cautions."""

    pack: Literal[1] = Field(description="version of this format")
    id: Key
    edition: Words
    maker: Words
    type: Words
    kind: Words
    summary: Words
    source: Annotated[str, Field(description="where the figures come from: manual, edition")] = ""
    cautions: tuple[Caution, ...] = ()
    zones: Annotated[tuple[Zone, ...], Field(min_length=1)]
    care: Annotated[tuple[Words, ...], Field(description="materials and cleaning, a sentence each")] = ()
    keep_dry: Annotated[tuple[Words, ...], Field(description="what must not get wet")] = ()
    usual: Annotated[
        tuple[Words, ...], Field(description="functions to look for, where the list below is not whole")
    ] = ()
    controls: tuple[Words, ...] = ()
    weak: Annotated[tuple[Words, ...], Field(description="what is usually weak")] = ()
    circuit: PackCircuit | None = None
    parts: tuple[PackPartLine, ...] = ()
    dial: Dial | None = None
    adjusters: tuple[Adjuster, ...] = ()
    functions: tuple[Function, ...] = ()
    procedure: tuple[Section, ...] = ()

    @model_validator(mode="after")
    def _fits_together(self, info: ValidationInfo) -> Pack:
        if was_checked(info):
            return self
        given = {"dial": self.dial is not None, "functions": bool(self.functions), "procedure": bool(self.procedure)}
        if any(given.values()) and not all(given.values()):
            missing = next(name for name, there in given.items() if not there)
            raise ValueError(f"'{missing}' is missing: a procedure needs dial and functions, and they need it")
        taps = tuple((f"range {r.key} of {f.key}", r.tap) for f in self.functions for r in f.ranges if r.tap)
        faults = node_faults(self.circuit, self.parts, taps)
        if faults:
            raise ValueError("; ".join(faults))
        return self

    @property
    def name(self) -> str:
        """Maker and type."""
        return f"{self.maker} {self.type}"

    def to_json(self) -> str:
        """Return the whole pack as JSON, always in the same order."""
        return self.model_dump_json()

    def __eq__(self, other: object) -> bool:
        return self is other or (isinstance(other, Pack) and self.digest == other.digest)

    def __hash__(self) -> int:
        return hash(self.digest)

    @cached_property
    def digest(self) -> str:
        """SHA-256 of the JSON: the same pack, the same digest."""
        return hashlib.sha256(self.to_json().encode()).hexdigest()


@dataclass(frozen=True)
class PackHead:
    """What there is to know of a pack without opening it; `calibrates` where it has a procedure."""

    id: str
    edition: str
    maker: str
    type: str
    kind: str
    summary: str
    digest: str
    calibrates: bool

    @property
    def name(self) -> str:
        """Maker and type."""
        return f"{self.maker} {self.type}"

    @classmethod
    def of(cls, pack: Pack) -> PackHead:
        """Return the head of a pack."""
        return cls(
            id=pack.id, edition=pack.edition, maker=pack.maker, type=pack.type, kind=pack.kind, summary=pack.summary,
            digest=pack.digest, calibrates=bool(pack.procedure),
        )  # fmt: skip


def read_kept(text: str, digest: str) -> Pack:
    """Return a pack from the JSON that was kept of it.

    What is still as it was kept was checked then, and is not checked again. The digest is of the bytes that were kept: a field
    that packs have gained since changes no old one.

    Raises
    ------
    pydantic.ValidationError
        Where it is no pack.
    """
    same = hashlib.sha256(text.encode()).hexdigest() == digest
    pack = Pack.model_validate_json(text, context=CHECKED if same else None)
    pack.__dict__["digest"] = digest
    return pack
