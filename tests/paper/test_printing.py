"""What is printed of a job: what was signed, a draft, or why nothing."""

from __future__ import annotations

import dataclasses
import datetime as dt

import pytest

from candor.demo.demo_notebook import write_demo
from candor.notebook.standards.standards import standards
from candor.notebook.work.job import fold
from candor.paper.printing import Asked, what_is_printed

NOW = dt.datetime(2026, 6, 15, 10, 0, tzinfo=dt.UTC)


@pytest.fixture
def asked(tmp_path):
    demo = write_demo(tmp_path / "d.candor")
    job = fold("sb40188", demo.entries_of("sb40188"))
    yield Asked(
        job=job, pack=demo.pack(job.pack_digest), known=standards(demo), shop="My Bench", who="tester", now=NOW, broken=(),
        earlier=(), leaving=(), folder=demo.certificate_folder,
    )  # fmt: skip
    demo.close()


def test_what_was_signed_is_printed_until_its_file_ails_and_then_a_draft_that_says_so(asked):
    printed = what_is_printed(asked)
    assert printed.digest == asked.job.release.certificates[-1].body.digest
    assert printed.record.issued_by != "tester"
    path = asked.folder / f"{printed.digest}.json"
    path.write_bytes(path.read_bytes().replace(b"passes", b"fails ", 1))
    again = what_is_printed(asked)
    assert (again.digest, again.record.issued_by) == ("", "tester")
    assert "not what was signed" in again.fault


def test_where_nothing_stands_it_says_why(asked):
    nothing = dataclasses.replace(asked, job=fold("none", ()))
    printed = what_is_printed(nothing)
    assert printed.record is None
    assert "no instrument" in printed.refused


def test_while_the_server_is_away_only_a_draft_is_printed(asked):
    printed = what_is_printed(dataclasses.replace(asked, away="Not yet on shop: 2 entries"))
    assert printed.digest == "" and printed.record.issued_by == "tester"
    assert "nothing is printed as final" in printed.fault and "2 entries" in printed.fault
