"""A name in a line that is nearly one that is known is a question; the same line once more takes it as it is."""

from __future__ import annotations

import datetime as dt
import re
from dataclasses import replace

import pytest

from candor.core.errors import CandorError
from candor.core.jot import JotContext, understand
from candor.core.jot.line import understand_at
from candor.core.jot.rows import VERBS
from candor.core.parts.part import Part
from candor.notebook.entries.parts_entries import CircuitTaken, PartListed
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.sitting.jots import At, command_of
from workbench import goes_on, open_job


@pytest.fixture
def at(notebook, pack):
    open_job(notebook, pack)
    goes_on(notebook)
    notebook.write("job1", CircuitTaken(netlist="R1 b1 plate 100k\nR2 grid 0 1meg\n"))
    job = fold("job1", notebook.entries_of("job1"))
    return At(job=job, pack=description_of(notebook, job))


@pytest.mark.parametrize(
    ("line", "asked"),
    [
        ("node plte 120 V", "“plte” is not a known node"),
        ("tube V3 plate plaet, grid grid, cathode 0", "“plaet” is not a known node"),
        ("tube V3 plate plate, grid grid, cathode 0", ""),
    ],
)
def test_a_misspelt_node_is_asked_about_wherever_it_is_named(at, line, asked):
    jot = understand_at("trace", line)
    if asked:
        with pytest.raises(CandorError, match=asked):
            command_of(jot, at)
    assert command_of(jot, replace(at, is_sure=True)).bodies


def test_where_the_list_names_the_tubes_another_is_a_question_and_a_section_is_none(at, notebook):
    notebook.write("job1", PartListed(ref="V3", what="tube", type="6XX9"))
    job = fold("job1", notebook.entries_of("job1"))
    at = replace(at, job=job, pack=description_of(notebook, job))
    for name in ("V3", "v3a", "V3B"):
        assert command_of(understand_at("trace", f"tube {name} plate plate, grid grid, cathode 0"), at).bodies
    with pytest.raises(CandorError, match=r"“V4” is not a known tube\. There are: V3"):
        command_of(understand_at("trace", "tube V4 plate plate, grid grid, cathode 0"), at)


def test_what_was_switched_on_earlier_today_is_told_at_its_hour_and_never_ahead(at):
    now = dt.datetime(2026, 6, 15, 15, 30).astimezone()
    told = command_of(understand("on since 14:00", JotContext()), replace(at, now=now))
    (draft,) = told.drafts_for("job1")
    assert draft.at == now.replace(hour=14, minute=0, second=0)
    with pytest.raises(CandorError, match="in the future"):
        command_of(understand("on since 16:00", JotContext()), replace(at, now=now))
    late = now.replace(hour=0, minute=20)
    (draft,) = command_of(understand("on since 23:30", JotContext()), replace(at, now=late)).drafts_for("job1")
    assert draft.at == late.replace(hour=23, minute=30, second=0) - dt.timedelta(days=1)  # yesterday's


def test_a_line_that_is_not_understood_is_a_note_once_it_is_said_again(at):
    jot = understand("ral b1 287", JotContext())
    with pytest.raises(CandorError, match="Did you mean “rail b1 287”"):
        command_of(jot, at)
    assert command_of(jot, replace(at, is_sure=True, stop="power")).bodies[0].stop == "power"


def test_a_deed_on_a_listed_part_touches_what_uses_it(at):
    parts = {"R1": Part("R1", "resistor", 1e5), "C7": Part("C7", "capacitor", 1e-7)}
    body = command_of(understand("put 0.1u across C7", JotContext(parts=parts)), at).bodies[0]
    assert (body.touches, body.part) == ("C7", "")
    body = command_of(understand("R1 replaced with 100k", JotContext(parts=parts)), at).bodies[0]
    assert (body.touches, body.part) == ("", "R1")


def test_no_figure_of_a_line_is_more_than_a_sentence(at):
    """Each number of each example negative, huge, tiny or nought: a command or a refusal, nothing else."""
    refused = 0
    for example in (example for verb in VERBS for example in verb.examples):
        for number in re.finditer(r"\d+(?:\.\d+)?", example):
            for other in ("-8.4", "1e30", "1e-30", "0"):
                text = example[: number.start()] + other + example[number.end() :]
                try:
                    command_of(understand(text, JotContext()), replace(at, text=text))
                except CandorError as error:
                    refused += "cannot be written" in str(error)
    assert refused
    with pytest.raises(CandorError, match="cannot be written: agreed should be greater"):
        command_of(understand("agreed -8.4", JotContext()), replace(at, text="agreed -8.4"))


def test_a_reading_of_a_soak_told_afterwards_counts_from_when_it_was_on(at, notebook):
    def told(line, now):
        job = fold("job1", notebook.entries_of("job1"))
        (draft,) = command_of(understand(line, JotContext()), replace(at, job=job, now=now)).drafts_for("job1")
        return draft

    now = dt.datetime(2026, 6, 15, 15, 30).astimezone()
    with pytest.raises(CandorError, match="Since when has it been on"):
        told("soak 10.02 after 15 min", now)
    notebook.append([told("on since 14:00", now)])
    assert told("soak 10.02 after 15 min", now).body.seconds == 900
    assert told("soak 10.02 at 15:20", now).body.seconds == 4800
    assert told("soak 10.02", now).body.seconds is None
    for line in ("soak 10.02 at 13:59", "soak 10.02 after 2 h", "off at 13:00"):
        with pytest.raises(CandorError, match="It has been on since 14:00, for 1 h 30 min"):
            told(line, now)
    off = told("off at 15:00", now)
    assert (off.body.kind, off.at) == ("switched_off", now.replace(hour=15, minute=0))
