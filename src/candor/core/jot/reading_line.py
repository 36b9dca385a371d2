"""Understanding a reading as it is typed, whatever it is read on: `on 240k off 260k`, `4.05 div ref 2.01`, `dial 82`, `ok`."""

from __future__ import annotations

import math
import re

from candor.core.calibration.belonging import applied_for, is_at
from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.jot.meaning import ReadingJot
from candor.core.late_pattern import late_pattern
from candor.core.quantities import engineering
from candor.core.quantities.derived import of_one_standard
from candor.core.reading.kind import ReadingKind
from candor.core.reading.kinds import KINDS, kind_named, kind_of
from candor.core.reading.look import unnamed
from candor.core.reading.needle import MARK, NEEDLE
from candor.core.reading.reading import INDICATED, Direction
from candor.core.reading.source import REFERENCE
from candor.core.reference.chains import Chain, comes_to, read_unit_of
from candor.core.reference.choice import kept_reading
from candor.core.reference.reference import Reference
from candor.core.worded import worded

# What stands behind every kind of reading: what the reference showed, and from which side it was approached.
_TAIL = late_pattern(
    r"(?P<head>.*?)(?:\s*\bref(?:erence)?\s+(?P<ref>.+?))?(?:\s+(?P<way>from\s+below|from\s+above|up|down|rising|falling))?",
    re.I,
)
_UP = ("up", "below", "rising")
_NEEDLES = (NEEDLE.key, MARK.key)
_INFINITY = late_pattern(r"inf(?:inity)?|∞|open", re.I)
_SEEN = late_pattern(r"(?:seen|looks?)\s+(?P<word>.+)", re.I)


def understand_reading(text: str, point: TestPoint, served: Reference | Chain | None = None) -> ReadingJot | None:
    """Say what a line means at a point, None where it is not a reading of the point's kind.

    Parameters
    ----------
    text : str
    point : TestPoint
    served : Reference, Chain or None
        What it is read against: of a chain the link that is read is what is typed.

    Raises
    ------
    ValueTextError, UnitError, RangeError
        Where it is one and cannot be right; where it is a reading of another kind than the step's.
    """
    head, reference, direction = split_tail(text, point, served)
    if not head:
        return None
    own = kind_of(point)
    seen = _SEEN.fullmatch(head)
    if own.named and seen:
        head = seen["word"]
    # A needle's bare number goes the old way: with ticks, `@` and further points.
    endless = _INFINITY.fullmatch(head) is not None
    for kind in (k for k in (own, *(kind_named(key) for key in own.also)) if k is not NEEDLE or endless):
        figures = kind.understand(head, point)
        if figures is not None:
            return _jot(kind, point, figures, reference, direction)
    if own.named and seen:
        raise unnamed(head, point)
    other = _other_kind(head, point, own) if own.key not in _NEEDLES else None
    if other is not None:
        raise RangeError(
            worded(
                "jot.is_read_as_such_as_is",
                name=point.name,
                title=own.title,
                example=own.example(point),
                head=head,
                other_title=other.title,
            ),
            value=head,
            place=point.key,
            expected=own.title,
        )
    return None


def read_at(line: str, point: TestPoint, served: Reference | Chain | None) -> ReadingJot | None:
    """Return a reading in the unit of its point; None also for prose that only begins like one: `reference is drifting`."""
    try:
        return understand_reading(line, point, served)
    except CandorError:
        if re.search(r"\d", line) or line.count(" ") < 2:
            raise
    return None


def split_tail(
    text: str, point: TestPoint, served: Reference | Chain | None = None
) -> tuple[str, float | None, Direction]:
    """Return what was read, the reference, SI, and the direction, of a line at a point.

    Raises
    ------
    ValueTextError, UnitError, RangeError
        Where the reference cannot be read.
    """
    match = _TAIL.fullmatch(text.strip())
    if match is None:
        return text.strip(), None, ""
    reference = None
    if match["ref"]:
        unit = read_unit_of(served) if served is not None else point.asked_unit
        if math.isinf(point.nominal) and _INFINITY.fullmatch(match["ref"].strip()):
            reference = math.inf  # a box whose terminals are open
        else:
            reference = kept_reading(served, point, point.quantity(of_one_standard(match["ref"]), unit))
    way = (match["way"] or "").lower()
    return match["head"].strip(), reference, "" if not way else "up" if any(w in way for w in _UP) else "down"


def _jot(
    kind: ReadingKind, point: TestPoint, figures: dict[str, float], reference: float | None, direction: Direction
) -> ReadingJot:
    reference = figures.pop(REFERENCE, reference)
    chips = [kind.say(point, figures)]
    if reference is not None:
        chips.append(f"reference {engineering(reference, point.asked_unit, 7)}")
    if direction:
        chips.append("from below" if direction == "up" else "from above")
    return ReadingJot(
        indicated=figures.get(INDICATED, kind.indicated(point, figures)),
        reference=reference,
        direction=direction,
        read_as="" if kind.key == point.kind else kind.key,
        figures=tuple(figures.items()),
        chips=tuple(chips),
    )


def _other_kind(head: str, point: TestPoint, own: ReadingKind) -> ReadingKind | None:
    """Return the kind of reading that a line is of, where it is another than the step's."""
    for kind in KINDS.values():
        if kind is own or kind.named or (kind is NEEDLE and not re.match(r"[-+−]?[\d.]", head)):
            continue
        try:
            if kind.understand(head, point) is not None:
                return kind
        except (ValueTextError, RangeError):
            return kind
        except CandorError:
            continue
    return None


def elsewhere(
    point: TestPoint | None, served: Reference | Chain | None, indicated: float | None, reference: float | None
) -> list[str]:
    """Say to which point a reading of a needle goes, where that is not the one in hand.

    Parameters
    ----------
    point : TestPoint or None
        The one in hand.
    served : Reference, Chain or None
    indicated, reference : float or None
        SI, of the point and of what is read against.

    Raises
    ------
    CandorError
        Where what was read comes to nothing on the chain.
    """
    if point is None or indicated is None or reference is None:
        return []
    shows = reference if served is None else comes_to(served, reference)
    applied = applied_for(point, kind_named("needle"), indicated, shows)
    if applied is None or is_at(point, applied):
        return []
    said = engineering(applied, point.unit, 5), engineering(point.nominal, point.unit)
    return [worded("jot.at_not", applied=said[0], nominal=said[1])]
