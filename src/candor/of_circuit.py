"""The command line's answers about circuits: a board, the rails of a supply, a tester's line, adjusters that move each other."""

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


@circuit_answers_app.command()
def sag(
    line: Annotated[str, typer.Argument(help="The line of a tube tester: 120.4 V empty, 118.9 V with 22 W.")],
    watts: Annotated[float, typer.Option(help="Of another tube, heater and plate.")] = 10.0,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """What stands behind the line of a tube tester, and what a tube of so many watts makes of it and of its reading."""
    from candor.core.tubes.sag import line_source, sag_of
    from candor.notebook.tubes.tubes_text import read_sag
    from candor.words.tubes_words import say_sag

    if not 0 < watts <= 500:
        raise typer.BadParameter("the watts of a tube are above 0 and up to 500")
    read = read_sag(line, "the tester")
    source = line_source(read.empty_volts, read.loaded_volts, read.watts)
    found = sag_of(source, watts)
    (gm, u), (emission, _) = found.lost("gm"), found.lost("emission")
    said = {"ohms": source.ohms, "u": source.u_ohms, "fall": found.fall, "gm": gm, "U": u, "emission": emission}
    sentence = say_sag(read.tester, source, watts)
    print(json.dumps({**said, "sentence": sentence}, ensure_ascii=False, indent=1) if as_json else sentence)


@circuit_answers_app.command()
def held(
    file: Annotated[Path, typer.Argument(help="A log of the tester's line: the columns s and v.")],
    figure: Annotated[str, typer.Option(help="What was read while the button was held: 2.45 mS, or 78.")],
    test: Annotated[str, typer.Option(help="gm or emission.")] = "gm",
    per_volt: Annotated[str, typer.Option(help="What a volt of line was tried to be worth: 18 uS, or 0.7.")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """How far the line of a tube tester fell while its button was held, and the reading at the line before it."""
    from candor.core.tubes.held_line import at_the_line_set, held_in
    from candor.notebook.storage.files import read_bytes_of
    from candor.notebook.tubes.tubes_csv import read_line_log
    from candor.notebook.tubes.tubes_text import figure_in
    from candor.words.tubes_words import held_json, say_held_reading

    if test not in ("gm", "emission"):
        raise typer.BadParameter("a test is gm or emission")
    found = held_in(read_line_log(read_bytes_of(file, "The log")))
    value, unit = figure_in(figure)
    worth, worth_unit = figure_in(per_volt) if per_volt else (None, unit)
    if worth_unit != unit:
        raise typer.BadParameter("what a volt is worth has the unit of the figure")
    reading = at_the_line_set(value, test, found, worth) if found is not None else None
    if as_json:
        print(json.dumps(held_json(found, reading), ensure_ascii=False, indent=1))
    else:
        print(say_held_reading(found, reading, unit))


@circuit_answers_app.command()
def floors(
    readings: Annotated[
        list[str], typer.Argument(help="One source, read by each analyser: 0.26 % own 0.23 % u 0.01 %.")
    ],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Where a source's distortion must lie by analysers that have a residual of their own, and whether they can be compared."""
    from candor.core.waves.floors import compare_floors, read_analyser
    from candor.words.waves_words import floors_json, say_floors

    read = [read_analyser(text) for text in readings]
    found = compare_floors(read)
    print(
        json.dumps(floors_json(read, found), ensure_ascii=False, indent=1)
        if as_json
        else "\n".join(say_floors(read, found))
    )


@circuit_answers_app.command()
def turns(
    file: Annotated[
        Path,
        typer.Argument(
            help="A line each: start 3.2 -1.8; coil 1/2: 1.1 -2.4; trimmer 1/4: 3.0 1.2; limit 1 1; u 0.1."
        ),
    ],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """How adjusters that move each other are set: all at once, or one by one in which order and how many rounds."""
    from candor.core.calibration.interacting import read_turned, set_together
    from candor.notebook.storage.files import read_words
    from candor.words.turns_words import say_turns, turns_json

    found = set_together(read_turned(read_words(file)))
    print(json.dumps(turns_json(found), ensure_ascii=False, indent=1) if as_json else "\n".join(say_turns(found)))
