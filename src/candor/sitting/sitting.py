"""The sitting: a command passes its guards, becomes entries in one transaction, and answers with what follows.

It remembers what was done in it, by place, so that undoing takes back what was just done here, and nothing else.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.severity import Severity
from candor.core.worded import worded
from candor.notebook.entries.calibrate_entries import AdjustmentMade
from candor.notebook.entries.entry import AnyEntry, Draft
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.entries.strikes_entries import Struck, Unstruck
from candor.notebook.parts.parts_list import PartsList
from candor.notebook.store import Notebook
from candor.notebook.work.job import Job, may_strike
from candor.notebook.work.settings import Settings
from candor.packs.model import Pack
from candor.sitting.command import Answer, Command
from candor.sitting.commands.calibrate_commands import arrived_dead, go_on_without
from candor.sitting.first_reading import FirstReading, first_reading
from candor.sitting.following import following


@dataclass(frozen=True)
class Seen:
    """What the sitting is told of the job that a command is done to, as it stands before it.

    Attributes
    ----------
    job : Job or None
    pack : Pack or None
    parts : callable
        Gives its parts list, worked out only when it is asked for.
    settings : Settings
    folded : callable
        Gives a job with entries of it that were just written.
    """

    job: Job | None
    pack: Pack | None
    parts: Callable[[], PartsList | None]
    settings: Settings
    folded: Callable[[tuple[AnyEntry, ...]], Job]


@dataclass(frozen=True)
class Place:
    """Where one is: in a room of the shop, or at a stop of a job."""

    room: str = ""
    job: str = ""


@dataclass(frozen=True)
class Done:
    """A command that was done here: where, by which name, and its entries."""

    place: Place
    name: str
    entries: tuple[AnyEntry, ...]

    def was_at(self, place: Place) -> bool:
        """Whether it was done at a place: in a room of the shop what was done there, else what was done to the job."""
        return self.place.room == place.room if place.room else any(e.job == place.job for e in self.entries if e.job)


class Sitting:
    """One person at one window, or one run of the command line."""

    def __init__(self, notebook: Notebook) -> None:
        self._notebook = notebook
        self._done: list[Done] = []
        self._undone: list[Done] = []
        self._asked_of = ""  # the undoing that was asked for once, because something signed rests on it
        self.held: tuple[Command, FirstReading] | None = None  # waits for what is said of the first reading

    def do(self, command: Command, seen: Seen, place: Place | None = None) -> Answer:
        """Do a command; its entries are on disk when this returns.

        Before the first change of a job that was never read nothing is written: the command is `held`, see `first_reading`.

        Raises
        ------
        CandorError
            Nothing was written: a guard bars it (`notebook.guards`), or it could not be kept.
        """
        job = seen.job
        if not command.of_shop and job is None and command.bodies:
            raise CandorError(worded("sitting.no_job_is_open_nothing_was"), expected="a job")
        asked = (
            first_reading(job, seen.pack, seen.parts(), command.bodies)
            if job is not None and _changes(command)
            else None
        )
        if asked is not None:
            self.held = command, asked
            return Answer()
        return self._write(command, seen, place or Place())

    def go_on(self, seen: Seen, place: Place, dead: str | None = None) -> Answer:
        """Do what was held: with that it arrived dead, and why, or without as found; both stand on page one.

        Raises
        ------
        CandorError
            As `do` does; nothing was written.
        """
        if self.held is None:
            return Answer()
        command, _ = self.held
        first = arrived_dead(dead) if dead is not None else go_on_without()
        answer = self._write(replace(command, bodies=(*first.bodies, *command.bodies)), seen, place)
        self.held = None
        return answer

    def _write(self, command: Command, seen: Seen, place: Place) -> Answer:
        job = seen.job
        written = tuple(self._notebook.append(command.drafts_for(job.id if job is not None else "")))
        if not command.by_itself:
            self._done.append(Done(place, command.name, written))
            self._undone = [d for d in self._undone if not d.was_at(place)]
            self._asked_of = ""
        own = tuple(e for e in written if job is not None and e.job == job.id)
        told = following(own, seen.folded(own), seen.settings) if job is not None and own else ()
        return Answer(written, told)

    # --- undoing --------------------------------------------------------------------------------------

    def undo(self, place: Place, signed: Callable[[str], int]) -> tuple[str, Severity, tuple[AnyEntry, ...]]:
        """Strike the whole of what was done last at a place, in this sitting; say what, or why not, and return the entries.

        `signed` gives the number of the newest certificate of a job, 0 where it has none: what rests under one is asked for
        once, and taken back when it is asked again.

        Raises
        ------
        CandorError
            Where it could not be written.
        """
        done = next((d for d in reversed(self._done) if d.was_at(place) and _strikable(d)), None)
        if done is None:
            words = worded("sitting.nothing_was_done_here_since_candor")
            return words, Severity.NOTE, ()
        under = [e for e in done.entries if e.job and e.number < signed(e.job)]
        if under and self._asked_of != done.entries[0].id:
            self._asked_of = done.entries[0].id
            words = worded("sitting.a_signed_certificate_rests_on_entry", name=done.name, number=under[0].number)
            return words, Severity.ASK, ()
        written = self._notebook.append([_draft(e, back=False) for e in done.entries if _may(e)])
        self._asked_of = ""
        self._done.remove(done)
        self._undone.append(done)
        count = sum(_may(e) for e in done.entries)
        entries = f"entry {done.entries[0].number}" if count == 1 else f"{count} entries"
        strike = all(isinstance(e.body, Struck | Unstruck) for e in done.entries)
        what = worded("sitting.taken_back", name=done.name) if strike else f"Struck: {done.name} ({entries})."
        return worded("sitting.ctrl_shift_z_is_the_way", what=what), Severity.NOTE, tuple(written)

    def redo(self, place: Place) -> tuple[str, tuple[AnyEntry, ...]]:
        """Let stand again what was taken back last at a place, in this sitting; say what, and return the entries.

        Raises
        ------
        CandorError
            Where it could not be written.
        """
        done = next((d for d in reversed(self._undone) if d.was_at(place)), None)
        if done is None:
            return worded("sitting.nothing_was_taken_back_here"), ()
        written = self._notebook.append([_draft(e, back=True) for e in done.entries if _may(e)])
        self._undone.remove(done)
        self._done.append(done)
        return worded("sitting.it_stands_again", name=done.name), tuple(written)


def _changes(command: Command) -> bool:
    return any(isinstance(b, ChangeMade | AdjustmentMade) for b in command.bodies)


def _strikable(done: Done) -> bool:
    return any(_may(e) for e in done.entries)


def _may(entry: AnyEntry) -> bool:
    """Whether an entry can be taken back: a strike too, by letting stand what it struck."""
    return may_strike(entry) or isinstance(entry.body, Struck | Unstruck)


def _draft(entry: AnyEntry, back: bool) -> Draft:
    """The entry that takes one back, or lets it stand again; of a strike it is the other way round."""
    body = entry.body
    if isinstance(body, Struck):
        return Draft(entry.job, Struck(target=body.target) if back else Unstruck(target=body.target))
    if isinstance(body, Unstruck):
        return Draft(entry.job, Unstruck(target=body.target) if back else Struck(target=body.target))
    return Draft(entry.job, Unstruck(target=entry.id) if back else Struck(target=entry.id))
