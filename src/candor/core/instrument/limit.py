"""The limit of a range as it was said, in one of the forms that makers state."""

from __future__ import annotations

from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.worded import worded

LimitBy = Literal["maker", "owner", "shop"]


@dataclass(frozen=True)
class LimitSaid:
    """The limit of a range: per cent, the unit of the range, divisions, degrees, dB, a factor; 0 or None where not said."""

    percent_of_full_scale: float = 0.0
    percent_of_reading: float = 0.0
    absolute: float = 0.0
    limit_divisions: float = 0.0
    percent_of_arc: float = 0.0
    degrees_of_arc: float = 0.0
    decibels: float = 0.0
    factor: float = 0.0
    at_least: float | None = None
    at_most: float | None = None
    combine: Literal["", "sum", "greater"] = ""
    by: LimitBy = "maker"

    @property
    def is_given(self) -> bool:
        """Whether any was said."""
        return bool(self.terms("")) or self.at_least is not None or self.at_most is not None

    def terms(self, unit: str) -> tuple[str, ...]:
        """Its terms in words; `unit` is that of the range."""
        said = (
            (self.percent_of_full_scale, "{} % of full scale"), (self.percent_of_reading, "{} % of reading"),
            (self.limit_divisions, "{} div"), (self.percent_of_arc, "{} % of arc"), (self.degrees_of_arc, "{}° of arc"),
            (self.decibels, "{} dB"), (self.factor, "a factor of {}"),
        )  # fmt: skip
        found = [words.format(trimmed(value)) for value, words in said if value]
        return (*found, *((engineering(self.absolute, unit),) if self.absolute else ()))

    def words(self, unit: str) -> str:
        """The whole limit in words, such as ``±(3 % of full scale + 2 % of reading)``; empty where there is none."""
        terms = self.terms(unit)
        joined = (
            worded("instrument.the_greater_of", listed=" and ".join(terms))
            if self.combine == "greater"
            else " + ".join(terms)
        )
        ends = [f"at {which} {engineering(value, unit)}" for which, value in (("least", self.at_least), ("most", self.at_most))
                if value is not None]  # fmt: skip
        if self.factor:
            return f"within {terms[0]}"
        return f"±({joined})" if terms else ", ".join(ends)


NO_LIMIT = LimitSaid()
