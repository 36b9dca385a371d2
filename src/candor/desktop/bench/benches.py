"""The other benches of a window's notebook, where it lies on a server: what they write, who is at what, and whether it answers."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Qt, Signal

from candor.core.errors import CandorError
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.notebook.store import Notebook
from candor.notebook.work.job import Job, fold


class Benches(QObject):
    """Watches the server beside the window; of a notebook in a file there is nothing to watch.

    Signals
    -------
    changed()
        Somebody came, went, or took something else in hand; the server went away or came back.
    """

    changed = Signal()
    _heard = Signal()

    def __init__(
        self, *, notebook: Notebook, in_hand: JobInHand, shop: Shop, shelf: Shelf, place: PlaceInHand, voice: Voice,
        heard: Callable[[], object],
    ) -> None:  # fmt: skip
        super().__init__()
        self._notebook, self._in_hand, self._shop, self._place, self._voice = notebook, in_hand, shop, place, voice
        self._shelf, self._then, self._warned = shelf, heard, set[str]()
        self._finished = False
        self.beside: tuple[str, ...] = ()
        self._heard.connect(self._look, Qt.ConnectionType.QueuedConnection)
        self._watch = None
        if notebook.is_shared:
            from candor.notebook.server.server_watch import ServerWatch  # here: loaded where there is a server

            self._watch = ServerWatch(notebook.path, self._heard.emit)
            for signal in (place.changed, in_hand.changed):
                signal.connect(self._tell)
            self._tell()
            self._watch.start()

    @property
    def words(self) -> str:
        """What must be known of the others: what is not with them yet, or who is at the same thing; empty where nothing must."""
        if not self._finished and (away := self._notebook.away):
            return f"{away}."
        return " ".join(self.beside)

    @property
    def is_away(self) -> bool:
        """Whether what is written does not reach the others."""
        return not self._finished and bool(self._notebook.away)

    @property
    def words_whole(self) -> str:
        """The same with what follows from it."""
        follows = " Work goes on here; nothing is signed or printed as final until it is there."
        return f"{self.words}{follows if self.is_away else ''}"

    @property
    def why_away(self) -> str:
        """Why the server does not answer, in its own words or the network's; empty where it does."""
        return self._watch.state.why if self._watch is not None else ""

    def there(self) -> tuple[str, ...]:
        """Say who else is there, and at what."""
        rows = self._watch.state.benches if self._watch is not None else ()
        return tuple(f"{b.who} at {b.bench}: {self._name(b.job)}, {b.stop.capitalize()}" for b in rows)

    def finish(self) -> None:
        """Stop as the window closes."""
        watch, self._watch, self._finished = self._watch, None, True
        if watch is not None:
            watch.finish()

    def _name(self, job: str) -> str:
        return next((line.name for line in self._shelf.lines if line.job == job), "no job")

    def _tell(self) -> None:
        job = self._in_hand.job
        if self._watch is not None:
            self._watch.be_at(job.id if job is not None else "", self._place.stop)
        if job is not None and job.entries and job.entries[-1].body.kind == "change":
            self._warn_of_drawers()
        self._weigh()

    def _look(self) -> None:
        """Something changed at the server: what was written there is taken in, and what must be known is said."""
        if self._watch is None:
            return
        state = self._watch.state
        if state.up:
            self._notebook.held_elsewhere = state.held
        for warning in filter(None, (state.skew, state.why if state.refuses else "")):
            if warning not in self._warned:
                self._warned.add(warning)
                self._voice.warn(warning)
        self._then()
        self._warn_of_late()
        self._warn_of_drawers()
        self._weigh()
        self.changed.emit()

    def _warn_of_drawers(self) -> None:
        """Warn of an item of which two benches took the last one."""
        for words in self._shop.supplies().missing() if self._watch is not None else ():
            if words not in self._warned:
                self._warned.add(words)
                self._voice.warn(words)

    def _warn_of_late(self) -> None:
        """Warn of what came into the job in hand late, where what others wrote would have barred it."""
        from candor.notebook.server.others_there import barred_late

        found = barred_late(self._in_hand.job)
        if found is not None and found[0] not in self._warned:
            self._warned.add(found[0])
            self._voice.warn(
                "What was written here while the server was away would have been barred by what other benches had written: "
                f"{found[1]} It is in the notebook now, as it was done. Look at it together."
            )

    def _weigh(self) -> None:
        """Say anew what another bench has in hand that is in hand here."""
        benches = self._watch.state.benches if self._watch is not None else ()
        if not benches:
            self.beside = ()
            return
        from candor.notebook.server.others_there import say_beside

        try:
            self.beside = say_beside(benches, self._in_hand.job, self._job, self._shop.standards)
        except CandorError:
            self.beside = ()

    def _job(self, job: str) -> Job:
        return fold(job, self._notebook.entries_of(job))
