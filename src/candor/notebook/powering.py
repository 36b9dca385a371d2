"""A job on its way up: the plan that holds, the state it is in, what each reading means there, and what is safe afterwards."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Mapping
from dataclasses import dataclass

from candor.core.jot.power_meaning import (
    BleederJot,
    EventJot,
    PlugOutJot,
    PowerJot,
    ProvedJot,
    RailJot,
    RailOhmsJot,
    RailSaidJot,
    WindingJot,
)
from candor.core.parts.mains import WORSE, Mains
from candor.core.power.plan import WATTS, Plan, PlanStep
from candor.core.power.plan_text import read_plan
from candor.core.power.propose import proposed_plan
from candor.core.power.safe import AfterReading, Safety, after_power, bleed_seconds
from candor.core.power.states import Rail, SupplyTraits
from candor.core.power.watch import EventState, Watched, creeping, events_of, judge
from candor.notebook.entries.body import Body
from candor.notebook.entries.power import (
    BleederSaid,
    EventSeen,
    MeterProved,
    PluggedOut,
    RailOhmsRead,
    RailRead,
    RailSaid,
    WindingRead,
)
from candor.notebook.job import Job
from candor.packs.model import Pack

NO_RAIL = (WATTS, "amperes", "line")  # names of readings that are no rail


@dataclass(frozen=True)
class OnTheWay:
    """Where a job is on its way up.

    Attributes
    ----------
    step : PlanStep or None
        The state it is in, as the plan has it.
    since_s : float
        How long it is in it.
    watched : mapping of str to Watched
        The newest reading of each name in this state; and what the plan asks for and nobody read, as "unknown".
    events : tuple of EventState
    creep : str
        That the watts climb at a constant line, or nothing.
    """

    step: PlanStep | None
    since_s: float
    watched: Mapping[str, Watched]
    events: tuple[EventState, ...]
    creep: str

    @property
    def cut(self) -> Watched | None:
        """What is beyond its cut line, or None."""
        return next((w for w in self.watched.values() if w.is_cut), None)


def power_bodies(jot: PowerJot) -> tuple[Body, ...]:
    """Return the entries that a line on the way up becomes."""
    match jot:
        case RailJot():
            return (RailRead(name=jot.name, reading=jot.value),)
        case RailSaidJot():
            return (RailSaid(name=jot.name, volts=jot.volts, rated_volts=jot.rated_volts),)
        case RailOhmsJot():
            return (RailOhmsRead(rail=jot.rail, ohms=jot.ohms, expected_ohms=jot.expected_ohms),)
        case WindingJot():
            return (WindingRead(name=jot.name, ohms=jot.ohms if math.isfinite(jot.ohms) else None),)
        case EventJot():
            return (EventSeen(text=jot.text),)
        case PlugOutJot():
            return (PluggedOut(),)
        case ProvedJot():
            return (MeterProved(on=jot.on),)
        case BleederJot():
            return (BleederSaid(rail=jot.rail, ohms=jot.ohms, farad=jot.farad),)


def traits_of(job: Job, pack: Pack | None) -> SupplyTraits:
    """Return what is known of a job's supply."""
    said = job.power.supply.body if job.power.supply else None
    rails = tuple(Rail(e.body.name, e.body.volts, e.body.rated_volts) for e in job.power.rails.values())
    kind = pack.kind if pack else ""
    return SupplyTraits(
        rectifier=said.rectifier if said else "unknown",
        delay_relay=bool(said and said.delay_relay),
        regulated_heaters=bool(said and said.regulated_heaters),
        series_heaters=bool(said and said.series_heaters),
        solid_state=bool(said and said.solid_state),
        picture_tube="oscilloscope" in kind,
        fan=bool(said and said.fan),
        watts=said.watts if said else 0.0,
        rails=rails,
        controls=pack.control_names if pack else (),
        bands=pack.bands if pack else {},
    )


