"""What is live now, whatever page or job is in hand: a run on the tester, a source on a link; and how each is stopped."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal

from candor.core.late_dataclass import dataclass
from candor.desktop.bench.capture import Capture
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.live_in_hand import Live
from candor.words.run_words import run_in_a_line


@dataclass(frozen=True)
class LiveThing:
    """Something that is live: what must be known of it, what its button says (empty for none), and how it is stopped."""

    words: str
    deed: str = ""
    stop: Callable[[], object] = lambda: None
    own: bool = True  # of this window


class LiveNow(QObject):
    """What is live now, of this window and of others at the same job.

    Signals
    -------
    changed()
        Something went live, stands elsewhere, or is over.
    """

    changed = Signal()

    def __init__(self, live: Live, capture: Capture, in_hand: JobInHand) -> None:
        super().__init__()
        self._live, self._capture, self._in_hand = live, capture, in_hand
        self._elsewhere: tuple[LiveThing, ...] = ()
        live.changed.connect(self.changed)
        live.ended.connect(lambda *_: self.changed.emit())
        capture.changed.connect(self.changed)
        in_hand.changed.connect(self.look)

    def things(self) -> tuple[LiveThing, ...]:
        """Return what is live, the source in somebody's hand first."""
        found = []
        if self._capture.live:
            found.append(LiveThing(self._capture.words, "Source to zero", self._capture.off))
        status = self._live.status()
        if status is not None:
            words = run_in_a_line(self._live.ref, status, self._live.plan, self._live.by_hand)
            over = status.phase == "discharging"
            found.append(LiveThing(words, "" if over else "Stop the run", self._live.cancel))
        return (*found, *self._elsewhere)

    def look(self) -> None:
        """Look whether another window is at a part of the job in hand."""
        job = self._in_hand.job
        open_runs = job.runs.cut_off() if job is not None else ()
        found = tuple(LiveThing(r.words, own=False) for r in self._live.elsewhere_of(open_runs)) if open_runs else ()
        if [x.words for x in found] != [x.words for x in self._elsewhere]:
            self._elsewhere = found
            self.changed.emit()
