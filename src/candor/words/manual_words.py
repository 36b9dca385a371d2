"""The manual: a page for each task, as it ships; every step of it is done in a test, so that it cannot be wrong."""

from __future__ import annotations

import re
from functools import cache
from importlib import resources

from candor.core.late_dataclass import dataclass


@dataclass(frozen=True)
class ManualPage:
    """A page: its key, its title and its text in Markdown."""

    key: str
    title: str
    text: str

    @property
    def begins(self) -> str:
        """Its first sentence, in plain words."""
        body = next((part for part in self.text.split("\n\n")[1:] if not part.startswith("#")), "")
        return re.split(r"(?<=[.:])\s", " ".join(re.sub(r"[*`]", "", body).split()))[0]

    def has(self, words: str) -> bool:
        """Whether all words that are looked for stand in it."""
        text = self.text.casefold()
        return all(word in text for word in words.casefold().split())


@cache
def manual_pages() -> tuple[ManualPage, ...]:
    """Return every page, in the order of their files."""
    folder = resources.files("candor.manual")
    files = sorted(
        (file for file in folder.iterdir() if file.name.endswith(".md")),
        key=lambda file: int(file.name.partition("-")[0]),
    )
    found = []
    for file in files:
        text = file.read_text(encoding="utf-8")
        found.append(ManualPage(file.name.removesuffix(".md"), text.splitlines()[0].removeprefix("# "), text))
    return tuple(found)
