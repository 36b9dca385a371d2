"""Fixtures of notebook."""

from __future__ import annotations

import pytest

from candor.notebook.entries.parts_entries import (
    ReplacementChosen,
)
from candor.notebook.entries.stay_entries import (
    JobOpened,
)
from stockroom import film, need


@pytest.fixture
def ordered(notebook):
    """Two jobs that need three film capacitors, two of them on hand, and one job an electrolytic."""
    for job in ("a", "b"):
        notebook.write(job, JobOpened(maker="M", type=job, serial="", pack_digest="x"))
    notebook.write("", film(count=1))
    notebook.write("a", ReplacementChosen(ref="C8", arrangement="x", lines=(need(count=2, key="f"),)))
    notebook.write("b", ReplacementChosen(ref="C9", arrangement="x", lines=(need(key="f"),)))
    notebook.write(
        "b", ReplacementChosen(ref="C1", arrangement="y", lines=(need("10 µF 450 V", price=1.5, value=10e-6),))
    )
    return notebook
