"""Every public function and class of core, packs and notebook says what it takes, gives and may raise."""

import ast
import re
from pathlib import Path

import pytest

SRC = Path(__file__).parents[2] / "src" / "candor"
FILES = sorted(p for part in ("core", "packs", "notebook", "paper") for p in (SRC / part).rglob("*.py"))


def is_overload(node: ast.FunctionDef) -> bool:
    return any(isinstance(d, ast.Name) and d.id == "overload" for d in node.decorator_list)


def public(tree: ast.Module) -> list[ast.FunctionDef | ast.ClassDef]:
    return [n for n in tree.body if isinstance(n, ast.FunctionDef | ast.ClassDef) and not n.name.startswith("_")]


@pytest.mark.parametrize("path", FILES, ids=lambda p: str(p.relative_to(SRC)))
def test_everything_public_is_described(path):
    tree = ast.parse(path.read_text(encoding="utf-8"))
    assert ast.get_docstring(tree), "the module says nothing of itself"
    for node in public(tree):
        assert ast.get_docstring(node), node.name
        if isinstance(node, ast.ClassDef):
            for inner in node.body:
                if isinstance(inner, ast.FunctionDef) and not inner.name.startswith("_") and not is_overload(inner):
                    assert ast.get_docstring(inner), f"{node.name}.{inner.name}"


@pytest.mark.parametrize("path", [p for p in FILES if "core" in p.parts], ids=lambda p: str(p.relative_to(SRC)))
def test_what_is_raised_is_announced(path):
    """A public function of the core that raises itself has a Raises section, or names the error."""
    for node in public(ast.parse(path.read_text(encoding="utf-8"))):
        if not isinstance(node, ast.FunctionDef):
            continue
        raised = {
            n.exc.func.id
            for n in ast.walk(node)
            if isinstance(n, ast.Raise) and isinstance(n.exc, ast.Call) and isinstance(n.exc.func, ast.Name)
        }
        text = ast.get_docstring(node) or ""
        assert not raised or re.search(r"Raises?\b", text), f"{node.name} raises {raised}"
