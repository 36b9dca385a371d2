"""A job's trace: every node with what it should be, what resistors carry, what does not add up, and where to look next."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from candor.core.circuit.elements import VoltageSource
from candor.core.circuit.netlist import GROUND, Netlist
from candor.core.errors import CandorError, RangeError
from candor.core.finding import Finding
from candor.core.jot.slots import node_name
from candor.core.jot.trace_meaning import (
    CauseJot,
    LeadJot,
    LookJot,
    NodeDrawnJot,
    NodeReadJot,
    PairJot,
    StageJot,
    TraceJot,
    TubeJot,
    WorsenedJot,
)
from candor.core.late_dataclass import dataclass
from candor.core.trace.currents import (
    NodeSum,
    ResistorLoad,
    node_sums,
    resistor_loads,
)
from candor.core.trace.expected_nodes import Tube, calculate_nodes
from candor.core.trace.nodes import (
    CALCULATED,
    DRAWN,
    SISTER,
    NodeExpected,
    NodeJudged,
    NodeMeasured,
    drawn_open,
    judge_node,
    source_resistances,
)
from candor.core.trace.pairs import PairJudged, judge_pair
from candor.core.trace.pairs import PairRead as Ohms
from candor.core.trace.path import NodeChain, chain_through
from candor.core.trace.signal import Advice, Look, Stage, Trail, belief, next_look, trail
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.trace_entries import (
    CauseFound,
    LeadProved,
    LookTaken,
    NodeDrawn,
    NodeRead,
    PairRead,
    StageSaid,
    TubeJoined,
    Worsened,
)
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.trace.on_board import BESIDE, USUAL_METER_OHMS, held_nodes
from candor.notebook.trace.tracing import aliases_of
from candor.notebook.tubes.tube_points import tubes_found
from candor.notebook.work.job import Job
from candor.packs.model import Pack


@dataclass(frozen=True)
class NodeLine:
    """A node: other names people find it by, what it should be, and what it is; None where that is not known or not read."""

    node: str
    aliases: tuple[str, ...]
    expected: NodeExpected | None
    judged: NodeJudged | None


@dataclass(frozen=True)
class NodesView:
    """All nodes, and what follows from them.

    Attributes
    ----------
    lines : tuple of NodeLine
    loads : tuple of ResistorLoad
    sums : tuple of NodeSum
        What nodes leave over, those that do not add up.
    tubes : tuple of Finding
        Tubes beyond their ratings, and what cannot be.
    """

    lines: tuple[NodeLine, ...]
    loads: tuple[ResistorLoad, ...]
    sums: tuple[NodeSum, ...]
    tubes: tuple[Finding, ...]


@dataclass(frozen=True)
class SignalView:
    """The chain: its stages, the belief in each (1) and last in the lead, the looks, the next, and where they lead."""

    stages: tuple[Stage, ...]
    belief: tuple[float, ...]
    looks: tuple[Look, ...]
    next: Advice | None
    trail: Trail | None


def trace_bodies(jot: TraceJot, job: Job, pack: Pack | None = None) -> tuple[Body, ...]:
    """Return the entries that a line of the trace becomes; nodes by any name that the job or its pack has for them.

    Raises
    ------
    RangeError
        Where a look is behind a stage that nobody named, or a number has no band.
    """
    aliases = aliases_of(job, pack)
    match jot:
        case NodeReadJot():
            return (NodeRead(node=node_of(aliases, jot.node), volts=jot.volts, meter_ohms=jot.meter_ohms),)
        case NodeDrawnJot():
            said = {"volts": jot.volts, "ohms_per_volt": jot.ohms_per_volt, "range_volts": jot.range_volts}
            return (NodeDrawn.model_validate({"node": node_of(aliases, jot.node), **said}),)
        case PairJot():
            one, other = node_of(aliases, jot.one), node_of(aliases, jot.other)
            return (PairRead(one=one, other=other, ohms=jot.ohms, turned_ohms=jot.turned_ohms, volts=jot.volts),)
        case TubeJot():
            ends = {end: node_of(aliases, node) for end, node in jot.ends.items()}
            return (TubeJoined.model_validate({"name": jot.name, **ends, **jot.bears, "generic": jot.generic}),)
        case StageJot():
            return (StageSaid(name=jot.name, weight=jot.weight, minutes=jot.minutes, low=jot.low, high=jot.high),)
        case LookJot():
            return (_look(jot, job),)
        case LeadJot():
            return (LeadProved(),)
        case CauseJot():
            return (CauseFound(text=jot.text),)
        case WorsenedJot():
            return (Worsened(text=jot.text),)


def _look(jot: LookJot, job: Job) -> LookTaken:
    known = job.trace.stages.get(jot.stage.casefold())
    if known is None:
        named = ", ".join(e.body.name for e in job.trace.stages.values()) or "none yet"
        raise RangeError(
            worded("trace.is_not_a_stage_of_this", stage=jot.stage, named=named),
            value=jot.stage,
        )
    body, outcome = known.body, jot.outcome
    if not outcome and jot.value is not None:
        if body.low == body.high:
            raise RangeError(
                worded("trace.has_no_band_for_a_number", name=body.name),
                value=jot.stage,
            )
        outcome = Stage(body.name, low=body.low, high=body.high).outcome_of(jot.value)
    return LookTaken.model_validate(
        {"stage": body.name, "outcome": outcome, "value": jot.value, "lifted": jot.lifted}
    )


def node_of(aliases: Mapping[str, str], words: str) -> str:
    """Return the node that words name: itself, or the one of that other name (node by alias)."""
    known = {node_name(alias): node for alias, node in aliases.items()}
    name, seen = node_name(words), set[str]()
    while name in known and name not in seen:
        seen.add(name)
        name = node_name(known[name])
    return name


def nodes_view(job: Job, parts: PartsList | None, sisters: Mapping[str, float], line_ratio: float = 1.0) -> NodesView:
    """Return every node of a job and what follows.

    Parameters
    ----------
    job : Job
    parts : PartsList or None
    sisters : mapping of str to float
        Node volts of healthy ones of its type.
    line_ratio : float
        The line as measured over its nominal.
    """
    netlist = parts.circuit.netlist if parts is not None and parts.circuit is not None else None
    read = {
        node: NodeMeasured(e.body.volts, e.body.meter_ohms or USUAL_METER_OHMS) for node, e in job.trace.read.items()
    }
    held = held_nodes(job, netlist)
    # A rail is held by its supply: a meter pulls nothing down there.
    asked = {*read, *job.trace.drawn}
    source = dict.fromkeys(asked & held, 0.0)
    if netlist is not None:
        source.update(source_resistances(netlist, asked - held, held))
    calculated = _calculated(netlist, job, read, held)
    names = dict.fromkeys((*(netlist.nodes[1:] if netlist else ()), *job.trace.drawn, *read))
    aliases: dict[str, list[str]] = {}
    for alias, node in (parts.aliases if parts is not None else job.parts.aliases).items():
        aliases.setdefault(node, []).append(alias)
    lines = []
    for node in names:
        ohms = source.get(node, math.inf)
        expected = _expected(job, node, ohms, calculated, sisters, line_ratio)
        judged = judge_node(node, read[node], expected, ohms) if node in read else None
        lines.append(NodeLine(node, tuple(aliases.get(node, ())), expected, judged))
    volts = {line.node: line.judged.open_volts for line in lines if line.judged is not None}
    if netlist is None:
        return NodesView(lines=tuple(lines), loads=(), sums=(), tubes=tubes_found(job, volts, ()))
    tolerances = dict(parts.circuit.tolerances) if parts and parts.circuit else {}
    ratings = {x.part.ref: x.part.watts for x in parts.lines if x.part.watts} if parts else {}
    loads = resistor_loads(netlist, volts, tolerances, ratings)
    # A rail is fed from elsewhere, and tubes take theirs: neither need add up.
    taps = dict.fromkeys(held, "its supply") | {
        node: name
        for name, e in job.trace.tubes.items()
        for node in (e.body.plate, e.body.cathode, e.body.screen)
        if node
    }
    sums = tuple(s for s in node_sums(netlist, loads, taps) if not s.adds_up)
    return NodesView(
        lines=tuple(lines),
        loads=loads,
        sums=sums,
        tubes=tubes_found(job, volts, loads, netlist),
    )


def chain_of(job: Job, parts: PartsList | None, node: str) -> NodeChain:
    """Return the chain a node stands in, from its rail to the chassis; empty where no network says."""
    if parts is None or parts.circuit is None or not node:
        return NodeChain((), ())
    netlist = parts.circuit.netlist
    tubes = [(e.body.name.upper(), e.body.plate, e.body.cathode) for e in job.trace.tubes.values()]
    return chain_through(netlist, node, held_nodes(job, netlist), tubes)


def _calculated(
    netlist: Netlist | None, job: Job, read: Mapping[str, NodeMeasured], held: frozenset[str]
) -> Mapping[str, float]:
    """What the network makes of rails that were read, with the tubes by their curves; nothing where a tube has none."""
    tubes = [e.body for e in job.trace.tubes.values()]
    if netlist is None or any(not t.mu or not t.perveance or not t.grid for t in tubes):
        return {}
    own = {e.plus for e in netlist.elements if isinstance(e, VoltageSource)}
    rails = {node: read[node].volts for node in held if node in read and node not in own}
    sources = tuple(VoltageSource(f"VR{i}", node, GROUND, volts) for i, (node, volts) in enumerate(rails.items()))
    if not sources and not own:
        return {}
    drawing = [
        Tube(
            name=t.name,
            plate=t.plate,
            grid=t.grid,
            cathode=t.cathode,
            mu=t.mu,
            perveance=t.perveance,
            screen=t.screen,
        )
        for t in tubes
    ]
    try:
        return calculate_nodes(Netlist((*netlist.elements, *sources)), drawing)
    except CandorError:
        return {}  # a diode in it, a node that floats, or sources that contradict: nothing is calculated


def _expected(
    job: Job, node: str, ohms: float, calculated: Mapping[str, float], sisters: Mapping[str, float], line_ratio: float
) -> NodeExpected | None:
    drawn = job.trace.drawn.get(node)
    if drawn is not None:
        body = drawn.body
        volts = drawn_open(body.volts, ohms, body.ohms_per_volt, body.range_volts, line_ratio)
        return NodeExpected(volts, DRAWN, "drawing")
    if node in calculated:
        return NodeExpected(calculated[node], CALCULATED, "calculated")
    if any(e.body.grid == node for e in job.trace.tubes.values()):
        return NodeExpected(
            0.0, CALCULATED, "calculated"
        )  # a grid resistor carries nothing, unless the drawing says a figure
    if node in sisters:
        return NodeExpected(sisters[node], SISTER, "sister")
    return None


def pair_view(job: Job, parts: PartsList | None, one: str, other: str) -> PairJudged | None:
    """Return what the newest ohms of a pair mean; None where they were not read, or no network says what they should be."""
    entry = job.trace.pairs.get((one, other)) or job.trace.pairs.get((other, one))
    if entry is None or parts is None or parts.circuit is None:
        return None
    b = entry.body
    nodes = parts.circuit.netlist.nodes
    if b.one not in nodes or b.other not in nodes:
        return None
    tags = _tags(job, b.one, b.other, nodes)
    return judge_pair(parts.circuit.netlist, b.one, b.other, Ohms(b.ohms, b.turned_ohms, b.volts), tags)


def _tags(job: Job, one: str, other: str, nodes: Sequence[str]) -> tuple[str, ...]:
    """The nodes a lead may have lain on instead: those marked beside the ones meant, in a photo; empty where none is marked."""
    known = {node.casefold(): node for node in nodes}
    beside = [
        known[n.casefold()] for name in (one, other) for n in job.places.beside(name, BESIDE) if n.casefold() in known
    ]
    return tuple(dict.fromkeys((one, other, *beside))) if beside else ()


def signal_view(job: Job) -> SignalView | None:
    """Return the chain as it stands; None where no stage was named."""
    stages = tuple(
        Stage(name=e.body.name, weight=e.body.weight, minutes=e.body.minutes, low=e.body.low, high=e.body.high)
        for e in job.trace.stages.values()
    )
    if not stages:
        return None
    places = {stage.name: index for index, stage in enumerate(stages)}
    looks = tuple(
        Look(places[e.body.stage], e.body.outcome, e.body.lifted) for e in job.trace.looks if e.body.stage in places
    )
    return SignalView(
        stages=stages,
        belief=belief(stages, looks, job.trace.lead is not None),
        looks=looks,
        next=next_look(stages, looks),
        trail=trail(stages, looks),
    )
