"""The sentences by name: what the core and the notebook find in passing, each in one table of its topic."""

from __future__ import annotations

import pkgutil
from collections.abc import Iterator, Mapping
from functools import cache
from importlib import import_module

from candor.words import sentences

_ENDS = "_sentences"


def sentence_of(kind: str) -> str:
    """Return the sentence of a finding, ``topic.name``, with a name in braces for each of its figures.

    Raises
    ------
    LookupError
        Where there is none.
    """
    topic, _, name = kind.partition(".")
    return _of(topic)[name]


def all_sentences() -> Iterator[tuple[str, str]]:
    """Yield every finding that is said in passing with its sentence, by topic."""
    for module in pkgutil.iter_modules(sentences.__path__):
        topic = module.name.removesuffix(_ENDS)
        yield from ((f"{topic}.{name}", text) for name, text in _of(topic).items())


@cache
def _of(topic: str) -> Mapping[str, str]:
    table: Mapping[str, str] = import_module(f"{sentences.__name__}.{topic}{_ENDS}").SENTENCES
    return table
