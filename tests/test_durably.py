"""Every file that is written is whole or not at all, and what is kept is its owner's; who opens a file for writing is listed."""

import ast
import stat

import pytest

from candor.demo.demo_notebook import write_demo
from candor.desktop.frame.unforeseen import Unforeseen, log_path
from candor.durably import replacing, write_durably
from candor.links.channel_file import ChannelFile, export_channels
from candor.notebook.runs.run_files import hold
from source_trees import SRC, modules, nodes

# Who may open a file for writing beside `durably`: files that grow while they are held, each synced as it grows.
GROW = {
    "links/channel_file.py": "a meter's readings, while they come",
    "links/recorder.py": "a run's readings, while they come",
    "notebook/runs/run_files.py": "a run's file, held",
    "notebook/storage/opening.py": "a new notebook under another name; an empty one that is held",
    "notebook/storage/backup.py": "a backup under another name, filled by the database",
    "notebook/storage/looking.py": "a copy in a folder of its own, thrown away",
}
WRITES = {"write_text", "write_bytes", "copyfile", "copy", "copy2", "copytree", "touch"}


def opens_for_writing(node: ast.AST) -> bool:
    if not isinstance(node, ast.Call):
        return False
    name = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
    if name in WRITES:
        return not (
            isinstance(node.func, ast.Attribute)
            and name in ("copy", "copytree")
            and getattr(node.func.value, "id", "") != "shutil"
        )
    if name != "open":
        return False
    said = [
        a.value
        for a in (*node.args, *(k.value for k in node.keywords if k.arg == "mode"))
        if isinstance(a, ast.Constant)
    ]
    flags = {n.attr for a in node.args for n in ast.walk(a) if isinstance(n, ast.Attribute)}
    return any(isinstance(m, str) and set(m) & set("wax+") and len(m) <= 3 for m in said) or bool(
        flags & {"O_WRONLY", "O_RDWR"}
    )


def test_who_opens_a_file_for_writing_is_listed():
    """Exports emptied the older file first: one durable write for all that leaves, and no other way."""
    found = {
        str(path.relative_to(SRC))
        for path in modules()
        if path.name != "durably.py" and any(map(opens_for_writing, nodes(path)))
    }
    assert found == set(GROW)


def test_what_cannot_be_written_whole_leaves_what_stood_there(tmp_path):
    target = tmp_path / "a.csv"
    write_durably(target, b"older")
    for error in (OSError(28, "No space left on device"), KeyboardInterrupt(), ValueError("x")):
        with pytest.raises(type(error)), replacing(target) as file:
            file.write(b"begun")
            raise error
        assert [p.name for p in tmp_path.iterdir()] == ["a.csv"]
        assert target.read_bytes() == b"older"


def test_an_export_of_channels_on_a_full_disk_leaves_the_older_file(tmp_path, monkeypatch):
    with ChannelFile(tmp_path / "c.readings") as channel:
        for second in range(9):
            channel.keep(second, 1.0)
    target = tmp_path / "all.csv"
    target.write_text("older")

    def full(_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("candor.durably.os.fsync", full)
    with pytest.raises(OSError, match="No space"):
        export_channels({"b1": tmp_path / "c.readings"}, target)
    assert sorted(p.name for p in tmp_path.iterdir()) == ["all.csv", "c.readings"]
    assert target.read_text() == "older"


def test_all_that_is_kept_is_its_owners(tmp_path):
    """Notebook, photos, certificates, run files, channels, log: nobody else reads them."""
    tmp_path.chmod(0o700)
    notebook = write_demo(tmp_path / "d.candor")
    hold(notebook.run_folder / "r.csv").close()
    ChannelFile(notebook.run_folder / "c.readings").close()
    unforeseen = Unforeseen(notebook)
    unforeseen._caught(ValueError, ValueError("x"), None)
    unforeseen.take_away()
    notebook.close()
    assert log_path(notebook.path).exists()
    kept = list(tmp_path.rglob("*"))
    assert len(kept) > 8
    assert {str(p.relative_to(tmp_path)) for p in kept if stat.S_IMODE(p.stat().st_mode) & 0o077} == set()
    shared = tmp_path / "shared"
    shared.mkdir()
    shared.chmod(0o770)
    write_durably(shared / "x", b"x", is_kept=True)
    assert (
        stat.S_IMODE((shared / "x").stat().st_mode) & 0o660 == 0o640
        or stat.S_IMODE((shared / "x").stat().st_mode) == 0o660
    )
