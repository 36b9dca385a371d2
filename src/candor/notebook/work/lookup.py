"""The entries of a job found again: by their id, by their number, by words; none is put into words before it is asked for."""

from __future__ import annotations

from bisect import bisect_left
from collections import ChainMap
from collections.abc import Iterator, Mapping, Sequence
from typing import cast

from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.entries.entry import AnyEntry, Numbers
from candor.notebook.entries.kinds_entries import in_words
from candor.notebook.work.reading_words import reading_by_name
from candor.packs.model import Pack


class _NumbersOf(Mapping[str, int]):
    """The number of every entry by its id, without a second table of them."""

    def __init__(self, entries: Sequence[AnyEntry], places: Mapping[str, int]) -> None:
        self._entries, self._places = entries, places

    def __getitem__(self, id: str) -> int:
        return self._entries[self._places[id]].number

    def __iter__(self) -> Iterator[str]:
        return iter(self._places)

    def __len__(self) -> int:
        return len(self._places)


class Lookup:
    """Finds entries of one job; what was known stays known when entries are added to it.

    Attributes
    ----------
    entries : sequence of Entry
        In order.
    numbers : mapping of str to int
        The number of every entry by its id, those of others behind the job's own.
    """

    def __init__(self) -> None:
        self.entries: Sequence[AnyEntry] = ()
        self.numbers: Numbers = {}
        self._places: dict[str, int] = {}
        self._pack: Pack | None = None

    def take(self, entries: Sequence[AnyEntry], others: Numbers, pack: Pack | None = None) -> None:
        """Take the entries of a job, in order.

        Parameters
        ----------
        entries : sequence of Entry
        others : mapping of str to int
            Numbers of entries of other jobs that they may speak of, by id.
        pack : Pack or None
            By which readings are named.
        """
        self._pack = pack
        known = len(self._places)
        grown = 0 < known <= len(entries) and all(entries[i].id == self.entries[i].id for i in (0, known - 1))
        if not grown:
            self._places, known = {}, 0
        self._places.update((entries[i].id, i) for i in range(known, len(entries)))
        own: Mapping[str, int] = _NumbersOf(entries, self._places)
        self.entries, self.numbers = entries, ChainMap(cast("dict[str, int]", own), dict(others))

    def place(self, id: str) -> int | None:
        """Return where an entry stands among them, from 0; None where it is none of them."""
        return self._places.get(id)

    def numbered(self, number: int) -> int | None:
        """Return where the entry of a number stands, from 0; None where there is none."""
        at = bisect_left(self.entries, number, key=lambda e: e.number)
        return at if at < len(self.entries) and self.entries[at].number == number else None

    def line(self, place: int) -> str:
        """Return an entry as a line of words, its number before it."""
        entry = self.entries[place]
        named = reading_by_name(self._pack, entry.body) if isinstance(entry.body, ReadingTaken) else ""
        return f"{entry.number}   {named or in_words(entry, self.numbers)}"

    def has(self, place: int, sought: str) -> bool:
        """Say whether the line of an entry has some words in it, or its point's key; capitals or not."""
        body = self.entries[place].body
        return sought in self.line(place).lower() or (isinstance(body, ReadingTaken) and sought in body.point.lower())
