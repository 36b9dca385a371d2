"""Decimals on the screen follow the country of the desktop; what is typed, kept and printed has a point."""

import pytest
from PySide6.QtCore import QLocale
from PySide6.QtWidgets import QLabel

from candor.desktop.frame import local_numbers
from candor.desktop.frame.local_numbers import local
from candor.desktop.frame.theme import Words, plain_tip


@pytest.fixture
def comma(monkeypatch):
    monkeypatch.setattr(local_numbers, "_sign", lambda: ",")


def test_the_sign_is_that_of_the_country():
    assert local("1.5 V") == f"1{QLocale.system().decimalPoint()}5\u00a0V"


def test_labels_and_tips_follow_and_still_say_what_was_said(qtbot, comma):
    made = Words("error 0.40 V")
    qtbot.addWidget(made)
    assert QLabel.text(made) == "error 0,40\u00a0V"
    assert made.text() == "error 0.40 V"
    assert plain_tip("0.40 V").startswith("0,40")
