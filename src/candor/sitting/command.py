"""A command, which says what somebody does; and the answer to it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.core.severity import Severity
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import AnyEntry, Draft, drafts_of


@dataclass(frozen=True)
class Command:
    """What somebody does, by the name it is undone under, and the entries it becomes, written all or none.

    Attributes
    ----------
    name : str
        What was done, in a few words: ``replaced R5``.
    bodies : tuple of Body
        Of the job it is done to; of the shop where `of_shop`.
    drafts : tuple of Draft
        Where it is of several jobs at once: then `bodies` are none.
    by_itself : bool
        A link or a timer did it: nobody takes it back by undoing what he did.
    """

    name: str
    bodies: tuple[Body, ...] = ()
    of_shop: bool = False
    drafts: tuple[Draft, ...] = ()
    by_itself: bool = False

    def drafts_for(self, job: str) -> tuple[Draft, ...]:
        """Return the entries about to be written, the bodies of them for a job."""
        return (*drafts_of("" if self.of_shop else job, self.bodies), *self.drafts)


def command(name: str, *bodies: Body) -> Command:
    """Return a command of the job in hand."""
    return Command(name, bodies)


def of_shop(name: str, *bodies: Body) -> Command:
    """Return a command of the shop."""
    return Command(name, bodies, of_shop=True)


def of_jobs(name: str, drafts: Iterable[Draft]) -> Command:
    """Return a command of several jobs at once."""
    return Command(name, drafts=tuple(drafts))


How = Literal["say", "warn"]


@dataclass(frozen=True)
class Told:
    """What follows from a command, in a sentence: said beside it, or warned of until it is understood."""

    sentence: str
    severity: Severity = Severity.ASK
    how: How = "say"


@dataclass(frozen=True)
class Answer:
    """What came of a command.

    Attributes
    ----------
    written : tuple of Entry
        None where nothing was written.
    told : tuple of Told
    """

    written: tuple[AnyEntry, ...] = ()
    told: tuple[Told, ...] = ()
