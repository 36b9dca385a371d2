"""From a jot to entries of the job in hand."""

from __future__ import annotations

import re

from pydantic import ValidationError
from PySide6.QtCore import QObject, Signal

from candor.core.errors import CandorError
from candor.core.jot import (
    ChangeJot,
    CheckJot,
    ConditionJot,
    DeadJot,
    DecisionJot,
    DetailJot,
    FindingJot,
    Jot,
    LimitJot,
    NoteJot,
    PartJot,
    PointsJot,
    PriceJot,
    RangeJot,
    ReadingJot,
    ShopJot,
    SpentJot,
)
from candor.core.jot.leaving_line import EarthJot, TouchJot
from candor.core.jot.meaning import AdjusterJot, AliasJot, ArriveJot, JoinJot, ListedJot, ResolderJot
from candor.core.jot.past_line import PastJot
from candor.core.jot.power_meaning import PowerJot
from candor.core.jot.soak_line import OffJot, OnJot, SoakJot, UnwatchJot, WatchJot
from candor.core.jot.trace_meaning import TraceJot, WorsenedJot
from candor.core.power.swap import say_swapped, swapped_rectifier
from candor.core.severity import Severity
from candor.desktop.bench.clock import Clock
from candor.desktop.bench.hand import Hand
from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.place import PlaceInHand
from candor.desktop.bench.shop import Shop
from candor.desktop.bench.voice import Voice
from candor.desktop.bench.watching import SoakWatch
from candor.desktop.bench.writer import Writer
from candor.desktop.frame.jotbar import JotBar
from candor.notebook.alarms import LINE_HIGH, open_volts
from candor.notebook.arrivals import bodies_of
from candor.notebook.entries.arrive import FindingNoted
from candor.notebook.entries.body import Body
from candor.notebook.entries.calibrate import ArrivedDead, ConditionNoted
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.parts import PartDecided, PartJoined, PartListed, PartMeasured, listed_from
from candor.notebook.entries.ranges import RangeMade
from candor.notebook.entries.soak import SoakRead, SwitchedOff, SwitchedOn
from candor.notebook.entries.stay import ChangeMade, ChangeProven, DetailWritten, NoteWritten, PriceAgreed, Spent
from candor.notebook.job import Job
from candor.notebook.settings import Settings
from candor.notebook.tracing import board_bodies
from candor.packs.model import Pack
from candor.packs.procedure import next_step, point_step


def written_as(jot: Jot, job: Job, text: str, settings: Settings, pack: Pack | None = None) -> tuple[Body, ...]:
    """Return the entries a jot becomes, written together; none for what the hand takes. The pack has names for nodes.

    Raises
    ------
    CandorError
        Where it asks for what is not there.
    """
    if isinstance(jot, ArriveJot):
        return bodies_of(jot, job)
    if isinstance(jot, PowerJot):
        from candor.notebook.powering import (
            power_bodies,  # here and below: the window is up before the first such line
        )

        return power_bodies(jot)
    if isinstance(jot, TraceJot):
        from candor.notebook.trace_view import trace_bodies

        return trace_bodies(jot, job, pack)
    if isinstance(jot, ListedJot | JoinJot | AliasJot):
        return board_bodies(jot)
    body = body_of(jot, job, text, settings)
    return (body,) if body is not None else ()


