"""Soak: when it was switched on and off, what was read meanwhile, and results from before its first job here."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import Field

from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering, pair
from candor.core.quantities.show import in_powers, in_unit, pair_in_powers, trimmed
from candor.core.stability.phase import COVERS
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.entries.entry import AnyEntry, Entry, said
from candor.notebook.entries.fields_entries import Above, Finite, Text
from candor.notebook.entries.power_entries import PluggedOut, RailRead, StateBegun
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.timers_entries import TimerStarted


class SwitchedOn(Body):
    """It was switched on, to stay on; attended or not."""

    kind: Literal["switched_on"] = "switched_on"
    attended: bool = True


class SwitchedOff(Body):
    """It was switched off."""

    kind: Literal["switched_off"] = "switched_off"


class SoakRead(Body):
    """What is watched while it soaks, as read: SI where a unit is said; by which link, and s since it was switched on where it
    was read elsewhere and taken in later."""

    kind: Literal["soak_read"] = "soak_read"
    value: Finite
    unit: str = ""
    what: str = ""
    link: str = ""
    seconds: Annotated[float | None, Field(ge=0, allow_inf_nan=False)] = None


class StabilityFound(Body):
    """How steady something is, of readings at equal times: overlapping Allan deviations; of a log of phase, its frequency too.

    The readings are kept beside the notebook under the digest of their content, where they came from a file.
    """

    kind: Literal["stability"] = "stability"
    what: str = ""
    name: str = ""
    file: str = ""
    every: Above
    count: Annotated[int, Field(ge=3)]
    taus: tuple[Above, ...]
    deviations: tuple[Finite, ...]
    us: tuple[Finite, ...]
    average: Above
    offset: Finite | None = None
    u_offset: Finite = 0.0
    ageing: Finite = 0.0
    u_ageing: Finite | None = None
    path: Finite = 0.0
    days: Finite = 0.0
    period: Finite = 0.0

    @property
    def words(self) -> str:
        """As the certificate says it; U at 95 %."""
        best = min(zip(self.deviations, self.taus, strict=True))
        read = worded("entries.readings_every_s", count=self.count, every=trimmed(self.every, 3))
        steady = worded(
            "entries.steady_to_over_s", in_powers=in_powers(best[0], 2), best=trimmed(best[1], 3), read=read
        )
        if self.offset is None:
            return f"{self.what or 'What was read'}: {steady}."
        offset = pair_in_powers(self.offset, COVERS * self.u_offset)
        ageing = (
            worded("entries.ageing_a_day", pair_in_powers=pair_in_powers(self.ageing, COVERS * self.u_ageing))
            if self.u_ageing
            else ""
        )
        path = "" if self.path else worded("entries.the_path_of_the_reference_not")
        return worded(
            "entries.against_the_reference_offset_over",
            what=self.what or "Frequency",
            offset=offset,
            ageing=ageing,
            days=_span(self.days),
            path=path,
            steady=steady,
        )


def _span(days: float) -> str:
    return in_unit(days, "days", 2) if days >= 2 else in_unit(24 * days, "h", 2)


class PastResult(Body):
    """A result from before its first job here: of a sticker, or another's certificate. Without `error` it arrived dead."""

    kind: Literal["past_result"] = "past_result"
    on: dt.date
    point: Text
    error: Finite | None = None
    expanded: Annotated[float | None, Field(ge=0, allow_inf_nan=False)] = None
    limit: Above
    unit: str = ""
    when: Literal["found", "left"] = "found"
    standard: str = ""


class DueSet(Body):
    """The day it is due again, by which method, and why: printed on its certificate and label."""

    kind: Literal["due"] = "due"
    on: dt.date
    method: Literal["forecast", "staircase", "custom"] = "forecast"
    reason: Text

    @property
    def words(self) -> str:
        """As the certificate says it."""
        return f"{self.on:%d %b %Y}, by {self.method}: {self.reason}."


Spans = tuple[tuple[dt.datetime, dt.datetime | None], ...]


