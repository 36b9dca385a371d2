"""What an instrument promises: functions, ranges, what each is read on, and the limit of its error."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from candor.core.errors import CandorError
from candor.core.reading.kinds import kind_named
from candor.core.reference.detector import Detector, Marked, Responds
from candor.core.verdict.limits import Limit
from candor.core.worded import worded
from candor.packs.base import Key, PackModel, Words

LimitBy = Literal["maker", "owner", "shop"]
FunctionUnit = Literal["V", "A", "ohm", "F", "H", "Hz", "S", "s", "1", "dB"]
NotNegative = Annotated[float, Field(ge=0)]


class ErrorTerms(PackModel):
    """How large an error may be, in one of the forms that makers state."""

    percent_of_full_scale: NotNegative = 0.0
    percent_of_reading: NotNegative = 0.0
    absolute: Annotated[float, Field(ge=0, description="in the unit of the function")] = 0.0
    divisions: Annotated[float, Field(ge=0, description="of the scale or the screen")] = 0.0
    combine: Annotated[
        Literal["sum", "greater"] | None,
        Field(description="whether several of the above add up or the greatest holds; format 2 asks for it"),
    ] = None
    percent_of_arc: Annotated[float, Field(ge=0, description="of the length of the arc: judged along it")] = 0.0
    degrees_of_arc: NotNegative = 0.0
    decibels: Annotated[float, Field(ge=0, description="judged in the logarithm")] = 0.0
    factor: Annotated[float, Field(ge=0, description="2: from half to twice; judged in the logarithm")] = 0.0

    @property
    def parts(self) -> int:
        """How many terms add up, or are compared."""
        return sum(
            part > 0 for part in (self.percent_of_full_scale, self.percent_of_reading, self.absolute, self.divisions)
        )

    @model_validator(mode="after")
    def _one_form(self) -> ErrorTerms:
        forms = [
            bool(self.parts),
            self.percent_of_arc > 0,
            self.degrees_of_arc > 0,
            self.decibels > 0,
            self.factor > 0,
        ]
        if sum(forms) > 1:
            raise ValueError(worded("packs.a_limit_is_judged_in_one"))
        if 0 < self.factor <= 1:
            raise ValueError(worded("packs.a_factor_is_above_means_from", factor=self.factor))
        return self

    def limit(self, **more: object) -> Limit:
        """Return it as the core judges by it."""
        terms = ErrorTerms.model_fields.keys() - {"combine"}
        return Limit(**{name: getattr(self, name) for name in terms}, combine=self.combine or "sum", **more)  # type: ignore[arg-type]


class LimitTerms(ErrorTerms):
    """The limit of error; without any, none is known. Whose it is, is said where it is not the maker's."""

    below: Annotated[ErrorTerms | None, Field(description="the limit on the lower side, where it is another")] = None
    at_least: Annotated[float | None, Field(description="limits the value itself, in the unit of the function")] = (
        None
    )
    at_most: float | None = None
    by: LimitBy = "maker"

    @model_validator(mode="after")
    def _error_or_value(self) -> LimitTerms:
        on_value = self.at_least is not None or self.at_most is not None
        if on_value and (self.limit_of_error().given or self.below is not None):
            raise ValueError(worded("packs.a_limit_is_of_the_error"))
        if self.at_least is not None and self.at_most is not None and self.at_least >= self.at_most:
            raise ValueError(worded("packs.at_least_must_be_below_at", at_least=self.at_least, at_most=self.at_most))
        if self.below is not None and self.below.limit().judged_in != self.limit_of_error().judged_in:
            raise ValueError(worded("packs.both_sides_of_a_limit_are"))
        return self

    def limit_of_error(self) -> Limit:
        """Return the upper side alone."""
        return self.limit()

    def core(self) -> Limit:
        """Return it as the core judges by it."""
        return self.limit(
            below=self.below.limit() if self.below else None, at_least=self.at_least, at_most=self.at_most
        )


class KnobTerms(PackModel):
    """A control that is set: switched to `steps`, or turned over divisions of so much, in the unit of the function."""

    division: NotNegative = 0.0
    steps: tuple[float, ...] = ()


class ScreenTerms(PackModel):
    """A screen along one axis."""

    per_division: Annotated[float, Field(gt=0, description="in the unit of the function")]
    divisions: Annotated[int, Field(ge=2, le=20)] = 8
    edge: Annotated[float, Field(gt=0, le=1, description="to what part of a division an edge is read")] = 0.1
    axis: Literal["vertical", "horizontal"] = "vertical"


class DigitsTerms(PackModel):
    """A figure that is counted, timed or noted, to so much."""

    resolution: NotNegative = 0.0


