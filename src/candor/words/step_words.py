"""What is said at a step besides its own words: volts that a standard does not bear, and the load the procedure assumed."""

from __future__ import annotations

import math
from collections.abc import Mapping

from candor.core.calibration.point import TestPoint
from candor.core.errors import CandorError
from candor.core.quantities import engineering
from candor.core.quantities.units import QUANTITY_OF_UNIT
from candor.core.reading.kinds import kind_of
from candor.core.reference.chains import Chain
from candor.core.reference.choice import bears, shown_for
from candor.core.reference.loading import stand_in
from candor.core.reference.reference import Reference
from candor.notebook.standards.standard_choice import away_for
from candor.notebook.standards.standards import Standard
from candor.notebook.work.job import Job
from candor.packs.greatest_of_range import NOTHING_APPLIED, Applied, applied_at
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, point_step


def too_much(point: TestPoint | None, served: Reference | Chain | None) -> str:
    """Say which standard a point would give more volts than it bears, or nothing."""
    if point is None or served is None or not point.needs_reference:
        return ""
    try:
        at = point.nominal if math.isfinite(point.nominal) else point.full_scale
        bears(served, shown_for(served, point.reference_for(at)))
    except CandorError as error:
        return str(error)
    return ""


def out_of_service(standard: Standard) -> str:
    """Say why a standard is out of service, and when it is expected back where that was said."""
    back = f", expected back {standard.back:%d %b %Y}" if standard.back is not None else ""
    return f"out of service: {standard.withdrawn}{back}"


def no_standard_words(
    step: ProcedureStep,
    standard: Standard | None,
    job: Job | None = None,
    known: Mapping[str, Standard] | None = None,
) -> str:
    """Say that nothing fits to read a point against, and what would, or is away; nothing where something does, or none is needed."""
    point = step.point
    if point is None or standard is not None or not point.needs_reference or kind_of(point).figured:
        return ""
    what, _ = QUANTITY_OF_UNIT.get(point.asked_unit, (point.asked_unit, ""))
    at = f" at {engineering(point.stimulus.hertz, 'Hz')}" if point.stimulus.hertz else ""
    current = f"{point.current} " if point.current else ""
    away = away_for(job, known, point) if job is not None and known is not None else None
    if away is not None:
        return (
            f"{away.name} is {out_of_service(away)}. Until it is back, choose or record another at Standards: without one "
            "the reading decides nothing."
        )
    return (
        f"No standard for {current}{what}{at} is chosen: choose or record one at Standards. Without it "
        "the reading decides nothing."
    )


def applied_last(job: Job, pack: Pack) -> Applied | None:
    """Return what the reading before was taken at; None where nothing was read yet."""
    last = next(reversed(job.calibrate.readings), None)
    if last is None:
        return None
    step = point_step(pack, last.body.point, last.body.phase)
    if step is None or step.point is None:
        return NOTHING_APPLIED
    return applied_at(step.point, last.body.reference or step.point.nominal)


def load_words(step: ProcedureStep, served: Reference | Chain | None) -> str:
    """Say what goes across the meter so that it loads as the procedure's did, or nothing."""
    ohms = served.input_ohms if isinstance(served, Reference) else 0.0
    if step.load is None:
        return ""
    if not ohms:
        return (
            f"The procedure's meter was one of {engineering(step.load.ohms_per_volt, 'ohm')}/V on its "
            f"{engineering(step.load.range, 'V')} range; write under Standards with what yours loads."
        )
    try:
        return stand_in(step.load.ohms_per_volt, step.load.range, ohms).sentence
    except CandorError as error:
        return str(error)
