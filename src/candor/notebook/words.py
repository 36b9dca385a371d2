"""Every entry in words, as the list of entries shows it."""

from __future__ import annotations

from candor.core.quantities import engineering
from candor.core.quantities.show import trimmed
from candor.notebook.entries import (
    AdjustmentMade,
    ArrivedDead,
    CertificateIssued,
    ChangeMade,
    ChangeProven,
    ConditionNoted,
    DetailWritten,
    Entry,
    FindingNoted,
    FindingSettled,
    ItemAdded,
    ItemLookedAt,
    JobOpened,
    NoteWritten,
    PhotoAdded,
    PutBack,
    ReadingTaken,
    RuleChosen,
    StandardChosen,
    StandardRecorded,
    StatusSet,
    StepDone,
    StepSkipped,
    Struck,
    TakenOff,
    TimerStarted,
    Unstruck,
)
from candor.notebook.fasteners_text import say_fasteners
from candor.notebook.part_entries import OrderArrived, RunEnded
from candor.notebook.parts_words import parts_in_words

_CONDITIONS = {"celsius": "room {} °C", "humidity": "relative humidity {} %", "line_volts": "line {} V"}
_WAYS = {"up": ", from below", "down": ", from above", "": ""}


def in_words(entry: Entry, numbers: dict[str, int]) -> str:
    """Return an entry as a line of words.

    Parameters
    ----------
    entry : Entry
    numbers : dict of str to int
        The number of every entry by its id, for entries that speak of others.
    """
    match entry.body:
        case ReadingTaken() as b:
            way = _WAYS[b.direction]
            return f"{b.point}, {b.phase}: {trimmed(b.indicated, 6)} read, {trimmed(b.reference, 7)} applied{way}"
        case AdjustmentMade() as b:
            left = "" if b.indicated is None else f", left at {trimmed(b.indicated, 6)}"
            return f"trimmed {b.trim}{left}"
        case ArrivedDead() as b:
            return f"as found: inoperative, because {b.reason}"
        case Struck() as b:
            return f"entry {numbers.get(b.target, 0)} struck"
        case Unstruck() as b:
            return f"entry {numbers.get(b.target, 0)} stands again"
        case StandardChosen() as b:
            return f"read against the standard of entry {numbers.get(b.standard, 0)}"
        case FindingSettled() as b:
            return f"finding of entry {numbers.get(b.finding, 0)} {b.how}: {b.reason}"
        case ChangeProven() as b:
            return f"change of entry {numbers.get(b.change, 0)} checked: {b.check}"
        case PutBack() as b:
            left = f", {b.left_over} left over" if b.left_over else ""
            return f"back on: entry {numbers.get(b.step, 0)}{left}"
        case PhotoAdded() as b:
            return f"photo of entry {numbers.get(b.finding, 0)}: {b.file}"
        case RunEnded() as b:
            safe = "safe" if b.safe else "not measured safe"
            read = f", {engineering(b.leakage, 'A', 3)} at {trimmed(b.volts)} V" if b.readings and b.leakage else ""
            left = "nothing was read" if b.measured_volts is None else f"left at {trimmed(b.measured_volts, 3)} V"
            return f"run of entry {numbers.get(b.run, 0)} on {b.ref} over: {b.why}{read}; {left}, {safe}"
        case OrderArrived() as b:
            return f"arrived, of the order in entry {numbers.get(b.order, 0)}: {len(b.lines)} lines"
        case _:
            return parts_in_words(entry) or _rest(entry)


def _rest(entry: Entry) -> str:
    match entry.body:
        case JobOpened() as b:
            return f"{b.maker} {b.type}, no. {b.serial or 'none'}, on the bench; pack {b.pack_digest[:12]}"
        case DetailWritten() as b:
            return f"{b.field}: {b.text}"
        case FindingNoted() as b:
            return f"{b.mark} found, {b.zone or 'elsewhere'}: {b.text}"
        case ItemLookedAt() as b:
            return f"looked for and not there, {b.zone}: {b.item}"
        case ItemAdded() as b:
            return f"on the checklist of {b.pack}, {b.zone}: {b.item}"
        case TakenOff() as b:
            return f"off: {b.what}{' · ' + say_fasteners(b.fasteners) if b.fasteners else ''}"
        case StepDone() as b:
            return f"done: {b.step}"
        case StepSkipped() as b:
            return f"left out: {b.step}, because {b.reason}"
        case TimerStarted() as b:
            return f"{b.label}: timer of {trimmed(b.seconds / 60)} min started"
        case ConditionNoted() as b:
            return _CONDITIONS[b.which].format(trimmed(b.value))
        case RuleChosen() as b:
            return f"decision rule: {b.rule}"
        case ChangeMade() as b:
            return f"done to it: {b.text}"
        case NoteWritten() as b:
            return f"note: {b.text}"
        case StatusSet() as b:
            return f"{b.status}{': ' + b.text if b.text else ''}"
        case CertificateIssued() as b:
            return f"certificate {b.number} signed off: {b.sentence}"
        case StandardRecorded() as b:
            checked = b.calibrated_on.isoformat() if b.calibrated_on else "never"
            return f"standard {b.name}, last checked {checked}"
    return str(entry.body)
