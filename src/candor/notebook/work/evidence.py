"""What may stand as evidence: a reading by a simulated meter or source is practice, and on no paper, in no drift, no due date."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from candor.notebook.entries.calibrate_entries import TakenReading
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.standards.standards import Standard
from candor.notebook.work.job import Job

SIMULATED = "simulated"  # the link of what comes with Candor to practise on


def is_simulated(reading: TakenReading, known: Mapping[str, Standard]) -> bool:
    """Return whether a reading stands on a simulated meter or source.

    Until 2026-11 no entry said so: one whose reference was captured from a standard on the simulated link is one too.
    """
    standard = known.get(reading.standard)
    body = standard.body if standard is not None else None
    on_link = isinstance(body, StandardRecorded) and body.link == SIMULATED
    return reading.body.simulated or (on_link and reading.body.reference_from == "captured")


def simulated_readings(job: Job, known: Mapping[str, Standard]) -> tuple[TakenReading, ...]:
    """Return the readings of a job that are no evidence, in order."""
    return tuple(r for r in job.calibrate.readings if is_simulated(r, known))


def evidence_of(job: Job, known: Mapping[str, Standard]) -> Job:
    """Return a job with the readings alone that are evidence; itself where all are."""
    left_out = {r.place for r in simulated_readings(job, known)}
    if not left_out:
        return job
    kept = tuple(r for r in job.calibrate.readings if r.place not in left_out)
    return replace(job, calibrate=replace(job.calibrate, readings=kept))
