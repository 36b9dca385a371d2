"""Lines of the trace: nodes, ohms between nodes, tubes, stages and looks behind them, the cause."""

from __future__ import annotations

from typing import Literal, cast

from candor.core.circuit.netlist import GROUND
from candor.core.errors import ValueTextError
from candor.core.jot.form import Said
from candor.core.jot.trace_meaning import (
    CauseJot,
    LeadJot,
    LookJot,
    NodeDrawnJot,
    NodeReadJot,
    PairJot,
    StageJot,
    TubeJot,
    WorsenedJot,
)
from candor.core.jot.verb import Verb
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.core.trace.expected_nodes import perveance_of
from candor.core.trace.pairs import say_ohms
from candor.core.tubes.ratings import BY_NAME, kind_of_tube
from candor.core.worded import worded

RATINGS = ("plate_volts", "plate_watts", "screen_volts", "screen_watts", "cathode_amperes")


def _read(said: Said) -> NodeReadJot:
    node, volts, ohms = said["node"], said["volts"], said["meter"] or 0.0
    if node == GROUND:
        raise ValueTextError(worded("jot.the_chassis_is_at_v_by"), value=said.line)
    with_ = (f"with {engineering(ohms, 'ohm')}",) if ohms else ()
    return NodeReadJot(node, volts, ohms, (f"node {node} {engineering(volts, 'V', 5)}", *with_))


def _drawn(said: Said) -> NodeDrawnJot:
    node, volts, per_volt, range_volts = said["node"], said["volts"], said["per_volt"] or 0.0, said["range"] or 0.0
    if per_volt and not range_volts:
        raise ValueTextError(worded("jot.on_which_range_was_it_read"), value=said.line)
    meter = (
        (worded("jot.read_at_v_on_v", per_volt=trimmed(per_volt), range_volts=trimmed(range_volts)),)
        if per_volt
        else ()
    )
    chips = (worded("jot.node_by_the_drawing_v", node=node, volts=trimmed(volts)), *meter)
    return NodeDrawnJot(node, volts, per_volt, range_volts, chips=chips)


def _pair(said: Said) -> PairJot:
    one, other, ohms, turned = said["one"], said["other"], said["ohms"], said["turned"]
    if one == other:
        raise ValueTextError(worded("jot.both_ends_are_on_give_two", one=one), value=said.line)
    more = (f"turned {say_ohms(turned)}",) if turned is not None else ()
    return PairJot(
        one, other, ohms, turned, volts=said["volts"] or 0.0, chips=(f"{one} to {other} {say_ohms(ohms)}", *more)
    )


def _tube(said: Said) -> TubeJot:
    ends = {end: said[end] for end in ("plate", "grid", "cathode", "screen") if said[end] is not None}
    if "plate" not in ends or "cathode" not in ends:
        raise ValueTextError(
            worded("jot.give_the_tube_s_plate_and"),
            value=said.line,
        )
    bears = {name: said[name] for name in RATINGS if said[name] is not None}
    own_sheet = bool(bears)
    if said["amperes"] is not None:
        if said["mu"] is None:
            raise ValueTextError(
                worded("jot.a_current_of_the_sheet_needs"),
                value=said.line,
            )
        perveance = perveance_of(said["amperes"], said["plate_at"], said["grid_at"], said["mu"])
        bears |= {"mu": said["mu"], "perveance": perveance}
    generic, chips = "", tuple[str, ...]()
    if said["kind"] is not None:
        kind = kind_of_tube(said["kind"])
        if kind is None:
            listed = "; ".join(sorted(BY_NAME))
            raise ValueTextError(
                worded("jot.names_no_one_generic_kind_of", kind=said["kind"], listed=listed), value=said["kind"]
            )
        if not own_sheet:  # its own sheet rules: the kind's are not mixed in
            of_kind = {name: getattr(kind, name) for name in RATINGS[:4]}
            bears |= {name: value for name, value in of_kind.items() if value}
            generic, chips = (
                kind.name,
                (
                    worded("jot.plate_v", name=kind.name, plate_volts=kind.plate_volts),
                    "from memory, its own sheet rules",
                ),
            )
    chips = (f"tube {said['name']}", *(f"{k} {v}" for k, v in ends.items()), *chips)
    return TubeJot(said["name"].lower(), ends, bears, generic, chips=chips)


