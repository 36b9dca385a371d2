"""From a jot to entries of the job in hand."""

from __future__ import annotations

from pydantic import ValidationError
from PySide6.QtCore import QObject, Signal

from candor.core.jot import (
    ChangeJot,
    CheckJot,
    ConditionJot,
    DeadJot,
    DecisionJot,
    DetailJot,
    FindingJot,
    Jot,
    NoteJot,
    PartJot,
    PriceJot,
    ReadingJot,
    SpentJot,
)
from candor.desktop.bench import Bench
from candor.desktop.hand import Hand
from candor.desktop.jotbar import JotBar
from candor.notebook.entries import (
    ArrivedDead,
    Body,
    ChangeMade,
    ChangeProven,
    ConditionNoted,
    DetailWritten,
    Entry,
    FindingNoted,
    NoteWritten,
)
from candor.notebook.job import Job
from candor.notebook.part_entries import PartDecided, PartMeasured, PriceAgreed, Spent
from candor.packs.procedure import procedure


def body_of(jot: Jot, job: Job, text: str = "") -> Body | None:
    """Return the entry a jot becomes; None for a reading, which the hand takes.

    A check proves the newest change that is not proven yet; without one it is a note.
    """
    match jot:
        case FindingJot():
            return FindingNoted(zone=jot.zone, mark=jot.mark, text=jot.text)
        case ChangeJot():
            if jot.disturbed:
                return ChangeMade(text=jot.text, touches=jot.part)
            return ChangeMade(text=jot.text, part=jot.part)
        case DeadJot():
            return ArrivedDead(reason=jot.reason)
        case ConditionJot():
            return ConditionNoted(which=jot.which, value=jot.value)
        case DetailJot():
            return DetailWritten(field=jot.field, text=jot.text)
        case NoteJot():
            return NoteWritten(text=jot.text)
        case CheckJot():
            newest = job.unproven[-1:]
            return (
                ChangeProven(change=newest[0].id, check=jot.text)
                if newest
                else NoteWritten(text=f"checked {jot.text}")
            )
        case PartJot():
            said = {"ref": jot.ref, "state": jot.state, "in_circuit": jot.in_circuit, "written": text}
            return PartMeasured.model_validate({**said, **jot.numbers})
        case DecisionJot():
            return PartDecided(ref=jot.ref, action=jot.action, reason=jot.reason)
        case SpentJot():
            return Spent(minutes=jot.minutes, money=jot.money, text=jot.text)
        case PriceJot():
            held = {"agreed": job.parts.agreed, "an_hour": job.parts.an_hour}
            return PriceAgreed.model_validate({**held, jot.which: jot.value})
        case ReadingJot():
            return None


class JotWriter(QObject):
    """Takes what was jotted to where it belongs.

    Signals
    -------
    chosen(str)
        Something was written about a part: its designator.
    """

    chosen = Signal(str)

    def __init__(self, bench: Bench, hand: Hand, bar: JotBar) -> None:
        super().__init__()
        self._bench, self._hand, self._bar = bench, hand, bar

    def take(self, jot: Jot, text: str) -> None:
        """Write what a line says; where it cannot be, the line stays and a sentence says why."""
        if self._bench.job is None:
            self._bench.told.emit("Open a job first; your line is still here.", "brick")
            return
        if isinstance(jot, ReadingJot):
            if jot.point and not self._go_to_point(jot.point, text):
                return
            if self._bench.step is None or self._bench.step.point is None or self._bench.stop != "calibrate":
                self._bench.told.emit(
                    "A reading needs a test point in hand: walk to Calibrate. Your line is still here.", "brick"
                )
                return
            if self._hand.take_jot(jot, text):
                self._bar.written()
            return
        before = self._bench.job.unproven
        try:
            body = body_of(jot, self._bench.job, text)
        except ValidationError as error:
            why = error.errors()[0]["msg"].removeprefix("Value error, ")
            self._bench.told.emit(
                f"This cannot be written: {why[0].lower()}{why[1:]}. Your line is still here.", "brick"
            )
            return
        if body is not None and self._bench.write(body):
            self._bar.written()
            if isinstance(jot, PartJot | DecisionJot):
                self.chosen.emit(jot.ref)
            if isinstance(jot, ChangeJot):
                self._ask_for_check(before)

    def _ask_for_check(self, before: tuple[Entry, ...]) -> None:
        """One change, one check: ask for it, and say when another change is still not proven."""
        sentence = "What proves it? Jot: checked …"
        if before:
            sentence = f"Entry {before[-1].number}, “{before[-1].body.text}”, is not proven yet either. {sentence}"
        self._bench.told.emit(sentence, "brass")

    def preview(self, jot: object) -> None:
        """Show on the dial what the line in hand would read."""
        if self._bench.stop == "calibrate":
            self._hand.preview(jot)

    def _go_to_point(self, key: str, text: str) -> bool:
        """Walk to a point named in a jot; the line is then understood again with that point in hand."""
        pack, step = self._bench.pack, self._bench.step
        if pack is None or step is None or (step.point is not None and step.point.key == key):
            return True
        phase = step.phase if step.kind == "point" else "as found"
        target = next(
            (s for s in procedure(pack) if s.kind == "point" and s.phase == phase and s.point and s.point.key == key),
            None,
        )
        if target is None:
            self._bench.told.emit(
                f"“{key}” is not a test point of {pack.name}; expected such as dc+/150/75.", "brick"
            )
            return False
        self._bench.go("calibrate", target.key)
        self._bar.edit.setText(text)
        self._bar.edit.returnPressed.emit()
        return False
