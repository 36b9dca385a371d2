"""A part as a thing one can hold: the one shape it has in stock, on an order and in a proposal."""

from __future__ import annotations

from candor.core.late_dataclass import dataclass
from candor.core.parts.part import UNITS, VALUED, Kind
from candor.core.quantities import engineering
from candor.core.quantities.show import in_unit, trimmed


@dataclass(frozen=True, kw_only=True)
class Component:
    """What a piece is, whoever has it; SI, 0 or empty where nobody said.

    Attributes
    ----------
    kind : Kind
    value : float
        In the unit of its kind; 0 where it has none.
    type : str
        What it is called where it has a type.
    tolerance : float
        Share, both ways.
    make : str
    volts, watts, celsius : float
        Ratings.
    safety : str
        Class of a capacitor that touches the mains, such as "Y2".
    """

    kind: Kind
    value: float
    type: str = ""
    tolerance: float = 0.0
    make: str = ""
    volts: float = 0.0
    watts: float = 0.0
    safety: str = ""
    celsius: float = 0.0

    @property
    def text(self) -> str:
        """Value, tolerance, ratings, make, class and heat: ``47 nF 10 % 630 V film``."""
        words: list[str] = [] if self.kind in VALUED else [self.kind]
        words += [self.type] if self.type else []
        words += [engineering(self.value, UNITS[self.kind])] if self.value and self.kind in UNITS else []
        words += [f"{trimmed(100 * self.tolerance)} %"] if self.tolerance else []
        words += [in_unit(self.volts, "V")] if self.volts else []
        words += [in_unit(self.watts, "W")] if self.watts else []
        words += [self.make] if self.make else []
        words += [f"class {self.safety}"] if self.safety else []
        words += [in_unit(self.celsius, "°C")] if self.celsius else []
        return " ".join(words)


@dataclass(frozen=True, kw_only=True)
class OnHand(Component):
    """So many of a component on hand, under a key of the stock; without one they are not in stock."""

    key: str = ""
    count: int = 1
