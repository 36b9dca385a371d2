"""The reasons of a part in the panel: verdict, sum, rule, how sure, what would change it, what goes in its place."""

from __future__ import annotations

from candor.core.parts.judge import Action
from candor.core.parts.policy import EXPLAINED
from candor.core.parts.replacement import needs, propose
from candor.desktop.because import Because
from candor.desktop.parts.table import SHAPES
from candor.notebook.parts_list import PartLine, PartsList
from candor.notebook.stock import StockItem, on_hand

TITLES = {
    Action.REPLACE: "Replace {}",
    Action.KEEP: "Keep {}",
    Action.WATCH: "Watch {}",
    Action.CANNOT_TELL: "Cannot tell yet: {}",
}


def explain_part(because: Because, line: PartLine, stock: tuple[StockItem, ...]) -> None:
    """Fill the panel for one part."""
    because.show_whole(None)
    ref = line.part.ref
    if line.fate or line.verdict is None or line.action is None:
        _explain_fate(because, line)
        return
    verdict = line.verdict
    first, rest = verdict.reasons[0], verdict.reasons[1:]
    paragraphs = [f"{_capital(first.says)}.", first.rule]
    if line.decided is not None:
        decision = f"Your decision, entry {line.decided.number}: {line.decided.body.reason}."
        paragraphs = [decision, f"By itself: {verdict.action}. {paragraphs[0]}", first.rule]
    paragraphs += [f"Also: {r.says} ({r.action})." for r in rest]
    shape = SHAPES[line.action]
    if line.action is Action.CANNOT_TELL and line.measured.nothing:
        shape = "ring"
    sure = [verdict.sure] if verdict.sure else []
    if line.measured.entries:
        listed = ", ".join(str(n) for n in line.measured.entries)
        sure.append(f"From entr{'y' if len(line.measured.entries) == 1 else 'ies'} {listed}.")
    if line.measured.simulated:
        sure.append("Read on the simulated tester: practice, no evidence.")
    sections = [("how sure", sure)] if sure else []
    sections.append(("what would change this", [first.change or "Nothing measured."]))
    if line.action in (Action.REPLACE, Action.WATCH):
        proposal = propose(line.part, on_hand(stock))[0]
        many = f"{proposal.count} x " if proposal.count > 1 else ""
        sections.append(("put in its place", [f"{many}{proposal.text}. {proposal.says}", *needs(line.part).notes]))
    because.show_words(TITLES[line.action].format(ref), paragraphs, shape, sections=tuple(sections))


def _explain_fate(because: Because, line: PartLine) -> None:
    if line.fate == "replaced" and line.changed is not None:
        words = [
            f"“{line.changed.body.text}”, entry {line.changed.number}.",
            "What was measured on the old one stays readable.",
        ]
        because.show_words(f"{line.part.ref} is replaced", words, "full")
    else:
        because.show_words(f"{line.part.ref} is not in this unit", ["The drawing has it; this unit has not."], "note")


def explain_list(because: Because, parts: PartsList) -> None:
    """Fill the panel where no part is chosen."""
    because.show_whole(None)
    policy = parts.policy
    words = [EXPLAINED[policy.sight], EXPLAINED[policy.electrolytics],
             f"Leakage of electrolytics: {policy.rule} (C in µF, V in volts, µA; common practice, no source)."]  # fmt: skip
    because.show_words("Policy of this job", words)


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]
