"""Under power: a meter that says nothing, one that is over its range, a rail that does not come up; said large, once aloud."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QApplication

from candor.core.power.watch import Watched
from candor.desktop.bench.meters_in_hand import PowerMeters
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.speech import Speech
from candor.desktop.frame.theme import Theme
from candor.desktop.stops.power.strips import Strip
from candor.desktop.widgets.caution import Caution
from candor.notebook.power.powering import OnTheWay
from candor.notebook.work.job import Job
from candor.words.power_words import say_watched


class Silence(Caution):
    """What is not watched though it should be; not there while all is."""

    def __init__(self, theme: Theme, *, voice: Voice, speech: Speech, meters: PowerMeters) -> None:
        super().__init__(theme, bold=True)
        self._voice, self._speech, self._meters = voice, speech, meters
        self._told = ""

    def show_way(self, job: Job, way: OnTheWay, strips: Sequence[Strip]) -> None:
        """Say what is not watched in the state a job is in, and warn of it once."""
        words = ""
        if job.power.is_live:
            words = " ".join(filter(None, (self._silent(job.id), *(say_watched(w) for w in _dead(way, strips)))))
        self.say(words)
        if words and words != self._told:
            self._voice.warn(words)
            self._speech.say(words)
            QApplication.beep()
        self._told = words

    def _silent(self, job: str) -> str:
        if self._meters.job != job or not self._meters.running:
            return ""
        silent, over = self._meters.silent(), self._meters.overloaded()
        said = (
            [f"OVERLOAD on {', '.join(over)}: the meter is over its range, the value is not known."] if over else []
        )
        if silent and len(silent) == len(self._meters.states()):
            said.append("No meter answers: nothing is being watched. Read by hand, or pull the plug.")
        elif silent:
            said.append(f"No answer from {', '.join(silent)}: not watched. Read it by hand, or pull the plug.")
        return " ".join(said)


def _dead(way: OnTheWay, strips: Sequence[Strip]) -> tuple[Watched, ...]:
    """The rails that should be up and are nearly nothing, by link or by hand."""
    return tuple(s.watched for s in strips if s.watched.state == "dead") or way.dead
