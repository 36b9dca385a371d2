"""Runs on the tester: begun, and over."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields_entries import Above, Finite, NotBelow, Text
from candor.notebook.entries.standing_entries import Standing


class RunStarted(Body):
    """A run on the leakage tester began."""

    kind: Literal["run_started"] = "run_started"
    ref: Text
    mode: Literal["leakage", "reform"]
    target_volts: Above
    dwell_s: Above
    limit: Above
    most_s: Above
    tester: str = ""
    simulated: bool = False
    file: str = ""
    reason: str = ""


class RunEnded(Body):
    """A run is over: why, and what was read. `measured_volts` is the last reading after the source went to zero.

    None where there was no reading: that is not 0 V. `digest` is the SHA-256 of its file, where that was whole when it ended.
    """

    kind: Literal["run_ended"] = "run_ended"
    run: Text
    ref: Text
    why: str = ""
    outcome: Literal["", "came back", "under the limit", "over the limit", "no progress", "stopped"] = ""
    leakage: NotBelow = 0.0
    expanded: NotBelow = 0.0
    volts: NotBelow = 0.0
    dwell_s: NotBelow = 0.0
    measured_volts: Finite | None = None
    safe: bool = False
    simulated: bool = False
    readings: Annotated[int, Field(ge=0)] = 0
    file: str = ""
    digest: str = ""


def _started(b: RunStarted) -> str:
    what = "reforming" if b.mode == "reform" else "leakage"
    why = worded("entries.above_its_rating", reason=b.reason) if b.reason else ""
    return worded(
        "entries.run_on_begun_to_v_on",
        what=what,
        ref=b.ref,
        target_volts=trimmed(b.target_volts),
        tester=b.tester,
        why=why,
    )


def _ended(b: RunEnded, number: int) -> str:
    safe = "safe" if b.safe else "not measured safe"
    read = (
        worded("entries.at_v_2", leakage=engineering(b.leakage, "A", 3), volts=trimmed(b.volts))
        if b.readings and b.leakage
        else ""
    )
    left = (
        "nothing was read"
        if b.measured_volts is None
        else worded("entries.left_at_v", measured_volts=trimmed(b.measured_volts, 3))
    )
    return worded(
        "entries.run_of_entry_on_over", number=number, ref=b.ref, why=b.why, read=read, left=left, safe=safe
    )


WORDS = dict(
    (
        said(RunStarted, lambda b, _: _started(b)),
        said(RunEnded, lambda b, n: _ended(b, n.get(b.run, 0))),
    )
)


@dataclass(frozen=True)
class Run:
    """A run on the tester, and how it ended; None while it runs, or where it was cut off."""

    started: Entry[RunStarted]
    ended: Entry[RunEnded] | None = None


@dataclass(frozen=True)
class RunsRecord:
    """The runs that stand, in the order they were begun."""

    runs: tuple[Run, ...] = ()

    def cut_off(self) -> tuple[Run, ...]:
        """Return the runs that have no end."""
        return tuple(r for r in self.runs if r.ended is None)


def runs_record(standing: Standing) -> RunsRecord:
    """Return the runs that stand."""
    ended = standing.by(RunEnded, lambda b: b.run)
    return RunsRecord(tuple(Run(e, ended.get(e.id)) for e in standing.of(RunStarted)))
