"""`./run` on a machine where something is missing: one sentence, one command, nothing half done."""

import os
import subprocess
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]


@pytest.fixture
def bare(tmp_path):
    """A folder of stand-ins that shadow the real tools, and a clone's `run` beside them."""
    tools = tmp_path / "tools"
    tools.mkdir()

    def tool(name: str, script: str) -> None:
        path = tools / name
        path.write_text(f"#!/bin/sh\n{script}\n")
        path.chmod(0o755)

    copy = tmp_path / "clone"
    copy.mkdir()
    (copy / "run").write_text((ROOT / "run").read_text())
    (copy / "run").chmod(0o755)
    return tool, copy, {**os.environ, "PATH": f"{tools}:{os.environ['PATH']}"}


def run(copy: Path, environment: dict, *arguments: str) -> subprocess.CompletedProcess:
    command = ["bash", str(copy / "run"), *arguments]
    return subprocess.run(command, capture_output=True, text=True, env=environment, timeout=60, check=False)


def test_without_rights_it_prints_the_one_command(bare):
    tool, copy, environment = bare
    tool("ldconfig", "echo 'libxcb-keysyms.so.1 (libc6,x86-64) => /lib/x'")
    tool("id", "echo 1000")
    tool("apt-get", "echo apt-get was called; exit 9")
    done = run(copy, environment, "test")
    assert done.returncode == 1
    assert "sudo apt-get install libxcb-icccm4 libxcb-cursor0" in done.stderr
    assert "libxcb-keysyms1" not in done.stderr
    assert "apt-get was called" not in done.stdout
    assert not (copy / ".venv").exists()


def test_with_rights_it_installs_what_is_missing(bare):
    tool, copy, environment = bare
    tool("ldconfig", "echo ''")
    tool("id", "echo 0")
    log = copy / "asked"
    tool(
        "apt-get", f'echo "$@" >> {log}; case "$*" in *libxcb*) exit 3;; esac'
    )  # there it ends: no environment is made
    done = run(copy, environment, "--version")
    assert "installing system libraries: libxcb-icccm4" in done.stderr
    asked = log.read_text().splitlines()
    assert asked[0].startswith("update")
    assert "--no-install-recommends libxcb-icccm4" in asked[1]


def test_file_names_are_those_of_the_folder_it_is_called_from(tmp_path):
    """`run packs check my.yaml` means my.yaml here, not in the clone."""
    (tmp_path / "mine.yaml").write_text("pack: 3\n")
    done = subprocess.run(
        [str(ROOT / "run"), "packs", "check", "mine.yaml"],
        capture_output=True,
        text=True,
        cwd=tmp_path,
        timeout=120,
        check=False,
    )
    assert "mine.yaml: " in done.stderr
    assert "line 1, column 1: pack: input should be 1 or 2; found 3" in done.stderr


def test_an_old_python_is_said(bare):
    tool, copy, environment = bare
    for name in ("python3", "python3.14", "python3.13", "python3.12", "python3.11"):
        tool(name, "exit 1")
    done = run(copy, {k: v for k, v in environment.items() if k != "CANDOR_PYTHON"}, "demo")
    assert done.returncode == 1
    assert "Candor needs Python 3.11 or later and found none." in done.stderr
