"""Arrive: what was found on the walk round, and the map of taking apart."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from pydantic import Field

from candor.core.jot.meaning import Mark
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.body import Body, Nested
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.unit_entries import AccountedFor


class FindingNoted(Body):
    """Something found on the walk round."""

    kind: Literal["finding"] = "finding"
    zone: str
    mark: Mark
    text: str


class PhotoAdded(Body):
    """A photo of a finding; the file lies beside the notebook under its own digest."""

    kind: Literal["photo"] = "photo"
    finding: str
    file: str


class FindingSettled(Body):
    """A hazard or fix that was put right, or overridden with a written reason."""

    kind: Literal["finding_settled"] = "finding_settled"
    finding: str
    how: Literal["cleared", "overridden"]
    reason: Annotated[str, Field(min_length=1)]


class ItemLookedAt(Body):
    """An item of a zone's checklist that was looked for and is not there."""

    kind: Literal["looked"] = "looked"
    zone: str
    item: str


class Fasteners(Nested):
    """So many fasteners of one kind from one place; length and head as they were written."""

    count: Annotated[int, Field(ge=1, le=500)]
    length: str = ""
    head: str = ""
    where: str = ""


class TakenOff(Body):
    """A step of taking apart: what came off, what held it, which wire went where."""

    kind: Literal["taken_off"] = "taken_off"
    what: Annotated[str, Field(min_length=1)]
    fasteners: tuple[Fasteners, ...] = ()
    wires: str = ""


class PutBack(Body):
    """A step of taking apart undone; `left_over` counts fasteners that found no place."""

    kind: Literal["put_back"] = "put_back"
    step: str
    left_over: Annotated[int, Field(ge=0)] = 0


def say_fasteners(fasteners: tuple[Fasteners, ...]) -> str:
    """Return fasteners as they would be written; `fasteners_text.read_fasteners` reads it back."""
    said = []
    for f in fasteners:
        kind = " ".join(word for word in (f.length, f.head) if word)
        said.append(f"{f.count} x {kind}".strip() + (f", {f.where}" if f.where else ""))
    return "; ".join(said)


WORDS = dict(
    (
        said(FindingNoted, lambda b, _: f"{b.mark} found, {b.zone or 'elsewhere'}: {b.text}"),
        said(PhotoAdded, lambda b, n: worded("entries.photo_of_entry", n=n.get(b.finding, 0), file=b.file)),
        said(
            FindingSettled,
            lambda b, n: worded("entries.finding_of_entry", n=n.get(b.finding, 0), how=b.how, reason=b.reason),
        ),
        said(ItemLookedAt, lambda b, _: worded("entries.looked_for_and_not_there", zone=b.zone, item=b.item)),
        said(TakenOff, lambda b, _: f"off: {b.what}{' · ' + say_fasteners(b.fasteners) if b.fasteners else ''}"),
        said(
            PutBack,
            lambda b, n: worded(
                "entries.back_on_entry",
                n=n.get(b.step, 0),
                worded=worded("entries.left_over", left_over=b.left_over) if b.left_over else "",
            ),
        ),
    )
)


@dataclass(frozen=True)
class Finding:
    """A finding with its photos and, where it was settled, how and why."""

    entry: Entry[FindingNoted]
    zone: str
    mark: Mark
    text: str
    photos: tuple[str, ...] = ()
    settled: str = ""
    reason: str = ""

    @property
    def open(self) -> bool:
        """Whether a hazard or fix still stands."""
        return self.mark != "note" and not self.settled


@dataclass(frozen=True)
class Taken:
    """A step of the take-apart map, with its photos and, where it was put back, the entry that says so."""

    entry: Entry[TakenOff]
    photos: tuple[str, ...] = ()
    back: Entry[PutBack] | None = None
    found: bool = False

    @property
    def left_over(self) -> int:
        """How many fasteners found no place when it was put back, and have not been found one since."""
        return self.back.body.left_over if self.back is not None and not self.found else 0

    @property
    def count(self) -> int:
        """How many fasteners came off."""
        return sum(f.count for f in self.entry.body.fasteners)


@dataclass(frozen=True)
class ArriveRecord:
    """What stands of the walk round and of taking apart; `looked` by zone and item."""

    findings: tuple[Finding, ...] = ()
    looked: Mapping[tuple[str, str], Entry[ItemLookedAt]] = field(default_factory=dict)
    taken: tuple[Taken, ...] = ()

    @property
    def open_hazards(self) -> tuple[Finding, ...]:
        """Hazards that were neither cleared nor overridden."""
        return tuple(f for f in self.findings if f.mark == "hazard" and f.open)

    @property
    def overridden(self) -> tuple[Finding, ...]:
        """Findings overridden with a reason."""
        return tuple(f for f in self.findings if f.settled == "overridden")

    @property
    def fasteners_off(self) -> int:
        """How many fasteners are off and not back."""
        return sum(t.count for t in self.taken if t.back is None)

    @property
    def left_over(self) -> int:
        """How many fasteners found no place when their step was put back, and have not been found a place since."""
        return sum(t.left_over for t in self.taken)


def arrive_record(standing: Standing) -> ArriveRecord:
    """Return what stands of the walk round and of taking apart."""
    photos = {
        of: tuple(e.body.file for e in added)
        for of, added in standing.grouped(PhotoAdded, lambda b: b.finding).items()
    }
    settled = standing.by(FindingSettled, lambda b: b.finding)
    back = standing.by(PutBack, lambda b: b.step)
    accounted = {e.body.of for e in standing.of(AccountedFor)}

    def finding(entry: Entry[FindingNoted]) -> Finding:
        b, how = entry.body, settled[entry.id].body if entry.id in settled else None
        return Finding(
            entry=entry, zone=b.zone, mark=b.mark, text=b.text, photos=photos.get(entry.id, ()),
            settled=how.how if how else "", reason=how.reason if how else "",
        )  # fmt: skip

    return ArriveRecord(
        findings=tuple(finding(e) for e in standing.of(FindingNoted)),
        looked=standing.by(ItemLookedAt, lambda b: (b.zone, b.item)),
        taken=tuple(
            Taken(e, photos.get(e.id, ()), back.get(e.id), e.id in back and back[e.id].id in accounted)
            for e in standing.of(TakenOff)
        ),
    )
