"""May it be powered? One list of what must be known first, what is still missing, and what was found not to be so."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.core.leaving.electrical import WASHED_OHMS, LocalRule, judge_earth
from candor.core.power.rail_ohms import RailOhms
from candor.core.worded import worded
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.power.alarms import over_rated
from candor.notebook.work.barriers import is_overridden, missing_fasteners, planned_not_fitted
from candor.notebook.work.check_findings import (
    CheckFinding,
    EarthUncertain,
    Fasteners,
    Hazards,
    Looked,
    MeterProved,
    NoMains,
    NotLooked,
    NoTransformer,
    OverRated,
    Overridden,
    PlannedParts,
    RailUnread,
    Ratings,
    Told,
    WashedInsulation,
    Winding,
)
from candor.notebook.work.job import Job

ItemState = Literal["good", "missing", "bad", "does not apply"]

# What is checked by hand with power off, in the order of a bench; common practice, no source. Local codes come first.
CHECKS = {
    "windings": "Transformer, each winding",
    "fuse": "Fuse",
    "cord": "Cord and clamp",
    "earth": "Earth",
    "switch": "Switch",
    "off": worded("power.off_that_is_off"),
    "meter": "The meter",
}
NO_TRANSFORMER = ("windings", "earth")


@dataclass(frozen=True)
class PowerItem:
    """A line of the list.

    Attributes
    ----------
    key, title : str
    state : "good", "missing", "bad" or "does not apply"
    found : CheckFinding
        What is known, or what is to be done.
    by_hand : bool
        Whether it is settled here; else where it belongs: at Arrive or Parts.
    entry : int
        The entry it comes from, 0 where nobody has looked at it.
    """

    key: str
    title: str
    state: ItemState
    found: CheckFinding
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
            PowerItem("mains", "Mains", "does not apply", NoMains()),
        )
    made += [_planned(job), _sample(job, parts), _ratings(job, parts), *_insulation(job), *_rails(job)]
    skipped = NO_TRANSFORMER if supply is not None and supply.series_heaters else ()
    found = {key: _check(job, key, title, key in skipped) for key, title in CHECKS.items()}
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
    return worded("power.do_not_power_it_yet_resolve", names=names)


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
        found = Hazards(tuple(f.text for f in hazards))
        return PowerItem("hazards", "Hazards", "bad", found, entry=hazards[-1].entry.number)
    if job.arrive.findings or job.arrive.looked:
        return PowerItem("hazards", "Hazards", "good", Hazards())
    return _check(job, "hazards", "Hazards")


def _fasteners(job: Job) -> PowerItem:
    key, title = "fasteners", "Fasteners"
    missing = missing_fasteners(job)
    missed = [m for m in missing if not is_overridden(job, key, m.number)]
    count = sum(m.count for m in missed)
    if count:
        return PowerItem(key, title, "bad", Fasteners(missing=count), entry=missed[-1].number)
    if missing:
        return PowerItem(key, title, "good", Overridden(job.parts.overridden[key].body.reason))
    if job.arrive.taken:
        return PowerItem(key, title, "good", Fasteners())
    return PowerItem(key, title, "does not apply", Fasteners(taken_apart=False))


def _planned(job: Job) -> PowerItem:
    key, title = "parts", "Planned minus fitted"
    waiting = [e for e in planned_not_fitted(job) if not is_overridden(job, key, e.number)]
    if waiting:
        found = PlannedParts(waiting=tuple(e.body.ref for e in waiting))
        return PowerItem(key, title, "bad", found, entry=waiting[-1].number)
    if not (job.parts.replacements or job.parts.decided):
        return PowerItem(key, title, "does not apply", PlannedParts(any_planned=False))
    return PowerItem(key, title, "good", PlannedParts())


def _sample(job: Job, parts: PartsList | None) -> PowerItem:
    title = "Electrolytics, a sample"
    states: dict[str, ItemState] = {"bad": "bad", "good": "good", "to measure": "missing"}
    state = states.get(parts.sample) if parts is not None else None
    if parts is not None and state is not None:
        return PowerItem("sample", title, state, Told((parts.sample_words,)))
    return _check(job, "electrolytics", title)


def _ratings(job: Job, parts: PartsList | None) -> PowerItem:
    """What is known before power to pass a capacitor's rating."""
    over = over_rated(job, parts)
    newest = max(
        [e.number for e in (*job.power.rails.values(), *filter(None, (job.power.typed,)))], default=0
    )  # fmt: skip
    if over:
        return PowerItem("ratings", "Capacitor ratings", "bad", OverRated(over), entry=newest)
    known = any(e.body.rated_volts for e in job.power.rails.values()) or job.power.typed is not None
    return PowerItem(
        "ratings", "Capacitor ratings", "good" if known else "does not apply", Ratings(known), entry=newest
    )


