"""What a jotted line can mean. Each meaning carries the chips that show how it was understood."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from candor.core.jot.evidence_meaning import AgainstJot, FrequencyJot, SetUpJot
from candor.core.jot.plan_meaning import PlanJot
from candor.core.jot.power_meaning import PowerJot
from candor.core.jot.range_meaning import Current as Current
from candor.core.jot.range_meaning import PointsJot as PointsJot
from candor.core.jot.range_meaning import RangeJot as RangeJot
from candor.core.jot.range_meaning import RangeUnit as RangeUnit
from candor.core.jot.release_meaning import EarthJot, TouchJot
from candor.core.jot.soak_meaning import OffJot, OnJot, PastJot, SoakJot, UnwatchJot, WatchJot
from candor.core.jot.trace_meaning import TraceJot
from candor.core.late_dataclass import dataclass
from candor.core.parts.part import Part
from candor.core.reading.reading import Direction

Mark = Literal["hazard", "fix", "note"]
How = Literal["dry", "cleaner", "lubricated", "washed"]
Loss = Literal["", "esr", "d", "pf"]


@dataclass(frozen=True)
class ReadingJot:
    """A reading at the point in hand (or at `point`).

    Attributes
    ----------
    indicated : float or None
        SI magnitude; None where only ticks or only a reference were written.
    ticks : float or None
        Ticks above the mark in hand, where there is no point to turn them into a value.
    reference : float or None
        SI magnitude.
    direction : "up", "down" or ""
    point : str
        Point key, empty for the point in hand.
    read_as : str
        Key of the kind of reading, where it is not the point's own.
    figures : tuple of (str, float)
        What was read, by the names its kind asks for; empty for a needle, whose value is `indicated`.
    """

    indicated: float | None
    ticks: float | None = None
    reference: float | None = None
    direction: Direction = ""
    point: str = ""
    read_as: str = ""
    figures: tuple[tuple[str, float], ...] = ()
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class AdjusterJot:
    """Where the adjuster in hand stood as found, in words, and how far it was turned, + clockwise, None where that is not said."""

    stood: str
    turns: float | None
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class FindingJot:
    """Something found on arrival, by zone."""

    text: str
    mark: Mark
    zone: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class ChangeJot:
    """Something that was done to the instrument; `part` is a part on the list that it replaced, or only disturbed.

    `turned` is the adjuster that was moved, as it was named; `touches` are the listed parts it names otherwise.
    """

    text: str
    chips: tuple[str, ...] = ()
    part: str = ""
    disturbed: bool = False
    turned: str = ""
    touches: str = ""


@dataclass(frozen=True)
class CheckJot:
    """The check that proves the newest change."""

    text: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class ConditionJot:
    """A condition of the room or the line: "celsius", "humidity" or "line_volts", SI or per cent."""

    which: Literal["celsius", "humidity", "line_volts"]
    value: float
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class DetailJot:
    """A detail of the instrument or its stay, such as serial number or owner."""

    field: str
    text: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class DeadJot:
    """The instrument arrived inoperative: there is nothing to read as found."""

    reason: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class NoteJot:
    """Anything else, kept as it was written; `ask` is what is asked first, where it looks as if something else was meant."""

    text: str
    chips: tuple[str, ...] = ()
    ask: str = ""
    meant: tuple[str, ...] = ()


@dataclass(frozen=True)
class HelpJot:
    """What can be typed is asked for."""

    chips: tuple[str, ...] = ("what can be typed here",)


@dataclass(frozen=True)
class PartJot:
    """What was measured on a part.

    Attributes
    ----------
    ref : str
    numbers : mapping of str to float
        value, warm (F or ohm), esr (ohm), dissipation, hertz, leakage (A), leakage_volts, dwell_s, percent.
    state : "", "open", "short" or "intermittent"
    in_circuit : bool
    loss : "", "esr", "d" or "pf"
        As what its loss was written: each kind of meter has its own frequency where none was said.
    """

    ref: str
    numbers: Mapping[str, float]
    state: str = ""
    in_circuit: bool = False
    loss: Loss = ""
    unit: str = ""
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class LimitJot:
    """The limit of leakage of a part by its own sheet, A."""

    part: Part
    amperes: float
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class ShopJot:
    """A setting of the shop: "mains" or "esr_meter", in words that read back."""

    field: Literal["mains", "esr_meter"]
    text: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class DecisionJot:
    """The restorer's own decision about a part, with its reason."""

    ref: str
    action: Literal["keep", "replace"]
    reason: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class SpentJot:
    """Time or money spent on the job: minutes, or an amount."""

    minutes: float
    money: float
    text: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class PriceJot:
    """The price agreed, or what an hour costs."""

    which: Literal["agreed", "an_hour"]
    value: float
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class FunctionJot:
    """A function that the instrument turned out to have."""

    function: str
    faded: bool
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class NotAsDrawnJot:
    """Something of this unit that the drawing has otherwise."""

    text: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class UnaccountedJot:
    """Fasteners that are missing."""

    count: int
    what: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class MassJot:
    """What the instrument weighs, as it was written; `heavy` where two should lift it."""

    text: str
    heavy: bool
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class CleaningJot:
    """Something cleaned, and for how long it dries, s; 0 where it does not."""

    what: str
    how: How
    dry_s: float
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class InsulationJot:
    """Insulation of the mains side to the chassis, ohm, at a test voltage, V (0 where nobody said)."""

    ohms: float
    volts: float
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class JointJot:
    """A poor joint, by where it is."""

    where: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class ResolderJot:
    """The poor joints that were noted are re-soldered: one change."""

    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class ListedJot:
    """A part to be put on the list: its columns as a table of parts has them (part, value, make, role, volts, watts, can, note)."""

    cells: Mapping[str, str]
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class JoinJot:
    """Where a part is joined: the nodes of its ends, as they were written."""

    ref: str
    plus: str
    minus: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class AliasJot:
    """Another name of a node."""

    node: str
    alias: str
    chips: tuple[str, ...] = ()


ArriveJot = (
    FunctionJot | NotAsDrawnJot | UnaccountedJot | MassJot | CleaningJot | InsulationJot | JointJot | ResolderJot
)
Jot = (
    ArriveJot
    | FrequencyJot
    | AgainstJot
    | PowerJot
    | OnJot
    | OffJot
    | SoakJot
    | PastJot
    | WatchJot
    | UnwatchJot
    | EarthJot
    | TouchJot
    | TraceJot
    | PlanJot
    | ListedJot
    | JoinJot
    | AliasJot
    | RangeJot
    | PointsJot
    | ReadingJot
    | AdjusterJot
    | FindingJot
    | ChangeJot
    | CheckJot
    | ConditionJot
    | SetUpJot
    | DetailJot
    | DeadJot
    | NoteJot
    | HelpJot
    | PartJot
    | DecisionJot
    | LimitJot
    | ShopJot
    | SpentJot
    | PriceJot
)
