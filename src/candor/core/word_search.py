"""Finding anything by words: what begins so first, then what has them inside; a slip of the pen is forgiven where nothing fits."""

from __future__ import annotations

import difflib
import re
from collections.abc import Iterable, Sequence
from functools import cached_property

from candor.core.late_dataclass import dataclass

NEAR = 0.7  # of a word's letters that must agree, in their order, where nothing fits it
MOST = 60


@dataclass(frozen=True)
class Thing:
    """Something that can be found: of which kind, by which key, what it is called, and what stands under it."""

    kind: str
    key: str
    says: str
    detail: str = ""

    @cached_property
    def words(self) -> tuple[str, ...]:
        """Its words, in lower case."""
        return tuple(re.findall(r"[\w.+-]+", f"{self.says} {self.kind} {self.detail}".casefold()))


def found(things: Iterable[Thing], sought: str, most: int = MOST) -> tuple[Thing, ...]:
    """Return the things that have all the words that are sought, the nearest first, `most` of them; none where none is sought."""
    words = re.findall(r"[\w.+-]+", sought.casefold())
    known = tuple(things)
    if not words:
        return ()
    fits = _fitting(known, words)
    if not fits:
        vocabulary = sorted({word for thing in known for word in thing.words})
        meant = [_meant(word, vocabulary) for word in words]
        fits = _fitting(known, meant) if meant != words else []
    return tuple(thing for _, thing in sorted(fits, key=lambda pair: pair[0])[:most])


def _fitting(things: Sequence[Thing], words: Sequence[str]) -> list[tuple[tuple[int, int, int], Thing]]:
    """Things that have all words, each with its rank: whole words before beginnings before what is inside, short ones first."""
    fits = []
    for place, thing in enumerate(things):
        ranks = [_rank(word, thing.words) for word in words]
        if all(rank is not None for rank in ranks):
            fits.append(((sum(rank or 0 for rank in ranks), len(thing.says), place), thing))
    return fits


def _rank(word: str, words: Sequence[str]) -> int | None:
    if word in words:
        return 0
    if any(w.startswith(word) for w in words):
        return 1
    return 3 if any(word in w for w in words) else None


def _meant(word: str, vocabulary: Sequence[str]) -> str:
    """The known word that was most likely meant; itself where it is known, or nothing comes near."""
    if any(word in known for known in vocabulary):
        return word
    return next(iter(difflib.get_close_matches(word, vocabulary, n=1, cutoff=NEAR)), word)
