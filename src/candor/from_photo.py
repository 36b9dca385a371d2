"""The command line's answer about a photo: where the marks of an arc stand."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated

import typer

photo_app = typer.Typer()


@photo_app.command()
def face(
    file: Annotated[
        Path, typer.Argument(help="Clicks in a photo of the face: what (mark, axis, even, corner), x, y, number.")
    ],
    size: Annotated[str, typer.Option(help="Width and height of the photo, px: 2400x1800.")],
    sides: Annotated[str, typer.Option(help="Of the rectangle whose corners were clicked: 80x60.")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Where the marks of an arc stand, by clicks in a photo of its face: straightened, with what that is known to."""
    from candor.core.reading.face_clicks import marks_text
    from candor.notebook.arrive.face_table import read_clicks
    from candor.notebook.storage.files import read_bytes_of
    from candor.words.face_photo_words import face_told, say_straightened

    clicks, numbers = read_clicks(read_bytes_of(file, "clicks"), size, sides)
    found = clicks.straightened()
    if as_json:
        print(json.dumps(face_told(numbers, found), ensure_ascii=False, indent=1))
    else:
        print(f"marks {marks_text(numbers, found)}\n{say_straightened(found)}")
