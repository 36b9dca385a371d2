"""Are the probabilities of what is off true? Prints, for each span of probability said, how often it was so; and how long it takes.

python bench/suspects.py [CASES]
"""

from __future__ import annotations

import random
import sys
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

import boards
from candor.core.circuit.elements import Resistor
from candor.core.circuit.netlist import Netlist
from candor.core.circuit.resistance import resistance_between
from candor.core.circuit.solve import operating_point
from candor.core.errors import CandorError
from candor.core.suspects.board import NodeSeen, PairSeen
from candor.core.suspects.board_faults import ways
from candor.core.suspects.weigh import WORTH
from faulty import run
from timing import report_limit, seconds

BINS = ((0.02, 0.1), (0.1, 0.3), (0.3, 0.6), (0.6, 0.9), (0.9, 0.99), (0.99, 1.01))


def main() -> None:
    """Print the table."""
    cases = int(sys.argv[1]) if len(sys.argv) > 1 else 400
    found = run(cases)
    table(found)
    for name in ("top", "sound", "zeros"):
        print(name, found[name])
    print("\nOn a board: volts and ohms, tubes by Child's law, every part off its value")
    found = boards.run(4 * cases)
    table(found)
    print("stood out, right", found["top"], "sound, anything above 20 %", found["sound"])
    against_enumeration()


def table(found: dict[str, object]) -> None:
    """Print for each span of probability how often it was so."""
    print(f"{'said':>14} {'cases':>6} {'mean said':>10} {'so':>7}")
    said = np.array(found["said"])
    for low, high in BINS:
        inside = said[(said[:, 0] >= low) & (said[:, 0] < high)]
        if len(inside):
            print(
                f"{low:6.2f} to {min(high, 1):4.2f} {len(inside):6d} {inside[:, 0].mean():10.3f} {inside[:, 1].mean():7.3f}"
            )
    took = 1000 * np.array(found["took"])
    print(f"{np.median(took):.1f} ms a case, the slowest {took.max():.0f} ms; named from {WORTH}")


def against_enumeration() -> None:
    """The same faults put in one by one, each network solved anew at every node that was read, and once more for each part."""
    board, chance = boards.board(), random.Random(3)
    seen = boards.read(
        boards.with_fault(boards.Wrong("nothing"), chance), boards.Wrong("nothing"), list(boards.NODES), [], chance
    )
    asked = [w.change for w in ways(board, seen) if w.change.branches]

    def shown(elements: tuple[object, ...]) -> None:
        for one in seen:
            if isinstance(one, NodeSeen):
                operating_point(Netlist((*elements, Resistor("RM", one.node, "0", one.meter_ohms))))
            elif isinstance(one, PairSeen):
                resistance_between(Netlist(elements), one.one, one.other)

    def enumerated() -> None:
        floats = tuple(Resistor(f"RF{i}", n, "0", 1e10) for i, n in enumerate(boards.NODES))
        for change in asked[:: len(asked) // 10]:  # a tenth of them: the rest is as slow
            more = tuple(Resistor(f"RX{i}", a, b, 1 / g) for i, (a, b, g) in enumerate(change.branches) if g)
            whole = (*boards.STAGES.elements, *floats, *more)
            try:
                shown(whole)
                for ref in boards.PARTS:
                    shown(Netlist(whole).with_value(ref, boards.STAGES.element(ref).value * 1.001).elements)
            except CandorError:
                continue

    mine = min(seconds(lambda: board.predict(asked, seen)) for _ in range(3))
    plain = seconds(enumerated) * len(asked) / len(asked[:: len(asked) // 10])
    report_limit(
        f"{len(asked)} faults of a board of {len(boards.PARTS)} resistors, {len(seen)} readings",
        mine,
        0.05,
        plain,
        "all solved anew, by difference",
    )


if __name__ == "__main__":
    main()
