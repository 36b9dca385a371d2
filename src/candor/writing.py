"""Writing on the command line: the same lines, the same guards and the same answers as in the window."""

from __future__ import annotations

import getpass
import json
import os
from pathlib import Path
from typing import Annotated, Any

import typer


def who_writes() -> str:
    """Return the name that entries are signed with: CANDOR_WHO, or the user's."""
    try:
        return os.environ.get("CANDOR_WHO") or getpass.getuser()
    except (KeyError, OSError):
        return "unknown"


def write(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    job: Annotated[str, typer.Argument(help="The job.")],
    line: Annotated[str, typer.Argument(help="The line, as you would type it in the window.")],
    without: Annotated[
        bool, typer.Option(help="Change it although nothing was read as found; page one says so.")
    ] = False,
    dead: Annotated[str, typer.Option(help="It arrived dead: why nothing could be read as found.")] = "",
    is_sure: Annotated[bool, typer.Option("--sure", help="A name that is asked about is a new one.")] = False,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Write a line in a job: a finding, a change, a part, a rail, a node, a check. Readings come in as a table or by the window."""
    said = written(notebook, job, line, without=without, dead=dead, is_sure=is_sure)
    if as_json:
        print(json.dumps(said, ensure_ascii=False, indent=1))
        return
    for entry in said["written"]:
        print(f"entry {entry['number']}: {entry['words']}")
    for sentence in said["told"]:
        print(sentence)


def commands(as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False) -> None:
    """List every command of the sitting: what the window, and this line, can have written."""
    from candor.sitting.all_commands import COMMANDS

    told = {name: (made.__doc__ or "").strip().split("\n", maxsplit=1)[0] for name, made in COMMANDS.items()}
    print(
        json.dumps(told, ensure_ascii=False, indent=1) if as_json else "\n".join(f"{n}: {w}" for n, w in told.items())
    )


def lines(
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
    markdown: Annotated[bool, typer.Option(help="Print it as the page of the manual.")] = False,
) -> None:
    """List every line that Candor understands: what it says, and how it is typed."""
    from candor.core.jot.lines_manual import page, told

    if markdown:
        print(page(), end="")
    elif as_json:
        print(json.dumps(told(), ensure_ascii=False, indent=1))
    else:
        for row in told():
            print(f"{row['stop']}  {row['name']}: {row['does']}\n    " + "\n    ".join(row["examples"]))  # type: ignore[arg-type]


def sentences(
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
    markdown: Annotated[bool, typer.Option(help="Print it as the page of the manual.")] = False,
) -> None:
    """List what Candor finds and how it says so: an example of each sentence about a result."""
    from dataclasses import asdict

    from candor.words.review import cases, review_table
    from candor.words.speaking import all_sentences

    if markdown:
        print(review_table(), end="")
    elif as_json:
        listed = [asdict(case) for case in cases()]
        listed += [
            {"topic": "said in passing", "finding": name, "sentence": words} for name, words in all_sentences()
        ]
        print(json.dumps(listed, ensure_ascii=False, indent=1))
    else:
        print("\n".join(f"{case.finding}: {case.sentence}" for case in cases()))


def written(
    path: Path, job_id: str, line: str, *, without: bool = False, dead: str = "", is_sure: bool = False
) -> dict[str, Any]:
    """Write a line in a job and return its entries in words, and what follows from them.

    Raises
    ------
    CandorError
        Where it is not understood, where a guard bars it, or where it waits for what is said of the first reading.
    """
    from candor.core.errors import CandorError
    from candor.core.jot import JotContext, understand
    from candor.core.quantities.show import old_units_in, show_old
    from candor.notebook.entries.kinds_entries import in_words
    from candor.notebook.entries.shop_entries import shop_record
    from candor.notebook.entries.standing_entries import Standing
    from candor.notebook.notebook_errors import UnsoundJobError
    from candor.notebook.parts.parts_list import list_parts
    from candor.notebook.power.powering import expected_events
    from candor.notebook.standards.standards import standards
    from candor.notebook.store import Notebook
    from candor.notebook.work.description import description_of
    from candor.notebook.work.job import fold
    from candor.notebook.work.settings import settings_of
    from candor.sitting.jots import At, command_of
    from candor.sitting.sitting import Place, Seen, Sitting
    from candor.words.faults import say_unsound

    held = Notebook(path, who_writes())
    try:
        job = fold(job_id, held.entries_of(job_id))
        if job.stay.opened is None:
            raise CandorError(f"There is no job “{job_id}” in {path.name}.", value=job_id)
        if faults := held.faults_of(job_id, job.entries):
            raise UnsoundJobError(say_unsound(faults), place=path.name)
        pack, settings = description_of(held, job), settings_of(shop_record(Standing(held.entries_of(""))).details)
        show_old((*settings.units, *old_units_in(line)))
        parts = list_parts(job, pack, mains=settings.mains, esr_hertz=settings.esr_hertz)
        zones = tuple((z.key, z.title) for z in pack.zones)
        known = {x.part.ref: x.part for x in parts.lines}
        jot = understand(line, JotContext(zones=zones, parts=known, events=expected_events(job)))
        at = At(
            job=job,
            pack=pack,
            settings=settings,
            on=held.clock().date(),
            text=line,
            is_sure=is_sure,
            now=held.clock(),
            known=standards(held),
        )
        command = command_of(jot, at)
        if command is None:
            raise CandorError(f"“{line}” is a reading: take it in the window, or as a table of readings.", value=line)
        seen = Seen(
            job=job, pack=pack, parts=lambda: parts, settings=settings,
            folded=lambda new: fold(job_id, (*job.entries, *new)),
        )  # fmt: skip
        sitting, place = Sitting(held), Place(job=job_id)
        answer = sitting.do(command, seen, place)
        if sitting.held is not None:
            if not (without or dead):
                raise CandorError(
                    f"{sitting.held[1].words} Nothing was written; say --without, or --dead and why.", value=line
                )
            answer = sitting.go_on(seen, place, dead or None)
        numbers = {e.id: e.number for e in (*job.entries, *answer.written)}
        return {
            "written": [
                {"number": e.number, "kind": e.body.kind, "words": in_words(e, numbers)} for e in answer.written
            ],
            "told": [t.sentence for t in answer.told],
        }
    finally:
        held.close()
