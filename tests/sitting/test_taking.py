"""What the foot switch takes, decided without a window: written, asked for, captured, refused, or a point is planned."""

import math

import pytest

from candor.core.jot import JotContext, understand
from candor.core.reading.reading import INDICATED
from candor.core.reference.reference import Reference
from candor.notebook.entries.calibrate_entries import StandardChosen
from candor.notebook.entries.entry import drafts_of
from candor.notebook.entries.standards_entries import StandardRecorded
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.standards.standards import standards
from candor.notebook.standards.standards_text import read_functions
from candor.notebook.store import Notebook
from candor.notebook.work.assessment import assess_run
from candor.notebook.work.job import fold
from candor.packs.procedure import procedure
from candor.sitting.draft import Draft
from candor.sitting.taking import ReadingInHand
from everykind import PACK as EVERY_KIND


@pytest.fixture
def step(pack):
    return next(s for s in procedure(pack) if s.kind == "point" and s.point.needs_reference and s.point.nominal > 1)


def in_hand(step, pack, shows=None, reference_from="", served=None, **more):
    draft = Draft()
    draft.reference, draft.reference_from = step.point.nominal, reference_from
    if shows is not None:
        draft.figures = {INDICATED: shows}
    return ReadingInHand(step=step, draft=draft, pack=pack, served=served, read_unit="V", **more)


def test_what_was_not_read_is_asked_for_the_needle_first(step, pack):
    nominal = step.point.nominal
    assert "ref" not in in_hand(step, pack).taken().ask and in_hand(step, pack).taken().ask
    asked = in_hand(step, pack, nominal).taken()
    assert asked.command is None and "What does the reference show?" in asked.ask
    taken = in_hand(step, pack, nominal, "typed").taken()
    assert taken.command.bodies[0].reference == nominal and not taken.ask


def test_a_meter_on_a_link_is_read_and_a_source_is_never_applied_by_it(step, pack):
    nominal = step.point.nominal
    assert in_hand(step, pack, nominal, link="simulated").taken().capture
    assert not in_hand(step, pack, link="simulated").taken().capture  # the needle first
    source = {
        "served": Reference(name="S", unit="V", role="source"),
        "link": "simulated",
        "apply_first": "Apply 5 V first (V).",
    }
    taken = in_hand(step, pack, nominal, **source).taken()
    assert (taken.ask, taken.capture, taken.command) == ("Apply 5 V first (V).", False, None)
    live = in_hand(step, pack, nominal, "as set", source_live=True, **source).taken()
    assert (live.refused, live.command) == ("Apply 5 V first (V).", None)
    assert in_hand(step, pack, nominal, "as set", source_live=True, source_agrees=True, **source).taken().command


def test_what_a_simulated_meter_shows_is_marked_and_what_was_typed_beside_it_is_not(step, pack):
    nominal = step.point.nominal
    for came, marked in (("captured", True), ("confirmed", True), ("typed", False)):
        taken = in_hand(step, pack, nominal, came, link="simulated", simulated=True).taken()
        assert taken.command.bodies[0].simulated is marked


def test_a_reading_that_would_give_a_standard_more_than_it_bears_is_refused(step, pack):
    nominal = step.point.nominal
    weak = Reference(name="S", unit="V", most_volts=nominal / 2)
    taken = in_hand(step, pack, nominal, "typed", served=weak).taken()
    assert taken.command is None
    assert "S" in taken.refused
    strong = Reference(name="S", unit="V", most_volts=nominal * 2)
    assert in_hand(step, pack, nominal, "typed", served=strong).taken().command is not None


def test_infinity_against_a_box_whose_terminals_are_open_is_judged(tmp_path):
    notebook = Notebook(tmp_path / "n.candor", "tester")
    box = StandardRecorded(key="box", name="the box", role="box", functions=read_functions("ohm\nto 10 Mohm: 0.1 %"))
    recorded = notebook.write("", box)
    notebook.write("job", JobOpened(maker="m", type="t", serial="1", pack_digest=notebook.keep_pack(EVERY_KIND)))
    notebook.write("job", StandardChosen(standard=recorded.id))
    step = next(s for s in procedure(EVERY_KIND) if s.key and s.point and s.point.key == "ohms/1k/inf")
    served = standards(notebook)[recorded.id].serving(step.point)
    jot = understand("infinity ref open", JotContext(step.point, served=served))
    draft = Draft()
    draft.take_over(jot, "jot")
    draft.reference_from = "typed"
    hand = ReadingInHand(step=step, draft=draft, pack=EVERY_KIND, served=served, read_unit="ohm")
    notebook.append(drafts_of("job", hand.taken().command.bodies))
    notebook.close()
    again = Notebook(tmp_path / "n.candor", "tester")
    found = assess_run(fold("job", again.entries_of("job")), EVERY_KIND, standards(again), "as found")
    again.close()
    result = found.results["ohms/1k/inf"]
    assert (result.reference, result.verdict.error, result.remark) == (math.inf, 0.0, "")
    assert result.verdict.test_uncertainty_ratio > 0
