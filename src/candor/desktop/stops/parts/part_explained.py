"""The reasons of a part in the panel: verdict, sum, rule, how sure, what would change it, what goes in its place."""

from __future__ import annotations

from candor.core.leakage.leakage_run import Plan
from candor.core.parts.mains import Mains
from candor.core.parts.reasons import Action
from candor.core.parts.replacement import needs, propose
from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.desktop.frame.because import Because
from candor.desktop.stops.parts.parts_table import SHAPES
from candor.notebook.parts.parts_list import PartLine, PartsList
from candor.notebook.parts.stock import StockItem
from candor.words.parts_words import (
    POLICIES,
    say_change,
    say_how_sure,
    say_needs,
    say_proposal,
    say_reason,
    say_rule,
)

TITLES = {
    Action.REPLACE: "Replace {}",
    Action.KEEP: "Keep {}",
    Action.WATCH: "Watch {}",
    Action.CANNOT_TELL: "Cannot tell yet: {}",
}


def explain_part(because: Because, line: PartLine, stock: tuple[StockItem, ...], mains: Mains | None = None) -> None:
    """Fill the panel for one part."""
    because.show_whole(None)
    ref = line.part.ref
    if line.fate or line.verdict is None or line.action is None:
        _explain_fate(because, line)
        return
    verdict = line.verdict
    first, rest = verdict.reasons[0], verdict.reasons[1:]
    paragraphs = [f"{_capital(say_reason(first))}.", say_rule(first)]
    if line.decided is not None:
        decision = f"Your decision, entry {line.decided.number}: {line.decided.body.reason}."
        paragraphs = [decision, f"By itself: {verdict.action}. {paragraphs[0]}", say_rule(first)]
    paragraphs += ["\n".join(f"Also: {say_reason(r)} ({r.action})." for r in rest)] if rest else []
    shape = SHAPES[line.action]
    if line.action is Action.CANNOT_TELL and line.measured.nothing:
        shape = "ring"
    sure = [said] if (said := say_how_sure(line.measured)) else []
    if line.measured.entries:
        listed = ", ".join(str(n) for n in line.measured.entries)
        sure.append(f"From entr{'y' if len(line.measured.entries) == 1 else 'ies'} {listed}.")
    if line.measured.simulated:
        sure.append("Read on the simulated tester: practice, no evidence.")
    sections = [("how sure", sure)] if sure else []
    sections.append(("what would change this", [say_change(first)]))
    if line.action in (Action.REPLACE, Action.WATCH):
        proposal = propose(line.part, [item.piece for item in stock], mains)[0]
        sections.append(
            ("put in its place", [f"{proposal.text}. {say_proposal(proposal)}", *say_needs(needs(line.part, mains))])
        )
    because.show_words(TITLES[line.action].format(ref), paragraphs, shape, sections=tuple(sections))


def explain_run(because: Because, line: PartLine, plan: Plan) -> None:
    """Fill the panel while the part is on the tester: how the run goes, and what ends it."""
    because.show_whole(None)
    volts, limit = trimmed(plan.target_volts), engineering(plan.limit_amperes, "A", 3)
    how = f"Straight to {volts} V, read after {trimmed(plan.dwell_s / 60)} min against {limit}."
    if plan.reform:
        how = (f"To {volts} V in {plan.steps} steps, each once the leakage is under twice the limit scaled to it; then "
               f"{trimmed(plan.dwell_s / 60)} min against {limit}.")  # fmt: skip
    words = [
        how,
        f"The charging current through {engineering(plan.series_ohms, 'ohm')} is told apart: V/R exp(−t/RC), until it is small "
        "against what flows. The dotted curve is I∞ + A t^−n, fitted to the rest (common practice, no source).",
    ]
    stops = [
        f"The current rises at constant voltage; over {trimmed(plan.heat_watts)} W in it; by its fall the limit will not be "
        f"met; {trimmed(plan.most_s / 60)} min; a dead link; Esc.",
        f"Then the source goes to zero, the part is discharged, and under {trimmed(plan.safe_volts)} V must be measured "
        "and still be so a minute later before it is called safe.",
    ]
    because.show_words(f"{line.part.ref} is on the tester", words, "running", sections=(("what ends it", stops),))


def _explain_fate(because: Because, line: PartLine) -> None:
    if line.fate == "replaced" and line.changed is not None:
        words = [
            f"“{line.changed.body.text}”, entry {line.changed.number}.",
            "What was measured on the old one stays readable.",
        ]
        because.show_words(f"{line.part.ref} is replaced", words, "full")
    else:
        because.show_words(f"{line.part.ref} is not in this unit", ["The drawing has it; this unit has not."], "note")


def explain_list(because: Because, parts: PartsList, changed: str = "") -> None:
    """Fill the panel where no part is chosen, or the policy was changed: what it means and what that did."""
    because.show_whole(None)
    policy = parts.policy
    words = [POLICIES[policy.sight], POLICIES[policy.electrolytics], POLICIES[policy.resistors],
             f"Leakage of electrolytics: {policy.rule} (C in µF, V in volts, µA; common practice, no source)."]  # fmt: skip
    sections = (("what changed", [changed]),) if changed else ()
    because.show_words("Policy of this job", words, sections=sections)


def _capital(text: str) -> str:
    return (text[:1].upper() + text[1:]).rstrip(".")
