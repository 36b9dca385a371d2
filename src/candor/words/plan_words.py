"""What is said of the plan of the shop's days: a deed, why it stands there, a promise and what would save it."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import Any

from candor.core.plan.placed_why import Because
from candor.core.plan.promise_risk import DRAWS, EXTRA, RESCUE_DRAWS, Promise, Rescue
from candor.core.plan.usual_times import Work
from candor.notebook.plan.day import Day, JobTime, PlannedDeed, Unplanned

LONGEST_OF = 60  # characters of what a deed is of
# One of it, and many.
_WORK: Mapping[Work, tuple[str, str]] = {
    "walk": ("Walk round it", ""), "settle": ("Resolve 1 finding", "Resolve {many} findings"),
    "part": ("Measure {of}", "Measure {many} parts: {of}"), "reform": ("Reform {of}", ""),
    "fit": ("Replace {of}", "Replace {many} parts: {of}"), "before power": ("Checks before power", ""),
    "power up": ("Power it up", ""), "prove": ("Prove 1 change", "Prove {many} changes"),
    "step": ("1 step: {of}", "{many} steps: {of}"), "adjust": ("1 adjustment: {of}", "{many} adjustments: {of}"),
    "soaking": ("Soak it", ""), "release": ("Release checks and signature", ""),
    "compare": ("Check it against {of}", ""),
}  # fmt: skip
WARM_UP = "Let it warm up"
_WHY: Mapping[Because, str] = {
    "begun": "Your hands are at it.",
    "pinned": "You put it there.",
    "now": "Nothing stands in its way.",
    "date": "What it waits for is over or here by then.",
    "after": "It comes after “{deed}” of the same job.",
    "thing": "{name} has the {thing} until then.",
    "hands": "Until then all hands are at {name}: “{deed}”.",
    "opens": "It begins when the shop opens.",
    "safe": "Power goes on only where an hour or more is left before closing.",
    "watch": "Somebody must be there as long as it runs, so it ends before closing.",
    "kept": "It was planned for then, and nothing makes it move.",
}
ABOUT = (
    "Promises to owners go before everything; then jobs are finished early, and deeds of one set-up stand together.",
    "Nothing that must be watched runs past closing: a reform above the live limits, a supply that has not been proven. No setting "
    "lifts this. Do not work on live parts alone.",
    "When something takes longer, only what must move moves, and at most three deeds besides.",
)
WATCHED = "Stay in the shop as long as it runs."
_HANDS = {1: "one pair of hands", 2: "two pairs of hands"}


def say_deed(deed: PlannedDeed) -> str:
    """Return what a deed is: ``Measure 3 parts: R13, R14, C2``."""
    if not deed.many:
        return WARM_UP
    one, many = _WORK[deed.work]
    of = deed.of
    if len(of) > LONGEST_OF:
        of = of[:LONGEST_OF].rsplit(",", 1)[0].rstrip() + " …"
    return (many if deed.many > 1 and many else one).format(many=deed.many, of=of)


def say_minutes(minutes: float) -> str:
    """Return minutes as they are said: ``45 min``, ``2 h``, ``1 h 20 min``."""
    hours, left = divmod(round(minutes), 60)
    return " ".join(filter(None, (f"{hours} h" if hours else "", f"{left} min" if left or not hours else "")))


def say_length(deed: PlannedDeed) -> str:
    """Return how long it takes: ``10 min, then it runs for 1 h: stay in the shop``."""
    hands = say_minutes(deed.hands)
    if not deed.runs:
        return hands
    return f"{hands}, then it runs for {say_minutes(deed.runs)}" + (
        ": stay in the shop" if deed.watched else " by itself"
    )


def say_why(deed: PlannedDeed, day: Day) -> str:
    """Return why a deed stands where it stands."""
    other = next((d for d in day.deeds if d.key == deed.why.other), None)
    name, said = (other.name, say_deed(other)) if other is not None else ("another job", "another deed")
    return _WHY[deed.why.because].format(name=name, deed=said, thing=deed.why.thing)


def say_rests(deed: PlannedDeed) -> str:
    """Return what the minutes rest on."""
    low, high = (say_minutes(m) for m in deed.likely)
    if not deed.learned:
        return f"{low} to {high} in two cases of three: usual for such work, no figures of this shop yet."
    sittings = "1 job" if deed.learned == 1 else f"{deed.learned} jobs"
    return f"{low} to {high} in two cases of three, from {sittings} of this shop."


def say_promise(promise: Promise, day: Day, named: bool = True) -> str:
    """Return how a promise stands, verdict first; `named` says of which instrument."""
    due, over = (day.begins + dt.timedelta(minutes=m) for m in (promise.due, promise.over))
    verdict = {"kept": "On time", "at risk": "At risk", "late": "Likely late"}[promise.standing]
    share = f"ready in time in {round(DRAWS * promise.kept)} of {DRAWS} simulated runs of this plan"
    name = f"{day.names[promise.job]}, " if named else ""
    return f"{verdict}: {name}promised for {_day(due)}, planned to be ready {_day(over)} at {over:%H:%M}; {share}."


def say_risk(day: Day) -> str:
    """Return which promises are at risk, in a line; nothing where none is."""
    risky = [p for p in day.promises if p.standing != "kept"]
    if not risky:
        return ""
    names = ", ".join(day.names[p.job] for p in risky)
    many, them = ("1 promise", "it") if len(risky) == 1 else (f"{len(risky)} promises", "them")
    return f"{many} at risk: {names}. What would save {them} stands below."


def say_rescue(rescue: Rescue, day: Day) -> str:
    """Return what would save a promise."""
    share = f"ready in time in {round(RESCUE_DRAWS * rescue.kept)} of {RESCUE_DRAWS} simulated runs"
    if rescue.by == "first":
        costs = f" It makes others late: {', '.join(day.names[job] for job in rescue.costs)}." if rescue.costs else ""
        return f"Do it before everything else: {share}.{costs}"
    if rescue.by == "longer":
        return f"Stay {say_minutes(EXTRA)} longer each day until then: {share}."
    if rescue.by == "hands":
        return f"One more pair of hands: {share}."
    return f"Doing it first, staying {say_minutes(EXTRA)} longer or one more pair of hands does not save it. Tell the owner now."


def say_unplanned(left: Unplanned) -> str:
    """Return why a job, or a deed of it, is not in the plan."""
    work = f"“{_WORK[left.deed][0].format(of='', many='').strip(': ')}”" if left.deed else ""
    return {
        "waiting": f"{left.name}: waiting {left.text}. Give a day, “waiting for … until 31 March”, and it is planned.",
        "far": f"{left.name}: waits until {left.text}, farther than the plan looks.",
        "unreadable": f"{left.name}: an entry or its pack cannot be read by this version.",
        "hands": f"{left.name}: {work} takes longer than the shop is open at a stretch.",
        "watch": f"{left.name}: {work} must be watched for longer than the shop is open at a stretch.",
        "when": f"{left.name}: {work} needs {left.text}, and the shop has it for less long at a stretch.",
        "none": f"{left.name}: {work} needs a {left.text}, and the shop has none.",
    }[left.why]


def say_now(day: Day) -> str:
    """Return what the hands do next, in one line."""
    if not day.deeds:
        return (
            "Nothing fits into your hours: see what is not planned." if day.unplanned else "Nothing is left to plan."
        )
    first = day.deeds[0]
    begins = first.begins.astimezone()
    same = begins.date() == day.made.astimezone().date()
    when = "Now" if begins <= day.made else f"At {begins:%H:%M}" if same else f"{_day(begins)}, {begins:%H:%M}"
    return f"{when}: {lowered(say_deed(first))}, {first.name}."


def lowered(text: str) -> str:
    """Return a sentence as it goes on within another one."""
    return text[:1].lower() + text[1:]


def say_load(day: Day, on: dt.date) -> str:
    """Return how much of a day's open hours is planned: ``6 h 10 min of 8 h planned; ...``."""
    room = sum(
        (min(b, _end(on, b)) - max(a, _start(on, a))).total_seconds() / 60
        for a, b in day.open
        if a.astimezone().date() <= on <= b.astimezone().date()
    )
    hands = sum(d.hands for d in day.of_day(on))
    of = f" with {_HANDS.get(day.hands, f'{day.hands} pairs of hands')}" if day.hands > 1 else ""
    return f"{say_minutes(hands)} of {say_minutes(room * day.hands)} planned{of}."