def _stage(said: Said) -> StageJot:
    (low, high), weight = said["band"] or (0.0, 0.0), 1.0 if said["weight"] is None else said["weight"]
    minutes = 3.0 if said["minutes"] is None else said["minutes"]
    if low > high or weight <= 0 or minutes <= 0:
        raise ValueTextError(
            worded("jot.cannot_be_give_a_band_from", line=said.line),
            value=said.line,
        )
    more = (f"{trimmed(low)} to {trimmed(high)}",) if said["band"] else ()
    return StageJot(said["name"], weight, minutes, low, high=high, chips=(f"stage {said['name']}", *more))


def _look(said: Said) -> LookJot:
    stage, lifted = said["stage"], bool(said["lifted"])
    if said["value"] is not None:
        return LookJot(stage, "", said["value"], lifted, chips=(f"behind {stage}: {trimmed(said['value'])}",))
    outcome = cast(Literal["good", "bad", "odd"], said.texts["outcome"].lower())
    return LookJot(stage, outcome, lifted=lifted, chips=(f"behind {stage}: {outcome}",))


def _pin(said: Said) -> None:
    raise ValueTextError(
        worded("jot.pin_of_which_tube_example_node", pin=said["pin"], volts=said.texts["volts"]), value=said.line
    )


TRACE = (
    Verb(
        "node as drawn",
        "trace",
        "what the drawing says of a node, and with which meter",
        forms=("node {node:node} by|by_the drawing {volts:V} [@ {per_volt:ohms_per_volt} [on {range:V}]]",),
        examples=("node n5 by drawing 180 V at 2000 ohm/V on 300 V",),
        means=_drawn,
        titles={"volts": "volts by the drawing", "per_volt": "drawing's meter", "range": "on range"},
    ),
    Verb(
        "node",
        "trace",
        "a node as read, to the chassis, and what your meter loads it with",
        forms=("node {node:node} {volts:V} [with {meter:ohms_above_zero}]",),
        examples=("node n5 182 with 10M", "node V3 pin 6 -1.2 V"),
        means=_read,
        titles={"volts": "volts as read", "meter": "your meter loads it with"},
    ),
    Verb(
        "pin",
        "trace",
        "a pin as read: its tube is asked for",
        forms=("pin {pin:count} {volts:V}",),
        examples=("node V1 pin 6 274",),
        means=_pin,
        fielded=("node {tube:word} pin {pin:count} {volts:V}",),
        titles={"tube": "tube", "pin": "pin", "volts": "volts as read"},
    ),
    Verb(
        "ohms",
        "trace",
        "ohms between two nodes, power off",
        forms=(
            "ohms {one:node} to|and {other:node} {ohms:ohms_or_open} [turned {turned:ohms_or_open}] [after {volts:V}]",
            "ohms {one:node_word} {other:node_word} {ohms:ohms_or_open} [turned {turned:ohms_or_open}] [after {volts:V}]",
        ),
        examples=("ohms n5 to 0 47k, turned 52k, after 2m",),
        means=_pair,
        titles={
            "one": "one node",
            "other": "the other node",
            "ohms": "ohms",
            "turned": "leads turned",
            "volts": "volts before",
        },
        begins=r"ohms\s+\S+\s.*\d",
    ),
    Verb(
        "tube",
        "trace",
        "where a tube is joined, and what its sheet allows",
        forms=(
            "tube {name:word} <plate at_most {plate_volts:volts_only}> <plate at_most {plate_watts:watts_only}> "
            "<screen at_most {screen_volts:volts_only}> <screen at_most {screen_watts:watts_only}> "
            "<cathode at_most {cathode_amperes:amperes_only}> <mu {mu:number}> "
            "<{amperes:amperes_only} at {plate_at:volts_only} and? {grid_at:volts_only}> <kind {kind:kind}> "
            "<plate at? {plate:tube_node}> <grid at? {grid:tube_node}> <cathode at? {cathode:tube_node}> "
            "<screen at? {screen:tube_node}>",
        ),
        examples=(
            "tube V3 plate n5, grid n3, cathode n7, plate at most 300 V",
            "tube V3 plate n5, grid n3, cathode n7, mu 20, 10 mA at 250 V and -8.5 V",
        ),
        means=_tube,
        fielded=(
            "tube {name:word} <plate {plate:tube_node}> <cathode {cathode:tube_node}> <grid {grid:tube_node}> "
            "<screen {screen:tube_node}> "
            "<plate at_most {plate_volts:volts_only}> <plate at_most {plate_watts:watts_only}> "
            "<screen at_most {screen_volts:volts_only}> <screen at_most {screen_watts:watts_only}> "
            "<cathode at_most {cathode_amperes:amperes_only}> <mu {mu:number}> "
            "<{amperes:amperes_only} at {plate_at:volts_only} and {grid_at:volts_only}> <kind {kind:kind}>",
        ),
        titles={
            "name": "tube",
            "plate": "!plate on node",
            "grid": "grid on node",
            "cathode": "!cathode on node",
            "screen": "screen on node|n6",
            "plate_volts": "plate at most",
            "plate_watts": "plate dissipation at most|1.2 W",
            "screen_volts": "screen at most|250 V",
            "screen_watts": "screen dissipation at most|2 W",
            "cathode_amperes": "cathode at most|20 mA",
            "mu": "mu",
            "amperes": "sheet: plate current",
            "plate_at": "at plate volts",
            "grid_at": "and grid volts",
            "kind": "kind",
        },
        begins=r"tube\s+\S+\s+(plate|grid|cathode|screen)\b",
    ),
    Verb(
        "stage",
        "trace",
        "a stage of the signal's way, and the band of a number read behind it",
        forms=("stage {name:prose} <weight {weight:number}> <{minutes:number} min|minutes> <band? {band:band}>",),
        examples=("stage mixer, weight 2, 5 min, band 8..12",),
        means=_stage,
        fielded=("stage {name:prose} <weight {weight:number}> <{minutes:number} min> <band {band:band}>",),
        titles={
            "name": "stage",
            "weight": "how likely at fault",
            "minutes": "minutes for a look",
            "band": "good from .. to",
        },
    ),
    Verb(
        "behind",
        "trace",
        "what is seen or read behind a stage",
        forms=(
            "lifted=lifted look? behind {stage:prose} outcome=good|bad|odd",
            "look? behind {stage:prose} outcome=good|bad|odd",
            "lifted=lifted look? behind {stage:prose} {value:number}",
            "look? behind {stage:prose} {value:number}",
        ),
        examples=("behind mixer good", "lifted behind mixer: 9.3"),
        means=_look,
        fielded=(
            "[lifted=lifted] behind {stage:prose} outcome=good|bad|odd",
            "[lifted=lifted] behind {stage:prose} {value:number}",
        ),
        titles={"lifted": "next stage lifted", "stage": "stage", "outcome": "what you saw", "value": "or a reading"},
    ),
    Verb(
        "lead proved",
        "trace",
        "the test lead and the signal were proved",
        forms=("lead|signal proved",),
        examples=("lead proved",),
        means=lambda _: LeadJot(("lead and signal proved",)),
    ),
    Verb(
        "cause",
        "trace",
        "the cause that was found",
        forms=("cause {text:text}",),
        examples=("cause: R7 open",),
        means=lambda said: CauseJot(said["text"], (f"cause: {said['text']}",)),
        titles={"text": "the cause"},
    ),
    Verb(
        "stopped working",
        "trace",
        "what worked and stopped working",
        forms=("stopped_working {text:text}",),
        examples=("stopped working: the sweep",),
        means=lambda said: WorsenedJot(said["text"], (f"stopped working: {said['text']}",)),
        titles={"text": "what stopped working"},
    ),
)
