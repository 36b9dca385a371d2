"""The command line's answers about a pack: what a trim must be, what its ranges bear; and how one is found by its name."""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path
from typing import Annotated

import typer

pack_answers_app = typer.Typer()


@pack_answers_app.command()
def retrim(
    pack: Annotated[str, typer.Argument(help="The pack: its id, or a YAML file.")],
    adjuster: Annotated[str, typer.Argument(help="Key of the adjuster.")],
    at: Annotated[str, typer.Option(help="The range that was read: function/range, such as line/mark.")],
    error: Annotated[str, typer.Option(help="Its error, instrument less truth: -1.2 %.")],
    measured: Annotated[str, typer.Option(help="What the part measures, where it is not as drawn.")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """What the part of an adjuster must be so that a range is right, and which resistor goes across it or in series."""
    from dataclasses import asdict

    from candor.core.errors import CandorError
    from candor.core.quantities import parse_number, parse_quantity
    from candor.packs.retrim import named_in
    from candor.packs.retrim import retrim as calculated
    from candor.words.combining import say_retrim

    function, _, range_ = at.partition("/")
    share = parse_number(error.replace("%", "").strip(), "an error in per cent such as -1.2 %") / 100
    value = parse_quantity(measured, "ohm").value if measured else 0.0
    of = find_pack(pack)
    named_in(of, adjuster, function, range_)
    found = calculated(of, adjuster, function, range_, share, value)
    if found is None:
        raise CandorError(
            f"The pack does not say which part {adjuster} is, or how {at} is made.",
            value=adjuster,
            expected="acts, made_by",
        )
    told, words = asdict(found), say_retrim(found)
    print(json.dumps(told | {"sentence": words}, ensure_ascii=False, indent=1) if as_json else words)


@pack_answers_app.command()
def greatest(
    pack: Annotated[str, typer.Argument(help="A pack's id, or a YAML file.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Calculate what each range bears at most, by its maker and its parts' ratings, and what a line of 120 and 230 V does to it."""
    from candor.packs.greatest_of_range import greatest_of
    from candor.words.greatest_words import greatest_json, greatest_lines

    found = greatest_of(find_pack(pack))
    said = (
        json.dumps(greatest_json(found), ensure_ascii=False, indent=1)
        if as_json
        else "\n".join(greatest_lines(found))
    )
    print(said)


@pack_answers_app.command()
def first(
    pack: Annotated[str, typer.Argument(help="A pack's id, or a YAML file.")],
    measured: Annotated[list[str] | None, typer.Option(help="A part that was measured: R3=848k.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Which parts to measure first, before anything is known: the fewest among which the one to blame is in 95 of 100."""
    from candor.notebook.work.measuring_first import first_of
    from candor.notebook.work.suspecting import read_measured
    from candor.words.first_words import first_json, say_first

    found = first_of(find_pack(pack), read_measured(measured or ()))
    told = say_first(found) or "No circuit says which parts make its ranges."
    print(json.dumps(first_json(found), ensure_ascii=False, indent=1) if as_json else told)


@pack_answers_app.command()
def suspects(
    file: Annotated[Path, typer.Argument(help="A table: point, reading, reference.")],
    pack: Annotated[str, typer.Option(help="The pack: its id, or a YAML file.")],
    standard: Annotated[Path, typer.Option(help="Standards as they are typed, divided by empty lines.")],
    measured: Annotated[list[str] | None, typer.Option(help="A part that was measured: R3=848k.")] = None,
    day: Annotated[str, typer.Option(help="The day of the readings, 2026-03-31; else today.")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """What explains the errors of a table of readings: zero, gain, a part of the circuit, or nothing; and what to read next."""
    import datetime as dt

    from candor.core.quantities import parse_date
    from candor.notebook.standards.chain_text import read_standards
    from candor.notebook.storage.files import read_bytes_of, read_words
    from candor.notebook.work.readings_alone import calculate_readings
    from candor.notebook.work.suspecting import read_measured, suspect
    from candor.packs.procedure import test_points
    from candor.words.suspects_words import say_suspected, suspects_json

    of, today = find_pack(pack), dt.date.today()
    on = parse_date(day, today, "the day of the readings") if day else today
    known = read_standards(read_words(standard), today)
    results = calculate_readings(read_bytes_of(file, "a table of readings"), of, known, on)
    phase = results[0].phase if results else "as found"
    own = [r for r in results if r.phase == phase]
    found = suspect(read_measured(measured or ()), of, own, test_points(of, phase))
    print(
        json.dumps(suspects_json(found), ensure_ascii=False, indent=1) if as_json else "\n".join(say_suspected(found))
    )


@pack_answers_app.command()
def steps(
    pack: Annotated[str, typer.Argument(help="A pack's id, or a YAML file.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Every step of a pack's procedure as it will read, with its placeholders filled."""
    from candor.packs.procedure import procedure

    told = [
        {"key": s.key, "section": s.section, "phase": s.phase, "kind": s.kind, "title": s.title, "set": s.set_words, "do": s.do,
         "aim": s.aim, "mistake": s.mistake, "cautions": [c.text for c in s.cautions]}
        for s in procedure(find_pack(pack))
    ]  # fmt: skip
    if as_json:
        print(json.dumps(told, ensure_ascii=False, indent=1))
        return
    section = ""
    for step in told:
        if step["section"] != section:
            section = str(step["section"])
            print(f"{section} ({step['phase']})")
        for text in step["cautions"]:
            print(f"  caution: {text}")
        print(f"  {_told(step)}")


def _told(step: Mapping[str, object]) -> str:
    setting = f"Set {step['set']}. " if step["set"] else ""
    return f"{step['title']}: {setting}{step['do']} {step['aim']}"


def find_pack(name: str):  # type: ignore[no-untyped-def]
    """Return a pack by its id, or from its YAML file."""
    from candor.packs.bundled import bundled_pack

    return read_pack_file(Path(name)) if name.endswith((".yaml", ".yml")) else bundled_pack(name)


def read_pack_file(path: Path):  # type: ignore[no-untyped-def]
    """Read a pack file, which may borrow from those beside it and those that come with Candor."""
    from candor.packs.bundled import lend_from
    from candor.packs.load import read_pack

    return read_pack(path, lend_from(lambda: (), path.parent))


@pack_answers_app.command()
def moves(
    pack: Annotated[str, typer.Argument(help="A pack's id, or a YAML file.")],
    known: Annotated[list[str] | None, typer.Option(help="A part that was measured: R3=848k.")] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print it as JSON.")] = False,
) -> None:
    """Calculate which adjuster moves which range, by how much for 1 % more of the part it acts on."""
    from candor.notebook.work.suspecting import read_measured
    from candor.packs.adjuster_reach import adjuster_reach
    from candor.words.reach_words import reach_json, reach_lines

    of = find_pack(pack)
    found = adjuster_reach(of, read_measured(known or ()))
    print(
        json.dumps(reach_json(found), ensure_ascii=False, indent=1) if as_json else "\n".join(reach_lines(found, of))
    )
