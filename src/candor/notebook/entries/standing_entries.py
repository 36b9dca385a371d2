"""The entries of a job that stand, by what they say: what every record is made from."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Iterable, Mapping
from operator import itemgetter
from types import MappingProxyType
from typing import Any, TypeVar, overload

from candor.notebook.entries.body import Body, Unreadable
from candor.notebook.entries.entry import AnyEntry, Entry
from candor.notebook.entries.strikes_entries import struck_ids

A = TypeVar("A", bound=Body)
B = TypeVar("B", bound=Body)
C = TypeVar("C", bound=Body)
K = TypeVar("K")


class Standing:
    """Entries in order, those that are struck set aside.

    Parameters
    ----------
    entries : iterable of Entry
        All of them; strikes are found among them.
    until : datetime, optional
        As they stood at that moment.
    """

    def __init__(self, entries: Iterable[AnyEntry], until: dt.datetime | None = None) -> None:
        self.entries = tuple(e for e in entries if until is None or e.at <= until)
        self.struck = struck_ids(self.entries)
        self._by_type: dict[type[Body], list[tuple[int, AnyEntry]]] = {}
        for place, entry in enumerate(self.entries):
            if entry.id not in self.struck:
                self._by_type.setdefault(type(entry.body), []).append((place, entry))

    @property
    def unreadable(self) -> tuple[Entry[Unreadable], ...]:
        """Those that this version cannot read."""
        return self.of(Unreadable)

    @overload
    def placed(self, a: type[A], /) -> list[tuple[int, Entry[A]]]: ...
    @overload
    def placed(self, a: type[A], b: type[B], /) -> list[tuple[int, Entry[A] | Entry[B]]]: ...
    @overload
    def placed(self, a: type[A], b: type[B], c: type[C], /) -> list[tuple[int, Entry[A] | Entry[B] | Entry[C]]]: ...
    def placed(self, *kinds: type[Body]) -> Any:
        """Return the entries of some kinds in order, each after its place among all the entries of the job."""
        found = [pair for kind in kinds for pair in self._by_type.get(kind, ())]
        return sorted(found, key=itemgetter(0)) if len(kinds) > 1 else found

    @overload
    def of(self, a: type[A], /) -> tuple[Entry[A], ...]: ...
    @overload
    def of(self, a: type[A], b: type[B], /) -> tuple[Entry[A] | Entry[B], ...]: ...
    @overload
    def of(self, a: type[A], b: type[B], c: type[C], /) -> tuple[Entry[A] | Entry[B] | Entry[C], ...]: ...
    def of(self, *kinds: Any) -> Any:
        """Return the entries of some kinds, in order."""
        return tuple(entry for _, entry in self.placed(*kinds))

    def newest(self, kind: type[A]) -> Entry[A] | None:
        """Return the newest entry of a kind, or None."""
        found = self.placed(kind)
        return found[-1][1] if found else None

    def by(self, kind: type[A], key: Callable[[A], K]) -> Mapping[K, Entry[A]]:
        """Return the newest entry of a kind for each key, in the order in which the keys first came."""
        return MappingProxyType({key(entry.body): entry for _, entry in self.placed(kind)})

    def grouped(self, kind: type[A], key: Callable[[A], K]) -> Mapping[K, tuple[Entry[A], ...]]:
        """Return the entries of a kind by key."""
        found: dict[K, list[Entry[A]]] = {}
        for _, entry in self.placed(kind):
            found.setdefault(key(entry.body), []).append(entry)
        return {k: tuple(v) for k, v in found.items()}
