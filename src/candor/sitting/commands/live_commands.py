"""Commands of what runs live: sources on links, runs on the tester, meters; a link or a timer does them, nobody undoes them."""

from __future__ import annotations

from pathlib import Path

from candor.core.leakage.leakage_run import Plan
from candor.core.parts.part import Part
from candor.core.worded import worded
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.runs_entries import RunStarted
from candor.notebook.entries.sources_entries import SourceApplied, SourceReleased
from candor.notebook.runs.run_files import CutOff, digest_of_run
from candor.sitting.command import Command
from candor.words.run_words import LeakageStatus, begun, over


def apply_source(link: str, value: float, unit: str, *, point: str, file: str, simulated: bool) -> Command:
    """A source on a link is set to a value: written before it is told."""
    body = SourceApplied(link=link, value=value, unit=unit, point=point, file=file, simulated=simulated)
    return Command(worded("sitting.source_at", value=value, unit=unit), (body,), by_itself=True)


def release_source(link: str, how: str) -> Command:
    """A source is at zero by its own answer, or somebody understood that it may not be."""
    return Command("source at zero", (SourceReleased.model_validate({"link": link, "how": how}),), by_itself=True)


def begin_run(part: Part, plan: Plan, *, tester: str, simulated: bool, file: str, reason: str) -> Command:
    """A run on the tester begins."""
    body = begun(part=part, plan=plan, tester=tester, simulated=simulated, file=file, reason=reason)
    return Command(f"run on {part.ref}", (body,), by_itself=True)


def end_run(started: Entry[RunStarted], status: LeakageStatus, why: str, folder: Path | None = None) -> Command:
    """It is over: why, and what was read; where its file lies in `folder` and is whole, with the digest of it."""
    digest = digest_of_run(folder, started.body.file) if folder is not None else ""
    return Command(
        worded("sitting.run_on_over", ref=started.body.ref), (over(started, status, why, digest),), by_itself=True
    )


def run_cut_off(found: CutOff) -> Command:
    """A crash or a pulled plug ended it."""
    return Command(worded("sitting.a_run_cut_off"), (found.end,), by_itself=True)


COMMANDS = (apply_source, release_source, begin_run, end_run, run_cut_off)
