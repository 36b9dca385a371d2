"""A line that was understood becomes a command: one table, by what it means."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Mapping
from dataclasses import field, replace
from typing import Any, get_args

from pydantic import ValidationError

from candor.core.errors import CandorError, ValueTextError
from candor.core.jot import (
    ChangeJot,
    CheckJot,
    ConditionJot,
    DeadJot,
    DecisionJot,
    DetailJot,
    FindingJot,
    LimitJot,
    NoteJot,
    PartJot,
    PriceJot,
    RangeJot,
    ShopJot,
    SpentJot,
)
from candor.core.jot.evidence_meaning import AgainstJot, FrequencyJot, SetUpJot
from candor.core.jot.meaning import AliasJot, ArriveJot, JoinJot, ListedJot
from candor.core.jot.misspelt import ask_if_misspelt
from candor.core.jot.plan_meaning import PromiseJot, QuoteJot, WaitJot
from candor.core.jot.power_meaning import BleederJot, PowerJot, RailJot, RailOhmsJot
from candor.core.jot.release_meaning import EarthJot, TouchJot
from candor.core.jot.slots import node_name
from candor.core.jot.soak_meaning import OffJot, OnJot, PastJot, SoakJot
from candor.core.jot.trace_meaning import NodeReadJot, PairJot, TraceJot, TubeJot
from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import old_units_in, showing_old
from candor.core.worded import worded
from candor.notebook.entries.entry import Draft
from candor.notebook.entries.parts_entries import PartMeasured, listed_from
from candor.notebook.entries.stay_entries import DetailWritten, PriceAgreed, Spent
from candor.notebook.standards.standards import Standard
from candor.notebook.trace.tracing import board_bodies
from candor.notebook.work.facts import say_seconds
from candor.notebook.work.job import Job
from candor.notebook.work.settings import Settings
from candor.packs.model import Pack
from candor.sitting.command import Command, command
from candor.sitting.commands import (
    arrive_commands,
    calibrate_commands,
    parts_commands,
    plan_commands,
    release_commands,
    soak_commands,
    stay_commands,
)


@dataclass(frozen=True)
class At:
    """Where a line is written: job, pack, what the shop has said, day and time, the line, the standards, the stop."""

    job: Job
    pack: Pack | None = None
    settings: Settings = field(default_factory=Settings)
    on: dt.date | None = None
    text: str = ""
    is_sure: bool = False
    now: dt.datetime | None = None
    stop: str = ""
    known: Mapping[str, Standard] = field(default_factory=dict)


Becomes = Callable[[Any, At], Command]


def _part(jot: PartJot, at: At) -> Command:
    """A loss written without its frequency takes that of the shop's own meter, where the shop has said it."""
    said = {"ref": jot.ref, "unit": jot.unit, "state": jot.state, "in_circuit": jot.in_circuit, "written": at.text}
    usual = {"hertz": at.settings.hertz_of(jot.loss)} if jot.loss else {}
    return command(f"{jot.ref} measured", PartMeasured.model_validate({**said, **usual, **jot.numbers}))


def _change(jot: ChangeJot, _: At) -> Command:
    if jot.disturbed:
        return stay_commands.change(jot.text, touches=jot.part)
    return stay_commands.change(jot.text, part=jot.part, touches=jot.touches, turned=jot.turned)


def _note(jot: NoteJot, at: At) -> Command:
    """What is not understood is kept as a note once that was said again."""
    if jot.ask and not at.is_sure:
        raise ValueTextError(jot.ask, value=jot.text)
    return stay_commands.note(jot.text, at.stop)


LONGEST_SINCE = dt.timedelta(hours=12)


def _on(jot: OnJot, at: At) -> Command:
    if jot.since is None:
        return soak_commands.switch_on(jot.attended)
    return soak_commands.was_on_since(at.job.id, _moment_of(jot.since, at), jot.attended)


def _off(jot: OffJot, at: At) -> Command:
    if jot.since is None:
        return soak_commands.switch_off()
    when, on = _moment_of(jot.since, at), at.job.soak.since
    if on is not None and when < on:
        raise ValueTextError(
            worded("sitting.it_was_not_on_then", since=on.astimezone(), been=_been(on, at)), value=at.text
        )
    return soak_commands.was_off_since(at.job.id, when)


def _been(since: dt.datetime, at: At) -> str:
    return say_seconds((at.now - since).total_seconds()) if at.now is not None else ""


