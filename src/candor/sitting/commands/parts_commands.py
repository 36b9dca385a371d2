"""Commands of Parts: what is listed and joined, what is decided, what goes in, what bars overridden."""

from __future__ import annotations

from collections.abc import Mapping

from candor.core.jot.slots import node_name
from candor.core.parts.policy import Policy
from candor.core.worded import worded
from candor.notebook.entries.parts_entries import (
    BarOverridden,
    PartDecided,
    PartJoined,
    PartListed,
    PolicyChosen,
    ReplacementChosen,
)
from candor.sitting.command import Command, command
from candor.sitting.commands.stay_commands import change


def list_part(part: PartListed, ends: tuple[str, str] = ("", "")) -> Command:
    """A part goes on the list, or is listed anew; where its two nodes are given it is joined to them."""
    joined = [PartJoined(ref=part.ref, plus=node_name(ends[0]), minus=node_name(ends[1]))] if all(ends) else []
    return command(f"listed {part.ref}", part, *joined)


def decide(ref: str, action: str, reason: str = "") -> Command:
    """What is done with a part, decided by hand; no action takes the decision back."""
    return command(
        f"{ref}: {action or 'decision taken back'}",
        PartDecided.model_validate({"ref": ref, "action": action, "reason": reason}),
    )


def choose_policy(held: Policy, changes: Mapping[str, object]) -> Command:
    """Another policy for the job; the mains are the shop's."""
    kept = {name: value for name, value in vars(held).items() if name != "mains"}
    return command("policy", PolicyChosen.model_validate({**kept, **changes}))


def choose_replacement(chosen: ReplacementChosen) -> Command:
    """What goes in for a part."""
    return command(f"chosen for {chosen.ref}", chosen)


def take_choice_back(ref: str) -> Command:
    """Nothing is chosen for a part any more."""
    return command(worded("sitting.choice_for_taken_back", ref=ref), ReplacementChosen(ref=ref))


def fit(ref: str, arrangement: str) -> Command:
    """What was chosen is in: what came from stock is gone from it by that, and the change waits for its check."""
    return change(worded("sitting.replaced_with", ref=ref, arrangement=arrangement), part=ref)


def override(bar: str, reason: str) -> Command:
    """Power although something bars it, for a written reason."""
    return command(f"{bar} overridden", BarOverridden.model_validate({"bar": bar, "reason": reason}))


COMMANDS = (list_part, decide, choose_policy, choose_replacement, take_choice_back, fit, override)
