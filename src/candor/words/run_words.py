"""A leakage run in words while it goes on, and the entries of its beginning and its end."""

from __future__ import annotations

from candor.core.leakage.leakage_run import Plan, RunEnd, say_discharge
from candor.core.leakage.leakage_watch import LeakageSeen
from candor.core.parts.part import Part
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.links.live_run import Status
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.runs_entries import Run, RunEnded, RunStarted

LeakageStatus = Status[LeakageSeen]


def begun(part: Part, plan: Plan, tester: str, simulated: bool, file: str, reason: str = "") -> RunStarted:
    """Return the entry of a run that begins."""
    return RunStarted(
        ref=part.ref, mode="reform" if plan.reform else "leakage", target_volts=plan.target_volts, dwell_s=plan.dwell_s,
        limit=plan.limit_amperes, most_s=plan.most_s, tester=tester, simulated=simulated, file=file,
        reason=reason,
    )  # fmt: skip


def over(started: Entry[RunStarted], status: LeakageStatus, why: str, digest: str = "") -> RunEnded:
    """Return the entry of a run that is over, with the digest of its file where that is whole."""
    seen = status.seen
    outcome: RunEnd = next((word for word in _OUTCOMES if word == status.outcome), "")
    return RunEnded(
        run=started.id, ref=started.body.ref, why=why, outcome=outcome, leakage=max(seen.leakage, 0.0) if seen else 0.0,
        expanded=seen.leakage_scatter if seen else 0.0, volts=max(seen.leakage_volts, 0.0) if seen else 0.0,
        dwell_s=seen.dwell_s if seen else 0.0, measured_volts=status.last.values["volts"] if status.last else None,
        safe=status.safe, simulated=started.body.simulated, readings=status.readings,
        file=started.body.file if digest else "", digest=digest,
    )  # fmt: skip


_OUTCOMES: tuple[RunEnd, ...] = ("came back", "under the limit", "over the limit", "no progress", "stopped")


def on_the_clips(status: LeakageStatus | None) -> str:
    """Say what stands on the clips and what is going on, nothing where there is no run: until it was measured safe it is not."""
    if status is None or status.phase == "connecting":
        return ""
    seen = abs(status.last.values["volts"]) if status.last else None
    if status.phase == "discharging":
        volts = "an unknown voltage" if seen is None else f"{_volts(seen)} V"
        return f"{volts} on the tester clips, discharging"
    return f"{_volts(max(seen or 0.0, status.level))} V on the tester clips"


def _volts(volts: float) -> str:
    """V to three digits, and no finer than a tenth: what counts is whether it can be touched."""
    return trimmed(round(volts, 1), 3)


def run_in_a_line(ref: str, status: LeakageStatus, plan: Plan | None, by_hand: bool) -> str:
    """Say of a run what must be known from wherever one is: its part, its volts, its phase."""
    if status.phase == "connecting":
        return f"{ref}: a run is connecting to the tester"
    clips = on_the_clips(status)
    if status.phase == "discharging":
        hand = ": set the source to zero, discharge it, measure" if by_hand else ""
        return f"{ref}: {clips}{hand}. Do not touch it"
    mode = "reforming" if plan is not None and plan.reform else "charging or measuring leakage"
    return f"{ref}: {clips}, {mode}. Do not touch it"


def say_status(status: LeakageStatus, plan: Plan, by_hand: bool) -> str:
    """Say how a run stands."""
    if status.phase == "connecting":
        return "Connecting …"
    source = f"Set the source to {trimmed(status.level)} V" if by_hand else f"source at {trimmed(status.level)} V"
    if status.last is None:
        return f"No reading yet. {source}, then type what is read." if by_hand else "No reading yet."
    volts, amperes = status.last.values["volts"], status.last.values["amperes"]
    if status.phase == "discharging" and by_hand:
        safe = trimmed(plan.safe_volts)
        return f"{trimmed(volts, 4)} V at the last reading: safe only where under {safe} V is measured twice, a minute apart."
    if status.phase == "discharging":
        return say_discharge(plan, abs(volts), status.traits.get("discharge_ohms", 4.7e3))
    minutes, seconds = divmod(round(status.last.seconds), 60)
    shown = f"{trimmed(volts, 4)} V · {engineering(amperes, 'A', 3)}"
    return f"{shown} · {minutes}:{seconds:02d}{'. ' if by_hand else ', '}{source}"


def say_on_the_list(status: LeakageStatus, plan: Plan) -> tuple[str, str]:
    """Say how a run stands in the line of its part: what is read, and what follows."""
    volts = "no reading yet" if status.last is None else f"{trimmed(status.last.values['volts'], 3)} V"
    if status.phase == "discharging":
        return f"discharging · {volts}", "not to be touched until it is measured safe"
    mode = "reforming" if plan.reform else "on the tester"
    read = f"{engineering(status.last.values['amperes'], 'A', 3)} at {volts}" if status.last else volts
    return f"{mode} · {read}", status.seen.calculated.say(plan.limit_amperes) if status.seen else "charging"


def say_last(run: Run | None) -> str:
    """Say how the last run on a part ended; nothing where there was none."""
    if run is None or run.ended is None:
        return ""
    body = run.ended.body
    seen = "" if body.measured_volts is None else f"measured at {trimmed(body.measured_volts, 3)} V: "
    return f"Last run, entry {run.ended.number}: {body.why}; {seen}{'safe' if body.safe else 'NOT measured safe'}."
