"""All papers of a day in one: its sheet with what to fetch, and a blank worksheet of each instrument that is read on it."""

from __future__ import annotations

import datetime as dt
import io

from candor.core.errors import CandorError
from candor.notebook.parts.supplies import KINDS, supplies
from candor.notebook.plan.day import Day
from candor.notebook.plan.pick_list import pick_list
from candor.notebook.store import Notebook
from candor.notebook.work.description import description_of
from candor.notebook.work.job import fold
from candor.paper.day_sheet import day_pdf
from candor.paper.worksheet import worksheet_pdf

READS = frozenset(("step", "adjust"))


def day_papers(notebook: Notebook, day: Day, on: dt.date, shop: str) -> bytes:
    """Return the papers of a day as one PDF.

    Parameters
    ----------
    notebook : Notebook
    day : Day
        The plan.
    on : date
    shop : str
        Its name.

    Raises
    ------
    NotebookError
        Where the notebook cannot be read.
    """
    deeds = day.of_day(on)
    names = {d.job: d.name for d in deeds}
    picks = pick_list(deeds, supplies(notebook.entries_of_kinds(KINDS), names))
    papers = [day_pdf(day, on, shop, picks)]
    for key in dict.fromkeys(d.job for d in deeds if d.work in READS):
        job = fold(key, notebook.entries_of(key))
        try:
            papers.append(worksheet_pdf(job, description_of(notebook, job), shop, on, filled=False))
        except CandorError:  # its pack cannot be read: the plan says so, the other papers are printed
            continue
    return in_one(papers)


def in_one(papers: list[bytes]) -> bytes:
    """Return PDFs as one, in their order."""
    from pypdf import (  # not by the library that draws pages: that one may be entered by one thread alone
        PdfReader,
        PdfWriter,
    )

    whole = PdfWriter()
    for paper in papers:
        whole.append(PdfReader(io.BytesIO(paper)))
    stream = io.BytesIO()
    whole.write(stream)
    return stream.getvalue()
