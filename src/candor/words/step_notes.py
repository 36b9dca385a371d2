"""What stands beside a step: of an adjuster where it is and what it moves; how long a step may last, and what should happen."""

from __future__ import annotations

from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep
from candor.packs.steps import Adjuster


def adjuster_words(pack: Pack, adjuster: Adjuster) -> str:
    """Say of an adjuster where it is, what it moves, over how many turns, what is set before it, and its seal."""
    names = {a.key: a.name for a in pack.adjusters}
    said = (
        f"moves {adjuster.moves}" if adjuster.moves else "",
        adjuster.place,
        adjuster.turns,
        f"set {' and '.join(names[key] for key in adjuster.after)} before it" if adjuster.after else "",
        f"sealed: {adjuster.seal}" if adjuster.seal else "",
    )
    return f"{adjuster.name}: {'; '.join(filter(None, said))}." if any(said) else ""


def notes_of(step: ProcedureStep) -> str:
    """Say what any step may say besides its words: how long it may last, when hands are off, what should happen by itself."""
    said = [
        f"Hold it at most {step.hold_at_most_s:g} s." if step.hold_at_most_s else "",
        f"Hands off for {step.hands_off_s:g} s before it is read." if step.hands_off_s else "",
        f"Not further before {step.only_below}." if step.only_below else "",
        "A picture belongs to it." if step.picture else "",
        f"Again until two rounds agree within {step.repeat_until:g} of the limit." if step.repeat_until else "",
    ]
    for event in step.expects:
        within = f" ± {event.within_s:g}" if event.within_s else ""
        said.append(f"Expect {event.what} after {event.after_s:g}{within} s.")
    return " ".join(filter(None, said))
