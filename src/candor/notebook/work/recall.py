"""Remembering what was worked out last: after one reading, all points but one are asked of the very same readings again."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from operator import is_
from typing import Generic, TypeVar

A = TypeVar("A")
T = TypeVar("T")
MOST = 4096  # points remembered, all jobs together, before it begins anew: several of the largest instruments


class Recall(Generic[A, T]):
    """The last answer under each key: what is asked anew is remembered instead of it, so that nothing grows with what is read.

    It is given again while it is asked of the same objects (`is`, not `==`: nothing is compared), or else of what equals it.
    """

    def __init__(self, answer: Callable[[A], T]) -> None:
        self._answer = answer
        self._last: dict[Hashable, tuple[tuple[object, ...], A, T]] = {}

    def ask(self, key: Hashable, of: tuple[object, ...], say: Callable[[], A]) -> T:
        """Return the answer about some objects; `say` puts them into what is answered and compared."""
        last = self._last.get(key)
        if last is not None and len(last[0]) == len(of) and all(map(is_, last[0], of)):
            return last[2]
        asked = say()
        found = last[2] if last is not None and last[1] == asked else self._answer(asked)
        if len(self._last) >= MOST and key not in self._last:
            self._last.clear()
        self._last[key] = of, asked, found
        return found
