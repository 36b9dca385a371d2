"""A figure that is noted: how far a control reaches, when an event came, what is shown with nothing connected."""

from __future__ import annotations

import re
from collections.abc import Callable

from candor.core.calibration.point import TestPoint
from candor.core.reading.judged import Judged
from candor.core.reading.kind import (
    Compares,
    Drawing,
    Figures,
    ReadingKind,
    Readings,
    half_division,
    one_value,
    scatter,
    shown,
    the_value,
    typed,
)
from candor.core.reading.means import means_of
from candor.core.reading.reading import INDICATED
from candor.core.uncertainty.budget import Contribution
from candor.core.worded import worded


def _reader(word: str) -> Callable[[str, TestPoint], dict[str, float] | None]:
    def read(text: str, point: TestPoint) -> dict[str, float] | None:
        match = re.fullmatch(rf"(?:{word}\s+)?([-+−]?[\d.,½¼¾].*)", text.strip(), re.I)
        return {INDICATED: typed(match[1], point)} if match else None

    return read


def _contributions(
    point: TestPoint, readings: Readings, judged: Judged, friction: float | None
) -> list[Contribution]:
    at = means_of(readings, judged.place).indicated
    reason = worded("reading.noted_to_half_a_division_or")
    return half_division("as noted", point, at, judged, 0.5, reason) + scatter(point, readings, judged)


def _kind(key: str, title: str, word: str, drawn: Drawing, compares: Compares) -> ReadingKind:
    def say(point: TestPoint, figures: Figures) -> str:
        return f"{word} {shown(point, the_value(point, figures), 4)}"

    return ReadingKind(
        key=key,
        title=title,
        drawn=drawn,
        read_on=("digits", "scale", "knob", "screen"),
        compares=compares,
        asks=one_value(title),
        example=lambda point: f"{word} {shown(point, point.nominal or point.full_scale / 10, 3)}",
        understand=_reader(word),
        indicated=the_value,
        contributions=_contributions,
        say=say,
    )


REACH = _kind("reach", worded("reading.reach_of_a_control"), "reach", "digits", "nominal")
EVENT = _kind("event", worded("reading.an_event_when_it_came"), "after", "digits", "nominal")
BLANK = _kind("blank", "nothing connected", "blank", "digits", "nominal")
