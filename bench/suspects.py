"""Are the probabilities of what is off true? Prints, for each span of probability said, how often it was so; and how long it takes.

python bench/suspects.py [CASES]
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))

from candor.core.suspects.weigh import WORTH
from faulty import run

BINS = ((0.02, 0.1), (0.1, 0.3), (0.3, 0.6), (0.6, 0.9), (0.9, 0.99), (0.99, 1.01))


def main() -> None:
    """Print the table."""
    cases = int(sys.argv[1]) if len(sys.argv) > 1 else 400
    found = run(cases)
    print(f"{'said':>14} {'cases':>6} {'mean said':>10} {'so':>7}")
    said = np.array(found["said"])
    for low, high in BINS:
        inside = said[(said[:, 0] >= low) & (said[:, 0] < high)]
        if len(inside):
            print(
                f"{low:6.2f} to {min(high, 1):4.2f} {len(inside):6d} {inside[:, 0].mean():10.3f} {inside[:, 1].mean():7.3f}"
            )
    for name in ("top", "sound", "zeros"):
        print(name, found[name])
    took = 1000 * np.array(found["took"])
    print(f"{np.median(took):.1f} ms a case, the slowest {took.max():.0f} ms; named from {WORTH}")


if __name__ == "__main__":
    main()
