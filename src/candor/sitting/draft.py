"""The reading that is being made: figures by the names its kind asks for, the reference, and how both came."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from typing import cast

from candor.core.calibration.point import TestPoint
from candor.core.errors import ValueTextError
from candor.core.jot import ReadingJot
from candor.core.jot.reading_line import understand_reading
from candor.core.late_pattern import late_pattern
from candor.core.quantities import parse_number
from candor.core.quantities.derived import of_one_standard
from candor.core.reading.kind import ReadingKind
from candor.core.reading.kinds import kind_named, kind_of, reading_of
from candor.core.reading.look import word_at
from candor.core.reading.reading import INDICATED, Asked, Direction, Reading
from candor.core.reading.source import REFERENCE
from candor.core.reference.chains import Chain
from candor.core.reference.choice import kept_reading
from candor.core.reference.reference import Reference
from candor.core.worded import worded
from candor.notebook.entries.calibrate_entries import Means, ReferenceFrom

# A number with whatever unit stands behind it, or infinity.
FIGURE = late_pattern(r"[-+−]?[\d.,½¼¾][\d.,/½¼¾\s]*[A-Za-zµΩ%]*|inf(inity)?|∞", re.I)


class Draft:
    """What is in hand before it is taken; nothing of it is written."""

    def __init__(self) -> None:
        self.figures: dict[str, float] = {}
        self.kind = ""
        self.reference = 0.0
        self.reference_from: ReferenceFrom = ""
        self.captured: tuple[float, int] = (0.0, 0)
        self.direction: Direction = ""
        self.means: Means = "ticks"
        self.written = ""
        self._active = ""
        self.stood = ""
        self.turns: float | None = None

    def clear(self) -> None:
        """Forget what was read of the instrument; the reference stays."""
        self.figures, self.kind, self._active = {}, "", ""
        self.stood, self.turns = "", None

    def kept(self) -> Mapping[str, object]:
        """Return all that is in hand, to be put back."""
        return {**vars(self), "figures": dict(self.figures)}

    def put_back(self, kept: Mapping[str, object]) -> None:
        """Let it be again what it was."""
        vars(self).update(kept, figures=dict(cast("dict[str, float]", kept["figures"])))

    @property
    def moved(self) -> bool:
        """Whether anything was read since the last reading was taken."""
        return bool(self.figures)

    def read_as(self, point: TestPoint) -> ReadingKind:
        """Return the kind it is being read as."""
        return kind_named(self.kind) if self.kind else kind_of(point)

    def asked(self, point: TestPoint) -> tuple[Asked, ...]:
        """Return the figures its kind asks for."""
        return self.read_as(point).asks(point)

    def active(self, point: TestPoint) -> str:
        """Return the figure that arrows move."""
        names = [a.name for a in self.asked(point)]
        return self._active if self._active in names else names[0] if names else ""

    def go_to_next(self, point: TestPoint) -> None:
        """Let the arrows move the next figure."""
        names = [a.name for a in self.asked(point)]
        if names:
            self._active = names[(names.index(self.active(point)) + 1) % len(names)]

    def value(self, point: TestPoint) -> float | None:
        """Return the value that the figures say, SI; None where they do not say one yet."""
        value = self.read_as(point).indicated(point, self.figures) if self.figures else math.nan
        return None if math.isnan(value) else value

    def is_whole(self, point: TestPoint) -> bool:
        """Whether it could be taken: everything needed was read, the reference too where one is read beside it."""
        return self.value(point) is not None and not self.lacks_reference(point)

    def lacks_reference(self, point: TestPoint) -> bool:
        """Whether what the reference shows is still to be read."""
        needs = point.needs_reference and self.read_as(point).compares == "reference"
        return needs and not self.reference_from

    def word(self, point: TestPoint) -> str:
        """Return the outcome that is being seen, where it is a look."""
        value = self.value(point)
        return word_at(point, value) if value is not None and self.read_as(point).named else ""

    def reading(self, point: TestPoint) -> Reading:
        """Return it as the core knows readings.

        Raises
        ------
        CandorError
            Where it cannot be of the point.
        """
        captured = self.captured if self.reference_from == "captured" else (0.0, 0)
        return reading_of(
            point, self.figures, self.reference, kind=self.kind, direction=self.direction, captured=captured,
            by_place=self.means == "drag",
        )  # fmt: skip

    def put(self, point: TestPoint, name: str, value: float, means: Means) -> None:
        """Set one figure.

        Raises
        ------
        CandorError
            Where the instrument cannot show it.
        """
        unit = next((a.unit for a in self.asked(point) if a.name == name), point.unit)
        self.figures[name] = point.indicator.check(value) if unit == point.unit else value
        self.means, self._active = means, name

    def take_over(self, jot: ReadingJot, means: Means) -> None:
        """Take what a line said; what it does not say stays."""
        if jot.reference is not None:
            self.reference, self.reference_from = jot.reference, "typed"
        if jot.direction:
            self.direction = jot.direction
        if jot.figures:
            self.figures, self.kind, self.means = dict(jot.figures), jot.read_as, means
        elif jot.indicated is not None:
            self.figures, self.kind, self.means = {INDICATED: jot.indicated}, jot.read_as, means

    def type_figure(self, point: TestPoint, name: str, text: str) -> None:
        """Take a figure as it was typed into its field, or a whole reading typed there.

        Raises
        ------
        CandorError
            Where it cannot be read, or shown.
        """
        asked = next((a for a in self.asked(point) if a.name == name), None)
        if asked is None:
            raise ValueTextError(worded("sitting.there_is_nothing_called_to_be", name=name), value=text)
        # A figure alone belongs to its field; a whole reading may be typed there too.
        jot = None if FIGURE.fullmatch(text.strip()) else understand_reading(text, point)
        if jot is not None:
            self.take_over(jot, "number")
        else:
            self.put(point, name, _typed(text, asked, point), "number")
        self.written = text


def _typed(text: str, asked: Asked, point: TestPoint) -> float:
    if asked.unit == "div":
        return parse_number(text, worded("sitting.divisions_such_as"))
    if text.strip().lower() in ("inf", "infinity", "∞"):
        return math.inf
    value = point.quantity(of_one_standard(text) if asked.name == REFERENCE else text, asked.unit)
    return point.signed(value) if asked.unit == point.unit else value


def reference_typed(text: str, point: TestPoint, served: Reference | Chain | None, unit: str) -> float:
    """Return what was typed of a reference, SI, in the unit that is read.

    Raises
    ------
    CandorError
        Where it cannot be read, or be a reference of the point.
    """
    return kept_reading(served, point, point.quantity(of_one_standard(text), unit))
