"""May it be powered? One list of what must be known first, what is still missing, and what was found not to be so."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from candor.core.leaving.electrical import WASHED_OHMS, LocalRule, judge_earth
from candor.core.power.rail_ohms import HOW, judge_rail
from candor.core.quantities import engineering
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.power.alarms import over_rated
from candor.notebook.work.barriers import is_overridden, missing_fasteners, planned_not_fitted
from candor.notebook.work.job import Job

ItemState = Literal["good", "missing", "bad", "does not apply"]

# What is checked by hand with power off, in the order of a bench; common practice, no source. Local codes come first.
CHECKS: dict[str, tuple[str, str]] = {
    "windings": (
        "Transformer, each winding",
        "Each by itself: winding hv 140 ohm, winding heater 0.3 ohm. Every one has continuity, none joins another or "
        "the case. Of a winding with a centre tap both "
        "halves read alike.",
    ),
    "fuse": (
        "Fuse",
        "Its value and kind are what the manual says, and it sits in the live conductor. No fuse at all: "
        "one is fitted.",
    ),
    "cord": ("Cord and clamp", "Sound along its whole length and at both ends, and firmly clamped."),
    "earth": (
        "Earth",
        "From the plug's earth pin to the bare case at 1 A or more, such as: 0.12 ohm lead 0.05 ohm at 10 A. The earth wire is the "
        "longest. Where the common lead is the case it can then no longer be clipped to a live chassis; write that on the label.",
    ),
    "switch": ("Switch", "It breaks the live conductor, or both."),
    "off": (
        "“Off” that is off",
        "Plugged in and switched off, nothing of it is live: some transformers stay on the mains.",
    ),
    "meter": ("The meter", "Proved on something live just before: a dead meter reads 0 too."),
}
SAID = {
    "good": "checked: OK", "bad": "checked: not OK", "does not apply": "it does not apply here",
}  # fmt: skip
NO_TRANSFORMER = ("windings", "earth")


@dataclass(frozen=True)
class PowerItem:
    """A line of the list.

    Attributes
    ----------
    key, title : str
    state : "good", "missing", "bad" or "does not apply"
    words : str
        What is known, or what is to be done.
    by_hand : bool
        Whether it is settled here; else where it belongs: at Arrive or Parts.
    entry : int
        The entry it comes from, 0 where nobody has looked at it.
    """

    key: str
    title: str
    state: ItemState
    words: str
    by_hand: bool = False
    entry: int = 0

    @property
    def is_open(self) -> bool:
        """Whether it stands in the way."""
        return self.state in ("missing", "bad")

    @property
    def may_be_let_go(self) -> bool:
        """Whether a written reason lets it go: only what somebody looked at and found not as it should be."""
        return self.is_open and (self.state == "bad" or self.entry > 0) and (self.by_hand or self.key == "ratings")


def power_list(job: Job, parts: PartsList | None) -> tuple[PowerItem, ...]:
    """Return the list, in order: what could kill first. What of it applies follows from the instrument and what was found."""
    supply = job.power.supply.body if job.power.supply else None
    made = [_hazards(job), _fasteners(job)]
    if supply is not None and supply.no_mains:
        return (
            *made,
            PowerItem("mains", "Mains", "does not apply", "Batteries feed it: nothing below the mains applies."),
        )
    made += [_planned(job), _sample(job, parts), _ratings(job, parts), *_insulation(job), *_rails(job)]
    skipped = NO_TRANSFORMER if supply is not None and supply.series_heaters else ()
    found = {key: _check(job, key, title, ask, key in skipped) for key, (title, ask) in CHECKS.items()}
    found["earth"] = _earth(job, found["earth"])
    if job.power.windings and "windings" not in job.power.checks:
        found.pop("windings")
        made += _windings(job)
    return (*made, *found.values())


def open_items(job: Job, parts: PartsList | None) -> tuple[PowerItem, ...]:
    """Return what stands in the way of power and was not let go, each by itself, since it was found."""
    return tuple(item for item in power_list(job, parts) if item.is_open and not _is_let_go(job, item))


def say_not_yet(still: tuple[PowerItem, ...]) -> str:
    """Say what stands in the way of power; nothing where nothing does."""
    if not still:
        return ""
    names = ", ".join(item.title for item in still[:4]) + (f" and {len(still) - 4} more" if len(still) > 4 else "")
    return f"Do not power it yet: {names}. Resolve this, or override it and say why."


def _is_let_go(job: Job, item: PowerItem) -> bool:
    override = job.power.overridden.get(item.key)
    if override is not None:
        return item.may_be_let_go and override.number > item.entry
    # Until 2026-11 one reason let every check go: it counts for what was looked at by then, and for nothing else.
    older = job.parts.overridden.get("checks")
    return older is not None and item.may_be_let_go and older.number > item.entry > 0


def _hazards(job: Job) -> PowerItem:
    hazards = job.arrive.open_hazards
    if hazards:
        return PowerItem(
            "hazards", "Hazards", "bad", "; ".join(f.text for f in hazards), entry=hazards[-1].entry.number
        )
    if job.arrive.findings or job.arrive.looked:
        return PowerItem("hazards", "Hazards", "good", "none is open")
    ask = "Not inspected yet. Inspect it outside and inside at Arrive."
    return _check(job, "hazards", "Hazards", ask, False)


def _fasteners(job: Job) -> PowerItem:
    missing = missing_fasteners(job)
    missed = [m for m in missing if not is_overridden(job, "fasteners", m.number)]
    count = sum(m.count for m in missed)
    if count:
        words = f"{count} missing: it may be lying across a live part"
        return PowerItem("fasteners", "Fasteners", "bad", words, entry=missed[-1].number)
    if missing:
        return PowerItem(
            "fasteners", "Fasteners", "good", "overridden: " + job.parts.overridden["fasteners"].body.reason
        )
    if job.arrive.taken:
        return PowerItem("fasteners", "Fasteners", "good", "none is missing")
    return PowerItem("fasteners", "Fasteners", "does not apply", "nothing was taken apart")


def _planned(job: Job) -> PowerItem:
    planned = planned_not_fitted(job)
    waiting = [e for e in planned if not is_overridden(job, "parts", e.number)]
    if waiting:
        refs = ", ".join(e.body.ref for e in waiting[:6])
        return PowerItem(
            "parts", "Planned minus fitted", "bad", f"planned, not fitted: {refs}", entry=waiting[-1].number
        )
    if not (job.parts.replacements or job.parts.decided):
        return PowerItem("parts", "Planned minus fitted", "does not apply", "nothing is planned")
    return PowerItem("parts", "Planned minus fitted", "good", "all that is planned is fitted")


def _sample(job: Job, parts: PartsList | None) -> PowerItem:
    title = "Electrolytics, a sample"
    states: dict[str, ItemState] = {"bad": "bad", "good": "good", "to measure": "missing"}
    state = states.get(parts.sample) if parts is not None else None
    if parts is not None and state is not None:
        return PowerItem("sample", title, state, parts.sample_words)
    ask = "Measured before any mains: value and ESR of the electrolytics farthest from the supply. None is on the parts list."
    return _check(job, "electrolytics", title, ask, False)


def _ratings(job: Job, parts: PartsList | None) -> PowerItem:
    """What is known before power to pass a capacitor's rating."""
    over = over_rated(job, parts)
    newest = max(
        [e.number for e in (*job.power.rails.values(), *filter(None, (job.power.typed,)))], default=0
    )  # fmt: skip
    if over:
        return PowerItem("ratings", "Capacitor ratings", "bad", "; ".join(over), entry=newest)
    known = any(e.body.rated_volts for e in job.power.rails.values()) or job.power.typed is not None
    words = (
        "no rail, drawn or calculated, passes its capacitor's rating"
        if known
        else "no rail has both its volts and its rating"
    )
    return PowerItem("ratings", "Capacitor ratings", "good" if known else "does not apply", words, entry=newest)


