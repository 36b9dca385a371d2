"""Meters as people write them, one a line: what it reads, where it answers, and what it is asked where that is unusual.

``b1 TCPIP::10.0.0.7::5025::SOCKET MEAS:VOLT? every 2 s``, or with how it answers behind a semicolon (links.meter_answers).
"""

from __future__ import annotations

import re

from candor.core.errors import ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_number
from candor.core.worded import worded

EXAMPLE = "b1 TCPIP::192.168.1.20::5025::SOCKET"


@dataclass(frozen=True)
class MeterLine:
    """One meter: what it reads, its address, what it is asked, empty for the usual question, and how often, s."""

    name: str
    resource: str
    query: str = ""
    every_s: float = 0.1


def read_meters(text: str) -> tuple[MeterLine, ...]:
    """Read the meters of a few lines.

    Raises
    ------
    ValueTextError
        With the line and what was expected.
    """
    found: list[MeterLine] = []
    for number, line in enumerate(text.splitlines(), 1):
        timing = re.search(r"\s+every\s+([\d.,]+)\s*s\s*$", line, re.I)
        every = parse_number(timing[1], "seconds such as 0.5") if timing else 0.1
        if not 0.02 <= every <= 3600:
            raise ValueTextError(worded("jot.line_every_s_expected_to_s", number=number, every=every), value=line)
        said = line[: timing.start()] if timing else line
        # Behind a semicolon stands how it answers: that belongs to its address, blanks and all.
        words = said.split(maxsplit=1 if ";" in said else 2)
        if not words:
            continue
        if len(words) < 2:
            raise ValueTextError(
                worded("jot.line_has_no_address_example", number=number, line=line.strip(), example=EXAMPLE),
                value=line,
            )
        name = words[0].lower()
        if name in {meter.name for meter in found}:
            raise ValueTextError(worded("jot.line_is_read_by_two_meters", number=number, name=name), value=line)
        found.append(MeterLine(name, words[1].strip(), words[2] if len(words) > 2 else "", every))
    if not found:
        raise ValueTextError(worded("jot.name_at_least_one_meter_example", example=EXAMPLE), value=text)
    return tuple(found)
