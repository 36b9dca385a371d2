"""All papers of a day in one press."""

import io

from pypdf import PdfReader
from typer.testing import CliRunner

from candor.cli import app
from candor.notebook.entries.parts_entries import ReplacementChosen
from candor.notebook.plan.planning import plan_day
from candor.paper.day_papers import READS, day_papers
from stockroom import film, need
from workbench import NOW


def test_sheet_pick_list_and_worksheets(demo, tmp_path):
    plan = plan_day(demo, NOW)
    on = next(d.begins.date() for d in plan.deeds if d.work == "fit")
    fit = next(d for d in plan.of_day(on) if d.work == "fit")
    demo.write("", film(place="B2"))
    demo.write(fit.job, ReplacementChosen(ref=fit.of.split(", ")[0], lines=(need(key="f"),)))
    pages = [p.extract_text() for p in PdfReader(io.BytesIO(day_papers(demo, plan, on, "Marsh Lane"))).pages]
    assert "Fetch from the drawers" in pages[0] and "B2" in pages[0] and "47 nF 630 V film" in pages[0]
    assert "Marsh Lane" in pages[0]
    read = dict.fromkeys(d.name for d in plan.of_day(on) if d.work in READS)
    assert sum("Worksheet: " in p for p in pages) == len(read)
    told = CliRunner().invoke(
        app, ["day", str(demo.path), "--now", NOW.isoformat(), "--papers", str(tmp_path / "day.pdf")]
    )
    assert told.exit_code == 0
    assert len(PdfReader(tmp_path / "day.pdf").pages) >= 1
