"""What a set-up brings between the reference and the instrument: leads, thermal e.m.f., hum, stray capacitance, regulation.

The usual figures are common practice, no source; a measured one rules.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from candor.core.calibration.point import TestPoint
from candor.core.late_dataclass import dataclass
from candor.core.uncertainty.budget import Contribution, rectangular
from candor.core.worded import worded

Which = Literal["leads", "thermal", "hum", "stray", "regulation"]


@dataclass(frozen=True)
class TermKind:
    """A kind of term.

    Attributes
    ----------
    name : str
        In a budget.
    unit : str
        Of its figure, SI; "1" for a share of what is applied.
    usual : str
        A usual figure, as it is typed.
    """

    name: str
    unit: str
    usual: str


KINDS: dict[Which, TermKind] = {
    "leads": TermKind("leads and contacts", "ohm", "leads 0.2 ohm U 0.05 ohm"),
    "thermal": TermKind("thermal e.m.f.", "V", "thermal emf 5 uV"),
    "hum": TermKind("hum picked up", "V", "hum 2 mV"),
    "stray": TermKind("stray capacitance", "F", "stray 3 pF U 1 pF"),
    "regulation": TermKind(worded("calibration.source_while_it_is_read"), "1", "source holds 0.02 %"),
}


@dataclass(frozen=True)
class SetUpTerm:
    """A term as it was said.

    Attributes
    ----------
    which : str
        One of KINDS.
    value : float
        SI, or a share. With U what is added to the reference; without it how far it may be off either way.
    expanded : float
        Its U, k = 2; 0 where none was said.
    """

    which: Which
    value: float
    expanded: float = 0.0

    @property
    def correction(self) -> float:
        """What is added to what the reference shows, SI; 0 where only a half-width was said."""
        return self.value if self.expanded else 0.0

    def touches(self, point: TestPoint) -> bool:
        """Whether it stands between a reference and a point: leads count in ohms, stray capacitance in farads, e.m.f. in volts."""
        unit, alternating = point.asked_unit, point.current == "a.c."
        if self.which == "regulation":
            return unit in ("V", "A")
        if self.which in ("thermal", "hum"):
            return unit == "V" and alternating == (self.which == "hum")
        return unit == KINDS[self.which].unit


def set_up(terms: Iterable[SetUpTerm], point: TestPoint, shown: float) -> tuple[float, list[Contribution]]:
    """Return what a set-up adds to what a reference shows at a point, and its contributions, both in the unit of the reference.

    A figure with U is a correction (JCGM 100:2008, 3.2.3) with a normal of U/2 (4.3.3); one without is a rectangle (4.3.7).

    Parameters
    ----------
    terms : iterable of SetUpTerm
        Those that do not touch the point count for nothing.
    point : TestPoint
    shown : float
        SI.
    """
    added, brought = 0.0, list[Contribution]()
    for term in terms:
        if not term.touches(point):
            continue
        kind, scale = KINDS[term.which], abs(shown) if KINDS[term.which].unit == "1" else 1.0
        added += term.correction * scale
        if term.expanded:
            u = term.expanded * scale / 2
            brought.append(Contribution(kind.name, u, reason=worded("calibration.as_measured_here_with_its_u")))
        elif term.value:
            brought.append(
                rectangular(kind.name, abs(term.value) * scale, worded("calibration.as_said_of_this_set_up"))
            )
    return added, brought
