"""What a point is read against: of its quantity, current and band, as it is now; by itself only where one fits."""

import re
from dataclasses import replace

import pytest

from candor.core.calibration.point import Stimulus
from candor.core.errors import ValueTextError
from candor.notebook.entries.calibrate_entries import StandardChosen
from candor.notebook.entries.ranges_entries import FrequencySaid
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.standards.standard_choice import away_for, chosen_for
from candor.notebook.standards.standards import chosen_by_job, jobs_read_against, standards
from candor.notebook.standards.standards_text import read_functions
from candor.notebook.work.assessment import assess_run
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.sitting.commands.calibrate_commands import make_range, name_standard, say_frequency
from candor.sitting.commands.shop_commands import record_standard, withdraw_standard
from sitting.test_sitting import Bench
from workbench import by_command, open_job, point_steps, reading, standard_body


def meter(key, text, **more):
    return StandardRecorded(key=key, name=f"{key} meter", role="meter", functions=read_functions(text), **more)


@pytest.fixture
def shop(notebook):
    notebook.write("j", JobOpened(maker="Corvane", type="V-3", serial="5"))
    return notebook


def chosen(notebook, point, job="j"):
    found = chosen_for(fold(job, notebook.entries_of(job)), standards(notebook), point)
    return found.body.key if found is not None else ""


def test_only_what_fits_is_taken_and_by_itself_only_where_it_is_the_only_one(shop, pack):
    volts = replace(next(s.point for s in point_steps(pack)), stimulus=Stimulus(0.0, "d.c."))
    alternating = replace(volts, stimulus=Stimulus(1000.0, "sine"))
    high = replace(volts, stimulus=Stimulus(1e6, "sine"))
    hertz = replace(volts, indicator=replace(volts.indicator, unit="Hz"))
    assert chosen(shop, volts) == ""
    dc = shop.write("", meter("dc", "V d.c.\nto 1000 V: 0.01 %"))
    assert (chosen(shop, volts), chosen(shop, alternating), chosen(shop, hertz)) == ("dc", "", "")
    shop.write("", meter("ac", "V a.c.\n40 Hz to 20 kHz, to 1000 V: 0.2 %"))
    assert (chosen(shop, volts), chosen(shop, alternating), chosen(shop, high)) == ("dc", "ac", "")
    shop.write("", meter("other", "V d.c.\nto 1000 V: 0.1 %"))
    assert chosen(shop, volts) == ""  # two fit: nobody said which
    shop.write("j", StandardChosen(standard=dc.id))
    assert (chosen(shop, volts), chosen(shop, alternating)) == ("dc", "ac")


def test_a_standard_recorded_again_reaches_the_jobs_that_use_it_and_old_readings_keep_what_it_was(notebook, pack):
    older = open_job(notebook, pack)
    point = point_steps(pack)[0]
    first = notebook.write("job1", reading(point, older))
    again = record_standard(standard_body(serial="new check"), older, standards(notebook))
    newer = by_command(notebook)("", again)
    job, known = fold("job1", notebook.entries_of("job1")), standards(notebook)
    assert chosen_for(job, known, point.point).entry.id == newer.id
    assert job.calibrate.readings[0].standard == first.body.standard == older
    assert jobs_read_against("meter", known, chosen_by_job(notebook), chains=False) == ("job1",)
    assert [s.entry.id for s in known.values() if s.current] == [newer.id]  # one line in lists


def test_a_standard_named_afterwards_is_an_entry_and_the_certificate_says_so(notebook, pack):
    known = open_job(notebook, pack)
    notebook.write("job1", reading(point_steps(pack)[0], ""))
    bench = Bench(notebook)
    assert assess_run(bench.job(), pack, standards(notebook), "as found").counts.startswith("1 undecided")
    bench.do(name_standard(bench.job(), "bench meter", standards(notebook), pack))
    taken = bench.job().calibrate.readings[0]
    assert (taken.body.standard, taken.standard) == ("", known)
    assert assess_run(bench.job(), pack, standards(notebook), "as found").counts.startswith("1 pass")
    from paper.test_remarks import made

    said = next(line for line in made(notebook).remarks if line.kind == "named")
    assert "Standard named afterwards for 1 reading (tester, 2026-06-15)." in said.text
    with pytest.raises(Exception, match="No reading without a standard"):
        name_standard(bench.job(), "bench meter", standards(notebook), pack)
    with pytest.raises(Exception, match=r"No standard is called “x”. Known: bench meter"):
        name_standard(bench.job(), "x", standards(notebook), pack)


def test_the_frequency_of_an_ac_range_is_asked_once_and_decides_which_band_holds(shop):
    from candor.core.jot.range_line import understand_range

    shop.write("", meter("ac", "V a.c.\n40 Hz to 20 kHz, to 1000 V: 0.2 %"))
    job = lambda: fold("j", shop.entries_of("j"))  # noqa: E731

    def do(command):
        return by_command(shop)("j", command)

    do(make_range(understand_range("AC volts 50 V 50 div 3%fs")))
    assert job().ranges.without_frequency == ("ac-volts",)
    step = next(s for s in _steps(shop, job()) if s.point)
    assert (step.point.current, step.point.stimulus.hertz) == ("a.c.", 0.0)
    do(say_frequency(job(), 60.0))
    assert job().ranges.without_frequency == ()
    assert next(s for s in _steps(shop, job()) if s.point).point.stimulus.hertz == 60.0
    assert [e.body.hertz for e in shop.entries_of("j") if isinstance(e.body, FrequencySaid)] == [60.0]
    do(make_range(understand_range("AC volts 150 V 50 div 3%fs")))
    assert job().ranges.without_frequency == ()  # the function is one: it is not asked again


def _steps(notebook, job):
    from candor.packs.procedure import procedure

    return procedure(description_of(notebook, job))


def test_what_is_out_of_service_is_taken_for_no_new_reading_whoever_chose_it(shop, pack):
    volts = replace(next(s.point for s in point_steps(pack)), stimulus=Stimulus(0.0, "d.c."))
    best = shop.write("", meter("best", "V d.c.\nto 1000 V: 0.01 %"))
    shop.write("", meter("other", "V d.c.\nto 1000 V: 0.1 %"))
    shop.write("j", StandardChosen(standard=best.id))
    assert chosen(shop, volts) == "best"

    def awaited():
        found = away_for(fold("j", shop.entries_of("j")), standards(shop), volts)
        return found.name if found is not None else ""

    today = shop.clock().date()
    for asked in ("", "2020-01-01", "2031-05-01", "the fifth"):
        if asked:
            with pytest.raises(ValueTextError, match=re.escape(asked)):
                withdraw_standard("best", "at the laboratory", asked, today)
    by_command(shop)("", withdraw_standard("best", "at the laboratory", "2026-07-01", today))
    assert chosen(shop, volts) == "other"  # the only one that is left
    assert awaited() == ""  # nobody waits where another serves
    by_command(shop)("", withdraw_standard("other", "fell off the bench"))
    assert (chosen(shop, volts), awaited()) == ("", "best meter")
    by_command(shop)("", withdraw_standard("best", ""))
    assert (chosen(shop, volts), awaited()) == ("best", "")
    by_command(shop)("", withdraw_standard("best", "lent out"))
    assert awaited() == "best meter"  # nobody said when it is back, and nothing else serves
