"""How far each stop is, and the one caution in force."""

import pytest

from candor.notebook.entries.arrive_entries import FindingNoted, FindingSettled
from candor.notebook.entries.parts_entries import PartMeasured
from candor.notebook.entries.release_entries import CertificateIssued, LeavingChecked, SecondSignature
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.release.certificates import keep_certificate
from candor.notebook.standards.standards import standards
from candor.notebook.work.assessment import assess_run
from candor.notebook.work.job import fold
from candor.notebook.work.progress import caution_in_force, progress
from candor.packs.procedure import procedure
from workbench import NOW, open_job, point_steps, reading


@pytest.fixture
def bench(notebook, pack):
    standard = open_job(notebook, pack)

    class Bench:
        def write(self, body, told=False):
            return notebook.write("job1", body, notebook.clock() if told else None)

        def job(self):
            return fold("job1", notebook.entries_of("job1"))

        def progress(self):
            job = self.job()
            found = assess_run(job, pack, standards(notebook), "as found")
            return progress(job, pack, list_parts(job, pack), found, NOW)

        def read(self, count):
            for step in point_steps(pack)[:count]:
                self.write(reading(step, standard))

    return Bench()


def test_untouched_begun_and_done(bench, notebook):
    assert {stop: (p.standing, p.count) for stop, p in bench.progress().items()} == {
        "arrive": ("untouched", ""), "parts": ("untouched", ""), "power": ("untouched", ""), "trace": ("untouched", ""),
        "calibrate": ("untouched", ""), "soak": ("untouched", ""), "release": ("untouched", ""),
    }  # fmt: skip
    foot = bench.write(FindingNoted(zone="case", mark="fix", text="one foot missing"))
    assert (bench.progress()["arrive"].standing, bench.progress()["arrive"].why) == ("begun", "one foot missing")
    bench.write(FindingSettled(finding=foot.id, how="cleared", reason="a new one"))
    assert bench.progress()["arrive"].standing == "done"
    bench.read(2)
    calibrate = bench.progress()["calibrate"]
    assert (calibrate.standing, calibrate.count) == ("begun", "2 of 42")
    bench.write(LeavingChecked(item="shake", outcome="good"))
    assert bench.progress()["release"].standing == "begun"
    digest = keep_certificate(notebook.certificate_folder, b"{}")
    bench.write(CertificateIssued(number="1", digest=digest, sentence="y"), told=True)
    assert bench.progress()["release"].standing == "done"
    bench.write(SecondSignature(digest=digest, name="A. Ferry"))
    assert bench.progress()["release"].standing == "done"  # it still stands
    bench.write(FindingNoted(zone="case", mark="note", text="a scratch"))
    assert (bench.progress()["release"].standing, bench.progress()["release"].count) == ("begun", "signed before")


def test_a_hazard_or_a_bad_sample_bars(bench):
    bench.write(PartMeasured(ref="C2 a", state="open"))
    assert bench.progress()["calibrate"].standing == "barred"
    assert "sample" in bench.progress()["calibrate"].why
    bench.write(FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    assert "bare copper" in bench.progress()["calibrate"].why


def test_the_gravest_caution_stands_first(bench, pack):
    step = next(s for s in procedure(pack) if s.cautions)

    def caution(stop, clips=""):
        job = bench.job()
        return caution_in_force(
            job, pack, stop=stop, step=step, parts=list_parts(job, pack), on_the_clips=clips
        )  # fmt: skip

    danger = next(c.short for c in pack.cautions if c.level == "danger")
    assert (caution("arrive"), caution("parts"), caution("calibrate")) == ("", danger, step.cautions[0].short)
    bench.write(PartMeasured(ref="C2 a", state="open"))
    assert caution("parts") == "no power: the sample is bad"
    assert caution("arrive", "280 V on the tester clips") == "280 V on the tester clips"
    bench.write(FindingNoted(zone="cord", mark="hazard", text="bare copper"))
    assert caution("parts", "280 V on the tester clips") == "hazard: bare copper"
