"""What is remembered of results: the last of each point, and nothing that was superseded."""

from __future__ import annotations

import gc

from candor.core.calibration.result import PointResult
from candor.notebook.standards.standards import standards
from candor.notebook.work.assessment import assess_run
from candor.notebook.work.job import fold
from candor.notebook.work.recall import Recall
from workbench import open_job, point_steps, reading


def test_it_answers_anew_only_what_is_neither_the_same_nor_equal():
    asked = []
    recall = Recall(lambda text: asked.append(text) or len(asked))
    one, same = ["a"], ["a"]
    assert [recall.ask("k", (one,), lambda: "a") for _ in range(3)] == [1, 1, 1]
    assert recall.ask("k", (same,), lambda: "a") == 1  # another object, but equal in what is asked
    assert recall.ask("k", (same, one), lambda: "b") == 2
    assert recall.ask("k", (one,), lambda: "a") == 3  # what was superseded is forgotten
    assert asked == ["a", "b", "a"]


def test_results_that_were_superseded_are_not_kept(notebook, pack):
    standard, step = open_job(notebook, pack), point_steps(pack)[3]
    known = standards(notebook)
    for turn in range(90):
        notebook.write("job1", reading(step, standard, 1 + 0.0001 * turn))
        assess_run(fold("job1", notebook.entries_of("job1")), pack, known, "as found")
    gc.collect()
    kept = [
        o for o in gc.get_objects() if isinstance(o, PointResult) and o.point is step.point and len(o.readings) > 1
    ]
    assert len(kept) <= 70  # what was assessed last of anything, whatever it was
