"""Shops and deeds for tests of the plan, and an independent look at whether a plan is one."""

from __future__ import annotations

import random
from collections.abc import Mapping, Sequence

from candor.core.plan.shop import LAST_HOUR, SLOT, Deed, Shop

WEEKDAYS = tuple((1440 * d + a, 1440 * d + b) for d in range(28) if d % 7 < 5 for a, b in ((0, 210), (240, 510)))
THINGS = {"good meter": 1, "variable transformer": 1, "source": 2}
HANDS = {"look": 30, "measure": 60, "reform": 10, "power": 40, "read": 60, "soak": 5, "sign": 30}


def shop(hands: int = 1) -> Shop:
    return Shop(WEEKDAYS, hands, THINGS)


def deeds(jobs: int, each: int, seed: int) -> tuple[list[Deed], dict[str, int]]:
    """Return the deeds of some jobs, and the promises: what a bench has, by no rule of the planner's."""
    draw = random.Random(seed)
    made: list[Deed] = []
    promised: dict[str, int] = {}
    for job in range(jobs):
        for at in range(each):
            kind = draw.choice(sorted(HANDS))
            needs = {
                "power": ["variable transformer"],
                "read": [draw.choice(["good meter", "source"])],
                "reform": ["source"],
            }.get(kind, [])
            made.append(
                Deed(
                    f"{job}.{at}",
                    str(job),
                    max(1, min(150, round(HANDS[kind] * draw.uniform(0.5, 2)))),
                    {"reform": 120, "soak": draw.choice([240, 960])}.get(kind, 0),
                    watched=kind == "reform",
                    needs=tuple(needs),
                    after=(f"{job}.{at - 1}",) if at else (),
                    never_last=kind == "power",
                    set_up="dc" if kind == "read" and draw.random() < 0.5 else "",
                    spread=0.4,
                )
            )
        if draw.random() < 0.6:
            promised[str(job)] = 1440 * draw.randrange(1, 10) + 510
    return made, promised  # fmt: skip


def wrongs(made: Sequence[Deed], there: Shop, starts: Mapping[str, int]) -> list[str]:
    """Return what is wrong with a plan, minute by minute of the grid: nothing where it is one."""
    found = []
    by_key = {d.key: d for d in made}
    slot = lambda minutes: -(-minutes // SLOT) * SLOT  # noqa: E731
    open_at = {m for a, b in there.open for m in range(a, b, SLOT)}
    shut_at = [b for _, b in there.open]
    hands: dict[int, int] = {}
    held: dict[tuple[str, int], int] = {}
    for deed in made:
        at, off = starts[deed.key], starts[deed.key] + slot(deed.hands)
        over = off + slot(deed.runs)
        found += [f"{deed.key}: too early"] * (at < deed.not_before)
        found += [
            f"{deed.key}: while {k} goes on"
            for k in deed.after
            if at < starts[k] + slot(by_key[k].hands) + slot(by_key[k].runs)
        ]
        found += [f"{deed.key}: shut"] * (not open_at.issuperset(range(at, off, SLOT)))
        found += [f"{deed.key}: nobody there"] * (deed.watched and not open_at.issuperset(range(off, over, SLOT)))
        found += [f"{deed.key}: last"] * (deed.never_last and any(0 <= shut - off < LAST_HOUR for shut in shut_at))
        for minute in range(at, off, SLOT):
            hands[minute] = hands.get(minute, 0) + 1
        for thing in deed.needs:
            for minute in range(at, over, SLOT):
                held[thing, minute] = held.get((thing, minute), 0) + 1
    found += [f"{many} pairs of hands at {m}" for m, many in hands.items() if many > there.hands]
    return found + [f"{many} of {t} at {m}" for (t, m), many in held.items() if many > there.things[t]]
