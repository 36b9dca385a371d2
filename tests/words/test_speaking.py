"""No sentence is made outside of words: each finding stands once in the table of its topic, with the figures it is given."""

import ast
import copy
import json
import pickle
import re
import string

import pytest

from candor.core.errors import CandorError
from candor.core.parts.mains import Mains
from candor.core.power.lamp import with_lamp
from candor.core.worded import Worded, worded
from candor.words.speaking import all_sentences, sentence_of
from source_trees import SRC, nodes

SILENT = ("core", "notebook", "sitting", "packs", "links", "paper")
UNIT = re.compile(r"\0 (V|A|Ω|ohm|W|Hz|s|min|%|°C|K|div|dB|mA|h|days?)\b")
VERDICT = re.compile(r"\b(passes|fails|out of tolerance|cannot|replace|safe|not)\b")
# What a program reads or asks of a database; and what people type, in the table of verbs and beside its fields.
NO_ENGLISH = re.compile(
    r"\\[sbdwSB]|\(\?|\]\*|\b(select|pragma|create|insert into|insert or|delete from|update \w+ set|order by|where) "
    r"|\b(revoke|grant) |returns? trigger|kind <>|^number, id",
    re.I,
)
TYPED = ("core/jot/", "core/quantities/show.py", "core/quantities/units.py", "standards/usual_classes.py")


def _silent():
    pages = ("core/jot/lines_manual.py", "core/worded.py")  # a page of headings, and what says the words
    return [
        p
        for p in sorted(SRC.rglob("*.py"))
        if p.relative_to(SRC).parts[0] in SILENT and str(p.relative_to(SRC)) not in pages
    ]


def _made(path):
    """Yield the line and the text of every string that is more than a name, with a zero byte for each figure in it."""
    whole = nodes(path)
    named = {id(inner) for n in whole for inner in _no_sentences(n)}
    raised = {id(inner) for n in whole if isinstance(n, ast.Raise) for inner in ast.walk(n)}
    for n in whole:
        if id(n) in named:
            continue
        if isinstance(n, ast.JoinedStr):
            parts = [v.value if isinstance(v, ast.Constant) else "\0" for v in n.values]
            yield n.lineno, "".join(parts), True, id(n) in raised
        elif isinstance(n, ast.Constant) and isinstance(n.value, str):
            yield n.lineno, n.value, False, id(n) in raised


def _no_sentences(node):
    """Yield what stands in docstrings, in fields' descriptions, in types, in comparisons and in keys, and pieces of f-strings."""
    if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
        yield node.value
    if isinstance(node, ast.Call):
        for word in node.keywords:
            yield from ast.walk(word) if word.arg in ("description", "examples", "pattern") else ()
        yield from (
            ast.walk(node)
            if ast.unparse(node.func).endswith(("Field", "compile", "late_pattern", "Form", "Verb"))
            else ()
        )
    if isinstance(node, ast.Compare) or (isinstance(node, ast.Subscript) and ast.unparse(node.value) == "Literal"):
        yield from ast.walk(node)
    if isinstance(node, ast.Dict):
        yield from (key for key in node.keys if key is not None)
    if isinstance(node, ast.JoinedStr):
        yield from (v for v in node.values if isinstance(v, ast.Constant))


def _is_sentence(text, is_made, is_raised, path):
    if NO_ENGLISH.search(text) or text.startswith("{"):  # or a line of YAML
        return False
    if is_made and (UNIT.search(text) or VERDICT.search(text)):
        return not any(place in str(path) for place in TYPED)
    spaces, words = text.strip().count(" "), len(re.findall("[A-Za-z]{2,}", text))
    if is_made or is_raised:
        return words >= 2 and spaces >= 3 - is_raised
    return words >= 2 and spaces >= 3 and text.rstrip()[-1:] in ".?" and "{" not in text


def test_no_sentence_is_made_outside_of_words():
    """No f-string of words, with a unit or a verdict; nothing raised in words; no sentence that stands as a constant."""
    found = [
        f"{path.relative_to(SRC)}:{line} {text[:70]!r}"
        for path in _silent()
        for line, text, is_made, is_raised in _made(path)
        if _is_sentence(text, is_made, is_raised, path)
    ]
    assert found == []


def test_every_finding_has_its_sentence_and_is_given_the_figures_in_it():
    """Read from the source: so no call can name a sentence or a figure that is not there, and no sentence stands unused."""
    tables, used = dict(all_sentences()), set()
    for path in _silent():
        for n in nodes(path):
            if isinstance(n, ast.Call) and isinstance(n.func, ast.Name) and n.func.id == "worded":
                for kind in _names(n.args[0], nodes(path)):
                    given = {k.arg for k in n.keywords}
                    named = {f.split(".")[0] for _, f, _, _ in string.Formatter().parse(tables[kind]) if f}
                    nested = {
                        m
                        for _, _, spec, _ in string.Formatter().parse(tables[kind])
                        if spec
                        for m in re.findall(r"\{(\w+)\}", spec)
                    }
                    assert named | nested == given, f"{path}:{n.lineno} {kind}"
                    used.add(kind)
    assert set(tables) == used


def _names(of, whole):
    """Return the name, or the names that a variable of that module is given."""
    if isinstance(of, ast.Constant):
        return [of.value]
    given = [n.value for n in whole if isinstance(n, ast.Assign) and ast.unparse(n.targets[0]) == ast.unparse(of)]
    return [
        value.value for value in given if isinstance(value, ast.Constant) and value.value in dict(all_sentences())
    ]


def test_a_sentence_knows_its_finding_and_its_figures():
    with pytest.raises(CandorError) as caught:
        with_lamp(Mains(230, 50), 0, 60)
    sentence = caught.value.sentence
    assert isinstance(sentence, Worded)
    assert sentence == sentence_of(sentence.finding.kind)
    inner = worded("entries.timer", label="cathode", minutes=2.5)
    outer = worded("entries.timer", label=inner, minutes=30)
    assert inner == "cathode: timer of 2.5 min started"
    assert outer.finding.as_fields() == {
        "finding": "entries.timer",
        "label": {"finding": "entries.timer", "label": "cathode", "minutes": 2.5},
        "minutes": 30,
    }
    for sent in (copy.deepcopy(outer), pickle.loads(pickle.dumps(outer)), json.loads(json.dumps(outer))):
        assert sent == outer and type(sent) is str


def test_what_has_no_words_is_no_sentence():
    with pytest.raises(LookupError):
        worded("entries.never_written")
    with pytest.raises(LookupError):
        worded("entries.timer", label="cathode")
