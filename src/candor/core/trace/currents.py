"""Currents and watts in every resistor whose ends were measured, what a node leaves over, and tubes against their ratings."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

from candor.core.circuit.elements import Element, Resistor
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.finding import Figure, Finding
from candor.core.late_dataclass import dataclass
from candor.core.trace.nodes import METER_SHARE

NO_AMPERES = 1e-6  # of a plate, under which it draws no current
LEAST_AMPERES = 1e-7  # by which plate and screen must differ from the cathode before it is said
HALF = 0.5  # of a rating, over which a resistor of the period ages: common practice, no source


@dataclass(frozen=True)
class ResistorLoad:
    """What a resistor carries.

    Attributes
    ----------
    name : str
    amperes : float
        From its first node to its second.
    watts, rated : float
        W; rated 0 where it is not known.
    ends : (str, str)
        Its first node and its second.
    u_ends : (float, float)
        What the reading of each end brings to the current, standard uncertainty, A.
    u_own : float
        What its tolerance brings, A.
    """

    name: str
    amperes: float
    watts: float
    rated: float
    ends: tuple[str, str]
    u_ends: tuple[float, float]
    u_own: float

    @property
    def is_over(self) -> bool:
        """Whether it is over its rating."""
        return 0 < self.rated < self.watts


def resistor_loads(
    netlist: Netlist, volts: Mapping[str, float], tolerances: Mapping[str, float], ratings: Mapping[str, float]
) -> tuple[ResistorLoad, ...]:
    """Return what every resistor carries whose ends were both measured, A and W by Ohm's law; the chassis is at 0 V.

    Parameters
    ----------
    netlist : Netlist
    volts : mapping of str to float
        Open node voltages, V.
    tolerances : mapping of str to float
        By resistor, as a share.
    ratings : mapping of str to float
        By resistor, W.
    """
    known = {**volts, GROUND: 0.0}
    found = []
    for e in netlist.elements:
        if not isinstance(e, Resistor) or e.plus not in known or e.minus not in known:
            continue
        one, other = known[e.plus], known[e.minus]
        across = one - other
        u_share = tolerances.get(e.name, 0.1) / math.sqrt(3)
        amperes = across / e.value
        found.append(
            ResistorLoad(
                name=e.name,
                amperes=amperes,
                watts=across * amperes,
                rated=ratings.get(e.name, 0.0),
                ends=(e.plus, e.minus),
                u_ends=(
                    METER_SHARE / math.sqrt(3) * abs(one) / e.value,
                    METER_SHARE / math.sqrt(3) * abs(other) / e.value,
                ),
                u_own=abs(amperes) * u_share,
            )
        )
    return tuple(found)


@dataclass(frozen=True)
class Flow:
    """What resistors bring to a node, A; what each reading and each resistor brings to it, signed, as standard uncertainties, A.

    The reading of a node is in every resistor there: its error moves them all at once (JCGM 100:2008, 5.2.2).
    """

    amperes: float
    by_node: Mapping[str, float]
    by_part: Mapping[str, float]

    @property
    def u(self) -> float:
        """Standard uncertainty, A."""
        return math.hypot(*self.by_node.values(), *self.by_part.values())

    def plus(self, other: Flow, sign: float = 1.0) -> Flow:
        """Return both together, or their difference: what they share stays one."""
        nodes, parts = dict(self.by_node), dict(self.by_part)
        for held, added in ((nodes, other.by_node), (parts, other.by_part)):
            for name, u in added.items():
                held[name] = held.get(name, 0.0) + sign * u
        return Flow(self.amperes + sign * other.amperes, nodes, parts)


def flow_into(node: str, loads: Iterable[ResistorLoad]) -> Flow:
    """Return what resistors that end at a node bring to it, A: their sum by signs (Kirchhoff's current law, Ohm's law)."""
    total = Flow(0.0, {}, {})
    for load in loads:
        sign = 1.0 if load.ends[1] == node else -1.0
        by_node = {load.ends[0]: sign * load.u_ends[0], load.ends[1]: -sign * load.u_ends[1]}
        total = total.plus(Flow(sign * load.amperes, by_node, {load.name: sign * load.u_own}))
    return total


@dataclass(frozen=True)
class NodeSum:
    """What the resistors at a node leave over: A that must go somewhere else, with U (k = 2)."""

    node: str
    amperes: float
    expanded: float
    names: tuple[str, ...]

    @property
    def adds_up(self) -> bool:
        """Whether nothing need go elsewhere."""
        return abs(self.amperes) <= self.expanded


def node_sums(
    netlist: Netlist, loads: tuple[ResistorLoad, ...], taps: Mapping[str, str] | None = None
) -> tuple[NodeSum, ...]:
    """Return for each node whose resistors all carry a known current what flows out of it otherwise, A (Kirchhoff's current law).

    Parameters
    ----------
    netlist : Netlist
    loads : tuple of ResistorLoad
    taps : mapping of str to str, optional
        Nodes where something else, such as a tube's plate, takes current: said there, not suspected.
    """
    by_name = {load.name: load for load in loads}
    at: dict[str, list[Element]] = {}
    for e in netlist.elements:
        for node in dict.fromkeys((e.plus, e.minus)) if e.CONDUCTS else ():
            at.setdefault(node, []).append(e)
    made = []
    for node in netlist.nodes[1:]:
        here = at.get(node, [])
        if not here or node in (taps or {}) or any(e.name not in by_name for e in here) or len(here) < 2:
            continue
        left = flow_into(node, (by_name[e.name] for e in here))
        made.append(NodeSum(node, left.amperes, 2 * left.u, tuple(e.name for e in here)))
    return tuple(made)


@dataclass(frozen=True)
class TubeRatings:
    """What a tube bears: plate and screen, V and W; cathode current, A; 0 where it is not known."""

    plate_volts: float = 0.0
    plate_watts: float = 0.0
    screen_volts: float = 0.0
    screen_watts: float = 0.0
    cathode_amperes: float = 0.0
    generic: str = ""  # the kind of tube they are of, where they are of the kind alone


@dataclass(frozen=True)
class TubePoint:
    """A tube's operating point as measured; V against its cathode, A, W; None where it cannot be known.

    `shared` says of each current that is not known, because other things hang on the same node, what they are. `u_balance` is the
    standard uncertainty, A, of plate and screen less cathode; None where one resistor gives more than one of them.
    """

    name: str
    plate_volts: float | None
    grid_volts: float | None
    screen_volts: float | None
    plate_amperes: float | None
    screen_amperes: float | None
    cathode_amperes: float | None
    shared: tuple[Finding, ...] = ()
    u_balance: float | None = None

    @property
    def plate_watts(self) -> float | None:
        """What the plate turns into heat, W."""
        return (
            None if self.plate_volts is None or self.plate_amperes is None else self.plate_volts * self.plate_amperes
        )

    @property
    def screen_watts(self) -> float | None:
        """What the screen does, W."""
        return (
            None
            if self.screen_volts is None or self.screen_amperes is None
            else self.screen_volts * self.screen_amperes
        )


def tube_findings(point: TubePoint, ratings: TubeRatings) -> tuple[Finding, ...]:
    """Return what a tube's point, V, A and W, says against its maximum ratings, and what cannot be: plate and screen take what the
    cathode passes (Kirchhoff's current law)."""
    at: dict[str, Figure] = {"tube": point.name}
    of_kind = Finding("tube.generic", {"generic": ratings.generic}) if ratings.generic else ""
    found = []
    for value, most, what, unit in (
        (point.plate_volts, ratings.plate_volts, "plate", "V"), (point.plate_watts, ratings.plate_watts, "plate", "W"),
        (point.screen_volts, ratings.screen_volts, "screen", "V"), (point.screen_watts, ratings.screen_watts, "screen", "W"),
        (point.cathode_amperes, ratings.cathode_amperes, "cathode", "A"),
    ):  # fmt: skip
        if value is not None and most and value > most:
            alone = Finding("tube.alone", {"what": what}) if unit == "W" else ""
            over: dict[str, Figure] = {
                "what": what,
                "value": value,
                "most": most,
                "unit": unit,
                "generic": of_kind,
                "alone": alone,
            }
            found.append(Finding("tube.over", at | over))
    if (
        point.screen_volts is not None
        and point.plate_volts is not None
        and point.screen_volts > point.plate_volts > 0
    ):
        found.append(Finding("tube.screen", at))
    found += [Finding(one.kind, {**at, **one.figures}) for one in point.shared]
    if point.plate_amperes is not None and point.plate_volts and abs(point.plate_amperes) < NO_AMPERES:
        found.append(Finding("tube.dead", at))
    if None not in (point.plate_amperes, point.cathode_amperes) and point.screen_amperes is not None:
        total = (point.plate_amperes or 0) + point.screen_amperes
        cathode = point.cathode_amperes or 0
        if point.u_balance is not None and abs(total - cathode) > max(2 * point.u_balance, LEAST_AMPERES):
            takes = Finding("tube.plate" if point.screen_volts is None else "tube.both")
            found.append(
                Finding(
                    "tube.balance",
                    at | {"takes": takes, "total": total, "cathode": cathode, "expanded": 2 * point.u_balance},
                )
            )
    return tuple(found)
