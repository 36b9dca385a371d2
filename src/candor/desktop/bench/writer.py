"""Writing: the window's client of the sitting; every entry is on disk before anything is shown."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from PySide6.QtCore import QObject, Signal

from candor.core.errors import CandorError
from candor.core.jot import ShopJot
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.desktop.bench.shop_in_hand import Shop
from candor.desktop.bench.voice import Voice
from candor.notebook.entries.entry import AnyEntry
from candor.notebook.shelf import SHELF_BODIES
from candor.notebook.store import Notebook
from candor.sitting.command import Answer, Command
from candor.sitting.commands import stay_commands
from candor.sitting.first_reading import FirstReading
from candor.sitting.jots import At, command_of
from candor.sitting.sitting import Place, Seen, Sitting


class Writer(QObject):
    """Gives commands to the sitting and has what follows from them looked at anew.

    Signals
    -------
    firstAsked()
        A change waits: nothing was read as found yet, see `first`.
    wentOn()
        What waited was written.
    """

    firstAsked = Signal()
    wentOn = Signal()

    def __init__(self, notebook: Notebook, in_hand: JobInHand, shop: Shop, shelf: Shelf, voice: Voice) -> None:
        super().__init__()
        self._notebook, self._in_hand, self._shop = notebook, in_hand, shop
        self._shelf, self._voice = shelf, voice
        self._seen = notebook.revision()
        self._sitting = Sitting(notebook)
        self._asked = ""  # the line that was a question: once more it is taken as it stands
        self.room: Callable[[], str] = str  # the room one is in, empty at a stop; the window says

    # --- doing ----------------------------------------------------------------------------------------

    def do(self, command: Command) -> bool:
        """Do a command; False, with a sentence, where it could not be, or where something is asked first."""
        return bool(self._answered(lambda: self._sitting.do(command, self._seen_now(), self._place())))

    def jot(self, jot: object, text: str = "", stop: str = "", of: AnyEntry | None = None) -> bool:
        """Do what a line is that was understood, written at a stop, in place of a note where it was one before.

        False, with a sentence, where it is nothing that is written, or could not be.
        """
        job = self._in_hand.job
        if job is None:  # what is the shop's needs none
            return isinstance(jot, ShopJot) and self.do(stay_commands.shop_details(**{jot.field: jot.text}))
        asked, self._asked = self._asked, text or str(jot)  # what was a question is taken when it is said once more
        at = At(
            job=job, pack=self._in_hand.pack, settings=self._shop.settings, on=self._notebook.clock().date(), text=text,
            known=self._shop.standards, is_sure=asked == self._asked, now=self._notebook.clock(), stop=stop,
        )  # fmt: skip
        try:
            command = command_of(jot, at)
        except CandorError as error:
            self._voice.refuse(error)
            return False
        if command is not None and of is not None:
            command = stay_commands.instead_of_note(of, command)
        return command is not None and self.do(command)

    def write_for(self, job: str, command: Command) -> AnyEntry | None:
        """Do a command of any job, which a link or a timer does; return its first entry."""
        drafts = command.drafts_for(job)
        done = Command(command.name, drafts=drafts, by_itself=command.by_itself)
        answer = self._answered(lambda: self._sitting.do(done, self._seen_now(), self._place()))
        return answer[0] if answer else None

    # --- what waits for the first reading -------------------------------------------------------------

    @property
    def first(self) -> FirstReading | None:
        """What is asked before the first change of a job that was never read; None where nothing waits."""
        return self._sitting.held[1] if self._sitting.held is not None else None

    def drop(self) -> None:
        """What waits is not done: it is read first."""
        self._sitting.held = None

    def go_on(self, dead: str | None = None) -> bool:
        """Do what waits, without as found, or because it arrived dead."""
        done = bool(self._answered(lambda: self._sitting.go_on(self._seen_now(), self._place(), dead)))
        if done:
            self.wentOn.emit()
        return done

    # --- undoing --------------------------------------------------------------------------------------

    def undo(self) -> None:
        """Take back the whole of what was done last here, in this window."""
        self._undone(lambda: self._sitting.undo(self._place(), self._signed))

    def redo(self) -> None:
        """Let stand again what was taken back last here."""

        def again() -> tuple[str, Severity, tuple[AnyEntry, ...]]:
            sentence, written = self._sitting.redo(self._place())
            return sentence, Severity.NOTE, written

        self._undone(again)

    def _undone(self, take_back: Callable[[], tuple[str, Severity, tuple[AnyEntry, ...]]]) -> None:
        try:
            sentence, severity, written = take_back()
        except CandorError as error:
            self._voice.refuse(error)
            return
        if written:
            self._look_anew(written)
        self._voice.say(sentence, severity)

    def _signed(self, job: str) -> int:
        """The number of the newest certificate of a job, 0 where it has none."""
        own = self._in_hand.job
        certificates = own.release.certificates if own is not None and own.id == job else ()
        return certificates[-1].number if certificates else 0

    # --- after ----------------------------------------------------------------------------------------

    def _place(self) -> Place:
        return Place(self.room(), self._in_hand.job.id if self._in_hand.job is not None else "")

    def _seen_now(self) -> Seen:
        hand = self._in_hand
        return Seen(job=hand.job, pack=hand.pack, parts=hand.parts, settings=self._shop.settings, folded=hand.folded)

    def _answered(self, ask: Callable[[], Answer]) -> tuple[AnyEntry, ...]:
        held = self._sitting.held
        try:
            answer = ask()
        except CandorError as error:
            self._voice.refuse(error)
            return ()
        if self._sitting.held is not None and self._sitting.held is not held:
            self.firstAsked.emit()
        if answer.written:
            self._look_anew(answer.written)
            for told in answer.told:
                if told.how == "warn":
                    self._voice.warn(told.sentence)
                else:
                    self._voice.say(told.sentence, told.severity)
        return answer.written

    def _look_anew(self, written: tuple[AnyEntry, ...]) -> None:
        revision = self._notebook.revision()
        others_wrote, self._seen = revision.others != self._seen.others, revision
        if others_wrote or any(not entry.job for entry in written):
            self._shop.look_again()
        job = self._in_hand.job
        if job is not None:
            own = [e for e in written if e.job == job.id]
            if others_wrote:
                self._in_hand.fold_anew()
            elif own:
                self._in_hand.add(own)
            else:
                self._in_hand.calculate()  # what the shop has may serve it otherwise
        self._in_hand.changed.emit()
        shown = {entry.job for entry in written if isinstance(entry.body, SHELF_BODIES)}
        if others_wrote or (shown and (job is None or shown != {job.id})):
            self._shelf.refresh()
        elif shown and self._in_hand.job is not None:
            self._shelf.refresh_job(self._in_hand.job.id, self._in_hand.job.entries)

    def others_wrote(self) -> bool:
        """Say, once, whether others have written since this window last looked; does not wait for who writes just now.

        Raises
        ------
        BusyNotebookError
        """
        revision = self._notebook.revision(patient=False)
        wrote, self._seen = revision != self._seen, revision
        return wrote

    def strike(self, entry: AnyEntry | None) -> bool:
        """Strike an entry out; it stays readable."""
        return entry is not None and self.do(stay_commands.strike(entry))

    def settle(self, finding: str, how: str, reason: str) -> bool:
        """Clear or override a finding; a reason must be written."""
        if not reason.strip():
            words = "Write first how it was cleared, or why it may stand; nothing was written."
            self._voice.say(words, Severity.REFUSED)
            return False
        return self.do(stay_commands.settle(finding, how, reason))

    def take_in(self, name: str, bodies: Iterable[object], of_shop: bool = False) -> bool:
        """Take in the rows of a file that was previewed, as one command."""
        taken = stay_commands.taken_in_by_shop if of_shop else stay_commands.taken_in
        return self.do(taken(name, *bodies))  # type: ignore[arg-type]
