"""What was read, as shares of the arc: where the needle should stand, by how much it does not, and how sure that is."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import field
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from candor.core.late_dataclass import dataclass

Floats = NDArray[np.float64]
Side = Literal["", "up", "down", "both"]


@dataclass(frozen=True)
class Place:
    """A point of the instrument, read or not.

    Attributes
    ----------
    key : str
        Of the point.
    range : str
        Function and range, ``dcv/100``.
    function : str
        Key of the function, ``dcv``.
    name, title, function_title : str
        What people call the point, its range and its function.
    polarity : int
        +1, -1, or 0 where readings carry their sign.
    at : float
        Where the needle should stand, share of the arc.
    slope : float
        d(place)/d(ln of what is applied), share of the arc: on an even scale from zero the same as `at`.
    division : float
        One division there, share of the arc; 0 where there is none.
    movement : bool
        Whether a needle shows it; a dial or a screen has no mechanical zero.
    has_gain : bool
        Whether a trimmed gain shows it; ohms that are measured from outside are as they are.
    """

    key: str
    range: str
    function: str
    name: str
    title: str
    function_title: str
    polarity: int
    at: float
    slope: float
    division: float = 0.0
    movement: bool = True
    has_gain: bool = True


@dataclass(frozen=True)
class Observed:
    """A point that was read: its error and what that is known to, one standard deviation, shares of the arc.

    Attributes
    ----------
    place : Place
    error : float
        Where the needle stood less where it should.
    own : float
        Standard uncertainty of this reading alone.
    shared : float
        Of what it has in common with others of the same `standard`: signed as the value is.
    standard : str
    side : str
        From which side it was read.
    """

    place: Place
    error: float
    own: float
    shared: float = 0.0
    standard: str = ""
    side: Side = ""


@dataclass(frozen=True)
class PartPatterns:
    """What a part of the circuit does to every range: by what share it shows more, for changes of the part.

    Attributes
    ----------
    ref : str
    steps : tuple of float
        ln(value/nominal), rising; -inf a short and inf an opening at the ends where they are asked.
    shown : mapping of str to array
        By range: what is shown over what was, less 1, shape (steps,).
    tolerance : float
        Share.
    upward : float
        What its make usually drifts to, ln: carbon composition goes up with the years.
    spread : float
        Standard deviation of that drift, ln.
    """

    ref: str
    steps: tuple[float, ...]
    shown: Mapping[str, Floats]
    tolerance: float
    upward: float = 0.0
    spread: float = 0.02

    def linear(self, ranges: Sequence[str]) -> Floats:
        """Return d(ln shown)/d(ln value) at the nominal value for ranges, shape (ranges,); 0 where the part does nothing."""
        middle = int(np.argmin(np.abs(self.steps)))
        wide = self.steps[middle + 1] - self.steps[middle - 1]
        return np.array([
            (self.shown[r][middle + 1] - self.shown[r][middle - 1]) / wide if r in self.shown else 0.0 for r in ranges
        ])  # fmt: skip


@dataclass(frozen=True)
class Circuit:
    """What the circuit says of its parts; empty where none is known."""

    parts: tuple[PartPatterns, ...] = ()
    ranges: frozenset[str] = field(default_factory=frozenset)
