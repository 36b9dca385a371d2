"""A job set up as another: how it is read goes on, what was found or measured does not; of a sister the drawing goes on too."""

import pytest

from candor.notebook.entries.arrive_entries import FindingNoted
from candor.notebook.entries.calibrate_entries import ReadingTaken, RuleChosen, StandardChosen, StandardNamed
from candor.notebook.entries.parts_entries import PartListed, PartMeasured
from candor.notebook.entries.power_entries import RailRead, RailSaid, SupplySaid
from candor.notebook.entries.ranges_entries import FrequencySaid, PointsPlanned, RangeMade
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.entries.stay_entries import ChangeMade, JobOpened, NoteWritten
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.standards.standards import standards_of
from candor.notebook.work.job import fold
from candor.notebook.work.set_up_of import set_up_of
from candor.sitting.starting import Like, start

VOLTS = RangeMade(function="DC volts", unit="V", full_scale=30.0, divisions=30, percent_of_full_scale=3.0)
SET_UP = (
    VOLTS, VOLTS.model_copy(update={"full_scale": 100.0}), FrequencySaid(function="ac-volts", hertz=60),
    PointsPlanned(function="dc-volts", range="30v", values=(15.0,)), RuleChosen(rule="plain"),
)  # fmt: skip
DRAWN = (
    PartListed(ref="C3", what="capacitor", nominal=1e-8, fitted=False), RailSaid(name="b1", volts=250.0),
    SupplySaid(straight_on=True, watts=40.0),
)  # fmt: skip
FOUND = (
    FindingNoted(zone="cord", text="cord perished", mark="hazard"),
    PartMeasured(ref="C3", value=1.1e-8), ChangeMade(text="replaced C3"),
    RailRead(name="b1", reading=243.0), NoteWritten(text="smells of oil"),
    ReadingTaken(step="own", point="dc-volts/30v/22.5", phase="as found", indicated=22.4, reference=22.5),
)  # fmt: skip


@pytest.fixture
def before(notebook):
    notebook.write("a", JobOpened(maker="Corvane", type="AV-20", serial="17", instrument_kind="multimeter"))
    for body in (*SET_UP, *DRAWN, *FOUND):
        notebook.write("a", body)
    return notebook


@pytest.mark.parametrize("same", [True, False])
def test_how_it_is_read_goes_on_with_the_points_that_were_read_and_no_reading_does(before, same):
    given = set_up_of(fold("a", before.entries_of("a")), same_unit=same)
    assert given[: len(SET_UP)] == SET_UP
    assert [b.values for b in given if isinstance(b, PointsPlanned)] == [(15.0,), (22.5,)]
    assert not [b for b in given if isinstance(b, tuple(type(f) for f in FOUND))]
    drawn = {type(b) for b in given} & {type(b) for b in DRAWN}
    assert drawn == (set() if same else {type(b) for b in DRAWN})


def test_what_was_of_the_one_unit_is_not_of_its_sister(before):
    given = set_up_of(fold("a", before.entries_of("a")), same_unit=False)
    assert [b.fitted for b in given if isinstance(b, PartListed)] == [True]
    assert [(b.straight_on, b.watts) for b in given if isinstance(b, SupplySaid)] == [(False, 40.0)]


def test_what_was_struck_is_not_given_on(before):
    struck = next(e for e in before.entries_of("a") if e.body == VOLTS)
    before.write("a", Struck(target=struck.id))
    given = set_up_of(fold("a", before.entries_of("a")), same_unit=True)
    assert [b.full_scale for b in given if isinstance(b, RangeMade)] == [100.0]
    assert (22.5,) not in [b.values for b in given if isinstance(b, PointsPlanned)]  # its range is gone with it


def test_a_job_starts_so_with_the_standards_that_are_still_there(before):
    for key in ("one", "two"):
        before.write("", StandardRecorded(key=key, name=key))
    known = standards_of(before.entries_of(""))
    two = next(s for s in known.values() if s.body.name == "two")
    for standard in (two.entry.id, "gone"):
        before.write("a", StandardChosen(standard=standard))
    job = start(
        before, JobOpened(maker="Corvane", type="AV-20", serial="18"), None, known, Like("a", same_unit=False)
    )
    made = fold(job, before.entries_of(job))
    assert {key[1] for key in made.ranges.made} == {"30v", "100v"}
    assert made.calibrate.standards == (two.entry.id,)
    assert (made.calibrate.rule, made.calibrate.readings, made.stay.changes) == ("plain", (), ())
    assert not [e for e in made.entries if isinstance(e.body, StandardNamed)]
