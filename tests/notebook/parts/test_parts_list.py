"""Parts in the notebook: the list, the fold, import, stock, orders, money, runs on the shelf."""

import pytest
from pydantic import ValidationError

from candor.core.leakage.capacitor import LeakageRule
from candor.core.parts.policy import Policy
from candor.core.parts.reasons import Action
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.goods_entries import NeedLine
from candor.notebook.entries.parts_entries import (
    PartDecided,
    PartListed,
    PartMeasured,
    PolicyChosen,
    ReplacementChosen,
)
from candor.notebook.entries.runs_entries import RunEnded, RunStarted
from candor.notebook.entries.stay_entries import ChangeMade, DetailWritten, JobOpened, StatusSet
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.parts.parts_import import preview_parts
from candor.notebook.parts.parts_list import list_parts, say_counts
from candor.notebook.shelf import shelf
from candor.notebook.work.description import base_of
from candor.notebook.work.job import fold
from candor.notebook.work.settings import Settings, settings_of
from candor.packs.bundled import bundled_packs
from candor.words.parts_words import say_measured, say_reason, say_rule, say_verdict
from stockroom import need, supplied
from workbench import NOW, open_job

SCOPE = next(p for p in bundled_packs() if p.id == "marrowby-os40")


@pytest.fixture
def scope(notebook):
    """Write entries of a job on the oscilloscope; returns a function that lists its parts."""
    notebook.write("s", JobOpened(maker="M", type="OS-40", serial="1", pack_digest=notebook.keep_pack(SCOPE)))

    def write(*bodies, esr_hertz=0.0, policy=None):
        if bodies:
            notebook.append(drafts_of("s", bodies))
        job = fold("s", notebook.entries_of("s"))
        return list_parts(job, SCOPE, policy, esr_hertz=esr_hertz)

    return write


def sections(**second):
    return (
        PartMeasured(ref="C41 c", value=19e-6, esr=4, hertz=120),
        PartMeasured(ref="C17", **{"value": 43e-6, "esr": 3.4, "hertz": 120, **second}),
    )


def test_the_list_comes_from_the_pack_riskiest_first(scope):
    parts = scope()
    assert [x.part.ref for x in parts.lines[:4]] == ["C1", "C2", "C30", "C17"]
    assert len(parts.lines) == len(SCOPE.parts)
    assert parts.line("C8").part.grid_ohms == pytest.approx(560e3)
    assert say_verdict(parts.line("R25").verdict).startswith("measure it: 283.9 kΩ to 316.7")
    assert say_counts(parts) == "2 replace · 35 cannot tell yet"


def test_own_parts_measurements_decisions_and_strikes(scope, notebook):
    parts = scope(
        PartListed(ref="R99", what="resistor", nominal=47e3, note="on no drawing"),
        PartListed(ref="C3", what="capacitor", nominal=0.1e-6, fitted=False),
        PartMeasured(ref="C8", leakage=14e-6, leakage_volts=300, dwell_s=300),
        PartMeasured(ref="R24", value=366e3, warm=374e3, percent=0.5),
        PartDecided(ref="R24", action="keep", reason="it is the trimmed one"),
    )
    assert parts.line("R99").part.note == "on no drawing"
    assert parts.line("C3").fate == "not fitted"
    assert parts.line("C8").action is Action.REPLACE
    kept = parts.line("R24")
    assert (kept.action, kept.verdict.action) == (Action.KEEP, Action.REPLACE)
    assert kept.measured.value_share == 0.005
    assert not kept.measured.assumed
    newest = notebook.entries_of("s")[-1]
    assert scope(Struck(target=newest.id)).line("R24").action is Action.REPLACE
    assert scope(PartMeasured(ref="R24", value=330e3)).line("R24").measured.warm_value is None


def test_replaced_parts_leave_the_judging(scope):
    parts = scope(ChangeMade(text="replaced C8", part="C8"), PolicyChosen(sight="replace on sight"))
    assert (parts.line("C8").fate, parts.line("C8").verdict) == ("replaced", None)
    assert parts.line("C11").action is Action.REPLACE


