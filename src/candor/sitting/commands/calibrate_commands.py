"""Commands of Calibrate: readings and trims, steps done and left out, what is read against, the rule, ranges and points."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict

from candor.core.calibration.setup import KINDS, SetUpTerm
from candor.core.errors import CandorError, ValueTextError
from candor.core.jot.meaning import RangeJot
from candor.core.jot.range_stands import Stands
from candor.core.quantities.formula import check_units, parse_formula
from candor.core.worded import worded
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate_entries import (
    AdjustmentMade,
    ArrivedDead,
    AsFoundWaived,
    ReadingTaken,
    RuleChosen,
    StandardChosen,
    StandardNamed,
    StepDone,
    StepSkipped,
    WaveformKept,
)
from candor.notebook.entries.ranges_entries import FrequencySaid, HowItIsRead, PointsPlanned, RangeMade
from candor.notebook.entries.setup_entries import ConditionNoted, SetUpSaid
from candor.notebook.entries.strikes_entries import Struck
from candor.notebook.entries.timers_entries import TimerStarted
from candor.notebook.standards.standard_choice import fits
from candor.notebook.standards.standards import Standard
from candor.notebook.work.job import Job
from candor.packs.model import Pack
from candor.packs.procedure import ProcedureStep, point_by_name, test_points
from candor.sitting.command import Command, command


def take_reading(made: PointsPlanned | None = None, **said: object) -> Command:
    """A reading, by the fields of `ReadingTaken`; with the point that is made for it where its range has none there."""
    reading = ReadingTaken.model_validate(said)
    return command(f"reading of {reading.point}", *([made] if made is not None else []), reading)


def turn(step: str, trim: str, *, indicated: float | None = None, reference: float | None = None, stood: str = "",
         turns: float | None = None) -> Command:  # fmt: skip
    """An adjuster was turned: where it stood, how far, and what the needle read when it was left alone."""
    body = AdjustmentMade(step=step, trim=trim, indicated=indicated, reference=reference, stood=stood, turns=turns)
    return command(f"trimmed {trim}", body)


def step_done(step: ProcedureStep) -> Command:
    """A step was done; one that turns adjusters has turned each of them."""
    turned = tuple(AdjustmentMade(step=step.key, trim=name) for name in step.trims)
    return command(f"done: {step.title}", *(turned or (StepDone(step=step.key),)))


def skip_step(step: str, reason: str) -> Command:
    """A step was left out, for a reason."""
    return command(worded("sitting.left_out_a_step"), StepSkipped(step=step, reason=reason))


def start_timer(step: str, label: str, seconds: float) -> Command:
    """A wait begins."""
    return command(f"timer: {label}", TimerStarted(step=step, label=label, seconds=seconds))


def choose_standard(entry: str) -> Command:
    """What the job is read against from here on."""
    return command("standard chosen", StandardChosen(standard=entry))


def choose_rule(rule: str) -> Command:
    """Another decision rule for the job."""
    return command("decision rule", RuleChosen.model_validate({"rule": rule}))


def note_condition(which: str, value: float) -> Command:
    """A condition of room or line."""
    return command(which, ConditionNoted.model_validate({"which": which, "value": value}))


def say_setup(term: SetUpTerm) -> Command:
    """A term of the set-up, in force from here on."""
    return command(KINDS[term.which].name, SetUpSaid(which=term.which, value=term.value, expanded=term.expanded))


def make_range(jot: RangeJot, job: Job | None = None, pack: Pack | None = None) -> Command:
    """A range, or a series of them, with how each is read, its limit, and the points that were asked for.

    Raises
    ------
    CandorError
        Where a value is calculated of what is no point of the instrument, or in another unit.
    """
    check_figured(jot, pack)
    bodies: list[Body] = []
    for one in (jot, *jot.beside):
        made = range_of(one, job)
        bodies.append(made)
        if one.points:
            bodies.append(PointsPlanned(function=made.function_key, range=made.range_key, values=one.points))
    return command(f"range {jot.function}", *bodies)


def range_of(jot: RangeJot, job: Job | None = None) -> RangeMade:
    """Return the entry that a range becomes, under the key of the one of its job that it changes."""
    made = RangeMade(
        function=jot.function, unit=jot.unit, polarity=jot.polarity, full_scale=jot.full_scale, divisions=jot.divisions,
        mirror=jot.mirror, current=jot.current, hertz=jot.hertz, name=jot.name,
        how=HowItIsRead.of(jot.how), stands=jot.stands.value, stands_s=jot.stands.seconds, **asdict(jot.limit),
    )  # fmt: skip
    there = [e.body for e in job.ranges.made.values()] if job is not None else []
    named = next((b.function_id for b in there if b.function == made.function), made.proper_function_id)
    made = made.model_copy(update={"function_id": named})
    of_function = [b for b in there if b.function_key == made.function_key]
    same = next((b.range_key for b in of_function if b.proper_key == made.proper_key), "")
    key, taken = made.proper_key, {b.range_key for b in of_function}
    while not same and key in taken:  # one that has another name now has it still
        key += "-x"
    return made.model_copy(update={"key": same or key})


def check_figured(jot: RangeJot, pack: Pack | None) -> None:
    """See that what a calculated value is of is read on the instrument, and comes out in its unit.

    Raises
    ------
    CandorError
        Where it is not: a point that there is none of, one that is itself calculated, units that are mixed.
    """
    units = {}
    for name, key in jot.how.points:
        if pack is None:
            return
        point = point_by_name(pack, key)
        if point.formula.text:
            raise ValueTextError(worded("sitting.is_itself_calculated", key=key), value=key)
        units[name] = point.unit
    if units:
        check_units(parse_formula(jot.how.formula), units, jot.unit)


def change_range(job: Job, function: str, range_: str, jot: RangeJot, pack: Pack | None = None) -> Command:
    """A range becomes another where it stands, its name and its end too; what was read on it stays and is judged anew.

    Raises
    ------
    CandorError
        Where the job has no such range, or what is said is of another function, of several ranges, or called as another is.
    """
    check_figured(jot, pack)
    made, stands = range_of(jot), job.ranges.made.get((function, range_))
    if stands is None:
        raise CandorError(worded("sitting.this_range_is_its_pack_s"), value=f"{function}/{range_}")
    if jot.beside or made.function_key != function:
        raise CandorError(worded("sitting.one_range_of_its_own_function"), value=jot.function)
    others = [e.body for (f, r), e in job.ranges.made.items() if f == function and r != range_]
    if made.title in {b.title for b in others}:
        raise CandorError(worded("sitting.another_range_is_called_so", title=made.title), value=made.title)
    bodies: list[Body] = [made.model_copy(update={"key": range_})]
    if jot.points:
        bodies.append(PointsPlanned(function=function, range=range_, values=jot.points))
    return command(worded("sitting.range_becomes", before=stands.body.title, title=made.title), *bodies)


def jot_of(made: RangeMade) -> RangeJot:
    """Return what would be typed for a range that stands: the other way round of `range_of`."""
    return RangeJot(
        function=made.function, unit=made.unit, polarity=made.polarity, full_scale=made.full_scale, divisions=made.divisions,
        mirror=made.mirror, current=made.current, hertz=made.hertz, name=made.name, how=made.read_how, limit=made.limit,
        stands=Stands(made.stands, made.stands_s),
    )  # fmt: skip


def withdraw_range(job: Job, function: str, range_: str) -> Command:
    """A range of the job's own and the points planned on it are taken back; what was read on it stays among the entries.

    Raises
    ------
    CandorError
        Where the job has no such range.
    """

    def is_of(body: Body) -> bool:
        if isinstance(body, RangeMade):
            return (body.function_key, body.range_key) == (function, range_)
        return isinstance(body, PointsPlanned) and (body.function, body.range) == (function, range_)

    found = [e for e in job.entries if e.id not in job.struck and is_of(e.body)]
    if not found:
        raise CandorError(worded("sitting.this_range_is_its_pack_s"), value=f"{function}/{range_}")
    return command(f"{function}/{range_} withdrawn", *(Struck(target=e.id) for e in found))


def say_frequency(job: Job, hertz: float) -> Command:
    """At which frequency a function of alternating current is read: the newest of which nobody has said it, else the newest.

    Raises
    ------
    CandorError
        Where the job has no such function of its own.
    """
    own = [e.body for e in job.ranges.made.values() if e.body.current == "a.c."]
    asked = [b for b in own if b.function_key in job.ranges.without_frequency] or own
    if not asked:
        raise CandorError(worded("sitting.no_range_of_alternating_current_was"))
    return command(f"frequency of {asked[-1].function}", FrequencySaid(function=asked[-1].function_key, hertz=hertz))


def name_standard(job: Job, name: str, known: Mapping[str, Standard], pack: Pack | None) -> Command:
    """Which standard was connected when readings were taken for which none was named: a fact told afterwards.

    Raises
    ------
    CandorError
        Where there is no such standard, or no reading that it could have been.
    """
    folded = name.casefold()
    found = [s for s in known.values() if s.current and folded in (s.name.casefold(), s.body.key.casefold())]
    if not found:
        names = ", ".join(sorted({s.name for s in known.values() if s.current})[:6]) or worded(
            "sitting.none_is_recorded_yet"
        )
        raise CandorError(
            worded("sitting.no_standard_is_called_known", name=name, names=names), value=name, expected=names
        )
    points = (
        {p.key: p for p in (*test_points(pack, "as found"), *test_points(pack, "as left"))}
        if pack is not None
        else {}
    )
    missing = [
        r.entry.id for r in job.calibrate.readings
        if not r.standard and (p := points.get(r.body.point)) is not None and p.needs_reference and fits(found[0], p)
    ]  # fmt: skip
    if not missing:
        raise CandorError(worded("sitting.no_reading_without_a_standard_could", name=found[0].name), value=name)
    naming = StandardNamed(readings=tuple(missing), standard=found[0].entry.id)
    return command(worded("sitting.standard_named_for_readings", missing=len(missing)), naming)


def plan_points(function: str, range_: str, values: tuple[float, ...]) -> Command:
    """Points to be read on a range."""
    return command("points planned", PointsPlanned(function=function, range=range_, values=values))


def keep_samples(kept: WaveformKept) -> Command:
    """The samples that a reading was taken from."""
    return command("samples kept", kept)


def arrived_dead(reason: str) -> Command:
    """As found: inoperative."""
    return command("arrived dead", ArrivedDead(reason=reason))


def go_on_without(reason: str = "") -> Command:
    """It is changed without having been read as found: said on page one."""
    return command(worded("sitting.gone_on_without_as_found"), AsFoundWaived(reason=reason))


COMMANDS = (
    take_reading, turn, step_done, skip_step, start_timer, choose_standard, choose_rule, note_condition, make_range, change_range,
    withdraw_range,
    say_frequency, say_setup, name_standard, plan_points,
    keep_samples, arrived_dead, go_on_without,
)  # fmt: skip
