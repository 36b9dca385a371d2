"""A needle read by its ticks from the mark: `-1/4t`, `1/2t low`."""

from __future__ import annotations

import re

from candor.core.calibration.point import TestPoint
from candor.core.quantities import engineering, parse_number
from candor.core.quantities.show import trimmed
from candor.core.worded import worded


def read_ticks(text: str) -> float:
    """Return a number of ticks, below the mark with its sign: ``1/2t low``, ``-1/4t``."""
    number = re.sub(r"\s*t(icks?)?(\s+(low|high|below|above))?$", "", text.strip(), flags=re.I)
    value = parse_number(re.sub(r"^([+-])\s+", r"\1", number), "a number of ticks such as -1/4t")
    return -abs(value) if re.search(r"(low|below)$", text, re.I) else value


def ticks_chip(ticks: float, point: TestPoint | None, indicated: float | None) -> str:
    """Say where a needle stands by its ticks, and what it indicates, in the unit of the point."""
    if ticks == 0:
        words = "on"
    else:
        amount = say_ticks(abs(ticks))
        words = f"{amount} {'above' if ticks > 0 else 'below'}"
    if point is None or indicated is None:
        return worded("jot.the_mark_in_hand", words=words)
    return f"{words} {engineering(point.nominal, point.unit)} → {engineering(indicated, point.unit, 5)}"


def say_ticks(size: float) -> str:
    """Return a number of ticks as people say it: ``¼ tick``, ``1½ ticks``."""
    whole, part = divmod(round(size * 100) / 100, 1)
    fraction = {0.0: "", 0.25: "¼", 0.5: "½", 0.75: "¾", 0.2: "⅕"}.get(round(part, 2))
    text = trimmed(size, 2) if fraction is None else f"{int(whole) if whole or not fraction else ''}{fraction}"
    return f"{text} tick{'s' if size > 1 else ''}"
