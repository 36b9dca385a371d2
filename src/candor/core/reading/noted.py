"""A figure that is noted: how far a control reaches, when an event came, what nothing connected shows, what was read elsewhere.

Where its standard uncertainty is noted with it, that stands in the place of half a division.
"""

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
    scatter,
    shown,
    the_value,
)
from candor.core.reading.means import means_of
from candor.core.reading.on_waveform import UNCERTAIN, with_its_u
from candor.core.reading.reading import INDICATED, Asked
from candor.core.uncertainty.budget import Contribution
from candor.core.worded import worded


def _reader(word: str) -> Callable[[str, TestPoint], dict[str, float] | None]:
    def read(text: str, point: TestPoint) -> dict[str, float] | None:
        match = re.fullmatch(
            rf"(?:{word}\s+)?(?P<value>[-+−]?[\d.,½¼¾].*?)(?:\s+(?P<letter>u)\s+(?P<u>[\d.,].*))?", text.strip(), re.I
        )
        return with_its_u(match, text, point)

    return read


def _contributions(
    point: TestPoint, readings: Readings, judged: Judged, friction: float | None
) -> list[Contribution]:
    at = means_of(readings, judged.place).indicated
    us = [dict(r.figures).get(UNCERTAIN) for r in readings]
    known = [u for u in us if u is not None]
    if known:  # the largest of what was noted: it is the same quantity, read alike
        size = max(known) * judged.slope(at)
        reason = worded("reading.as_it_was_noted_with_it")
        return [Contribution("as noted", size, reason=reason, kind="needle"), *scatter(point, readings, judged)]
    reason = worded("reading.noted_to_half_a_division_or")
    return half_division("as noted", point, at, judged, 0.5, reason) + scatter(point, readings, judged)


def _kind(key: str, title: str, word: str, drawn: Drawing, compares: Compares) -> ReadingKind:
    def say(point: TestPoint, figures: Figures) -> str:
        u = f", u {shown(point, figures[UNCERTAIN], 2)}" if figures.get(UNCERTAIN) else ""
        return f"{word} {shown(point, the_value(point, figures), 4)}{u}"

    return ReadingKind(
        key=key,
        title=title,
        drawn=drawn,
        read_on=("digits", "scale", "knob", "screen"),
        compares=compares,
        asks=lambda point: (
            Asked(INDICATED, title, point.unit),
            Asked(UNCERTAIN, "standard uncertainty", point.unit, needed=False),
        ),
        example=lambda point: f"{word} {shown(point, point.nominal or point.full_scale / 10, 3)}",
        understand=_reader(word),
        indicated=the_value,
        contributions=_contributions,
        say=say,
    )


REACH = _kind("reach", worded("reading.reach_of_a_control"), "reach", "digits", "nominal")
EVENT = _kind("event", worded("reading.an_event_when_it_came"), "after", "digits", "nominal")
BLANK = _kind("blank", "nothing connected", "blank", "digits", "nominal")
