"""A needle: read where it stands with a value applied, or set on a mark while the reference is read."""

from __future__ import annotations

import re

from candor.core.calibration.point import TestPoint
from candor.core.errors import RangeError, ValueTextError
from candor.core.late_pattern import late_pattern
from candor.core.quantities import engineering, parse_number
from candor.core.quantities.show import trimmed
from candor.core.reading.dial import DialRange
from candor.core.reading.judged import Judged
from candor.core.reading.kind import Brought, Figures, ReadingKind, Readings, one_value, shown, the_value, typed
from candor.core.reading.means import friction_not_known, repeats
from candor.core.reading.reading import INDICATED
from candor.core.uncertainty.budget import Contribution, rectangular
from candor.core.worded import worded

# Of a division, without and over a mirror: common practice, no source; set on a mark IEC 60051-9 (from memory).
ON_A_MARK = 0.02  # of a division: closer than a fiftieth nobody reads
READ = (1 / 4, 1 / 5)
SET = (1 / 10, 1 / 20)
_FRACTIONS = {1 / 4: "¼", 1 / 5: "⅕", 1 / 10: "⅒", 1 / 20: "1/20"}
_WORDS = {1 / 4: "a quarter", 1 / 5: "a fifth", 1 / 10: "a tenth", 1 / 20: "a twentieth"}
_TICKS = late_pattern(
    r"[+-]?\s*(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:\.\d*)?|\.\d+)\s*t(?:icks?)?(?:\s+(?:low|high|below|above))?", re.I
)


def read_ticks_typed(text: str) -> float | None:
    """Return a number of ticks as people write them (`-1/4t`, `2 ticks low`), None where it is none.

    Raises
    ------
    ValueTextError
        Where the number cannot be read.
    """
    clean = text.strip()
    if not _TICKS.fullmatch(clean):
        return None
    number = re.sub(r"\s*t(icks?)?(\s+(low|high|below|above))?$", "", clean, flags=re.I)
    value = parse_number(re.sub(r"^([+-])\s+", r"\1", number), worded("reading.a_number_of_ticks_such_as"))
    return -abs(value) if re.search(r"(low|below)$", clean, re.I) else value


def _read(text: str, point: TestPoint) -> dict[str, float] | None:
    ticks = read_ticks_typed(text)
    if ticks is not None:
        return {INDICATED: point.indicator.check(point.indicator.ticks_from(point.nominal, ticks))}
    if not re.match(r"[+-]?[\d.,½¼¾]|∞|inf", text, re.I):
        return None
    return {INDICATED: typed(text, point)}


def _set(text: str, point: TestPoint) -> dict[str, float] | None:
    match = re.fullmatch(r"on\s+(.+)", text.strip(), re.I)
    if match is None or re.search(r"\boff\b", match[1], re.I):
        return None
    value = typed(match[1], point)
    mark = point.indicator.mark_near(value)
    if abs(point.indicator.ticks_between(mark, value)) > ON_A_MARK:
        near = engineering(mark, point.unit, 5)
        raise ValueTextError(
            worded("reading.there_is_no_mark_at_the", value=engineering(value, point.unit, 5), near=near),
            value=text,
            expected=near,
        )
    return {INDICATED: value}


def dial_of(point: TestPoint) -> DialRange:
    """Return the dial that a needle is read on.

    Raises
    ------
    RangeError
        Where the point has none.
    """
    if not isinstance(point.indicator, DialRange):
        raise RangeError(worded("reading.has_no_dial_so_no_needle", name=point.name), place=point.key)
    return point.indicator


def _contributions(fractions: tuple[float, float], how: str) -> Brought:
    def of(point: TestPoint, readings: Readings, judged: Judged, friction: float | None) -> list[Contribution]:
        means = judged.means(readings)
        dial = dial_of(point)
        mirror, parallax = dial.mirror, dial.parallax_divisions
        at, fraction = means.indicated, fractions[mirror]
        division = engineering(point.indicator.division_at(at), point.unit)
        over = "over the mirror" if mirror else "without a mirror"
        reason = worded(
            "reading.to_of_a_division_rectangular_jcgm", how=how, words=_WORDS[fraction], division=division, over=over
        )
        found = [
            rectangular(f"needle, {_FRACTIONS[fraction]} tick", judged.divisions(at, fraction), reason, "needle")
        ]
        if not mirror and parallax:
            words = worded("reading.of_a_division_without_a_mirror", parallax=trimmed(parallax))
            found.append(rectangular("parallax", judged.divisions(at, parallax), words, "needle"))
        if dial.scale.marks_u and any(reading.by_place for reading in readings):
            share = dial.scale.marks_u / dial.arc_division_at(at)
            scatter = trimmed(100 * dial.scale.marks_u, 2)
            words = worded("reading.the_arc_is_drawn_by_its", scatter=scatter)
            found.append(
                Contribution(
                    worded("reading.marks_of_the_arc"), judged.divisions(at, share), reason=words, kind="needle"
                )
            )
        if means.friction is None:
            found.append(friction_not_known(judged.divisions(at, 1.0), friction))
        return found + repeats(readings, judged.place, means.counted)

    return of


def _say(point: TestPoint, figures: Figures) -> str:
    return f"needle {shown(point, the_value(point, figures))}"


_WHERE = "Where does the needle stand? Type it, move it with the arrows, or press M where it stands on the mark."


def _reference(point: TestPoint, value: float) -> str:
    """What a reference shows at a value of the instrument, as it is typed: bare where it is in the range's own unit."""
    if point.asked_unit == point.unit and point.worth == 1:
        return point.bare(value, 5)
    return engineering(point.reference_for(value), point.asked_unit, 5).replace("\u2212", "-")


NEEDLE = ReadingKind(
    key="needle",
    title="needle, value applied",
    drawn="dial",
    read_on=("scale",),
    compares="reference",
    asks=one_value("needle"),
    example=lambda point: (
        f"{point.bare(point.full_scale * 0.71, 3)} ref {_reference(point, point.full_scale * 0.708)}"
    ),
    understand=_read,
    indicated=the_value,
    contributions=_contributions(READ, "Read"),
    say=_say,
    also=("mark",),
    has_sides=True,
    has_friction=True,
    prompt=_WHERE,
)
MARK = ReadingKind(
    key="mark",
    title=worded("reading.needle_set_on_a_mark"),
    drawn="dial",
    read_on=("scale",),
    compares="reference",
    asks=one_value("mark"),
    example=lambda point: worded(
        "reading.on_ref", bare=point.bare(point.nominal), reference=_reference(point, point.nominal * 1.004)
    ),
    understand=_set,
    indicated=the_value,
    moves_reference=True,
    contributions=_contributions(SET, worded("reading.set_on_the_mark")),
    say=lambda point, figures: worded("reading.needle_on_the_mark", shown=shown(point, the_value(point, figures))),
    also=("needle",),
    has_sides=True,
    has_friction=True,
    prompt=_WHERE,
)
