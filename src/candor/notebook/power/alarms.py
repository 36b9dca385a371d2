"""What a reading or a line means for whoever stands at the bench: over a known limit, or smoke; whenever and wherever it comes."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterator, Mapping, Sequence

from candor.core.circuit.netlist import GROUND
from candor.core.finding import Figure, Finding
from candor.core.late_dataclass import dataclass
from candor.core.parts.mains import WORSE
from candor.core.power.danger_words import danger_in, danger_now_in, is_expected
from candor.core.power.plan import Plan
from candor.core.power.rated import SURGE_S, surge_volts
from candor.core.power.supply_text import read_supply
from candor.core.power.swap import HEATER_RELIEF, HEATERLESS, swapped_rectifier
from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.entries.calibrate_entries import ReadingTaken
from candor.notebook.entries.entry import AnyEntry, Entry, says
from candor.notebook.entries.power_entries import EventSeen, PluggedOut, RailRead, StateBegun
from candor.notebook.entries.runs_entries import RunEnded, RunStarted
from candor.notebook.entries.soak_entries import SwitchedOff, SwitchedOn
from candor.notebook.entries.stay_entries import NoteWritten
from candor.notebook.entries.strikes_entries import struck_ids
from candor.notebook.entries.trace_entries import NodeRead
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.work.job import Job

LINE_HIGH = 1.10
STILL_ON_S = 1800.0  # s since it was last read: so long it counts as on where nobody says otherwise (common practice, no source)
UNDER_POWER = (ReadingTaken, NodeRead, RailRead, SwitchedOn)
LIVE_KINDS = (
    "power_state",
    "plugged_out",
    "switched_on",
    "switched_off",
    "run_started",
    "run_ended",
    "strike",
    "unstrike",
)
LOOKED_AT = (RailRead, NodeRead, EventSeen, NoteWritten, FindingNoted)


@dataclass(frozen=True)
class Alarm:
    """Something that must be known at once.

    Attributes
    ----------
    entry : str
        The entry it comes from.
    found : Finding
    plug_out : bool
        The line is on, and it must come off.
    """

    entry: str
    found: Finding
    plug_out: bool

    @property
    def is_cut(self) -> bool:
        """Whether the plug must come out."""
        return self.plug_out


def measured_good(job: Job, parts: PartsList | None) -> bool:
    """Say whether the electrolytics of a job were measured and are good."""
    check = job.power.checks.get("electrolytics")
    sampled = parts is not None and parts.sample == "good"
    return sampled or (check is not None and check.body.outcome == "good")


def live_elsewhere(entries: Sequence[AnyEntry], job: str) -> dt.datetime | None:
    """Return since when another job on the bench is live: in a state with the line on, soaking, or in a run; None where none is.

    By the entries of LIVE_KINDS, of all jobs.
    """
    struck, live = struck_ids(entries), dict[str, dt.datetime]()
    for entry in entries:
        if entry.job == job or entry.id in struck:
            continue
        if says(entry, SwitchedOn) or (says(entry, StateBegun) and entry.body.line_volts > 0):
            live.setdefault(entry.job, entry.at)
        elif says(entry, StateBegun) or says(entry, PluggedOut) or says(entry, SwitchedOff):
            live.pop(entry.job, None)
        elif says(entry, RunStarted):
            live[entry.id] = entry.at
        elif says(entry, RunEnded):
            live.pop(entry.body.run, None)
    return min(live.values(), default=None)


def alarms_of(
    job: Job, parts: PartsList | None, plan: Plan | None, live_since: dt.datetime | None = None,
    now: dt.datetime | None = None,
) -> tuple[Alarm, ...]:  # fmt: skip
    """Return every alarm since the plug was last pulled, in order of the entries; `live_since` as `live_elsewhere` has it.

    Every reading of a rail or a node is held to every rating that is known of it, in a state or out of one; every line written
    while it is on, or may be, is looked through for smoke and its kin. Where nobody said that it is on, what was written longer ago
    than STILL_ON_S is of then: who opens the job a week later is not told to pull a plug.
    """
    out = job.power.out.number if job.power.out is not None else _last_out(job)
    found = []
    good = measured_good(job, parts)
    used: dt.datetime | None = None  # when something was last read on it; a switch that is off is no plug that is out
    for entry in job.entries:
        if entry.number <= out or entry.id in job.struck:
            continue
        if isinstance(entry.body, UNDER_POWER):
            used = entry.at
        if not isinstance(entry.body, LOOKED_AT):
            continue
        state = _state_at(job, entry)
        live = state is not None and state.body.line_volts > 0
        if says(entry, RailRead):
            what = _rail(job, entry, state, good)
        elif says(entry, NodeRead):
            what = _node(job, entry, parts)
        elif live:
            what = _line(entry, state, plan)
        elif now is None or (now - entry.at).total_seconds() <= STILL_ON_S:
            what = _line(entry, None, None) if _may_be_on(job, entry, used) else None
            if what is None and live_since is not None and entry.at >= live_since:
                what = _line(entry, None, None, "alarm.elsewhere")  # smoke is smoke, whatever job is in hand
            live = what is not None
        else:
            continue
        if what is not None:
            found.append(Alarm(entry.id, what, live))
    return tuple(found)


def may_alarm(job: Job) -> bool:
    """Whether a job holds anything that could be an alarm; most do not, and are not looked through with parts and plan."""
    if job.power.reads or job.power.state is not None or job.trace.read:
        return True
    lines = (e.body.text for e in job.entries if isinstance(e.body, EventSeen | NoteWritten | FindingNoted))
    return any(map(danger_in, lines))


def _may_be_on(job: Job, entry: AnyEntry, used: dt.datetime | None) -> bool:
    """Whether an instrument of which no state was begun may be on: it was just read, or what is seen is seen now."""
    supply = job.power.supply
    if supply is not None and supply.body.no_mains:
        return False
    if isinstance(entry.body, EventSeen):  # seen now, unless the plug is out and nothing was read since
        return used is not None or not _last_out(job)
    just_read = used is not None and (entry.at - used).total_seconds() <= STILL_ON_S
    return just_read and not (isinstance(entry.body, FindingNoted) and not danger_now_in(entry.body.text))


def _last_out(job: Job) -> int:
    return max((e.number for e in job.power.steps if isinstance(e.body, PluggedOut)), default=0)


def _state_at(job: Job, entry: AnyEntry) -> Entry[StateBegun] | None:
    """The state the job was in when an entry was written."""
    before = [s for s in job.power.steps if s.number < entry.number]
    return before[-1] if before and says(before[-1], StateBegun) else None


def _rail(job: Job, entry: Entry[RailRead], state: Entry[StateBegun] | None, good: bool) -> Finding | None:
    body, said = entry.body, job.power.rails.get(entry.body.name)
    rated = said.body.rated_volts if said is not None else 0.0
    if not rated or said is None:
        return None
    since = (entry.at - state.at).total_seconds() if state is not None else math.inf
    bears = surge_volts(rated, good, said.body.surge_volts) if since <= SURGE_S else rated
    if abs(body.reading) <= bears:
        return None
    return Finding("alarm.rail", {"name": body.name, "volts": body.reading, "rated": rated})


def _node(job: Job, entry: Entry[NodeRead], parts: PartsList | None) -> Finding | None:
    circuit = parts.circuit if parts is not None else None
    if parts is None or circuit is None:
        return None
    node = parts.aliases.get(entry.body.node, entry.body.node)
    volts = {GROUND: 0.0, **{n: e.body.volts for n, e in job.trace.read.items()}, node: entry.body.volts}
    for element in circuit.netlist.elements:
        line = parts.line(element.name)
        if element.LETTER != "C" or node not in (element.plus, element.minus) or line is None or not line.part.volts:
            continue
        if element.plus in volts and element.minus in volts:
            across = abs(volts[element.plus] - volts[element.minus])
            if across > line.part.volts:
                over: dict[str, Figure] = {"node": entry.body.node, "volts": entry.body.volts, "across": across}
                return Finding("alarm.node", over | {"part": line.part.ref, "rated": line.part.volts})
    return None


def _line(
    entry: AnyEntry, state: Entry[StateBegun] | None, plan: Plan | None, kind: str = "alarm.may be on"
) -> Finding | None:
    body, heard = entry.body, danger_now_in if kind == "alarm.elsewhere" else danger_in
    if not isinstance(body, EventSeen | NoteWritten | FindingNoted) or not heard(body.text):
        return None
    if state is not None and plan is not None:
        step = next((s for s in plan.steps if s.title == state.body.title), None)
        if step is not None and is_expected(body.text, step.events, (entry.at - state.at).total_seconds()):
            return None
    return Finding("alarm.words" if state is not None else kind, {"words": body.text})


def over_rated(job: Job, parts: PartsList | None) -> tuple[Finding, ...]:
    """Return what is known before power to pass a capacitor's rating: as drawn, or as the supply was calculated at +10 % line."""
    good = measured_good(job, parts)
    return (*_drawn_over(job), *_calculated_over(job, good))


