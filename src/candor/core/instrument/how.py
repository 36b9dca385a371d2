"""How a range is read: by which kind of reading, and on what arc, dial, screen or outcomes."""

from __future__ import annotations

import math
from typing import Literal

from candor.core.errors import RangeError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.reading.fitted import FittedArc, fitted, fitted_scale
from candor.core.reading.laws import LAWS, LawName
from candor.core.reading.scale import Scale, law_scale, linear_scale
from candor.core.worded import worded

Shape = Literal["even", "centre zero", "ohms falling", "ohms rising", "decibels", "square near zero", "marks"]
Kind = Literal["needle", "mark", "null", "at mark", "threshold", "screen", "source", "look", "figured"]
LAW_OF: dict[Shape, LawName] = {
    "ohms falling": "ohms falling",
    "ohms rising": "ohms rising",
    "decibels": "decibels",
    "square near zero": "square near zero",
}
OHMS: tuple[Shape, ...] = ("ohms falling", "ohms rising")
# Usual marks where those that are printed were not said; common practice, no source. Of an ohms arc in shares of its centre.
_USUAL_OHMS = (0.0, 0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, math.inf)
_USUAL_DECIBELS = (
    -60,
    -50,
    -40,
    -30,
    -20,
    -15,
    -10,
    -8,
    -6,
    -5,
    -4,
    -3,
    -2,
    -1,
    0,
    1,
    2,
    3,
    4,
    5,
    6,
    10,
    15,
    20,
    30,
    40,
)
LEAST_OF_DECIBELS = 0.02  # of the arc: marks that stand nearer to its left end are not printed
FEWEST_MARKS = 5  # from which an arc may be drawn by its marks


@dataclass(frozen=True)
class SecondDial:
    """The other of two dials that are turned until neither moves; its end in its SI unit."""

    title: str
    unit: str
    end: float
    divisions: int


@dataclass(frozen=True)
class HowRead:
    """How a range is read; values SI.

    Attributes
    ----------
    kind : str
        Key of a kind of reading: `core.reading.kinds`.
    shape : Shape
        How its arc, or the scale round its dial, is divided.
    begins : float
        At its left end, where that is not zero; of decibels the lowest level, dB.
    ends : float
        Of decibels: the level at the right end, dB.
    knee : float
        Of a square law: where it goes over into an even one.
    marks, places : tuple of float
        What is printed, from left to right, infinity among it; and where each stands, 0 at the left end of the arc and 1 at the
        right. Without places the law says where.
    places_u : float
        How well they are known together, one standard deviation, share of the arc: how a photo was straightened. Beside what the
        marks scatter by, which does not show it.
    per_division, edge, axis
        Of a screen: what a division is worth, and to what part of a division an edge is read.
    steps : tuple of float
        Settings that are switched to.
    on_side : int
        Of a threshold: its indication is on below it (-1), above it (+1); 0 where that was not said.
    passes, fails : tuple of str
        What a look can find.
    second : SecondDial or None
    formula : str
        Of a value that is calculated, of names.
    points : tuple of (str, str)
        Each name in it, and the key of the point it stands for.
    comes_to : float
        What it should come to, SI.
    """

    kind: Kind = "needle"
    shape: Shape = "even"
    begins: float = 0.0
    ends: float = 0.0
    knee: float = 0.0
    marks: tuple[float, ...] = ()
    places: tuple[float, ...] = ()
    places_u: float = 0.0
    per_division: float = 0.0
    edge: float = 0.1
    axis: Literal["vertical", "horizontal"] = "vertical"
    steps: tuple[float, ...] = ()
    on_side: int = 0
    passes: tuple[str, ...] = ()
    fails: tuple[str, ...] = ()
    second: SecondDial | None = None
    formula: str = ""
    points: tuple[tuple[str, str], ...] = ()
    comes_to: float = 0.0

    @property
    def has_scale(self) -> bool:
        """Whether it is read on an arc, or on a scale round a dial."""
        if self.kind in ("needle", "mark", "null", "at mark"):
            return True
        return self.kind == "source" and not self.steps

    @property
    def listed(self) -> bool:
        """Whether it is compared with a value that is listed, not with what a standard reads at the same time: one point, known."""
        return self.kind in ("at mark", "threshold", "look", "figured")