def body_of(jot: Jot, job: Job, text: str = "", settings: Settings | None = None) -> Body | None:
    """Return the entry a jot becomes; None for a reading or points to be read, which the hand takes.

    A loss written without its frequency takes that of the shop's own meter, where the shop has said it.

    A check proves the newest change that is not proven yet; without one it is a note.
    """
    match jot:
        case FindingJot():
            return FindingNoted(zone=jot.zone, mark=jot.mark, text=jot.text)
        case ChangeJot():
            if jot.disturbed:
                return ChangeMade(text=jot.text, touches=jot.part)
            return ChangeMade(text=jot.text, part=jot.part, turned=jot.turned)
        case DeadJot():
            return ArrivedDead(reason=jot.reason)
        case ConditionJot():
            return ConditionNoted(which=jot.which, value=jot.value)
        case DetailJot():
            return DetailWritten(field=jot.field, text=jot.text)
        case NoteJot():
            return NoteWritten(text=jot.text)
        case CheckJot():
            newest = job.stay.unproven[-1:]
            return (
                ChangeProven(change=newest[0].id, check=jot.text)
                if newest
                else NoteWritten(text=f"checked {jot.text}")
            )
        case PartJot():
            said = {"ref": jot.ref, "state": jot.state, "in_circuit": jot.in_circuit, "written": text}
            usual = {"hertz": (settings or Settings()).hertz_of(jot.loss)} if jot.loss else {}
            return PartMeasured.model_validate({**said, **usual, **jot.numbers})
        case LimitJot():
            return listed_from(jot.part, leakage_limit=jot.amperes)
        case ShopJot():
            return DetailWritten(field=jot.field, text=jot.text)
        case DecisionJot():
            return PartDecided(ref=jot.ref, action=jot.action, reason=jot.reason)
        case SpentJot():
            return Spent(minutes=jot.minutes, money=jot.money, text=jot.text)
        case OnJot():
            return SwitchedOn(attended=jot.attended)
        case OffJot():
            return SwitchedOff()
        case SoakJot():
            return SoakRead(value=jot.value, unit=jot.unit, what=jot.what)
        case EarthJot() | TouchJot():
            from candor.notebook.leaving import leaving_body

            return leaving_body(jot, (settings or Settings()).local_rule)
        case PriceJot():
            held = {"agreed": job.stay.agreed, "an_hour": job.stay.an_hour}
            return PriceAgreed.model_validate({**held, jot.which: jot.value})
        case RangeJot():
            return range_made(jot)
        case _:
            return None


def ask_for_frequency(voice: Voice, shop: Shop, jot: Jot) -> None:
    """Ask, until it is known, at what the shop's ESR meter tests: without that an ESR acquits nothing."""
    if isinstance(jot, PartJot) and jot.loss == "esr" and "hertz" not in jot.numbers and not shop.settings.esr_hertz:
        voice.say("At which frequency does your ESR meter test? Jot it once, such as: esr meter 90 kHz", Severity.ASK)


def range_made(jot: RangeJot) -> RangeMade:
    """Return the entry that a range becomes."""
    return RangeMade(
        function=jot.function, unit=jot.unit, polarity=jot.polarity, full_scale=jot.full_scale, divisions=jot.divisions,
        mirror=jot.mirror, percent_of_full_scale=jot.percent_of_full_scale, percent_of_reading=jot.percent_of_reading,
        absolute=jot.absolute, by=jot.by,
    )  # fmt: skip


def go_to_range(place: PlaceInHand, in_hand: JobInHand, made: RangeMade) -> None:
    """Stand where a further point of a range is made."""
    step = next_step(in_hand.pack, made.function_key, made.range_key) if in_hand.pack is not None else None
    if step is not None:
        place.go("calibrate", step.key)


