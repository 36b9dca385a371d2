"""Every paper of a job beside its certificate, by name: what a window and a command line ask for."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import Literal

from candor.core.late_dataclass import dataclass
from candor.core.quantities.show import show_old
from candor.core.worded import worded
from candor.notebook.entries.shop_entries import shop_record
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.parts.parts_list import list_parts
from candor.notebook.release.certificates import read_certificate
from candor.notebook.release.leaving import leaving_list
from candor.notebook.soak.drifting import drift_asked, drift_view
from candor.notebook.standards.standards import Standard
from candor.notebook.store import Notebook
from candor.notebook.work.description import description_of
from candor.notebook.work.job import Job
from candor.notebook.work.settings import settings_of
from candor.notebook.work.states import standing_certificate
from candor.packs.model import Pack
from candor.paper.gather import NothingStandsError, make_certificate
from candor.paper.label import NotSignedError, Size, label_pdf
from candor.paper.record import CertificateRecord, Statement

Paper = Literal[
    "label", "large-label", "owner-card", "correction-card", "worksheet", "blank-worksheet", "bill", "history", "digital"
]  # fmt: skip
PAPERS: Mapping[Paper, tuple[str, str]] = {
    "label": ("Label", worded("paper.mm_the_instrument_its_result_the")),
    "large-label": ("Large label", worded("paper.mm_the_same")),
    "owner-card": (
        "Owner's card",
        worded("paper.three_points_to_repeat_on_arrival"),
    ),
    "correction-card": ("Correction card", worded("paper.for_the_case_by_range_what")),
    "worksheet": ("Worksheet", worded("paper.the_procedure_with_what_was_read")),
    "blank-worksheet": ("Blank worksheet", worded("paper.the_procedure_with_room_to_write")),
    "bill": ("Bill", worded("paper.time_and_parts_as_they_were")),
    "history": ("History sheet", worded("paper.every_point_s_drift_over_all")),
    "digital": (
        "Digital certificate",
        worded("paper.what_was_signed_in_the_open"),
    ),
}
ENDINGS: Mapping[Paper, str] = {"digital": "xml"}
CARDS: tuple[Paper, ...] = ("owner-card", "correction-card")
LABELS: Mapping[Paper, Size] = {"label": "small", "large-label": "large"}


@dataclass(frozen=True)
class Wanted:
    """What a paper is made of beside the job: the standards by name, the shop's name and country, and the day."""

    known: Mapping[str, Standard]
    shop: str
    country: str
    on: dt.date


def ending_of(which: Paper) -> str:
    """Return the ending of a paper's file."""
    return ENDINGS.get(which, "pdf")


def paper_of(which: Paper, notebook: Notebook, job: Job, wanted: Wanted) -> bytes:
    """Return a paper, PDF or XML.

    Raises
    ------
    NotSignedError
        For a label, a card or a digital certificate where no certificate stands signed.
    NothingSpentError, NothingToRepeatError
        For a bill of nothing, and an owner's card of nothing.
    DigitalError
        Where what a digital certificate asks for is not said.
    CandorError
        Where the signed certificate is gone or was changed.
    """
    show_old(settings_of(shop_record(Standing(notebook.entries_of(""))).details).units)
    pack, shop, on = description_of(notebook, job), wanted.shop, wanted.on
    if which in (*LABELS, *CARDS, "digital"):
        record, digest = _signed(notebook, job)
        if which == "digital":
            from candor.paper.digital import digital_certificate

            return digital_certificate(record, digest, wanted.country)
        if which in CARDS:
            from candor.paper.cards import correction_card, owner_card

            return owner_card(record, digest) if which == "owner-card" else correction_card(record, digest)
        return label_pdf(record, digest, LABELS[which])
    if which == "bill":
        from candor.paper.bill import bill_pdf

        return bill_pdf(job, shop, on)
    if which == "history":
        from candor.paper.history_sheet import history_pdf

        return history_pdf(job, drift_view(drift_asked(notebook, job, wanted.known), on), shop, on)
    from candor.paper.worksheet import worksheet_pdf

    filled = which == "worksheet"
    return worksheet_pdf(
        job, pack, shop, on, filled, _statements(notebook, job, pack, wanted) if filled else (),
        head=notebook.head_words(job.id) if filled else "",
    )  # fmt: skip


def _statements(notebook: Notebook, job: Job, pack: Pack, wanted: Wanted) -> tuple[Statement, ...]:
    """What a certificate of the job as it stands would state on its page one; that there is none where there could be none."""
    settings = settings_of(shop_record(Standing(notebook.entries_of(""))).details)
    parts = list_parts(job, pack, mains=settings.mains, esr_hertz=settings.esr_hertz)
    try:
        made = make_certificate(
            job=job, pack=pack, known=wanted.known, shop=wanted.shop, who=notebook.who, now=notebook.clock(),
            broken=notebook.broken_links(job.id), leaving=leaving_list(job, parts, settings.local_rule),
            head=notebook.head_words(job.id), faults=notebook.faults_of(job.id, job.entries),
        )  # fmt: skip
    except NothingStandsError as error:
        return (Statement(text=str(error), entry=0, kind="nothing stands"),)
    return made.record.remarks


def _signed(notebook: Notebook, job: Job) -> tuple[CertificateRecord, str]:
    if away := notebook.away:
        raise NotSignedError(worded("paper.nothing_is_final_while_away", away=away))
    signed = standing_certificate(job)
    if signed is None:
        raise NotSignedError(worded("paper.there_is_none_no_certificate_is"))
    content = read_certificate(notebook.certificate_folder, signed.body.digest)
    return CertificateRecord.model_validate_json(content), signed.body.digest
