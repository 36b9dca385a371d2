"""A row of the table of verbs."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import field, replace
from functools import cached_property
from typing import Any

from candor.core.errors import ValueTextError
from candor.core.jot.context import JotContext
from candor.core.jot.form import Form, Said
from candor.core.jot.slots import Calculated
from candor.core.late_dataclass import dataclass
from candor.core.worded import worded


@dataclass(frozen=True)
class Verb:
    """One thing that can be said of the work in a line.

    Attributes
    ----------
    name : str
    stop : str
        Where it is mostly said: its help and its examples stand there first.
    does : str
        What becomes of it, for who does not know it.
    forms : tuple of str
        How it is written; see `form.py`.
    examples : tuple of str
        Lines as they are typed, our own; the first stands in questions. Each is understood, as this.
    means : callable
        From what the places say (`Said`) to what the line means; raises CandorError, with a sentence, where it cannot be.
    begins : str
        Lines that begin so (a regular expression) can be nothing else: where such a one does not fit, the example is asked for.
    fielded : tuple of str
        The forms that its fields fill (`verb_fields.py`), where that is not the first of `forms`.
    titles : mapping of str to str
        What stands over a field, by its place in the form; behind a `|` what stands in it, where no example says that. One
        that begins with `!` is needed though the form can be written without it.
    """

    name: str
    stop: str
    does: str
    forms: tuple[str, ...]
    examples: tuple[str, ...]
    means: Callable[[Said], Any]
    begins: str = ""
    fielded: tuple[str, ...] = ()
    titles: Mapping[str, str] = field(default_factory=dict)

    @cached_property
    def read_forms(self) -> tuple[Form, ...]:
        """Its forms, compiled when they are first asked."""
        return tuple(Form(text) for text in self.forms)

    @cached_property
    def first_words(self) -> frozenset[str]:
        """The words its lines begin with; none where some begin with a place."""
        words = [form.first_words for form in self.read_forms]
        return frozenset().union(*words) if all(words) else frozenset()

    def fit(self, line: str, context: JotContext) -> Any | None:
        """Return what a line means as this, in what is in hand; None where it is not written so.

        Raises
        ------
        CandorError
            Where it is written so and cannot be.
        """
        for form in self.read_forms:
            said = form.fit(line)
            if said is not None:
                said.context = context
                jot, how = self.means(said), tuple(v.how for v in said.values() if isinstance(v, Calculated))
                return replace(jot, chips=(*jot.chips, *how)) if how and jot is not None else jot
        return None

    def commits(self, line: str) -> bool:
        """Whether a line can be nothing but this, by its beginning."""
        return bool(self.begins) and re.match(self.begins, line, re.I) is not None

    def misfit(self, line: str) -> ValueTextError:
        """Return the question about a line that begins like this and is not written so."""
        shown = line if len(line) <= 80 else f"{line[:77]} …"
        return ValueTextError(
            worded("jot.candor_cannot_read_here_example_2", shown=shown, first=self.examples[0]),
            value=line,
            expected=self.examples[0],
        )


def by_first_word(verbs: Iterable[Verb], line: str) -> list[Verb]:
    """Return the rows that a line can be of, by its first word."""
    first = re.split(r"[\s,:;@]", line, maxsplit=1)[0].lower()
    return [verb for verb in verbs if not verb.first_words or first in verb.first_words]
