"""Lines of the shop's days: what was promised to the owner, what the job waits for."""

from __future__ import annotations

from candor.core.jot.form import Said
from candor.core.jot.plan_meaning import PromiseJot, QuoteJot, WaitJot
from candor.core.jot.verb import Verb
from candor.core.worded import worded


def _promised(said: Said) -> PromiseJot:
    if said.texts.get("none"):
        return PromiseJot("", ("no day is promised any more",))
    return PromiseJot(said["day"], (f"promised for {said['day']}",))


def _waits(said: Said) -> WaitJot:
    day = said["day"] or ""
    return WaitJot(said["what"], day, (f"waits for {said['what']}", *((f"until {day}",) if day else ())))


def _quoted(said: Said) -> QuoteJot:
    answer = (said.texts.get("answer") or "").lower()
    if answer:
        return QuoteJot(
            "approved" if answer in ("approved", "accepted") else "declined",
            chips=(worded("jot.the_owner_it", answer=answer),),
        )
    return QuoteJot("", said["amount"], (f"quoted {said['amount']:.2f}", "waits for the owner's answer"))


PLAN = (
    Verb(
        "promised",
        "arrive",
        "the day the owner was promised it for: the plan of the day keeps it, or says that it is at risk",
        forms=("promised|promise [for|by|until|on] {day:day}", "promised none=nothing|no_more"),
        examples=("promised 12 March", "promised Friday", "promised nothing"),
        means=_promised,
        fielded=("promised {day:day}",),
        titles={"day": "day", "none": "take it back"},
    ),
    Verb(
        "waiting",
        "arrive",
        "what the job waits for: a part, a standard, the owner's answer; until when, where that is known",
        forms=("waiting|waits|wait for|on {what:text} until {day:day}", "waiting|waits|wait for|on {what:text}"),
        examples=("waiting for a transformer until 2026-03-31", "waiting for the owner's answer"),
        means=_waits,
        fielded=("waiting for {what:text} [until {day:day}]",),
        titles={"what": "what it waits for", "day": "until"},
    ),
    Verb(
        "quoted",
        "arrive",
        "a price quoted to the owner: the job waits for the answer",
        forms=("quoted|quote {amount:number}",),
        examples=("quoted 180",),
        means=_quoted,
        titles={"amount": "amount"},
    ),
    Verb(
        "the owner's answer",
        "arrive",
        "what the owner says to a quote: approved, it is the price agreed; declined, the job goes back as it is",
        forms=(
            "answer=approved|accepted|declined [by the_owner]",
            "owner|the_owner answer=approved|accepted|declined",
        ),
        examples=("approved", "declined by the owner"),
        means=_quoted,
        titles={"answer": "the owner's answer"},
    ),
    Verb(
        "here again",
        "arrive",
        "what the job waited for is here: it is to do again",
        forms=("here|back again", "no_longer waiting"),
        examples=("here again",),
        means=lambda _: WaitJot("", "", ("it waits no longer",)),
    ),
)
