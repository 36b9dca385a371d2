"""Release checks: one list of what is checked before an instrument leaves, each with its limit, who found it so and when."""

from __future__ import annotations

import datetime as dt
from dataclasses import replace

from candor.core.jot.release_meaning import EarthJot, LeavingJot
from candor.core.late_dataclass import dataclass
from candor.core.leaving.electrical import (
    EarthFound,
    InsulationFound,
    LocalRule,
    TouchFound,
    TouchReading,
    judge_earth,
    judge_insulation,
    judge_touch,
)
from candor.core.worded import worded
from candor.notebook.arrive.arrivals import heavy_mass
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import AnyEntry, Entry
from candor.notebook.entries.power_entries import PowerChecked
from candor.notebook.entries.release_entries import EarthRead, LeavingChecked, LeavingOverridden, TouchRead
from candor.notebook.parts.parts_list import PartLine, PartsList
from candor.notebook.power.may_power import ItemState, PowerItem
from candor.notebook.work.barriers import missing_fasteners
from candor.notebook.work.check_findings import (
    Fasteners,
    Hazards,
    LineCapacitors,
    Looked,
    NoMains,
    NotLooked,
    Outdated,
)
from candor.notebook.work.job import Job

MEASURED = {"earth": "Earth bond", "insulation": "Insulation", "touch": "Touch current"}
# What is looked at by hand, in the order of a bench; common practice, no source. Local codes come first.
LOOKED = {"polarity": "Polarity", "fuse": "Fuse", "switch": "Switch"}
AT_THE_END = {"controls": "Tap and turn", "shake": "Shake", "bag": "Original parts", "batteries": "Batteries"}


Measured = EarthFound | InsulationFound | TouchFound


@dataclass(frozen=True)
class LeavingItem(PowerItem):
    """A line of the list, with who wrote what it comes from, and when."""

    who: str = ""
    at: dt.datetime | None = None


def leaving_list(job: Job, parts: PartsList | None, rule: LocalRule) -> tuple[LeavingItem, ...]:
    """Return the list, in order: what could kill first."""
    made = [_hazards(job), *_electrical(job, parts, rule), _fasteners(job)]
    made += [_looked(job, key, title) for key, title in AT_THE_END.items()]
    return tuple(made)


def open_leaving(job: Job, items: tuple[LeavingItem, ...]) -> tuple[LeavingItem, ...]:
    """Return what stands in the way of signing: open, and not let go by itself since it was found.

    What nobody looked at is never let go: a reason says why something that was found may stand, not why nobody looked.
    """
    return tuple(
        item
        for item in items
        if item.is_open
        and not (
            item.may_be_let_go
            and any(item.key in e.body.items and e.number > item.entry for e in job.release.overridden)
        )
    )


def overriding(item: LeavingItem, reason: str) -> LeavingOverridden:
    """Return the entry that lets one line go, named, for a reason that is printed."""
    return LeavingOverridden(items=(item.key,), reason=reason)


def name_open(items: tuple[LeavingItem, ...]) -> str:
    """Name what is open: the first four, and how many more."""
    named = ", ".join(i.title.casefold() for i in items[:4])
    return named + (f" and {len(items) - 4} more" if len(items) > 4 else "")


def say_open(items: tuple[LeavingItem, ...]) -> str:
    """Say what is open, in a sentence; nothing where nothing is."""
    if not items:
        return ""
    them = "it" if len(items) == 1 else "them"
    return worded("release.release_checks_look_at_or_let", name_open=name_open(items), them=them)


def leaving_body(jot: LeavingJot, rule: LocalRule) -> Body:
    """Return the entry that a line of it becomes; V across the network becomes A by the network of the local rule."""
    if isinstance(jot, EarthJot):
        return EarthRead(ohms=jot.ohms, lead_ohms=jot.lead_ohms, amperes=jot.amperes)
    if jot.volts:
        across = jot.volts / rule.network_ohms
        return TouchRead(
            amperes=across,
            is_reversed=jot.is_reversed,
            is_on=jot.is_on,
            volts=jot.volts,
            network_ohms=rule.network_ohms,
        )
    return TouchRead(amperes=jot.amperes, is_reversed=jot.is_reversed, is_on=jot.is_on)


def _electrical(job: Job, parts: PartsList | None, rule: LocalRule) -> list[LeavingItem]:
    supply = job.power.supply.body if job.power.supply else None
    if supply is not None and supply.no_mains:
        return [LeavingItem("mains", "Mains", "does not apply", NoMains())]
    # The bond before the touch current: until the case is known to be bonded it may be live in the hand that measures.
    return [
        _earth(job, rule),
        _insulation(job, rule),
        _touch(job, rule),
        *(_looked(job, key, title, before=job.power.checks.get(key)) for key, title in LOOKED.items()),
        _line_capacitors(job, parts),
    ]


