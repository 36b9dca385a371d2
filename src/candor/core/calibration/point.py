"""A test point: a quantity, how it is read, what is applied, its limit, and what it asks of a reference."""

from __future__ import annotations

import re
from functools import cached_property
from typing import Literal

from candor.core.errors import RangeError, ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering, parse_quantity
from candor.core.quantities.show import trimmed
from candor.core.quantities.units import SYMBOLS, normalise, suffix_meaning
from candor.core.reading.indicators import Indicator
from candor.core.reference.detector import Detector
from candor.core.verdict.limits import Bounds, Limit, say_bounds
from candor.core.worded import worded

Phase = Literal["as found", "as left"]
Waveform = Literal["", "d.c.", "sine", "square", "triangle"]
NO_LIMIT = worded("calibration.no_limit_was_given_the_error")
_MINUTES_OR_MILLI = re.compile(r"\d\s*m\s*$|\d\s*m\s*\d")
NOTHING = ""  # asked of a reference where a reading needs none


@dataclass(frozen=True)
class Stimulus:
    """What is applied besides a value: its frequency, Hz (0 for d.c. or none), its waveform, its harmonics as a share."""

    hertz: float = 0.0
    waveform: Waveform = ""
    distortion: float = 0.0

    @property
    def words(self) -> str:
        """Such as `` sine, 1 kHz``; empty for d.c."""
        shape = "" if self.waveform in ("", "d.c.") else f", {self.waveform}"
        return f"{shape}, {engineering(self.hertz, 'Hz')}" if self.hertz else shape


@dataclass(frozen=True)
class Formula:
    """How a point is figured from others: a formula of names, and the point that each name stands for.

    Attributes
    ----------
    text : str
        See core.quantities.formula.
    points : tuple of (str, str)
        Name and key of the point.
    takes : "shown" or "error"
        Whether a name stands for what the instrument showed, or for its error.
    """

    text: str = ""
    points: tuple[tuple[str, str], ...] = ()
    takes: Literal["shown", "error"] = "shown"


