"""The errors of the application: each carries what was wrong, where, and what was expected."""

from __future__ import annotations

from typing import Any

from candor.core.worded import Worded


class CandorError(Exception):
    """Base of every error that Candor raises on purpose.

    Parameters
    ----------
    sentence : str
        What was wrong, the value, what to do: shown to the restorer as it stands.
    value, place, expected : str, optional
        The offending text, where it stood, and what would have been right.
    """

    def __init__(self, sentence: str, *, value: str = "", place: str = "", expected: str = "") -> None:
        super().__init__(sentence)
        self.sentence = sentence
        self.value = value
        self.place = place
        self.expected = expected

    def __str__(self) -> str:
        return self.sentence

    def as_fields(self) -> dict[str, Any]:
        """Return it as plain fields, for JSON: its sentence, which finding that is with its figures, and where it stood."""
        finding = self.sentence.finding.as_fields() if isinstance(self.sentence, Worded) else {}
        where = {"value": self.value, "place": self.place, "expected": self.expected}
        return {"error": self.sentence, **finding, **{name: text for name, text in where.items() if text}}


class ValueTextError(CandorError, ValueError):
    """A value that cannot be read as written."""


class UnitError(ValueTextError):
    """A value in a unit that does not fit the place."""


class RangeError(CandorError, ValueError):
    """A value outside what the place can hold."""


class BudgetError(CandorError, ValueError):
    """An uncertainty budget that cannot be right."""


class DateError(CandorError, ValueError):
    """A date that cannot be: not a date, or in the future."""


class CancelledError(CandorError, RuntimeError):
    """Long work that was asked to stop."""
