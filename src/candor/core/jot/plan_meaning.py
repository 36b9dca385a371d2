"""What a line about the shop's days means: a promise to an owner, a wait for something."""

from __future__ import annotations

from candor.core.late_dataclass import dataclass


@dataclass(frozen=True)
class PromiseJot:
    """The job was promised for a day, as it was typed; empty where the promise is taken back."""

    day: str
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class WaitJot:
    """The job waits for something, until a day where one is known; `what` is empty where it waits no longer."""

    what: str
    day: str = ""
    chips: tuple[str, ...] = ()


@dataclass(frozen=True)
class QuoteJot:
    """A price was quoted to the owner (`amount`), or the owner answered: "approved", "declined"."""

    answer: str = ""
    amount: float = 0.0
    chips: tuple[str, ...] = ()


PlanJot = PromiseJot | WaitJot | QuoteJot