def _moment_of(clock: dt.time, at: At) -> dt.datetime:
    """Return the moment before now that a time of day on the wall means."""
    if at.now is None:
        raise CandorError(worded("sitting.the_time_of_this_line_is"), value=at.text)
    local = at.now.astimezone()
    when = local.replace(hour=clock.hour, minute=clock.minute, second=0, microsecond=0)
    before = when - dt.timedelta(days=1)
    if when > local and local - before <= LONGEST_SINCE:
        when = before  # across midnight; a time that lies most of a day back is a slip
    if when > local:
        raise ValueTextError(worded("sitting.is_still_to_come_give_the", since=clock), value=at.text)
    return when


def _soak(jot: SoakJot, at: At) -> Command:
    """A reading of now, or one that is told afterwards by its time: then it must be known since when it is on."""
    if jot.clock is None and jot.after_s is None:
        return soak_commands.read_soak(jot)
    since = at.job.soak.since
    if since is None or at.now is None:
        raise ValueTextError(worded("sitting.since_when_is_it_on"), value=at.text)
    been = (at.now - since).total_seconds()
    seconds = jot.after_s
    if jot.clock is not None:
        seconds = (_moment_of(jot.clock, at) - since).total_seconds()
    if seconds is None or not 0 <= seconds <= been + 60:  # a clock on the wall shows whole minutes
        raise ValueTextError(
            worded("sitting.it_was_not_on_then", since=since.astimezone(), been=_been(since, at)), value=at.text
        )
    return soak_commands.read_soak(jot, seconds)


def _price(jot: PriceJot, at: At) -> Command:
    held = {"agreed": at.job.stay.agreed, "an_hour": at.job.stay.an_hour}
    return command(f"price {jot.which.replace('_', ' ')}", PriceAgreed.model_validate({**held, jot.which: jot.value}))


def _spent(jot: SpentJot, _: At) -> Command:
    return command("spent", Spent(minutes=jot.minutes, money=jot.money, text=jot.text))


def _past(jot: PastJot, at: At) -> Command:
    from candor.notebook.soak.drifting import (
        past_typed,  # here and below: the window is up before the first such line
    )

    return command("a past result", past_typed(jot, at.pack, _today(at)))


def _power(jot: PowerJot, at: At) -> Command:
    from candor.notebook.power.powering import NO_RAIL, power_bodies

    name = jot.name if isinstance(jot, RailJot) else jot.rail if isinstance(jot, RailOhmsJot | BleederJot) else ""
    if name and name not in NO_RAIL and not at.is_sure:
        said, read = (
            tuple(at.job.power.rails),
            tuple(e.body.name for e in at.job.power.reads if e.body.name not in NO_RAIL),
        )
        ask_if_misspelt(
            name, said or tuple(dict.fromkeys((*read, *at.job.power.rail_ohms))), "rail", closed=bool(said)
        )
    bodies = power_bodies(jot)
    return command(bodies[0].kind.replace("_", " "), *bodies)


def _trace(jot: TraceJot, at: At) -> Command:
    from candor.notebook.trace.trace_view import trace_bodies

    if not at.is_sure:
        for node in _nodes_of(jot):
            ask_if_misspelt(node, _known_nodes(at), "node")
        if isinstance(jot, TubeJot):
            listed = _listed_tubes(at)
            one = jot.name.upper().rstrip("ABCD") if listed else jot.name  # a section is a tube's
            ask_if_misspelt(one, listed or tuple(at.job.trace.tubes), "tube", closed=bool(listed))
    bodies = trace_bodies(jot, at.job, at.pack)
    return command(bodies[0].kind.replace("_", " "), *bodies)


def _nodes_of(jot: TraceJot) -> tuple[str, ...]:
    if isinstance(jot, NodeReadJot):
        return (node_name(jot.node),)
    if isinstance(jot, TubeJot):
        return tuple(node_name(node) for node in jot.ends.values())
    return (node_name(jot.one), node_name(jot.other)) if isinstance(jot, PairJot) else ()


def _listed_tubes(at: At) -> tuple[str, ...]:
    """Every tube that the list of parts names."""
    from candor.notebook.parts.parts_list import parts_of

    parts, _ = parts_of(at.job, at.pack) if at.pack is not None else ((), None)
    return tuple(p.ref.upper() for p in parts if p.kind == "tube")


