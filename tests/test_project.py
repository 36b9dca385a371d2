"""Promises of the project about itself: documents, pictures, licences, structure."""

import ast
import re
import struct
import tomllib
from pathlib import Path

import candor
from source_trees import modules, nodes

ROOT = Path(__file__).parents[1]


def read(name: str) -> str:
    return (ROOT / name).read_text(encoding="utf-8")


def test_links_in_the_documents_lead_somewhere():
    for document in [ROOT / "README.md", *ROOT.glob("docs/*.md")]:
        for target in re.findall(r"\]\(([^)#]+)\)", document.read_text(encoding="utf-8")):
            if "://" not in target:
                assert (document.parent / target).exists(), f"{document.name}: {target}"


def test_readme_shows_pictures_and_names_the_two_commands():
    text = read("README.md")
    assert "./run demo" in text
    assert "./run test" in text
    assert len(re.findall(r"!\[[^]]+\]\(docs/screenshots/", text)) >= 3
    assert "## Safety" in text


def test_screenshots_are_few_and_of_the_designed_size():
    pictures = sorted((ROOT / "docs" / "screenshots").glob("*.png"))
    assert 0 < len(pictures) < 20
    for picture in pictures:
        width, height = struct.unpack(">II", picture.read_bytes()[16:24])
        assert (width, height) == (1280, 800), picture.name


def test_every_view_has_its_picture():
    """`./run shots` makes them; a view without one, or a picture of none, is out of date."""
    from candor.desktop.shots import VIEWS

    assert {p.stem for p in (ROOT / "docs" / "screenshots").glob("*.png")} == set(VIEWS)


def test_more_than_four_fields_go_by_name():
    """A value made of many fields in their order is misread sooner or later."""
    ours = {n.name for path in modules() for n in nodes(path) if isinstance(n, ast.ClassDef)}
    found = [
        f"{path.name}:{node.lineno} {node.func.id}"
        for path in modules()
        for node in nodes(path)
        if isinstance(node, ast.Call)
        and isinstance(node.func, ast.Name)
        and node.func.id in ours
        and len(node.args) > 4
    ]
    assert found == []


def test_formats_document_names_every_kind_of_entry():
    """docs/formats.md must say of each entry what it is."""
    from candor.notebook.entries.kinds_entries import BODIES

    text = read("docs/formats.md")
    assert len(BODIES) >= 20
    assert [kind for kind in BODIES if f"`{kind}`" not in text] == []


def test_versions_agree_and_licences_are_shipped():
    project = tomllib.loads(read("pyproject.toml"))["project"]
    assert project["version"] == candor.__version__
    assert f"## {candor.__version__.partition('.dev')[0]}" in read("CHANGELOG.md")
    assert f'"Candor {candor.__version__}"' in read("data/candor.1")
    for name in project["license-files"]:
        assert (ROOT / name).stat().st_size > 500


def test_locks_hold_every_package_by_hash_and_name_no_address():
    for name in ("run", "test"):
        text = read(f"requirements/{name}.lock")
        packages = re.findall(r"^[a-z0-9-]+==", text, re.M)
        assert len(packages) > 20
        assert text.count("--hash=sha256:") > len(packages)
        assert "://" not in text


def test_modules_stay_readable_in_one_sitting():
    long = [str(p) for p in (ROOT / "src").rglob("*.py") if len(p.read_text(encoding="utf-8").splitlines()) > 400]
    assert long == []


def test_a_new_entry_command_or_stop_touches_few_existing_files():
    """An entry and a command are named where they are listed, written and read; a stop where it is shown and stands."""
    from candor.notebook.entries.kinds_entries import BODIES
    from candor.sitting.all_commands import TOPICS

    def named_in(word, *own):
        return [p for p, words in named.items() if word in words and not any(part in p for part in own)]

    sources = {str(p.relative_to(ROOT / "src/candor")): p.read_text("utf-8") for p in (ROOT / "src").rglob("*.py")}
    named = {
        path: set(re.findall(r'\w+|\w+\.\w+|"\w+"', text)) | set(re.findall(r"\w+\.\w+", text)) | set(re.findall(r'"\w+"', text))
        for path, text in sources.items() if not path.startswith("demo/") and "shots" not in path
    }  # fmt: skip
    commands = {f"{t}.{made.__name__}" for t, module in TOPICS.items() for made in module.COMMANDS}
    entries = {name: len(named_in(body.__name__)) for name, body in BODIES.items()}
    assert [c for c in commands if len(named_in(c)) > 5] == []
    assert sorted(entries.values())[len(entries) * 4 // 5] <= 5, "the oldest are read by many"
    assert len(named_in('"soak"', "stops/soak/", "notebook/soak/", "commands/soak", "rows/soak")) <= 5


OF_THE_WHOLE = {
    "desktop/frame/test_old_units.py",
    "test_attack.py",
    "desktop/test_growth.py",
    "paper/test_hostile.py",
    "desktop/test_own_instrument.py",
    "desktop/test_whole_packs.py",
    "desktop/test_stories.py",
    "desktop/test_effort.py",
    "test_project.py",
    "test_packaging.py",
    "test_imports.py",
    "test_docstrings.py",
    "test_words.py",
    "test_run_script.py",
}


def test_tests_mirror_src_by_name():
    """A test stands where what it tests stands, under its name: a module's or a package's. Published checks stand apart."""
    astray = []
    for path in (ROOT / "tests").rglob("test_*.py"):
        own = path.relative_to(ROOT / "tests")
        if own.parts[0] == "published" or str(own) in OF_THE_WHOLE:
            continue
        place = ROOT / "src" / "candor" / own.parent / own.stem.removeprefix("test_")
        if not place.is_dir() and not place.with_suffix(".py").is_file():
            astray.append(str(own))
    assert astray == []


def test_no_two_modules_have_one_name():
    """Whoever reads a traceback or opens a file by its name finds one."""
    named: dict[str, list[str]] = {}
    for path in (ROOT / "src").rglob("*.py"):
        if path.stem != "__init__":
            named.setdefault(path.stem, []).append(str(path.relative_to(ROOT)))
    assert [paths for paths in named.values() if len(paths) > 1] == []
