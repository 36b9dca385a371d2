"""Parsers of the grammars: their tables lie beside this module, made by `candor packs grammars` when a grammar changes.

Making a parser from its grammar costs tens of milliseconds, taking its tables a few. They are a module of this program
(`parsers.py`): nothing is kept on the user's disk, so nothing there can be put in their place. Where they are of another
grammar, or of another version of the library, the parser is made anew.
"""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

from candor.core.parsers import TABLES

if TYPE_CHECKING:
    from lark import Lark

HEAD = '"""Made by `candor packs grammars`; see `grammar.py`."""'


def parser_of(name: str, grammar: str) -> Lark:
    """Return the parser of a grammar; `name` is what its tables are kept under."""
    from lark import Lark  # imported here: the window is up before the first line is read

    kept = TABLES.get(name)
    if kept is None or kept["digest"] != _digest(grammar):
        return _made(grammar)
    taken: Any = Lark  # as the library's own stand-alone parsers do it
    parser: Lark = taken._load_from_dict(data=kept["data"], memo=kept["memo"])
    return parser


def tables_of(grammar: str) -> dict[str, Any]:
    """Return the tables of a grammar's parser, with the digest of what they were made from, as they are kept."""
    from lark.grammar import Rule
    from lark.lexer import TerminalDef

    data, memo = _made(grammar).memo_serialize([TerminalDef, Rule])
    return {"digest": _digest(grammar), "data": data, "memo": memo}


def _made(grammar: str) -> Lark:
    from lark import Lark

    return Lark(grammar, parser="lalr", lexer="contextual")


def _digest(grammar: str) -> str:
    import lark

    return hashlib.sha256(f"{lark.__version__}\n{grammar}".encode()).hexdigest()


def module_of(grammars: Mapping[str, str]) -> str:
    """Return the module of the tables of grammars by name."""
    tables = {name: tables_of(grammar) for name, grammar in grammars.items()}
    return f"{HEAD}\n\nTABLES = {tables!r}\n"
