"""What a job's Parts, Power, Release and Trace say, as plain values for the command line."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from candor.core.parts.mains import Mains
from candor.core.parts.reasons import Action
from candor.core.parts.replacement import propose
from candor.core.power.plan_text import plan_lines
from candor.core.quantities.show import show_old
from candor.notebook.entries.stay_entries import DetailWritten
from candor.notebook.notebook_errors import NotebookError
from candor.notebook.parts.parts_list import PartLine, PartsList, list_parts
from candor.notebook.power.may_power import power_list
from candor.notebook.power.powering import on_the_way, plan_of, safety_of
from candor.notebook.release.leaving import leaving_list, open_leaving, say_open
from candor.notebook.store import Notebook
from candor.notebook.trace.on_board import explain_board
from candor.notebook.trace.trace_view import nodes_view, signal_view
from candor.notebook.work.description import description_of
from candor.notebook.work.job import Job, fold
from candor.notebook.work.settings import Settings, settings_of
from candor.packs.model import Pack
from candor.words.board_words import board_json
from candor.words.checks import item_json
from candor.words.parts_words import say_change, say_measured, say_proposal, say_reason, say_rule, say_verdict
from candor.words.power_words import say_alarm, say_safety, say_watched
from candor.words.trace_words import say_load, say_node, say_sum, say_trail, say_tubes
from candor.words.transformer_words import transformer_lines

Told = dict[str, Any]


@contextmanager
def _opened(path: Path, job: str) -> Iterator[tuple[Notebook, Job, Pack, PartsList, Settings]]:
    notebook = Notebook(path, "look")
    try:
        folded = fold(job, notebook.entries_of(job))
        if folded.stay.opened is None:
            raise NotebookError(f"There is no job “{job}” in {path.name}.", value=job)
        details = {e.body.field: e.body.text for e in notebook.entries_of("") if isinstance(e.body, DetailWritten)}
        pack, settings = description_of(notebook, folded), settings_of(details)
        show_old(settings.units)
        yield (
            notebook,
            folded,
            pack,
            list_parts(folded, pack, mains=settings.mains, esr_hertz=settings.esr_hertz),
            settings,
        )
    finally:
        notebook.close()


def power_told(path: Path, job: str) -> Told:
    """Return the list before power, the plan, and what was read in the state a job is in; V, W, s.

    Raises
    ------
    NotebookError
        Where there is no such notebook or job.
    """
    with _opened(path, job) as (notebook, folded, pack, parts, settings):
        plan = plan_of(folded, pack, settings.mains, parts)
        way = on_the_way(folded, plan, notebook.clock(), parts)
        items = power_list(folded, parts)
        after = safety_of(folded, notebook.moment(), parts.policy.safe_volts)
        return {
            "may it be powered": [item_json(i) for i in items],
            "way": f"{plan.way}: {plan.why}",
            "plan": plan_lines(plan).splitlines(),
            "state": way.step.title if way.step is not None else "",
            "alarms": [say_alarm(a) for a in way.alarms],
            "read": [{"name": w.name, "state": w.state, "sentence": say_watched(w)} for w in way.watched.values()],
            "transformer": transformer_lines(folded),
            "after power": [{"name": name, "stage": s.stage, "sentence": say_safety(s)} for name, s in after.items()],
        }


def parts_told(path: Path, job: str) -> Told:
    """Return every part with its verdict, the reasons with their figures (F, ohm, V, A, W), and what may go in its place.

    Raises
    ------
    NotebookError
        Where there is no such notebook or job.
    """
    with _opened(path, job) as (_, _, _, parts, settings):
        told: Told = {"parts": [_part_told(line, settings.mains) for line in parts.lines]}
        return {**told, "sample": parts.sample_words} if parts.sample_words else told


def _part_told(line: PartLine, mains: Mains | None) -> Told:
    part, action = line.part, line.action
    measured = say_measured(part, line.measured)
    told: Told = {"part": part.ref, "what": part.words, "measured": measured, "action": str(action or line.fate)}
    if line.decided is not None:
        told["decided"] = line.decided.body.reason
    told["reasons"] = [
        {
            **reason.as_fields(),
            "sentence": f"{say_reason(reason)}. {say_rule(reason)}",
            "would change": say_change(reason),
        }
        for reason in (line.verdict.reasons if line.verdict else ())
    ]
    if action in (Action.REPLACE, Action.WATCH):
        proposal = propose(part, (), mains)[0]
        told["in its place"] = {"piece": proposal.text, "sentence": say_proposal(proposal)}
    why = f": {say_verdict(line.verdict)}" if line.verdict else ""
    told["sentence"] = f"{part.ref}, {part.words}, {measured}: {action or line.fate}{why}"
    return told


def leaving_told(path: Path, job: str) -> Told:
    """Return the list of what is looked at before a job goes, by the shop's local rule.

    Raises
    ------
    NotebookError
        Where there is no such notebook or job.
    """
    with _opened(path, job) as (_, folded, _, parts, settings):
        items = leaving_list(folded, parts, settings.local_rule)
        still = open_leaving(folded, items)
        return {
            "before it goes": [item_json(i) for i in items],
            "limits": settings.local_rule.words,
            "open": say_open(still) or "nothing: all release checks are done",
        }


def trace_told(path: Path, job: str) -> Told:
    """Return nodes, loads, what does not add up, suspects, and the chain of a job; V, A, W.

    Raises
    ------
    NotebookError
        Where there is no such notebook or job.
    """
    with _opened(path, job) as (_, folded, _, parts, _):
        view, signal = nodes_view(folded, parts, {}), signal_view(folded)
        nodes = [
            {"node": x.node, "expected": x.expected.volts if x.expected else None,
             "volts": x.judged.open_volts if x.judged else None, "state": x.judged.state if x.judged else "not read",
             "sentence": say_node(x.judged) if x.judged else f"{x.node}: not read"}
            for x in view.lines
        ]  # fmt: skip
        loads = [
            {"part": x.name, "amperes": x.amperes, "watts": x.watts, "sentence": say_load(x)} for x in view.loads
        ]
        told: Told = {
            "nodes": nodes,
            "resistors": loads,
            "does not add up": [*map(say_sum, view.sums), *say_tubes(view.tubes)],
        }
        found = board_json(explain_board(folded, parts) if parts is not None else None)
        told["suspects"], told["what explains it"] = (
            found["suspects"],
            found["sentences"] if found["suspects"] else [],
        )
        if signal is not None:
            told["stages"] = [
                {"stage": s.name, "probability": round(p, 4), "sentence": f"{s.name}: {100 * p:.0f} %"}
                for s, p in zip(signal.stages, signal.belief, strict=False)
            ]
            told["next"] = (
                signal.stages[signal.next.behind].name if signal.next is not None else say_trail(signal.trail)
            )
        return told
