"""What was measured on a part, folded: the newest of each figure counts, with how sure it is and where it comes from."""

import math

import pytest

from candor.core.parts.part import Measured, Part
from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.kinds_entries import BODIES, in_words, read_body
from candor.notebook.entries.parts_entries import PartListed, PartMeasured, measured_of, to_part
from candor.notebook.entries.runs_entries import RunEnded
from candor.notebook.entries.shop_entries import StockCounted
from candor.notebook.entries.stay_entries import ChangeMade, NoteWritten
from candor.words.parts_words import say_how_sure
from workbench import NOW

FILTER = Part(ref="C17", kind="capacitor", nominal=40e-6, make="electrolytic", role="filter", volts=350)
LOAD = Part("R10", "resistor", 100e3)


def entries(*bodies):
    from candor.notebook.entries.entry import Entry

    return tuple(Entry(number=i, id=str(i), job="j", at=NOW, who="w", body=body) for i, body in enumerate(bodies, 10))


def folded(part, *bodies):
    return measured_of(part, entries(*bodies))


def test_nothing_measured_is_nothing():
    assert folded(FILTER) == Measured()
    assert folded(FILTER).nothing


def test_the_newest_of_each_figure_counts_and_all_entries_are_named():
    found = folded(
        FILTER,
        PartMeasured(ref="C17", value=39e-6),
        PartMeasured(ref="C17", leakage=1e-3, leakage_volts=200, dwell_s=60),
        PartMeasured(ref="C17", value=41e-6, percent=0.5),
    )
    assert (found.value, found.value_share, found.leakage, found.leakage_volts) == (41e-6, 0.005, 1e-3, 200)
    assert found.entries == (10, 11, 12)
    assert found.assumed == {"leakage"}
    sure = say_how_sure(found)
    assert sure == (
        "Value to ±0.5 % and leakage to ±5 % (k\u00a0=\u00a02); "
        "you gave no uncertainty for the leakage, so it is taken as usual for a bench meter."
    )


@pytest.mark.parametrize(
    ("value", "esr", "hertz", "at"),
    [(None, 5.0, 0.0, 120.0), (43e-6, 5.0, 0.0, 120.0), (43e-6, 5.0, 50.0, 50.0), (43e-6, 5.0, 1e5, 1e5)],
)
def test_esr_is_kept_with_the_frequency_it_was_read_at(value, esr, hertz, at):
    """What it says at the frequency of the limit is the judge's business; unsaid stays unsaid."""
    found = folded(FILTER, PartMeasured(ref="C17", esr=esr, hertz=hertz, value=value))
    assert (found.esr, found.hertz) == (esr, hertz)
    assert found.dissipation == pytest.approx(2 * math.pi * at * (value or 40e-6) * esr)
    later = folded(
        FILTER, PartMeasured(ref="C17", esr=esr, hertz=hertz), PartMeasured(ref="C17", dissipation=0.2, hertz=120)
    )
    assert (later.esr, later.dissipation, later.hertz) == (None, 0.2, 120)


def test_a_cold_reading_ends_the_warm_one_and_a_new_value_ends_a_state():
    warm = folded(LOAD, PartMeasured(ref="R10", value=1e5, warm=1.02e5))
    assert warm.warm_value == 1.02e5
    assert (
        folded(LOAD, PartMeasured(ref="R10", value=1e5, warm=1.02e5), PartMeasured(ref="R10", value=1e5)).warm_value
        is None
    )
    mended = folded(LOAD, PartMeasured(ref="R10", state="open"), PartMeasured(ref="R10", value=1e5))
    assert (mended.state, mended.value) == ("", 1e5)


def run(**changes):
    body = {
        "run": "x",
        "ref": "C17",
        "leakage": 3e-4,
        "expanded": 3e-6,
        "volts": 278,
        "dwell_s": 300,
        "readings": 900,
    }
    return RunEnded.model_validate({**body, **changes})


