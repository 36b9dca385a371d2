"""The project's own modules as trees, each parsed once for all tests that look at how it is written."""

from __future__ import annotations

import ast
from functools import cache
from pathlib import Path

SRC = Path(__file__).parents[1] / "src" / "candor"


@cache
def tree(path: Path) -> ast.Module:
    """Return a module as its tree."""
    return ast.parse(path.read_text(encoding="utf-8"))


@cache
def nodes(path: Path) -> tuple[ast.AST, ...]:
    """Return all of a module's nodes, each before what it holds."""
    return tuple(ast.walk(tree(path)))


def modules(under: str = "") -> list[Path]:
    """Return the modules of a folder, in order."""
    return sorted((SRC / under).rglob("*.py"))