def _measured(job: Job, key: str, entry: AnyEntry | None, found: Measured | None) -> LeavingItem:
    """A line of what is measured: by the newest reading, or that it does not apply; one from before a change is read again."""
    title = MEASURED[key]
    said: Entry[LeavingChecked] | None = job.release.checks.get(key)
    if said is not None and said.body.outcome == "does not apply" and (entry is None or said.number > entry.number):
        looked = Looked("does not apply", said.body.text)
        return _from(said, LeavingItem(key, title, "does not apply", looked, by_hand=True))
    if entry is None or found is None:
        return LeavingItem(key, title, "missing", NotLooked(f"release {key}"), by_hand=True)
    item = _from(entry, LeavingItem(key, title, found.state, found, by_hand=True))
    # A change may have pinched a wire: what was measured before it says nothing of now. What was bad then stays so.
    later = [c for c in job.stay.changes if c.number > entry.number]
    if later and item.state != "bad":
        item = replace(item, state="missing", found=Outdated(later[-1].body.text, later[-1].number))
    return item


def _earth(job: Job, rule: LocalRule) -> LeavingItem:
    entry = job.release.earth
    judged = (
        judge_earth(entry.body.ohms, entry.body.lead_ohms, entry.body.amperes, rule) if entry is not None else None
    )
    return _measured(job, "earth", entry, judged)


def _insulation(job: Job, rule: LocalRule) -> LeavingItem:
    entry, washed = job.cleaning.insulation, any(e.body.how == "washed" for e in job.cleaning.cleaned)
    judged = judge_insulation(entry.body.ohms, entry.body.volts, washed, rule) if entry is not None else None
    return _measured(job, "insulation", entry, judged)


def _touch(job: Job, rule: LocalRule) -> LeavingItem:
    """Of what was read since the last change, where anything was."""
    read, changed = job.release.touch, max((c.number for c in job.stay.changes), default=0)
    fresh = [e.body for e in read if e.number > changed] or [e.body for e in read]
    rows = [TouchReading(b.amperes, b.is_reversed, b.is_on) for b in fresh]
    return _measured(job, "touch", read[-1] if read else None, judge_touch(rows, rule))


def _looked(job: Job, key: str, title: str, before: Entry[PowerChecked] | None = None) -> LeavingItem:
    """A line of what is looked at; one that was looked at before power stands, until it is looked at again."""
    said = job.release.checks.get(key)
    if said is not None:
        looked = Looked(said.body.outcome, said.body.text)
        return _from(said, LeavingItem(key, title, said.body.outcome, looked, by_hand=True))
    if before is not None:
        looked = Looked(before.body.outcome, before.body.text, before_power=True)
        return _from(before, LeavingItem(key, title, before.body.outcome, looked, by_hand=True))
    mass = heavy_mass(job) if key == "shake" else ""
    return LeavingItem(key, title, "missing", NotLooked(f"release {key}", mass), by_hand=True)


def _from(entry: AnyEntry, item: LeavingItem) -> LeavingItem:
    return replace(item, entry=entry.number, who=entry.who, at=entry.at)


def _hazards(job: Job) -> LeavingItem:
    hazards = job.arrive.open_hazards
    if hazards:
        found = Hazards(tuple(f.text for f in hazards))
        return LeavingItem("hazards", "Hazards", "bad", found, entry=hazards[-1].entry.number)
    if job.arrive.findings or job.arrive.looked:
        return LeavingItem("hazards", "Hazards", "good", Hazards())
    return _looked(job, "hazards", "Hazards", job.power.checks.get("hazards"))


def _fasteners(job: Job) -> LeavingItem:
    """Fasteners left over or missing, and steps that are not put back: none, whatever was said before power."""
    missed = missing_fasteners(job)
    count = sum(m.count for m in missed)
    off = [t for t in job.arrive.taken if t.back is None]
    if count:
        return LeavingItem("fasteners", "Fasteners", "bad", Fasteners(missing=count), entry=missed[-1].number)
    if off:
        found = Fasteners(not_back=tuple(t.entry.body.what for t in off))
        return LeavingItem("fasteners", "Fasteners", "missing", found, entry=off[-1].entry.number)
    state: ItemState = "good" if job.arrive.taken else "does not apply"
    return LeavingItem("fasteners", "Fasteners", state, Fasteners(taken_apart=bool(job.arrive.taken)))


def _line_capacitors(job: Job, parts: PartsList | None) -> LeavingItem:
    """Capacitors that touch the mains: each of its class, by what was fitted; what nobody knows is looked at by hand."""
    title, key = worded("release.capacitors_on_the_mains"), "line capacitors"
    held = [x for x in parts.lines if x.part.mains and x.part.kind == "capacitor"] if parts is not None else []
    old = tuple(x.part.ref for x in held if x.fate == "")
    if old:
        return LeavingItem(key, title, "bad", LineCapacitors(old=old))
    unknown = tuple(x.part.ref for x in held if x.fate == "replaced" and not _is_classed(x))
    if held and not unknown:
        return LeavingItem(key, title, "good", LineCapacitors(held=tuple(x.part.ref for x in held)))
    item = _looked(job, key, title)
    return replace(item, found=LineCapacitors(unknown=unknown)) if item.state == "missing" else item


def _is_classed(line: PartLine) -> bool:
    wanted = "Y" if line.part.mains == "line to chassis" else "X"
    fitted = line.choice.body.lines if line.choice is not None else ()
    return bool(fitted) and all(n.safety[:1] in (wanted, "Y") for n in fitted)
