"""Understanding a result of before, as it stands on a sticker: `past 2021-03-04 dc+/150/75 +0.12 ± 0.10 V left`, or `… dead`."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from candor.core.errors import ValueTextError
from candor.core.jot.soak_line import read_amount
from candor.core.quantities import engineering, pair

EXAMPLE = "past 2021-03-04 dc+/150/75 +0.12 ± 0.10 V left"
_HEAD = re.compile(r"past\s+(?P<date>\d\S*)\s+(?P<rest>\S.*)", re.I)
_DEAD = re.compile(r"(?P<point>.+?)\s*:?\s+dead", re.I)
_RESULT = re.compile(
    r"(?P<point>.+?)(?::\s*|\s+)(?P<error>[-+−]?[\d.,]+)(?P<own>\s*[^\d\s±+]*)\s*(?:±|\+/?-|\bU\b)\s*(?P<u>[\d.,]+)\s*"
    r"(?P<unit>[^\d\s,;]*)(?:[,;]?\s+limit\s+(?P<limit>[\d.,]+\s*[^\d\s,;]*))?(?:[,;]?\s+(?:as\s+)?(?P<when>found|left))?",
    re.I,
)


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


def understand_past(text: str) -> PastJot | None:
    """Say what a line of a result of before means, None where it is none.

    Raises
    ------
    ValueTextError
        Where it begins like one and goes on otherwise.
    """
    head = _HEAD.fullmatch(text.strip())
    if head is None:
        return None
    date, rest = head["date"], head["rest"]
    really = rest.casefold().endswith(" really")
    rest = rest[: -len(" really")].rstrip() if really else rest
    dead = _DEAD.fullmatch(rest)
    if dead is not None:
        return PastJot(date, dead["point"], chips=(f"{date}, {dead['point']}: arrived dead",))
    found = _RESULT.fullmatch(rest)
    if found is None:
        raise ValueTextError(f"“{text}”: expected such as: {EXAMPLE}", value=text, expected=EXAMPLE)
    own = found["own"].strip()
    written = found["unit"] or own
    error, unit = read_amount(f"{found['error']} {own or written}".strip())
    expanded, same = read_amount(f"{found['u']} {written}".strip())
    limit, third = read_amount(found["limit"]) if found["limit"] else (None, unit)
    if not unit == same == third:
        raise ValueTextError(
            f"“{text}” has more than one unit; expected one, as in: {EXAMPLE}", value=text, expected=EXAMPLE
        )
    when: Literal["found", "left"] = "left" if (found["when"] or "").casefold() == "left" else "found"
    chips = [f"{date}, {found['point']}: {pair(error, expanded, unit or '1')}, as {when}"]
    if limit is not None:
        chips.append(f"limit {engineering(limit, unit or '1', 3)}")
    return PastJot(
        date,
        found["point"],
        error=error,
        expanded=expanded,
        limit=limit,
        unit=unit,
        when=when,
        really=really,
        chips=tuple(chips),
    )
