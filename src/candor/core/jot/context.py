"""What is in hand while a line is written."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from candor.core.calibration.point import TestPoint
from candor.core.late_dataclass import dataclass
from candor.core.parts.part import Part
from candor.core.reference.chains import Chain
from candor.core.reference.reference import Reference


@dataclass(frozen=True)
class JotContext:
    """What is in hand while the line is written.

    Attributes
    ----------
    point : TestPoint or None
        The point that a bare number or ticks belong to.
    zones : tuple of (str, str)
        Key and title of each zone of the instrument, to place a finding.
    parts : mapping of str to Part
        The job's parts list by designator.
    makes_points : bool
        A further point of the point's range is in hand: a bare number says which.
    events : tuple of str
        What the state on the way up expects: such words alone are events.
    served : Reference, Chain or None
        What the point is read against: of a chain the link that is read is what is typed.
    items : tuple of (str, str)
        Zone and item of every checklist of the instrument: a line that names one is a finding.
    case_can_be_live : bool
        Something may join the case to the line: two wires and no earth are a hazard then.
    stop : str
        The stop that is shown: a line that is nearly one of that stop's is likely meant as one.
    """

    point: TestPoint | None = None
    zones: tuple[tuple[str, str], ...] = ()
    parts: Mapping[str, Part] = field(default_factory=dict)
    makes_points: bool = False
    events: tuple[str, ...] = ()
    served: Reference | Chain | None = None
    items: tuple[tuple[str, str], ...] = ()
    case_can_be_live: bool = False
    stop: str = ""