EVEN = HowRead()


def printed_marks(how: HowRead, full_scale: float) -> tuple[float, ...]:
    """Return the marks of a scale by law, SI, from left to right: those said, else the usual ones (common practice, no source)."""
    if how.marks:
        return how.marks
    if how.shape in OHMS:
        usual = tuple(float(f"{share * full_scale:.9g}") for share in _USUAL_OHMS)
        return usual[::-1] if how.shape == "ohms falling" else usual
    if how.shape == "decibels":
        least = how.ends + 20 * math.log10(LEAST_OF_DECIBELS)
        low = (
            how.begins if how.begins >= least else next((float(v) for v in _USUAL_DECIBELS if v >= least), how.begins)
        )
        inner = (float(v) for v in _USUAL_DECIBELS if low < v < how.ends)
        return (low, *inner, how.ends)
    parts = 10
    return tuple(float(f"{full_scale * i / parts:.9g}") for i in range(parts + 1))


def law_terms(how: HowRead, full_scale: float) -> tuple[float, float]:
    """Return what the law of a shape asks for, SI or dB: `centre` and `end` of `core.reading.laws`.

    Decibels: the place of 0 dB, a share of the arc, so that the right end is `ends`: d0 = 10^(-ends / 20) (by definition).
    """
    if how.shape == "decibels":
        return 10 ** (-how.ends / 20), 1.0
    return (how.knee, full_scale) if how.shape == "square near zero" else (full_scale, 1.0)


def scale_of(how: HowRead, full_scale: float, divisions: int, name: str = "scale") -> Scale:
    """Return the scale of a range, in its values, SI.

    Parameters
    ----------
    how : HowRead
    full_scale : float
        Its end; of an ohms arc the value at half of it.
    divisions : int
        Of the whole where it is even, else between two marks.
    name : str

    Raises
    ------
    ValueTextError, RangeError
        Where its marks do not run one way, or do not follow the law.
    """
    if how.shape == "even":
        return linear_scale(name, how.begins, full_scale, divisions, divisions)
    if how.shape == "centre zero":
        return linear_scale(name, -full_scale, full_scale, divisions, divisions)
    if how.shape == "marks":
        check_marks(how)
        return fitted_scale(name, tuple(zip(how.marks, how.places, strict=True)), divisions, how.places_u)
    centre, end = law_terms(how, full_scale)
    return law_scale(name, LAWS[LAW_OF[how.shape]](centre, end), printed_marks(how, full_scale), (divisions,))


def arc_of(how: HowRead) -> FittedArc:
    """Return what the marks of an arc say of it, `shape` being "marks"."""
    return fitted(how.marks, how.places)


def check_marks(how: HowRead, unit: str = "1") -> None:
    """Refuse marks that draw no arc; what they say is in the unit of the range.

    Raises
    ------
    ValueTextError, RangeError
        Where they are few, doubled, or run both ways.
    """
    if len(how.marks) != len(how.places):
        raise ValueTextError(worded("instrument.each_mark_needs_its_place_value"), value=str(how.marks))
    if len(how.marks) < FEWEST_MARKS:
        raise RangeError(
            worded("instrument.marks_do_not_show_how_an", marks=len(how.marks), fewest_marks=FEWEST_MARKS),
            value=str(len(how.marks)),
        )

    def said(value: float) -> str:
        return trimmed(value) if unit == "1" else engineering(value, unit, 4)

    sign = 1 if how.marks[-1] > how.marks[0] else -1
    for i in range(1, len(how.marks)):
        before, here = how.marks[i - 1], how.marks[i]
        if how.places[i] <= how.places[i - 1] or sign * (here - before) <= 0:
            raise ValueTextError(
                worded(
                    "instrument.the_marks_are_out_of_order",
                    said=said(here),
                    places=trimmed(how.places[i], 3),
                    said_2=said(before),
                    places_2=trimmed(how.places[i - 1], 3),
                ),
                value=said(here),
            )
