"""A start: nothing is collected until the window is up."""

import gc

import pytest

from candor.desktop import begin


@pytest.fixture(autouse=True)
def _as_before():
    yield
    gc.unfreeze()
    gc.enable()


def test_nothing_is_collected_until_the_window_is_up():
    begin.hurry()
    assert not gc.isenabled()
    begin.relax()
    assert gc.isenabled()
