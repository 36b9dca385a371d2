"""This unit: the functions found on it, what is not as the drawing shows it, fasteners nobody can account for, poor joints."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from candor.core.late_dataclass import dataclass
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields_entries import Text
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.stay_entries import ChangeMade


class FunctionFound(Body):
    """A function or range that the instrument turned out to have; `faded` where its lettering can hardly be read."""

    kind: Literal["function_found"] = "function_found"
    function: Text
    faded: bool = False


class NotAsDrawn(Body):
    """Something of this unit that is not as the drawing has it; it stays with the instrument and goes on its paper."""

    kind: Literal["not_as_drawn"] = "not_as_drawn"
    text: Text


class Unaccounted(Body):
    """Fasteners that are missing and may lie across something live: they bar power until found or overridden."""

    kind: Literal["unaccounted"] = "unaccounted"
    count: Annotated[int, Field(ge=1, le=500)]
    what: str = ""


class AccountedFor(Body):
    """Where fasteners turned up that could not be accounted for; `of` is the entry that missed them."""

    kind: Literal["accounted_for"] = "accounted_for"
    of: Text
    where: Text


class JointNoted(Body):
    """A poor joint, by where it is; those noted are re-soldered as one change."""

    kind: Literal["joint"] = "joint"
    where: Text


def _fasteners(b: Unaccounted) -> str:
    return worded(
        "entries.unaccounted_for", count=b.count, what=b.what or ("fastener" if b.count == 1 else "fasteners")
    )


WORDS = dict(
    (
        said(FunctionFound, lambda b, _: f"function found: {b.function}{', lettering faded' if b.faded else ''}"),
        said(NotAsDrawn, lambda b, _: worded("entries.not_as_drawn", text=b.text)),
        said(Unaccounted, lambda b, _: _fasteners(b)),
        said(AccountedFor, lambda b, n: worded("entries.accounted_for_entry", n=n.get(b.of, 0), where=b.where)),
        said(JointNoted, lambda b, _: f"poor joint: {b.where}"),
    )
)


@dataclass(frozen=True)
class UnitRecord:
    """What stands of this unit.

    Attributes
    ----------
    functions : tuple of Entry
        The newest for each function.
    not_as_drawn : tuple of Entry
    unaccounted : tuple of Entry
        Fasteners that were not found yet.
    joints : tuple of Entry
        Poor joints that no change has re-soldered yet.
    """

    functions: tuple[Entry[FunctionFound], ...] = ()
    not_as_drawn: tuple[Entry[NotAsDrawn], ...] = ()
    unaccounted: tuple[Entry[Unaccounted], ...] = ()
    joints: tuple[Entry[JointNoted], ...] = ()

    @property
    def missing(self) -> int:
        """How many fasteners nobody can account for."""
        return sum(e.body.count for e in self.unaccounted)


def unit_record(standing: Standing) -> UnitRecord:
    """Return what stands of this unit."""
    found = {e.body.of for e in standing.of(AccountedFor)}
    soldered = {joint for e in standing.of(ChangeMade) for joint in e.body.joints}
    return UnitRecord(
        functions=tuple(standing.by(FunctionFound, lambda b: b.function.casefold()).values()),
        not_as_drawn=standing.of(NotAsDrawn),
        unaccounted=tuple(e for e in standing.of(Unaccounted) if e.id not in found),
        joints=tuple(e for e in standing.of(JointNoted) if e.id not in soldered),
    )
