"""The command line's answers about a circuit: what explains what was read on a board, or at the rails of a supply."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated

import typer

circuit_answers_app = typer.Typer()


@circuit_answers_app.command()
def board(
    circuit: Annotated[Path, typer.Argument(help="A netlist: R1 b1 n5 47k, one element a line.")],
    file: Annotated[
        Path,
        typer.Argument(help="What was read, a line each: node n5 182 with 10M; ohms n5 n6 220k; tube V1 …; rail b1."),
    ],
    tolerance: Annotated[float, typer.Option(help="Of every part, per cent.")] = 10.0,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """What explains volts and ohms read on a circuit: a part, a lead one lug over, a bridge, a leak; what to measure next."""
    from candor.notebook.storage.files import read_words
    from candor.notebook.trace.lines_alone import explain_lines
    from candor.words.board_words import board_json, say_on_board

    if not 0 < tolerance <= 50:
        raise typer.BadParameter("a tolerance is between 0 and 50 %")
    found = explain_lines(read_words(circuit), read_words(file), tolerance / 100)
    print(json.dumps(board_json(found), ensure_ascii=False, indent=1) if as_json else "\n".join(say_on_board(found)))


@circuit_answers_app.command()
def rails(
    supply: Annotated[
        str,
        typer.Argument(
            help="The supply in a line: 230-0-230 V, 180 ohm, vacuum, 8 uF 450 V, 1.8k, 16 uF 450 V, load 30 mA."
        ),
    ],
    measured: Annotated[
        str,
        typer.Argument(
            help="What was measured: C1 241 V, C2 190 V, C2 ripple 0.3 V, line 118 of 120 V, winding open 251 V."
        ),
    ],
    hertz: Annotated[float, typer.Option(help="Of the mains.")] = 60.0,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """What explains the rails of a supply: its winding, its rectifier, its filter, its load; and what to measure next."""
    from candor.core.suspects.rails import explain_rails
    from candor.words.rails_words import rails_json, say_rails

    if hertz not in (25.0, 40.0, 50.0, 60.0, 400.0):
        raise typer.BadParameter("mains have 25, 40, 50, 60 or 400 Hz")
    found = explain_rails(supply, measured, hertz)
    print(json.dumps(rails_json(found), ensure_ascii=False, indent=1) if as_json else "\n".join(say_rails(found)))
