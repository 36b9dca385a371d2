"""Cleaning: what was cleaned and how, and the insulation that was measured once it was dry."""

from __future__ import annotations

from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.core.leaving.electrical import WASHED_OHMS
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields_entries import Above, NotBelow, Text
from candor.notebook.entries.standing_entries import Standing

DRYING = "drying"  # the step of its timer

How = Literal["dry", "cleaner", "lubricated", "washed"]


class Cleaned(Body):
    """Something was cleaned: dry, with a cleaner, lubricated, or washed wet."""

    kind: Literal["cleaned"] = "cleaned"
    what: Text
    how: How


class InsulationTested(Body):
    """The insulation from the mains side to the chassis, ohm, and the test voltage, V (0 where nobody said)."""

    kind: Literal["insulation"] = "insulation"
    ohms: Above
    volts: NotBelow = 0.0


_HOW = {"dry": "cleaned dry", "cleaner": "cleaned", "lubricated": "lubricated", "washed": "washed"}


def _insulation(b: InsulationTested) -> str:
    return f"insulation {engineering(b.ohms, 'ohm')}" + (
        worded("entries.at_v", volts=trimmed(b.volts)) if b.volts else ""
    )


WORDS = dict(
    (
        said(Cleaned, lambda b, _: f"{_HOW[b.how]}: {b.what}"),
        said(InsulationTested, lambda b, _: _insulation(b)),
    )
)


@dataclass(frozen=True)
class CleaningRecord:
    """What stands of cleaning.

    Attributes
    ----------
    cleaned : tuple of Entry
    insulation : Entry or None
        As it was measured last.
    untested : Entry or None
        What was washed, and no insulation of 10 MΩ or more was measured since.
    """

    cleaned: tuple[Entry[Cleaned], ...] = ()
    insulation: Entry[InsulationTested] | None = None
    untested: Entry[Cleaned] | None = None


def cleaning_record(standing: Standing) -> CleaningRecord:
    """Return what stands of cleaning."""
    untested: Entry[Cleaned] | None = None
    for entry in standing.of(Cleaned, InsulationTested):
        body = entry.body
        if isinstance(body, Cleaned):
            untested = entry if body.how == "washed" else untested  # type: ignore[assignment]
        elif body.ohms >= WASHED_OHMS:
            untested = None
    return CleaningRecord(standing.of(Cleaned), standing.newest(InsulationTested), untested)
