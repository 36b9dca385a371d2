"""What lies ahead of a job."""

from __future__ import annotations

import datetime as dt

from candor.core.plan.usual_times import WORKS, took
from candor.notebook.entries.parts_entries import PartListed, PartMeasured
from candor.notebook.entries.power_entries import SupplySaid
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.plan.deeds_of_job import SITTING, Ahead, deeds_of, hands_for
from candor.notebook.standards.standards import standards
from candor.notebook.work.job import fold
from candor.packs.bundled import bundled_packs
from workbench import NOW, open_job

TIMES = {work: took(work) for work in WORKS}


def ahead(notebook, pack, job="job1", times=TIMES):
    folded = fold(job, notebook.entries_of(job))
    return deeds_of(folded, pack, list_parts(folded, pack), times, standards(notebook), NOW)


def test_a_job_just_come_has_the_whole_route_ahead(notebook, pack):
    open_job(notebook, pack)
    works = list(dict.fromkeys(a.work for a in ahead(notebook, pack)))
    power = next(a for a in ahead(notebook, pack) if a.work == "power up")
    assert power.watched and power.never_last and power.needs == ("variable transformer",) and power.runs
    assert works == ["walk", "part", "reform", "before power", "power up", "step", "release"]


def test_a_reform_above_the_live_limits_is_watched_and_one_below_is_not(notebook, pack):
    open_job(notebook, pack)
    for ref, volts in (("C91", 25.0), ("C92", 450.0), ("C93", 60.0), ("C94", 0.0)):
        body = {"ref": ref, "what": "capacitor", "nominal": 1e-5, "make": "electrolytic", "volts": volts}
        notebook.write("job1", PartListed.model_validate(body))
    found = {a.of: a for a in ahead(notebook, pack) if a.work == "reform"}
    assert {ref: found[ref].watched for ref in ("C91", "C92", "C93", "C94")} == {
        "C91": False, "C92": True, "C93": False, "C94": True,
    }  # fmt: skip
    assert all(found[ref].never_last == found[ref].watched for ref in found)
    notebook.write(
        "job1",
        PartMeasured(
            ref="C92", value=1.1e-5, unit="F", leakage=5e-6, leakage_volts=450.0, dwell_s=600.0, esr=0.1, hertz=120.0
        ),
    )
    assert "C92" not in {a.of for a in ahead(notebook, pack) if a.work == "reform"}


def test_a_soak_is_watched_until_the_supply_was_proven(notebook, pack):
    open_job(notebook, pack)
    notebook.write("job1", ChangeMade(text="replaced R6", part="R6"))
    soak = next(a for a in ahead(notebook, pack) if a.work == "soaking")
    assert soak.watched
    assert next(a for a in ahead(notebook, pack) if a.work == "prove").many == 1
    notebook.write("job1", SupplySaid(no_mains=True))
    found = ahead(notebook, pack)
    assert not next(a for a in found if a.work == "soaking").watched
    assert not [a for a in found if a.work in ("before power", "power up")]


def test_steps_come_in_sittings_that_a_wait_ends(notebook, pack):
    open_job(notebook, pack)
    steps = [a for a in ahead(notebook, pack) if a.work == "step"]
    assert sum(a.many for a in steps) > 40
    assert all(a.many * TIMES["step"].minutes <= SITTING + TIMES["step"].minutes for a in steps)
    warms = [a for a in steps if a.runs]
    assert warms and all(a.watched for a in warms)  # its supply was not proven
    notebook.write("job1", SupplySaid(no_mains=True))
    assert not any(a.watched for a in ahead(notebook, pack) if a.work == "step")
    assert len({a.key for a in steps}) == len(steps)


def test_the_wander_of_a_null_meter_is_read_while_the_line_is_quiet_and_what_follows_at_any_time(notebook):
    null = next(p for p in bundled_packs() if p.id == "brindle-na3")
    open_job(notebook, null)
    found = {a.key: a.many for a in ahead(notebook, null) if "quiet line" in a.needs}
    assert found["read noise:as-found:noise/1u/5e-08"] == 2
    assert sum(found.values()) < sum(a.many for a in ahead(notebook, null) if a.work == "step") / 4


def test_hands_are_by_how_many_there_are():
    assert hands_for(Ahead("parts", "part", 10), TIMES) == (30, TIMES["part"].spread)
    assert hands_for(Ahead("wait 1", "step", 0, runs=15), TIMES)[0] == 1


def test_nothing_lies_ahead_of_what_was_signed(demo):
    folded = fold("sb40188", demo.entries_of("sb40188"))
    pack = demo.pack(folded.pack_digest)
    assert deeds_of(folded, pack, list_parts(folded, pack), TIMES, standards(demo), NOW + dt.timedelta(days=1)) == ()
