"""A slip of the finger makes no new rail, node or tube: it is asked about, once."""

import math

import pytest

from candor.core.errors import ValueTextError
from candor.core.jot import JotContext, understand
from candor.core.jot.misspelt import ask_if_misspelt
from candor.notebook.entries.kinds_entries import in_words, read_body
from candor.notebook.entries.power_entries import RailSaid
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.entries.trace_entries import NodeDrawn, PairRead
from candor.sitting.jots import At, command_of
from sitting.test_sitting import Bench


def test_what_is_nearly_known_is_asked_about_and_what_is_far_is_new():
    ask_if_misspelt("plate", ("plate", "grid"), "node")
    ask_if_misspelt("cathode", ("plate", "grid"), "node")
    ask_if_misspelt("anything", (), "node")
    with pytest.raises(ValueTextError, match=r"“plte” is not a known node\. Did you mean plate"):
        ask_if_misspelt("plte", ("plate", "grid"), "node")
    with pytest.raises(ValueTextError, match="There are: b1"):
        ask_if_misspelt("xyz", ("b1",), "rail", closed=True)


def test_rails_and_nodes_that_nobody_named_are_a_question_until_the_line_is_written_once_more(notebook):
    notebook.write("job1", JobOpened(maker="Corvane", type="V-3", serial="5"))
    notebook.write("job1", RailSaid(name="b1", volts=285))
    notebook.write("job1", NodeDrawn(node="v1_plate", volts=120))
    job = Bench(notebook).job()
    for line in ("rail b7 287", "node V1 plte 118"):
        jot = understand(line, JotContext())
        with pytest.raises(ValueTextError, match="Enter once more takes it as a new one"):
            command_of(jot, At(job=job, text=line))
        assert command_of(jot, At(job=job, text=line, is_sure=True)).bodies
    assert command_of(understand("rail b1 287", JotContext()), At(job=job)).bodies


def test_open_is_open_and_never_a_number():
    jot = understand("ohms plate grid open", JotContext())
    assert (jot.ohms, jot.chips) == (math.inf, ("plate to grid open",))
    body = PairRead(one="plate", other="grid", ohms=jot.ohms)
    assert read_body(body.model_dump_json()) == body
    older = read_body(
        '{"kind": "pair_read", "version": 1, "one": "a", "other": "b", "ohms": 1000000000000.0, "volts": 0.0}'
    )
    assert older.ohms == math.inf
    from notebook.entries.test_kinds_entries import entry

    assert in_words(entry(older), {}) == "a to b: open"
