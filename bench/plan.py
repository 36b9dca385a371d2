"""The plan of the shop's days: promises kept and hands idle in 200 simulated shop weeks, against first come first served and the
earliest promise first; and how long a large plan takes, against one plain placing of all its deeds.

Times come out as gamma variates with the medians' scale and a common share for each job: not the planner's own model.
Run:  ./run bench, or  PYTHONPATH=src python bench/plan.py [weeks]
"""

from __future__ import annotations

import random
import statistics
import sys
from collections.abc import Mapping, Sequence
from dataclasses import replace
from time import perf_counter

from candor.core.plan.in_order import lateness, place_in_order
from candor.core.plan.keeping_promises import plan_to_keep
from candor.core.plan.order_search import plan
from candor.core.plan.replan import replan
from candor.core.plan.shop import Deed, Shop, in_sequence

HANDS = {"look": 30, "measure": 60, "reform": 10, "power": 40, "read": 60, "soak": 5, "sign": 30}
THINGS = {"good meter": 1, "variable transformer": 1, "source": 1, "bench": 4}


def shop(hands: int, days: int = 42) -> Shop:
    spans = ((0, 210), (240, 510))
    return Shop(
        tuple((1440 * d + a, 1440 * d + b) for d in range(days) if d % 7 < 5 for a, b in spans), hands, THINGS
    )


def jobs(count: int, deeds: int, seed: int) -> tuple[list[Deed], dict[str, int]]:
    """Return the deeds of some jobs in the order they came, and what was promised of two thirds of them."""
    draw = random.Random(seed)
    made: list[Deed] = []
    promised: dict[str, int] = {}
    for job in range(count):
        each = max(1, round(deeds / count))
        for at in range(each):
            kind = draw.choice(sorted(HANDS))
            needs = {"power": ("variable transformer",), "read": (draw.choice(["good meter", "source"]),)}.get(
                kind, ()
            )
            made.append(
                Deed(
                    f"{job}.{at}",
                    str(job),
                    max(5, min(150, round(HANDS[kind] * draw.uniform(0.5, 2)))),
                    {"reform": 120, "soak": draw.choice([240, 960])}.get(kind, 0),
                    watched=kind == "reform",
                    needs=needs,
                    after=(f"{job}.{at - 1}",) if at else (),
                    never_last=kind == "power",
                    set_up="dc" if kind == "read" and draw.random() < 0.5 else "",
                    spread=0.4,
                )
            )
        if draw.random() < 0.67:
            promised[str(job)] = 1440 * draw.choice([1, 2, 3, 4, 7, 8]) + 510
    return made, promised  # fmt: skip


def lasting(deed: Deed, times: float) -> Deed:
    """Return a deed that takes so many times as long, as far as one sitting of an afternoon holds it."""
    room = 265 - (60 if deed.never_last else 0) - (deed.runs if deed.watched else 0)
    return replace(deed, hands=min(room, max(1, round(deed.hands * times))))


def as_it_comes(order: Sequence[Deed], there: Shop, promised: Mapping[str, int], seed: int) -> tuple[int, float]:
    """Return how many promises were kept, and the share of open hands that were idle until the last deed was done."""
    draw = random.Random(seed)
    slow = {d.job: draw.gammavariate(12, 1 / 12) for d in order}
    scatter = {d.key: draw.gammavariate(8, 1 / 7.67) for d in in_sequence(sorted(order, key=lambda d: d.key))}
    drawn = [lasting(d, slow[d.job] * scatter[d.key]) for d in order]
    starts = place_in_order(drawn, there)
    kept = sum(late == 0 for late in lateness(drawn, starts, promised).values())
    last = max(starts[d.key] + d.hands for d in drawn)
    open_ = sum(max(0, min(b, last) - a) for a, b in there.open) * there.hands
    return kept, 1 - sum(d.hands for d in drawn) / open_


