"""The command line's answers: readings, movements, waveforms, supplies, and what a job says of its power and its trace."""

from __future__ import annotations

import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Annotated, Any

import typer

from candor.of_pack import find_pack

calculations_app = typer.Typer()


@calculations_app.command()
def readings(
    file: Annotated[Path, typer.Argument(help="A table: point, reading, reference.")],
    pack: Annotated[str, typer.Option(help="The pack: its id, or a YAML file.")],
    standard: Annotated[Path, typer.Option(help="Standards as they are typed, divided by empty lines.")],
    rule: Annotated[str, typer.Option(help="guarded, plain or 4:1.")] = "guarded",
    day: Annotated[str, typer.Option(help="The day of the readings, 2026-03-31; else today.")] = "",
    set_up: Annotated[list[str] | None, typer.Option(help="A term of the set-up: leads 0.2 ohm U 0.05 ohm.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Calculate a table of readings against standards, with no notebook: error, U, verdict and budget of every point."""
    import datetime as dt

    from candor.core.quantities import parse_date
    from candor.notebook.exchange.columns import columns_left_out
    from candor.notebook.standards.chain_text import read_standards
    from candor.notebook.storage.files import read_bytes_of, read_words
    from candor.notebook.work.csv_readings import RangeReadingRow, ReadingRow
    from candor.notebook.work.readings_alone import calculate_readings, read_rule, read_set_up
    from candor.words.results import results_json, say_results

    today = dt.date.today()
    on = parse_date(day, today, "the day of the readings") if day else today
    known = read_standards(read_words(standard), today)
    content = read_bytes_of(file, "a table of readings")
    found = calculate_readings(content, find_pack(pack), known, on, read_rule(rule), read_set_up(set_up or ()))
    if as_json:
        print(json.dumps(results_json(found), ensure_ascii=False, indent=1))
    else:
        print("\n".join(say_results(found)))
    _say_left_out(columns_left_out(content, ReadingRow, RangeReadingRow))


@calculations_app.command()
def movement(
    half: Annotated[str, typer.Option(help="R1 in series at full scale and R2 across it at half: 99.1k,2.447k")] = "",
    have: Annotated[str, typer.Option(help="A movement: 40u,2.5k")] = "",
    wanted: Annotated[str, typer.Option(help="The movement it stands for: 50u,3k")] = "",
    amperes: Annotated[str, typer.Option(help="Ranges of a universal shunt: 1m,10m,100m")] = "",
    volts: Annotated[str, typer.Option(help="Ranges of volts: 2.5,10,25")] = "",
    rectified: Annotated[str, typer.Option(help="full wave or half wave, where the volts are a.c.")] = "",
    zeros: Annotated[str, typer.Option(help="Divisions from zero lying, standing, left, right: 0,0.4,-0.2,0.1")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """A moving-coil movement: its resistance by half deflection, its balance, shunts, multipliers, and a substitute for it."""
    from candor.words.movement_words import movement_told

    said = {
        "half": half,
        "have": have,
        "wanted": wanted,
        "amperes": amperes,
        "volts": volts,
        "rectified": rectified,
        "zeros": zeros,
    }
    _tell(movement_told(said), as_json)


@calculations_app.command()
def waveform(
    file: Annotated[Path, typer.Argument(help="Samples as an oscilloscope writes them, CSV.")],
    scope: Annotated[str, typer.Option(help="The oscilloscope's own rise time, such as 350 ps.")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Rise, overshoot, tilt, period, THD and the like of each channel, with U, the levels used, and what cannot be told."""
    from candor.notebook.storage.files import LARGEST_SAMPLES, read_words
    from candor.words.waves_words import waveform_lines, waveforms_told

    text = read_words(file, LARGEST_SAMPLES, "a table of samples")
    if as_json:
        print(json.dumps(waveforms_told(text, file.name, scope), ensure_ascii=False, indent=1))
    else:
        print("\n".join(waveform_lines(text, file.name, scope)))


@calculations_app.command()
def capture(
    address: Annotated[
        str, typer.Argument(help="Where an oscilloscope answers, and how: the manual, Waveforms; or simulated.")
    ],
    out: Annotated[Path | None, typer.Option(help="The samples go into this table as well.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Read the samples of an oscilloscope on a link; their figures as `waveform` gives them."""
    from candor.durably import write_durably
    from candor.links.oscilloscope import read_captured
    from candor.words.waves_words import waveform_lines, waveforms_told

    text = read_captured(address).as_table()
    if out is not None:
        write_durably(out, text.encode("utf-8"))
    told = waveforms_told(text, "oscilloscope")
    print(
        json.dumps(told, ensure_ascii=False, indent=1) if as_json else "\n".join(waveform_lines(text, "oscilloscope"))
    )


@calculations_app.command()
def match(
    file: Annotated[Path, typer.Argument(help="Tubes, CSV: tube, section, figure, u.")],
    of: Annotated[int, typer.Option(help="How many go together.")] = 2,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Match tubes over all on hand: pairs by least total mismatch, and the groups that cannot be told apart."""
    from candor.notebook.exchange.columns import columns_left_out
    from candor.notebook.storage.files import read_bytes_of
    from candor.notebook.tubes.tube_table import MeasuredRow, match_told
    from candor.words.tube_tables import say_matching

    content = read_bytes_of(file, "a table of tubes")
    _tell_table(match_told(content, of), say_matching, as_json, left_out=columns_left_out(content, MeasuredRow))


@calculations_app.command()
def supply(
    file: Annotated[Path, typer.Argument(help="A netlist: transformer, rectifiers, filter, load.")],
    seconds: Annotated[
        float | None, typer.Option(help="How long it runs from cold; else until it has settled.")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Calculate a power supply from cold: mean, low, high and ripple of every node, and the highest volts ever."""
    from candor.core.circuit.netlist import parse_netlist
    from candor.core.power.supply import calculate_supply, read_stop
    from candor.notebook.storage.files import read_words
    from candor.words.supply_words import supply_json, supply_lines

    text = read_words(file)
    answer = calculate_supply(parse_netlist(text), seconds or read_stop(text))
    if as_json:
        print(json.dumps(supply_json(answer), ensure_ascii=False, indent=1))
    else:
        print("\n".join(supply_lines(answer)))


@calculations_app.command()
def power(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    job: Annotated[str, typer.Argument(help="The job.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """May a job be powered: the list with what is missing, the way up, and what each reading means in its state."""
    from candor.words.views_as_text import power_told

    _tell(power_told(notebook, job), as_json)


@calculations_app.command()
def parts(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    job: Annotated[str, typer.Argument(help="The job.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """A job's parts, the riskiest first: keep, watch, replace or cannot tell, why, what would change it, what may go in."""
    from candor.words.views_as_text import parts_told

    _tell(parts_told(notebook, job), as_json)


@calculations_app.command()
def leaving(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    job: Annotated[str, typer.Argument(help="The job.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """What is looked at before a job goes: each line with its limit, who found it so and when, and what is open."""
    from candor.words.views_as_text import leaving_told

    _tell(leaving_told(notebook, job), as_json)


@calculations_app.command()
def trace(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    job: Annotated[str, typer.Argument(help="The job.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """A job's trace: every node, what resistors carry, what does not add up, and where to look next."""
    from candor.words.views_as_text import trace_told

    _tell(trace_told(notebook, job), as_json)


def _tell_table(
    told: dict[str, Any], say: Callable[[dict[str, Any]], str], as_json: bool, *, left_out: str = ""
) -> None:
    """Print what a table of people says; a column that nobody reads is named, so that a misspelt heading is not lost unseen."""
    print(json.dumps(told, ensure_ascii=False, indent=1) if as_json else say(told))
    _say_left_out(left_out)


def _say_left_out(words: str) -> None:
    if words:
        print(words, file=sys.stderr)


def _tell(told: object, as_json: bool) -> None:
    if as_json:
        print(json.dumps(told, ensure_ascii=False, indent=1))
        return
    assert isinstance(told, dict)
    for heading, lines in told.items():
        print(f"{heading}:")
        for line in lines if isinstance(lines, list) else [lines]:
            print(f"  {line['sentence'] if isinstance(line, dict) else line}")


@calculations_app.command()
def combine(
    kind: Annotated[str, typer.Argument(help="resistor or capacitor.")],
    target: Annotated[str, typer.Argument(help="The value wanted: 6.8M, 22n.")],
    within: Annotated[str, typer.Option(help="What serves, plus or minus, in per cent.")] = "1",
    measured: Annotated[str, typer.Option(help="A part that is there and is to be trimmed, as it measures.")] = "",
    volts: Annotated[str, typer.Option(help="Across the whole: 300 V.")] = "",
    series: Annotated[str, typer.Option(help="A series to search beside the stock: E24.")] = "",
    most: Annotated[int, typer.Option(help="Pieces at most, 1 to 4.")] = 4,
    stock: Annotated[Path | None, typer.Option(help="What is on hand: a table of stock.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """A value made of one to four pieces, or the part that trims one: exact, what serves, the nearest of E24, of stock."""
    from candor.core.combine.combiner_fields import read_asked
    from candor.core.combine.search import search
    from candor.notebook.exchange.columns import columns_left_out
    from candor.notebook.parts.stock import StockRow, stock_pieces
    from candor.notebook.storage.files import read_bytes_of
    from candor.words.combining import search_json, search_lines

    said = {"target": target, "window": within, "measured": measured, "volts": volts}
    asked = read_asked(said, kind=kind, most=most, series=series)
    content = read_bytes_of(stock, "a table of stock") if stock is not None else b""
    found = search(asked, stock_pieces(content, kind) if content else ())
    print(json.dumps(search_json(found), ensure_ascii=False, indent=1) if as_json else search_lines(found))
    _say_left_out(columns_left_out(content, StockRow) if content else "")


@calculations_app.command()
def correct(
    file: Annotated[
        Path, typer.Argument(help="Tubes: columns tube, shown, and figure and u for those that are known.")
    ],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """What a tube tester says, corrected by tubes of known figures: a robust line, each tube's figure with its U."""
    from candor.notebook.exchange.columns import columns_left_out
    from candor.notebook.storage.files import read_bytes_of
    from candor.notebook.tubes.tube_table import ShownRow, correct_told
    from candor.words.tube_tables import say_correction

    content = read_bytes_of(file, "a table of tubes")
    _tell_table(correct_told(content), say_correction, as_json, left_out=columns_left_out(content, ShownRow))


@calculations_app.command()
def gm(
    file: Annotated[Path, typer.Argument(help="Grid volts and plate current, a pair a line: -3.25  6.10 mA")],
    volts: Annotated[str, typer.Option(help="Standard uncertainty of one grid voltage: 2m")] = "0",
    amperes: Annotated[str, typer.Option(help="Standard uncertainty of one plate current: 3u")] = "0",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """A tube's transconductance from plate currents about a point, with its budget."""
    from candor.core.quantities import pair, parse_quantity
    from candor.core.tubes.known import transconductance
    from candor.notebook.storage.files import read_words
    from candor.notebook.tubes.tubes_text import read_points

    points = read_points(read_words(file))
    found = transconductance(points, parse_quantity(volts, "V").value, parse_quantity(amperes, "A").value)
    told = {
        "siemens": found.siemens,
        "U": found.coverage.expanded,
        "k": found.coverage.factor,
        "grid_volts": found.grid_volts,
        "plate_amperes": found.plate_amperes,
        "budget": [{"name": c.name, "u": c.size, "reason": c.reason} for c in found.budget.largest_first()],
    }
    if as_json:
        print(json.dumps(told, ensure_ascii=False, indent=1))
    else:
        print(pair(found.siemens, found.coverage.expanded, "S").removeprefix("+"))


@calculations_app.command()
def drift(
    file: Annotated[Path, typer.Argument(help="A history: date, point, error, U, limit, when (found or left).")],
    target: Annotated[float, typer.Option(help="Probability of being in tolerance, in per cent.")] = 95.0,
    day: Annotated[str, typer.Option(help="As of this day, 2026-03-31; else today.")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """How an instrument drifts: slopes, segments, the probability of being in tolerance by date, when it is due and why."""
    import datetime as dt

    from candor.core.errors import RangeError
    from candor.core.quantities import parse_date
    from candor.notebook.exchange.columns import columns_left_out
    from candor.notebook.soak.drift_table import HistoryRow
    from candor.notebook.storage.files import read_bytes_of
    from candor.words.drift_lines import drift_told, say_drift

    if not 50 <= target < 100:
        raise RangeError(
            f"A target of {target:g} %; 50 to under 100 was expected.", value=f"{target:g}", expected="95"
        )
    today = dt.date.today()
    on = parse_date(day, today, "the day") if day else today
    content = read_bytes_of(file, "a history")
    _tell_table(
        drift_told(content, on, target / 100), say_drift, as_json, left_out=columns_left_out(content, HistoryRow)
    )


@calculations_app.command()
def settle(
    file: Annotated[Path, typer.Argument(help="Readings: seconds, value.")],
    limit: Annotated[
        float, typer.Option(help="Limit of the point: ready means a tenth of it is left to settle.")
    ] = 0.0,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Whether something has settled: final value, time constant and ready time, each with its range."""
    from candor.notebook.exchange.columns import columns_left_out
    from candor.notebook.soak.stability_table import RecordRow, say_settling, settle_told
    from candor.notebook.storage.files import read_bytes_of

    content = read_bytes_of(file, "readings")
    _tell_table(settle_told(content, limit), say_settling, as_json, left_out=columns_left_out(content, RecordRow))


@calculations_app.command()
def allan(
    file: Annotated[Path, typer.Argument(help="Readings at equal times: seconds, value; or seconds, phase.")],
    period: Annotated[float, typer.Option(help="Of the signal compared, s: a phase log is unwrapped by it.")] = 0.0,
    path: Annotated[
        float, typer.Option(help="Standard uncertainty of the reference's own frequency, such as 1e-9.")
    ] = 0.0,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Allan deviations of readings, how long to average; and of a phase log the frequency's offset and ageing."""
    from candor.notebook.exchange.columns import columns_left_out
    from candor.notebook.soak.stability_table import PhaseRow, RecordRow, allan_told, say_allan
    from candor.notebook.storage.files import read_bytes_of

    content = read_bytes_of(file, "readings")
    told = allan_told(content, period, path)
    _tell_table(told, say_allan, as_json, left_out=columns_left_out(content, PhaseRow, RecordRow))
