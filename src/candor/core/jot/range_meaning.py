"""What a line about a range means."""

from __future__ import annotations

from typing import Literal

from candor.core.instrument.how import EVEN, HowRead
from candor.core.instrument.limit import NO_LIMIT, LimitSaid
from candor.core.jot.range_stands import NOTHING, Stands
from candor.core.late_dataclass import dataclass

RangeUnit = Literal["V", "A", "ohm", "F", "H", "Hz", "S", "s", "dB", "1"]
Current = Literal["", "d.c.", "a.c."]


@dataclass(frozen=True)
class RangeJot:
    """A range of the instrument, as it is written on it: values in the SI unit `unit`.

    Attributes
    ----------
    function, unit : str
        As the restorer calls it, empty where the unit says enough; the unit is SI.
    full_scale : float
        Where it ends; of an ohms arc the value at half of it.
    divisions : int
        Of an even scale the whole, of marks between two of them; 0 where it has none.
    polarity : "+", "-" or "both"
    current : "d.c.", "a.c." or ""
        By its name, or because a frequency was said.
    hertz : float
        At which it is read; 0 where that is not said.
    name : str
        What the range switch calls it, where that is not its end.
    how : HowRead
    limit : LimitSaid
        Without terms where none was given.
    stands : Stands
        The greatest that its maker states for it.
    points : tuple of float
        Points that are to be read on it, SI, where the usual ones were asked for.
    beside : tuple of RangeJot
        The others of a series that was said in one line.
    """

    function: str
    unit: RangeUnit
    full_scale: float
    divisions: int
    mirror: bool = False
    polarity: Literal["+", "-", "both"] = "+"
    current: Current = ""
    hertz: float = 0.0
    name: str = ""
    how: HowRead = EVEN
    limit: LimitSaid = NO_LIMIT
    stands: Stands = NOTHING
    points: tuple[float, ...] = ()
    beside: tuple[RangeJot, ...] = ()
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class PointsJot:
    """Points to be read on the range in hand, SI magnitudes."""

    values: tuple[float, ...]
    chips: tuple[str, ...] = ()
