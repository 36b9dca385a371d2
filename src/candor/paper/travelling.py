"""The papers that go with a travelling job: every signed certificate as it is printed."""

from __future__ import annotations

from candor.core.errors import CandorError
from candor.notebook.release.certificates import read_certificate
from candor.notebook.storage.files import plain_name
from candor.notebook.store import Notebook
from candor.notebook.work.job import Job
from candor.paper.record import CertificateRecord


def papers_of(notebook: Notebook, job: Job) -> dict[str, bytes]:
    """Return the signed certificates of a job as PDF, by the name of the file; those whose file is gone are left out."""
    if notebook.away:  # other benches may have written what makes one void: nothing is printed as final meanwhile
        return {}
    from candor.paper.certificate import certificate_pdf

    papers = {}
    for entry in job.release.certificates:
        try:
            content = read_certificate(notebook.certificate_folder, entry.body.digest)
        except CandorError:
            continue
        record = CertificateRecord.model_validate_json(content)
        papers[f"certificate {plain_name(entry.body.number)}.pdf"] = certificate_pdf(
            record,
            entry.body.digest,
            second=job.release.second_words(entry.body.digest),
            photos=notebook.photo_folder,
        )
    return papers
