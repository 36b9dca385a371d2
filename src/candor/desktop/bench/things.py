"""All that can be found by words in a window: places, jobs, standards, tubes, lines, and what the job in hand holds."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator

from candor.core.jot.rows import VERBS
from candor.core.word_search import Thing
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.desktop.bench.shop_in_hand import Shop
from candor.notebook.entries.kinds_entries import in_words
from candor.packs.procedure import procedure
from candor.words.help import EVERYWHERE, PLACES
from candor.words.manual_words import manual_pages

ENTRIES = 2000  # of the job in hand, the newest: older ones are looked for in their room


def things(in_hand: JobInHand, shelf: Shelf, shop: Shop, today: dt.date) -> Iterator[Thing]:
    """Yield what can be found today, places and jobs first."""
    for key, place in PLACES.items():
        yield Thing("place", key, place.title, place.purpose)
    for page in manual_pages():
        yield Thing("page", page.key, page.title, f"manual: {page.begins}")
    for line in shelf.lines:
        yield Thing("job", line.job, f"{line.name} {line.serial}".strip(), f"{line.text}, {line.group}")
    job, pack, parts = in_hand.job, in_hand.pack, in_hand.parts()
    if pack is not None and job is not None:
        for step in procedure(pack):
            where = step.section if step.phase in step.section else f"{step.section}, {step.phase}"
            yield Thing("step", step.key, step.title, where)
    for part in parts.lines if parts is not None else ():
        known = part.part
        yield Thing("part", known.ref, f"{known.ref} {known.kind}", f"{known.make} {known.role} {known.note}".strip())
    for key, standard in shop.standards.items():
        if standard.current and not standard.withdrawn:
            yield Thing("standard", key, standard.name, standard.age(today).state)
    for tube in shop.tubes().tubes.values():
        body = tube.entry.body
        yield Thing("tube", body.key, f"{body.key} {body.type}")
    for verb in VERBS:
        for example in verb.examples:
            yield Thing("line", example, example, verb.does)
    for name, does in EVERYWHERE:
        yield Thing("key", name, name, does)
    if job is not None:
        numbers = {e.id: e.number for e in job.entries}
        for entry in job.entries[-ENTRIES:]:
            yield Thing("entry", str(entry.number), in_words(entry, numbers), f"entry {entry.number}")