def _start(on: dt.date, like: dt.datetime) -> dt.datetime:
    return dt.datetime.combine(on, dt.time(), like.tzinfo)


def _end(on: dt.date, like: dt.datetime) -> dt.datetime:
    return dt.datetime.combine(on + dt.timedelta(days=1), dt.time(), like.tzinfo)


def say_moved(day: Day) -> str:
    """Return what stands elsewhere than in the plan before; nothing where nothing does."""
    if not day.moved and not day.besides:
        return ""
    must = f"{len(day.moved)} had to move" if day.moved else "none had to move"
    more = f", {len(day.besides)} more moved because it is better so" if day.besides else ""
    return f"Planned anew: {must}{more}."


def _day(at: dt.datetime) -> str:
    return f"{at:%a} {at.day} {at:%b}"


def say_plan(day: Day) -> list[str]:
    """Return the plan as lines for the command line: day by day, then promises, then what is not planned."""
    lines = [say_now(day)]
    for on in dict.fromkeys(d.begins.astimezone().date() for d in day.deeds):
        lines += ["", f"{on:%A} {on.day} {on:%B}: {say_load(day, on)}"]
        lines += [
            f"{d.begins.astimezone():%H:%M}  {d.name}: {say_deed(d)} ({say_length(d)}). {say_why(d, day)}"
            for d in day.of_day(on)
        ]
    lines += ["", *(say_promise(p, day) for p in day.promises)] if day.promises else []
    lines += [f"  {say_rescue(r, day)}" for r in day.rescues.values()]
    lines += ["", "Not planned:", *(say_unplanned(u) for u in day.unplanned)] if day.unplanned else []
    return lines


