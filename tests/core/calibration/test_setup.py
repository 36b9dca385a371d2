"""What the set-up brings between a reference and an instrument: corrected where a figure with U is said, in the budget always."""

import datetime as dt
import math
from dataclasses import replace

import pytest

from candor.core.calibration.point import Stimulus, TestPoint
from candor.core.calibration.result import assess_point
from candor.core.calibration.setup import KINDS, SetUpTerm
from candor.core.errors import ValueTextError
from candor.core.jot import JotContext, understand
from candor.core.reading.dial import DialRange
from candor.core.reading.reading import Reading
from candor.core.reading.scale import linear_scale
from candor.core.reference.reference import Reference, SpecificationRange
from candor.core.verdict.rules import Limit
from candor.notebook.work.readings_alone import read_set_up

DAY = dt.date(2026, 4, 18)


def point(unit, current="", nominal=40.0):
    scale = DialRange(linear_scale("0 to 60", 0.0, 60.0, 30, 5), 1.0, unit, True)
    return TestPoint(
        key="f/60/40", function="f", range_name="60", full_scale=60.0, nominal=nominal, polarity=1, indicator=scale,
        limit=Limit(3.0), stimulus=Stimulus(60.0 if current == "a.c." else 0.0, "sine" if current == "a.c." else current),
    )  # fmt: skip


def result(at, *terms, indicated=40.3, reference=40.0):
    good_for, day = (SpecificationRange(100.0, 0.05),), dt.date(2025, 11, 3)
    standard = Reference("box", at.asked_unit, good_for, current=at.current, calibrated_on=day, valid_days=365)
    return assess_point(at, "as found", (Reading(indicated, reference),), standard, DAY, setup=terms)


def test_a_figure_with_u_is_taken_into_the_reference_and_its_u_into_the_budget():
    """JCGM 100:2008, 3.2.3 and 4.3.3: 0.2 ohm of leads is in what the instrument is shown; U/2 stands beside the rest."""
    bare, led = result(point("ohm")), result(point("ohm"), SetUpTerm("leads", 0.2, 0.06))
    assert bare.error == pytest.approx(0.3)
    assert led.error == pytest.approx(0.1)
    assert led.budget.combined == pytest.approx(math.hypot(bare.budget.combined, 0.03), rel=1e-3)
    assert any(c.name == "leads and contacts" for c in led.budget.contributions)


def test_where_the_standard_measures_what_the_instrument_gives_leads_come_off():
    """A box of 40 ohm read as 40.2 through 0.2 ohm of leads gives 40 (Kirchhoff's laws): the mirror of the sign."""
    given = replace(point("ohm"), kind="source")
    bare, led = (result(given, *t, indicated=40.0, reference=40.2) for t in ((), (SetUpTerm("leads", 0.2, 0.06),)))
    assert (bare.error, led.error) == (pytest.approx(-0.2), pytest.approx(0.0, abs=1e-9))


@pytest.mark.parametrize(
    ("term", "unit", "current", "half"),
    [
        (SetUpTerm("thermal", 5e-3), "V", "d.c.", 5e-3),
        (SetUpTerm("hum", 20e-3), "V", "a.c.", 20e-3),
        (SetUpTerm("regulation", 0.001), "V", "d.c.", 0.04),
        (SetUpTerm("leads", 0.2), "ohm", "", 0.2),
    ],
)
def test_one_without_u_is_a_rectangle_and_corrects_nothing(term, unit, current, half):
    """JCGM 100:2008, 4.3.7: the half-width over the square root of three."""
    bare, with_ = result(point(unit, current)), result(point(unit, current), term)
    assert with_.error == bare.error
    found = next(c for c in with_.budget.contributions if c.name == KINDS[term.which].name)
    assert found.size == pytest.approx(half / math.sqrt(3))


def test_a_term_counts_only_where_it_stands_between():
    for term, unit, current in (
        (SetUpTerm("thermal", 1.0), "V", "a.c."),
        (SetUpTerm("hum", 1.0), "V", "d.c."),
        (SetUpTerm("leads", 1.0, 0.5), "V", "d.c."),
        (SetUpTerm("stray", 1.0, 0.5), "ohm", ""),
        (SetUpTerm("regulation", 1.0), "ohm", ""),
    ):
        bare, with_ = result(point(unit, current)), result(point(unit, current), term)
        assert (with_.error, with_.budget) == (bare.error, bare.budget)


def test_the_command_line_has_it_too():
    """Leads that are said move every reading of ohms, and are asked for where a line says none."""
    with pytest.raises(ValueTextError, match="not a term of a set-up"):
        read_set_up(["leads long"])
    assert read_set_up(["leads 0.2 ohm U 0.05 ohm", "hum 2 mV"]) == (
        SetUpTerm("leads", 0.2, 0.05),
        SetUpTerm("hum", 2e-3),
    )


def test_every_usual_figure_is_a_line_that_is_understood():
    for which, kind in KINDS.items():
        assert understand(kind.usual, JotContext()).term.which == which
    assert understand("contacts ± 50 mohm", JotContext()).term == SetUpTerm("leads", 0.05)
    assert understand("stray none", JotContext()).term == SetUpTerm("stray", 0.0)
