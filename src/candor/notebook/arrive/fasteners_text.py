"""Fasteners as people write them: ``4 x 12 mm pan, case bottom; 1 x 20 mm pan, beside the cord``."""

from __future__ import annotations

import re

from candor.core.errors import ValueTextError
from candor.core.worded import worded
from candor.notebook.entries.arrive_entries import Fasteners

_ONE = re.compile(
    r"(?P<count>\d{1,3})\s*(?:x|×|\s)\s*(?P<length>[\d./]+(?:\s+\d+/\d+)?\s*(?:mm|cm|in|\")?)?\s*(?P<head>[^,\d][^,]*)?"
    r"(?:,\s*(?P<where>.+))?",
    re.I,
)
_EXPECTED = worded("arrive.lines_such_as_x_mm_pan")


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
            raise ValueTextError(
                worded("arrive.is_not_so_many_fasteners_expected", part=part, expected=_EXPECTED), value=part
            )
        count = int(match["count"])
        if not 1 <= count <= 500:
            raise ValueTextError(worded("arrive.fasteners_from_to_were_expected", part=part, count=count), value=part)
        words = {name: (match[name] or "").strip() for name in ("length", "head", "where")}
        found.append(Fasteners(count=count, **words))
    return tuple(found)
