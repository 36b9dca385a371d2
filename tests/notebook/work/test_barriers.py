"""What bars power, what lifts it, and that an override counts for what stood when it was written."""

import pytest

from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.core.leaving.electrical import LocalRule
from candor.notebook.arrive.arrivals import bodies_of, drying_words, heavy_mass
from candor.notebook.entries.goods_entries import NeedLine
from candor.notebook.entries.parts_entries import BarOverridden, ReplacementChosen
from candor.notebook.entries.stay_entries import ChangeMade, JobOpened
from candor.notebook.entries.unit_entries import AccountedFor
from candor.notebook.release.leaving import leaving_list
from candor.notebook.work.barriers import barrier
from candor.notebook.work.job import fold
from candor.words.checks import say_found, say_lift

LINE = NeedLine(what="capacitor", value=47e-9, text="47 nF 630 V")


@pytest.fixture
def on_bench(notebook):
    notebook.write("j", JobOpened(maker="Corvane", type="AV-20", serial="3310"))

    class Hand:
        def job(self):
            return fold("j", notebook.entries_of("j"))

        def jot(self, text):
            for body in bodies_of(understand(text, JotContext()), self.job()):
                notebook.write("j", body)

        def write(self, body):
            return notebook.write("j", body)

        def bar(self, work="power"):
            found = barrier(self.job(), None, work)
            return found.kind if found else ""

    return Hand()


def test_a_screw_nobody_can_account_for_bars_until_it_is_found(on_bench):
    on_bench.jot("unaccounted 2 screws M3")
    assert (on_bench.bar(), on_bench.bar("tester"), on_bench.job().unit.missing) == ("fasteners", "", 2)
    found = barrier(on_bench.job(), None)
    assert found.can_be_cleared
    assert "2 missing (screws M3)" in found.sentence
    on_bench.write(AccountedFor(of=found.missed.id, where="under the fan"))
    assert (on_bench.bar(), on_bench.job().unit.missing) == ("", 0)


def test_an_override_counts_for_what_stood_then_and_not_for_the_next(on_bench):
    on_bench.jot("unaccounted 1 washer")
    on_bench.write(BarOverridden(bar="fasteners", reason="shaken out, the deck was looked through"))
    assert on_bench.bar() == ""
    on_bench.jot("unaccounted 1 nut")
    assert on_bench.bar() == "fasteners"


def test_what_was_washed_waits_for_its_insulation(on_bench):
    on_bench.jot("washed the chassis, 2 days")
    job = on_bench.job()
    assert (on_bench.bar(), job.calibrate.timer_of("drying").entry.body.seconds) == ("insulation", 2 * 86400)
    assert "10 MΩ or more" in drying_words(job)
    on_bench.jot("insulation 2 Mohm @500V")
    assert on_bench.bar() == "insulation"
    assert "It read 2 MΩ: too little." in drying_words(on_bench.job())
    on_bench.jot("insulation 10 Mohm @500V")
    assert (on_bench.bar(), drying_words(on_bench.job())) == ("", "")
    on_bench.jot("washed the case")
    assert on_bench.bar() == "insulation"
    on_bench.write(BarOverridden(bar="insulation", reason="a plastic lid, wiped"))
    assert on_bench.bar() == ""


def test_cleaning_without_water_bars_nothing(on_bench):
    for line in (
        "cleaned range switch contacts",
        "lubricated range switch contacts",
        "cleaned the case with a brush",
    ):
        on_bench.jot(line)
    assert on_bench.bar() == ""
    assert [e.body.how for e in on_bench.job().cleaning.cleaned] == ["cleaner", "lubricated", "dry"]


def test_planned_minus_fitted_must_be_nothing(on_bench):
    on_bench.write(ReplacementChosen(ref="C8", arrangement="47 nF", lines=(LINE,)))
    on_bench.write(ReplacementChosen(ref="C41 a", arrangement="22 µF", lines=(LINE,)))
    assert on_bench.bar() == "parts"
    assert "2 planned and not fitted (C8, C41 a)" in barrier(on_bench.job(), None).sentence
    on_bench.write(ChangeMade(text="replaced C8", part="C8"))
    on_bench.write(ChangeMade(text="replaced C41", part="C41"))
    assert on_bench.bar() == ""
    on_bench.write(ReplacementChosen(ref="C8", arrangement="another", lines=(LINE,)))
    assert on_bench.bar() == "parts"
    on_bench.write(ReplacementChosen(ref="C8"))  # taken back
    assert on_bench.bar() == ""


@pytest.mark.parametrize(
    ("said", "heavy"), [("mass 19 kg", False), ("mass 32 kg", True), ("weighs 70 lb", True), ("weighs 40 lb", False)]
)
def test_weight_is_no_hazard_and_is_said_where_it_is_lifted(on_bench, said, heavy):
    on_bench.jot(said)
    assert on_bench.bar() == ""
    assert ("two people lift it" in say_lift(heavy_mass(on_bench.job()))) == heavy
    shake = next(i for i in leaving_list(on_bench.job(), None, LocalRule()) if i.key == "shake")
    assert ("two people lift it" in say_found(shake.found)) == heavy


def test_poor_joints_are_resoldered_as_one_change(on_bench):
    with pytest.raises(CandorError, match="No poor joint is noted"):
        on_bench.jot("resoldered")
    on_bench.jot("joint V1 pin 4")
    on_bench.jot("joint the deck")
    on_bench.jot("resoldered")
    job = on_bench.job()
    assert (job.unit.joints, [c.body.text for c in job.stay.changes]) == ((), ["re-soldered 2: V1 pin 4, the deck"])
    assert len(job.stay.unproven) == 1
    on_bench.jot("joint V2 pin 1")
    assert [e.body.where for e in on_bench.job().unit.joints] == ["V2 pin 1"]
