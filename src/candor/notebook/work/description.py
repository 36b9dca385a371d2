"""What is known of the instrument in hand: its pack or its kind, and over it what the job itself says of ranges and points.

It has the shape of a pack, so that everything that works with a pack works without one, as far as what is known reaches.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from functools import lru_cache
from pathlib import Path
from typing import Protocol

from candor.core.calibration.made_points import VALUE
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.ranges_entries import RangeMade
from candor.notebook.work.job import Job
from candor.notebook.work.own_ranges import Key, fits, own_section, printed_scales, with_range
from candor.packs.base import number
from candor.packs.kinds_of_instrument import InstrumentKind, kinds_at_hand, pack_of_kind
from candor.packs.model import (
    Dial,
    Function,
    Pack,
    PointsStep,
    ProcedurePhase,
    Section,
    Step,
)
from candor.packs.pack_points import point_key, share_of
from candor.packs.usual_steps import UsualSection, order_of


class PackShelf(Protocol):
    """Where packs and kinds are kept: what a description asks of a notebook."""

    @property
    def kinds_folder(self) -> Path:
        """Where the shop's own kinds of instrument lie."""

    def pack(self, digest: str) -> Pack:
        """Return a pack that was kept."""


def description_of(notebook: PackShelf, job: Job) -> Pack:
    """Return what is known of a job's instrument.

    Raises
    ------
    NotebookError
        Where its pack cannot be read.
    """
    return described(job, base_of(notebook, job))


def base_of(notebook: PackShelf, job: Job) -> Pack:
    """Return what a job's description begins with: its pack, or what its kind knows.

    Raises
    ------
    NotebookError
        Where its pack cannot be read.
    """
    if job.pack_digest:
        return notebook.pack(job.pack_digest)
    opened = job.stay.opened
    kind = kinds_at_hand(notebook.kinds_folder).get(opened.body.instrument_kind if opened else "")
    return pack_of_kind(kind, job.stay.details.get("maker", ""), job.stay.details.get("type", ""))


def kind_of_job(notebook: PackShelf, job: Job) -> InstrumentKind | None:
    """Return the kind of a job's instrument; None where a pack describes it."""
    opened = job.stay.opened
    if job.pack_digest or opened is None:
        return None
    return kinds_at_hand(notebook.kinds_folder).get(opened.body.instrument_kind)


def described(job: Job, base: Pack) -> Pack:
    """Return a pack, or what a kind knows, with the ranges and points that a job has made; itself where it has made none.

    A range that the pack has is the pack's, unless it was made after the job went over to that pack.
    """
    since = job.stay.pack_taken.number if job.stay.pack_taken else 0
    theirs = {(f.key, r.key) for f in base.functions for r in f.ranges}
    made = tuple(e for key, e in job.ranges.made.items() if key not in theirs or e.number > since > 0)
    goes_on = any(_goes_on(step) for section in base.procedure for step in section.steps)
    if not made and not goes_on and not job.ranges.planned:
        return _bare(base)
    # One point is one: a third of 5 V was planned with more digits than its name has, and stood there twice once it was read.
    read = {key: {f"{v:.6g}": v for v in values} for key, values in job.ranges.planned.items()}
    for reading in job.calibrate.readings:
        function, range_, value = (*reading.body.point.split("/"), "", "")[:3]
        if VALUE.fullmatch(value):  # one with a frequency is the pack's own
            read.setdefault((function, range_), {}).setdefault(f"{float(value):.6g}", float(value))
    points = tuple(sorted((key, tuple(sorted(values.values()))) for key, values in read.items()))
    planned = tuple(sorted((key, tuple(sorted(values))) for key, values in job.ranges.planned.items()))
    return _described(base, made, points, planned, tuple(sorted(job.ranges.hertz.items())))


def _goes_on(step: object) -> bool:
    """Whether further points are made at a step of a pack, on the one range it is of."""
    return isinstance(step, PointsStep) and step.more and len(step.ranges) == 1


def _key(entry: Entry[RangeMade]) -> Key:
    return entry.body.function_key, entry.body.range_key


