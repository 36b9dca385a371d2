"""The command line: the window, jots, packs and pictures."""

from __future__ import annotations

import dataclasses
import json
import os
import shutil
import sys
import tempfile
import traceback
import zipfile
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer
from platformdirs import user_data_path

from candor.building import building
from candor.calculations import calculations_app
from candor.core.errors import CandorError
from candor.from_photo import photo_app
from candor.keeping import backup, check, restore
from candor.notebook.notebook_errors import NotebookError
from candor.of_circuit import circuit_answers_app
from candor.of_day import day_app
from candor.of_links import links_app
from candor.of_pack import find_pack, pack_answers_app, read_pack_file
from candor.of_server import lying_at, move, server_app
from candor.version import __version__
from candor.writing import commands, lines, sentences, who_writes, write

if TYPE_CHECKING:
    from candor.notebook.exchange.travel import Taken

# Set by desktops when they start a program from its icon.
LAUNCHED = ("GIO_LAUNCHED_DESKTOP_FILE", "DESKTOP_STARTUP_ID", "XDG_ACTIVATION_TOKEN")

app = typer.Typer(
    help="Candor, a bench notebook that reckons. Without a command it opens your own notebook.",
    invoke_without_command=True,
    no_args_is_help=False,
    pretty_exceptions_enable=False,
    add_completion=False,
)
packs_app = typer.Typer(help="Packs: descriptions of types of instrument.", no_args_is_help=True)
building(packs_app)
app.add_typer(packs_app, name="packs")
app.add_typer(calculations_app)
app.add_typer(photo_app)
app.add_typer(pack_answers_app)
app.add_typer(circuit_answers_app)
app.add_typer(day_app)
app.add_typer(links_app)
app.add_typer(server_app, name="server")
app.command("move")(move)


def main() -> None:
    """Run the command line; errors of the application become a sentence and exit code 1."""
    try:
        app()
    except CandorError as error:
        print(f"candor: {error}", file=sys.stderr)
        if "--json" in sys.argv:
            print(json.dumps(error.as_fields(), ensure_ascii=False, indent=1))
        raise SystemExit(1) from None
    except OSError as error:
        what = error.filename2 or error.filename
        print(
            f"candor: {f'{what}: ' if what else ''}{error.strerror or error}. Nothing was written there.",
            file=sys.stderr,
        )
        raise SystemExit(1) from None


@app.callback()
def window(
    context: typer.Context,
    notebook: Annotated[
        str | None,
        typer.Option(help="Notebook file, or postgresql://name@host/notebook; the default is in your data folder."),
    ] = None,
    demo: Annotated[bool, typer.Option("--demo", help="Open a fresh copy of the demo notebook.")] = False,
    version: Annotated[bool, typer.Option("--version", help="Print the version.")] = False,
) -> None:
    """Open the window."""
    if version:
        print(f"candor {__version__}")
        raise typer.Exit
    if context.invoked_subcommand is not None:
        return
    if demo:
        open_demo()
        return
    try:
        path = lying_at(notebook) if notebook else own_notebook()
    except CandorError as error:
        _show_trouble(f"candor: {error}", str(error))
        raise typer.Exit(1) from None
    _start(path)


def own_notebook() -> Path:
    """Return where one's own notebook lies."""
    return user_data_path("candor") / "notebook.candor"


def _window(notebook: Path, who: str, cooking: tuple[str, str] | None = None) -> int:
    from candor.desktop.begin import hurry

    hurry()  # before what is large is loaded
    from candor.desktop.app import start

    return start(notebook, who, cooking)


def _start(notebook: Path) -> None:
    try:
        code = _window(notebook, who_writes())
    except CandorError as error:
        _show_trouble(f"candor: {error}", str(error))
        raise typer.Exit(1) from None
    except Exception as error:  # noqa: BLE001 - whatever it is, whoever started it must see it
        why = f"Candor could not start ({type(error).__name__}: {error}). Nothing was changed in {notebook.name}."
        _show_trouble("".join(traceback.format_exception(error)) + f"candor: {why}", why)
        raise typer.Exit(1) from None
    raise typer.Exit(code)


def _show_trouble(printed: str, sentence: str) -> None:
    """Say why there is no window, on the terminal and, where there is a screen, in a box: nobody may be looking at the terminal."""
    print(printed, file=sys.stderr)
    on_screen = any(name in os.environ for name in (*LAUNCHED, "DISPLAY", "WAYLAND_DISPLAY"))
    if on_screen and os.environ.get("QT_QPA_PLATFORM") not in ("offscreen", "minimal"):
        from candor.desktop.app import show_trouble

        show_trouble(sentence)


