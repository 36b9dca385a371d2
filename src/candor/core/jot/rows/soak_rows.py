"""Lines of a soak: on, off, what is watched, by hand or by a meter on a link; and earlier results, as on a sticker."""

from __future__ import annotations

import re
from typing import Literal

from candor.core.errors import RangeError, ValueTextError
from candor.core.jot.form import Said
from candor.core.jot.soak_meaning import OffJot, OnJot, PastJot, SoakJot, UnwatchJot, WatchJot
from candor.core.jot.verb import Verb
from candor.core.late_pattern import late_pattern
from candor.core.quantities import engineering, pair, parse_number, parse_quantity
from candor.core.quantities.show import in_unit
from candor.core.worded import worded

UNITS = ("V", "A", "ohm", "F", "H", "Hz", "S", "s")
PACES = {"s": 1.0, "sec": 1.0, "second": 1.0, "min": 60.0, "minute": 60.0, "h": 3600.0, "hour": 3600.0}
QUICKEST_S, SLOWEST_S = 1.0, 86400.0
# An amount with its own unit, or none, behind a result: what one has the other has.
_RESULT = late_pattern(
    r"(?P<point>.+?)(?::\s*|\s+)(?P<error>[-+−]?[\d.,]+)(?P<own>\s*[^\d\s±+]*)\s*(?:±|\+/?-|\bU\b)\s*(?P<u>[\d.,]+)\s*"
    r"(?P<unit>[^\d\s,;]*)(?:[,;]?\s+limit\s+(?P<limit>[\d.,]+\s*[^\d\s,;]*))?(?:[,;]?\s+(?:as\s+)?(?P<when>found|left))?",
    re.I,
)
_HOW_LONG = late_pattern(r"[\d.,]+\s*(?:h|hrs?|hours?|mins?|minutes?|days?)", re.I)  # never what a soak is watched by
BY_LINK = "soak by TCPIP::192.168.1.20::5025::SOCKET every 5 min in V"
PAST = "past 2021-03-04 dc+/150/75 +0.12 ± 0.10 V left"


def _on(said: Said) -> OnJot:
    attended, since = not said["unattended"], said["since"]
    chips = ("switched on" + (f" at {since:%H:%M}" if since else ""), *([] if attended else ["unattended"]))
    return OnJot(attended, (", ".join(chips),), since)


def _off(said: Said) -> OffJot:
    since = said["since"]
    return OffJot(("switched off" + (f" at {since:%H:%M}" if since else ""),), since)


def _soak(said: Said) -> SoakJot:
    written = said["value"]
    if _HOW_LONG.fullmatch(written):
        raise ValueTextError(worded("jot.a_time_is_no_reading_of_a_soak", written=written), value=written)
    (value, unit), what, after, clock = read_amount(written), said["what"] or "", said["after"], said["clock"]
    shown = engineering(value, unit, 7) if unit else f"{value:g}"
    told = f"at {clock:%H:%M}" if clock else f"after {say_every(after)}" if after is not None else ""
    chips = (worded("jot.while_it_soaks", shown=shown), *([f"of {what}"] if what else []), *([told] if told else []))
    return SoakJot(value, unit, what, chips, after_s=after, clock=clock)


def _watch(said: Said) -> WatchJot:
    written = re.fullmatch(r"(?:([\d.,]+)\s*)?([a-z]+?)s?", said["pace"], re.I)
    pace = PACES.get(written[2].casefold()) if written is not None else None
    if written is None or pace is None:
        raise ValueTextError(worded("jot.is_not_a_time_examples_s", pace=said["pace"]), value=said.line)
    every = pace * (parse_number(written[1], "a time such as 5 min") if written[1] else 1.0)
    if not QUICKEST_S <= every <= SLOWEST_S:
        raise RangeError(
            worded("jot.every_s_candor_reads_a_link", every=every, quickest_s=QUICKEST_S),
            value=said.line,
        )
    unit, what = said["unit"] or "V", said["what"] or ""
    if unit not in UNITS:
        raise ValueTextError(worded("jot.is_not_a_unit_that_candor", unit=unit, listed=", ".join(UNITS)), value=unit)
    chips = (
        worded("jot.read_by_every_in", link=said["link"], every=say_every(every), unit=unit),
        *([f"of {what}"] if what else []),
    )
    return WatchJot(said["link"], every_s=every, unit=unit, what=what, chips=chips)


