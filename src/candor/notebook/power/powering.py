"""A job on its way up: the plan that holds, the state it is in, what each reading means there, and what is safe afterwards."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Mapping, Sequence
from itertools import pairwise

from candor.core.finding import Finding
from candor.core.jot.power_meaning import (
    BleederJot,
    EventJot,
    PlugOutJot,
    PowerJot,
    ProvedJot,
    RailJot,
    RailOhmsJot,
    RailSaidJot,
    UnloadedJot,
    WindingJot,
)
from candor.core.late_dataclass import dataclass
from candor.core.parts.mains import WORSE, Mains
from candor.core.power.plan import WATTS, Plan, PlanStep
from candor.core.power.plan_text import read_plan
from candor.core.power.power_states import Rail, SupplyTraits
from candor.core.power.propose import proposed_plan
from candor.core.power.safe import AfterReading, Safety, after_power, bleed_seconds
from candor.core.power.watch import EventState, Watched, creeping, events_of, judge
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.power_entries import (
    BleederSaid,
    EventSeen,
    MeterProved,
    PluggedOut,
    RailOhmsRead,
    RailRead,
    RailSaid,
    StateBegun,
    Unloaded,
    WindingRead,
    power_record,
)
from candor.notebook.entries.soak_entries import soak_record
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.stay_entries import stay_record
from candor.notebook.entries.strikes_entries import struck_ids
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.power.alarms import Alarm, alarms_of, measured_good, no_load_of, swap_of
from candor.notebook.storage.moments import Moment
from candor.notebook.storage.rows import Revision
from candor.notebook.store import Notebook
from candor.notebook.work.job import Job
from candor.packs.model import Pack

FULL_LINE = ("full line", "warm")
HELD_S = 300.0  # that the full line is held at least, before it is said to have held: common practice, no source
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
    alarms : tuple of Alarm
        What means plug out, whatever the state's bands say.
    """

    step: PlanStep | None
    since_s: float
    watched: Mapping[str, Watched]
    events: tuple[EventState, ...]
    creep: Finding | None
    alarms: tuple[Alarm, ...] = ()

    @property
    def cut(self) -> Watched | Alarm | None:
        """What is beyond its cut line or means plug out otherwise, or None."""
        beyond = next((w for w in self.watched.values() if w.is_cut), None)
        return beyond or next(iter(self.alarms), None)

    @property
    def dead(self) -> tuple[Watched, ...]:
        """The rails that should be up and are nearly nothing."""
        return tuple(w for w in self.watched.values() if w.state == "dead")


def power_bodies(jot: PowerJot) -> tuple[Body, ...]:
    """Return the entries that a line on the way up becomes."""
    match jot:
        case RailJot():
            return (RailRead(name=jot.name, reading=jot.value),)
        case RailSaidJot():
            return (
                RailSaid(
                    name=jot.name, volts=jot.volts, rated_volts=jot.rated_volts, surge_volts=jot.surge_volts,
                    regulated=jot.regulated, delayed=jot.delayed,
                ),
            )  # fmt: skip
        case RailOhmsJot():
            return (RailOhmsRead(rail=jot.rail, ohms=jot.ohms, expected_ohms=jot.expected_ohms),)
        case WindingJot():
            ohms = jot.ohms if math.isfinite(jot.ohms) else None
            return (WindingRead(name=jot.name, ohms=ohms, celsius=jot.celsius, hot=jot.hot),)
        case UnloadedJot():
            return (Unloaded(watts=jot.watts, amperes=jot.amperes),)
        case EventJot():
            return (EventSeen(text=jot.text),)
        case PlugOutJot():
            return (PluggedOut(),)
        case ProvedJot():
            return (MeterProved(on=jot.on),)
        case BleederJot():
            return (BleederSaid(rail=jot.rail, ohms=jot.ohms, farad=jot.farad),)


