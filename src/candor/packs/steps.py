"""The maker's procedure: sections of steps, what each sets, and the adjusters that some of them turn."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from candor.core.errors import CandorError
from candor.core.quantities.formula import parse_formula
from candor.core.worded import worded
from candor.packs.base import Key, Number, PackModel, ProcedurePhase, Words
from candor.packs.functions import check_kind

Share = Annotated[float, Field(ge=-1, le=100)] | Literal["infinity"]


class Adjuster(PackModel):
    """A trimmer or screw that moves readings: a thing of the instrument, which steps name in `uses`."""

    key: Key
    name: Words
    place: str = ""
    moves: Annotated[str, Field(description="what it moves, in words")] = ""
    seal: str = ""
    turns: Annotated[str, Field(description="coarse or fine, and over how many turns")] = ""
    after: Annotated[tuple[str, ...], Field(description="adjusters that are set before it")] = ()
    acts: Annotated[str, Field(description="the element of the circuit that it turns")] = ""
    every_use: Annotated[
        bool, Field(description="set before every use, as the maker says: moving it opens no state")
    ] = False


class RollLine(PackModel):
    """One line of a tube tester's chart: what is set for a type of tube, and what a good one shows."""

    tube: Words
    generic: Annotated[str, Field(description="generic kind, as the ratings table has it")] = ""
    section: str = ""
    heater_volts: Annotated[float, Field(ge=0, description="V")] = 0.0
    heater_amperes: Annotated[float, Field(ge=0, description="A")] = 0.0
    function: Annotated[str, Field(description="key of the function it is read on")] = ""
    range: Annotated[str, Field(description="key of the range it is read on")] = ""
    set: dict[str, str] = Field(default={}, description="controls by key, and the position of each")
    nominal: Annotated[float, Field(ge=0, description="in the unit of the function")] = 0.0
    reject: Annotated[float, Field(ge=0, description="below it, in the unit of the function")] = 0.0
    plate_volts: Annotated[float, Field(ge=0, description="V at which the nominal holds")] = 0.0


class Control(PackModel):
    """A control with its positions; steps set it."""

    key: Key
    name: Words
    positions: tuple[Words, ...] = ()


class Load(PackModel):
    """What the maker's meter did to what it measured: its ohms per volt and the range it was on."""

    ohms_per_volt: Annotated[float, Field(gt=0)]
    range: Annotated[float, Field(gt=0, description="V")]


class Expected(PackModel):
    """What should happen by itself: a click after 30 s, give or take 10."""

    what: Words
    after_s: Annotated[float, Field(ge=0)] = 0.0
    within_s: Annotated[float, Field(ge=0)] = 0.0


LINE_LEAST = 5  # per cent: nearer than that a line by itself comes


class StepWords(PackModel):
    """What every step says. `{range}`, `{applied}`, `{nominal}` are filled in for test points."""

    key: Key
    title: Words
    do: Words
    aim: Words
    mistake: Words
    cautions: tuple[str, ...] = ()
    set: dict[str, str] = Field(default={}, description="controls by key, and the position of each")
    load: Annotated[Load | None, Field(description="the meter the procedure assumed")] = None
    picture: Annotated[bool, Field(description="a picture belongs to it")] = False
    hold_at_most: Annotated[float, Field(ge=0, description="seconds it may last")] = 0.0
    hands_off: Annotated[float, Field(ge=0, description="seconds to leave it alone before it is read")] = 0.0
    only_below: Annotated[
        str, Field(description="what must be below what before the next: do not switch down before")
    ] = ""
    expects: tuple[Expected, ...] = ()
    needs: tuple[Annotated[str, Field(min_length=2, max_length=40)], ...] = Field(
        default=(),
        description="what it needs of the room or the line, as dim light or a quiet line: planned for when the shop has it",
    )


