"""Asking for the name of a file: each dialog starts where it was left last, the first time in Documents."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QStandardPaths
from PySide6.QtWidgets import QFileDialog, QWidget

from candor.desktop.frame.preferences import Preferences

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
