"""What to fetch for the day: each drawer once, the last piece once."""

from types import SimpleNamespace

from candor.notebook.entries.parts_entries import ReplacementChosen
from candor.notebook.entries.stay_entries import JobOpened
from candor.notebook.plan.pick_list import pick_list
from stockroom import film, need, supplied


def test_what_to_fetch_by_drawer(notebook):
    notebook.write("", film(count=1, place="B2"))
    notebook.write("", film(key="other", count=5, place="A1", value=10e-9))
    for job in ("a", "b"):
        notebook.write(job, JobOpened(maker="M", type="T", serial=job))
        notebook.write(job, ReplacementChosen(ref="C1", lines=(need(key="f"),)))
    notebook.write(
        "a", ReplacementChosen(ref="C2", lines=(need(text="10 nF 630 V film", key="other", value=10e-9, count=2),))
    )
    deeds = [
        SimpleNamespace(work="fit", job=job, name=f"meter {job}", of=of)
        for job, of in (("a", "C1, C2, C3"), ("b", "C1"))
    ]
    deeds.append(SimpleNamespace(work="step", job="a", name="meter a", of="C1"))
    found = pick_list(deeds, supplied(notebook))
    assert [(p.instrument, p.ref, p.count, p.place, p.here) for p in found] == [
        ("meter a", "C2", 2, "A1", True),
        ("meter a", "C1", 1, "B2", True),
        ("meter b", "C1", 1, "B2", False),  # the last piece is spoken for
        ("meter a", "C3", 0, "", False),  # nothing was chosen
    ]
