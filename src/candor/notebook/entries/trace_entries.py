"""Trace: what nodes should read and read, ohms of pairs, tubes, the stages of a signal and the looks along them, and the cause."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.trace.pairs import say_ohms
from candor.core.worded import worded
from candor.notebook.entries.arrive_entries import PhotoAdded
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import Entry, said
from candor.notebook.entries.fields_entries import Above, Finite, NotBelow, Text
from candor.notebook.entries.standing_entries import Standing

NodeText = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^\S+$")]


class NodeDrawn(Body):
    """What the drawing says of a node, V; and the meter it assumed: ohm per volt on a range, 0 for one that loads nothing."""

    kind: Literal["node_drawn"] = "node_drawn"
    gives_on = "as drawn"
    node: NodeText
    volts: Finite
    ohms_per_volt: NotBelow = 0.0
    range_volts: NotBelow = 0.0


class NodeRead(Body):
    """A node as read, V, with a meter of so many ohm; 0 for one that loads nothing."""

    kind: Literal["node_read"] = "node_read"
    node: NodeText
    volts: Finite
    meter_ohms: NotBelow = 0.0


class PairRead(Body):
    """Ohms between two nodes of a quiet network; `turned_ohms` the other way round, and the volts that stood there before."""

    # Open is infinity, which JSON has no number for.
    model_config = ConfigDict(frozen=True, extra="forbid", defer_build=True, ser_json_inf_nan="strings")
    kind: Literal["pair_read"] = "pair_read"
    one: NodeText
    other: NodeText
    ohms: Annotated[float, Field(ge=0)]
    turned_ohms: Annotated[float, Field(ge=0)] | None = None
    volts: Finite = 0.0


class TubeJoined(Body):
    """Where a tube is joined: the nodes of its plate, grid, cathode and screen, what it bears, and its curve; 0 where not known."""

    kind: Literal["tube_joined"] = "tube_joined"
    gives_on = "as drawn"
    name: NodeText
    plate: NodeText
    cathode: NodeText
    grid: str = ""
    screen: str = ""
    plate_volts: NotBelow = 0.0
    plate_watts: NotBelow = 0.0
    screen_volts: NotBelow = 0.0
    screen_watts: NotBelow = 0.0
    cathode_amperes: NotBelow = 0.0
    mu: NotBelow = 0.0
    perveance: NotBelow = 0.0
    generic: str = ""


class StageSaid(Body):
    """A stage of the signal's way: its weight beside the others, min that a look behind it costs, and a number's band."""

    kind: Literal["stage"] = "stage"
    gives_on = "as drawn"
    name: Text
    weight: Above = 1.0
    minutes: Above = 3.0
    low: Finite = 0.0
    high: Finite = 0.0


class LookTaken(Body):
    """A look behind a stage; `lifted` where a connection was lifted or a tube pulled for it."""

    kind: Literal["look"] = "look"
    stage: Text
    outcome: Literal["good", "bad", "odd"]
    value: Finite | None = None
    lifted: bool = False


class LeadProved(Body):
    """The lead and the signal put in were proved."""

    kind: Literal["lead_proved"] = "lead_proved"


class CauseFound(Body):
    """The cause, the evidence, and what excluded the others, in one line."""

    kind: Literal["cause"] = "cause"
    text: Text


class Worsened(Body):
    """Something that worked stopped working: what."""

    kind: Literal["worsened"] = "worsened"
    text: Text


def _drawn(b: NodeDrawn) -> str:
    meter = (
        worded("entries.read_at_v_on_v", ohms_per_volt=trimmed(b.ohms_per_volt), range_volts=trimmed(b.range_volts))
        if b.ohms_per_volt
        else ""
    )
    return worded("entries.node_by_the_drawing_v", node=b.node, volts=trimmed(b.volts), meter=meter)


def _pair(b: PairRead) -> str:
    turned = worded("entries.turned_round", turned_ohms=say_ohms(b.turned_ohms)) if b.turned_ohms is not None else ""
    return worded("entries.to", one=b.one, other=b.other, ohms=say_ohms(b.ohms), turned=turned)


def _tube(b: TubeJoined) -> str:
    ends = {"plate": b.plate, "grid": b.grid, "screen": b.screen, "cathode": b.cathode}
    return f"tube {b.name}: " + ", ".join(f"{what} {node}" for what, node in ends.items() if node)


WORDS = dict(
    (
        said(NodeDrawn, lambda b, _: _drawn(b)),
        said(NodeRead, lambda b, _: f"node {b.node}: {engineering(b.volts, 'V', 5)}"
             + (f" with {engineering(b.meter_ohms, 'ohm')}" if b.meter_ohms else "")),
        said(PairRead, lambda b, _: _pair(b)),
        said(TubeJoined, lambda b, _: _tube(b)),
        said(StageSaid, lambda b, _: f"stage {b.name}"),
        said(LookTaken, lambda b, _: f"{'lifted, ' if b.lifted else ''}behind {b.stage}: {b.outcome}"
             + (f", {trimmed(b.value)}" if b.value is not None else "")),
        said(LeadProved, lambda _, __: worded("entries.lead_and_signal_proved")),
        said(CauseFound, lambda b, _: f"cause: {b.text}"),
        said(Worsened, lambda b, _: f"stopped working: {b.text}"),
    )
)  # fmt: skip


@dataclass(frozen=True)
class TraceRecord:
    """What stands of the trace.

    Attributes
    ----------
    drawn, read : mapping of str to Entry
        The newest of each node.
    pairs : mapping of (str, str) to Entry
    tubes, stages : mapping of str to Entry
        Stages in the order they were first named.
    looks : tuple of Entry
    lead : Entry or None
    causes, worsened : tuple of Entry
    photos : mapping of str to tuple of str
        Files by node: where it is found on the board.
    """

    drawn: Mapping[str, Entry[NodeDrawn]] = field(default_factory=dict)
    read: Mapping[str, Entry[NodeRead]] = field(default_factory=dict)
    pairs: Mapping[tuple[str, str], Entry[PairRead]] = field(default_factory=dict)
    tubes: Mapping[str, Entry[TubeJoined]] = field(default_factory=dict)
    stages: Mapping[str, Entry[StageSaid]] = field(default_factory=dict)
    looks: tuple[Entry[LookTaken], ...] = ()
    lead: Entry[LeadProved] | None = None
    causes: tuple[Entry[CauseFound], ...] = ()
    worsened: tuple[Entry[Worsened], ...] = ()
    photos: Mapping[str, tuple[str, ...]] = field(default_factory=dict)


def trace_record(standing: Standing) -> TraceRecord:
    """Return what stands of the trace."""
    return TraceRecord(
        drawn=standing.by(NodeDrawn, lambda b: b.node),
        read=standing.by(NodeRead, lambda b: b.node),
        pairs=standing.by(PairRead, lambda b: (b.one, b.other)),
        tubes=standing.by(TubeJoined, lambda b: b.name),
        stages=standing.by(StageSaid, lambda b: b.name.casefold()),
        looks=standing.of(LookTaken),
        lead=standing.newest(LeadProved),
        causes=standing.of(CauseFound),
        worsened=standing.of(Worsened),
        photos=_photos(standing),
    )


def _photos(standing: Standing) -> Mapping[str, tuple[str, ...]]:
    """The photos that were attached to any entry of a node."""
    node_of = {e.id: e.body.node for e in standing.of(NodeRead, NodeDrawn)}
    found: dict[str, tuple[str, ...]] = {}
    for entry in standing.of(PhotoAdded):
        node = node_of.get(entry.body.finding)
        if node is not None:
            found[node] = (*found.get(node, ()), entry.body.file)
    return found
