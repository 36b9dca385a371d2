"""What many tests need: a clock that stands still, a pack, a notebook, the demo, a window."""

from __future__ import annotations

import datetime as dt
import os
from collections.abc import Iterator
from pathlib import Path

import pytest

from candor.core.reading.reference import Reference, SpecificationRange
from candor.demo.shop import write_demo
from candor.notebook.entries import JobOpened, ReadingTaken, SpecificationLine, StandardChosen, StandardRecorded
from candor.notebook.store import Notebook
from candor.packs.load import shipped_packs
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, procedure

os.environ.setdefault("QT_QPA_PLATFORM", "xcb" if os.environ.get("DISPLAY") else "offscreen")

NOW = dt.datetime(2026, 6, 15, 9, 30, tzinfo=dt.UTC)


class Clock:
    """A clock that moves only when told."""

    def __init__(self) -> None:
        self.now = NOW

    def __call__(self) -> dt.datetime:
        return self.now

    def advance(self, **span: float) -> None:
        self.now += dt.timedelta(**span)


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture(scope="session")
def pack() -> Pack:
    return shipped_packs()[0]


@pytest.fixture
def notebook(tmp_path: Path, clock: Clock) -> Iterator[Notebook]:
    made = Notebook(tmp_path / "bench.candor", "tester", clock)
    yield made
    made.close()


@pytest.fixture
def demo(tmp_path: Path) -> Iterator[Notebook]:
    made = write_demo(tmp_path / "demo.candor", NOW)
    yield made
    made.close()


@pytest.fixture
def meter() -> Reference:
    """A reference good to 0.01 % of reading, checked half a year ago."""
    return Reference("bench meter", "V", (SpecificationRange(2000.0, 0.01),), calibrated_on=dt.date(2026, 1, 10))


def standard_body(**changes: object) -> StandardRecorded:
    body = {
        "key": "meter",
        "name": "bench meter",
        "ranges": (SpecificationLine(upper=2000, percent_of_reading=0.01),),
        "calibrated_on": dt.date(2026, 1, 10),
        "traceability": "a laboratory",
    }
    return StandardRecorded.model_validate({**body, **changes})


def open_job(notebook: Notebook, pack: Pack, job: str = "job1") -> str:
    """Open a job with a standard chosen, and return the standard's entry id."""
    standard = notebook.append("", standard_body()).id
    body = JobOpened(maker=pack.maker, type=pack.type, serial="123", pack_digest=notebook.keep_pack(pack))
    notebook.append_many(job, [body, StandardChosen(standard=standard)])
    return standard


def point_steps(pack: Pack, phase: str = "as found") -> list[ProcedureStep]:
    return [s for s in procedure(pack) if s.kind == "point" and s.phase == phase]


def reading(step: ProcedureStep, standard: str, ratio: float = 1.0, **changes: object) -> ReadingTaken:
    """A reading at a step: the needle at `ratio` times the nominal value."""
    assert step.point is not None
    body = {
        "step": step.key,
        "phase": step.phase,
        "point": step.point.key,
        "indicated": step.point.nominal * ratio,
        "reference": step.point.nominal,
        "standard": standard,
    }
    return ReadingTaken.model_validate({**body, **changes})