@lru_cache(maxsize=64)
def _described(
    base: Pack,
    made: tuple[Entry[RangeMade], ...],
    points: tuple[tuple[Key, tuple[float, ...]], ...],
    planned: tuple[tuple[Key, tuple[float, ...]], ...],
    hertz: tuple[tuple[str, float], ...] = (),
) -> Pack:
    bodies = [entry.body for entry in made]
    wanted = dict(points)
    scales = {scale.key: scale for b in bodies for scale in printed_scales(b)}
    own = {(b.function_key, b.range_key) for b in bodies}
    theirs = {(f.key, r.key) for f in base.functions for r in f.ranges}
    functions = {
        f.key: f.model_copy(update={"ranges": tuple(r for r in f.ranges if (f.key, r.key) not in own)})
        for f in base.functions
    }
    for body in bodies:
        functions[body.function_key] = with_range(functions.get(body.function_key), body)
    for key, value in hertz:
        if key in functions:
            functions[key] = functions[key].model_copy(update={"hertz": value, "current": "a.c."})
    dial = base.dial or Dial.model_construct(scales=())
    new = [b for b in bodies if (b.function_key, b.range_key) not in theirs]
    new.sort(
        key=lambda b: (b.read_how.kind == "figured", order_of(base.procedure, b.function))
    )  # behind what it is of
    made_pack = base.model_copy(
        update={
            "dial": dial.model_copy(update={"scales": (*dial.scales, *scales.values())}),
            "functions": tuple(functions.values()),
            "procedure": (
                *_usual(base, "preparation"),
                *_with_points(base, functions, wanted, dict(planned)),
                *(own_section("as found", new, wanted, base.procedure) for _ in new[:1]),
                *_usual(base, "adjustment"),
                *(own_section("as left", new, wanted, base.procedure) for _ in new[:1]),
            ),
        }
    )
    made_pack.__dict__.pop("digest", None)  # the copy is another pack, with a digest of its own
    return made_pack


def _usual(base: Pack, phase: ProcedurePhase) -> Iterator[Section]:
    """Yield what is usual for a kind, in a phase."""
    yield from (s for s in base.procedure if isinstance(s, UsualSection) and s.phase == phase)


@lru_cache(maxsize=64)
def _bare(base: Pack) -> Pack:
    """Return what a kind knows without its usual steps: they begin with the first range; a pack as it is."""
    if not any(isinstance(section, UsualSection) for section in base.procedure):
        return base
    bare = base.model_copy(update={"procedure": ()})
    bare.__dict__.pop("digest", None)  # the copy is another pack, with a digest of its own
    return bare


def _with_points(
    base: Pack,
    functions: Mapping[str, Function],
    wanted: Mapping[Key, tuple[float, ...]],
    planned: Mapping[Key, tuple[float, ...]],
) -> list[Section]:
    """Return the procedure of a pack with the points that were made: at its steps that go on, and beside those that do not."""

    def grown(step: Step) -> Step:
        if not (isinstance(step, PointsStep) and _goes_on(step)):
            return step
        range_ = next(r for r in functions[step.function].ranges if r.key == step.ranges[0])
        if not step.at:
            fitting = (
                v
                for v in wanted.get((step.function, range_.key), ())
                if fits(base, functions[step.function], range_, v)
            )
            values = {f"{number(v):.6g}": number(v) for v in (*fitting, *step.values)}
            return step.model_copy(update={"values": tuple(sorted(values.values()))})
        shares = _shares(wanted.get((step.function, range_.key), ()), range_.full_scale)
        # One point is one, whatever the last bit of its share.
        at = {f"{share_of(range_, share):.6g}": float(share) for share in (*shares, *step.at)}
        return step.model_copy(update={"at": tuple(sorted(at.values()))})

    sections = []
    for section in base.procedure:
        if isinstance(section, UsualSection):
            continue
        left = dict(planned)
        steps: list[Step] = []
        for step in section.steps:
            if isinstance(step, PointsStep) and not step.more:
                steps += _split(step, functions, left)
            else:
                steps.append(grown(step))
        sections.append(section.model_copy(update={"steps": tuple(steps)}))
    return sections


def _split(
    step: PointsStep, functions: Mapping[str, Function], left: dict[Key, tuple[float, ...]]
) -> Iterable[PointsStep]:
    """Yield a step of a pack with the points made on its ranges, in their places; what was taken care of is left no more."""
    ranges = [r for r in functions[step.function].ranges if not step.ranges or r.key in step.ranges]
    before: list[str] = []
    for range_ in ranges:
        key = step.function, range_.key
        # One of a stimulus or a modifier of its own has points that are told apart by it.
        plain = point_key(*key, range_.full_scale, step) == f"{step.function}/{range_.key}/{range_.full_scale:g}"
        there = {f"{share_of(range_, share):.6g}" for share in step.at} | {f"{number(v):.6g}" for v in step.values}
        new = tuple(v for v in (left.pop(key, ()) if plain else ()) if f"{v:.6g}" not in there)
        if not new:
            before.append(range_.key)
            continue
        if before:
            yield step.model_copy(update={"ranges": tuple(before)})
            before = []
        at = {f"{share_of(range_, share):.6g}": share for share in (*_shares(new, range_.full_scale), *step.at)}
        by_value = sorted(at.values(), key=lambda share, r=range_: share_of(r, share))  # type: ignore[misc]
        yield step.model_copy(update={"ranges": (range_.key,), "at": tuple(by_value)})
    if before:
        yield step if len(before) == len(ranges) else step.model_copy(update={"ranges": tuple(before)})


def _shares(values: Iterable[float], full_scale: float) -> tuple[float, ...]:
    """Shares of full scale; what an older, larger range was read at lies beyond this one, and waits for its range."""
    return tuple(min(v / full_scale, 1.0) for v in values if 0 < v <= full_scale * (1 + 1e-9))
