"""Lines that say what a reading stands on: `frequency 60 Hz`, `was read against the bench meter`."""

from __future__ import annotations

import re
from dataclasses import dataclass

from candor.core.errors import RangeError
from candor.core.quantities import engineering, parse_quantity

MOST_HERTZ = 1e9
_FREQUENCY = re.compile(r"(?:read\s+at|frequency)\s+(?P<value>\d.*)", re.I)
_AGAINST = re.compile(r"(?:was|were)\s+read\s+against\s+(?:the\s+)?(?P<name>\S.*)", re.I)


@dataclass(frozen=True)
class FrequencyJot:
    """The frequency, Hz, at which a function of alternating current is read."""

    hertz: float
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class AgainstJot:
    """The standard, by its name or key, that was connected when readings were taken for which none was named."""

    name: str
    chips: tuple[str, ...] = ()


def understand_evidence(text: str) -> FrequencyJot | AgainstJot | None:
    """Say what a line about what readings stand on means, None where it is about nothing of it.

    Raises
    ------
    ValueTextError, RangeError
        Where the frequency is none.
    """
    clean = text.strip()
    if match := _FREQUENCY.fullmatch(clean):
        hertz = parse_quantity(match["value"], "Hz").value
        if not 0 < hertz <= MOST_HERTZ:
            raise RangeError(
                f"{engineering(hertz, 'Hz')}? Expected a frequency above 0, up to {engineering(MOST_HERTZ, 'Hz')}.",
                value=match["value"],
            )
        return FrequencyJot(hertz, (f"read at {engineering(hertz, 'Hz')}",))
    if match := _AGAINST.fullmatch(clean):
        name = match["name"].strip().rstrip(".")
        return AgainstJot(name, (f"{name} was connected when they were read",))
    return None