@dataclass(frozen=True)
class TestPoint:
    """One value on one range of one function.

    Attributes
    ----------
    key : str
        Unique in its pack, such as ``dc+/150/75``.
    function, range_name : str
        As the restorer calls them: "DC volts +", "150 V".
    polarity : int
        +1 or -1: the sign of what is applied. Readings are then kept as magnitudes, so that a positive error always means
        that the instrument reads too far from zero. 0 where readings carry their own sign.
    full_scale, nominal : float
        SI; of a scale to infinity the value in the middle of its arc. `nominal` may be infinite there.
    indicator : Indicator
        What it is read on.
    limit : Limit
    limit_by : str
        Whose limit it is: "maker", "owner" or "shop".
    kind : str
        How it is read: key of a kind in core.reading.kinds.
    stimulus : Stimulus
    asks : str
        The unit of the reference it needs; that of the indicator where nothing is said, "none" where it needs none.
    second : Indicator or None
        The other dial, where two are turned until neither moves.
    formula : Formula
        Of a point that is figured.
    settings : mapping of str to float
        What its kind needs to know besides, by name; see the kinds.
    noted : bool
        Whether it is only noted, for what is figured from it: nothing is decided by it.
    detector : Detector or None
        What the instrument itself responds to and is marked in, of a.c.
    figure : str
        Which figure of a waveform it is: rise, overshoot, tilt …
    """

    __test__ = False  # not a test case, whatever its name says to a test runner

    key: str
    function: str
    range_name: str
    polarity: int
    full_scale: float
    nominal: float
    indicator: Indicator
    limit: Limit
    limit_by: str = "maker"
    kind: str = "needle"
    stimulus: Stimulus = Stimulus()
    asks: str = ""
    second: Indicator | None = None
    formula: Formula = Formula()
    settings: tuple[tuple[str, float], ...] = ()
    noted: bool = False
    detector: Detector | None = None
    figure: str = ""

    @property
    def unit(self) -> str:
        """The SI unit of the point."""
        return self.indicator.unit

    @cached_property
    def _marked(self) -> tuple[float, str]:
        match = re.search(r"\d\s*([^\W\d_]+|Ω|%)\.?$", normalise(self.range_name))
        meaning = suffix_meaning(match[1], self.unit) if match else None
        if match is None or meaning is None or meaning[1] not in (None, self.unit):
            return 1.0, SYMBOLS.get(self.unit, self.unit)
        return meaning[0], match[1] if meaning[1] else f"{match[1]}{SYMBOLS.get(self.unit, self.unit)}"

    def quantity(self, text: str, unit: str = "") -> float:
        """Return a value as it is typed at the point, SI, in its unit or another; a bare number in the unit of its range.

        Raises
        ------
        CandorError
            Where it cannot be read; where it is a time in *m*, which a timer means as minutes and a sweep as milliseconds.
        """
        if (unit or self.unit) == "s" and _MINUTES_OR_MILLI.search(text):
            raise ValueTextError(
                worded("calibration.m_may_be_minutes_or_milliseconds", text=text.strip()), value=text
            )
        bare = self.marked_factor if unit in ("", self.unit) else 1.0
        return parse_quantity(text, unit or self.unit, bare).value

    def bare(self, value: float, digits: int = 4) -> str:
        """Return a value, SI, as a bare number that is read at the point as itself."""
        return trimmed(value / self.marked_factor, digits)

    @property
    def marked_factor(self) -> float:
        """How much 1 of a bare number is, SI: in the unit that its range is named in, 0.001 on a 60 mA range."""
        return self._marked[0]

    @property
    def marked_unit(self) -> str:
        """That unit, such as mA; the SI unit where the range is not named by its end."""
        return self._marked[1]

    @property
    def name(self) -> str:
        """Range and value, such as ``150 V range at 75 V``."""
        return (
            worded("calibration.range_at", range_name=self.range_name, applied=self.applied)
            if self.range_name
            else f"{self.function}: {self.applied}"
        )

    @property
    def applied(self) -> str:
        """What to apply, with its sign, frequency and waveform."""
        sign = "−" if self.polarity < 0 else ""
        meant = f" ({engineering(self.reference_for(self.nominal), self.asked_unit)})" if self.worth != 1 else ""
        return f"{sign}{self.shown(self.nominal)}{self.stimulus.words}{meant}"

    def shown(self, value: float) -> str:
        """Return a value, SI, as the face has it: per cent where its range is numbered so, else with its unit."""
        return f"{self.bare(value)} %" if self.marked_unit == "%" else engineering(value, self.unit)

    @property
    def needs_reference(self) -> bool:
        """Whether it is compared with a standard."""
        return self.asks != "none"

    @property
    def current(self) -> str:
        """Whether it is of "d.c." or "a.c.": by frequency or waveform; empty where its quantity knows no such thing."""
        if self.asked_unit not in ("V", "A"):
            return ""
        if self.stimulus.hertz or self.stimulus.waveform not in ("", "d.c."):
            return "a.c."
        return self.stimulus.waveform

    @property
    def asked_unit(self) -> str:
        """The unit of the reference it needs."""
        return self.unit if self.asks in ("", "none") else self.asks

    @property
    def worth(self) -> float:
        """What one of its unit is worth in that of the reference, amperes for one of a merit scale; 1 where both are the same."""
        return self.setting("worth", 1.0)

    def reference_for(self, value: float) -> float:
        """Return what a reference shows, SI, where the instrument rightly shows a value."""
        return value * self.worth

    def setting(self, name: str, otherwise: float = 0.0) -> float:
        """Return what its kind needs to know, by name."""
        return next((value for known, value in self.settings if known == name), otherwise)

    def bounds_at(self, value: float) -> Bounds:
        """Return where the error may stand at an indicated value, SI, in what it is judged in."""
        return self.limit.bounds(
            value, self.full_scale, self.indicator.division_at(value) if self.limit.divisions else 0.0
        )

    @property
    def nominal_bounds(self) -> Bounds:
        """Where the error may stand at the nominal value."""
        return self.bounds_at(self.nominal)

    @property
    def nominal_limit(self) -> float:
        """Half the limit interval at the nominal value; infinite where the limit is one-sided."""
        return self.nominal_bounds.half if self.limit.given else 0.0

    @cached_property
    def limit_percent(self) -> float:
        """The limit at the nominal value in per cent of full scale; 0 where it is of another kind, and each point has its own, and
        where the point is calculated: that has no full scale."""
        if self.formula.text or self.limit.judged_in != "value" or self.limit.on_value or not self.limit.given:
            return 0.0
        return round(100 * self.nominal_bounds.half / abs(self.full_scale), 6)

    @property
    def judged_unit(self) -> str:
        """The unit its error is judged in."""
        return self.limit.judged_unit or self.unit

    @property
    def limit_words(self) -> str:
        """The limit as it is stated, and whose it is: ``±0.9 V, the owner's``."""
        if not self.limit.given:
            return NO_LIMIT
        whose = "" if self.limit_by == "maker" else f", the {self.limit_by}'s"
        return say_bounds(self.nominal_bounds, self.judged_unit) + whose

    def signed(self, value: float) -> float:
        """Return a typed value as readings are kept: a magnitude where the polarity says so, else as it stands."""
        return abs(value) if self.polarity < 0 else value

    def reference_magnitude(self, value: float) -> float:
        """Return a reference reading as it is kept: a magnitude, or with its sign where readings carry one.

        Raises
        ------
        RangeError
            Where its sign contradicts the function, or it is nowhere near the range.
        """
        if value < 0 < self.polarity:
            raise RangeError(
                worded(
                    "calibration.is_negative_but_expects_a_positive",
                    value=engineering(value, self.asked_unit),
                    function=self.function,
                ),
                value=str(value),
                expected=worded("calibration.a_positive_value"),
            )
        # Half again: a meter over its end is still a reading of it; more is a slip of the range or a decimal.
        # A scale to infinity has no end to be over.
        end = max(self.full_scale, self.nominal, key=abs)  # a range may be named by its middle
        # Nor have levels: of decibels the greatest is no end in that sense.
        if not self.indicator.is_open and self.unit != "dB" and abs(value) > 1.5 * abs(self.reference_for(end)):
            raise RangeError(
                worded(
                    "calibration.a_reference_of_is_far_beyond",
                    value=engineering(value, self.asked_unit),
                    range_name=self.range_name,
                    applied=self.applied,
                ),
                value=str(value),
                expected=self.applied,
            )
        return abs(value) if self.polarity else value
