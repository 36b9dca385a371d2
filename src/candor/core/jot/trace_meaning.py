"""What a line of the trace means; one class for each kind."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from candor.core.late_dataclass import dataclass


@dataclass(frozen=True)
class NodeReadJot:
    """A node as read, V, with a meter of so many ohm, 0 where nothing is said."""

    node: str
    volts: float
    meter_ohms: float = 0.0
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class NodeDrawnJot:
    """A node by the drawing, V, and the meter it assumed: ohm per volt on a range, V."""

    node: str
    volts: float
    ohms_per_volt: float = 0.0
    range_volts: float = 0.0
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class PairJot:
    """Ohm between two nodes, the other way round, and the volts that stood there."""

    one: str
    other: str
    ohms: float
    turned_ohms: float | None = None
    volts: float = 0.0
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class TubeJot:
    """Where a tube is joined, node by end, and what it bears: V, W, A by `plate_volts` and the like."""

    name: str
    ends: Mapping[str, str]
    bears: Mapping[str, float]
    generic: str = ""
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class StageJot:
    """A stage of the signal's way, its weight, min of a look behind it, and the band of a number read there."""

    name: str
    weight: float = 1.0
    minutes: float = 3.0
    low: float = 0.0
    high: float = 0.0
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class LookJot:
    """A look behind a stage: its outcome, or a number that its band judges."""

    stage: str
    outcome: Literal["good", "bad", "odd", ""]
    value: float | None = None
    lifted: bool = False
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class LeadJot:
    """The lead and the signal were proved."""

    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class CauseJot:
    """The cause that was found."""

    text: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class WorsenedJot:
    """What worked and stopped working."""

    text: str
    chips: tuple[str, ...] = ()


TraceJot = NodeReadJot | NodeDrawnJot | PairJot | TubeJot | StageJot | LookJot | LeadJot | CauseJot | WorsenedJot
