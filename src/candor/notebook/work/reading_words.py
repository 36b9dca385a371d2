"""A reading as a line of words: its point by name, what was read and applied with their units."""

from __future__ import annotations

from candor.core.calibration.point import TestPoint
from candor.core.quantities import engineering
from candor.core.reading.kinds import kind_named, kind_of
from candor.core.reading.reading import INDICATED
from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.packs.model import Pack
from candor.packs.procedure import point_step

WAYS = {"up": ", from below", "down": ", from above", "": ""}


def say_reading(point: TestPoint, reading: ReadingTaken) -> str:
    """Return a reading at its point: ``DC volts, 30 V range at 10 V, as found: needle 10.2 V, reference 10.03 V``."""
    own = kind_of(point)
    kind = kind_named(reading.read_as) if reading.read_as else own
    figures = dict(reading.figures)
    if reading.indicated is not None:
        figures = {INDICATED: reading.indicated, **figures}
    said = f"{point.function}, {point.name}, {reading.phase}: {kind.say(point, figures)}"
    if point.needs_reference and own.compares == "reference":
        said += f", reference {engineering(reading.reference, point.asked_unit, 7)}"
    return said + WAYS[reading.direction]


def reading_by_name(pack: Pack | None, reading: ReadingTaken) -> str:
    """Return a reading in words by the pack in force; empty where it has no such point, or the point is read otherwise by now."""
    step = point_step(pack, reading.point, reading.phase) if pack is not None else None
    if step is None or step.point is None or reading.word:
        return ""
    try:
        return say_reading(step.point, reading)
    except (KeyError, ValueError, ArithmeticError):
        return ""
