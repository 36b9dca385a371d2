"""The plan on the command line, and as iCalendar."""

from __future__ import annotations

import json

from icalendar import Calendar
from typer.testing import CliRunner

from candor.cli import app
from candor.notebook.plan.day import day_from
from candor.words.plan_words import day_json

AT = ["--now", "2026-06-15T09:30:00+00:00"]


def test_the_plan_is_printed_as_lines_and_as_json_and_goes_on_from_it(demo, tmp_path):
    told = CliRunner().invoke(app, ["day", str(demo.path), *AT, "--json", "--calendar", str(tmp_path / "plan.ics")])
    plan = json.loads(told.stdout)
    assert day_json(day_from(plan)) == plan
    again = CliRunner().invoke(app, ["day", str(demo.path), *AT, "--json", "--before", "-"], input=told.stdout)
    after = json.loads(again.stdout)
    assert {d["key"]: d["begins"] for d in after["deeds"]} == {d["key"]: d["begins"] for d in plan["deeds"]}
    events = list(Calendar.from_ical((tmp_path / "plan.ics").read_bytes()).walk("VEVENT"))
    assert len(events) == len(plan["deeds"]) + len(plan["promises"])
    assert len({str(e["uid"]) for e in events}) == len(events)
    first = min((e for e in events if "dtend" in e), key=lambda e: e["dtstart"].dt)
    assert first["dtstart"].dt.isoformat()[:16] == min(d["begins"] for d in plan["deeds"])[:16].replace("+", "")
    lines = CliRunner().invoke(app, ["day", str(demo.path), *AT]).stdout
    assert "On time: " in lines and "then it runs for" in lines and "It comes after “" in lines


def test_what_is_no_plan_is_refused(demo):
    for text in ("[]", "{", '{"made": 1}'):
        told = CliRunner().invoke(app, ["day", str(demo.path), "--before", "-"], input=text)
        assert told.exit_code == 1 and "is not one that" in str(told.exception)
    assert "is no moment" in str(CliRunner().invoke(app, ["day", str(demo.path), "--now", "noon"]).exception)
