"""Readings of a file against standards of a file, calculated with no notebook."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Mapping

from candor.core.calibration.point import Phase, TestPoint
from candor.core.calibration.result import PointResult, assess_point
from candor.core.calibration.setup import KINDS, SetUpTerm
from candor.core.errors import CandorError, RangeError, ValueTextError
from candor.core.jot import JotContext, understand
from candor.core.jot.evidence_meaning import SetUpJot
from candor.core.reading.kinds import reading_of
from candor.core.reading.reading import INDICATED, Reading
from candor.core.reference.chains import Chain
from candor.core.reference.choice import propose
from candor.core.reference.reference import Reference
from candor.core.verdict.rules import Rule
from candor.core.worded import worded
from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.work.assessment import figured
from candor.notebook.work.csv_readings import preview_csv
from candor.packs.model import Pack
from candor.packs.procedure import figured_points, point_by_name, test_points

Standards = Mapping[str, tuple[Reference | Chain, ...]]
Named = tuple[str, Phase, str]  # point, phase, name of the standard


def calculate_readings(
    content: bytes,
    pack: Pack,
    standards: Standards,
    on: dt.date,
    rule: Rule = Rule.GUARDED,
    setup: tuple[SetUpTerm, ...] = (),
) -> list[PointResult]:
    """Return what every point of a table of readings says, in the order of the procedure.

    Each is read against the standard of the file that serves it best (TUR); readings of one point and phase are repeats.

    Parameters
    ----------
    content : bytes
        A table with the columns point, reading, reference; see docs/formats.md.
    pack : Pack
    standards : mapping of name to Reference or Chain
        The functions of each, as read from a file.
    on : date
        The day of the readings, for the age of the standards.
    rule : Rule
    setup : tuple of SetUpTerm
        What stands between the standards and the instrument.

    Raises
    ------
    CandorError
        With every fault by its line, where the table cannot be read.
    """
    known = {f"{name} {i}": of for name, functions in standards.items() for i, of in enumerate(functions)}
    names = {key: key.rsplit(" ", 1)[0] for key in known}

    def best(point: TestPoint) -> tuple[str, Reference | Chain | None]:
        ranked = [c for c in propose(point, known, on) if c.serves]
        return (ranked[0].key, known[ranked[0].key]) if ranked else ("", None)

    preview = preview_csv(content, pack, "as found", best)
    if preview.faults:
        raise ValueTextError(
            "\n".join((worded("work.the_readings_cannot_be_taken"), *(f"  {fault}" for fault in preview.faults)))
        )
    taken: dict[Named, list[Reading]] = {}
    for body in preview.readings:
        point = point_by_name(pack, body.point)
        taken.setdefault((body.point, body.phase, body.standard), []).append(_reading(point, body))
    order = {p.key: i for i, p in enumerate(test_points(pack, "as found"))}
    found: dict[Phase, dict[str, PointResult]] = {}
    for (key, phase, standard), readings in taken.items():
        point = point_by_name(pack, key)
        result = _assess(point, phase, tuple(readings), known.get(standard), on, rule, names.get(standard, ""), setup)
        found.setdefault(phase, {})[key] = result
    for phase, results in found.items():
        results |= figured(figured_points(pack, phase), phase, results, rule)
    listed = [result for results in found.values() for result in results.values()]
    return sorted(listed, key=lambda r: (r.phase, order.get(r.point.key, len(order))))


def _reading(point: TestPoint, body: ReadingTaken) -> Reading:
    figures = dict(body.figures) if body.indicated is None else {INDICATED: body.indicated, **dict(body.figures)}
    return reading_of(point, figures, body.reference, kind=body.read_as, direction=body.direction)


def _assess(
    point: TestPoint,
    phase: Phase,
    readings: tuple[Reading, ...],
    reference: Reference | Chain | None,
    on: dt.date,
    rule: Rule,
    name: str,
    setup: tuple[SetUpTerm, ...],
) -> PointResult:
    remark = worded("work.no_standard_of_the_file_serves", name=point.name) if not name else ""
    try:
        return assess_point(point, phase, readings, reference, on, rule, remark=remark, setup=setup)
    except RangeError as error:
        return assess_point(point, phase, readings, None, on, rule, remark=str(error))


def read_set_up(lines: Iterable[str]) -> tuple[SetUpTerm, ...]:
    """Return the terms of a set-up from lines, as they are typed in a job.

    Raises
    ------
    ValueTextError
        Where a line says none.
    """
    found = []
    for line in lines:
        jot = understand(line, JotContext())
        if not isinstance(jot, SetUpJot):
            usual = "; ".join(kind.usual for kind in KINDS.values())
            raise ValueTextError(
                worded("work.is_no_term_of_a_set", line=line, usual=usual), value=line, expected=usual
            )
        found.append(jot.term)
    return tuple(found)


def read_rule(text: str) -> Rule:
    """Return a decision rule by its name.

    Raises
    ------
    CandorError
        Where there is none of that name.
    """
    try:
        return Rule(text)
    except ValueError:
        raise CandorError(
            worded("work.is_not_a_decision_rule_expected", text=text, listed=", ".join(Rule)), value=text
        ) from None
