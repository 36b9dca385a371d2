"""What is wrong with a notebook, in words; and whether a paper proves it."""

from __future__ import annotations

import dataclasses
import datetime as dt
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from candor.notebook.entries.stay_entries import FilesGone
from candor.notebook.storage.backup import Backup, Made, Missed
from candor.notebook.storage.chain import say_broken
from candor.notebook.storage.checking import Checked, Head
from candor.notebook.storage.fault import Fault

_ONE = {"photos": "photo", "waveforms": "waveform", "certificates": "certificate", "runs": "run file"}


def in_short(fault: Fault) -> str:
    """Say a fault with no more of a digest than tells it from others."""
    stem = fault.name.partition(".")[0]
    return say_fault(replace(fault, name=f"{stem[:8]}…") if len(stem) >= 32 else fault)


def say_fault(fault: Fault) -> str:
    """Say what is not as it was written, and where."""
    entry, what = f"Entry {fault.numbers[0] if fault.numbers else 0}", _ONE.get(fault.what, fault.what)
    match fault.kind:
        case "empty":
            beside = f", though there are {fault.what} beside it" if fault.what else ""
            return (
                f"{fault.name} is empty{beside}: nothing was ever written in it, or all of it is gone. Open a backup."
            )
        case "gone":
            first, last = fault.numbers
            gone = f"Entry {first} is" if first == last else f"Entries {first} to {last} are"
            return f"{gone} gone: entries are numbered without a gap. Compare with a backup."
        case "foreign":
            return f"The {fault.what} “{fault.name}” is none that Candor makes: it was put in by another program."
        case "not as written":
            return f"{f'Job {fault.job}' if fault.job else 'The shop'}: {say_broken(fault.numbers)}"
        case "unreadable":
            return f"{entry}: this version of Candor cannot read it ({fault.why})."
        case "missing":
            return f"{entry}: the {what} {fault.name} cannot be read ({fault.why})."
        case "changed":
            return f"{entry}: the {what} {fault.name} is not as it was kept: its digest does not fit."
        case "misnamed":
            return f"{entry}: “{fault.name[:60]}” is not a name of a {what}."
        case "not named":
            return f"No entry names the {what} {fault.name}: it was put there by hand, or its entry was never written or is gone."
        case "pack changed":
            return f"The pack {fault.name} is not as it was kept: its digest does not fit."
        case "pack missing":
            return f"{entry}: the pack {fault.name} that its job is read with is not in this notebook."


def say_gone(count: int) -> str:
    """Say that entries are no longer in a notebook."""
    return (
        f"{'1 entry is' if count == 1 else f'{count} entries are'} gone from this notebook: entries are numbered without a gap. "
        "Check it in Notebook, and compare with a backup."
    )


def say_unsound(faults: Sequence[Fault]) -> str:
    """Say why nothing is written in a job that stands on what is no longer what was kept, and what can be done."""
    first, more = in_short(faults[0]), len(faults) - 1
    others = f" {more} more {'file is' if more == 1 else 'files are'} so." if more else ""
    if any(not fault.file for fault in faults):
        help_ = "Restore it from a backup, or take the job in again from its zip."
    else:
        help_ = "Put it back from a backup, or say in Notebook why the job goes on without it."
    return f"{first}{others} The job can be looked at, but nothing is written in it and nothing is signed. {help_}"


def say_gone_on_without(body: FilesGone) -> str:
    """Say without which files a job went on, and why."""
    one = len(body.files) == 1
    named = ", ".join(body.files[:6]) + (f" and {len(body.files) - 6} more" if len(body.files) > 6 else "")
    why = body.reason.strip().rstrip(".")
    return f"{'A file is' if one else f'{len(body.files)} files are'} missing or not as kept: {named}. Reason given: {why}."


def say_checked(found: Checked, name: str) -> tuple[str, ...]:
    """Say what was looked at, and every fault, a line each."""
    looked = f"{found.entries} entries in {found.jobs} jobs, {found.packs} packs, {found.files} files"
    count = len(found.faults)
    head = f"{name}: {looked}: {count or 'no'} fault{'' if count == 1 else 's'}."
    return (head, *(f"  {say_fault(fault)}" for fault in found.faults))


def faults_json(found: Checked, head: Head | None, *, asked: bool) -> dict[str, Any]:
    """Return what was found with its fields and the sentence of each; with a head where one was `asked` for."""
    whole = dataclasses.asdict(found)
    for fault, fields in zip(found.faults, whole["faults"], strict=True):
        fields["sentence"] = say_fault(fault)
    if asked:
        whole["head"] = {**(dataclasses.asdict(head) if head is not None else {}), "sentence": say_head(head)}
    return whole


def say_backup(made: Made) -> str:
    """Say what is in a backup that was made, and what was already wrong with the notebook."""
    words = f"{made.backup.path}: {made.entries} entries and {made.files} files, read back whole."
    return " ".join((words, *map(in_short, made.faults)))


def say_missed(found: Missed) -> str:
    """Say that backups are missed in a folder, since when, and why."""
    since = f"No backup since {found.last.astimezone():%d %b %Y}" if found.last is not None else "No backup yet"
    return f"{since} in {found.folder}{f': {found.why.rstrip(chr(46))}' if found.why else ''}."


def say_kept(folder: Path, made: Sequence[Backup]) -> str:
    """Say how many backups lie in a folder, and of when the newest is."""
    if not made:
        return f"None yet in {folder}: the first is made a minute after Candor is opened."
    count = "1 backup" if len(made) == 1 else f"{len(made)} backups"
    return f"{count} in {folder}, the newest of {made[0].at.astimezone():%d %b %Y %H:%M}."


def backup_json(made: Made) -> dict[str, Any]:
    """Return a backup with its fields."""
    faults = [{**dataclasses.asdict(fault), "sentence": say_fault(fault)} for fault in made.faults]
    at = made.backup.at.isoformat()
    return {"backup": str(made.backup.path), "at": at, "entries": made.entries, "files": made.files, "faults": faults}


def say_head(found: Head | None) -> str:
    """Say what the words of a paper prove of a notebook."""
    if found is None:
        return (
            "No entry has these words. An entry from before the paper was made was changed or is gone, or the paper is of another "
            "notebook."
        )
    day = dt.datetime.fromisoformat(found.at).strftime("%d %b %Y %H:%M UTC")
    job = f"{found.name} (job {found.job})" if found.name else f"job {found.job}"
    where = f"entry {found.number} of {job if found.job else 'the shop'}, {day}"
    if not found.sound:
        return f"The words are those of {where}, but an entry before it is not as written: the digests do not fit."
    since = "1 entry was" if found.since == 1 else f"{found.since} entries were"
    after = "nothing was written since" if not found.since else f"{since} written since"
    return (
        f"The words are those of {where}. All of the job up to there is as it was when the paper was made; {after}."
    )
