"""Release checks: one list of what is checked before an instrument leaves, each with its limit, who found it so and when."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass, replace

from candor.core.jot.release_meaning import EarthJot, LeavingJot
from candor.core.leaving.electrical import (
    Judged,
    LocalRule,
    TouchReading,
    judge_earth,
    judge_insulation,
    judge_touch,
)
from candor.notebook.arrive.arrivals import lifting_words
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import AnyEntry, Entry
from candor.notebook.entries.power import PowerChecked
from candor.notebook.entries.release import EarthRead, LeavingChecked, LeavingOverridden, TouchRead
from candor.notebook.parts.parts_list import PartLine, PartsList
from candor.notebook.power.may_power import SAID, ItemState, PowerItem
from candor.notebook.work.barriers import missing_fasteners
from candor.notebook.work.job import Job

ADVICE = "Local codes and licensed practice come first; this list advises, it does not certify safety."
MEASURED = {
    "earth": ("Earth bond", "From the plug's pin to the bare case at 1 A or more. Type: earth 0.12 ohm lead 0.05 ohm at 10 A. "
              "Two-wire: does not apply."),
    "insulation": ("Insulation", "Plug out, switch on, both mains conductors joined, to the case, 500 V d.c.; every fuse and "
                   "selector position, suppressors noted. Never into a meter's rectifier or a solid state supply. "
                   "Type: insulation 22 Mohm @500V"),
    "touch": ("Touch current", "The case may be live: do not touch it; measure the earth first. On the mains as they are: behind "
              "an isolating transformer nothing flows. From each bare part to earth through the network, the earth lead lifted "
              "where there is one; plug both ways, switch on and off. Type: touch 0.21 mA reversed off, or the V across the "
              "network: touch 0.42 V as it is on"),
}  # fmt: skip
# What is looked at by hand, in the order of a bench; common practice, no source. Local codes come first.
LOOKED = {
    "polarity": ("Polarity", "The switch, the fuse and a socket's centre are in the live conductor of the plug as it is wired."),
    "fuse": ("Fuse", "Its value and its kind (fast or slow) are written beside it, it is the right one, and it sits in the live "
             "conductor, before the switch."),
    "switch": ("Switch", "It breaks the live conductor, or both, and off is off."),
}  # fmt: skip
AT_THE_END = {
    "controls": ("Tap and turn", "Each control turned over its whole travel, each tapped, the needle or the trace watched: no "
                 "jump, no crackle."),
    "shake": ("Shake", "Turned over and shaken, nothing rattles: what is loose falls across something live later."),
    "bag": ("Original parts", "What came out is in a bag that goes with it, or the owner said no."),
    "batteries": ("Batteries", "New ones in and noted, or out, for one that is to be stored: cells leak."),
}  # fmt: skip
NO_MAINS = "batteries feed it: nothing of the mains applies"
STATES = {
    "good": "OK",
    "bad": "not OK",
    "missing": "not done",
    "does not apply": "does not apply",
}


@dataclass(frozen=True)
class LeavingItem(PowerItem):
    """A line of the list, with who wrote what it comes from, and when."""

    who: str = ""
    at: dt.datetime | None = None

    @property
    def line(self) -> str:
        """As it is printed."""
        by = f" {self.who}, {self.at:%Y-%m-%d}." if self.at is not None else ""
        return f"{self.title}: {STATES[self.state]}. {self.words[:1].upper()}{self.words[1:].rstrip('.')}.{by}"


def leaving_list(job: Job, parts: PartsList | None, rule: LocalRule) -> tuple[LeavingItem, ...]:
    """Return the list, in order: what could kill first."""
    made = [_hazards(job), *_electrical(job, parts, rule), _fasteners(job)]
    lift = lifting_words(job)
    for key, (title, ask) in AT_THE_END.items():
        made.append(_looked(job, key, title, f"{lift} {ask}".strip() if key == "shake" else ask))
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
    return f"Release checks: {name_open(items)}. Look at {them}, or let each go with a reason that is printed."


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
        return [LeavingItem("mains", "Mains", "does not apply", NO_MAINS)]
    # The bond before the touch current: until the case is known to be bonded it may be live in the hand that measures.
    return [
        _earth(job, rule),
        _insulation(job, rule),
        _touch(job, rule),
        *(_looked(job, key, title, ask, before=job.power.checks.get(key)) for key, (title, ask) in LOOKED.items()),
        _line_capacitors(job, parts),
    ]


def _measured(job: Job, key: str, entry: AnyEntry | None, judged: Judged | None) -> LeavingItem:
    """A line of what is measured: by the newest reading, or that it does not apply; one from before a change is read again."""
    title, ask = MEASURED[key]
    said: Entry[LeavingChecked] | None = job.release.checks.get(key)
    if said is not None and said.body.outcome == "does not apply" and (entry is None or said.number > entry.number):
        return _from(
            said, LeavingItem(key, title, "does not apply", said.body.text or SAID["does not apply"], by_hand=True)
        )
    if entry is None or judged is None:
        return LeavingItem(key, title, "missing", ask, by_hand=True)
    item = _from(entry, LeavingItem(key, title, judged.state, judged.sentence, by_hand=True))
    # A change may have pinched a wire: what was measured before it says nothing of now. What was bad then stays so.
    later = [c for c in job.stay.changes if c.number > entry.number]
    if later and item.state != "bad":
        words = f"measured before {later[-1].body.text} (entry {later[-1].number}): measure it again"
        item = replace(item, state="missing", words=words)
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


def _looked(job: Job, key: str, title: str, ask: str, before: Entry[PowerChecked] | None = None) -> LeavingItem:
    """A line of what is looked at; one that was looked at before power stands, until it is looked at again."""
    said = job.release.checks.get(key)
    if said is not None:
        words = said.body.text or SAID[said.body.outcome]
        return _from(said, LeavingItem(key, title, said.body.outcome, words, by_hand=True))
    if before is not None:
        words = f"before power: {before.body.text or SAID[before.body.outcome]}"
        return _from(before, LeavingItem(key, title, before.body.outcome, words, by_hand=True))
    return LeavingItem(key, title, "missing", ask, by_hand=True)


def _from(entry: AnyEntry, item: LeavingItem) -> LeavingItem:
    return replace(item, entry=entry.number, who=entry.who, at=entry.at)


def _hazards(job: Job) -> LeavingItem:
    hazards = job.arrive.open_hazards
    if hazards:
        words, entry = "; ".join(f.text for f in hazards), hazards[-1].entry.number
        return LeavingItem("hazards", "Hazards", "bad", words, entry=entry)
    if job.arrive.findings or job.arrive.looked:
        return LeavingItem("hazards", "Hazards", "good", "none is open")
    return _looked(
        job, "hazards", "Hazards", "Walk round it once more, outside and inside.", job.power.checks.get("hazards")
    )


def _fasteners(job: Job) -> LeavingItem:
    """Fasteners left over or missing, and steps that are not put back: none, whatever was said before power."""
    missed = missing_fasteners(job)
    count = sum(m.count for m in missed)
    off = [t for t in job.arrive.taken if t.back is None]
    if count:
        words = f"{count} missing: it may be lying across a live part"
        return LeavingItem("fasteners", "Fasteners", "bad", words, entry=missed[-1].number)
    if off:
        names = ", ".join(t.entry.body.what for t in off[:4])
        return LeavingItem(
            "fasteners", "Fasteners", "missing", f"not put back yet: {names}", entry=off[-1].entry.number
        )
    state: ItemState = "good" if job.arrive.taken else "does not apply"
    words = "none is missing" if job.arrive.taken else "nothing was taken apart"
    return LeavingItem("fasteners", "Fasteners", state, words)


def _line_capacitors(job: Job, parts: PartsList | None) -> LeavingItem:
    """Capacitors that touch the mains: each of its class, by what was fitted; what nobody knows is looked at by hand."""
    title, key = "Capacitors on the mains", "line capacitors"
    held = [x for x in parts.lines if x.part.mains and x.part.kind == "capacitor"] if parts is not None else []
    old = [x.part.ref for x in held if x.fate == ""]
    if old:
        return LeavingItem(key, title, "bad", f"of no safety class: {', '.join(old)}; replace them")
    unknown = [x.part.ref for x in held if x.fate == "replaced" and not _is_classed(x)]
    if held and not unknown:
        return LeavingItem(
            key, title, "good", f"of their class, or not fitted: {', '.join(x.part.ref for x in held)}"
        )
    ask = (
        f"{', '.join(unknown)} replaced, the class is not on record." if unknown else "None is listed: is one there?"
    )
    return _looked(
        job, key, title, f"{ask} Line to line of class X2, line to chassis of class Y2, rated for these mains."
    )


def _is_classed(line: PartLine) -> bool:
    wanted = "Y" if line.part.mains == "line to chassis" else "X"
    fitted = line.choice.body.lines if line.choice is not None else ()
    return bool(fitted) and all(n.safety[:1] in (wanted, "Y") for n in fitted)