class JotWriter(QObject):
    """Takes what was jotted to where it belongs.

    Signals
    -------
    chosen(str)
        Something was written about a part: its designator.
    """

    chosen = Signal(str)

    def __init__(
        self,
        bar: JotBar,
        *,
        in_hand: JobInHand,
        place: PlaceInHand,
        writer: Writer,
        voice: Voice,
        shop: Shop,
        hand: Hand,
        watch: SoakWatch,
        clock: Clock,
    ) -> None:
        super().__init__()
        self._clock = clock
        self._hand, self._bar, self._watch = hand, bar, watch
        self._in_hand, self._place, self._writer, self._voice, self._shop = in_hand, place, writer, voice, shop

    def take(self, jot: Jot, text: str) -> None:
        """Write what a line says; where it cannot be, the line stays and a sentence says why."""
        if isinstance(jot, ShopJot):
            if self._writer.write_shop(DetailWritten(field=jot.field, text=jot.text)):
                self._bar.written()
                self._voice.say(f"Kept for all jobs: {jot.chips[0]}.", Severity.DONE)
            return
        if self._in_hand.job is None:
            self._voice.refuse("Open a job first; your line is still here.")
            return
        if isinstance(jot, ReadingJot):
            if jot.point and not self._go_to_point(jot.point, text):
                return
            if self._place.step is None or self._place.step.point is None or self._place.stop != "calibrate":
                self._voice.refuse(
                    "A reading needs a test point in hand: walk to Calibrate. Your line is still here."
                )
                return
            if self._hand.take_jot(jot, text):
                self._bar.written()
            return
        if isinstance(jot, AdjusterJot):
            if self._hand.take_adjuster(jot):
                self._bar.written()
            return
        if isinstance(jot, WatchJot | UnwatchJot):
            self._watch.obey(jot)
            self._bar.written()
            return
        if isinstance(jot, PastJot):
            self._take_past(jot)
            return
        if isinstance(jot, PointsJot):
            if self._hand.plan(jot.values):
                self._bar.written()
            return
        before = self._in_hand.job.stay.unproven
        try:
            bodies = written_as(jot, self._in_hand.job, text, self._shop.settings, self._in_hand.pack)
        except CandorError as error:
            self._voice.refuse(error)
            return
        except ValidationError as error:
            why = error.errors()[0]["msg"].removeprefix("Value error, ")
            self._voice.refuse(f"This cannot be written: {why[0].lower()}{why[1:]}. Your line is still here.")
            return
        if bodies and self._writer.write(*bodies):
            self._bar.written()
            if isinstance(jot, PartJot | DecisionJot | LimitJot):
                self.chosen.emit(jot.part.ref if isinstance(jot, LimitJot) else jot.ref)
            first = bodies[0]
            if isinstance(first, PartListed | PartJoined):
                self.chosen.emit(first.ref)
            ask_for_frequency(self._voice, self._shop, jot)
            if isinstance(jot, ChangeJot | ResolderJot):
                self._ask_for_check(before)
            if isinstance(jot, WorsenedJot):
                from candor.notebook.trace_view import say_worsened

                self._voice.say(say_worsened(self._in_hand.job), Severity.ASK)
            if isinstance(bodies[0], RangeMade):
                go_to_range(self._place, self._in_hand, bodies[0])

    def _take_past(self, jot: PastJot) -> None:
        from candor.notebook.drifting import past_typed

        try:
            body = past_typed(jot, self._in_hand.pack, self._clock.now().date())
        except CandorError as error:
            self._voice.refuse(error)
            return
        if self._writer.write(body):
            self._bar.written()

    def _ask_for_check(self, before: tuple[Entry[ChangeMade], ...]) -> None:
        """One change, one check: ask for it, and say when another change is still not proven."""
        sentence = "What proves it? Jot: checked …"
        if before:
            sentence = f"Entry {before[-1].number}, “{before[-1].body.text}”, is not proven yet either. {sentence}"
        self._voice.say(sentence, Severity.ASK)
        job = self._in_hand.job
        swap = swapped_rectifier(job.stay.changes[-1].body.text) if job is not None else ""
        if job is not None and swap:
            self._voice.warn(say_swapped(swap, open_volts(job, LINE_HIGH)))
        if job is not None and re.search(r"\b(cord|earth|plug|inlet)", job.stay.changes[-1].body.text, re.I):
            from candor.core.power.propose import EARTHING

            self._voice.warn(EARTHING)

    def preview(self, jot: object) -> None:
        """Show on the dial what the line in hand would read."""
        if self._place.stop == "calibrate":
            self._hand.preview(jot)

    def _go_to_point(self, key: str, text: str) -> bool:
        """Walk to a point named in a jot; the line is then understood again with that point in hand."""
        pack, step = self._in_hand.pack, self._place.step
        if pack is None or step is None or (step.point is not None and step.point.key == key):
            return True
        target = point_step(pack, key, step.phase if step.kind == "point" else "as found")
        if target is None:
            self._voice.refuse(f"“{key}” is not a test point of {pack.name}; expected such as dc+/150/75.")
            return False
        self._place.go("calibrate", target.key)
        self._bar.edit.setText(text)
        self._bar.edit.returnPressed.emit()
        return False
