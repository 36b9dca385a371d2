"""The shop's days: what was promised to an owner, and which deed somebody put at an hour by hand."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import field
from typing import Literal

from pydantic import AwareDatetime

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields_entries import Text
from candor.notebook.entries.standing_entries import Standing


class Promised(Body):
    """The owner was promised the instrument for a day; no day takes the promise back."""

    kind: Literal["promised"] = "promised"
    on: dt.date | None = None


class DeedPinned(Body):
    """A deed of the plan was put at an hour by hand; no hour lets it go again."""

    kind: Literal["pinned"] = "pinned"
    deed: Text
    at: AwareDatetime | None = None


WORDS = dict(
    (
        said(
            Promised,
            lambda b, _: f"promised for {b.on:%d %b %Y}" if b.on else worded("entries.no_day_is_promised_any_more"),
        ),
        said(
            DeedPinned,
            lambda b, _: (
                worded("entries.planned_by_hand", deed=b.deed, at=b.at)
                if b.at
                else worded("entries.planned_freely_again", deed=b.deed)
            ),
        ),
    )
)


@dataclass(frozen=True)
class PlanRecord:
    """What stands of a job's plan: the day it was promised for, and the deeds that somebody put at an hour."""

    promised: Entry[Promised] | None = None
    pinned: Mapping[str, dt.datetime] = field(default_factory=dict)

    @property
    def due(self) -> dt.date | None:
        """The day it was promised for."""
        return self.promised.body.on if self.promised is not None else None


def plan_record(standing: Standing) -> PlanRecord:
    """Return what stands of a job's plan."""
    pinned = {deed: e.body.at for deed, e in standing.by(DeedPinned, lambda b: b.deed).items() if e.body.at}
    return PlanRecord(standing.newest(Promised), pinned)
