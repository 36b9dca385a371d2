"""The table of kinds of reading: a further kind is one module and one line here."""

from __future__ import annotations

from collections.abc import Mapping

from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError
from candor.core.reading.at_mark import AT_MARK
from candor.core.reading.figured import FIGURED
from candor.core.reading.kind import Figures, ReadingKind
from candor.core.reading.look import LOOK, word_at
from candor.core.reading.needle import MARK, NEEDLE
from candor.core.reading.noted import BLANK, EVENT, REACH
from candor.core.reading.null import NULL
from candor.core.reading.on_waveform import WAVEFORM
from candor.core.reading.reading import Direction, Reading
from candor.core.reading.screen import SCREEN
from candor.core.reading.source import SOURCE
from candor.core.reading.threshold import THRESHOLD
from candor.core.worded import worded

KINDS: Mapping[str, ReadingKind] = {
    kind.key: kind
    for kind in (NEEDLE, MARK, NULL, AT_MARK, THRESHOLD, SCREEN, SOURCE, LOOK, FIGURED, WAVEFORM, REACH, EVENT, BLANK)
}


def kind_of(point: TestPoint) -> ReadingKind:
    """Return how a point is read.

    Raises
    ------
    RangeError
        Where its pack names a kind that there is not.
    """
    return kind_named(point.kind)


def kind_named(key: str) -> ReadingKind:
    """Return a kind of reading by its key. Raises RangeError where there is none."""
    found = KINDS.get(key)
    if found is None:
        raise RangeError(worded("reading.is_not_a_kind_of_reading", key=key, listed=", ".join(KINDS)), value=key)
    return found


def reading_of(
    point: TestPoint,
    figures: Figures,
    reference: float,
    *,
    kind: str = "",
    direction: Direction = "",
    entry: int = 0,
    captured: tuple[float, int] = (0.0, 0),
    simulated: bool = False,
    by_place: bool = False,
) -> Reading:
    """Return one look at a point from its figures: the value they say, and what it is compared with.

    Parameters
    ----------
    point : TestPoint
    figures : mapping of str to float
        As the kind asks for them.
    reference : float
        As it was read, SI; of a kind that compares with the nominal value that stands instead.
    kind : str
        Where it is another than the point's own: a needle set on a mark.
    direction : "up", "down" or ""
    entry : int
    captured : tuple of (float, int)
        Of a captured reference the standard uncertainty of its mean, SI, and of how many readings.
    simulated : bool
        Whether its reference was a simulated meter or source.
    by_place : bool
        Whether it was put on the drawn arc.

    Raises
    ------
    RangeError
        Where the kind is none that can be read at the point.
    """
    own = kind_of(point)
    read = kind_named(kind) if kind else own
    if read is not own and read.key not in own.also:
        raise RangeError(
            worded(
                "reading.is_read_as_such_as_what",
                name=point.name,
                title=own.title,
                example=own.example(point),
                read_title=read.title,
            ),
            value=read.key,
            place=point.key,
            expected=own.title,
        )
    value = read.indicated(point, figures)
    return Reading(
        indicated=value,
        reference=point.nominal if read.compares == "nominal" or not point.needs_reference else reference,
        direction=direction,
        entry=entry,
        kind=read.key,
        figures=tuple(sorted(figures.items())),
        word=word_at(point, value) if read.named else "",
        reference_u=captured[0],
        reference_count=captured[1],
        simulated=simulated,
        by_place=by_place,
    )
