"""The tubes of a job at their operating points: what plate, screen and cathode are known to take."""

from __future__ import annotations

from collections.abc import Mapping
from functools import reduce

from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.finding import Finding
from candor.core.trace.currents import Flow, ResistorLoad, TubePoint, TubeRatings, flow_into, tube_findings
from candor.notebook.work.job import Job

_NOTHING = Flow(0.0, {}, {})
_PASS = ("L", "V", "D", "S")  # besides resistors and tubes, what passes a direct current that nobody measured


def tubes_found(
    job: Job, volts: Mapping[str, float], loads: tuple[ResistorLoad, ...], netlist: Netlist | None = None
) -> tuple[Finding, ...]:
    """Return what the tubes of a job do against their ratings, from what was measured; V, A, W.

    What its resistors bring to a plate or a screen is that tube's alone only where nothing else is known to hang on the node.
    """
    found: list[Finding] = []
    known = {**volts, GROUND: 0.0}

    def into(node: str) -> Flow | None:
        """What the resistors bring to a node that a tube takes."""
        if netlist is None or not node:
            return None
        here = {e.name for e in netlist.elements if e.LETTER == "R" and node in (e.plus, e.minus)}
        known_here = [x for x in loads if x.name in here]
        return flow_into(node, known_here) if known_here and len(known_here) == len(here) else None

    ends: dict[str, list[str]] = {}
    for entry in job.trace.tubes.values():
        for node in filter(None, {entry.body.plate, entry.body.screen}):
            ends.setdefault(node, []).append(entry.body.name)

    def own(node: str, what: str, name: str, shared: list[Finding]) -> Flow | None:
        """What the resistors bring to a plate or a screen, where nothing else is known to hang on its node."""
        flow = into(node)
        others = [x for x in ends.get(node, ()) if x != name]
        others += (
            [e.name for e in netlist.elements if e.LETTER in _PASS and node in (e.plus, e.minus)] if netlist else []
        )
        rail = node in job.power.rails
        if flow is None or not (others or rail):
            return flow
        also = ", ".join(others) or "a rail"
        shared.append(Finding("tube.shared", {"amperes": flow.amperes, "node": node, "also": also, "what": what}))
        return None

    for entry in job.trace.tubes.values():
        b = entry.body
        shared: list[Finding] = []
        cathode = known.get(b.cathode)

        def against(node: str, cathode: float | None = cathode) -> float | None:
            return None if cathode is None or node not in known else known[node] - cathode

        leaves = into(b.cathode)
        plate, screen = (
            own(n, what, b.name, shared) if n else None for n, what in ((b.plate, "plate"), (b.screen, "screen"))
        )
        point = TubePoint(
            name=b.name,
            plate_volts=against(b.plate),
            grid_volts=against(b.grid),
            screen_volts=against(b.screen),
            plate_amperes=plate.amperes if plate is not None else None,
            screen_amperes=(screen.amperes if screen is not None else None) if b.screen else 0.0,
            cathode_amperes=None if leaves is None else -leaves.amperes,
            shared=tuple(shared),
            u_balance=_u_balance([plate, screen if b.screen else _NOTHING, leaves]),
        )
        ratings = TubeRatings(
            plate_volts=b.plate_volts, plate_watts=b.plate_watts, screen_volts=b.screen_volts, screen_watts=b.screen_watts,
            cathode_amperes=b.cathode_amperes, generic=b.generic,
        )  # fmt: skip
        found += tube_findings(point, ratings)
    return tuple(found)


def _u_balance(flows: list[Flow | None]) -> float | None:
    """The standard uncertainty of plate and screen less cathode, A; None where one is not known or two are by one resistor."""
    known = [f for f in flows if f is not None]
    parts = [name for f in known for name in f.by_part]
    if len(known) < len(flows) or len(set(parts)) < len(parts):
        return None
    return reduce(lambda one, other: one.plus(other), known).u
