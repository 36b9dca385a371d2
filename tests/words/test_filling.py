"""Every finding has its sentence and every sentence its finding; figures stand in it as it asks."""

import json
import math
import sys

import pytest

from candor.core.finding import Finding
from candor.core.parts.judge import judge_all
from candor.words import review
from candor.words.filling import Sentences
from candor.words.parts_words import PHRASES
from candor.words.review_parts import bench_of_parts


def test_no_finding_is_without_its_sentence_and_no_sentence_is_never_said(monkeypatch):
    """The table of examples is made by the calculations themselves: what it never says, nobody does."""
    said, say = set(), Sentences.say

    def listen(table, kind, figures):
        said.add((id(table), kind))
        return say(table, kind, figures)

    monkeypatch.setattr(Sentences, "say", listen)
    assert review.cases()
    tables = {
        f"{name}.{attribute}": table
        for name, module in list(sys.modules.items())
        if name.startswith("candor.words.")
        for attribute, table in vars(module).items()
        if isinstance(table, Sentences) and name.rsplit(".", 1)[1] not in ("review", "filling")
    }
    assert len(tables) > 7
    shared = {kind for table in tables.values() for kind in PHRASES if (id(table), kind) in said}
    assert shared == set(PHRASES)
    never = {
        f"{n} {kind}"
        for n, t in tables.items()
        for kind in t.sentences
        if (id(t), kind) not in said and kind not in PHRASES
    }
    assert never == set()


@pytest.mark.parametrize(
    ("sentence", "figures", "said"),
    [
        ("over {limit:A3}", {"limit": 4.6789e-4}, "over 468 µA"),
        ("{volts:#} V", {"volts": 310.0}, "310 V"),
        ("{off:+%0} %", {"off": -0.0612}, "−6 %"),
        ("{off:+%1} %", {"off": 0.0345}, "+3.5 %"),
        ("{spare:%2} %", {"spare": 0.1538}, "15 %"),
        ("{shift:.2} V", {"shift": 0.0273}, "0.03 V"),
        ("{low:{unit}3}", {"low": 14.44e-6, "unit": "F"}, "14.4 µF"),
        ("{make!c} at {bad:g}{effect}",
         {"make": "film", "bad": 0.3, "effect": Finding("times", {"times": 1.066})}, "Film at 0.3: 1.1"),
        ("by {practice}", {}, "by common practice, no source"),
    ],
)  # fmt: skip
def test_a_figure_stands_as_the_sentence_asks(sentence, figures, said):
    assert Sentences({"it": sentence, "times": ": {times:#2}"}).say("it", figures) == said


@pytest.mark.parametrize("wrong", ["{limit:??}", "{limit} and {other}"])
def test_a_sentence_that_cannot_be_filled_is_a_fault(wrong):
    with pytest.raises((ValueError, KeyError)):
        Sentences({"it": wrong}).say("it", {"limit": 2.0})


def test_a_finding_is_plain_fields_too():
    reason = next(
        r for listed, policy in bench_of_parts() for v in judge_all(listed, policy).values() for r in v.reasons
    )
    fields = json.loads(json.dumps(reason.as_fields()))
    assert (fields["action"], fields["finding"], fields["change"]) == (
        "cannot tell yet",
        "measure.leakage",
        "measure.leakage",
    )
    assert fields["at"] == {"finding": "at.volts", "volts": 210.0}
    assert Finding("in circuit.never", {"reach": math.inf}).as_fields()["reach"] is None  # JSON has no infinity