def traits_of(job: Job, pack: Pack | None, parts: PartsList | None = None) -> SupplyTraits:
    """Return what is known of a job's supply, what was typed of it and what was measured of its capacitors included."""
    supply = job.power.supply
    said = supply.body if supply else None
    no_load = no_load_of(job)
    swap, swapped_at = swap_of(job)
    swapped = bool(swap) and swapped_at > (supply.number if supply else 0)
    rails = tuple(
        Rail(
            name, b.volts, b.rated_volts, no_load_volts=no_load.get(name, 0.0), regulated=b.regulated, delayed=b.delayed,
            surge_volts=b.surge_volts,
        )
        for name, b in ((n, e.body) for n, e in job.power.rails.items())
    )  # fmt: skip
    kind = pack.kind if pack else ""
    return SupplyTraits(
        rectifier="solid state" if swapped else said.rectifier if said else "unknown",
        delay_relay=bool(said and said.delay_relay),
        regulated_heaters=bool(said and said.regulated_heaters),
        series_heaters=bool(said and said.series_heaters),
        solid_state=bool(said and said.solid_state),
        picture_tube="oscilloscope" in kind,
        fan=bool(said and said.fan),
        watts=said.watts if said else 0.0,
        fuse_amperes=said.fuse_amperes if said else 0.0,
        measured_good=measured_good(job, parts),
        straight_on=bool(said and said.straight_on),
        rails=rails,
        controls=pack.control_names if pack else (),
        bands=pack.bands if pack else {},
    )


def plan_of(job: Job, pack: Pack | None, mains: Mains | None, parts: PartsList | None = None) -> Plan:
    """Return the plan that holds: the one kept, else the one proposed for the shop's mains and the line as measured.

    One kept before the rectifier was changed for silicon holds no more.
    """
    kept = job.power.plan
    if kept is not None and kept.number > swap_of(job)[1]:
        return read_plan(kept.body.lines, kept.body.way, kept.body.why)
    return proposed(job, pack, mains, parts)


def proposed(job: Job, pack: Pack | None, mains: Mains | None, parts: PartsList | None = None) -> Plan:
    """Return the plan that is proposed, V of the shop's mains, of the worse usual ones where nobody has said."""
    line = job.calibrate.conditions.get("line_volts")
    return proposed_plan(traits_of(job, pack, parts), mains or WORSE, line.body.value if line else 0.0)


Live = Mapping[str, Sequence[tuple[float, float]]]


def on_the_way(
    job: Job, plan: Plan, now: dt.datetime, parts: PartsList | None = None, live: Live | None = None
) -> OnTheWay:
    """Return where a job is on its way up at a moment.

    Parameters
    ----------
    job, plan : Job, Plan
    now : datetime
    parts : PartsList or None
        For the ratings at its nodes.
    live : mapping of str to sequence of (float, float)
        What meters on links read in this state, s since it began and SI.
    """
    state = job.power.state
    step = next((s for s in plan.steps if state is not None and s.title == state.body.title), None)
    alarms = tuple(a for a in alarms_of(job, parts, plan) if a.plug_out) if state is not None else ()
    if state is None or step is None:
        return OnTheWay(step=None, since_s=0.0, watched={}, events=(), creep=None, alarms=alarms)
    since = (now - state.at).total_seconds()
    reads = job.power.since(state)
    watched: dict[str, Watched] = {
        name: Watched(name, "unknown", Finding("watch.unread", {"name": name})) for name in step.names
    }
    for entry in reads:
        held = watched.get(entry.body.name)
        if held is not None and held.is_cut:
            continue  # what went over its line stays cut until the plug is out, whatever is read next
        at = (entry.at - state.at).total_seconds()
        watched[entry.body.name] = judge(step, entry.body.name, entry.body.reading, at)
    seen = [e.body.text for e in job.power.events if e.number > state.number]
    typed = {
        name: [((e.at - state.at).total_seconds(), e.body.reading) for e in reads if e.body.name == name]
        for name in (WATTS, "line")
    }
    watts, line = ((live or {}).get(name) or typed[name] for name in (WATTS, "line"))
    return OnTheWay(
        step=step, since_s=since, watched=watched, events=events_of(step, since, seen), creep=creeping(watts, line),
        alarms=alarms,
    )  # fmt: skip


def may_begin(job: Job, plan: Plan, step: PlanStep) -> Finding | None:
    """Return why a state may not be begun yet, None where it may: steps before it left out, cautions that were not read.

    A written reason lets it be begun all the same; what bars power altogether is another matter (`may_power.open_items`).
    """
    if not step.line_volts:
        return None
    begun = _held_since_out(job)
    left: list[str] = []
    unread = [step] if step.caution and step.caution not in job.power.understood else []
    for earlier in plan.steps:
        if earlier.title == step.title:
            break
        if earlier.title not in begun:
            left.append(earlier.title)
        if earlier.caution and earlier.caution not in job.power.understood:
            unread.append(earlier)
    if unread:
        return Finding("begin.caution", {"title": unread[-1].title, "caution": unread[-1].caution})
    if left:
        names = ", ".join(f"“{title}”" for title in left)
        return Finding("begin.left out" if len(left) == 1 else "begin.several left out", {"names": names})
    return None


