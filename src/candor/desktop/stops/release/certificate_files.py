"""The certificate printed, or saved as a file: always as it stands now, never as it was shown before."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from candor.core.severity import Severity
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.voice import Voice
from candor.desktop.frame.drawn_pdf import Printable
from candor.desktop.frame.file_names import save_name
from candor.desktop.stops.release.drawing import certificate_bytes
from candor.durably import write_durably
from candor.notebook.release.certificates import read_certificate
from candor.notebook.store import Notebook
from candor.paper.names import file_name
from candor.paper.printing import Printed


class CertificateFiles(QObject):
    """What leaves of a certificate; `to_print` says what it is at the moment.

    Signals
    -------
    printAsked(object)
        It is to be looked at and printed: a Printable.
    """

    printAsked = Signal(object)

    def __init__(
        self, *, in_hand: JobInHand, voice: Voice, notebook: Notebook, to_print: Callable[[], Printed]
    ) -> None:
        super().__init__()
        self._in_hand, self._voice, self._notebook, self._to_print = in_hand, voice, notebook, to_print

    def print_(self) -> None:
        """Show it before it is printed."""
        printed, job = self._to_print(), self._in_hand.job
        record, digest = printed.record, printed.digest
        if record is None or job is None:
            self._voice.refuse(printed.refused or "There is no certificate to print.")
            return
        title = f"{'Certificate' if digest else 'Draft of certificate'} {record.number}"
        words = ("It is signed." if digest else "It is a draft: it is not signed, and its heading says so.",)
        second, photos = job.release.second_words(digest), self._notebook.photo_folder
        make = partial(certificate_bytes, record, digest, second, photos)
        self.printAsked.emit(Printable(title, self._name(printed, "pdf"), make, words))

    def ask(self, parent: QWidget, ending: str) -> None:
        """Ask for a name, and save it so."""
        suggested = self._name(self._to_print(), ending)
        name = save_name(parent, "Save the certificate", suggested, f"{ending.upper()} (*.{ending})")
        if name:
            self.save(Path(name))

    @staticmethod
    def _name(printed: Printed, ending: str) -> str:
        record = printed.record
        if record is None:
            return f"certificate.{ending}"
        return file_name(f"{record.maker} {record.type}", record.serial, "certificate", ending, record.number)

    def save(self, path: Path) -> bool:
        """Save what is printed as its ending says; False, with a sentence, where it cannot be."""
        printed, job = self._to_print(), self._in_hand.job
        record, digest = printed.record, printed.digest
        if record is None or job is None:
            self._voice.refuse(printed.refused or "There is no certificate to save.")
            return False
        try:
            if path.suffix.lower() == ".json":
                content = record.to_bytes()
                if digest:
                    content = read_certificate(self._notebook.certificate_folder, digest)
            else:
                second, photos = job.release.second_words(digest), self._notebook.photo_folder
                content = certificate_bytes(record, digest, second, photos, lambda: False)
            write_durably(path, content)
        except OSError as error:
            self._voice.refuse(f"{path} could not be written: {error.strerror}. Nothing was lost.")
            return False
        self._voice.say(f"Saved as {path.name}{'' if digest else ', a draft: it is not signed'}.", Severity.DONE)
        return True
