"""What explains the errors of a run: its points as shares of the arc, its circuit with what was measured, and what to read next."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import field, replace
from functools import partial

import numpy as np

from candor.core.calibration.point import TestPoint
from candor.core.calibration.result import PointResult
from candor.core.calibration.run import RunResult
from candor.core.errors import CandorError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_quantity
from candor.core.reading.dial import DialRange
from candor.core.reading.judged import Judged
from candor.core.suspects.next_reading import NextReading, next_readings
from candor.core.suspects.observed import Circuit, Observed, Place, Side
from candor.core.suspects.repair import Repair, repair, trimmed
from candor.core.suspects.weigh import Weighed, weigh
from candor.core.verdict.limits import Bounds
from candor.core.worded import worded
from candor.notebook.parts.known_values import known_ohms
from candor.notebook.work.job import Job
from candor.packs.model import Pack
from candor.packs.pack_parts import read_circuit
from candor.packs.patterns import part_patterns

READ_AS = ("needle", "mark", "screen")
UNITS = ("V", "A")
TERMINALS = ("source", "ohm")  # kind and unit of ohms that are measured from outside
NEAR = 1e-4  # of a value: over which slopes are taken
MOST = 240  # points that are weighed
LEAST_OWN = 1e-5  # share of the arc: no reading is surer


@dataclass(frozen=True)
class Suspected:
    """What explains the errors of a run, and which reading would tell most; none of fewer than three points.

    Attributes
    ----------
    weighed : Weighed
    next : tuple of NextReading
        The most for the minute first.
    ghost : mapping of str to float
        By point, the error that the likeliest would make, in limits.
    repair : Repair or None
        What comes of putting it right; None where no point has a limit.
    """

    weighed: Weighed
    next: tuple[NextReading, ...]
    ghost: Mapping[str, float] = field(default_factory=dict)
    repair: Repair | None = None

    @property
    def stands_out(self) -> bool:
        """Whether something is likelier than nothing: then its pattern is drawn."""
        return self.weighed.first.kind != "nothing" and self.weighed.first.probability >= 0.5


def suspect(
    measured: tuple[tuple[str, float], ...], pack: Pack, results: Iterable[PointResult], points: Iterable[TestPoint] = (),
    should_stop: Callable[[], bool] = lambda: False,
) -> Suspected | None:  # fmt: skip
    """Return what explains what was read; None where too little was, or where it was stopped.

    Parameters
    ----------
    measured : tuple of (str, float)
        Resistors that were measured, ohm: they stand in the circuit as measured.
    pack : Pack
    results : iterable of PointResult
    points : iterable of TestPoint
        All there are: those not read may be read next.
    should_stop : callable
    """
    read_results = tuple(results)
    observed = thinned(observations(read_results))
    if len(observed) < 3 or should_stop():
        return None
    circuit = part_patterns(pack, measured)
    if should_stop():
        return None
    weighed = weigh(observed, circuit)
    read = {o.place.key for o in observed}
    beyond = [place for p in points if p.key not in read and (place := place_of(p, p.nominal)) is not None]
    if weighed is None or should_stop():
        return None
    shares = _shares(read_results, observed)
    ghost = {
        o.place.key: shares[o.place.key](float(e))
        for o, e in zip(observed, weighed.first.explained, strict=True)
        if o.place.key in shares
    }
    read_at = {r.point.key: r.share_of_limit for r in read_results if r.point.key in ghost}
    mended = _mended(pack, weighed, circuit, repair(read_at, ghost), shares) if read_at else None
    return Suspected(weighed, next_readings(observed, circuit, beyond)[:3], ghost, mended)


def _shares(results: Iterable[PointResult], observed: Iterable[Observed]) -> dict[str, Callable[[float], float]]:
    """By point that has a limit of error: an error, share of the arc, as a share of that limit."""
    read = {o.place.key for o in observed}
    found: dict[str, Callable[[float], float]] = {}
    for r in results:
        if r.point.key in read and r.point.limit.given and not r.point.limit.on_value:
            per_arc, bounds = (
                _judged_per_arc(r.point, r.reference if r.point.needs_reference else r.point.nominal),
                r.verdict.bounds,
            )
            found[r.point.key] = partial(_share, per_arc, bounds)
    return found


def _share(per_arc: float, bounds: Bounds, error: float) -> float:
    return bounds.share(error * per_arc)


def _mended(
    pack: Pack, weighed: Weighed, circuit: Circuit, plain: Repair, shares: Mapping[str, Callable[[float], float]]
) -> Repair:
    """What putting the likeliest right does; of a part with what it needs across it or in series."""
    first = weighed.first
    part = next((p for p in circuit.parts if first.kind == "part" and p.ref == first.of[0]), None)
    if part is None or not math.isfinite(first.amount) or pack.circuit is None:
        return plain
    element = read_circuit(pack.circuit.netlist).element(part.ref)
    if element is None:
        return plain
    linear = dict(zip(ranges := tuple({o.place.range for o in weighed.observed}), part.linear(ranges), strict=True))
    moves = [
        shares[o.place.key](o.place.slope * linear[o.place.range]) for o in weighed.observed if o.place.key in shares
    ]
    return trimmed(plain, part.ref, element.value, first.amount, np.array(moves))


def suspect_run(
    job: Job, pack: Pack, run: RunResult, should_stop: Callable[[], bool] = lambda: False
) -> Suspected | None:
    """Return what explains the errors of a run. See `suspect`."""
    last = max((r.entry for found in run.results.values() for r in found.readings), default=0)
    return suspect(known_ohms(job, last), pack, run.results.values(), run.decided, should_stop)


def read_measured(lines: Iterable[str]) -> tuple[tuple[str, float], ...]:
    """Return parts as they are typed, ``R3=848k``, with their ohm.

    Raises
    ------
    CandorError
        Where one has no name or no value.
    """
    found = []
    for line in lines:
        ref, sign, value = line.partition("=")
        if not (ref.strip() and sign):
            raise ValueTextError(worded("work.is_no_measured_part_write_its", line=line), value=line)
        found.append((ref.strip().upper(), parse_quantity(value.strip(), "ohm").value))
    return tuple(sorted(found))


def observations(results: Iterable[PointResult]) -> tuple[Observed, ...]:
    """Return results as places on the arc with their errors; those of no arc, or that decide nothing, are left out."""
    return tuple(o for o in map(_observed, results) if o is not None)


def thinned(observed: tuple[Observed, ...]) -> tuple[Observed, ...]:
    """Return those that are weighed: of more than MOST every so many-th, and those farthest out in what each is known to."""
    if len(observed) <= MOST:
        return observed
    far = sorted(range(len(observed)), key=lambda i: -abs(observed[i].error) / observed[i].own)[: MOST // 4]
    step = len(observed) / (MOST - len(far))
    kept = {*far, *(int(i * step) for i in range(MOST - len(far)))}
    return tuple(observed[i] for i in sorted(kept))


def place_of(point: TestPoint, value: float) -> Place | None:
    """Return where a point stands on its arc; None where it has none, or is not of volts or amperes."""
    if point.noted or not math.isfinite(value):
        return None
    function, range_ = point.key.split("/")[:2]
    plain = Place(
        key=point.key, range=f"{function}/{range_.split('*')[0]}", function=function, name=f"{point.function}, {point.name}",
        title=f"{point.function}, {point.range_name}", function_title=point.function, polarity=point.polarity, at=1.0, slope=1.0,
        movement=False, has_gain=False,
    )  # fmt: skip
    if (point.kind, point.unit) == TERMINALS:
        return plain if value > 0 else None
    if point.unit not in UNITS or point.kind not in READ_AS:
        return None
    try:
        at, slope = point.indicator.arc_of(value), _slope(point, value)
        division = point.indicator.arc_division_at(value)
    except CandorError:
        return None
    movement = isinstance(point.indicator, DialRange)
    return replace(plain, at=at, slope=slope * value, division=division, movement=movement, has_gain=True)


def _slope(point: TestPoint, value: float) -> float:
    """d(arc)/d(value), over a hair below it: the arc may end there."""
    step = NEAR * (abs(value) or point.full_scale)
    below = value - step if value > step else value + step
    return (point.indicator.arc_of(value) - point.indicator.arc_of(below)) / (value - below)


def _observed(result: PointResult) -> Observed | None:
    point = result.point
    if result.seen or result.remark or not math.isfinite(result.indicated):
        return None
    truth = result.reference if point.needs_reference else point.nominal
    place = place_of(point, truth)
    if place is None:
        return None
    try:
        # What a meter found against what it should be, a share; or where the needle stood against where it should.
        outside = (point.kind, point.unit) == TERMINALS
        error = truth / point.nominal - 1 if outside else point.indicator.arc_of(result.indicated) - place.at
        to_arc = 1 / _judged_per_arc(point, truth)
    except (CandorError, ZeroDivisionError):
        return None
    shared, standard, own = 0.0, "", 0.0
    for c in result.budget.contributions:
        size = c.size * to_arc
        if c.shared is not None:
            common = c.shared.common * abs(c.sensitivity) * to_arc
            shared, standard = shared + common, c.shared.span
            size = math.sqrt(max(0.0, size**2 - common**2))
        own = math.hypot(own, size)
    sides = {r.direction for r in result.readings} & {"up", "down"}
    side: Side = "both" if len(sides) > 1 else next(iter(sides), "")
    return Observed(place, error, max(abs(own), LEAST_OWN), shared=abs(shared), standard=standard, side=side)


def _judged_per_arc(point: TestPoint, value: float) -> float:
    """d(what it is judged in)/d(arc)."""
    judged, step = Judged(point), NEAR * (abs(value) or point.full_scale)
    below = value - step if value > step else value + step
    slope = (judged.place(value) - judged.place(below)) / (value - below)
    # Ohms at the terminals are set by the instrument and measured: high ones are an error below.
    return -slope * point.nominal if (point.kind, point.unit) == TERMINALS else slope / _slope(point, value)
