"""A lamp in series with the instrument: what it leaves for the load, and what it lets through where the load is a short.

Incandescent or halogen only; a lamp isolates nothing, and readings at the lamp are not readings for the drawing.
"""

from __future__ import annotations

import math

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.parts.mains import Mains
from candor.core.quantities.show import in_unit
from candor.core.worded import worded

LAMP_POWER = 0.55  # of the volts, to which a tungsten lamp's current goes: handbook figure, from memory
LOAD_HIGH = 1.1  # times its plate's figure that a sound hot load takes at most: common practice, no source
LAMP_HOLD_S = 60.0  # before which a short cannot be told from cold heaters: common practice, no source
LAMP_WATTS = (15.0, 25.0, 40.0, 60.0, 75.0, 100.0, 150.0, 200.0, 300.0, 500.0, 1000.0)


@dataclass(frozen=True)
class LampAnswer:
    """What a lamp in series does.

    Attributes
    ----------
    lamp_watts : float
        As marked.
    load_volts : float
        At the load where it draws as it should, V.
    lamp_volts : float
        Then at the lamp, V.
    short_amperes : float
        Through it where the load is a short, A: the lamp's own current, and it is bright.
    line_watts : float
        That lamp and load take from the line together, W.
    """

    lamp_watts: float
    load_volts: float
    lamp_volts: float
    short_amperes: float
    line_watts: float = 0.0


def with_lamp(mains: Mains, lamp_watts: float, load_watts: float) -> LampAnswer:
    """Return what a lamp of so many W leaves for a load that draws so many W at the full mains, taken as a resistance.

    The lamp's current goes with its volts as I = (P/V) (v/V)^0.55 (handbook figure, from memory), and the two share the line
    (Kirchhoff's laws).

    Raises
    ------
    RangeError
        Where a wattage is not above zero.
    """
    if lamp_watts <= 0 or load_watts <= 0:
        raise RangeError(
            worded("power.a_lamp_and_its_load_each"),
            value=in_unit(min(lamp_watts, load_watts), "W", 6),
        )
    from scipy.optimize import brentq  # only where a lamp is calculated: the window is up before

    full, ohms = mains.volts, mains.volts**2 / load_watts

    def lamp_amperes(volts: float) -> float:
        return float(lamp_watts / full * (volts / full) ** LAMP_POWER)

    load = float(brentq(lambda v: v / ohms - lamp_amperes(full - v), 0.0, full))
    return LampAnswer(lamp_watts, load, full - load, lamp_amperes(full), line_watts=full * load / ohms)


def lamp_cut(mains: Mains, lamp_watts: float, load_watts: float) -> float:
    """Return the watts from the line above which the load is not a sound one, W: between a hot one and a short.

    The geometric mean of what lamp and load take with LOAD_HIGH times the load's figure, and what the lamp takes alone. A load that
    is a short takes exactly the lamp's own watts, so a cut above those would never be reached (common practice, no source).

    Raises
    ------
    RangeError
        As `with_lamp`.
    """
    hot = with_lamp(mains, lamp_watts, LOAD_HIGH * load_watts).line_watts
    return math.sqrt(hot * lamp_watts)


def proposed_lamp(mains: Mains, load_watts: float) -> LampAnswer:
    """Return the smallest usual lamp of as many W as the load or more: one to two times it (common practice, no source).

    Raises
    ------
    RangeError
        Where no usual lamp is large enough.
    """
    fitting = next((watts for watts in LAMP_WATTS if watts >= load_watts), None)
    if fitting is None:
        raise RangeError(
            worded("power.w_is_more_than_one_lamp", load_watts=load_watts),
            value=in_unit(load_watts, "W", 6),
        )  # fmt: skip
    return with_lamp(mains, fitting, load_watts)