def test_a_can_is_replaced_as_a_can(scope, ordered):
    parts = scope(ChangeMade(text="replaced C41", part="C41"))
    assert {parts.line(f"C41 {x}").fate for x in "abc"} == {"replaced"}
    ordered.write("b", ReplacementChosen(ref="C41 b", arrangement="x", lines=(need("22 µF"),)))
    ordered.write("b", ChangeMade(text="replaced C41", part="C41"))
    assert "C41 b" not in [n.ref for n in supplied(ordered).needs]


@pytest.mark.parametrize(
    ("bodies", "state", "words"),
    [
        ((), "to measure", "Before any mains: measure value and ESR of C17 and C41 c"),
        (sections(), "good", "may be powered"),
        (sections(value=90e-6), "bad", "No power: the sample is bad (C17)"),
        (sections(esr=0.3, hertz=1e5), "to measure", "ESR or D of C17 near 120 Hz"),
        (sections(esr=0.3, hertz=0), "to measure", "or leakage at working volts"),
        (
            sections(esr=60, hertz=20),
            "to measure",
            "ESR or D of C17 near 120 Hz",
        ),  # at most: may acquit, never condemn
        (sections(esr=6, hertz=20), "good", "may be powered"),
        (sections(esr=900, hertz=1e5), "bad", "No power: the sample is bad (C17)"),
        (sections(esr=900), "bad", "Measure every electrolytic first: C41 a"),
        ((*sections(value=90e-6), PartDecided(ref="C17", action="keep", reason="a doubler")), "good", ""),
        ((*sections(value=90e-6), DetailWritten(field="sample", text="on a lamp")), "good", "overridden: on a lamp"),
    ],
)
def test_the_sample_decides_whether_it_sees_power(scope, bodies, state, words):
    """The electrolytics farthest from the supply, on the rails; open, twice the value or no usable ESR: all are done first."""
    parts = scope(*bodies)
    assert parts.sample == state
    assert words in parts.sample_words
    assert [x.part.ref for x in parts.lines if x.sample] == ["C17", "C41 c"]


def test_without_a_circuit_the_sample_is_whichever_was_measured(notebook):
    """Nothing says which electrolytics are farthest from the supply; whoever stands at the bench sees it."""
    notebook.write("x", JobOpened(maker="M", type="X", serial="1"))
    listed = [
        PartListed(ref=ref, what="capacitor", nominal=20e-6, make="electrolytic", volts=450)
        for ref in ("C1", "C2", "C3")
    ]
    notebook.append(drafts_of("x", listed))

    def parts():
        return list_parts(job := fold("x", notebook.entries_of("x")), base_of(notebook, job))

    assert "two electrolytics, such as C1 and C2. No circuit is described" in parts().sample_words
    notebook.append(drafts_of("x", [PartMeasured(ref="C3", value=21e-6, esr=1.0, hertz=120)]))
    assert [x.part.ref for x in parts().lines if x.sample] == ["C1", "C3"]


def test_a_bad_sample_is_lifted_once_all_are_measured(scope):
    rest = [PartMeasured(ref=r, value=20e-6) for r in ("C41 a", "C41 b", "C9", "C10")]
    assert scope(*sections(value=90e-6), *rest).sample == "good"


def test_a_run_is_a_measurement_and_cooks_on_the_shelf(scope, notebook):
    scope(*sections())
    run = notebook.write(
        "s", RunStarted(ref="C17", mode="reform", target_volts=280, dwell_s=300, limit=5e-4, most_s=7200)
    )
    line = shelf(notebook, NOW)[0]
    assert (line.group, line.timers[0].label) == ("cooking", "run on C17")
    notebook.write("s", StatusSet(status="waiting", text="for parts"))
    assert shelf(notebook, NOW)[0].group == "cooking"  # under voltage, whatever it waits for
    notebook.write("s", StatusSet(status="wants hands"))
    assert fold("s", notebook.entries_of("s")).runs.cut_off()[0].started == run
    ended = RunEnded(run=run.id, ref="C17", why="over", outcome="came back", leakage=3e-4, expanded=1e-6, volts=278,
                     dwell_s=300, measured_volts=3, safe=True, readings=900)  # fmt: skip
    parts = scope(ended)
    assert shelf(notebook, NOW)[0].group == "wants hands"
    assert parts.line("C17").action is Action.KEEP
    assert "reformed" in say_measured(parts.line("C17").part, parts.line("C17").measured)


