"""The packages of a release, from the files that git holds and the lock: a wheel, and a Debian package with all that it needs.

    ./run package           both, into dist/
    ./run package wheel     the wheel alone
    ./run package of COMMIT both of an earlier version, from its own files and its own lock

The Debian package carries every library that requirements/run.lock names, in its own folder: it asks the system for Python, of the
version that they were made for, and for the libraries of the desktop that `run` looks for. It has no scripts of its own: what
the desktop must learn of it, it learns by the triggers of its own packages; taken out, nothing of it stays but notebooks.
"""

from __future__ import annotations

import gzip
import hashlib
import os
import re
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
LIBRARY = "usr/lib/candor"
LAUNCHER = f"""#!/usr/bin/python3
import os
import sys

sys.path.insert(0, "/{LIBRARY}")
# What the program starts of itself, such as the plan of the day, finds it too.
os.environ["PYTHONPATH"] = "/{LIBRARY}"
from candor.cli import main

sys.exit(main())
"""
# Of the desktop's library: what builds programs, what other kinds of program need.
LEFT_OUT = ("assistant", "designer", "doc", "glue", "include", "linguist", "lrelease", "lupdate", "qmlformat", "qmllint", "qmlls",
            "scripts", "support", "svgtoqml", "typesystems", "lib", "Qt/qml", "Qt/metatypes", "Qt/translations")  # fmt: skip
SHARED = {  # where in the system what stands in the project goes
    "data/candor.desktop": "usr/share/applications/candor.desktop",
    "data/candor-mime.xml": "usr/share/mime/packages/candor.xml",
    "data/candor.metainfo.xml": "usr/share/metainfo/candor.metainfo.xml",
    "src/candor/assets/candor.svg": "usr/share/icons/hicolor/scalable/apps/candor.svg",
    "LICENSE": "usr/share/doc/candor/copyright",
}
PACKED = {"data/candor.1": "usr/share/man/man1/candor.1.gz", "CHANGELOG.md": "usr/share/doc/candor/changelog.gz"}


def version() -> str:
    """Return the version as Python writes it."""
    return re.search(r'^version = "(.+)"', (ROOT / "pyproject.toml").read_text("utf-8"), re.MULTILINE)[1]  # type: ignore[index]


def debian_version(python: str) -> str:
    """Return a version so that Debian's order is Python's: what leads to a release stands before it."""
    return re.sub(r"\.?(dev|a|b|rc)(?=\d)", r"~\1", python)


def system_packages() -> list[str]:
    """Return the packages whose libraries `run` looks for."""
    listed = re.search(r'libraries="([^"]+)"', (ROOT / "run").read_text("utf-8"))
    assert listed is not None, "run names no libraries"
    return sorted(entry.partition("=")[2] for entry in listed[1].split())


def held_files() -> list[str]:
    """Return what git holds, or, in a copy without git, what a wheel is made of."""
    if (ROOT / ".git").exists():
        held = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, check=True).stdout.split(
            b"\0"
        )
        return [name for name in map(os.fsdecode, filter(None, held)) if (ROOT / name).is_file()]
    inside = [
        p
        for folder in ("src", "data")
        for p in (ROOT / folder).rglob("*")
        if p.is_file() and "__pycache__" not in p.parts
    ]
    return [
        str(p.relative_to(ROOT)) for p in (*inside, ROOT / "pyproject.toml", ROOT / "README.md", ROOT / "LICENSE")
    ]


def build_wheel(into: Path) -> Path:
    """Build the wheel from a copy of what git holds, and return it."""
    with tempfile.TemporaryDirectory() as place:
        copy = Path(place)
        for name in held_files():
            (copy / name).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(ROOT / name, copy / name)
        _pip("wheel", "--no-deps", "--no-build-isolation", "--wheel-dir", str(into), str(copy))
    return into / f"candor-{version()}-py3-none-any.whl"


