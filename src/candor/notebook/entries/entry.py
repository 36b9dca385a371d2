"""An entry, a line of the notebook; and one that is about to be written."""

from __future__ import annotations

import datetime as dt
import uuid
from collections.abc import Callable, Iterable, Mapping
from dataclasses import field
from typing import Generic, TypeGuard, TypeVar, cast

from candor.core.late_dataclass import dataclass
from candor.notebook.entries.body import Body

B = TypeVar("B", bound=Body)
B_co = TypeVar("B_co", bound=Body, covariant=True)
Numbers = Mapping[str, int]
Words = Callable[[Body, Numbers], str]


@dataclass(frozen=True)
class Entry(Generic[B_co]):
    """One line of the notebook.

    Attributes
    ----------
    number : int
        Its place in the notebook: what certificates refer to. Numbers grow, but may have gaps.
    id : str
        Its own name, the same in every copy.
    job : str
        The job it belongs to, empty for the shop.
    at : datetime
        UTC.
    who : str
    body : Body
    """

    number: int
    id: str
    job: str
    at: dt.datetime
    who: str
    body: B_co


AnyEntry = Entry[Body]


def says(entry: AnyEntry, kind: type[B]) -> TypeGuard[Entry[B]]:
    """Whether the body of an entry is of a kind."""
    return isinstance(entry.body, kind)


@dataclass(frozen=True)
class Draft:
    """An entry about to be written: of which job (empty for the shop), what it says, and when; None for now.

    Its `id` is there before it is written, so that others written with it can name it.
    """

    job: str
    body: Body
    at: dt.datetime | None = None
    id: str = field(default_factory=lambda: uuid.uuid4().hex)


def drafts_of(job: str, bodies: Iterable[Body], at: dt.datetime | None = None) -> list[Draft]:
    """Return several entries of one job and moment that are about to be written."""
    return [Draft(job, body, at) for body in bodies]


def said(kind: type[B], words: Callable[[B, Numbers], str]) -> tuple[type[Body], Words]:
    """Return a line of a topic's table: a kind of body and how it is said.

    The second argument of `words` holds the number of every entry by its id, for entries that speak of others.
    """
    return kind, cast(Words, words)
