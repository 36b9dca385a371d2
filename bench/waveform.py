"""A million samples analysed, against one Fourier transform of the same length; and 400 tubes matched."""

from __future__ import annotations

import numpy as np

from candor.core.tubes.matching import Measured, match, tubes_of
from candor.core.waves.analysis import analyse
from candor.core.waves.waveform import Waveform
from timing import in_turn, report, report_limit


def main() -> None:
    """Time both on invented figures."""
    chance = np.random.default_rng(1)
    values = np.sign(np.sin(2 * np.pi * np.arange(1_000_000) / 1000.3)) + 0.01 * chance.normal(size=1_000_000)
    ours, other = in_turn(lambda: analyse(Waveform("one", "V", values, 1e-9)), lambda: np.fft.rfft(values), 9)
    report("A million samples, every figure", ours, other, "one transform of the same length", 3.0)
    tubes = tubes_of(Measured(f"T{i}", "", float(f), 5.0) for i, f in enumerate(chance.normal(1000, 80, 400)))
    ours, other = in_turn(lambda: match(tubes), lambda: np.fft.rfft(values), 9)
    report_limit("400 tubes into pairs", ours, 0.2, other, "one transform of a million samples")


if __name__ == "__main__":
    main()
