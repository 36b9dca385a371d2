"""Lines: of 20 changed lines a row how many are understood, asked about, noted or wrong; and how long the slowest of many takes."""

from __future__ import annotations

import contextlib
import random
import statistics
import string
import sys
import time
from collections import Counter
from dataclasses import replace
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from candor.core.errors import CandorError
from candor.core.jot import understand
from candor.core.jot.rows import VERBS
from timing import report
from typed_lines import context_of, lines, outcome

FUZZED = 220_000
WORDS = [word for verb in VERBS for example in verb.examples for word in example.split()]


def shares() -> None:
    """Print what becomes of lines as people type them, by how they were changed."""
    typed = lines(2000 * len(VERBS) // 100 // len(VERBS), seed=1)
    found = Counter((t.how, outcome(t)) for t in typed)
    print(f"{len(typed)} lines of {len(VERBS)} rows")
    for how in sorted({how for how, _ in found}):
        row = ", ".join(f"{found[how, o]} {o}" for o in ("understood", "asked", "noted", "WRONG") if found[how, o])
        print(f"  {how}: {row}")
    print(f"  taken for something else: {sum(count for (_, o), count in found.items() if o == 'WRONG')}")


def speed() -> None:
    """Print how long a line takes, against one that is a reading at a point, and the slowest of the fuzzed ones."""
    rng, context = random.Random(2), replace(context_of("points"), point=None)
    typed = [example for verb in VERBS for example in verb.examples]
    ours = statistics.median(_seconds(line, context) for line in typed * 5)
    plain = statistics.median(_seconds("72.6 ref 75.004", context_of("points")) for _ in range(500))
    report("A line of the table understood", ours, plain, "a reading at a point", 10.0)
    slowest, worst = 0.0, ""
    for _ in range(FUZZED):
        if rng.random() < 0.5:
            line = " ".join(rng.choices(WORDS, k=rng.randint(1, 9)))
        else:
            line = "".join(rng.choices(string.printable + "µΩ±−½§é", k=rng.randint(1, 60)))
        took = _seconds(line, context)
        slowest, worst = max((slowest, worst), (took, line))
    print(f"  {FUZZED} fuzzed lines, no exception; the slowest {1000 * slowest:.1f} ms (at most 50): {worst[:60]!r}")


def _seconds(line: str, context: object) -> float:
    begun = time.perf_counter()
    with contextlib.suppress(CandorError):
        understand(line, context)  # type: ignore[arg-type]
    return time.perf_counter() - begun


if __name__ == "__main__":
    shares()
    speed()
