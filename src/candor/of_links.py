"""The command line's look at instruments on links."""

from __future__ import annotations

import dataclasses
import json
from typing import Annotated

import typer

links_app = typer.Typer()


@links_app.command()
def instruments(
    address: Annotated[
        str,
        typer.Argument(help="A VISA name to be tested: what is there, and one reading. Without it: what there is."),
    ] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Look for instruments on this machine's ports, its USB and the network around it, or test one. Nothing is set."""
    from candor.links.looking_for import identify, look_for_instruments
    from candor.words.links_words import say_found, say_identified

    if address:
        said = identify(address)
        print(json.dumps(dataclasses.asdict(said), ensure_ascii=False) if as_json else say_identified(said))
        return
    names = look_for_instruments()
    print(json.dumps(list(names)) if as_json else "\n".join((*names, say_found(names))))
