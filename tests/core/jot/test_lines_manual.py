"""The page of lines is the table: none is missing, and the manual is what it makes."""

from pathlib import Path

from candor.core.jot.lines_manual import page, told
from candor.core.jot.rows import VERBS


def test_the_manual_is_made_from_the_table():
    assert (Path(__file__).parents[3] / "docs" / "manual" / "lines.md").read_text("utf-8") == page()
    assert len(told()) == len(VERBS)
    for verb in VERBS:
        assert verb.does in page()
        assert all(f"`{example}`" in page() for example in verb.examples)
