"""A day of the shop on paper: its deeds in their order, with what each needs, to be ticked off; and what to lay ready."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer

from candor.core.worded import worded
from candor.notebook.plan.day import Day
from candor.notebook.plan.pick_list import Pick
from candor.paper.drawn_ribbon import RULE, SOFT
from candor.paper.sheet import Rows, laid, pages, register_fonts, text
from candor.words.plan_words import say_deed, say_length, say_load, say_promise, say_rescue

WIDTHS = (12 * mm, 14 * mm, 44 * mm, 64 * mm, 40 * mm)


def day_pdf(day: Day, on: dt.date, shop: str, picks: Sequence[Pick] = ()) -> bytes:
    """Return the plan of one day as PDF: a line for each deed with a box, what to fetch, then the promises that are at risk."""
    register_fonts()
    deeds = day.of_day(on)
    story: list[Flowable] = [
        text(f"{on:%A} {on.day} {on:%B} {on.year}", 15, bold=True),
        text(f"{shop or 'Candor'}. {say_load(day, on)}"),
        Spacer(1, 5 * mm),
    ]
    rows: list[list[Flowable]] = [[text(word, 8, SOFT) for word in ("done", "at", "instrument", "what", "needs")]]
    for deed in deeds:
        what = f"{say_deed(deed)}: {say_length(deed)}"
        cells = ("☐", f"{deed.begins.astimezone():%H:%M}", deed.name, what, ", ".join(deed.needs))
        rows.append([text(cell) for cell in cells])
    story.append(laid(Rows(rows, WIDTHS), 2, "TOP", ("LINEBELOW", (0, 0), (-1, 0), 0.6, RULE)))
    ready = sorted({thing for deed in deeds for thing in deed.needs})
    if ready:
        story += [Spacer(1, 5 * mm), text("Lay ready", bold=True), text(", ".join(ready))]
    if picks:
        story += [Spacer(1, 5 * mm), text(worded("paper.to_fetch"), bold=True)]
        lines: list[list[Flowable]] = [[text(w, 8, SOFT) for w in ("done", "pcs", "instrument", "what", "drawer")]]
        for pick in picks:
            what = f"{pick.ref}: {pick.text}" if pick.text else worded("paper.nothing_chosen_for", ref=pick.ref)
            where = pick.place if pick.here else worded("paper.not_in_stock") if pick.text else ""
            lines.append([text(c) for c in ("☐", str(pick.count or ""), pick.instrument, what, where)])
        story.append(laid(Rows(lines, WIDTHS), 2, "TOP", ("LINEBELOW", (0, 0), (-1, 0), 0.6, RULE)))
    risky = [p for p in day.promises if p.standing != "kept"]
    if risky:
        story += [Spacer(1, 5 * mm), text("Promises", bold=True)]
        for promise in risky:
            story.append(text(say_promise(promise, day)))
            if promise.job in day.rescues:
                story.append(text(say_rescue(day.rescues[promise.job], day)))
    return pages(story, f"Plan of {on.isoformat()}")
