"""Every public function and class says what it takes, gives and may raise; those of the core with units and sources."""

import ast
import re
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from source_trees import SRC, modules, nodes, tree

FILES = sorted(p for part in ("core", "packs", "links", "notebook", "paper") for p in modules(part))
CORE = [p for p in FILES if "core" in p.parts]
READS_TEXT = "jot"  # every other folder of the core calculates
UNIT = re.compile(
    r"(?<!\w)(V|A|ohm|Ω|F|H|Hz|s|W|S|°C|%|SI|kHz|degrees)(?!\w)|per cent|share|ratio|unit|divisions|ticks|probability|number of"
    r"|counts|degrees of freedom"
)
SOURCE = re.compile(
    r"JCGM|IEC|ILAC|EA-|NIST|IEEE|19\d\d|20\d\d|common practice, no source|[Bb]y definition|Rayleigh|Tellegen|Kirchhoff|Ohm's law"
    r"|SI Brochure"
)


def functions(path: Path) -> Iterator[tuple[ast.FunctionDef, str]]:
    """The public functions of a module, each with its docstring."""
    for node in tree(path).body:
        if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
            yield node, ast.get_docstring(node) or ""


def is_overload(node: ast.FunctionDef | ast.ClassDef) -> bool:
    return any(isinstance(d, ast.Name) and d.id == "overload" for d in node.decorator_list)


def annotations(node: ast.FunctionDef) -> str:
    named = [a.annotation for a in (*node.args.args, *node.args.kwonlyargs) if a.annotation]
    return " ".join(ast.unparse(a) for a in (*named, *([node.returns] if node.returns else [])))


def works_out(node: ast.FunctionDef) -> bool:
    """Whether a function holds a formula: two products, quotients or powers, and gives more than words."""
    signs = sum(isinstance(x, ast.BinOp) and isinstance(x.op, ast.Mult | ast.Div | ast.Pow) for x in ast.walk(node))
    return signs >= 2 and not node.name.startswith(("say_", "read_"))


def raising() -> set[str]:
    """The functions of the core that raise, or call one that does and let it through."""
    found: dict[str, ast.FunctionDef] = {}
    count: Counter[str] = Counter()
    for path in CORE:
        for node in nodes(path):
            if isinstance(node, ast.FunctionDef):
                found[node.name] = node
                count[node.name] += 1
    once = {name: node for name, node in found.items() if count[name] == 1}
    raises = {n for n, node in once.items() if any(isinstance(x, ast.Raise) and x.exc for x in ast.walk(node))}
    while more := {n for n, node in once.items() if n not in raises and let_through(node) & raises}:
        raises |= more
    return raises


def let_through(node: ast.AST) -> set[str]:
    """The functions called outside of what catches."""
    if isinstance(node, ast.With) and any("suppress" in ast.unparse(i.context_expr) for i in node.items):
        return set()
    inside: list[ast.AST] = list(ast.iter_child_nodes(node))
    if isinstance(node, ast.Try) and node.handlers:
        inside = [*node.handlers, *node.orelse, *node.finalbody]
    called = {node.func.id} if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) else set()
    return called.union(*map(let_through, inside)) if inside else called


def public(body: list[ast.stmt]) -> Iterator[ast.FunctionDef | ast.ClassDef]:
    for node in body:
        if (
            isinstance(node, ast.FunctionDef | ast.ClassDef)
            and not node.name.startswith("_")
            and not is_overload(node)
        ):
            yield node
            yield from public(node.body) if isinstance(node, ast.ClassDef) else ()


def test_everything_public_is_described():
    assert len(FILES) > 300
    assert [p for p in FILES if not ast.get_docstring(tree(p))] == []
    assert [f"{p}: {n.name}" for p in FILES for n in public(tree(p).body) if not ast.get_docstring(n)] == []


def test_numbers_of_the_core_have_units():
    lacking = [
        f"{path.name}: {node.name}"
        for path in CORE
        for node, text in functions(path)
        if re.search(r"\bfloat\b|Vector|Floats", annotations(node)) and not UNIT.search(text)
    ]
    assert lacking == []


def test_arrays_of_the_core_have_shapes():
    lacking = [
        f"{path.name}: {node.name}"
        for path in CORE
        for node, text in functions(path)
        if re.search(r"Vector|NDArray|Matrix", annotations(node)) and "shape" not in text
    ]
    assert lacking == []


def test_formulas_of_the_core_have_sources():
    lacking = [
        f"{path.name}: {node.name}"
        for path in CORE
        if path.relative_to(SRC / "core").parts[0] != READS_TEXT
        for node, text in functions(path)
        if works_out(node) and not SOURCE.search(" ".join(f"{text} {ast.get_docstring(tree(path))}".split()))
    ]
    assert lacking == []


def test_what_is_raised_is_announced():
    """By the function itself, or by one it calls and does not catch."""
    raises = raising()
    assert len(raises) > 60
    lacking = [
        f"{path.name}: {node.name}"
        for path in CORE
        for node, text in functions(path)
        if node.name in raises and not re.search(r"Raises?\b", text)
    ]
    assert lacking == []
