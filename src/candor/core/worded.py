"""What is said in passing: a finding with its figures that is, as text, its sentence. The English stands in `candor.words`."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from candor.core.finding import Finding


class Worded(str):
    """A sentence, or a part of one, that knows which finding it puts into words and on what figures it rests.

    It is its text, so it can be shown, printed, compared and spoken as it stands; copied or sent it is the text alone.
    """

    __slots__ = ("_figures", "_kind")
    _figures: dict[str, Any]
    _kind: str

    @property
    def finding(self) -> Finding:
        """What is put into words: its kind, as ``topic.name``, and its figures; what is no number is told as it reads."""
        return Finding(self._kind, {name: _figure(value) for name, value in self._figures.items()})

    def __reduce__(self) -> tuple[type[str], tuple[str]]:
        return (str, (str(self),))


def _by_name(kind: str) -> str:
    raise LookupError(f"No words were given for {kind}.")


_template: Callable[[str], str] = _by_name


def speak_with(template: Callable[[str], str]) -> None:
    """Give the core its words: `template` says the sentence of a kind, with a name in braces for each figure."""
    global _template
    _template = template


def worded(kind: str, /, **figures: Any) -> str:
    """Return a finding in its words: a `Worded`, for all purposes a string.

    Parameters
    ----------
    kind : str
        Which, as ``topic.name``: a line of the table of that topic in `candor.words.sentences`.
    **figures
        What its sentence names, in the unit that stands beside it there.

    Raises
    ------
    LookupError
        Where no sentence has that name, or it names a figure that is not given: a test reads every call, so neither happens.
    """
    text = Worded(_template(kind).format(**figures))
    text._kind, text._figures = kind, figures
    return text


def _figure(value: Any) -> float | str | Finding:
    if isinstance(value, Worded):
        return value.finding
    return value if isinstance(value, int | float) and not isinstance(value, bool) else str(value)