def _time_json(time: JobTime) -> dict[str, Any]:
    return {
        "spent_min": dict(time.spent), "usual_min": time.usual, "jobs": time.jobs, "agreed": time.agreed, "cost": time.cost,
        "to_come": time.to_come, "ahead_min": [time.ahead.middle, time.ahead.low, time.ahead.high],
        "whole_min": [time.whole.middle, time.whole.low, time.whole.high],
    }  # fmt: skip


def day_json(day: Day) -> dict[str, Any]:
    """Return the plan as JSON has it: figures, and the sentences that are said of them."""
    return {
        "made": day.made.isoformat(),
        "begins": day.begins.isoformat(),
        "hands": day.hands,
        "open": [[a.isoformat(), b.isoformat()] for a, b in day.open],
        "next": say_now(day),
        "moved": list(day.moved),
        "besides": list(day.besides),
        "deeds": [
            {
                "key": d.key, "job": d.job, "name": d.name, "work": d.work, "of": d.of, "many": d.many,
                "begins": d.begins.isoformat(), "hands_min": d.hands, "runs_min": d.runs, "watched": d.watched,
                "needs": list(d.needs), "because": d.why.because, "other": d.why.other, "thing": d.why.thing,
                "learned": d.learned, "likely_min": [round(x, 1) for x in d.likely], "says": say_deed(d), "why": say_why(d, day),
            }
            for d in day.deeds
        ],
        "promises": [
            {
                "job": p.job, "name": day.names[p.job], "due_min": p.due, "over_min": p.over, "kept": p.kept, "standing": p.standing,
                "says": say_promise(p, day),
            }
            for p in day.promises
        ],
        "rescues": [
            {"job": r.job, "by": r.by, "kept": r.kept, "costs": list(r.costs), "says": say_rescue(r, day)}
            for r in day.rescues.values()
        ],
        "unplanned": [
            {"job": u.job, "name": u.name, "why": u.why, "deed": u.deed, "text": u.text, "says": say_unplanned(u)}
            for u in day.unplanned
        ],
        "names": dict(day.names),
        "times": {job: _time_json(time) for job, time in day.times.items()},
    }  # fmt: skip
