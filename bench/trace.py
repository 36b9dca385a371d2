"""Looks along 500 chains with one hidden fault against the best plan there is; nodes and the next look of a circuit of 60 nodes."""

from __future__ import annotations

import random
import statistics

from candor.core.circuit.netlist import parse_netlist
from candor.core.circuit.solve import operating_point
from candor.core.suspects.board import Board, NodeSeen
from candor.core.suspects.weigh_board import weigh_board
from candor.core.trace.signal import Look, Stage, fewest_looks, next_look
from timing import report_limit, seconds

CHAINS, WANTED = 500, 1.15


def looks_of(stages: list[Stage], fault: int) -> int:
    """How many looks until one stage is believed enough; every look is right."""
    looks: list[Look] = []
    while (advice := next_look(stages, looks)) is not None:
        looks.append(Look(advice.behind, "bad" if fault <= advice.behind else "good"))
    return len(looks)


def main() -> None:
    """Both."""
    chance = random.Random(20)
    mine, best = 0.0, 0.0
    for _ in range(CHAINS):
        weights = [chance.uniform(0.2, 3) for _ in range(chance.randint(4, 14))]
        stages = [Stage(f"s{i}", w) for i, w in enumerate(weights)]
        fault = chance.choices(range(len(stages)), weights)[0]
        mine += looks_of(stages, fault)
        best += fewest_looks(weights)
    ratio = mine / best
    mark = "as wanted" if ratio <= WANTED else "NOT as wanted"
    print(
        f"{CHAINS} chains: {mine / CHAINS:.2f} looks, the best plan {best / CHAINS:.2f}; ratio {ratio:.2f} (at most "
        f"{WANTED:g}: {mark})"
    )
    lines = ["V1 b 0 250"] + [
        f"R{i} {'b' if i == 1 else f'n{i - 1}'} n{i} {chance.uniform(1, 50):.3g}k" for i in range(1, 60)
    ]
    lines += [
        f"R{100 + i} n{i} {chance.choice(['0', f'n{(i + 7) % 59 + 1}'])} {chance.uniform(20, 500):.3g}k"
        for i in range(1, 60)
    ]
    netlist = parse_netlist("\n".join(lines))
    solved = seconds(lambda: operating_point(netlist))
    volts = {n: v * (1 + chance.uniform(-0.01, 0.01)) for n, v in operating_point(netlist).items() if n != "0"}
    seen = [NodeSeen(n, v, 1e7) for n, v in list(volts.items())[::4]]
    spent = statistics.median(seconds(lambda: weigh_board(Board(netlist), seen)) for _ in range(3))
    report_limit("What explains 15 readings of 60 nodes", spent, 3.0, solved, "solving the network once")
    stages = [Stage(f"s{i}") for i in range(60)]
    spent = statistics.median(seconds(lambda: next_look(stages, [Look(30, "bad")])) for _ in range(7))
    report_limit("The next look, 60 stages", spent, 0.05, solved, "solving the network once")


if __name__ == "__main__":
    main()
