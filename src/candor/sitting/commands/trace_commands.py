"""Commands of Trace: looks along the chain, the lead, the cause, what made it worse."""

from __future__ import annotations

from candor.notebook.entries.trace_entries import CauseFound, LeadProved, LookTaken, Worsened
from candor.sitting.command import Command, command


def look(stage: str, outcome: str, lifted: bool = False) -> Command:
    """A look at a stage of the chain."""
    body = LookTaken.model_validate({"stage": stage, "outcome": outcome, "lifted": lifted})
    return command(f"look at {stage}", body)


def prove_lead() -> Command:
    """The lead was proved."""
    return command("lead proved", LeadProved())


def cause(text: str) -> Command:
    """The cause of the fault."""
    return command(f"cause: {text}", CauseFound(text=text))


def worsened(text: str) -> Command:
    """What made it worse."""
    return command(f"worse: {text}", Worsened(text=text))


COMMANDS = (look, prove_lead, cause, worsened)
