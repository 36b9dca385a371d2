"""Sources on a link: switched on by Candor, and at zero again, or left without anybody knowing."""

from __future__ import annotations

from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields_entries import Finite, Text
from candor.notebook.entries.standing_entries import Standing

Released = Literal["read back", "understood"]


class SourceApplied(Body):
    """A source on a link was switched on, or set to another value; written before it is told.

    `file` is held by the window that drives it, as long as it does.
    """

    kind: Literal["source_applied"] = "source_applied"
    link: Text
    value: Finite
    unit: Text = "V"
    point: str = ""
    file: str = ""
    simulated: bool = False


class SourceReleased(Body):
    """A source is at zero, by its own answer; or somebody was told that it may not be, and understood."""

    kind: Literal["source_released"] = "source_released"
    link: Text
    how: Released


def _released(b: SourceReleased) -> str:
    if b.how == "read back":
        return worded("entries.source_at_zero_it_said_so", link=b.link)
    return worded("entries.source_it_did_not_confirm_zero", link=b.link)


WORDS = dict(
    (
        said(
            SourceApplied,
            lambda b, _: worded("entries.source_set_to", link=b.link, value=engineering(b.value, b.unit, 7)),
        ),
        said(SourceReleased, lambda b, _: _released(b)),
    )
)


@dataclass(frozen=True)
class SourcesRecord:
    """The sources that were switched on and of which nothing says that they are at zero again: the newest entry of each."""

    on: tuple[Entry[SourceApplied], ...] = ()


def sources_record(standing: Standing) -> SourcesRecord:
    """Return the sources that may be on."""
    newest: dict[str, Entry[SourceApplied] | Entry[SourceReleased]] = {}
    for entry in standing.of(SourceApplied, SourceReleased):
        newest[entry.body.link] = entry
    return SourcesRecord(tuple(e for e in newest.values() if isinstance(e.body, SourceApplied)))
