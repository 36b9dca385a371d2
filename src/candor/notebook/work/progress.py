"""How far a job is along its route: each stop with what is open there, what bars it, and why."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import Literal

from candor.core.calibration.run import RunResult
from candor.core.late_dataclass import dataclass
from candor.core.parts.reasons import Action
from candor.core.plan.usual_times import Work
from candor.core.power.live_limits import LIVE_WORK
from candor.core.worded import worded
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.power.may_power import open_items
from candor.notebook.power.powering import held_at_full_line
from candor.notebook.work.assessment import unfinished
from candor.notebook.work.barriers import barrier, missing_fasteners
from candor.notebook.work.job import Job
from candor.notebook.work.states import standing_certificate
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, procedure

Stop = Literal["arrive", "parts", "power", "trace", "calibrate", "soak", "release"]
Standing = Literal["untouched", "begun", "done", "barred"]
STOPS: tuple[Stop, ...] = ("arrive", "parts", "power", "trace", "calibrate", "soak", "release")
# At which stop each kind of work is done.
STOP_OF: Mapping[Work, Stop] = {
    "walk": "arrive", "settle": "arrive", "part": "parts", "reform": "parts", "fit": "parts", "before power": "power",
    "power up": "power", "prove": "trace", "step": "calibrate", "adjust": "calibrate", "soaking": "soak", "release": "release",
}  # fmt: skip


@dataclass(frozen=True)
class Progress:
    """How a stop stands.

    Attributes
    ----------
    standing : "untouched", "begun", "done" or "barred"
    count : str
        What is open or done, in a word or two; empty where there is nothing to say.
    why : str
        What it is that is open or bars.
    """

    standing: Standing = "untouched"
    count: str = ""
    why: str = ""


def progress(
    job: Job, pack: Pack, parts: PartsList | None, found: RunResult, now: dt.datetime
) -> Mapping[Stop, Progress]:
    """Return how each stop of a job stands at a moment."""
    return {
        "arrive": _arrive(job),
        "parts": _parts(job, parts),
        "power": _power(job, parts),
        "trace": _trace(job),
        "calibrate": _calibrate(job=job, pack=pack, parts=parts, found=found, now=now),
        "soak": _soak(job, now),
        "release": _release(job),
    }


def _arrive(job: Job) -> Progress:
    loose = [f.text for f in job.arrive.findings if f.open]
    loose += [f"{m.count} missing: {m.what or 'fasteners'}" for m in missing_fasteners(job)]
    loose += (
        [worded("work.was_washed_its_insulation_is_not", what=job.cleaning.untested.body.what)]
        if job.cleaning.untested
        else []
    )
    told = job.stay.told_by
    walked = bool(job.arrive.findings) or any(number != told["opened"] for number in told.values())
    return Progress(
        "untouched" if not walked else "begun" if loose else "done",
        f"{len(loose)} open" if loose else "",
        "; ".join(loose) or "nothing is open",
    )


def _parts(job: Job, parts: PartsList | None) -> Progress:
    if parts is None or not parts.lines:
        return Progress("untouched", "", worded("work.no_part_is_listed_yet"))
    begun = bool(job.parts.measured or job.parts.decided or job.parts.replaced or job.parts.policy_entry)
    open_ = sum(x.action is Action.CANNOT_TELL and not x.fate for x in parts.lines)
    waiting = sum(x.action is Action.REPLACE and not x.fate for x in parts.lines)
    return Progress(
        "untouched" if not begun else "begun" if open_ or waiting else "done",
        f"{parts.known} of {len(parts.lines)}" if begun else "",
        worded(
            "work.cannot_be_told_yet_to_replace", open=open_, waiting=waiting, sample_words=parts.sample_words
        ).strip(),
    )


def _power(job: Job, parts: PartsList | None) -> Progress:
    bar = barrier(job, parts)
    if bar is not None:
        return Progress("barred", "barred", bar.sentence)
    power = job.power
    if power.is_live and power.state is not None:
        return Progress("begun", "live", worded("work.it_is_on", title=power.state.body.title))
    begun = bool(power.checks or power.rail_ohms or power.steps or power.plan)
    still = open_items(job, parts)
    if power.out is not None:
        held = held_at_full_line(job)
        why = worded("work.it_held_at_full_line_and") if held else worded("work.it_was_on_not_yet_held")
        return Progress("done" if held and not still else "begun", "", why)
    words = (
        worded("work.to_look_at_before_power", still=len(still))
        if still
        else worded("work.nothing_that_was_checked_blocks_power")
    )
    return Progress("begun" if begun else "untouched", f"{len(still)} open" if begun and still else "", words)


def _trace(job: Job) -> Progress:
    trace = job.trace
    begun = bool(trace.read or trace.looks or trace.pairs or trace.stages)
    waiting = len(job.stay.unproven)
    if trace.causes and not waiting:
        return Progress("done", "", trace.causes[-1].body.text)
    count = worded("work.not_proven", waiting=waiting) if waiting else ""
    return Progress(
        "begun" if begun or waiting else "untouched",
        count,
        worded("work.changes_that_no_check_has_proven") if waiting else "",
    )


def _calibrate(job: Job, pack: Pack, parts: PartsList | None, found: RunResult, now: dt.datetime) -> Progress:
    bar = barrier(job, parts)
    if bar is not None:
        return Progress("barred", "barred", bar.sentence)
    missing = unfinished(job, pack, now)
    begun = bool(job.calibrate.readings or job.calibrate.done or job.calibrate.timers)
    needed = sum(s.kind == "point" and s.phase == "as found" for s in procedure(pack))
    return Progress(
        "untouched" if not begun else "begun" if missing else "done",
        f"{found.measured} of {needed}" if begun and needed else "",
        worded("work.steps_to_go", missing=len(missing))
        if missing
        else worded("work.every_step_is_done")
        if needed
        else worded("work.no_range_is_written_yet"),
    )


def _soak(job: Job, now: dt.datetime) -> Progress:
    since = job.soak.since
    if not job.soak.read:
        return Progress("untouched", "", worded("work.nothing_was_read_while_it_soaks"))
    if since is None:
        return Progress("done", "", worded("work.it_was_watched_and_is_off"))
    hours = (now - since).total_seconds() / 3600
    return Progress(
        "begun", worded("work.h_on", hours=hours), worded("work.readings_since_it_is_on", read=len(job.soak.read))
    )


def _release(job: Job) -> Progress:
    release = job.release
    if release.certificates:
        since = "" if standing_certificate(job) else worded("work.something_was_written_since_the_certificate")
        return Progress("begun" if since else "done", "signed before" if since else "", since)
    begun = bool(release.checks or release.earth or release.touch)
    return Progress(
        "begun" if begun else "untouched", "", worded("work.looked_at_before_it_goes_not") if begun else ""
    )


def caution_in_force(
    job: Job | None,
    pack: Pack | None,
    *,
    stop: str,
    step: ProcedureStep | None,
    parts: PartsList | None,
    on_the_clips: str,
) -> str:
    """Return the one caution that stands above the work, the worst first; nothing where there is none.

    Parameters
    ----------
    job, pack : Job, Pack or None
    stop, step : str, ProcedureStep or None
        In hand.
    parts : PartsList or None
    on_the_clips : str
        What stands on the tester's clips.
    """
    if job is None or pack is None:
        return ""
    if job.arrive.open_hazards:
        return f"hazard: {job.arrive.open_hazards[0].text}"
    if on_the_clips:
        return on_the_clips
    if stop == "calibrate" and step is not None:
        return step.cautions[0].short if step.cautions else ""
    if stop == "trace" and not (job.power.supply is not None and job.power.supply.body.no_mains):
        return LIVE_WORK
    if stop == "parts" and parts is not None and parts.sample == "bad":
        return worded("work.no_power_the_sample_is_bad")
    return next((c.short for c in pack.cautions if c.level == "danger"), "") if stop == "parts" else ""
