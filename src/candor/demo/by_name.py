"""The demo's instrument that no pack describes: something else, with ranges and points made as one went."""

from __future__ import annotations

import datetime as dt
from typing import cast

from candor.core.jot import JotContext, understand
from candor.core.jot.meaning import AliasJot, JoinJot, ListedJot
from candor.core.parts.part import Kind, Part
from candor.demo.gathered_entries import Writing
from candor.notebook.entries.arrive_entries import FindingNoted, FindingSettled
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import ReadingTaken, StandardChosen
from candor.notebook.entries.cleaning_entries import Cleaned
from candor.notebook.entries.parts_entries import PartMeasured
from candor.notebook.entries.ranges_entries import RangeMade
from candor.notebook.entries.setup_entries import ConditionNoted
from candor.notebook.entries.stay_entries import ChangeMade, ChangeProven, DetailWritten, JobOpened
from candor.notebook.entries.unit_entries import AccountedFor, FunctionFound, NotAsDrawn, Unaccounted
from candor.notebook.store import Place
from candor.notebook.trace.tracing import board_bodies

JOB = "sb40230"
LOW = RangeMade(
    function="Battery volts", unit="V", full_scale=30.0, divisions=30, percent_of_full_scale=3.0, by="owner"
)
HIGH = RangeMade(
    function="Line volts", unit="V", full_scale=300.0, divisions=60, percent_of_full_scale=3.0, by="owner"
)
# Needle and reference, from below and from above; the upper range reads high until its dropper is changed.
FOUND = {
    LOW: ((6.0, 6.03), (12.25, 12.04), (12.25, 12.04), (24.5, 24.05), (29.75, 29.5)),
    HIGH: ((104.0, 100.1), (156.25, 150.0), (262.5, 250.2), (262.5, 250.2)),
}
LEFT = {
    HIGH: ((100.0, 99.8), (150.0, 150.3), (250.0, 250.1), (250.0, 250.1)),
    LOW: ((6.0, 6.03), (12.25, 12.04), (12.25, 12.04), (24.5, 24.05), (29.75, 29.5)),
}
NOMINALS = {LOW: (6.0, 12.0, 12.0, 24.0, 29.5), HIGH: (100.0, 150.0, 250.0, 250.0)}
BOARD = ("part R2 27k 5% comp divider", "part R3 270k 5% comp divider", "part C1 0.1 uF 400V paper", "R2 joins tap and meter",
         "R3 joins line and tap", "C1 joins tap and chassis", "node tap is terminal 3")  # fmt: skip


def write_by_name(writing: Writing, standard: str, now: dt.datetime) -> None:
    """Gather the job: arrived by its name, ranges written from its face, read, mended, read again."""
    minute, start = dt.timedelta(minutes=1), now - dt.timedelta(days=1, hours=2)
    opened = JobOpened(maker="Brindle & Orme", type="supply monitor", serial="118", instrument_kind="something-else")
    writing.add_all(JOB, [opened, StandardChosen(standard=standard)], start)
    said = {
        "owner": "a boat yard",
        "says": "reads the mains as if it were abroad",
        "mass": "6 kg",
        "missing": "its handbook",
    }
    writing.add_all(JOB, [DetailWritten(field=k, text=v) for k, v in said.items()], start + 2 * minute)
    cord = writing.add(
        JOB, FindingNoted(zone="cord", mark="hazard", text="two wires and no earth"), start + 4 * minute
    )
    lost = writing.add(JOB, Unaccounted(count=1, what="screw of the meter"), start + 5 * minute)
    unit: list[Body] = [
        FunctionFound(function="Battery volts"), FunctionFound(function="Line volts", faded=True),
        NotAsDrawn(text="a silicon diode where the selenium plate was"),
        FindingNoted(zone="face", mark="note", text="faded lettering at the upper range"),
        Cleaned(what="range switch contacts", how="cleaner"), Cleaned(what="range switch contacts", how="lubricated"),
        AccountedFor(of=lost.id, where="stuck to the magnet of the movement"),
        FindingSettled(finding=cord.id, how="cleared", reason="three-wire cord, earth the longest, bond 0.06 ohm"),
    ]  # fmt: skip
    writing.add_all(JOB, unit, start + 20 * minute)
    _board(writing, start + 40 * minute)
    conditions = (("celsius", 22.4), ("humidity", 48.0), ("line_volts", 119.2))
    for which, value in conditions:
        writing.add(JOB, ConditionNoted.model_validate({"which": which, "value": value}), now - 90 * minute)
    for index, (made, readings) in enumerate(FOUND.items()):
        at = now - (80 - 10 * index) * minute
        writing.add(JOB, made, at)
        _read(writing, made, readings, "as found", standard, at)
    measured = PartMeasured(ref="R3", value=256e3, written="R3 256k")
    changed = ChangeMade(text="replaced R3 with 270 kΩ 1 %, inside the old sleeve", part="R3")
    drafts = writing.add_all(JOB, [measured, changed], now - 40 * minute)
    writing.add(JOB, ChangeProven(change=drafts[1].id, check="tap reads 1/11 of the line"), now - 38 * minute)
    for index, (made, readings) in enumerate(LEFT.items()):
        _read(writing, made, readings, "as left", standard, now - (30 - 10 * index) * minute)
    key = f"{HIGH.function_key}/{HIGH.range_key}"
    writing.notebook.keep_place(Place(JOB, "calibrate", f"own-{key.replace('/', '-')}-left:as-left:{key}"))


def _board(writing: Writing, at: dt.datetime) -> None:
    parts: dict[str, Part] = {}
    for line in BOARD:
        jot = understand(line, JotContext(parts=parts))
        if isinstance(jot, ListedJot | JoinJot | AliasJot):
            writing.add_all(JOB, board_bodies(jot), at)
        if isinstance(jot, ListedJot):
            ref = jot.cells["part"]
            parts[ref] = Part(ref, cast(Kind, jot.cells["kind"]), 1.0)


def _read(
    writing: Writing,
    made: RangeMade,
    readings: tuple[tuple[float, float], ...],
    phase: str,
    standard: str,
    at: dt.datetime,
) -> None:
    nominals, seen = NOMINALS[made], set()
    for index, ((indicated, reference), nominal) in enumerate(zip(readings, nominals, strict=True)):
        key = f"{made.function_key}/{made.range_key}"
        left = "-left" if phase == "as left" else ""
        body = {
            "step": f"own-{key.replace('/', '-')}{left}:{phase.replace(' ', '-')}:{key}/{nominal:g}", "phase": phase,
            "point": f"{key}/{nominal:g}", "indicated": indicated, "reference": reference, "standard": standard,
            "direction": "down" if nominal in seen else "up", "reference_from": "typed", "means": "jot",
            "written": f"{indicated:g} ref {reference:g}",
        }  # fmt: skip
        seen.add(nominal)
        writing.add(JOB, ReadingTaken.model_validate(body), at + index * dt.timedelta(minutes=1))
