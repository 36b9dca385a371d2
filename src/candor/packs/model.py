"""The pack: a description of one type of instrument. Its JSON Schema is published in docs/."""

from __future__ import annotations

import hashlib
from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field, ValidationInfo, model_validator

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.packs.base import Caution as Caution
from candor.packs.base import Key as Key
from candor.packs.base import PackModel as PackModel
from candor.packs.base import ProcedurePhase as ProcedurePhase
from candor.packs.base import Words as Words
from candor.packs.base import Zone as Zone
from candor.packs.borrowing import Borrows as Borrows
from candor.packs.face import Dial as Dial
from candor.packs.face import EvenMarks as EvenMarks
from candor.packs.face import PrintedScale as PrintedScale
from candor.packs.functions import Function as Function
from candor.packs.functions import LimitTerms as LimitTerms
from candor.packs.functions import Range as Range
from candor.packs.pack_parts import CHECKED, PackCircuit, PackPartLine, acting_faults, node_faults, was_checked
from candor.packs.steps import Adjuster, Control, RollLine
from candor.packs.steps import AdjustStep as AdjustStep
from candor.packs.steps import CheckStep as CheckStep
from candor.packs.steps import PointsStep as PointsStep
from candor.packs.steps import Section as Section
from candor.packs.steps import Step as Step
from candor.packs.steps import StepWords as StepWords
from candor.packs.steps import WaitStep as WaitStep


class Modifier(PackModel):
    """Something that multiplies every range it is used with."""

    key: Key
    title: Words
    factor: Annotated[float, Field(gt=0)]


class Pack(PackModel):
    """A description of one type of instrument: dial, functions, procedure, cautions."""

    pack: Literal[1, 2] = Field(description="version of this format; 1 is read as it always was")
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
    controls: Annotated[tuple[Words | Control, ...], Field(description="in words, or as things with positions")] = ()
    modifiers: Annotated[tuple[Modifier, ...], Field(description="a x2 button, a x1000 probe")] = ()
    aliases: dict[str, tuple[Words, ...]] = Field(default={}, description="node: what people call it, pin and tag")
    bands: dict[Words, dict[str, tuple[float, float]]] = Field(
        default={}, description="state of the supply: node: from, to, V"
    )
    weak: Annotated[tuple[Words, ...], Field(description="what is usually weak")] = ()
    circuit: PackCircuit | None = None
    parts: tuple[PackPartLine, ...] = ()
    dial: Dial | None = None
    adjusters: tuple[Adjuster, ...] = ()
    roll: Annotated[tuple[RollLine, ...], Field(description="of a tube tester: its chart")] = ()
    functions: tuple[Function, ...] = ()
    procedure: tuple[Section, ...] = ()
    borrows: Annotated[Borrows | None, Field(description="another pack, whose procedure it goes by")] = None

    @model_validator(mode="after")
    def _fits_together(self, info: ValidationInfo) -> Pack:
        if was_checked(info):
            return self
        needs_dial = any(r.scale for f in self.functions for r in f.ranges) or not self.functions
        given = {"functions": bool(self.functions), "procedure": bool(self.procedure)}
        given |= {"dial": self.dial is not None} if needs_dial or self.dial else {}
        if any(given.values()) and not all(given.values()):
            missing = next(name for name, there in given.items() if not there)
            raise ValueError(worded("packs.is_missing_a_procedure_needs_dial", missing=missing))
        taps = tuple(
            (worded("packs.range_of", key=r.key, f_key=f.key), r.tap)
            for f in self.functions
            for r in f.ranges
            if r.tap
        )
        makes = self.circuit.makes if self.circuit else {}
        unmade = next((f for f in self.functions if f.made_by and f.made_by not in makes), None)
        if unmade is not None:
            raise ValueError(worded("packs.function_is_made_by_which_the", key=unmade.key, made_by=unmade.made_by))
        acts = tuple((a.key, a.acts) for a in self.adjusters if a.acts)
        faults = node_faults(self.circuit, self.parts, taps) + acting_faults(self.circuit, acts)
        if faults:
            raise ValueError("; ".join(faults))
        return self

    @property
    def name(self) -> str:
        """Maker and type."""
        return f"{self.maker} {self.type}"

    @property
    def control_names(self) -> tuple[str, ...]:
        """What its controls are called."""
        return tuple(c.name if isinstance(c, Control) else c for c in self.controls)

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
        Where it is not a pack.
    """
    same = hashlib.sha256(text.encode()).hexdigest() == digest
    pack = Pack.model_validate_json(text, context=CHECKED if same else None)
    pack.__dict__["digest"] = digest
    return pack
