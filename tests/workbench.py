"""Hands for the tests: a clock, a standard, a job, readings."""

from __future__ import annotations

import datetime as dt
from importlib import resources

from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import AsFoundWaived, ReadingTaken, StandardChosen
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.power_entries import PowerChecked
from candor.notebook.entries.release_entries import EarthRead
from candor.notebook.entries.standards_entries import SpecificationLine, StandardRecorded
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.power.may_power import CHECKS
from candor.notebook.storage.moments import Moment
from candor.notebook.store import Notebook
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, procedure
from candor.sitting.command import command, of_shop

PACK_TEXT = (resources.files("candor.packs") / "shipped" / "tarnholm-vm6.yaml").read_text(encoding="utf-8")
PATIENCE_MS = 30_000  # that a test waits at most, on a machine that does other things too
NOW = dt.datetime(2026, 6, 15, 9, 30, tzinfo=dt.UTC)


class Clock:
    """A clock that goes on by a millisecond each time it is looked at, and by more when told."""

    def __init__(self) -> None:
        self.now = NOW
        self.boot, self.ran = "this boot", 5000.0

    def __call__(self) -> dt.datetime:
        self.now += dt.timedelta(milliseconds=1)
        return self.now

    def moment(self) -> Moment:
        return Moment(self.boot, self.ran)

    def advance(self, **span: float) -> None:
        self.now += dt.timedelta(**span)
        self.ran += dt.timedelta(**span).total_seconds()

    def step(self, **span: float) -> None:
        """Somebody, or a time server, sets the clock of the day."""
        self.now += dt.timedelta(**span)

    def restart(self) -> None:
        self.boot, self.ran = "another boot", 20.0


# Standards of every unit, as their lines are typed.
EVERYTHING = (
    "V\nto 2000 V: 0.01 %\nohm\nto 200 Mohm: 0.01 %\nA\nto 10 A: 0.02 %\nF\nto 1 mF: 0.1 %\nHz\nto 10 MHz: 0.001 %\n"
    "s\nto 10 s: 0.001 %\ndB\nto 60 dB: 2 x 0.01 dB"
)


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
    standard = notebook.write("", standard_body()).id
    body = JobOpened(maker=pack.maker, type=pack.type, serial="123", pack_digest=notebook.keep_pack(pack))
    notebook.append(drafts_of(job, [body, StandardChosen(standard=standard)]))
    return standard


def goes_on(notebook: Notebook, job: str = "job1") -> None:
    """Say that the job is changed without having been read as found: what is asked first is tests/sitting/test_first_reading.py."""
    notebook.write(job, AsFoundWaived())


def looked_before_power() -> list[Body]:
    """Every check before power, looked at and as it should be."""
    looked = [PowerChecked(item=item, outcome="good") for item in (*CHECKS, "electrolytics", "hazards")]
    return [*looked, EarthRead(ohms=0.09, amperes=10.0), PowerChecked(item="rails", outcome="good")]


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


def put(writer, *bodies: Body) -> bool:
    """Have a window write entries of the job in hand, whatever they are."""
    return writer.do(command("written", *bodies))


def put_shop(writer, *bodies: Body) -> bool:
    """Have a window write entries of the shop."""
    return writer.do(of_shop("written", *bodies))


def by_command(notebook: Notebook):
    """Return what does a command of any job, and returns its entry."""
    return lambda job, asked: notebook.append(asked.drafts_for(job))[0]