def _known_nodes(at: At) -> frozenset[str]:
    """Every node that the drawing, the board, an alias or an earlier reading names."""
    from candor.notebook.trace.tracing import aliases_of

    record = at.job.trace
    circuit = at.job.parts.circuit
    text = (
        circuit.body.netlist
        if circuit is not None
        else at.pack.circuit.netlist
        if at.pack and at.pack.circuit
        else ""
    )
    drawn = {word.lower() for line in text.splitlines() if line[:1].isalpha() for word in line.split()[1:3]}
    joined = {end for e in at.job.parts.joined.values() for end in (e.body.plus, e.body.minus)}
    aliases = aliases_of(at.job, at.pack)
    return frozenset({*drawn, *joined, *map(node_name, aliases), *aliases.values(), *record.read, *record.drawn})


def _today(at: At) -> dt.date:
    if at.on is None:
        raise CandorError(worded("sitting.the_day_of_this_line_is"), value=at.text)
    return at.on


def _board(jot: ListedJot | JoinJot | AliasJot, _: At) -> Command:
    bodies = board_bodies(jot)
    return command(bodies[0].kind.replace("_", " "), *bodies)


BECOMES: Mapping[type, Becomes] = {
    FindingJot: lambda jot, _: arrive_commands.finding(jot.zone, jot.mark, jot.text),
    ChangeJot: _change,
    CheckJot: lambda jot, at: stay_commands.check(at.job, jot.text),
    NoteJot: _note,
    DetailJot: lambda jot, _: stay_commands.detail(jot.field, jot.text),
    ShopJot: lambda jot, _: stay_commands.shop_details(**{jot.field: jot.text}),
    PriceJot: _price,
    SpentJot: _spent,
    DeadJot: lambda jot, _: calibrate_commands.arrived_dead(jot.reason),
    SetUpJot: lambda jot, _: calibrate_commands.say_setup(jot.term),
    ConditionJot: lambda jot, _: calibrate_commands.note_condition(jot.which, jot.value),
    FrequencyJot: lambda jot, at: calibrate_commands.say_frequency(at.job, jot.hertz),
    AgainstJot: lambda jot, at: calibrate_commands.name_standard(at.job, jot.name, at.known, at.pack),
    RangeJot: lambda jot, at: calibrate_commands.make_range(jot, at.job, at.pack),
    PartJot: _part,
    LimitJot: lambda jot, _: parts_commands.list_part(listed_from(jot.part, leakage_limit=jot.amperes)),
    DecisionJot: lambda jot, _: parts_commands.decide(jot.ref, jot.action, jot.reason),
    OnJot: _on,
    OffJot: _off,
    SoakJot: _soak,
    EarthJot: lambda jot, at: release_commands.measure_leaving(jot, at.settings.local_rule),
    TouchJot: lambda jot, at: release_commands.measure_leaving(jot, at.settings.local_rule),
    PastJot: _past,
    ListedJot: _board,
    JoinJot: _board,
    AliasJot: _board,
    PromiseJot: lambda jot, at: plan_commands.promise(jot.day, _today(at)),
    QuoteJot: lambda jot, at: plan_commands.quote(at.job, jot.answer, jot.amount),
    WaitJot: lambda jot, at: plan_commands.wait_for(jot.what, jot.day, _today(at)),
    **dict.fromkeys(get_args(ArriveJot), lambda jot, at: arrive_commands.arrival(jot, at.job)),
    **dict.fromkeys(get_args(PowerJot), _power),
    **dict.fromkeys(get_args(TraceJot), _trace),
}


def command_of(jot: object, at: At) -> Command | None:
    """Return the command that a line is; None for what the hand takes: a reading, points to be read, an adjuster.

    Raises
    ------
    CandorError
        Where it asks for what is not there.
    """
    becomes = BECOMES.get(type(jot))
    if becomes is None:
        return None
    written = () if isinstance(jot, NoteJot) else old_units_in(at.text)
    typed = tuple(name for name in written if name not in at.settings.units)
    units = (*at.settings.units, *typed)
    try:
        with showing_old(units):  # what the entry keeps as words has them already
            made = becomes(jot, at)
        said = (Draft("", DetailWritten(field="units", text=", ".join(units))),) if typed else ()
        return replace(made, drafts=(*made.drafts, *said))
    except ValidationError as error:  # a figure that no entry of its kind can hold
        first = error.errors()[0]
        where = " ".join(str(x) for x in first["loc"]).replace("_", " ")
        why = first["msg"].removeprefix("Input ").removeprefix("Value error, ")
        raise CandorError(
            worded("sitting.cannot_be_written", text=at.text, where=where, why=why), value=at.text, place=where
        ) from None