def _earth(job: Job, said: PowerItem) -> PowerItem:
    """The earth bond, measured with its test current; that there is none, or that it is not so, is said by hand."""
    read, check = job.release.earth, job.power.checks.get("earth")
    if said.state in ("does not apply", "bad") and (read is None or check is None or check.number > read.number):
        return said
    if read is None:
        words = (
            "test current not given: write the ohms and the amperes, such as 0.12 ohm at 10 A"
            if said.state == "good"
            else said.words
        )
        return replace(said, state="missing", words=words)
    judged = judge_earth(read.body.ohms, read.body.lead_ohms, read.body.amperes, LocalRule())
    return PowerItem("earth", said.title, judged.state, judged.sentence, by_hand=True, entry=read.number)


def _insulation(job: Job) -> tuple[PowerItem, ...]:
    if not any(e.body.how == "washed" for e in job.cleaning.cleaned):
        return ()
    title, washed, enough = (
        "Insulation since it was washed",
        job.cleaning.untested,
        f"{WASHED_OHMS / 1e6:g} MΩ or more",
    )
    if washed is None:
        return (PowerItem("insulation", title, "good", enough),)
    if is_overridden(job, "insulation", washed.number):
        reason = job.parts.overridden["insulation"].body.reason
        return (PowerItem("insulation", title, "good", f"overridden: {reason}"),)
    ask = f"{enough} at 500 V d.c., rising, switch on, both mains conductors joined, to the chassis"
    return (PowerItem("insulation", title, "missing", ask),)


