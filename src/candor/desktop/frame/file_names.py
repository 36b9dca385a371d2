"""Names of files: each dialog starts where it was left last, the first time in Documents; and which notebooks were open."""

from __future__ import annotations

import tempfile
from pathlib import Path

from PySide6.QtCore import QStandardPaths
from PySide6.QtWidgets import QFileDialog, QWidget

from candor.desktop.frame.preferences import RECENT, Preferences

_kept = Preferences()


def keep_in(preferences: Preferences) -> None:
    """Remember folders in these preferences."""
    global _kept
    _kept = preferences


def open_name(parent: QWidget | None, title: str, kinds: str, folder: str = "") -> str:
    """Ask for a file that is there; nothing where none was chosen."""
    name, _ = QFileDialog.getOpenFileName(parent, title, folder or _start(title), kinds)
    return _remembered(title, name)


def open_names(parent: QWidget | None, title: str, kinds: str) -> list[str]:
    """Ask for files that are there."""
    names, _ = QFileDialog.getOpenFileNames(parent, title, _start(title), kinds)
    _remembered(title, names[0] if names else "")
    return list(names)


def save_name(parent: QWidget | None, title: str, suggested: str, kinds: str) -> str:
    """Ask for the name of a file to be written; writing over one is asked about."""
    name, _ = QFileDialog.getSaveFileName(parent, title, str(Path(_start(title)) / suggested), kinds)
    return _remembered(title, name)


def folder_name(parent: QWidget | None, title: str) -> str:
    """Ask for a folder."""
    name = QFileDialog.getExistingDirectory(parent, title, _start(title))
    return _remembered(title, str(Path(name) / "x") if name else "") and name


def remember_notebook(path: Path) -> None:
    """A notebook is open: it stands first among the recent ones; one in a folder that is cleared is not remembered."""
    name = str(path.absolute())
    if not path.absolute().is_relative_to(tempfile.gettempdir()):
        _kept.recent = [name, *(other for other in _kept.recent if other != name)][:RECENT]
        _kept.save()


def recent_notebooks(beside: Path) -> tuple[Path, ...]:
    """Return the notebooks that were open and are still there, the newest first, without the one that is open."""
    return tuple(p for p in map(Path, _kept.recent) if p != beside.absolute() and p.is_file())


def _start(title: str) -> str:
    for folder in (_kept.folders.get(title), _kept.folders.get(""), _documents()):
        if folder and Path(folder).is_dir():
            return folder
    return str(Path.home())


def _documents() -> str:
    return QStandardPaths.writableLocation(QStandardPaths.StandardLocation.DocumentsLocation)


def _remembered(title: str, name: str) -> str:
    """Keep the folder of a name for the next time such a file is asked for, and for files that were never asked for."""
    if name:
        folder = str(Path(name).parent)
        if _kept.folders.get(title) != folder:
            _kept.folders.update({title: folder, "": folder})
            _kept.save()
    return name
