"""The command line's plan of the shop's days, and its iCalendar."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Annotated

import typer

day_app = typer.Typer()


@day_app.command()
def day(
    notebook: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A notebook.")],
    before: Annotated[
        str, typer.Option(help="The plan before, as --json gave it, which is kept as far as it can be; - reads it.")
    ] = "",
    calendar: Annotated[Path | None, typer.Option(help="Write it as iCalendar too: plan.ics.")] = None,
    papers: Annotated[Path | None, typer.Option(help="Write the papers of the first day too: day.pdf.")] = None,
    now: Annotated[str, typer.Option(help="From when on: 2026-03-31T09:00; else from now.")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Plan the shop's days: every open job's next deeds, when, why then, and whether the promises to owners are kept."""
    import datetime as dt

    from candor.core.errors import ValueTextError
    from candor.durably import write_durably
    from candor.notebook.plan.day import day_from
    from candor.notebook.plan.planning import plan_day
    from candor.notebook.storage.files import read_words
    from candor.notebook.store import Notebook
    from candor.words.plan_words import day_json, say_plan

    earlier = None
    if before:
        text = sys.stdin.read() if before == "-" else read_words(Path(before))
        try:
            earlier = day_from(json.loads(text)).starts if text.strip() else None
        except (ValueError, KeyError, TypeError):
            raise ValueTextError(
                "The plan before is not one that “candor day --json” printed.", value=text[:80]
            ) from None
    try:
        at = dt.datetime.fromisoformat(now).astimezone() if now else dt.datetime.now().astimezone()
    except ValueError:
        raise ValueTextError(f"“{now}” is no moment. Example: 2026-03-31T09:00", value=now) from None
    held = Notebook(notebook, "look")
    try:
        found = plan_day(held, at, before=earlier)
        if papers is not None:
            from candor.paper.day_papers import day_papers

            write_durably(papers, day_papers(held, found, found.begins.date(), ""))
    finally:
        held.close()
    if calendar is not None:
        from candor.paper.calendar_file import calendar_of

        write_durably(calendar, calendar_of(found))
    print(json.dumps(day_json(found), ensure_ascii=False) if as_json else "\n".join(say_plan(found)))
