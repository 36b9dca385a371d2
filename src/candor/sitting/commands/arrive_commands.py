"""Commands of Arrive: findings and their pictures, what was looked for, what was taken off and put back, the unit."""

from __future__ import annotations

from candor.core.jot.meaning import ArriveJot
from candor.core.jot.usual_mark import usual_mark
from candor.core.worded import worded
from candor.notebook.arrive.arrivals import bodies_of, resoldered
from candor.notebook.entries.arrive_entries import (
    Fasteners,
    FindingNoted,
    ItemLookedAt,
    PhotoAdded,
    PutBack,
    TakenOff,
)
from candor.notebook.entries.body import Body
from candor.notebook.entries.places_entries import ChassisPhoto, PinPlaced
from candor.notebook.entries.shop_entries import ItemAdded
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.entries.unit_entries import AccountedFor, FunctionFound
from candor.notebook.work.job import Job
from candor.sitting.command import Command, command, of_shop


def finding(zone: str, mark: str, text: str) -> Command:
    """Something was found: a hazard, what is to be fixed, or worth a note."""
    return command(f"{mark}: {text}", FindingNoted.model_validate({"zone": zone, "mark": mark, "text": text}))


def seen(job: Job, zone: str, item: str, live_case: bool) -> Command:
    """What was looked for is there: a finding, with the mark such a thing usually has; that it was not there no longer stands."""
    bodies: list[Body] = [FindingNoted(zone=zone, mark=usual_mark(item, live_case), text=item)]
    looked = job.arrive.looked.get((zone, item))
    if looked is not None:
        bodies.insert(0, Struck(target=looked.id))
    return command(f"seen: {item}", *bodies)


def absent(zone: str, item: str) -> Command:
    """What was looked for is not there."""
    return command(worded("sitting.not_there", item=item), ItemLookedAt(zone=zone, item=item))


def add_item(pack: str, zone: str, item: str) -> Command:
    """The shop's own item goes on the checklist of a pack."""
    return of_shop(worded("sitting.on_the_checklist", item=item), ItemAdded(pack=pack, zone=zone, item=item))


def photo(of: str, file: str) -> Command:
    """A picture that was kept belongs to an entry."""
    return command("a picture", PhotoAdded(finding=of, file=file))


def take_off(what: str, fasteners: tuple[Fasteners, ...], wires: str) -> Command:
    """Something was taken off, with what held it."""
    return command(f"off: {what}", TakenOff(what=what, fasteners=fasteners, wires=wires))


def put_back(step: str, left_over: int) -> Command:
    """It is back on, and so many fasteners are left over."""
    return command("put back", PutBack(step=step, left_over=left_over))


def function_found(name: str) -> Command:
    """A function that the unit has."""
    return command(f"function: {name}", FunctionFound(function=name))


def account_for(missing: str, where: str) -> Command:
    """A fastener that was missing was found."""
    return command("a fastener found", AccountedFor(of=missing, where=where))


def arrival(jot: ArriveJot, job: Job) -> Command:
    """What a line of the first sitting says."""
    bodies = bodies_of(jot, job)
    return command(bodies[0].kind.replace("_", " ") if bodies else "", *bodies)


def resolder(job: Job) -> Command:
    """The poor joints that were noted are re-soldered: a change.

    Raises
    ------
    CandorError
        Where none is left.
    """
    return command("re-soldered", resoldered(job))


def chassis_photo(file: str, title: str = "") -> Command:
    """A photo of the chassis, in which places are marked."""
    return command(worded("sitting.a_photo_of_the_chassis"), ChassisPhoto(file=file, title=title))


def place_pin(file: str, x: float, y: float, name: str) -> Command:
    """Where something is in a photo: shares of its width and height, from the upper left corner."""
    return command(worded("sitting.marked_in_a_photo", name=name), PinPlaced(file=file, x=x, y=y, name=name))


COMMANDS = (
    chassis_photo,
    place_pin,
    resolder,
    finding,
    seen,
    absent,
    add_item,
    photo,
    take_off,
    put_back,
    function_found,
    account_for,
    arrival,
)
