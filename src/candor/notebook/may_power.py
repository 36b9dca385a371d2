"""May it be powered? One list of what must be known first, what is still missing, and what was found not to be so."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from candor.core.leaving.electrical import WASHED_OHMS
from candor.core.power.rail_ohms import HOW, judge_rail
from candor.core.quantities import engineering
from candor.notebook.barriers import is_overridden, planned_not_fitted
from candor.notebook.job import Job
from candor.notebook.parts_list import PartsList

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
    "cord": ("Cord and clamp", "Whole over its length and at both ends, held by a clamp that holds."),
    "earth": (
        "Earth",
        "From the plug's earth pin to the bare case under 0.2 Ω at 1 A or more, the earth wire the longest. Where the "
        "common lead is the "
        "case it can then no longer be clipped to a live chassis; write that on the label.",
    ),
    "switch": ("Switch", "It breaks the live conductor, or both."),
    "off": (
        "“Off” that is off",
        "Plugged in and switched off, nothing of it is live: some transformers stay on the mains.",
    ),
    "meter": ("The meter", "Proved on something live just before: a dead meter reads 0 too."),
}
SAID = {
    "good": "looked at: as it should be", "bad": "looked at: not as it should be", "does not apply": "it does not apply here",
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
    """

    key: str
    title: str
    state: ItemState
    words: str
    by_hand: bool = False

    @property
    def is_open(self) -> bool:
        """Whether it stands in the way."""
        return self.state in ("missing", "bad")


def power_list(job: Job, parts: PartsList | None) -> tuple[PowerItem, ...]:
    """Return the list, in order: what could kill first. What of it applies follows from the instrument and what was found."""
    supply = job.power.supply.body if job.power.supply else None
    made = [_hazards(job), _fasteners(job)]
    if supply is not None and supply.no_mains:
        return (
            *made,
            PowerItem("mains", "Mains", "does not apply", "Batteries feed it: nothing below the mains applies."),
        )
    made += [_planned(job), _sample(parts), *_insulation(job), *_rails(job)]
    skipped = NO_TRANSFORMER if supply is not None and supply.series_heaters else ()
    found = {key: _check(job, key, title, ask, key in skipped) for key, (title, ask) in CHECKS.items()}
    if job.power.windings and "windings" not in job.power.checks:
        found.pop("windings")
        made += _windings(job)
    return (*made, *found.values())


def open_items(job: Job, parts: PartsList | None) -> tuple[PowerItem, ...]:
    """Return what stands in the way of power and is not overridden."""
    found = tuple(item for item in power_list(job, parts) if item.is_open)
    override = job.parts.overridden.get("checks")
    if override is None:
        return found
    newer = {e.body.item for e in job.power.checks.values() if e.number > override.number}
    newer |= {f"winding {e.body.name}" for e in job.power.windings.values() if e.number > override.number}
    newer |= {f"rail {e.body.rail}" for e in job.power.rail_ohms.values() if e.number > override.number}
    return tuple(item for item in found if not item.by_hand or (item.key in newer and item.state == "bad"))


def _hazards(job: Job) -> PowerItem:
    hazards = job.arrive.open_hazards
    words = "; ".join(f.text for f in hazards) or "none is open"
    return PowerItem("hazards", "Hazards", "bad" if hazards else "good", words)


def _fasteners(job: Job) -> PowerItem:
    missed = [e for e in job.unit.unaccounted if not is_overridden(job, "fasteners", e.number)]
    count = sum(e.body.count for e in missed)
    words = f"{count} unaccounted for: one may lie across something live" if count else "none is unaccounted for"
    return PowerItem("fasteners", "Fasteners", "bad" if count else "good", words)


def _planned(job: Job) -> PowerItem:
    waiting = [e for e in planned_not_fitted(job) if not is_overridden(job, "parts", e.number)]
    refs = ", ".join(e.body.ref for e in waiting[:6])
    words = f"planned, not fitted: {refs}" if waiting else "all that is planned is fitted"
    return PowerItem("parts", "Planned minus fitted", "bad" if waiting else "good", words)


def _sample(parts: PartsList | None) -> PowerItem:
    if parts is None or not parts.lines:
        return PowerItem("sample", "Electrolytics, a sample", "does not apply", "no part is listed")
    states: dict[str, ItemState] = {"bad": "bad", "good": "good", "to measure": "missing"}
    state = states.get(parts.sample, "does not apply")
    return PowerItem("sample", "Electrolytics, a sample", state, parts.sample_words or "none is listed")


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
                f"Name each: chassis b1 45k by manual 50k. {HOW}",
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
                    f"rail {name}", title, "missing", f"Jot: chassis {name} 45k by manual 50k. {HOW}", by_hand=True
                )
            )
            continue
        judged = judge_rail(read.body.ohms, read.body.expected_ohms)
        states: dict[str, ItemState] = {"good": "good", "look": "good", "bad": "bad"}
        made.append(PowerItem(f"rail {name}", title, states[judged.outcome], judged.sentence, by_hand=True))
    return tuple(made)


def _windings(job: Job) -> list[PowerItem]:
    """A line for each winding that was read: one that is open is no winding."""
    made = []
    for name, entry in job.power.windings.items():
        ohms = entry.body.ohms
        whole = "" if ohms is None else f"{engineering(ohms, 'ohm', 3)}, whole"
        words = whole or "open: it is broken, or it is not what it was taken for"
        made.append(
            PowerItem(f"winding {name}", f"Winding {name}", "bad" if ohms is None else "good", words, by_hand=True)
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
        key, title, states[entry.body.outcome], entry.body.text or SAID[entry.body.outcome], by_hand=True
    )
