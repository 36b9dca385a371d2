"""Regular expressions that are compiled when they are first used: those of lines that are typed need not wait for a window."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    late_pattern = re.compile
else:

    class late_pattern:  # noqa: N801, what it makes is used as a pattern is
        """A pattern as `re.compile` returns it, compiled at the first look at anything of it.

        Parameters
        ----------
        text : str
        flags : int

        Raises
        ------
        re.error
            At the first use, where the text is no pattern.
        """

        def __init__(self, text: str, flags: int = 0) -> None:
            self._text, self._flags = text, flags

        def __getattr__(self, name: str) -> Any:
            found = getattr(re.compile(self._text, self._flags), name)
            setattr(self, name, found)  # the next use finds it at once
            return found
