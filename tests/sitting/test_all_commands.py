"""The table of commands: every one by its name, and nobody but the sitting builds an entry."""

import ast
import inspect

from candor.notebook.entries.kinds_entries import BODIES
from candor.sitting.all_commands import COMMANDS, TOPICS
from candor.sitting.jots import BECOMES
from source_trees import modules, nodes


def test_every_command_is_in_the_table_says_what_it_does_and_returns_a_command():
    for module in TOPICS.values():
        made = {
            f for f in vars(module).values()
            if inspect.isfunction(f) and f.__module__ == module.__name__ and "Command" in str(f.__annotations__.get("return"))
            and not f.__name__.startswith("_")
        }  # fmt: skip
        assert made == set(module.COMMANDS)
    assert len(COMMANDS) == sum(len(m.COMMANDS) for m in TOPICS.values())
    assert all(f.__doc__ for f in COMMANDS.values())
    assert len(BECOMES) >= 35


def test_no_module_of_the_window_names_the_body_of_an_entry():
    bodies = {made.__name__ for made in BODIES.values()}
    named = []
    for path in modules("desktop"):
        for node in nodes(path):
            if isinstance(node, ast.ImportFrom):
                named += [f"{path.name}: {a.name}" for a in node.names if a.name in bodies]
            if isinstance(node, ast.Name) and node.id in bodies:
                named.append(f"{path.name}:{node.lineno} {node.id}")
    assert named == []
