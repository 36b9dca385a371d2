"""Every pack, gone through as at a live bench: what is live has its caution, what is cold comes first, nothing is changed hot."""

import re

import pytest

from candor.core.power.live_limits import is_live
from candor.packs.bundled import bundled_packs
from candor.packs.kinds_of_instrument import pack_of_kind, shipped_kinds
from candor.packs.procedure import procedure

PACKS = {p.id: p for p in bundled_packs()}
KINDS = {k: pack_of_kind(kind, "Maker", "T-1") for k, kind in shipped_kinds().items()}
ROD_OUT = re.compile(r"^cord out", re.I)


@pytest.fixture(params=sorted(PACKS))
def steps(request):
    return procedure(PACKS[request.param])


def _alternating(point):
    return point.current == "V~" or point.stimulus.hertz > 0


def test_what_is_live_to_touch_has_a_caution_of_live_work_in_its_short_form_too(steps):
    """Limits of IEC 61010-1, 6.3.1, from memory: 30 V r.m.s., 42.4 V peak, 60 V d.c."""
    for step in steps:
        point = step.point
        if point is None or point.unit != "V" or not is_live(point.nominal, _alternating(point)):
            continue
        dangers = [c for c in step.cautions if c.level == "danger" and not ROD_OUT.search(c.short)]
        assert dangers, step.key
        assert all(0 < len(c.short) <= 60 for c in dangers)


def test_a_trim_reached_inside_says_so_before_it(steps):
    for step in steps:
        if step.kind == "adjust" and any(ROD_OUT.search(c.short) for c in step.cautions):
            live = [c for c in step.cautions if not ROD_OUT.search(c.short)]
            assert live or re.search(r"cord out", step.do, re.I), step.key


def test_what_is_measured_cold_stands_before_the_first_warm_up(steps):
    warm = next((i for i, s in enumerate(steps) if s.kind == "wait" and "off" not in s.title.lower()), len(steps))
    late = [
        s.title
        for s in steps[warm:]
        if s.phase == "as found" and re.search(r"\bcold\b(?! cathode)|meter alone", s.title, re.I)
    ]
    assert late == []


def test_a_box_or_a_known_part_is_changed_dead_wherever_hundreds_of_volts_stand_on_it(steps):
    for step in steps:
        words = step.do.lower()
        volts = any(re.search(r"\b(1[0-9]{2}|[2-9][0-9]{2}) V\b", c.short + c.text) for c in step.cautions)
        if volts and re.search(r"decade box|\bset the box", words):
            assert re.search(
                r"hands off|let go|at zero|discharge|cord out|released|to line|at line|at off|switched off", words
            ), step.key


def test_a_cell_that_leaked_is_not_met_with_the_wrong_thing():
    """Zinc-carbon leaks acid, alkaline cells lye (common practice, no source): each is named with what stops it."""
    for pack in (*PACKS.values(), *KINDS.values()):
        said = pack.model_dump_json().lower()
        if "vinegar" in said:
            assert "bicarbonate" in said
            assert "zinc" in said
            assert "alkaline" in said


def test_no_polystyrene_is_told_to_be_heated():
    told = [p.model_dump_json().lower() for p in (*PACKS.values(), *KINDS.values())]
    told = [words for words in told if "polystyrene" in words]
    assert told
    assert all(re.search(r"polystyrene[^\"]*no (more )?heat", words) for words in told)


def test_the_cut_out_of_a_multimeter_names_its_range_its_source_and_its_time():
    step = next(s for s in procedure(PACKS["corvane-mm11"]) if "cut-out" in s.title.lower() or "trips" in s.do)
    said = step.do + step.aim + step.mistake + " ".join(c.text for c in step.cautions)
    for what in (r"10 mA range", r"150 mA", r"a second", r"jammed"):
        assert re.search(what, said), what
    assert dict(step.controls).get("RANGE") == "10 mA"


def test_a_charged_part_is_never_trusted_to_one_discharge():
    steps = procedure(PACKS["corvane-lm2"])
    charging = next(i for i, s in enumerate(steps) if "100 µF" in s.do)
    volts = next(i for i, s in enumerate(steps) if s.point and s.point.unit == "V" and s.point.nominal >= 450)
    assert volts < charging  # its own volts first
    assert "measured again" in steps[charging].do


def test_the_rectifier_step_of_a_tube_tester_reads_the_tube():
    steps = [s for s in procedure(PACKS["tarnholm-tt7"]) if s.title.startswith("Rectifier, plate")]
    assert steps
    assert all("leaves the pin of the other plate open" in s.do for s in steps)
