"""The face of an instrument: its printed scales, even, uneven, or by a law."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated

from pydantic import Field, model_validator

from candor.core.errors import CandorError
from candor.core.reading.fitted import fitted_scale
from candor.core.reading.laws import LAWS, LawName
from candor.core.reading.scale import Scale, law_scale, linear_scale, marked_scale
from candor.core.worded import worded
from candor.packs.base import Key, Number, PackModel, Words, number


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
            raise ValueError(worded("packs.the_scale_goes_backwards_it_stops", stop=self.stop, start=self.start))
        return self


class UnevenMarks(PackModel):
    """An uneven scale: each mark as [value, deflection], deflection 0 at the left end and 1 at the right.

    Values rise or fall throughout; one end may be `infinity`.
    """

    marks: Annotated[tuple[tuple[Number, float], ...], Field(min_length=2)]
    divisions_between: Annotated[int, Field(ge=1, le=100)] = 1
    # Left out where it is not so: packs of before keep the digest they have.
    measured: Annotated[bool, Field(exclude_if=lambda said: not said, description="where they stand was measured on the face: the "
                                    "law they follow is fitted")] = False  # fmt: skip
    places_u: Annotated[float, Field(ge=0, lt=0.5, exclude_if=lambda said: not said, description="how well all are "
                       "known together, one standard deviation, share of the arc: how a photo was straightened")] = 0.0  # fmt: skip

    @model_validator(mode="after")
    def _rises(self) -> UnevenMarks:
        sign = 1 if number(self.marks[-1][0]) > number(self.marks[0][0]) else -1
        for (value, place), (next_value, next_place) in pairwise(self.marks):
            if not (sign * (number(next_value) - number(value)) > 0 and next_place > place):
                way = (
                    worded("packs.value_and_deflection_must_both_be")
                    if sign > 0
                    else (worded("packs.each_value_must_be_less_each"))
                )
                raise ValueError(
                    worded(
                        "packs.the_scale_goes_backwards_mark_follows",
                        next_value=number(next_value),
                        next_place=next_place,
                        value=number(value),
                        place=place,
                        way=way,
                    )
                )
        return self


class LawMarks(PackModel):
    """A scale by a law: its marks from left to right, each interval cut into so many divisions; an end may be `infinity`."""

    law: LawName
    centre: Annotated[float, Field(gt=0, description="ohms: the value at half the arc; decibels: where 0 dB stands, 0 to 1; "
                                   "bridge: the ratio at half the arc, 1; square: the knee")]  # fmt: skip
    end: Annotated[float, Field(gt=0, description="square near zero: the value at the right end")] = 1.0
    marks: Annotated[tuple[Number, ...], Field(min_length=2)]
    divisions_between: Annotated[tuple[Annotated[int, Field(ge=1, le=100)], ...], Field(min_length=1)] = (1,)
    numbered: tuple[Number, ...] = ()

    @model_validator(mode="after")
    def _follows(self) -> LawMarks:
        try:
            self.scale("scale")
        except CandorError as error:
            raise ValueError(str(error)) from None
        return self

    def scale(self, name: str) -> Scale:
        """Return it as the core reads it; raise ValueTextError, RangeError where it does not follow its law."""
        numbered = tuple(number(mark) for mark in self.numbered) or None
        return law_scale(
            name,
            LAWS[self.law](self.centre, self.end),
            tuple(number(m) for m in self.marks),
            self.divisions_between,
            numbered,
        )


class PrintedScale(PackModel):
    """One printed arc."""

    key: Key
    title: Words
    radius: Annotated[float, Field(gt=0, le=1, description="share of the largest arc's radius")] = 1.0
    mirror: Annotated[bool | None, Field(description="whether it has a mirror; none: as the face says")] = None
    even: EvenMarks | None = None
    uneven: UnevenMarks | None = None
    by_law: LawMarks | None = None

    @model_validator(mode="after")
    def _one_kind(self) -> PrintedScale:
        if sum(marks is not None for marks in (self.even, self.uneven, self.by_law)) != 1:
            raise ValueError(worded("packs.a_scale_is_either_even_or_uneven"))
        return self

    def scale(self) -> Scale:
        """Return the scale as the core reads it."""
        if self.uneven is not None:
            marks = tuple((number(value), place) for value, place in self.uneven.marks)
            if self.uneven.measured:
                return fitted_scale(self.title, marks, self.uneven.divisions_between, self.uneven.places_u)
            return marked_scale(self.title, marks, self.uneven.divisions_between)
        if self.by_law is not None:
            return self.by_law.scale(self.title)
        if self.even is None:
            raise ValueError(worded("packs.a_scale_is_either_even_or"))
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