@dataclass(frozen=True)
class SoakRecord:
    """A job's soaks.

    Attributes
    ----------
    on : tuple of (datetime, datetime or None)
        From when to when it was on; None where it still is.
    said : tuple of (datetime, datetime or None)
        The same by what was said alone, `on` or a state of the way up: warm-ups count from it.
    attended : bool
        Of the last time.
    read : tuple of Entry of SoakRead
    watts : tuple of Entry of RailRead
        As read while it was on.
    steady : tuple of Entry of StabilityFound
    past : tuple of Entry of PastResult
    due : Entry of DueSet or None
        The newest.
    """

    on: Spans = ()
    said: Spans = ()
    attended: bool = True
    read: tuple[Entry[SoakRead], ...] = ()
    watts: tuple[Entry[RailRead], ...] = ()
    steady: tuple[Entry[StabilityFound], ...] = ()
    past: tuple[Entry[PastResult], ...] = ()
    due: Entry[DueSet] | None = None

    @property
    def since(self) -> dt.datetime | None:
        """Since when it has been on; None where it is off, or nobody knows."""
        return self.on[-1][0] if self.on and self.on[-1][1] is None else None


def soak_record(standing: Standing) -> SoakRecord:
    """Return a job's soaks.

    It is on from `on`, a state of the way up, watts or what is watched that were read, or a wait or reading of the procedure,
    whichever came first; until `off` or the plug is out.
    """
    watts = tuple(e for e in standing.of(RailRead) if e.body.name == "watts")
    said_on: tuple[tuple[AnyEntry, ...], ...] = (
        standing.of(SwitchedOn),
        tuple(e for e in standing.of(StateBegun) if e.body.line_volts > 0),
    )
    shows_on = (
        *said_on,
        tuple(e for e in watts if e.body.reading > 0),
        standing.of(TimerStarted),
        standing.of(ReadingTaken),
        standing.of(SoakRead),
    )
    offs: tuple[AnyEntry, ...] = (*standing.of(SwitchedOff), *standing.of(PluggedOut))
    spans, said_spans = (_spans(kinds, offs) for kinds in (shows_on, said_on))
    last = standing.newest(SwitchedOn)
    return SoakRecord(
        on=spans, said=said_spans, attended=last.body.attended if last else True, read=standing.of(SoakRead), watts=watts,
        steady=standing.of(StabilityFound), past=standing.of(PastResult), due=standing.newest(DueSet),
    )  # fmt: skip


def _spans(kinds: tuple[tuple[AnyEntry, ...], ...], offs: tuple[AnyEntry, ...]) -> Spans:
    """Return from when to when it was on, by the first entry after each off that shows it."""
    spans: list[tuple[dt.datetime, dt.datetime | None]] = []
    for off in (*sorted(e.at for e in offs), None):
        after = spans[-1][1] if spans else None
        firsts = [next((e.at for e in kind if after is None or e.at > after), None) for kind in kinds]
        begun = min((first for first in firsts if first is not None), default=None)
        if begun is not None and (off is None or begun < off):
            spans.append((begun, off))
    return tuple(spans)


def _past(b: PastResult) -> str:
    if b.error is None:
        return worded("entries.arrived_dead", on=b.on.isoformat(), point=b.point)
    return f"{b.on.isoformat()}, {b.point}: {pair(b.error, b.expanded or 0.0, b.unit or '1')}, as {b.when}"


WORDS = dict(
    (
        said(SwitchedOn, lambda b, _: "switched on" + ("" if b.attended else ", unattended")),
        said(SwitchedOff, lambda *_: "switched off"),
        said(
            SoakRead,
            lambda b, _: worded(
                "entries.while_it_soaks", value=engineering(b.value, b.unit, 7) if b.unit else f"{b.value:g}"
            ),
        ),
        said(StabilityFound, lambda b, _: b.words.rstrip(".")),
        said(PastResult, lambda b, _: _past(b)),
        said(DueSet, lambda b, _: worded("entries.due_by", on=b.on.isoformat(), method=b.method, reason=b.reason)),
    )
)
