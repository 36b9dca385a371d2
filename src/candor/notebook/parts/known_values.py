"""What parts are known to be at some time of a job: measured out of the circuit, or the piece that was fitted."""

from __future__ import annotations

from candor.notebook.entries.parts_entries import PartMeasured
from candor.notebook.work.job import Job


def known_values(job: Job, until: int = 0) -> tuple[tuple[str, float], ...]:
    """Return parts with what each is known to be, SI, by designator.

    A measurement in the circuit says what the circuit is, and one from before a replacement is of the part that has gone.

    Parameters
    ----------
    job : Job
    until : int
        The number of the last entry that counts: what was replaced later stood there still. 0 for now.
    """
    known = {}
    for ref in sorted({*job.parts.measured, *job.parts.replaced}):
        value = _known(job, ref, until)
        if value:
            known[ref] = value
    return tuple(known.items())


def known_ohms(job: Job, until: int = 0) -> tuple[tuple[str, float], ...]:
    """Return the resistors of `known_values`, ohm."""
    return tuple((ref, ohms) for ref, ohms in known_values(job, until) if ref.upper().startswith("R"))


def _known(job: Job, ref: str, until: int) -> float:
    change = job.parts.replaced.get(ref)
    is_done = change is not None and (not until or change.number <= until)
    measured = [
        float(e.body.value)
        for e in job.parts.measured.get(ref, ())
        if isinstance(e.body, PartMeasured) and e.body.value and not e.body.in_circuit and not e.body.state
        if change is None or (e.number > change.number) == is_done
    ]
    if measured:
        return measured[-1]
    return _fitted(job, ref) if is_done else 0.0


def _fitted(job: Job, ref: str) -> float:
    """The value of the one piece that was fitted, 0 where none is known."""
    chosen = job.parts.replacements.get(ref)
    if chosen is None or len(chosen.body.lines) != 1 or chosen.body.lines[0].count != 1:
        return 0.0
    return float(chosen.body.lines[0].value or 0.0)