class LookTerms(PackModel):
    """What a look can find, and by what it is judged."""

    passes: Annotated[tuple[Words, ...], Field(min_length=1)]
    fails: tuple[Words, ...] = ()
    criterion: str = ""

    @model_validator(mode="after")
    def _each_once(self) -> LookTerms:
        words = [word.casefold() for word in (*self.passes, *self.fails)]
        if len(set(words)) != len(words):
            raise ValueError(worded("packs.an_outcome_is_named_twice_each"))
        return self


class DetectorTerms(PackModel):
    """What an a.c. function responds to, and what its scale is marked in."""

    responds: Responds
    marked: Marked = "rms"

    def core(self) -> Detector:
        """Return it as the core knows detectors."""
        return Detector(self.responds, self.marked)


class SecondDial(PackModel):
    """The other of two dials that are turned until neither moves."""

    title: Words
    scale: Annotated[str, Field(description="key of the printed scale")]
    unit: FunctionUnit = "1"
    full_scale: Annotated[float, Field(gt=0)] = 1.0


class StandsTerms(PackModel):
    """The greatest that the maker states a range stands: so much, or so many times its full scale."""

    value: Annotated[float, Field(ge=0, description="V or A, r.m.s. on an a.c. function; V on an ohms range")] = 0.0
    times: Annotated[float, Field(ge=0, description="of full scale")] = 0.0
    seconds: Annotated[float, Field(ge=0, description="how long, where the maker says; 0: as long as one likes")] = (
        0.0
    )

    @model_validator(mode="after")
    def _one_of_both(self) -> StandsTerms:
        if (self.value > 0) == (self.times > 0):
            raise ValueError(worded("packs.stands_is_a_value_or_times"))
        return self

    def at(self, full_scale: float) -> float:
        """Return it for a range of a full scale, in its unit; 0 on an ohms range that it is said of by times."""
        return self.value or self.times * full_scale


ON = ("scale", "knob", "screen", "digits", "look")  # what a range is read on: exactly one


class Range(PackModel):
    """One position of the range switch, and what it is read on."""

    key: Key
    title: Words
    full_scale: Annotated[
        float,
        Field(gt=0, description="in the unit of the function; of a scale to infinity the value at half its arc"),
    ] = 1.0
    scale: Annotated[str, Field(description="key of the printed scale it is read on")] = ""
    knob: KnobTerms | None = None
    screen: ScreenTerms | None = None
    digits: DigitsTerms | None = None
    look: LookTerms | None = None
    second: SecondDial | None = None
    settings: dict[str, float] = Field(
        default={},
        description=("what its kind of reading needs to know: on_side, approach, just_noticeable, nudge, guard"),
    )
    limit: LimitTerms = LimitTerms()
    stands: Annotated[
        StandsTerms | None,
        Field(exclude_if=lambda said: said is None, description="the greatest the maker states for it"),
    ] = None
    tap: Annotated[str, Field(description="node of the circuit that this range takes its voltage from")] = ""
    closes: Annotated[
        tuple[str, ...], Field(description="switches of the circuit that are closed on this range")
    ] = ()

    @model_validator(mode="after")
    def _read_on_one(self) -> Range:
        given = [name for name in ON if getattr(self, name)]
        if len(given) != 1:
            raise ValueError(
                worded("packs.a_range_is_read_on_one", listed=", ".join(ON), listed_2=", ".join(given) or "none")
            )
        return self


class Function(PackModel):
    """One position of the function switch."""

    key: Key
    title: Words
    unit: FunctionUnit
    polarity: Annotated[Literal["+", "-", "both"], Field(description="both: readings carry their sign")] = "+"
    read_as: Annotated[str, Field(description="kind of reading; see docs/writing-a-pack.md")] = "needle"
    current: Literal["", "d.c.", "a.c."] = ""
    hertz: Annotated[
        float, Field(ge=0, description="at which its points are read where a step says no frequency")
    ] = 0.0
    detector: DetectorTerms | None = None
    closes: Annotated[
        tuple[str, ...], Field(description="switches of the circuit that are closed in this function")
    ] = ()
    made_by: Annotated[str, Field(description="how the circuit makes its ranges: a key of circuit.makes")] = ""
    stands: Annotated[
        StandsTerms | None,
        Field(exclude_if=lambda said: said is None, description="the greatest the maker states for all its ranges"),
    ] = None
    ranges: Annotated[tuple[Range, ...], Field(min_length=1)]

    @model_validator(mode="after")
    def _a_kind(self) -> Function:
        check_kind(self.read_as)
        return self


def check_kind(key: str) -> str:
    """Return the key of a kind of reading that there is.

    Raises
    ------
    ValueError
        With those there are.
    """
    try:
        return kind_named(key).key
    except CandorError as error:
        raise ValueError(str(error)) from None
