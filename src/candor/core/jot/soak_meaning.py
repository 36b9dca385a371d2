"""What a line of a soak, or of an earlier result, means; one class for each kind."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from candor.core.late_dataclass import dataclass


@dataclass(frozen=True)
class OnJot:
    """It was switched on, attended or not; `since` by the clock on the wall, None for now."""

    attended: bool = True
    chips: tuple[str, ...] = ("switched on",)
    since: dt.time | None = None


@dataclass(frozen=True)
class OffJot:
    """It was switched off; `since` by the clock on the wall, None for now."""

    chips: tuple[str, ...] = ("switched off",)
    since: dt.time | None = None


@dataclass(frozen=True)
class SoakJot:
    """A reading of what is watched while it soaks: SI where it has a unit, and what it is of.

    Where it was read before now: `after_s`, s since it was switched on, or `clock`, by the clock on the wall.
    """

    value: float
    unit: str = ""
    what: str = ""
    chips: tuple[str, ...] = ()
    after_s: float | None = None
    clock: dt.time | None = None


@dataclass(frozen=True)
class WatchJot:
    """A meter on a link is read by itself from now on: its VISA name, every so many s, what 1 of it is, and what it is of."""

    link: str
    every_s: float
    unit: str = "V"
    what: str = ""
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class UnwatchJot:
    """It is read by hand again."""

    chips: tuple[str, ...] = ("read by hand again",)


@dataclass(frozen=True)
class PastJot:
    """A result of before.

    Attributes
    ----------
    date : str
        As written.
    point : str
        Its key, or its name as it is written.
    error, expanded : float or None
        SI; U at k = 2. None where it arrived dead.
    limit : float or None
        SI, of the point; None where the pack's holds.
    unit : str
    when : str
    really : bool
        It is so, though it is a hundred times its limit.
    """

    date: str
    point: str
    error: float | None = None
    expanded: float | None = None
    limit: float | None = None
    unit: str = ""
    when: Literal["found", "left"] = "found"
    really: bool = False
    chips: tuple[str, ...] = ()
