"""Orders, spares and money."""

import datetime as dt

import pytest

from candor.core.errors import CandorError
from candor.notebook.entries.shop_entries import OrderLine, OrderPlaced
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.parts.orders import Spares, arriving, next_number, placing, say_money
from candor.notebook.shelf import shelf
from stockroom import supplied


@pytest.mark.parametrize(
    ("percent", "upto", "fault"),
    [
        ("many", "", "per cent such as 20"),
        ("-5", "", "cannot be"),
        ("2000", "", "cannot be"),
        ("20", "cheap", "price of one"),
    ],
)
def test_a_spares_policy_that_cannot_be(percent, upto, fault):
    with pytest.raises(CandorError, match=fault):
        Spares.read(percent, upto)
    assert Spares.read(" 20 % ", "0,50") == Spares(0.2, 0.5)
    assert Spares.read("", "") == Spares()


@pytest.mark.parametrize(
    ("agreed", "minutes", "state", "words"),
    [
        (0, 30, "note", "no price is agreed"), (100, 30, "note", "of the 100.00 agreed"),
        (40, 60, "ask", "left. Ask before more is ordered"), (40, 120, "refused", "over the 40.00 agreed. Ask the owner"),
    ],
)  # fmt: skip
def test_the_warning_comes_before_the_price_is_passed(agreed, minutes, state, words):
    sentence, found = say_money(agreed=agreed, an_hour=20, minutes=minutes, money=12.5, ordered=1.5)
    assert found == state
    assert words in sentence


def test_an_order_and_what_its_jobs_wait_for_are_written_together(notebook):
    for job in ("a", "b"):
        notebook.write(job, JobOpened(maker="M", type="OS-40", serial=job, pack_digest="x"))
    lines = tuple(OrderLine(job=job, ref="R1", text="47 kΩ", count=1) for job in ("a", "b", "a"))
    now = dt.datetime(2026, 6, 15, tzinfo=dt.UTC)
    body = OrderPlaced(number=next_number((), now), lines=lines)
    assert body.number == "260615-1"
    before = notebook.revision().own
    notebook.append(placing(body))
    assert notebook.revision().own == before + 1
    assert {line.text for line in shelf(notebook, now)} == {"for parts, order 260615-1"}
    (order,) = supplied(notebook).orders
    assert next_number((order,), now) == "260615-2"
    drafts, freed = arriving((order,), order, (0, 1))
    assert freed == ("b",)  # a still waits for its second line
    notebook.append(drafts)
    groups = {line.job: line.group for line in shelf(notebook, now)}
    assert groups == {"a": "waiting", "b": "wants hands"}