def test_a_run_is_a_measurement_unless_it_read_nothing():
    found = folded(FILTER, run())
    assert (found.leakage, found.leakage_volts, found.dwell_s) == (3e-4, 278, 300)
    assert found.leakage_share == 0.02  # no better than the tester
    assert not found.assumed
    assert folded(FILTER, run(expanded=3e-5)).leakage_share == pytest.approx(0.1)
    assert folded(FILTER, run(readings=0, leakage=0)).nothing
    assert folded(FILTER, run(outcome="no progress")).reformed == "no progress"
    assert folded(FILTER, run(outcome="stopped")).reformed == ""


def test_a_simulated_reading_is_marked_until_a_real_one_comes():
    assert folded(FILTER, run(simulated=True)).simulated
    real = PartMeasured(ref="C17", leakage=2e-4, leakage_volts=280)
    assert not folded(FILTER, run(simulated=True), real).simulated


def test_every_kind_of_entry_reads_back_what_it_wrote():
    """Each kind is read by its own name, so a start builds only what it needs."""
    for body in (
        PartListed(ref="C1", what="capacitor", nominal=1e-6, below=0.1, above=0.5),
        PartMeasured(ref="C1", state="short"),
        StockCounted(key="a", what="resistor", value=47e3, count=3),
        ChangeMade(text='a "kind":"note" in words', part="C1"),
        NoteWritten(text="x"),
        run(),
    ):
        assert read_body(body.model_dump_json()) == body
        assert BODIES[body.kind] is type(body)


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ('{"version":1,"kind":"levitation"}', "the kind “levitation” is not known"),
        ("{}", "it does not say its kind"),
        ('{"version":1,"kind":"note"}', "Field required"),
        ('{"version":2,"kind":"note","text":"x"}', "Input should be 1"),
    ],
)
def test_an_entry_that_cannot_be_read_is_left_as_it_is(text, why):
    body = read_body(text)
    assert isinstance(body, Unreadable)
    assert why in body.why
    assert body.text == text


def test_older_bodies_are_brought_up_step_by_step():
    upgrades = {
        ("note", 0): lambda raw: {**raw, "version": 1, "text": raw["words"]} | {"words": None},
    }
    assert read_body('{"version":0,"kind":"note","words":"x"}', upgrades).text == "x"
    upgrades["note", -1] = lambda raw: {"version": 0, "kind": "note", "words": raw["said"]}
    upgrades["note", 0] = lambda raw: {"version": 1, "kind": "note", "text": raw["words"]}
    assert read_body('{"version":-1,"kind":"note","said":"x"}', upgrades) == NoteWritten(text="x")


@pytest.mark.parametrize(
    ("body", "words"),
    [
        (
            PartMeasured(ref="R1", unit="ohm", value=366e3, warm=374e3, in_circuit=True),
            "R1 measured: 366 kΩ in circuit, 374 kΩ warm",
        ),
        (PartMeasured(ref="C1", leakage=1e-6, leakage_volts=300, dwell_s=60), "leaks 1 µA at 300 V after 60 s"),
        (PartMeasured(ref="C1", esr=3, dissipation=0.05), "C1 measured: ESR 3 Ω, D 0.05"),
        (PartListed(ref="C1", what="capacitor", nominal=1e-6, fitted=False), "not in this unit: C1"),
        (StockCounted(key="a", what="resistor", value=47e3, count=3, watts=0.5), "stock: 3 x 47 kΩ 0.5 W"),
    ],
)
def test_entries_about_parts_in_words(body, words):
    said = in_words(entries(body)[0], {})
    assert said.endswith(words)


def test_a_listed_part_is_the_part_of_the_core():
    part = to_part(
        PartListed(ref="C9", what="capacitor", nominal=25e-6, make="electrolytic", role="bypass", volts=25)
    )
    assert (part.unit, part.words, part.group) == ("F", "25 µF 25 V", "the rest")
    assert part.limits == (pytest.approx(22.5e-6), pytest.approx(37.5e-6))
    assert part.needed_volts == 25