def plan_of(job: Job, pack: Pack | None, mains: Mains | None) -> Plan:
    """Return the plan that holds: the one kept, else the one proposed for the shop's mains and the line as measured."""
    kept = job.power.plan
    if kept is not None:
        return read_plan(kept.body.lines, kept.body.way, kept.body.why)
    return proposed(job, pack, mains)


def proposed(job: Job, pack: Pack | None, mains: Mains | None) -> Plan:
    """Return the plan that is proposed, V of the shop's mains, of the worse usual ones where nobody has said."""
    line = job.calibrate.conditions.get("line_volts")
    return proposed_plan(traits_of(job, pack), mains or WORSE, line.body.value if line else 0.0)


def on_the_way(job: Job, plan: Plan, now: dt.datetime) -> OnTheWay:
    """Return where a job is on its way up at a moment."""
    state = job.power.state
    step = next((s for s in plan.steps if state is not None and s.title == state.body.title), None)
    if state is None or step is None:
        return OnTheWay(step=None, since_s=0.0, watched={}, events=(), creep="")
    since = (now - state.at).total_seconds()
    reads = job.power.since(state)
    watched: dict[str, Watched] = {name: Watched(name, "unknown", f"{name}: not read yet") for name in step.names}
    for entry in reads:
        held = watched.get(entry.body.name)
        if held is not None and held.is_cut:
            continue  # what went over its line stays cut until the plug is out, whatever is read next
        at = (entry.at - state.at).total_seconds()
        watched[entry.body.name] = judge(step, entry.body.name, entry.body.reading, at)
    seen = [e.body.text for e in job.power.events if e.number > state.number]
    watts = [((e.at - state.at).total_seconds(), e.body.reading) for e in reads if e.body.name == WATTS]
    line = [((e.at - state.at).total_seconds(), e.body.reading) for e in reads if e.body.name == "line"]
    return OnTheWay(
        step=step, since_s=since, watched=watched, events=events_of(step, since, seen), creep=creeping(watts, line)
    )


def safety_of(job: Job, now: dt.datetime, safe_volts: float) -> Mapping[str, Safety]:
    """Return how safe each rail is after power, at a moment; V d.c.

    Rails that were never named hold what nobody knows: they are not here.
    """
    out = job.power.out
    on = job.power.switched_on
    begun = on.number if on is not None else 0
    names = dict.fromkeys((*job.power.rails, *(e.body.name for e in job.power.reads if e.body.name not in NO_RAIL)))
    found = {}
    for name in names:
        reads = [e for e in job.power.reads if e.body.name == name]
        before = [e for e in reads if out is None or e.number < out.number]
        later = [e for e in reads if out is not None and e.number > out.number]
        after = (
            [AfterReading(e.body.reading, (e.at - out.at).total_seconds()) for e in later] if out is not None else []
        )
        bleeder = job.power.bleeders.get(name)
        # The countdown begins at the most it may have held: a lower reading may be of an earlier state, or of a lead off.
        last = max([_drawn_volts(job, name), *(abs(e.body.reading) for e in before if e.number > begun)])
        found[name] = after_power(
            is_out=out is not None,
            out_s=(now - out.at).total_seconds() if out is not None else 0.0,
            bleed_s=bleed_seconds(last, bleeder.body.ohms, bleeder.body.farad, safe_volts)
            if bleeder and last
            else None,
            readings=after,
            proved=any(e.number > begun for e in job.power.proved),
            safe_volts=safe_volts,
        )
    return found


def _drawn_volts(job: Job, name: str) -> float:
    said = job.power.rails.get(name)
    return abs(said.body.volts) if said else 0.0


def expected_events(job: Job | None) -> tuple[str, ...]:
    """Return what the plan that was kept expects to happen: such words alone are events."""
    kept = job.power.plan if job is not None else None
    if job is None or kept is None:
        return ()
    plan = read_plan(kept.body.lines, kept.body.way, kept.body.why)
    return tuple(dict.fromkeys(e.words for step in plan.steps for e in step.events))
