"""A pattern that waits does what one of the standard library does, and a wrong one says so when it is used."""

import re

import pytest

from candor.core.late_pattern import late_pattern


def test_it_is_used_as_a_pattern_is():
    ours, theirs = late_pattern(r"(?P<n>\d+) v", re.I), re.compile(r"(?P<n>\d+) v", re.I)
    for name in ("match", "search", "fullmatch"):
        assert getattr(ours, name)("12 V")["n"] == getattr(theirs, name)("12 V")["n"] == "12"
        assert getattr(ours, name)("x") is getattr(theirs, name)("x") is None
    assert ours.sub("-", "1 v 2 V") == theirs.sub("-", "1 v 2 V")
    assert (ours.pattern, ours.flags, ours.groupindex) == (theirs.pattern, theirs.flags, theirs.groupindex)


def test_nothing_is_compiled_before_it_is_used(monkeypatch):
    made = []
    monkeypatch.setattr(re, "compile", lambda *told: made.append(told) or re._compile(*told))
    waits = late_pattern("a+")
    assert made == []
    assert waits.match("aa")
    assert waits.match("aa")
    assert len(made) == 1
    with pytest.raises(re.error):
        late_pattern("(").match("")
