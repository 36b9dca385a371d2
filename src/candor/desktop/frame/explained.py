"""What explains the errors of the run in hand: calculated beside the window with every reading, the outdated dropped."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from candor.core.calibration.run import RunResult
from candor.desktop.widgets.answer_lines import AnswerLines
from candor.notebook.parts.known_values import known_ohms
from candor.notebook.work.job import Job
from candor.notebook.work.suspecting import Suspected, suspect_run
from candor.packs.model import Pack
from candor.words.suspects_words import say_suspected

MOST = 8  # lines


class Explained(AnswerLines):
    """The likeliest with how far off it is and how sure that is, what is done about it, what else may, what to read.

    Attributes
    ----------
    ghost : callable
        Is given, by point, the errors that the likeliest would make, in limits, and what that is; nothing where nothing stands out.
    """

    def __init__(self) -> None:
        super().__init__("what explains the errors", MOST, say_suspected)
        self.ghost: Callable[[Mapping[str, float], str], None] = lambda *_: None

    def show_run(self, job: Job | None, pack: Pack | None, run: RunResult | None) -> None:
        """Calculate it anew where a reading, or a part that was measured, is another; nothing where there is no run."""
        if job is None or pack is None or run is None:
            self.ask((), None)
            return
        read = tuple((key, r.error, r.coverage.expanded) for key, r in run.results.items())
        measured = known_ohms(job)
        self.ask(
            (job.id, run.phase, read, measured), lambda should_stop: suspect_run(job, pack, run, should_stop), same=2
        )

    def show_answer(self, found: Suspected | None) -> None:
        """Show what is said of it, and draw the likeliest."""
        super().show_answer(found)
        drawn = found is not None and found.stands_out
        self.ghost(found.ghost if found is not None and drawn else {}, self.lines[0].text() if drawn else "")
