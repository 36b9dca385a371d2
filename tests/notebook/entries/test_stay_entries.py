"""Time and money as entries."""

import pytest
from pydantic import ValidationError

from candor.notebook.entries.stay_entries import Spent


def test_spent_says_time_or_money():
    with pytest.raises(ValidationError, match="neither a time nor an amount"):
        Spent()
    assert Spent(minutes=3).money == 0
