"""The tubes of a job at their operating points: what plate, screen and cathode are known to take."""

from __future__ import annotations

from collections.abc import Mapping

from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.quantities import engineering
from candor.core.trace.currents import ResistorLoad, TubePoint, TubeRatings, say_tube
from candor.notebook.work.job import Job

_PASS = ("L", "V", "D", "S")  # besides resistors and tubes, what passes a direct current that nobody measured


def tubes_said(
    job: Job, volts: Mapping[str, float], loads: tuple[ResistorLoad, ...], netlist: Netlist | None = None
) -> tuple[str, ...]:
    """Return what the tubes of a job do against their ratings, from what was measured; V, A, W.

    What its resistors bring to a plate or a screen is that tube's alone only where nothing else is known to hang on the node.
    """
    said: list[str] = []
    known = {**volts, GROUND: 0.0}

    def into(node: str) -> float | None:
        """What the resistors bring to a node that a tube takes."""
        if netlist is None or not node:
            return None
        here = {
            e.name: 1.0 if e.minus == node else -1.0
            for e in netlist.elements
            if e.LETTER == "R" and node in (e.plus, e.minus)
        }
        flows = [here[x.name] * x.amperes for x in loads if x.name in here]
        return sum(flows) if flows and len(flows) == len(here) else None

    ends: dict[str, list[str]] = {}
    for entry in job.trace.tubes.values():
        for node in filter(None, {entry.body.plate, entry.body.screen}):
            ends.setdefault(node, []).append(entry.body.name)

    def own(node: str, what: str, name: str, shared: list[str]) -> float | None:
        """What the resistors bring to a plate or a screen, where nothing else is known to hang on its node."""
        amperes = into(node)
        others = [x for x in ends.get(node, ()) if x != name]
        others += (
            [e.name for e in netlist.elements if e.LETTER in _PASS and node in (e.plus, e.minus)] if netlist else []
        )
        rail = node in job.power.rails
        if amperes is None or not (others or rail):
            return amperes
        also = ", ".join(others) or "a rail"
        shared.append(
            f"{engineering(amperes, 'A', 3)} reach {node}, which is also {also}: what its {what} takes of it is not known."
        )
        return None

    for entry in job.trace.tubes.values():
        b = entry.body
        shared: list[str] = []
        cathode = known.get(b.cathode)

        def against(node: str, cathode: float | None = cathode) -> float | None:
            return None if cathode is None or node not in known else known[node] - cathode

        leaves = into(b.cathode)
        point = TubePoint(
            name=b.name,
            plate_volts=against(b.plate),
            grid_volts=against(b.grid),
            screen_volts=against(b.screen),
            plate_amperes=own(b.plate, "plate", b.name, shared),
            screen_amperes=own(b.screen, "screen", b.name, shared) if b.screen else 0.0,
            cathode_amperes=None if leaves is None else -leaves,
            shared=tuple(shared),
        )
        ratings = TubeRatings(
            plate_volts=b.plate_volts, plate_watts=b.plate_watts, screen_volts=b.screen_volts, screen_watts=b.screen_watts,
            cathode_amperes=b.cathode_amperes, generic=b.generic,
        )  # fmt: skip
        said += say_tube(point, ratings)
    return tuple(said)