def _rails(job: Job) -> tuple[PowerItem, ...]:
    names = dict.fromkeys((*job.power.rails, *job.power.rail_ohms))
    if not names:
        check = job.power.checks.get("rails")
        return (
            _check(
                job,
                "rails",
                "Rails to chassis",
                f"Name each. Example: chassis b1 45k per the manual 50k. {HOW}",
                check is None and False,
            ),
        )
    made = []
    for name in names:
        read = job.power.rail_ohms.get(name)
        title = f"{name} to chassis"
        if read is None:
            made.append(
                PowerItem(
                    f"rail {name}",
                    title,
                    "missing",
                    f"Type: chassis {name} 45k per the manual 50k. {HOW}",
                    by_hand=True,
                )
            )
            continue
        judged = judge_rail(read.body.ohms, read.body.expected_ohms)
        states: dict[str, ItemState] = {"good": "good", "look": "good", "bad": "bad"}
        state = states[judged.outcome]
        made.append(PowerItem(f"rail {name}", title, state, judged.sentence, by_hand=True, entry=read.number))
    return tuple(made)


def _windings(job: Job) -> list[PowerItem]:
    """A line for each winding that was read: one that is open is not a winding."""
    made = []
    for name, entry in job.power.windings.items():
        ohms = entry.body.ohms
        whole = "" if ohms is None else f"{engineering(ohms, 'ohm', 3)}, whole"
        words = whole or "open: it is broken, or it is not what it was taken for"
        made.append(
            PowerItem(
                f"winding {name}",
                f"Winding {name}",
                "bad" if ohms is None else "good",
                words,
                by_hand=True,
                entry=entry.number,
            )
        )
    return made


def _check(job: Job, key: str, title: str, ask: str, skipped: bool) -> PowerItem:
    entry = job.power.checks.get(key)
    if key == "meter" and entry is None and job.power.proved:
        last = job.power.proved[-1].body
        return PowerItem(key, title, "good", f"proved{' on ' + last.on if last.on else ''}", by_hand=True)
    if entry is None:
        words = "no transformer: it does not apply" if skipped else ask
        return PowerItem(key, title, "does not apply" if skipped else "missing", words, by_hand=True)
    states: dict[str, ItemState] = {"good": "good", "bad": "bad", "does not apply": "does not apply"}
    return PowerItem(
        key, title, states[entry.body.outcome], entry.body.text or SAID[entry.body.outcome], by_hand=True,
        entry=entry.number,
    )  # fmt: skip
