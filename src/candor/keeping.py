"""Keeping a notebook, on the command line: looking it over, backing it up, putting a backup back."""

from __future__ import annotations

import datetime as dt
import json
from pathlib import Path
from typing import Annotated

import typer


def check(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    against: Annotated[str, typer.Option(help="The eight words of a paper: is all before it as it was?")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Check a notebook whole: its pages, every entry's number and digest, its packs and the files beside it. Nothing is changed."""
    from candor.notebook.storage.checking import check_notebook, find_head
    from candor.words.faults import faults_json, say_checked, say_head

    head = find_head(notebook, against) if against else None
    found = check_notebook(notebook)
    if as_json:
        print(json.dumps(faults_json(found, head, asked=bool(against)), ensure_ascii=False, indent=1))
    else:
        print("\n".join((*say_checked(found, notebook.name), *((say_head(head),) if against else ()))))
    unproved = bool(against) and (head is None or not head.sound)
    raise typer.Exit(1 if found.faults or unproved else 0)


def backup(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    to: Annotated[
        Path | None, typer.Option(help="A folder; without one, that of the daily backups beside the notebook.")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Back a notebook up with its files, also while it is open, and read the backup back whole."""
    from candor.notebook.storage.backup import back_up, own_folder
    from candor.words.faults import backup_json, say_backup

    made = back_up(notebook, to or own_folder(notebook), dt.datetime.now(dt.UTC))
    if made is not None:
        print(json.dumps(backup_json(made), ensure_ascii=False, indent=1) if as_json else say_backup(made))


def restore(
    held: Annotated[Path, typer.Argument(exists=True, dir_okay=False, metavar="BACKUP", help="A backup.")],
    to: Annotated[Path, typer.Argument(help="Where the notebook goes: a name where none is.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Put a backup, with its files, where no notebook is, and look it over."""
    from candor.notebook.storage.backup import restore as put_back
    from candor.notebook.storage.checking import check_notebook
    from candor.words.faults import faults_json, say_checked

    put_back(held, to)
    found = check_notebook(to)
    print(
        json.dumps(faults_json(found, None, asked=False), ensure_ascii=False, indent=1)
        if as_json
        else "\n".join(say_checked(found, to.name))
    )
