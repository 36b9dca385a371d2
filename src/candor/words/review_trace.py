"""Examples of every sentence of the trace."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

from candor.core.circuit.netlist import parse_netlist
from candor.core.finding import Finding
from candor.core.trace.currents import NodeSum, TubePoint, TubeRatings, resistor_loads, tube_findings
from candor.core.trace.nodes import NodeExpected, NodeMeasured, judge_node
from candor.core.trace.pairs import PairRead, judge_pair
from candor.core.trace.signal import Trail
from candor.words import trace_words

NETWORK = parse_netlist("R1 b1 n3 22k\nR2 n3 n4 68k\nR3 n4 0 10k")
DRAWN = NodeExpected(150.0, 0.2, "drawing")
TUBE = TubePoint(
    name="V2", plate_volts=271.0, grid_volts=-3.0, screen_volts=285.0, plate_amperes=0.024, screen_amperes=0.006,
    cathode_amperes=0.018, shared=(Finding("tube.shared", {"amperes": 0.004, "node": "n3", "also": "V3", "what": "screen"}),),
    u_balance=0.001,
)  # fmt: skip
LIMITS = TubeRatings(plate_volts=250.0, plate_watts=5.0, generic="small power pentode")


def traced_examples() -> Iterator[tuple[str, str, str]]:
    """Yield (topic, finding, sentence)."""
    topic = "A node"
    for name, volts, meter, expected in (
        ("as expected", 143.0, math.inf, DRAWN), ("low, and a meter that loads", 96.0, 1e6, DRAWN),
        ("high", 190.0, math.inf, DRAWN),
        ("should be at 0 V", 1.4, math.inf, NodeExpected(0.0, 0.25, "calculated")),
        ("at 0 V as it should be", 0.02, math.inf, NodeExpected(0.0, 0.1, "sister")), ("nothing says", 61.0, math.inf, None),
    ):  # fmt: skip
        yield topic, name, trace_words.say_node(judge_node("n3", NodeMeasured(volts, meter), expected, 47e3))
    topic = "Ohms between two nodes"
    for name, read in (
        ("as expected", PairRead(21.4e3)), ("low", PairRead(1.2e3)), ("high, as a neighbour would read", PairRead(91e3)),
        ("differs by direction", PairRead(9e3, 21e3)), ("not quiet", PairRead(21e3, volts=0.031)),
    ):  # fmt: skip
        yield topic, name, trace_words.say_pair(judge_pair(NETWORK, "b1", "n3", read))
    topic = "Currents"
    at = {"b1": 290.0, "n3": 214.0, "n4": 27.0}
    for rated in (0.0, 0.25, 0.5, 1.0):
        load = resistor_loads(NETWORK, at, {}, {"R1": rated} if rated else {})[0]
        yield topic, f"rated {rated:g} W" if rated else "no rating known", trace_words.say_load(load)
    for name, amperes in (("adds up", 0.1e-3), ("flows away", 1.4e-3), ("comes in", -1.4e-3)):
        yield topic, name, trace_words.say_sum(NodeSum("n3", amperes, 0.3e-3, ("R1", "R2")))
    for sentence in trace_words.say_tubes(tube_findings(TUBE, LIMITS)):
        yield topic, "a tube", sentence
    triode = replace(
        TUBE, name="V4", screen_volts=None, plate_amperes=0.0, screen_amperes=0.0, cathode_amperes=5e-3, shared=()
    )
    for sentence in trace_words.say_tubes(tube_findings(triode, TubeRatings())):
        yield topic, "a triode", sentence
    topic = "What would explain it"
    yield (
        topic,
        "the signal is lost",
        trace_words.say_trail(Trail("second stage", 0.96, ("first stage",), ("output",))),
    )
    yield topic, "with nothing beside it", trace_words.say_trail(Trail("second stage", 0.96, (), ()))
    yield topic, "nothing is unproven", trace_words.say_worsened(None)
