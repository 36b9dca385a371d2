"""A notebook on a server, on the command line: making one, its people, moving a notebook there and back."""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path
from typing import Annotated

import typer
from platformdirs import user_data_path

server_app = typer.Typer(
    help="A notebook on a PostgreSQL server, that several benches write in.", no_args_is_help=True
)
URL = Annotated[str, typer.Argument(help="postgresql://name@host/notebook, as who keeps the server.")]
JSON = Annotated[bool, typer.Option("--json", help="Print it as JSON.")]


def copies_folder() -> Path:
    """Return where the copies of notebooks on servers lie."""
    return user_data_path("candor") / "benches"


def lying_at(named: str) -> Path:
    """Return the file of a notebook; of one on a server its copy here, which is made the first time.

    Raises
    ------
    NotebookError
        Where the server does not answer or refuses.
    """
    if not named.startswith(("postgresql://", "postgres://")):
        return Path(named)
    from candor.notebook.server.mirrors import make_copy

    return make_copy(named, copies_folder())


@server_app.command("prepare")
def prepare_it(url: URL, as_json: JSON = False) -> None:
    """Make an empty notebook in a database, with the roles guest, bench, signer and keeper."""
    from candor.notebook.server.server_setup import prepare

    id = prepare(url)
    print(json.dumps({"notebook": id}) if as_json else f"An empty notebook is there ({id[:8]}).")


@server_app.command("person")
def person(
    url: URL,
    name: Annotated[str, typer.Argument(help="The name they log in by, in small letters.")],
    role: Annotated[
        str, typer.Argument(help="guest reads; bench writes; signer also signs; keeper also moves notebooks in.")
    ],
    password: Annotated[
        bool, typer.Option("--password", help="Ask for a password, or read it from the pipe.")
    ] = False,
) -> None:
    """Let a person in, or change their role."""
    from candor.notebook.server.server_setup import put_person

    word = ""
    if password:
        word = (
            typer.prompt("Password", hide_input=True, confirmation_prompt=True)
            if sys.stdin.isatty()
            else sys.stdin.readline().rstrip("\n")
        )
    put_person(url, name, role, word)
    print(f"{name}: {role}.")


@server_app.command("people")
def people_there(url: URL, as_json: JSON = False) -> None:
    """Print who may write or read, and in which role."""
    from candor.notebook.server.server_setup import people

    found = people(url)
    print(json.dumps(dict(found), indent=1) if as_json else "\n".join(f"{who}: {role}" for who, role in found))


@server_app.command("benches")
def benches_there(url: URL, as_json: JSON = False) -> None:
    """Print which benches are there now, and what each has in hand."""
    from candor.notebook.server.server_link import ServerLink

    link = ServerLink(url)
    try:
        link.meet()
        found = link.benches()
    finally:
        link.close()
    if as_json:
        rows = [
            {"who": b.who, "bench": b.bench, "job": b.job, "stop": b.stop, "since": b.since.isoformat()}
            for b in found
        ]
        print(json.dumps(rows, ensure_ascii=False, indent=1))
    else:
        print("\n".join(f"{b.who} at {b.bench}: job {b.job or '-'}, {b.stop}" for b in found) or "Nobody is there.")


def move(
    old: Annotated[str, typer.Argument(help="A notebook file, or postgresql://name@host/notebook.")],
    new: Annotated[str, typer.Argument(help="The other of the two: where nothing is yet.")],
    as_json: JSON = False,
) -> None:
    """Copy a notebook from a file to a server or back: entries, digests, packs and files as they are. The old one stays."""
    from candor.notebook.server.moving import move as move_it

    tell = (lambda words: print(f"\r{words}", end="", file=sys.stderr)) if os.isatty(2) else (lambda _: None)
    moved = move_it(old, new, copies_folder(), tell)
    told = {"entries": moved.entries, "packs": moved.packs, "files": moved.files}
    print(
        json.dumps(told)
        if as_json
        else f"{moved.entries} entries, {moved.packs} packs, {moved.files} files moved. The old one stays as it is."
    )
