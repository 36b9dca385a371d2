"""Writing: every entry is on disk before anything is shown."""

from __future__ import annotations

from collections.abc import Iterable

from candor.core.errors import CandorError
from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.shelf import Shelf
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.voice import Voice
from candor.notebook.entries.arrive import FindingSettled
from candor.notebook.entries.body import Body
from candor.notebook.entries.entry import AnyEntry, B, Draft, Entry, drafts_of, says
from candor.notebook.entries.strikes import Struck, Unstruck
from candor.notebook.shelf import SHELF_BODIES
from candor.notebook.store import Notebook


class Writer:
    """Writes entries and has what follows from them looked at anew."""

    def __init__(self, notebook: Notebook, in_hand: JobInHand, shop: Shop, shelf: Shelf, voice: Voice) -> None:
        self._notebook, self._in_hand, self._shop = notebook, in_hand, shop
        self._shelf, self._voice = shelf, voice
        self._seen = notebook.revision()

    def write(self, *bodies: Body) -> bool:
        """Write entries of the job in hand: all or none. False, with a sentence, where they could not be."""
        job = self._in_hand.job
        return job is not None and bool(self.append(drafts_of(job.id, bodies)))

    def write_shop(self, *bodies: Body) -> bool:
        """Write entries of the shop, such as a standard."""
        return bool(self.append(drafts_of("", bodies)))

    def write_one(self, job: str, body: B) -> Entry[B] | None:
        """Write an entry of any job, and return it."""
        for entry in self.append([Draft(job, body)]):
            if says(entry, type(body)):
                return entry
        return None

    def append(self, drafts: Iterable[Draft]) -> list[AnyEntry]:
        """Write entries of any jobs in one transaction; none, with a sentence, where they could not be."""
        asked = tuple(drafts)
        try:
            written = self._notebook.append(asked)
            revision = self._notebook.revision()
        except CandorError as error:
            self._voice.refuse(error)
            return []
        others_wrote, self._seen = revision.others != self._seen.others, revision
        if others_wrote or any(not draft.job for draft in asked):
            self._shop.look_again()
        job = self._in_hand.job
        if job is not None:
            own = [e for e in written if e.job == job.id]
            if others_wrote or len(own) < len(written):
                self._in_hand.fold_anew()
            else:
                self._in_hand.add(own)
        self._in_hand.changed.emit()
        if others_wrote or any(isinstance(draft.body, SHELF_BODIES) for draft in asked):
            self._shelf.refresh()
        return written

    def others_wrote(self) -> bool:
        """Say, once, whether others have written since this window last looked; does not wait for who writes just now.

        Raises
        ------
        BusyNotebookError
        """
        revision = self._notebook.revision(patient=False)
        wrote, self._seen = revision != self._seen, revision
        return wrote

    def strike(self, entry_id: str) -> bool:
        """Strike an entry out; it stays readable."""
        return self.write(Struck(target=entry_id))

    def strike_last(self) -> None:
        """Strike the newest entry of the job that stands."""
        entry = self._in_hand.job.last_standing() if self._in_hand.job else None
        if entry is None:
            self._voice.say("There is nothing to strike.")
        elif self.strike(entry.id):
            self._voice.say(f"Entry {entry.number} struck. Ctrl+Shift+Z takes the strike back.")

    def unstrike_last(self) -> None:
        """Take the last strike back."""
        entry = self._in_hand.job.last_struck() if self._in_hand.job else None
        if entry is None:
            self._voice.say("No entry is struck.")
        elif self.write(Unstruck(target=entry.id)):
            self._voice.say(f"Entry {entry.number} stands again.")

    def settle(self, finding: str, how: str, reason: str) -> bool:
        """Clear or override a finding; a reason must be written."""
        if not reason.strip():
            self._voice.say(
                "Write first how it was cleared, or why it may stand; nothing was written.", Severity.REFUSED
            )
            return False
        body = {"finding": finding, "how": how, "reason": reason.strip()}
        return self.write(FindingSettled.model_validate(body))