class CheckStep(StepWords):
    """Something to do and confirm."""

    kind: Literal["check"]
    trims: Annotated[
        tuple[str, ...] | None,
        Field(description="names of the adjusters it turns, [] for none; must be said among the adjustments"),
    ] = None


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
    at: Annotated[
        tuple[Share, ...], Field(description="shares of full scale; over 1 and infinity only on a scale to infinity")
    ] = ()
    values: Annotated[tuple[Number, ...], Field(description="points by value, in the unit of the function")] = ()
    read_as: Annotated[str, Field(description="kind of reading, where it is not that of the function")] = ""
    modifier: Annotated[
        str, Field(description="key of a modifier that is pressed: every range is that much larger")
    ] = ""
    frequency: Annotated[float, Field(ge=0, description="Hz; 0: d.c.")] = 0.0
    waveform: Literal["", "d.c.", "sine", "square", "triangle"] = ""
    distortion: Annotated[float, Field(ge=0, le=1, description="harmonics of what is applied, as a share")] = 0.0
    asks: Annotated[
        Literal["", "none", "V", "A", "ohm", "F", "H", "Hz", "S", "s", "1"],
        Field(description="unit of the reference, where it is not that of the function; none: it needs none"),
    ] = ""
    apart: Annotated[
        str,
        Field(
            pattern=r"^[a-z0-9-]*$",
            description="tells points apart that are otherwise alike: leads one way, the other",
        ),
    ] = ""
    noted: Annotated[bool, Field(description="recorded only, for what is calculated from it: no limit applies")] = (
        False
    )
    formula: Annotated[str, Field(description="of names, for points that are calculated")] = ""
    of: dict[str, str] = Field(default={}, description="name in the formula: key of the point it stands for")
    figure: Annotated[
        Literal["", "rise", "fall", "overshoot", "aberration", "tilt", "period", "frequency", "duty", "amplitude", "peak to peak",
                "THD", "THD of the total", "THD+N", "AM depth", "phase"],
        Field(description="of a point that is read from a waveform: which of its figures"),
    ] = ""  # fmt: skip
    takes: Annotated[Literal["shown", "error"], Field(description="what a name stands for")] = "shown"
    more: Annotated[bool, Field(description="extra points are made as one goes")] = False
    line: Annotated[
        tuple[Annotated[float, Field(ge=-15, le=15)], ...],
        Field(
            description="read again with the line off by so many per cent, as -10 and 10; another step reads them first"
        ),
    ] = ()
    caution_above: dict[str, Annotated[float, Field(ge=0)]] = Field(
        default={}, description="caution key: said where the value applied is above so many volts"
    )

    @model_validator(mode="after")
    def _some(self) -> PointsStep:
        if not self.at and not self.values and not self.more:
            raise ValueError(worded("packs.no_point_give_shares_of_full"))
        if any(abs(percent) < LINE_LEAST for percent in self.line) or len(set(self.line)) < len(self.line):
            raise ValueError(worded("packs.a_line_is_off_by_enough", least=LINE_LEAST))
        if self.line and (self.more or self.formula):
            raise ValueError(worded("packs.a_line_reads_points_alone"))
        if self.read_as:
            check_kind(self.read_as)
        if bool(self.formula) != bool(self.of):
            raise ValueError(worded("packs.a_formula_needs_of_which_says"))
        if self.formula:
            try:
                names = parse_formula(self.formula).names
            except CandorError as error:
                raise ValueError(str(error)) from None
            if set(names) != set(self.of):
                raise ValueError(
                    worded("packs.the_formula_has_the_names_of", listed=", ".join(names), listed_2=", ".join(self.of))
                )
        return self


class AdjustStep(StepWords):
    """A trim, set while one point is applied."""

    kind: Literal["adjust"]
    function: str
    range: str
    at: Annotated[float, Field(ge=-1, le=100)]
    trim: Words
    repeat_until: Annotated[
        float,
        Field(ge=0, le=1, description="done again until two rounds agree within this share of the limit; 0: once"),
    ] = 0.0


Step = Annotated[CheckStep | WaitStep | PointsStep | AdjustStep, Field(discriminator="kind")]


class Section(PackModel):
    """A part of the procedure, all of one phase."""

    key: Key
    title: Words
    phase: ProcedurePhase
    steps: Annotated[tuple[Step, ...], Field(min_length=1)]
