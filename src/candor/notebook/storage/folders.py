"""Where the files of a notebook lie: folders beside it, by its name."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from candor.core.late_dataclass import dataclass

KEPT = ("photos", "waveforms", "certificates", "runs")


@dataclass(frozen=True)
class Folders:
    """The folders beside the notebook at `path`."""

    path: Path

    def of(self, folder: str) -> Path:
        """Return where files of a kind lie, one of KEPT."""
        return self.path.with_name(f"{self.path.stem} {folder}")

    @property
    def made(self) -> Mapping[str, Path]:
        """Those that are there."""
        return {folder: self.of(folder) for folder in KEPT if self.of(folder).is_dir()}
