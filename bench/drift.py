"""500 points over 40 years forecast, and papers of a whole instrument, against work of a known size in the same run."""

from __future__ import annotations

import datetime as dt
import tempfile
from pathlib import Path

import numpy as np

from candor.core.drift.due import due_by_forecast
from candor.core.drift.forecast import forecast_all
from candor.core.drift.history import Calibration, Segment
from candor.demo.demo_notebook import write_demo
from candor.notebook.exchange.travel import read_travelling, take_in
from candor.notebook.exchange.travel_out import travelling
from candor.notebook.store import Notebook
from candor.notebook.work.job import fold
from timing import in_turn, report_limit

POINTS, YEARS = 500, 40


def histories() -> list[tuple[list[Segment], float]]:
    """Draw invented histories: a line each, with scatter."""
    chance = np.random.default_rng(3)
    made = []
    for slope in chance.normal(0, 0.05, POINTS):
        errors = slope * np.arange(YEARS) + chance.normal(0, 0.1, YEARS)
        results = tuple(
            Calibration(dt.date(1986 + year, 6, 1), float(error), 0.2) for year, error in enumerate(errors)
        )
        made.append(([Segment(results)], 3.0))
    return made


def main() -> None:
    """Time the forecast, its due date, and a job that travels."""
    drawn, matrices = histories(), np.random.default_rng(1).normal(size=(POINTS, YEARS, YEARS)) + 40 * np.eye(YEARS)
    ours, other = in_turn(lambda: forecast_all(drawn), lambda: np.linalg.inv(matrices), 7)
    report_limit("500 points of 40 years forecast", ours, 0.1, other, "as many matrices of that size inverted")
    found = {str(i): made for i, made in enumerate(forecast_all(drawn))}
    ours, other = in_turn(lambda: due_by_forecast(found, dt.date(2026, 6, 1)), lambda: np.linalg.inv(matrices), 7)
    report_limit("the day all 500 are due", ours, 0.5, other, "the same")
    with tempfile.TemporaryDirectory() as place:
        notebook = write_demo(Path(place) / "there.candor")
        job = fold("sb40188", notebook.entries_of("sb40188"))
        path, count = Path(place) / "job.zip", iter(range(1000))
        path.write_bytes(travelling(notebook, job.id))

        def take() -> None:
            other_one = Notebook(Path(place) / f"{next(count)}.candor", "bench")
            take_in(other_one, read_travelling(path))
            other_one.close()

        def make() -> None:
            Notebook(Path(place) / f"{next(count)}.candor", "bench").close()

        ours, other = in_turn(take, make, 7)
        report_limit(f"a job of {len(job.entries)} entries taken in", ours, 0.5, other, "an empty notebook made")
        notebook.close()


if __name__ == "__main__":
    main()