@pytest.mark.parametrize("bad", [{}, {"value": 0}, {"value": -1}, {"leakage": float("nan")}])
def test_a_measurement_says_something_above_zero(bad):
    with pytest.raises(ValidationError):
        PartMeasured(ref="C1", **bad)


def test_sections_written_together_are_two_and_a_sheet_has_its_own_limit():
    found = preview_parts(
        b"part,value,make,volts,leak limit\nC41,40/20 uF,electrolytic,450,500u\nC5,1/4 uF,paper,400,\n"
    )
    assert found.faults == ()
    assert [(b.ref, b.can, b.nominal, b.leakage_limit) for b in found.bodies] == [
        ("C41 a", "C41", pytest.approx(40e-6), pytest.approx(500e-6)),
        ("C41 b", "C41", pytest.approx(20e-6), pytest.approx(500e-6)),
        ("C5", "", pytest.approx(0.25e-6), 0.0),
    ]


def test_the_mains_of_the_shop_decide_about_a_safety_part(scope, notebook):
    parts = scope()
    line = parts.line("C1")
    assert "230 V 50 Hz, the worse of the usual ones until you enter yours" in say_rule(line.verdict.reasons[0])
    job = fold("s", notebook.entries_of("s"))
    known = settings_of({"mains": "120 V 60 Hz", "esr_meter": "90 kHz"})
    assert "at 120 V 60 Hz, and 10 % more" in say_rule(
        list_parts(job, SCOPE, mains=known.mains).line("C1").verdict.reasons[0]
    )
    assert (known.hertz_of("esr"), known.hertz_of("pf"), known.hertz_of("d")) == (90e3, 60, 0)
    assert settings_of({"mains": "nonsense", "esr_meter": "x"}) == Settings()


def test_what_was_measured_or_fitted_replaces_what_is_drawn_in_every_calculation(notebook, pack):
    """A neighbour measured out of the circuit, or replaced by another value, moves what is expected of the rest."""
    open_job(notebook, pack)

    def expected():
        job = fold("job1", notebook.entries_of("job1"))
        parts = list_parts(job, pack)
        return parts, parts.circuit.netlist.element("R4").value

    _, drawn = expected()
    notebook.write("job1", PartMeasured(ref="R4", unit="ohm", value=2 * drawn, in_circuit=True))
    assert expected()[1] == drawn  # in circuit it says nothing of the part alone
    notebook.write("job1", PartMeasured(ref="R4", unit="ohm", value=1.1 * drawn))
    assert expected()[1] == pytest.approx(1.1 * drawn)
    line = NeedLine(what="resistor", value=0.9 * drawn, tolerance=0.01, watts=2.0, volts=750.0, text="new")
    notebook.write("job1", ReplacementChosen(ref="R4", arrangement="new", lines=(line,)))
    notebook.write("job1", ChangeMade(text="replaced R4", part="R4"))
    parts, now = expected()
    assert now == pytest.approx(0.9 * drawn)
    fitted = parts.line("R4").part
    assert (fitted.nominal, fitted.watts, fitted.volts, fitted.tolerance) == (
        pytest.approx(0.9 * drawn),
        2.0,
        750.0,
        (0.01, 0.01),
    )


def test_at_what_the_esr_meter_tests_counts_at_once_for_what_was_read_before(scope):
    """Read without a frequency it clears nothing; once the shop's meter is known it does, or leakage at working volts does."""
    assert scope(*sections(hertz=0)).sample == "to measure"
    assert scope(esr_hertz=120.0).sample == "good"
    assert scope(esr_hertz=90e3).sample == "to measure"
    volts = scope().line("C17").part.working_volts
    tight = scope(PartMeasured(ref="C17", leakage=20e-6, leakage_volts=volts, dwell_s=300), esr_hertz=90e3)
    assert tight.sample == "good"
    assert any("sound as a filter" in say_reason(r) for r in tight.line("C17").verdict.reasons)
    # By the rule of the job: 300 uA is under the usual limit, and over the strictest.
    scope(PartMeasured(ref="C17", leakage=300e-6, leakage_volts=volts, dwell_s=300))
    samples = [
        scope(esr_hertz=90e3, policy=Policy(rule=rule)).sample for rule in (LeakageRule.TENTH, LeakageRule.HUNDREDTH)
    ]
    assert samples == ["good", "to measure"]
