"""What is installed: a wheel with all that the program reads, and a Debian package of it; packaging/try installs one for real."""

import os
import shutil
import subprocess
import sys
import zipfile
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
sys.path.append(str(ROOT / "packaging"))

import build  # noqa: E402


@pytest.fixture(scope="module")
def wheel(tmp_path_factory):
    return build.build_wheel(tmp_path_factory.mktemp("wheel"))


def test_the_wheel_holds_every_file_of_the_program_and_works_by_itself(wheel, tmp_path):
    held = {name for name in zipfile.ZipFile(wheel).namelist() if name.startswith("candor/")}
    assert held == {name.removeprefix("src/") for name in build.held_files() if name.startswith("src/candor/")}
    zipfile.ZipFile(wheel).extractall(tmp_path)
    environment = {**os.environ, "PYTHONPATH": str(tmp_path), "QT_QPA_PLATFORM": "offscreen"}
    for words, says in (
        (["--version"], build.version()),
        (["packs", "list"], "Wexcombe FC-3"),
        (["packs", "kinds"], "signal generator"),
    ):
        done = subprocess.run(
            [sys.executable, "-m", "candor", *words],
            capture_output=True,
            text=True,
            cwd=tmp_path,
            env=environment,
            check=True,
        )
        assert says in done.stdout


@pytest.mark.skipif(shutil.which("dpkg-deb") is None, reason="no Debian here")
def test_the_debian_package_asks_for_what_it_needs_and_has_no_scripts(wheel, tmp_path):
    made = build.build_deb(wheel, tmp_path, libraries=False)
    fields = dict(
        line.split(": ", 1)
        for line in _said("dpkg-deb", "--field", made).splitlines()
        if ": " in line and line[0] != " "
    )
    assert fields["Version"] == build.debian_version(build.version())
    assert {"libxcb-cursor0", "libegl1", f"python3 (>= 3.{sys.version_info.minor})"} <= set(
        fields["Depends"].split(", ")
    )
    assert fields["Recommends"] == "libusb-1.0-0"  # an instrument on USB; none is needed to begin
    assert sorted(Path(_unpacked(made, tmp_path), "DEBIAN").iterdir()) == [
        tmp_path / "tree/DEBIAN/control",
        tmp_path / "tree/DEBIAN/md5sums",
    ]
    tree = tmp_path / "tree"
    subprocess.run(["md5sum", "--quiet", "--check", "DEBIAN/md5sums"], cwd=tree, check=True)
    for place in (*build.SHARED.values(), *build.PACKED.values(), "usr/bin/candor"):
        assert (tree / place).is_file(), place
    assert (tree / "usr/bin/candor").stat().st_mode & 0o111 == 0o111
    assert not [
        p for p in tree.rglob("*.py") if not list((p.parent / "__pycache__").glob(f"{p.stem}.*.pyc"))
    ]  # nothing is written later


@pytest.mark.skipif(shutil.which("dpkg") is None, reason="no Debian here")
@pytest.mark.parametrize(
    ("older", "newer"),
    [("0.1.0", "0.2.0.dev1"), ("0.2.0.dev1", "0.2.0rc1"), ("0.2.0rc1", "0.2.0"), ("0.2.0", "0.10.0")],
)
def test_a_later_version_is_later_for_debian_too(older, newer):
    subprocess.run(
        ["dpkg", "--compare-versions", build.debian_version(older), "lt", build.debian_version(newer)], check=True
    )


@pytest.mark.skipif(shutil.which("appstreamcli") is None, reason="its validator is not here")
def test_the_entry_of_software_centres_is_valid():
    subprocess.run(["appstreamcli", "validate", "--no-net", str(ROOT / "data/candor.metainfo.xml")], check=True)


def test_the_software_centre_knows_the_same_version():
    assert build.debian_version(build.version()) in (ROOT / "data/candor.metainfo.xml").read_text("utf-8")


def _said(*words) -> str:
    return subprocess.run([str(w) for w in words], capture_output=True, text=True, check=True).stdout


def _unpacked(package: Path, into: Path) -> Path:
    subprocess.run(["dpkg-deb", "--raw-extract", str(package), str(into / "tree")], check=True)
    return into / "tree"
