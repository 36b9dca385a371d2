"""Remembering what was worked out last: after one reading, all points but one are asked of the very same readings again."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from operator import is_
from typing import Generic, TypeVar

T = TypeVar("T")
MOST = 16384  # points remembered, all jobs together, before it begins anew: some tens of the largest instruments


class Recall(Generic[T]):
    """The last answer under each key, given again while it is asked of the same objects (`is`, not `==`: nothing is compared)."""

    def __init__(self) -> None:
        self._last: dict[Hashable, tuple[tuple[object, ...], T]] = {}

    def ask(self, key: Hashable, of: tuple[object, ...], work_out: Callable[[], T]) -> T:
        """Return what is worked out of some objects: remembered where these are the same as the last time."""
        last = self._last.get(key)
        if last is not None and len(last[0]) == len(of) and all(map(is_, last[0], of)):
            return last[1]
        if len(self._last) > MOST:
            self._last.clear()
        found = work_out()
        self._last[key] = of, found
        return found
