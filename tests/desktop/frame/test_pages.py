"""Pages are made when they are entered."""

import pytest

from candor.desktop.frame.pages import Pages


class Made:
    """A page, as the window makes one."""

    def __init__(self, theme):
        self.theme = theme


def test_pages_are_made_once_with_what_they_ask_for_and_only_when_entered():
    added = []
    pages = Pages(
        {"a": (__name__, "Made")}, {"theme": "theme", "notebook": "not asked for"}, lambda name, _: added.append(name)
    )
    assert (list(pages), len(pages), pages.made, added) == (["a"], 1, (), [])
    first = pages["a"]
    assert pages["a"] is first
    assert (added, first.theme, pages.made) == (["a"], "theme", (first,))
    with pytest.raises(KeyError):
        pages["nowhere"]
