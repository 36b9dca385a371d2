"""Which standard a point is read against: what was chosen, as it is now, and what fits by itself."""

from __future__ import annotations

from collections.abc import Mapping

from candor.core.calibration.point import TestPoint
from candor.core.reference.chains import Chain
from candor.core.reference.reference import Reference, points_at
from candor.notebook.entries.standards_entries import ChainRecorded, StandardRecorded
from candor.notebook.standards.standards import Standard
from candor.notebook.work.job import Job


def link_of(standard: Standard | None, served: Reference | Chain | None, known: Mapping[str, Standard]) -> str:
    """Return where the meter or source of a point answers: of a chain that of the link that is read; empty where it is by hand."""
    body = standard.body if standard is not None else None
    if isinstance(body, ChainRecorded) and isinstance(served, Chain):
        key = next((x.standard for x in body.links if x.name == served.read.name), "")
        body = known[key].body if key in known else None
    return body.link if isinstance(body, StandardRecorded) else ""


def chosen_for(job: Job, known: Mapping[str, Standard], point: TestPoint | None) -> Standard | None:
    """Return the standard of a job that a point is read against: the one chosen last of those that fit, as it is now.

    One that was recorded again is what it is now; one that is out of service is not taken, whoever chose it. A standard of
    another quantity, current or band is never taken: where none that was chosen fits, the only one of the shop that does is taken
    by itself; where there are several, or none, none is.
    """
    newest = {s.body.key: s for s in known.values() if s.current and not s.withdrawn}
    chosen = _chosen(job, known)
    if point is None:
        return chosen[-1] if chosen else None
    fitting = [s for s in chosen if fits(s, point)]
    if fitting:
        return fitting[-1]
    only = [s for s in newest.values() if fits(s, point)]
    return only[0] if len(only) == 1 else None


def _chosen(job: Job, known: Mapping[str, Standard], away: bool = False) -> list[Standard]:
    """Return what was chosen, each as it is now, in the order of choosing: what is in service, or what is away."""
    newest = {s.body.key: s for s in known.values() if s.current}
    found = [newest.get(known[key].body.key, known[key]) for key in job.calibrate.standards if key in known]
    return [s for s in found if bool(s.withdrawn) == away]


def away_for(job: Job, known: Mapping[str, Standard], point: TestPoint) -> Standard | None:
    """Return the standard that a point waits for: out of service, chosen last or else one of the shop that fits, those first that
    somebody expects back. None where another serves meanwhile."""
    if chosen_for(job, known, point) is not None:
        return None
    away = [s for s in known.values() if s.current and s.withdrawn]
    fitting = [s for s in _chosen(job, known, away=True) if fits(s, point)] or [s for s in away if fits(s, point)]
    return max(fitting, key=lambda s: s.back is not None, default=None)


def fits(standard: Standard, point: TestPoint) -> bool:
    """Return whether a standard is of a point's quantity, its current, d.c. or a.c., and its band."""
    served = standard.serving(point)
    if served is None or served.unit != point.asked_unit:
        return False
    if served.current and point.current and served.current != point.current:
        return False
    hertz = point.stimulus.hertz
    if isinstance(served, Chain) or not hertz:
        return True
    return any(line.holds_at(hertz) for line in served.ranges) if served.ranges else bool(points_at(served, hertz))


def offered(known: Mapping[str, Standard], point: TestPoint) -> Mapping[str, Reference | Chain]:
    """Return the current standards and chains in service that are of the quantity of a point, by entry id."""
    found = {}
    for key, standard in known.items():
        served = standard.serving(point) if standard.current and not standard.withdrawn else None
        if served is not None and served.unit == point.asked_unit:
            found[key] = served
    return found
