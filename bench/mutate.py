"""Do the tests notice? Sampled mutants of a module: what survives is what no test holds. ./run mutate core/verdict [MOST]

The mutants are made and run by mutmut in a copy of the project, so that a mutant is never in the working tree. Each is tried with
the tests that reach its function; a mutant that no test reaches counts as survived. The sample is drawn with a fixed seed.
"""

from __future__ import annotations

import json
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections import Counter
from pathlib import Path

ROOT = Path(__file__).parents[1]
COPIED = (
    "src",
    "tests",
    "docs",
    "data",
    "bench",
    "requirements",
    "README.md",
    "CHANGELOG.md",
    "run",
    "pyproject.toml",
)
TESTS = ("tests/core", "tests/published", "tests/words")  # those that start no process and open no window
WORKERS = 2
SETTINGS = """
[tool.mutmut]
source_paths = ["src"]
only_mutate = ["src/candor/{module}*"]
pytest_add_cli_args = ["-p", "no:cacheprovider", "-x", "--ignore=tests/words/test_speaking.py"]
pytest_add_cli_args_test_selection = {tests}
also_copy = ["docs", "data", "README.md", "CHANGELOG.md", "run", "bench", "requirements"]
use_git_change_detection = false
"""
SURVIVED, NO_TEST = 0, 33  # exit codes as mutmut keeps them


def main(module: str, most: int) -> int:
    """Print the share of `most` mutants of a module that tests notice, and every one that they do not."""
    with tempfile.TemporaryDirectory(prefix="candor-mutate-") as folder:
        copy = Path(folder)
        for name in COPIED:
            source = ROOT / name
            if source.is_dir():
                shutil.copytree(source, copy / name, ignore=shutil.ignore_patterns("__pycache__"))
            else:
                shutil.copy2(source, copy / name)
        with (copy / "pyproject.toml").open("a", encoding="utf-8") as settings:
            settings.write(SETTINGS.format(module=module, tests=json.dumps(TESTS)))
        _mutmut(copy, "run", "no.such.mutant")  # makes them, and finds which test reaches which function
        known = sorted(_codes(copy))
        if not known:
            print(f"no mutant in src/candor/{module}*", file=sys.stderr)
            return 1
        drawn = random.Random(20261201).sample(known, min(most, len(known)))
        _mutmut(copy, "run", "--max-children", str(WORKERS), *drawn)
        codes = _codes(copy)
        if all(codes[name] is None for name in drawn):
            print(f"{module}: no mutant was tried: the tests fail as they are, see above", file=sys.stderr)
            return 1
        missed = [name for name in drawn if codes[name] in (SURVIVED, NO_TEST, None)]
        for name in missed:
            print(_mutmut(copy, "show", name).strip(), end="\n\n")
        share = 100 * (1 - len(missed) / len(drawn))
        print(f"{module}: {len(drawn)} of {len(known)} mutants, {len(drawn) - len(missed)} noticed ({share:.0f} %); by exit code",
              dict(Counter(codes[name] for name in drawn)))  # fmt: skip
    return 0


def _codes(copy: Path) -> dict[str, int | None]:
    """Return how each mutant ended, by name; None where it was not tried."""
    found: dict[str, int | None] = {}
    for file in (copy / "mutants").rglob("*.meta"):
        found.update(json.loads(file.read_text("utf-8"))["exit_code_by_key"])
    return found


def _mutmut(copy: Path, *arguments: str) -> str:
    environment = {
        **os.environ,
        "PYTHONPATH": f"{os.environ.get('CANDOR_MUTATE', '')}:src",
        "QT_QPA_PLATFORM": "offscreen",
    }
    done = subprocess.run(
        [sys.executable, "-m", "mutmut", *arguments],
        cwd=copy,
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    if done.returncode and arguments[:2] != ("run", "no.such.mutant"):
        print(done.stdout[-2000:], done.stderr[-2000:], file=sys.stderr)
    return done.stdout


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1], int(sys.argv[2]) if len(sys.argv) > 2 else 60))
