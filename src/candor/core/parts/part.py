"""A part as the drawing and its markings describe it, and what was measured on it."""

from __future__ import annotations

import re
from typing import Literal

from candor.core.errors import RangeError
from candor.core.finding import Finding
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import in_unit, trimmed
from candor.core.worded import worded

Kind = Literal[
    "capacitor", "resistor", "potentiometer", "inductor", "transformer", "tube", "diode", "lamp", "fuse", "switch", "battery",
    "hardware",
]  # fmt: skip
Role = Literal["mains", "filter", "coupling", "divider", "timing", "dropper", "bypass", "load", "other"]
Make = Literal[
    "electrolytic", "tantalum", "paper", "film", "mica", "ceramic",
    "carbon composition", "carbon film", "metal film", "wirewound", "",
]  # fmt: skip
Mains = Literal["", "line to line", "line to chassis"]

# The unit of what is marked on a kind; the others have a type, and no value.
UNITS: dict[str, str] = {
    "capacitor": "F", "resistor": "ohm", "potentiometer": "ohm", "inductor": "H", "fuse": "A", "lamp": "V", "battery": "V",
}  # fmt: skip
VALUED = ("capacitor", "resistor")  # what is nothing without its value
# What stands together on the list, the riskiest first; which role goes where.
GROUPS = (
    "across the mains",
    "filter and rails",
    "into a grid",
    "sets the accuracy",
    "carries the current",
    "the rest",
)
GROUP_OF: dict[Role, str] = {
    "mains": GROUPS[0], "filter": GROUPS[1], "coupling": GROUPS[2], "divider": GROUPS[3], "timing": GROUPS[3],
    "dropper": GROUPS[4], "load": GROUPS[4], "bypass": GROUPS[5], "other": GROUPS[5],
}  # fmt: skip
# Which make goes first among parts of one group: common practice, no source.
RISKY_MAKES = ("paper", "electrolytic", "carbon composition", "tantalum", "", "ceramic", "carbon film", "wirewound",
               "film", "metal film", "mica")  # fmt: skip
# Tolerance where nothing is marked, (below, above): vintage habits, common practice, no source.
USUAL_TOLERANCE: dict[str, tuple[float, float]] = {
    "electrolytic": (0.10, 0.50), "paper": (0.20, 0.20), "ceramic": (0.20, 0.20), "carbon composition": (0.10, 0.10),
    "": (0.20, 0.20), "tantalum": (0.20, 0.20), "film": (0.10, 0.10), "mica": (0.10, 0.10), "carbon film": (0.05, 0.05),
    "metal film": (0.01, 0.01), "wirewound": (0.10, 0.10),
}  # fmt: skip


