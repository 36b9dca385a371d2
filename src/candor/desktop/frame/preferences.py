"""What this machine remembers of the look and of folders: a small JSON file in its XDG place."""

from __future__ import annotations

import json
from dataclasses import field
from pathlib import Path

from platformdirs import user_config_path

from candor.core.late_dataclass import dataclass
from candor.durably import write_durably

RECENT = 8  # notebooks that are remembered


@dataclass
class Preferences:
    """Colours, text size and folders.

    Attributes
    ----------
    mode : "system", "light" or "dark"
    scale : float
        Text size, 1.0 for 100 %.
    path : Path
    folders : dict of str to str
        Where the last file was, by the title of the dialog that asked.
    recent : list of str
        The notebooks that were open, the newest first.
    """

    mode: str = "system"
    scale: float = 1.0
    path: Path = field(default_factory=lambda: user_config_path("candor") / "look.json")
    folders: dict[str, str] = field(default_factory=dict)
    recent: list[str] = field(default_factory=list)

    @classmethod
    def load(cls, path: Path | None = None) -> Preferences:
        """Read them; what cannot be read is left at its default."""
        found = cls() if path is None else cls(path=path)
        try:
            data = json.loads(found.path.read_text(encoding="utf-8"))
            found.mode = data["mode"] if data["mode"] in ("system", "light", "dark") else "system"
            found.scale = min(max(float(data["scale"]), 0.8), 2.0)
            found.recent = [str(name) for name in data.get("recent", [])][:RECENT]
            found.folders = {str(title): str(folder) for title, folder in data.get("folders", {}).items()}
        except (OSError, ValueError, KeyError, TypeError, AttributeError):
            return found
        return found

    def save(self) -> str:
        """Keep them; return a sentence where they could not be kept."""
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
            write_durably(
                self.path,
                json.dumps(
                    {"mode": self.mode, "scale": self.scale, "folders": self.folders, "recent": self.recent}
                ).encode(),
            )
        except OSError as error:
            return f"The look could not be kept in {self.path}: {error.strerror}."
        return ""
