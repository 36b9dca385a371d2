"""No module needs one that needs it: also imports for types alone count."""

import graphlib
import os
import subprocess
import sys
import tomllib
from pathlib import Path

import grimp

ROOT = Path(__file__).parents[1]


def test_modules_form_no_cycle():
    graph = grimp.build_graph("candor", exclude_type_checking_imports=False, cache_dir=None)
    needs = {module: graph.find_modules_directly_imported_by(module) for module in graph.modules}
    assert len(needs) > 150
    try:
        graphlib.TopologicalSorter(needs).prepare()
    except graphlib.CycleError as error:
        raise AssertionError(" needs ".join(reversed(error.args[1]))) from None


def test_the_guard_between_stops_names_every_stop():
    """Derived from the folders: a new stop that the contract leaves out would be free to know the others."""
    contracts = tomllib.loads((ROOT / "pyproject.toml").read_text("utf-8"))["tool"]["importlinter"]["contracts"]
    named = next(c["modules"] for c in contracts if c["name"] == "A stop knows no other stop")
    folders = {p.name for p in (ROOT / "src/candor/desktop/stops").iterdir() if (p / "__init__.py").is_file()}
    assert {name.rsplit(".", 1)[1] for name in named} == folders


def test_a_window_is_up_before_what_is_slow_to_load():
    """What the window imports as it starts holds no module that takes a tenth of a second and is needed later, if at all."""
    slow = [
        "scipy.fft",
        "scipy.special",
        "scipy.signal",
        "scipy.optimize",
        "reportlab",
        "PIL",
        "networkx",
        "pyvisa",
        "sqlalchemy",
        "alembic",
    ]
    program = "import sys; import candor.desktop.app; print(' '.join(sys.modules))"
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    done = subprocess.run(
        [sys.executable, "-c", program], capture_output=True, text=True, env=environment, check=True
    )
    assert [name for name in slow if name in done.stdout.split()] == []
