"""Every paper of a job beside its certificate, by name: what a window and a command line ask for."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import Literal

from candor.notebook.certificates import read_certificate
from candor.notebook.description import description_of
from candor.notebook.drifting import drift_asked, drift_view
from candor.notebook.job import Job
from candor.notebook.standards import Standard
from candor.notebook.states import standing_certificate
from candor.notebook.store import Notebook
from candor.paper.label import NotSignedError, Size, label_pdf
from candor.paper.record import CertificateRecord

Paper = Literal["label", "large-label", "worksheet", "blank-worksheet", "bill", "history"]
PAPERS: Mapping[Paper, tuple[str, str]] = {
    "label": ("Label", "54 × 25 mm: what it is, how it left, until when, what is not covered"),
    "large-label": ("Large label", "89 × 50 mm, the same"),
    "worksheet": ("Worksheet", "The procedure with what was read"),
    "blank-worksheet": ("Blank worksheet", "The procedure with room to write, for a bench without a computer"),
    "bill": ("Bill", "Time and parts as they were written, against the price agreed"),
    "history": ("History sheet", "Every point's drift over all calibrations, and when it is due"),
}
LABELS: Mapping[Paper, Size] = {"label": "small", "large-label": "large"}


def paper_of(
    which: Paper, notebook: Notebook, job: Job, known: Mapping[str, Standard], shop: str, on: dt.date
) -> bytes:
    """Return a paper as PDF.

    Raises
    ------
    NotSignedError
        For a label where no certificate stands signed.
    NothingSpentError
        For a bill of nothing.
    CandorError
        Where the signed certificate is gone or was changed.
    """
    pack = description_of(notebook, job)
    if which in LABELS:
        signed = standing_certificate(job)
        if signed is None:
            raise NotSignedError(
                "There is no label: no certificate is signed, or something was written since. Sign it first; a label states what "
                "was signed."
            )
        content = read_certificate(notebook.certificate_folder, signed.body.digest)
        return label_pdf(CertificateRecord.model_validate_json(content), signed.body.digest, LABELS[which])
    if which == "bill":
        from candor.paper.bill import bill_pdf

        return bill_pdf(job, shop, on)
    if which == "history":
        from candor.paper.history_sheet import history_pdf

        return history_pdf(job, drift_view(drift_asked(notebook, job, known), on), shop, on)
    from candor.paper.worksheet import worksheet_pdf

    return worksheet_pdf(job, pack, shop, on, filled=which == "worksheet")