def build_deb(wheel: Path, into: Path, libraries: bool = True) -> Path:
    """Build the Debian package of a wheel and return it; without its libraries it is for a machine that has them in its path."""
    architecture = subprocess.run(
        ["dpkg", "--print-architecture"], capture_output=True, text=True, check=True
    ).stdout.strip()
    with tempfile.TemporaryDirectory() as place:
        tree = Path(place) / "tree"
        target = tree / LIBRARY
        target.mkdir(parents=True)
        if libraries:
            lock = str(ROOT / "requirements/run.lock")
            _pip("install", "--no-deps", "--no-compile", "--require-hashes", "--target", str(target), "-r", lock)
            for name in LEFT_OUT:
                gone = target / "PySide6" / name
                shutil.rmtree(gone, ignore_errors=True) if gone.is_dir() else gone.unlink(missing_ok=True)
            shutil.rmtree(target / "bin", ignore_errors=True)
        shutil.unpack_archive(wheel, target, "zip")
        shutil.rmtree(
            target / f"candor-{version()}.data", ignore_errors=True
        )  # what the system reads goes to its places
        # Compiled here: nothing is written there later, so that nothing stays when it is taken out. A library may carry a
        # template that is no Python: no reason to stop.
        how = ["-q", "-j0", "-s", str(tree), "-p", "/", "--invalidation-mode", "unchecked-hash"]
        subprocess.run([sys.executable, "-m", "compileall", *how, str(target)], check=False)
        _put(tree / "usr/bin/candor", LAUNCHER.encode(), 0o755)
        for source, place_ in SHARED.items():
            if (ROOT / source).exists():  # an earlier version had no kind of file of its own
                _put(tree / place_, (ROOT / source).read_bytes())
        for source, place_ in PACKED.items():
            _put(tree / place_, gzip.compress((ROOT / source).read_bytes(), mtime=0))
        _control(tree, architecture)
        made = into / f"candor_{debian_version(version())}_{architecture}.deb"
        packed = ["-Zxz"] if libraries else ["-Znone"]
        subprocess.run(
            ["dpkg-deb", "--root-owner-group", *packed, "--build", str(tree), str(made)],
            check=True,
            stdout=subprocess.DEVNULL,
        )
    return made


def _control(tree: Path, architecture: str) -> None:
    files = sorted(p for p in tree.rglob("*") if p.is_file())
    sums = "".join(f"{hashlib.md5(p.read_bytes()).hexdigest()}  {p.relative_to(tree)}\n" for p in files)
    minor = sys.version_info.minor
    needs = [f"python3 (>= 3.{minor})", f"python3 (<< 3.{minor + 1})", *system_packages()]
    fields = {
        "Package": "candor",
        "Version": debian_version(version()),
        "Architecture": architecture,
        "Maintainer": "The makers of Candor <packages@candor.invalid>",
        "Installed-Size": str(sum(p.stat().st_size for p in files) // 1024),
        "Depends": ", ".join(needs),
        "Recommends": "libusb-1.0-0",
        "Section": "science",
        "Priority": "optional",
        "Description": "bench notebook that reckons\n"
        " For people who restore vintage electronic test instruments and calibrate them:\n"
        " readings, budgets, verdicts, drift, records, cautions and papers, with reasons.",
    }
    _put(tree / "DEBIAN/control", "".join(f"{name}: {value}\n" for name, value in fields.items()).encode())
    _put(tree / "DEBIAN/md5sums", sums.encode())


def _put(path: Path, data: bytes, mode: int = 0o644) -> None:
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(data)
    path.chmod(mode)


def _pip(*words: str) -> None:
    subprocess.run([sys.executable, "-m", "pip", "--quiet", "--disable-pip-version-check", *words], check=True)


def build_earlier(commit: str, into: Path) -> list[Path]:
    """Build the packages of an earlier commit, as this file builds, and return them; what it held, the release itself says."""
    with tempfile.TemporaryDirectory() as place:
        held = subprocess.run(["git", "archive", commit], cwd=ROOT, capture_output=True, check=True).stdout
        subprocess.run(["tar", "-x", "-C", place], input=held, check=True)
        builder = Path(place) / "packaging/build.py"
        builder.parent.mkdir(exist_ok=True)
        shutil.copy2(__file__, builder)
        subprocess.run([sys.executable, str(builder)], check=True, stdout=subprocess.DEVNULL)
        return [Path(shutil.copy2(made, into)) for made in sorted((Path(place) / "dist").iterdir())]


def main() -> None:
    """Build what is asked for into dist/ and print it."""
    into = ROOT / "dist"
    into.mkdir(exist_ok=True)
    if sys.argv[1:2] == ["of"]:
        print(*build_earlier(sys.argv[2], into), sep="\n")
        return
    wheel = build_wheel(into)
    print(wheel)
    if sys.argv[1:] != ["wheel"]:
        print(build_deb(wheel, into))


if __name__ == "__main__":
    main()
