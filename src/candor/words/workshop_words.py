"""A description that is being made, in words: how far it is, and what becomes of a job that goes over to it."""

from __future__ import annotations

from candor.notebook.arrive.workshop import Moving
from candor.packs.described import Judged

MOST_NAMED = 3


def say_judged(judged: Judged) -> str:
    """Say what a text describes so far, and what bars its use."""
    if judged.pack is None:
        count = "1 fault bars" if len(judged.faults) == 1 else f"{len(judged.faults)} faults bar"
        return f"{count} its use. It is kept as it stands; go on."
    if not judged.missing:
        return f"Edition {judged.pack.edition}. It can be used."
    more = f" and {len(judged.missing) - MOST_NAMED} more" if len(judged.missing) > MOST_NAMED else ""
    return f"Edition {judged.pack.edition}. It can be used; not said yet: {'; '.join(judged.missing[:MOST_NAMED])}{more}."


def say_moving(moving: Moving) -> str:
    """Say what becomes of an open job that goes over to another edition: which cautions it loses, then its readings."""
    said = (
        [f"Danger: no longer said there, or said otherwise: {'; '.join(moving.cautions)}."] if moving.cautions else []
    )
    if not moving.read:
        return " ".join((*said, "Nothing was read yet: no reading is lost by moving it."))
    read = "1 point was read" if moving.read == 1 else f"{moving.read} points were read"
    said.append(f"{read}; every reading stays in the notebook.")
    if moving.gone:
        are = "is" if len(moving.gone) == 1 else "are"
        said.append(f"{_named(moving.gone)} {are} not in the new edition: no result is made of them.")
    if moving.changed:
        said.append(f"Judged anew by other limits or another scale: {_named(moving.changed)}.")
    if not moving.gone and not moving.changed:
        said.append("All of them are judged as before.")
    return " ".join(said)


def _named(names: tuple[str, ...]) -> str:
    more = f" and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else ""
    return f"{', '.join(names[:MOST_NAMED])}{more}"
