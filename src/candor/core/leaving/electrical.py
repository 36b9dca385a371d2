"""Earth bond, insulation and touch current against limits that a local rule may change.

The limits that are proposed: 0.2 ohm over the earth lead at 1 A or more and 2 Mohm at 500 V, 10 Mohm after washing (common
practice, no source); 0.5 mA rms of touch current in normal condition (IEC 61010-1, 6.3) through a network of 2 kohm at the
line's frequency (IEC 60990, figure 3), both from memory. Local codes and licensed practice come first.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import product
from typing import Literal

from candor.core.errors import ValueTextError
from candor.core.late_dataclass import dataclass
from candor.core.parts.mains import TOUCH_AMPERES
from candor.core.quantities import engineering, parse_quantity
from candor.core.worded import worded

LEAST_TEST_VOLTS = 500.0  # of an insulation test; a bench meter's 9 V breaks down nothing
LEAST_BOND_AMPERES = 1.0  # a strand that still touches reads 0 ohm at a milliampere
WASHED_OHMS = 10e6
EXPECTED = worded("leaving.lines_such_as_earth_ohm_insulation")
FIELDS = {"earth": ("earth_ohms", "ohm"), "insulation": ("insulation_ohms", "ohm"), "touch": ("touch_amperes", "A"), "network":
          ("network_ohms", "ohm")}  # fmt: skip
LARGEST = {"earth_ohms": 1.0, "insulation_ohms": 1e9, "touch_amperes": 10e-3, "network_ohms": 10e3}

State = Literal["good", "missing", "bad"]


@dataclass(frozen=True)
class LocalRule:
    """The limits that hold where the shop is: ohm over the lead, ohm, A rms, ohm of the network at the line's frequency."""

    earth_ohms: float = 0.2
    insulation_ohms: float = 2e6
    touch_amperes: float = TOUCH_AMPERES
    network_ohms: float = 2000.0

    @property
    def words(self) -> str:
        """As it is typed: ``earth 200 mohm, insulation 2 Mohm, touch 500 uA, network 2 kohm``."""
        return rule_words(self.figures)

    @property
    def figures(self) -> dict[str, str]:
        """Each limit by its name, as it is typed."""
        return {name: engineering(getattr(self, key), unit, 4) for name, (key, unit) in FIELDS.items()}


@dataclass(frozen=True)
class TouchReading:
    """A touch current, A rms, with the plug one way or reversed and the switch on or off."""

    amperes: float
    is_reversed: bool
    is_on: bool


@dataclass(frozen=True)
class EarthFound:
    """An earth bond: ohm read with the lead in it, the lead's ohm, the test current in A (0 where nobody said), ohm at most."""

    ohms: float
    lead_ohms: float
    amperes: float
    most_ohms: float

    @property
    def state(self) -> State:
        """Bad over the limit, whatever the current; below it good only at 1 A or more: a last strand carries less."""
        if self.ohms > self.most_ohms:
            return "bad"
        return "missing" if self.amperes < LEAST_BOND_AMPERES else "good"


@dataclass(frozen=True)
class InsulationFound:
    """An insulation: ohm, V d.c. of the test (0 where nobody said), ohm at least, and whether it was washed."""

    ohms: float
    volts: float
    least_ohms: float
    washed: bool

    @property
    def state(self) -> State:
        """Bad under the limit; above it good only at 500 V."""
        if self.ohms < self.least_ohms:
            return "bad"
        return "missing" if self.volts < LEAST_TEST_VOLTS else "good"


@dataclass(frozen=True)
class TouchFound:
    """Touch currents: the worst, the cases that are to be read, A at most, and ohm of the network."""

    worst: TouchReading | None
    to_read: tuple[TouchReading, ...]
    most_amperes: float
    network_ohms: float

    @property
    def state(self) -> State:
        """Bad as soon as one is over the limit; good once every case is read."""
        if self.worst is not None and self.worst.amperes > self.most_amperes:
            return "bad"
        return "missing" if self.to_read or self.worst is None else "good"


def rule_words(figures: Mapping[str, str]) -> str:
    """Return a rule as one line from its limits by name, as typed; an empty one stays as it is proposed."""
    return ", ".join(f"{name} {figure.strip()}" for name, figure in figures.items() if figure.strip())


def read_rule(text: str) -> LocalRule:
    """Read a local rule; what it does not name stays as it is proposed.

    Raises
    ------
    ValueTextError
        Where a part of it cannot be read or no rule would say so.
    """
    rule = LocalRule()
    for part in filter(None, (p.strip() for p in re.split(r"[;,](?!\d)", text))):
        name, _, rest = part.partition(" ")
        key, unit = FIELDS.get(name.casefold(), ("", ""))
        if not key:
            raise ValueTextError(
                worded("leaving.is_not_a_limit_of_a", part=part, expected=EXPECTED), value=text, expected=EXPECTED
            )
        value = parse_quantity(rest, unit).value
        if not 0 < value <= LARGEST[key]:
            most = engineering(LARGEST[key], unit)
            raise ValueTextError(
                worded("leaving.expected_more_than_and_up_to", part=part, most=most), value=text, expected=EXPECTED
            )
        rule = replace(rule, **{key: value})
    return rule


def judge_earth(ohms: float, lead_ohms: float, amperes: float, rule: LocalRule) -> EarthFound:
    """Judge an earth bond from the plug's pin to the case, ohm, tested at A (0 where nobody said), the lead's ohm in it."""
    return EarthFound(ohms=ohms, lead_ohms=lead_ohms, amperes=amperes, most_ohms=rule.earth_ohms + lead_ohms)


def judge_insulation(ohms: float, volts: float, washed: bool, rule: LocalRule) -> InsulationFound:
    """Judge an insulation, ohm, tested at V d.c.; of what was washed it must be 10 Mohm."""
    least = max(rule.insulation_ohms, WASHED_OHMS if washed else 0.0)
    return InsulationFound(ohms=ohms, volts=volts, least_ohms=least, washed=washed)


def judge_touch(readings: Sequence[TouchReading], rule: LocalRule) -> TouchFound:
    """Judge the touch current: both ways of the plug, switch on and off, the worst taken; the newest of each case counts."""
    newest = {(r.is_reversed, r.is_on): r for r in readings}
    cases = (TouchReading(0.0, turned, on) for turned, on in product((False, True), (True, False)))
    return TouchFound(
        worst=max(newest.values(), key=lambda r: r.amperes, default=None),
        to_read=tuple(c for c in cases if (c.is_reversed, c.is_on) not in newest),
        most_amperes=rule.touch_amperes,
        network_ohms=rule.network_ohms,
    )