def _past(said: Said) -> PastJot:
    date, rest = said["date"], said["rest"]
    really = rest.casefold().endswith(" really")
    rest = rest[: -len(" really")].rstrip() if really else rest
    dead = re.fullmatch(r"(.+?)\s*:?\s+dead", rest, re.I)
    if dead is not None:
        return PastJot(date, dead[1], chips=(worded("jot.arrived_dead", date=date, dead=dead[1]),))
    found = _RESULT.fullmatch(rest)
    if found is None:
        raise ValueTextError(
            worded("jot.candor_cannot_read_here_example", line=said.line, past=PAST), value=said.line, expected=PAST
        )
    written = found["unit"] or found["own"].strip()
    error, unit = read_amount(f"{found['error']} {found['own'].strip() or written}".strip())
    expanded, same = read_amount(f"{found['u']} {written}".strip())
    limit, third = read_amount(found["limit"]) if found["limit"] else (None, unit)
    if not unit == same == third:
        raise ValueTextError(
            worded("jot.has_more_than_one_unit_use", line=said.line, past=PAST), value=said.line, expected=PAST
        )
    when: Literal["found", "left"] = "left" if (found["when"] or "").casefold() == "left" else "found"
    chips = [f"{date}, {found['point']}: {pair(error, expanded, unit or '1')}, as {when}"]
    if limit is not None:
        chips.append(f"limit {engineering(limit, unit or '1', 3)}")
    return PastJot(
        date, found["point"], error=error, expanded=expanded, limit=limit, unit=unit, when=when, really=really,
        chips=tuple(chips),
    )  # fmt: skip


def say_every(seconds: float) -> str:
    """Say how often: ``5 min``, ``30 s``, ``2 h``."""
    for size, name in ((3600.0, "h"), (60.0, "min")):
        if seconds >= size and seconds % size == 0:
            return f"{seconds / size:g} {name}"
    return in_unit(seconds, "s", 6)


def read_amount(text: str) -> tuple[float, str]:
    """Return a value and its unit, SI; no unit where none is written.

    Raises
    ------
    ValueTextError
        Where it is not a number, or has a unit that is not known here.
    """
    text = text.strip().replace("−", "-")
    if re.fullmatch(r"[-+]?[\d.,]+", text):
        return parse_number(text, "a value such as 10.0231"), ""
    for unit in UNITS:
        try:
            return parse_quantity(text, unit).value, unit
        except ValueTextError:
            continue
    raise ValueTextError(worded("jot.is_not_a_value_with_a", text=text), value=text, expected="10.0231 V")


SOAK = (
    Verb(
        "on",
        "soak",
        "it was switched on: warm-up counts from here",
        forms=(
            "on|switched_on|switched_it_on|turned_on|turned_it_on|power_on",
            "on|switched_on|switched_it_on|turned_on|turned_it_on|power_on unattended=unattended",
            "on|switched_on|switched_it_on|turned_on|turned_it_on|power_on since|at {since:clock}",
            "on|switched_on|switched_it_on|turned_on|turned_it_on|power_on since|at {since:clock} unattended=unattended",
        ),
        examples=("on", "on unattended", "on since 14:00"),
        means=_on,
        fielded=("on [since {since:clock}] [unattended=unattended]",),
        titles={"since": "since", "unattended": "left alone"},
    ),
    Verb(
        "off",
        "soak",
        "it was switched off",
        forms=("off|switched_off|switched_it_off|turned_off|turned_it_off|power_off [at|since {since:clock}]",),
        examples=("off", "off at 17:30"),
        means=_off,
        titles={"since": "at"},
    ),
    Verb(
        "soak by hand",
        "soak",
        "you read it yourself again",
        forms=("soak by_hand",),
        examples=("soak by hand",),
        means=lambda _: UnwatchJot(),
    ),
    Verb(
        "soak by link",
        "soak",
        "a meter on a link is read by itself",
        forms=("soak by {link:link} every {pace:text} [in {unit:unit}] [of {what:text}]",),
        examples=(BY_LINK,),
        means=_watch,
        titles={"link": "meter on a link", "pace": "every", "unit": "unit", "what": "of what|volts"},
        begins=r"soak\s+by\s",
    ),
    Verb(
        "soak",
        "soak",
        "a reading of what you watch while it soaks",
        forms=("soak {value:quantity} [after {after:s}] [at {clock:clock}] [of {what:text}]",),
        examples=(
            "soak 10.0231 V",
            "soak 10.0231 of volts",
            "soak 10.0231 V after 15 min",
            "soak 10.0231 V at 10:45",
        ),
        means=_soak,
        titles={"value": "reading", "what": "of what", "after": "on for", "clock": "or at"},
        begins=r"soak\s",
    ),
    Verb(
        "past",
        "soak",
        "an earlier result, as it stands on a sticker or certificate",
        forms=("past {date:date} {rest:text}",),
        examples=(PAST, "past 2021-03-04 dc+/150/75 dead"),
        means=_past,
        fielded=(
            "past {date:date} {point:point} {error:quantity} ± {u:quantity} [limit {limit:quantity}] [when=found|left]",
            "past {date:date} {point:point} dead=dead",
        ),
        titles={
            "date": "date",
            "point": "point",
            "error": "error",
            "u": "± U",
            "limit": "limit|0.3 V",
            "when": "as",
            "dead": "or it was",
        },
        begins=r"past\s+\d",
    ),
)