def _held_since_out(job: Job) -> frozenset[str]:
    """The states begun since the plug was last put in, or held on an earlier day: a state that was passed once is known."""
    return frozenset(e.body.title for e in job.power.steps if isinstance(e.body, StateBegun))


def safety_of(job: Job, now: Moment, safe_volts: float) -> Mapping[str, Safety]:
    """Return how safe each rail is after power, at a moment by the clock that nobody sets; V d.c.

    Rails that were never named hold what nobody knows: they are not here. What was measured before this computer was started, or
    elsewhere, tells volts and no time: the minute begins anew.
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
        after = [AfterReading(e.body.reading, now.since(e.body.boot, e.body.boot_s)) for e in later]
        bleeder = job.power.bleeders.get(name)
        # The countdown begins at the most it may have held: a lower reading may be of an earlier state, or of a lead off.
        last = max([_drawn_volts(job, name), *(abs(e.body.reading) for e in before if e.number > begun)])
        found[name] = after_power(
            is_out=out is not None,
            out_s=_out_for(out.body, now) if out is not None else 0.0,
            bleed_s=bleed_seconds(last, bleeder.body.ohms, bleeder.body.farad, safe_volts)
            if bleeder and last
            else None,
            readings=after,
            proved=any(e.number > begun and e.body.boot == now.boot for e in job.power.proved),
            safe_volts=safe_volts,
        )
    return found


def _out_for(out: PluggedOut, now: Moment) -> float:
    """How long the plug has been out for certain, s: before this start of the computer, at least since it."""
    since = now.since(out.boot, out.boot_s)
    return now.seconds if since is None and out.boot else since or 0.0


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


def held_at_full_line(job: Job) -> bool:
    """Say whether the full line was held: its state began, and the next or the plug came HELD_S later or more."""
    steps = job.power.steps
    kept = job.power.plan
    lines = [s.line_volts for s in read_plan(kept.body.lines, kept.body.way, kept.body.why).steps] if kept else []
    for step, after in pairwise(steps):
        if isinstance(step.body, StateBegun) and (after.at - step.at).total_seconds() >= HELD_S:
            title, volts = step.body.title, step.body.line_volts
            if title in FULL_LINE or (lines and volts >= 0.95 * max(lines)):
                return True
    return False


_STEP_KINDS = ("power_state", "plugged_out", "switched_on", "switched_off")


class UnderPower:
    """The jobs of a notebook whose line is on, looked for anew only when something was written."""

    def __init__(self, notebook: Notebook) -> None:
        self._notebook = notebook
        self._seen: tuple[Revision, tuple[tuple[str, str], ...]] | None = None

    def jobs(self) -> tuple[tuple[str, str], ...]:
        """Return each by its name and the state it is in, as its entries say."""
        now = self._notebook.revision()
        if self._seen is None or self._seen[0] != now:
            self._seen = now, under_power(self._notebook)
        return self._seen[1]


def under_power(notebook: Notebook) -> tuple[tuple[str, str], ...]:
    """Return the jobs whose line is on, as their entries say, and the state each is in."""
    last = {row.job: row for row in notebook.store.of_kinds(_STEP_KINDS)}
    struck = struck_ids(notebook.entries_of_kinds(("strike", "unstrike")))
    found = []
    for job, row in last.items():
        # A plug that is out at the end, and was never struck, needs no reading: of a shop's years nearly all are such.
        if row.kind == "plugged_out" and row.id not in struck:
            continue
        standing = Standing(notebook.entries_of(job))
        power, soak = power_record(standing), soak_record(standing)
        if power.is_live and power.state is not None:
            found.append((stay_record(standing).name, power.state.body.title))
        elif (
            soak.said and soak.said[-1][1] is None
        ):  # somebody said that it is on; what was only read may be off again
            found.append((stay_record(standing).name, worded("power.it_soaks")))
    return tuple(found)
