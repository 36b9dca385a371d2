"""One look at an instrument, whatever it is read by, and what is asked for it to be whole."""

from __future__ import annotations

import math
from typing import Literal

from candor.core.late_dataclass import dataclass

Direction = Literal["up", "down", ""]
FRICTION_LIMIT = 0.5  # of a division: half the difference of rising and falling; common practice, no source
INDICATED = "indicated"  # the figure that is the value itself


@dataclass(frozen=True)
class Reading:
    """One look.

    Attributes
    ----------
    indicated : float
        The value that it says, SI; no number where it says none.
    reference : float
        What it is compared with, SI, read at the same time; no number where nothing is.
    direction : "up", "down" or ""
        Whether it was approached from below, from above, or it was not noted.
    entry : int
        The number of the notebook's entry, so that every figure can be traced to it.
    kind : str
        Key of the kind of reading.
    figures : tuple of (str, float)
        What was read, by the names the kind asks for, each in the unit asked for.
    word : str
        A named outcome, where it was a look.
    reference_u : float
        Standard uncertainty of a captured reference's mean from its scatter, SI; 0 where it was typed.
    reference_count : int
        How many readings that is of.
    simulated : bool
        Its reference was a simulated meter or source: practice, never evidence.
    by_place : bool
        It was put on the drawn arc where the needle stands, not read at the printed marks.
    """

    indicated: float
    reference: float
    direction: Direction = ""
    entry: int = 0
    kind: str = "needle"
    figures: tuple[tuple[str, float], ...] = ()
    word: str = ""
    reference_u: float = 0.0
    reference_count: int = 0
    simulated: bool = False
    by_place: bool = False

    @property
    def error(self) -> float:
        """Error of indication: indicated minus reference (JCGM 200:2012, 2.16)."""
        return self.indicated - self.reference

    def figure(self, name: str) -> float:
        """Return a figure by its name, no number where it was not read."""
        return next((value for known, value in self.figures if known == name), math.nan)


@dataclass(frozen=True)
class Asked:
    """A figure that a kind of reading asks for.

    Attributes
    ----------
    name : str
        As it is kept.
    title : str
        As it stands beside its field.
    unit : str
        SI unit, or the scale's own: "div".
    needed : bool
        Whether there is no reading without it.
    """

    name: str
    title: str
    unit: str
    needed: bool = True
