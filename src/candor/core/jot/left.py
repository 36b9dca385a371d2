"""What is left of a line while its parts are taken out of it, one after the other, in whatever order they were written."""

from __future__ import annotations

import re


class Left:
    """A line, and what of it nobody has taken yet."""

    def __init__(self, line: str) -> None:
        self.line = line
        self.text = line.replace("−", "-").strip()

    def take(self, pattern: re.Pattern[str], mark: str = " ") -> re.Match[str] | None:
        """Take out the first place where a pattern fits, and return it; None where it fits nowhere. `mark` stands there then."""
        match = pattern.search(self.text)
        if match is not None:
            self.text = f"{self.text[: match.start()]}{mark}{self.text[match.end() :]}"
        return match
