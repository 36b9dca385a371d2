"""What to fetch from the drawers for a day's deeds: of each part that is to be replaced, what was chosen and where it lies."""

from __future__ import annotations

from collections.abc import Iterable

from candor.core.late_dataclass import dataclass
from candor.notebook.parts.supplies import Supplies, key_of
from candor.notebook.plan.day import PlannedDeed


@dataclass(frozen=True)
class Pick:
    """One line of the list.

    Attributes
    ----------
    instrument, ref : str
    text : str
        What goes in; empty where nothing was chosen yet.
    count : int
        How many of it.
    place : str
        The drawer it lies in; empty where none is named, or none is there.
    here : bool
        Whether so many are in stock.
    """

    instrument: str
    ref: str
    text: str = ""
    count: int = 0
    place: str = ""
    here: bool = False


def pick_list(deeds: Iterable[PlannedDeed], found: Supplies) -> tuple[Pick, ...]:
    """Return what some deeds need from stock, by drawer, so that each is opened once; what nothing was chosen for stands last."""
    items = {item.body.key: item for item in found.stock}
    left = {key: item.count for key, item in items.items()}
    made: list[Pick] = []
    for deed in deeds:
        for ref in deed.of.split(", ") if deed.work == "fit" else ():
            needs = [n for n in found.needs if n.job == deed.job and n.ref == ref]
            if not needs:
                made.append(Pick(deed.name, ref))
            for need in needs:
                key = key_of(need.line, {k: i.body for k, i in items.items()})
                here = left.get(key, 0) >= need.count
                left[key] = left.get(key, 0) - need.count
                place = items[key].body.place if key in items else ""
                made.append(
                    Pick(instrument=deed.name, ref=ref, text=need.line.text, count=need.count, place=place, here=here)
                )
    return tuple(sorted(made, key=lambda p: (not p.text, not p.here, p.place, p.instrument, p.ref)))
