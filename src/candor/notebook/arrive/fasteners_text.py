"""Fasteners as people write them: ``4 x 12 mm pan, case bottom; 1 x 20 mm pan, beside the cord``."""

from __future__ import annotations

import re

from candor.core.errors import ValueTextError
from candor.notebook.entries.arrive_entries import Fasteners

_ONE = re.compile(
    r"(?P<count>\d{1,3})\s*(?:x|×|\s)\s*(?P<length>[\d./]+(?:\s+\d+/\d+)?\s*(?:mm|cm|in|\")?)?\s*(?P<head>[^,\d][^,]*)?"
    r"(?:,\s*(?P<where>.+))?",
    re.I,
)
_EXPECTED = "lines such as “4 x 12 mm pan, case bottom; 1 x 20 mm pan, beside the cord”"


def read_fasteners(text: str) -> tuple[Fasteners, ...]:
    """Read fasteners: a count, and where they are known a length, a head and, after a comma, the place.

    Parameters
    ----------
    text : str
        Kinds are separated by semicolons; empty for none.

    Raises
    ------
    ValueTextError
        Naming the part that cannot be read.
    """
    found = []
    for part in (p.strip() for p in text.split(";")):
        if not part:
            continue
        match = _ONE.fullmatch(part)
        if match is None:
            raise ValueTextError(f"“{part}” is not so many fasteners. Expected: {_EXPECTED}.", value=part)
        count = int(match["count"])
        if not 1 <= count <= 500:
            raise ValueTextError(f"“{part}”: {count} fasteners; from 1 to 500 were expected.", value=part)
        words = {name: (match[name] or "").strip() for name in ("length", "head", "where")}
        found.append(Fasteners(count=count, **words))
    return tuple(found)
