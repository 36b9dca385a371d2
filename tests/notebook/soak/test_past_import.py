"""A table of old results is matched to the points there are; what is there is recognised, what is far off is a question."""

import datetime as dt

import pytest

from candor.core.errors import ValueTextError
from candor.core.jot.line import understand_at
from candor.notebook.soak.drifting import past_typed
from candor.notebook.soak.past_import import history_name, matched, preview_past
from candor.notebook.work.job import fold
from workbench import open_job, point_steps

TODAY = dt.date(2026, 6, 15)
HEAD = "date,point,error,U,limit,when\n"


@pytest.fixture
def job(notebook, pack):
    open_job(notebook, pack)
    return lambda: fold("job1", notebook.entries_of("job1"))


def table(*rows: str) -> bytes:
    return (HEAD + "\n".join(rows) + "\n").encode()


def test_the_key_a_line_accepts_and_the_name_are_one_point_with_or_without_the_unit(job, pack):
    point = point_steps(pack)[0].point
    rows = (
        f"2020-05-01,{point.key},0.31,0.1,4.5,found",
        f'2021-05-01,"{history_name(point)}",0.32 V,0.1 V,4.5 V,found',
    )
    found = preview_past(table(*rows), TODAY, pack, job())
    assert found.faults == ()
    assert {(b.point, b.unit) for b in found.bodies} == {(history_name(point), "V")}
    assert matched(pack, point.key.upper()) == point
    assert matched(pack, "nowhere") is None
    mixed = preview_past(table(f"2020-05-01,{point.key},0.31 A,0.1 A,4.5 A,found"), TODAY, pack, job())
    assert "is in V; found A" in mixed.faults[0]


def test_what_is_there_already_is_recognised(notebook, job, pack):
    rows = [f"{year}-05-01,dc+/150/75,0.{year % 10},0.1,4.5,left" for year in (2020, 2021)]
    first = preview_past(table(*rows), TODAY, pack, job())
    for body in first.bodies:
        notebook.write("job1", body)
    again = preview_past(table(*rows, "2022-05-01,dc+/150/75,0.5,0.1,4.5,left"), TODAY, pack, job())
    assert [b.on.year for b in again.bodies] == [2022]
    assert sum("is there already" in line.understood for line in again.lines) == 2
    assert preview_past(table(rows[0], rows[0]), TODAY, pack, job()).bodies == ()


def test_a_hundred_times_its_limit_is_a_question(job, pack):
    found = preview_past(table("2020-05-01,dc+/150/75,1200,0.1,4.5,found"), TODAY, pack, job())
    assert "an error of 1.2 kV, 267 times the limit of 4.5 V?" in found.faults[0]
    assert preview_past(table("2020-05-01,dc+/150/75,1200 really,0.1,4.5,found"), TODAY, pack, job()).faults == ()
    said = understand_at("soak", "past 2021-03-04 dc+/150/75 +1200 ± 0.10 V left")
    with pytest.raises(ValueTextError, match="267 times the limit"):
        past_typed(said, pack, TODAY)
    assert (
        past_typed(understand_at("soak", "past 2021-03-04 dc+/150/75 +1200 ± 0.10 V left really"), pack, TODAY).error
        == 1200
    )