def _drawn_over(job: Job) -> Iterator[Finding]:
    for name, entry in job.power.rails.items():
        body = entry.body
        if 0 < body.rated_volts < abs(body.volts):
            yield Finding("over.drawn", {"name": name, "volts": abs(body.volts), "rated": body.rated_volts})


def _calculated_over(job: Job, good: bool) -> Iterator[Finding]:
    crest = open_volts(job, LINE_HIGH)
    if not crest or job.power.typed is None:
        return
    for number, section in enumerate(read_supply(job.power.typed.body.line, WORSE.hertz).sections, 1):
        bears = surge_volts(section.rated_volts, good)
        if section.rated_volts and crest > bears:
            why = Finding("over.surge" if good else "over.rating")
            yield Finding("over.capacitor", {"number": number, "volts": crest, "bears": bears, "why": why})
    for name, volts in no_load_of(job).items():
        rail = job.power.rails[name].body
        bears = surge_volts(rail.rated_volts, good, rail.surge_volts)
        if rail.rated_volts and LINE_HIGH * volts > bears:
            yield Finding("over.rail", {"name": name, "volts": LINE_HIGH * volts, "bears": bears})


def open_volts(job: Job, line_ratio: float = 1.0) -> float:
    """Return the crest of the open winding of the supply that was typed, V; 0 where none was."""
    typed = job.power.typed
    if typed is None:
        return 0.0
    relief = 1 + HEATER_RELIEF[1] if swap_of(job)[0] not in ("", *HEATERLESS) else 1.0
    return relief * read_supply(typed.body.line, WORSE.hertz).open_volts(line_ratio)


def swap_of(job: Job) -> tuple[str, int]:
    """Return what silicon went in for, and the entry that says so; nothing and 0 where nobody says so."""
    found = [(swapped_rectifier(e.body.text), e.number) for e in job.stay.changes]
    return next((pair for pair in reversed(found) if pair[0]), ("", 0))


def no_load_of(job: Job) -> Mapping[str, float]:
    """Return what the rails of the typed supply reach before anything draws, V at the nominal line: the crest of its winding.

    Those are its highest rail: a rail drawn above the half of that crest hangs on that winding; a lower one on another or a
    divider.
    """
    crest = open_volts(job)
    rails = {name: e.body for name, e in job.power.rails.items() if not e.body.regulated}
    return {name: crest for name, body in rails.items() if crest and body.volts > crest / 2}
