"""The review table names every finding; where a topic has moved to words, no sentence is left behind."""

import ast
import inspect
import json
from pathlib import Path
from typing import get_args

import pytest
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

SOURCE = Path(__file__).parents[2] / "src" / "candor"
SPEECHLESS = (
    "core/calibration/result.py",
    "core/combine/search.py",
    "core/combine/trims.py",
    "core/drift/due.py",
    "core/leaving/electrical.py",
    "core/circuit/in_circuit.py",
    "core/parts/judge.py",
    "core/parts/judge_capacitor.py",
    "core/parts/judge_other.py",
    "core/parts/judge_resistor.py",
    "core/parts/policy.py",
    "core/parts/reasons.py",
    "core/parts/replacement.py",
    "core/power/rail_ohms.py",
    "core/power/safe.py",
    "core/power/watch.py",
    "core/power/supply.py",
    "core/power/supply_answer.py",
    "core/circuit/stress.py",
    "core/plan/in_order.py",
    "core/plan/keeping_promises.py",
    "core/plan/order_search.py",
    "core/plan/placed_why.py",
    "core/plan/promise_risk.py",
    "core/plan/replan.py",
    "core/plan/shop.py",
    "core/plan/usual_times.py",
    "core/suspects/hypotheses.py",
    "core/suspects/measure_first.py",
    "core/suspects/next_reading.py",
    "core/suspects/weigh.py",
    "core/trace/currents.py",
    "core/trace/nodes.py",
    "core/trace/pairs.py",
    "core/trace/signal.py",
    "core/suspects/board.py",
    "core/suspects/changed.py",
    "core/suspects/supply_backwards.py",
    "core/suspects/board_faults.py",
    "core/suspects/weigh_board.py",
    "core/suspects/next_on_board.py",
    "notebook/plan/day.py",
    "notebook/plan/deeds_of_job.py",
    "notebook/plan/job_time.py",
    "notebook/plan/learned_times.py",
    "notebook/plan/planning.py",
    "notebook/trace/on_board.py",
    "core/tubes/matching.py",
    "core/tubes/order.py",
    "core/tubes/ratings.py",
    "core/verdict/rules.py",
    "core/verdict/would_settle.py",
    "notebook/power/alarms.py",
    "notebook/power/may_power.py",
    "notebook/power/powering.py",
    "notebook/storage/checking.py",
    "notebook/storage/fault.py",
    "notebook/storage/job_faults.py",
    "notebook/storage/kept_files.py",
    "notebook/power/retrimming.py",
    "notebook/release/leaving.py",
    "notebook/trace/trace_view.py",
    "notebook/tubes/tube_points.py",
    "notebook/work/check_findings.py",
    "packs/greatest_of_range.py",
    "packs/patterns.py",
    "packs/retrim.py",
)


def test_the_page_of_the_manual_is_what_the_program_says():
    page = (SOURCE.parents[1] / "docs" / "manual" / "sentences.md").read_text("utf-8")
    assert page == CliRunner().invoke(app, ["sentences", "--markdown"]).output
    listed = json.loads(CliRunner().invoke(app, ["sentences", "--json"]).output)
    assert [one["sentence"] for one in listed] == [case.sentence for case in review.cases()]


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


@pytest.mark.parametrize("path", SPEECHLESS)
def test_where_a_topic_has_moved_no_sentence_is_left(path):
    """No f-string of three words but in what an error or a guard says."""
    tree = ast.parse((SOURCE / path).read_text("utf-8"))
    left_out = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Raise):
            left_out |= {id(inner) for inner in ast.walk(node)}
        if isinstance(node, ast.FunctionDef) and node.name in (
            "say_open",
            "say_not_yet",
            "name_open",
        ):  # what a guard says
            left_out |= {id(inner) for inner in ast.walk(node)}
    made = [node for node in ast.walk(tree) if isinstance(node, ast.JoinedStr) and id(node) not in left_out]
    texts = ["{}".join(v.value for v in one.values if isinstance(v, ast.Constant)) for one in made]
    assert [text for text in texts if (text.count(" ") > 2 and "." in text) or text.count(" ") > 3] == []
