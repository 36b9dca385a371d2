"""A look: one of the outcomes that the step names; two looks that differ cannot tell."""

from __future__ import annotations

import math

from candor.core.calibration.point import TestPoint
from candor.core.errors import ValueTextError
from candor.core.reading.indicators import Outcomes
from candor.core.reading.judged import Judged
from candor.core.reading.kind import Figures, ReadingKind, Readings
from candor.core.reading.reading import INDICATED, Asked
from candor.core.uncertainty.budget import Contribution
from candor.core.verdict.rules import Outcome
from candor.core.worded import worded


def outcomes_of(point: TestPoint) -> Outcomes:
    """Return what a look at a point can find.

    Raises
    ------
    ValueTextError
        Where its pack names none.
    """
    if not isinstance(point.indicator, Outcomes):
        raise ValueTextError(worded("reading.names_no_outcomes_so_no_look", name=point.name), place=point.key)
    return point.indicator


def word_at(point: TestPoint, place: float) -> str:
    """Return an outcome by its place, counted from 0 (no unit), empty where there is none. Raises as outcomes_of."""
    words = outcomes_of(point).words
    return words[int(place)] if not math.isnan(place) and 0 <= place < len(words) else ""


def _read(text: str, point: TestPoint) -> dict[str, float] | None:
    words = outcomes_of(point).words
    said = " ".join(text.split()).casefold()
    for place, word in enumerate(words):
        if word.casefold() == said:
            return {INDICATED: float(place)}
    close = [word for word in words if word.casefold().startswith(said)]
    if len(close) == 1:
        return {INDICATED: float(words.index(close[0]))}
    return None


def unnamed(text: str, point: TestPoint) -> ValueTextError:
    """Return the error of an outcome that the step does not name. Raises as outcomes_of."""
    names = ", ".join(outcomes_of(point).words)
    return ValueTextError(
        worded("reading.is_not_an_outcome_of_this", text=text.strip(), names=names), value=text, expected=names
    )


def judge_looks(point: TestPoint, readings: Readings) -> tuple[Outcome, str]:
    """Return what the looks at a point say, and why: all alike decide, two that differ cannot tell. Raises as outcomes_of."""
    outcomes = outcomes_of(point)
    seen = dict.fromkeys(r.word for r in readings)
    if len(seen) > 1:
        return Outcome.CANNOT_TELL, worded("reading.two_looks_differ_let_another_pair", listed=", ".join(seen))
    word = next(iter(seen))
    outcome = Outcome.PASS if word in outcomes.passes else Outcome.FAIL
    by = worded("reading.judged_by", criterion=outcomes.criterion) if outcomes.criterion else ""
    return outcome, f"Seen: {word}.{by}"


def _none(point: TestPoint, readings: Readings, judged: Judged, friction: float | None) -> list[Contribution]:
    return []


def _say(point: TestPoint, figures: Figures) -> str:
    return word_at(point, figures.get(INDICATED, math.nan))


LOOK = ReadingKind(
    key="look",
    title="a look",
    drawn="look",
    read_on=("look",),
    compares="nothing",
    asks=lambda point: (Asked(INDICATED, "seen", "1"),),
    example=lambda point: next(iter(outcomes_of(point).words), ""),
    understand=_read,
    indicated=lambda point, figures: figures.get(INDICATED, math.nan),
    contributions=_none,
    say=_say,
    named=True,
)