@app.command("demo")
def open_demo() -> None:
    """Open the window on a fresh copy of the demo notebook; what you write there is thrown away."""
    from candor.desktop.begin import hurry

    hurry()
    from candor.demo.demo_notebook import WHO, write_demo
    from candor.demo.parts_jobs import COOKING

    folder = Path(tempfile.mkdtemp(prefix="candor-demo-"))
    try:
        write_demo(folder / "saltmarsh.candor").close()
        code = _window(folder / "saltmarsh.candor", WHO, COOKING)
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    raise typer.Exit(code)


app.command()(write)
app.command()(commands)
app.command()(lines)
app.command()(sentences)
app.command()(check)
app.command()(backup)
app.command()(restore)


@app.command()
def jot(
    text: Annotated[str, typer.Argument(help="The line, as you would type it in the window.")],
    point: Annotated[str, typer.Option(help="Test point in hand, such as dc+/150/75.")] = "",
    pack: Annotated[str, typer.Option(help="Shipped pack's id, or a pack file.")] = "tarnholm-vm6",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Print how a jotted line is understood; nothing is written."""
    from candor.core.jot import JotContext, understand
    from candor.packs.pack_parts import parts_of_pack
    from candor.packs.procedure import point_by_name

    known = find_pack(pack)
    zones = tuple((z.key, z.title) for z in known.zones)
    parts = {p.ref: p for p in parts_of_pack(known.circuit, known.parts)}
    meaning = understand(text, JotContext(point_by_name(known, point) if point else None, zones=zones, parts=parts))
    kind = type(meaning).__name__.removesuffix("Jot").lower()
    if as_json:
        print(json.dumps({"kind": kind, **dataclasses.asdict(meaning)}, ensure_ascii=False, indent=1))
    else:
        print(f"{kind}: " + " | ".join(meaning.chips))


@app.command()
def travel(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    job: Annotated[str, typer.Argument(help="The job.")],
    target: Annotated[Path, typer.Argument(help="The zip to write.")],
) -> None:
    """Put a job with all that hangs on it into one zip: entries, standards, packs, photos, samples, certificates."""
    from candor.durably import write_durably
    from candor.notebook.exchange.travel_out import left_behind, travelling
    from candor.notebook.store import Notebook
    from candor.notebook.work.job import fold
    from candor.paper.travelling import papers_of

    held = Notebook(notebook, "travel")
    try:
        folded = fold(job, held.entries_of(job))
        content = travelling(held, job, papers=papers_of(held, folded))
        missing = left_behind(held, job)
    finally:
        held.close()
    write_durably(target, content)
    without = f" Without what is missing: {', '.join(missing)}." if missing else ""
    print(f"{target.name}: {folded.name}, {len(folded.entries)} entries, {len(content)} bytes.{without}")


@app.command()
def paper(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    job: Annotated[str, typer.Argument(help="The job.")],
    which: Annotated[
        str, typer.Argument(help="label, large-label, worksheet, blank-worksheet, bill, history or digital.")
    ],
    target: Annotated[Path, typer.Argument(help="The PDF to write, or XML for digital.")],
) -> None:
    """Print a paper of a job: a label of what was signed, a worksheet, the bill, the history sheet."""
    from candor.durably import write_durably
    from candor.notebook.entries.stay_entries import DetailWritten
    from candor.notebook.standards.standards import standards
    from candor.notebook.store import Notebook
    from candor.notebook.work.job import fold
    from candor.paper.papers import PAPERS, Wanted, paper_of

    key = next((k for k in PAPERS if k == which), None)
    if key is None:
        raise NotebookError(f"“{which}” is not a paper. Expected: {', '.join(PAPERS)}.", value=which)
    held = Notebook(notebook, "look")
    held.catch_up()
    try:
        details = {e.body.field: e.body.text for e in held.entries_of("") if isinstance(e.body, DetailWritten)}
        folded, on = fold(job, held.entries_of(job)), held.clock().date()
        shop, country = details.get("shop", ""), details.get("country", "")
        wanted = Wanted(known=standards(held), shop=shop, country=country, on=on)
        content = paper_of(key, held, folded, wanted)
    finally:
        held.close()
    write_durably(target, content)
    print(f"{target.name}: {PAPERS[key][0]} of {folded.name}.")


@app.command()
def take(
    file: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A travelling job.")],
    notebook: Annotated[Path | None, typer.Option(help="Notebook file; the default is in your data folder.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Take a travelling job in; what is here already is recognised."""
    taken = _take(file, notebook or own_notebook())
    told = {
        "job": taken.job,
        "new": taken.new,
        "known": taken.known,
        "files": taken.files,
        "sentence": taken.sentence,
    }
    print(json.dumps(told, ensure_ascii=False, indent=1) if as_json else taken.sentence)


def _take(file: Path, notebook: Path) -> Taken:
    from candor.notebook.exchange.travel import read_travelling, take_in
    from candor.notebook.store import Notebook

    found = read_travelling(file)
    held = Notebook(notebook, who_writes())
    try:
        return take_in(held, found)
    finally:
        held.close()


@app.command("open")
def open_file(
    file: Annotated[
        Path | None, typer.Argument(help="A notebook, or a travelling job to be taken into your own.")
    ] = None,
) -> None:
    """Open a notebook in the window, or take a travelling job into your own and open that: what a file manager calls."""
    from candor.desktop.app import show_trouble

    notebook = file or own_notebook()
    try:
        if file is not None and zipfile.is_zipfile(file):
            notebook = own_notebook()
            print(_take(file, notebook).sentence)
    except CandorError as error:
        if any(name in os.environ for name in LAUNCHED):
            show_trouble(str(error))
        raise
    _start(notebook)


@packs_app.command("check")
def check_pack(
    file: Annotated[Path, typer.Argument(help="A pack, YAML.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Check a pack file: every fault by line and column, and by how much its circuit misses each range."""
    from candor.packs.missing import what_is_missing
    from candor.packs.procedure import procedure
    from candor.packs.reproduces import range_misses

    found = read_pack_file(file)
    points = sum(s.kind == "point" for s in procedure(found))
    misses, missing = range_misses(found), what_is_missing(found)
    if as_json:
        said = {"id": found.id, "edition": found.edition, "steps": len(procedure(found)), "points": points}
        more = {"ranges": [dataclasses.asdict(m) for m in misses], "missing": missing}
        print(json.dumps({**said, **more}, ensure_ascii=False, indent=1))
        return
    print(
        f"{file.name}: no fault. {found.name}, edition {found.edition}: {len(procedure(found))} steps, {points} points."
    )
    for sentence in (*(miss.sentence for miss in misses), *(f"not said: {words}" for words in missing)):
        print(f"  {sentence}")


@packs_app.command("grow")
def grow(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    job: Annotated[str, typer.Argument(help="The job whose ranges, points and parts become a pack.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Print the pack that a job has gathered, as YAML."""
    from candor.notebook.arrive.pack_from_job import grown_of_job
    from candor.notebook.store import Notebook
    from candor.packs.write import pack_yaml

    opened = Notebook(notebook, "grow")
    try:
        pack = grown_of_job(opened, job)
    finally:
        opened.close()
    print(pack.to_json() if as_json else pack_yaml(pack), end="\n" if as_json else "")


@packs_app.command("schema")
def schema() -> None:
    """Print the JSON Schema of packs."""
    print(pack_schema(), end="")


@packs_app.command("list")
def listing() -> None:
    """List the packs that come with Candor."""
    from candor.packs.bundled import bundled_heads

    for found in bundled_heads():
        print(f"{found.id}  {found.name}, edition {found.edition}: {found.summary}")


@packs_app.command("kinds")
def kinds(
    folder: Annotated[Path, typer.Argument(help="A folder of kinds of one's own, beside a notebook.")] = Path(
        "kinds"
    ),
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON, with all that each kind knows.")] = False,
) -> None:
    """List the kinds of instrument at hand, those of a folder among them, and every fault in that folder's files."""
    from candor.packs.kinds_of_instrument import kinds_at_hand

    found = kinds_at_hand(folder)
    if as_json:
        known = [kind.model_dump(exclude_defaults=True) for kind in found.kinds.values()]
        print(json.dumps({"kinds": known, "faults": found.faults}, ensure_ascii=False, indent=1))
    else:
        for kind in found.kinds.values():
            print(
                f"{kind.id}  {kind.title}: {len(kind.zones)} zones, {', '.join(kind.usual) or 'functions as they are found'}"
            )
        for fault in found.faults:
            print(f"  {fault}")
    raise typer.Exit(1 if found.faults else 0)


@app.command()
def shots(folder: Annotated[Path, typer.Argument(help="Where the pictures go.")]) -> None:
    """Draw every main view from the demo notebook."""
    from candor.desktop.shots import draw_shots

    for path in draw_shots(folder):
        print(path)


def pack_schema() -> str:
    """Return the JSON Schema of packs as it is published."""
    from candor.packs.model import Pack

    described = Pack.model_json_schema()
    head = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Candor pack, formats 1 and 2"}
    return json.dumps({**described, **head}, indent=1, ensure_ascii=False) + "\n"
