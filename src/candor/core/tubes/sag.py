"""How far the line of a tube tester falls with a tube in it: from two readings of it, empty and with one heavy tube.

Ohm's law: the resistance behind the line is the fall over the current that made it, R = (V_e - V_l) V_l / W; another tube of so
many watts lowers it by R W / V. A reading of gm goes with the line about in proportion, of emission as its square (common
practice, no source), unless a dash of the line was tried.
"""

from __future__ import annotations

import math

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.tubes.tester_reading import STEEP
from candor.core.worded import worded

METER_V = 0.1  # to which a meter shows the line, V
WATTS_U = 0.05  # of the watts of a tube by its sheet, standard uncertainty, a share: heaters differ
LEAST_SHARE = 2.0  # times its u, under which a fall is none that was seen


@dataclass(frozen=True)
class LineSource:
    """What stands behind the line of a tester: ohm, its standard uncertainty, and the volts of the empty tester."""

    ohms: float
    u_ohms: float
    empty_volts: float


@dataclass(frozen=True)
class Sag:
    """By what share the line falls with a tube, and what is lost of a gm and of an emission reading; each with U (k = 2)."""

    fall: float
    expanded: float

    def lost(self, test: str) -> tuple[float, float]:
        """Return the share of a reading of gm or emission that is lost, and its U."""
        return STEEP[test] * self.fall, STEEP[test] * self.expanded


def line_source(empty_volts: float, loaded_volts: float, watts: float) -> LineSource:
    """Return the resistance behind a line, ohm, from its volts empty and with a load of so many W.

    Raises
    ------
    RangeError
        Where the line does not fall, or nothing loads it.
    """
    if not 0 < loaded_volts <= empty_volts or watts <= 0:
        raise RangeError(
            worded(
                "tubes.the_line_must_fall_v_empty", empty_volts=empty_volts, loaded_volts=loaded_volts, watts=watts
            )
        )
    amperes = watts / loaded_volts
    fall = empty_volts - loaded_volts
    u_fall = METER_V / math.sqrt(12) * math.sqrt(2)
    ohms = fall / amperes
    return LineSource(ohms, math.hypot(u_fall / amperes, ohms * WATTS_U), empty_volts)


def sag_of(source: LineSource, watts: float) -> Sag:
    """Return how far a tube of so many W, heater and plate, lowers the line."""
    per_ohm = watts / source.empty_volts**2
    return Sag(source.ohms * per_ohm, 2 * math.hypot(source.u_ohms * per_ohm, source.ohms * per_ohm * WATTS_U))
