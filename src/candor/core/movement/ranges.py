"""What goes with a movement: shunts, a universal shunt, multipliers for d.c. and behind a rectifier, and a substitute for it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Literal

from candor.core.errors import RangeError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.worded import worded

Rectified = Literal["", "full wave", "half wave"]
# Average over rms of a sine behind an ideal rectifier: 2√2/pi and half of it (derived; any measurement handbook).
FORM = {"": 1.0, "full wave": 2 * math.sqrt(2) / math.pi, "half wave": math.sqrt(2) / math.pi}


@dataclass(frozen=True)
class Coil:
    """A movement: its full-scale current, A, and its resistance, ohm."""

    amperes: float
    ohms: float

    def __post_init__(self) -> None:
        if not (self.amperes > 0 and self.ohms > 0 and math.isfinite(self.amperes * self.ohms)):
            raise RangeError(
                worded("movement.a_movement_of_a_and_ohm", amperes=self.amperes, ohms=self.ohms),
                value=f"{self.amperes:g}, {self.ohms:g}",
            )

    @property
    def words(self) -> str:
        """Such as ``40 µA, 2.5 kΩ``."""
        return f"{engineering(self.amperes, 'A')}, {engineering(self.ohms, 'ohm')}"


def shunt(coil: Coil, amperes: float) -> float:
    """Return the resistance across a movement, ohm, for a range, A: R_m I_m/(I - I_m) (Kirchhoff's laws).

    Raises
    ------
    RangeError
        Where the range is not above the movement's own current.
    """
    if not amperes > coil.amperes:
        raise RangeError(
            worded(
                "movement.a_range_of_is_not_above",
                amperes=engineering(amperes, "A"),
                amperes_2=engineering(coil.amperes, "A"),
            ),
            value=engineering(amperes, "A"),
        )
    return coil.ohms * coil.amperes / (amperes - coil.amperes)


def universal_shunt(coil: Coil, ranges: Sequence[float]) -> tuple[float, ...]:
    """Return the resistance from each range's tap to the common end of a universal shunt, ohm: R_n = I_m (R_m + R_s)/I_n.

    The smallest range has the whole string, R_s = R_m I_m/(I_1 - I_m) (Kirchhoff's laws). One bad section moves all ranges.

    Parameters
    ----------
    coil : Coil
    ranges : sequence of float, shape (n,)
        A, rising.

    Raises
    ------
    RangeError
        Where they do not rise, or the first is not above the movement's own current.
    """
    if not ranges or any(b <= a for a, b in pairwise(ranges)):
        raise RangeError(worded("movement.the_ranges_of_a_universal_shunt"), value=str(list(ranges)))
    whole = shunt(coil, ranges[0])
    return tuple(coil.amperes * (coil.ohms + whole) / amperes for amperes in ranges)


def multiplier(coil: Coil, volts: float, rectified: Rectified = "") -> float:
    """Return the resistance in series with a movement, ohm, for a range, V: F V/I_m - R_m (Ohm's law).

    F is 1 for d.c., 2√2/π behind an ideal full-wave and √2/π behind an ideal half-wave rectifier, V then rms of a sine.

    Raises
    ------
    RangeError
        Where the movement alone takes more than that.
    """
    whole = FORM[rectified] * volts / coil.amperes
    if whole < coil.ohms:
        raise RangeError(
            worded(
                "movement.the_movement_alone_needs_a_range",
                ohms=engineering(coil.ohms * coil.amperes / FORM[rectified], "V"),
                volts=engineering(volts, "V"),
            ),
            value=engineering(volts, "V"),
        )
    return whole - coil.ohms


@dataclass(frozen=True)
class Substitute:
    """What makes one movement stand for another: a resistor across it and one in series with both, ohm; infinite and 0 for none."""

    across_ohms: float
    series_ohms: float
    sentence: str


def substitute(have: Coil, wanted: Coil) -> Substitute:
    """Return what makes a movement take the current and have the resistance of another: across R_m I_m/(I - I_m), in series the
    rest of its resistance (Kirchhoff's laws).

    Raises
    ------
    RangeError
        Where it cannot: it needs more current than the other had, or has more resistance even with its shunt.
    """
    if have.amperes > wanted.amperes * (1 + 1e-9):
        raise RangeError(
            worded("movement.a_movement_of_needs_more_current", words=have.words, wanted_words=wanted.words),
            value=have.words,
            expected=worded("movement.at_most", amperes=engineering(wanted.amperes, "A")),
        )
    same = math.isclose(have.amperes, wanted.amperes, rel_tol=1e-9)
    across = math.inf if same else shunt(have, wanted.amperes)
    both = have.ohms if same else have.ohms * have.amperes / wanted.amperes
    series = wanted.ohms - both
    if series < -1e-9 * wanted.ohms:
        raise RangeError(
            worded(
                "movement.with_its_shunt_it_has_more",
                both=engineering(both, "ohm"),
                ohms=engineering(wanted.ohms, "ohm"),
            ),
            value=engineering(both, "ohm"),
        )
    series = max(series, 0.0)
    said = [f"{engineering(across, 'ohm', 5)} across it" if not same else "nothing across it"]
    said.append(
        worded("movement.in_series_with_both", series=engineering(series, "ohm", 5))
        if series
        else "nothing in series"
    )
    words = worded(
        "movement.for_with_damping_and_scale_are", words=wanted.words, have_words=have.words, listed=", ".join(said)
    )
    return Substitute(across, series, words)
