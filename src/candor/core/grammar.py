"""Parsers of the grammars: made when first used, and kept between starts where a place for that was said.

Making one from its grammar costs tens of milliseconds, each start anew; the library that makes them keeps what it made in a file,
and makes it anew where grammar, library or Python are others, or the file cannot be read.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from lark import Lark

_kept = {"in": ""}


def keep_parsers(folder: str) -> None:
    """Keep parsers in a folder that is there and nobody else writes to: what lies in it is run. Empty for nowhere."""
    _kept["in"] = folder


def parser_of(name: str, grammar: str) -> Lark:
    """Return the parser of a grammar; `name` is what it is kept under."""
    from lark import Lark  # imported here: the window is up before the first line is read

    where = f"{_kept['in']}/{name}.grammar" if _kept["in"] else False
    return Lark(grammar, parser="lalr", lexer="contextual", cache=where)
