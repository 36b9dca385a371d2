"""The mains of the shop: what stands on a line-to-chassis part, and what a power-factor dial was read at."""

from __future__ import annotations

import math
import re

from candor.core.errors import ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

LINE_HIGH = 1.10  # the highest line a safety part must be calculated for: +10 %
TOUCH_AMPERES = 0.5e-3  # through a person, IEC 61010-1, 6.3, from memory
EXPECTED = worded("parts.v_hz_or_v_hz")


@dataclass(frozen=True)
class Mains:
    """The mains: V rms and Hz."""

    volts: float
    hertz: float

    @property
    def words(self) -> str:
        """``230 V 50 Hz``."""
        return worded("parts.v_hz", volts=trimmed(self.volts), hertz=trimmed(self.hertz))

    @property
    def high_volts(self) -> float:
        """The line at +10 %, V."""
        return LINE_HIGH * self.volts


WORSE = Mains(230.0, 50.0)  # of the two usual mains the one that passes more through a capacitor


def most_to_chassis(mains: Mains | None) -> float:
    """Return the largest capacitance from line to chassis, F: I / (2π f V) at the line's +10 % (by definition of a
    reactance); where the shop's mains are not said, for the worse of the two usual ones.
    """
    at = mains or WORSE
    return TOUCH_AMPERES / (2 * math.pi * at.hertz * at.high_volts)


def read_mains(text: str) -> Mains:
    """Read the mains as people write them: ``230 V 50 Hz``, ``120/60``.

    Raises
    ------
    ValueTextError
        Where it cannot be read, or no mains are so.
    """
    match = re.fullmatch(
        r"\s*([\d.,]+)\s*(?:V(?:AC|olts?)?)?[\s,/]+([\d.,]+)\s*(?:Hz|c/s|cps|cycles)?\s*", text, re.I
    )
    if not match:
        raise ValueTextError(
            worded("parts.is_not_a_mains_supply_expected_2", text=text.strip(), expected=EXPECTED),
            value=text,
            expected=EXPECTED,
        )
    mains = Mains(parse_quantity(match[1], "V").value, parse_quantity(match[2], "Hz").value)
    # Farm and railway mains of 50 V up, 16 2/3 Hz, ships at 400 Hz: beyond that it is a slip.
    if not (50 <= mains.volts <= 500 and 15 <= mains.hertz <= 400):
        raise ValueTextError(
            worded("parts.is_not_a_mains_supply_expected", words=mains.words, expected=EXPECTED),
            value=text,
            expected=EXPECTED,
        )
    return mains