def _earth(job: Job, said: PowerItem) -> PowerItem:
    """The earth bond, measured with its test current; that there is none, or that it is not so, is said by hand."""
    read, check = job.release.earth, job.power.checks.get("earth")
    if said.state in ("does not apply", "bad") and (read is None or check is None or check.number > read.number):
        return said
    if read is None:
        return replace(said, state="missing", found=EarthUncertain() if said.state == "good" else said.found)
    found = judge_earth(read.body.ohms, read.body.lead_ohms, read.body.amperes, LocalRule())
    return PowerItem("earth", said.title, found.state, found, by_hand=True, entry=read.number)


def _insulation(job: Job) -> tuple[PowerItem, ...]:
    if not any(e.body.how == "washed" for e in job.cleaning.cleaned):
        return ()
    key, title, washed = "insulation", worded("power.insulation_since_it_was_washed"), job.cleaning.untested
    if washed is None:
        return (PowerItem(key, title, "good", WashedInsulation(WASHED_OHMS, measured=True)),)
    if is_overridden(job, key, washed.number):
        return (PowerItem(key, title, "good", Overridden(job.parts.overridden[key].body.reason)),)
    return (PowerItem(key, title, "missing", WashedInsulation(WASHED_OHMS, measured=False)),)


def _rails(job: Job) -> tuple[PowerItem, ...]:
    names = dict.fromkeys((*job.power.rails, *job.power.rail_ohms))
    if not names:
        item = _check(job, "rails", "Rails to chassis")
        return (replace(item, found=RailUnread()) if item.state == "missing" else item,)
    made = []
    for name in names:
        key, title, read = f"rail {name}", f"{name} to chassis", job.power.rail_ohms.get(name)
        if read is None:
            made.append(PowerItem(key, title, "missing", RailUnread(name), by_hand=True))
            continue
        found = RailOhms(read.body.ohms, read.body.expected_ohms)
        state: ItemState = "bad" if found.outcome == "bad" else "good"
        made.append(PowerItem(key, title, state, found, by_hand=True, entry=read.number))
    return tuple(made)


def _windings(job: Job) -> list[PowerItem]:
    """A line for each winding that was read: one that is open is not a winding."""
    return [
        PowerItem(
            key=f"winding {name}",
            title=f"Winding {name}",
            state="bad" if entry.body.ohms is None else "good",
            found=Winding(entry.body.ohms),
            by_hand=True,
            entry=entry.number,
        )
        for name, entry in job.power.windings.items()
    ]


def _check(job: Job, key: str, title: str, skipped: bool = False) -> PowerItem:
    entry = job.power.checks.get(key)
    if key == "meter" and entry is None and job.power.proved:
        return PowerItem(key, title, "good", MeterProved(job.power.proved[-1].body.on), by_hand=True)
    if entry is None:
        found = NoTransformer() if skipped else NotLooked(f"power {key}")
        return PowerItem(key, title, "does not apply" if skipped else "missing", found, by_hand=True)
    outcome = entry.body.outcome
    return PowerItem(key, title, outcome, Looked(outcome, entry.body.text), by_hand=True, entry=entry.number)
