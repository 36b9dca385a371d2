"""How Candor speaks: phrases that a reader stumbles at stand in no sentence, and every error says what to do."""

import ast
from functools import cache
from pathlib import Path

from source_trees import modules, nodes

ROOT = Path(__file__).parents[1]
# Phrases to replace where they stand: verbless, passive without an actor, "such as" at the end, one word doing several jobs.
STUMBLES = (
    "xpected such as", "is no such", "there are such as", "no-load", "more error than now", "nobody said at what", "May it be",
    "It may go", "It shows that", "Put it on the bench", "What came to the bench", "nothing is decided by it", "of before",
    "Nothing was taken in", "what lies beside it", "the tube runs elsewhere", "climbs back", "nobody has looked",
    "as far as was looked",
    "with the guard band kept", "No reading would.", "Barred by", "further point", "Of which range", "No power yet",
    "as found stands as left", "lies far from its history", "by manual",
)  # fmt: skip
KEPT = {"a bench notebook that reckons"}


@cache
def sentences():
    """Every string with a space in it that is no docstring, with where it stands."""
    found = []
    for path in modules():
        described = (ast.Module, ast.ClassDef, ast.FunctionDef)
        docs = {
            id(n.body[0].value)
            for n in nodes(path)
            if isinstance(n, described) and n.body and isinstance(n.body[0], ast.Expr)
        }
        for node in nodes(path):
            if (
                isinstance(node, ast.Constant)
                and isinstance(node.value, str)
                and " " in node.value
                and id(node) not in docs
            ):
                found.append((f"{path.relative_to(ROOT)}:{node.lineno}", node.value))
    return found


def test_no_sentence_has_a_phrase_that_readers_stumble_at():
    forms = ("core/jot/", "core/power/plan_text.py")  # what people type is theirs
    assert [
        (where, text[:60])
        for where, text in sentences()
        if any(phrase in text for phrase in STUMBLES) and not any(form in where for form in forms)
    ] == []


def test_what_is_calculated_is_called_so_in_sentences_and_names():
    found = [
        (where, text) for where, text in sentences() if "reckon" in text.lower() and not any(k in text for k in KEPT)
    ]
    assert [f for f in found if "Candor, a bench notebook that reckons" not in f[1]] == []
    names = [
        str(p) for p in (ROOT / "src").rglob("*.py") if "reckon" in p.read_text("utf-8").replace("that reckons", "")
    ]
    assert names == []