@dataclass(frozen=True)
class Part:
    """One part worth a look.

    Attributes
    ----------
    ref : str
        Designator; of a section of a can with a space and a letter: "C41 a".
    kind, make, role
    nominal : float
        F or ohm.
    below, above : float or None
        Tolerance as shares; None where nothing is marked.
    volts, watts : float
        Ratings, 0 where unknown.
    can : str
        Name of the can it is a section of.
    mains : "", "line to line" or "line to chassis"
    volts_across : float
        What the circuit puts across it in use, V; 0 where unknown.
    no_load_volts : float
        What its rail reaches before the tubes draw, V; 0 where unknown.
    grid_ohms : float
        Resistance from the grid it feeds to where that grid is held; 0 where unknown.
    tap : tuple of (str, str, str)
        Top, tap and bottom node of the divider it is in; empty names where it is in none.
    fitted : bool
        False where this unit has none.
    leakage_limit : float
        A at its rating, from its own sheet; 0 where there is none.
    type : str
        What it is called where it has a type: "6AU6".
    """

    ref: str
    kind: Kind
    nominal: float
    make: Make = ""
    role: Role = "other"
    below: float | None = None
    above: float | None = None
    volts: float = 0.0
    watts: float = 0.0
    can: str = ""
    mains: Mains = ""
    volts_across: float = 0.0
    no_load_volts: float = 0.0
    grid_ohms: float = 0.0
    tap: tuple[str, str, str] = ("", "", "")
    note: str = ""
    fitted: bool = True
    leakage_limit: float = 0.0
    type: str = ""

    def __post_init__(self) -> None:
        if self.kind not in VALUED and 0 <= self.nominal < float("inf"):
            return
        if not 0 < self.nominal < float("inf"):
            unit = "farad" if self.kind == "capacitor" else "ohm"
            raise RangeError(
                worded("parts.its_value_is_expected_one_above", ref=self.ref, nominal=self.nominal, unit=unit),
                place=self.ref,
            )

    @property
    def unit(self) -> str:
        """Of its value: F, ohm, H, A or V; empty where it has none."""
        return UNITS.get(self.kind, "")

    @property
    def tolerance(self) -> tuple[float, float]:
        """Below and above, as shares; what was usual for its make where nothing is marked."""
        usual = USUAL_TOLERANCE[self.make]
        return (usual[0] if self.below is None else self.below, usual[1] if self.above is None else self.above)

    @property
    def limits(self) -> tuple[float, float]:
        """Lowest and highest value inside the tolerance, F or ohm."""
        below, above = self.tolerance
        return self.nominal * (1 - below), self.nominal * (1 + above)

    @property
    def working_volts(self) -> float:
        """What it must stand in use: what the circuit puts across it, its rating where that is unknown."""
        return self.volts_across or self.volts

    @property
    def needed_volts(self) -> float:
        """What a new one must be rated for, V: the rail before the tubes draw; where that is not known, as the old one."""
        return max(self.volts_across, self.no_load_volts or self.volts)

    @property
    def group(self) -> str:
        """What it stands with on the list."""
        return GROUPS[0] if self.mains else GROUP_OF[self.role]

    @property
    def words(self) -> str:
        """Value, tolerance and rating as people write them: ``20 µF 450 V``, ``330 kΩ 5 %``."""
        said: list[str] = [] if self.kind in VALUED else [self.kind]
        said += [self.type] if self.type else []
        said += [engineering(self.nominal, self.unit)] if self.nominal and self.unit else []
        if self.below is not None and self.above is not None:
            below, above = trimmed(100 * self.below), trimmed(100 * self.above)
            said.append(f"{above} %" if below == above else f"−{below}/+{above} %")
        if self.volts:
            said.append(in_unit(self.volts, "V"))
        if self.watts:
            said.append(in_unit(self.watts, "W"))
        return " ".join(said)


@dataclass(frozen=True)
class Measured:
    """What is known of a part from measuring it; None where it was not measured.

    Attributes
    ----------
    value, warm_value : float or None
        F or ohm; for resistors cold, and after about ten minutes of warmth.
    state : "", "open", "short" or "intermittent"
    in_circuit : bool
        The value was read with everything connected.
    dissipation : float or None
        At `hertz`; 0 where nobody said at which.
    esr : float or None
        What that comes from, ohm; None where D itself was read.
    leakage : float or None
        A, at `leakage_volts` after `dwell_s`.
    reformed : str
        How a reforming run ended: "", "came back", "no progress", "stopped".
    value_share, leakage_share : float
        Expanded uncertainty (k = 2) as a share of the reading.
    simulated : bool
        The leakage was read on the simulated tester: practice, no evidence.
    assumed : frozenset of "value", "leakage"
        Figures whose uncertainty was not stated and is taken as usual for a bench meter.
    entries : tuple of int
        Numbers of the entries this comes from.
    """

    value: float | None = None
    warm_value: float | None = None
    state: Literal["", "open", "short", "intermittent", "good", "worn", "weak", "leaky"] = ""
    in_circuit: bool = False
    dissipation: float | None = None
    esr: float | None = None
    hertz: float = 0.0
    leakage: float | None = None
    leakage_volts: float = 0.0
    dwell_s: float = 0.0
    reformed: str = ""
    value_share: float = 0.01
    leakage_share: float = 0.05
    simulated: bool = False
    assumed: frozenset[str] = frozenset()
    entries: tuple[int, ...] = ()

    @property
    def nothing(self) -> bool:
        """Whether nothing was measured at all."""
        return not self.state and self.value is None and self.dissipation is None and self.leakage is None


def whose_tolerance(part: Part) -> Finding:
    """Return whose its tolerance is: marked on it, or usual for its make."""
    return Finding("tolerance.usual" if part.below is None else "tolerance.marked")


def by_designator(ref: str) -> tuple[str, int, str]:
    """Return a key that sorts designators as people do: C2 before C10, C41 a before C41 b."""
    match = re.match(r"([A-Za-z]*)(\d*)(.*)", ref)
    letters, digits, rest = match.groups() if match else (ref, "", "")
    return letters.upper(), int(digits or 0), rest.strip()


def risk_key(part: Part) -> tuple[int, int, tuple[str, int, str]]:
    """Return a key that puts the riskiest first: by what it can spoil, by its make, by its designator."""
    return GROUPS.index(part.group), RISKY_MAKES.index(part.make), by_designator(part.ref)