def weeks(count: int) -> None:
    told: dict[str, list[tuple[int, float]]] = {"this plan": [], "first come": [], "earliest promise": []}
    owed = 0
    for seed in range(count):
        made, promised = jobs(12, 44, seed)
        there = shop(1 + seed % 2)
        owed += len(promised)
        starts = plan_to_keep(made, there, promised).planned.starts
        far = there.ends
        orders = {
            "this plan": sorted(made, key=lambda d: starts[d.key]),
            "first come": made,
            "earliest promise": sorted(made, key=lambda d: promised.get(d.job, far)),
        }
        for name, order in orders.items():
            told[name].append(as_it_comes(in_sequence(order), there, promised, seed + 1000))
    print(f"{count} shop weeks, {owed} promises")
    print(f"{'':18} {'kept':>7} {'hands idle':>11}")
    for name, rows in told.items():
        kept, idle = sum(k for k, _ in rows), statistics.mean(i for _, i in rows)
        print(f"{name:18} {100 * kept / owed:6.1f} % {100 * idle:9.1f} %")


def drawn(order: Sequence[Deed], how: str, draw: random.Random) -> list[Deed]:
    """Return deeds as long as they come, by a way that is not the planner's."""
    slow = {d.job: draw.gammavariate(12, 1 / 12) for d in order}
    made = []
    for deed in order:
        if how == "gamma, slow jobs":
            times = slow[deed.job] * draw.gammavariate(8, 1 / 7.67)
        elif how == "gamma, each its own":
            times = draw.gammavariate(7, 1 / 6.67)
        else:  # one deed in twenty finds a fault, and takes four times as long
            times = draw.gammavariate(8, 1 / 7.67) * (4 if draw.random() < 0.05 else 1)
        made.append(lasting(deed, times))
    return made


def shares(count: int) -> None:
    """How often promises are kept of which so much is said."""
    print(f"\nPromises kept, of {count} shops, each drawn 40 times")
    print(f"{'':24}" + "".join(f"{name:>30}" for name in ("said on time", "at risk", "likely late")))
    for how in ("gamma, each its own", "gamma, slow jobs", "one in twenty four times"):
        said: dict[str, list[tuple[float, float]]] = {"kept": [], "at risk": [], "late": []}
        for seed in range(count):
            made, promised = jobs(12, 44, seed + 500)
            there = shop(1 + seed % 2)
            found = plan_to_keep(made, there, promised)
            order = in_sequence(sorted(made, key=lambda d: found.planned.starts[d.key]))
            draw = random.Random(seed)
            kept = dict.fromkeys(promised, 0)
            for _ in range(40):
                as_long = drawn(order, how, draw)
                late = lateness(as_long, place_in_order(as_long, there), promised)
                for job in promised:
                    kept[job] += late[job] == 0
            for p in found.promises:
                said[p.standing].append((p.kept, kept[p.job] / 40))
        told = []
        for rows in said.values():
            if rows:
                one, other = statistics.mean(r[0] for r in rows), statistics.mean(r[1] for r in rows)
                told.append(f"{len(rows):5} said {100 * one:3.0f}, came {100 * other:3.0f} %")
            else:
                told.append("none")
        print(f"{how:24}" + "".join(f"{text:>30}" for text in told))


def speed() -> None:
    made, promised = jobs(40, 300, 1)
    there = shop(3)
    begun = perf_counter()
    place_in_order(in_sequence(made), there)
    one = perf_counter() - begun
    begun = perf_counter()
    planned = plan(made, there, promised)
    whole = perf_counter() - begun
    first = min(planned.starts, key=lambda k: planned.starts[k])
    slipped = [replace(d, hands=d.hands + 60) if d.key == first else d for d in made]
    begun = perf_counter()
    anew = replan(slipped, there, promised, planned.starts)
    again = perf_counter() - begun
    print(f"\n40 jobs, {len(made)} deeds, 3 pairs of hands, 4 shared things")
    print(f"one placing of all   {1000 * one:7.1f} ms")
    print(f"the plan             {1000 * whole:7.1f} ms   {whole / one:6.1f} placings")
    print(
        f"planned anew         {1000 * again:7.1f} ms   {again / one:6.1f} placings, {len(anew.besides)} moved besides"
    )


if __name__ == "__main__":
    weeks(int(sys.argv[1]) if len(sys.argv) > 1 else 200)
    shares(int(sys.argv[1]) // 3 if len(sys.argv) > 1 else 60)
    speed()
