"""The review table names every finding; where a topic has moved to words, no sentence is left behind."""

import inspect
import json
from pathlib import Path
from typing import get_args

from typer.testing import CliRunner

from candor.cli import app
from candor.core.verdict.rules import Rule
from candor.notebook.work.check_findings import CheckFinding
from candor.words import (
    board_words,
    checks,
    combining,
    drift_words,
    faults,
    first_words,
    greatest_words,
    hours_words,
    line_words,
    parts_words,
    plan_words,
    power_words,
    rails_words,
    results,
    review,
    review_parts,
    settling_words,
    supply_words,
    suspects_words,
    trace_words,
    transformer_words,
    tubes_words,
    turns_words,
)
from candor.words.speaking import all_sentences

SOURCE = Path(__file__).parents[2] / "src" / "candor"


def test_the_page_of_the_manual_is_what_the_program_says():
    page = (SOURCE.parents[1] / "docs" / "manual" / "sentences.md").read_text("utf-8")
    assert page == CliRunner().invoke(app, ["sentences", "--markdown"]).output
    listed = json.loads(CliRunner().invoke(app, ["sentences", "--json"]).output)
    said = [case.sentence for case in review.cases()] + [words for _, words in all_sentences()]
    assert [one["sentence"] for one in listed] == said


def test_every_finding_and_every_speaker_has_its_example(monkeypatch):
    """Each public function of words is asked by the table, each kind of finding and each thing to do stands in it."""
    called, seen, speakers = set(), set(), set()

    def listen(module, name, made):
        def spy(*of, **by):
            called.add(name)
            seen.update(type(one) for one in of)
            return made(*of, **by)

        monkeypatch.setattr(module, name, spy)

    for module in (
        board_words,
        first_words,
        hours_words,
        plan_words,
        checks,
        combining,
        drift_words,
        faults,
        greatest_words,
        line_words,
        parts_words,
        power_words,
        rails_words,
        results,
        settling_words,
        supply_words,
        suspects_words,
        trace_words,
        tubes_words,
        turns_words,
        transformer_words,
    ):
        for name, made in inspect.getmembers(module, inspect.isfunction):
            if (
                made.__module__ == module.__name__
                and not name.startswith("_")
                and not name.endswith(("_json", "_lines"))
            ):
                speakers.add(name)
                listen(module, name, made)
                if module is parts_words:
                    monkeypatch.setattr(review_parts, name, getattr(module, name))
    monkeypatch.setattr(results, "say_settlement", settling_words.say_settlement)
    said = {case.sentence for case in review.cases()}
    assert speakers - called == set()
    assert set(get_args(CheckFinding)) - seen == set()
    assert set(checks.ASKS.values()) <= said
    assert set(results.RULES.values()) <= said
    assert set(Rule) == set(results.RULES)
