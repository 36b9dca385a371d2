"""What the reasons panel says of the step in hand at Calibrate."""

from __future__ import annotations

import datetime as dt

from candor.desktop.bench.in_hand import JobInHand
from candor.desktop.bench.reading_in_hand import Hand
from candor.desktop.frame.because import Because
from candor.notebook.entries.calibrate_entries import moved_words
from candor.notebook.work.job import Job
from candor.notebook.work.states import trims_to_repeat
from candor.packs.procedure import ProcedureStep
from candor.words.greatest_words import greatest_words
from candor.words.step_notes import adjuster_words


def explain_step(because: Because, *, in_hand: JobInHand, hand: Hand, now: dt.datetime) -> None:
    """Fill the reasons panel for the step in hand."""
    result, step, job = hand.result(), hand.step, in_hand.job
    if job is None:
        return
    if step is None:
        because.show_whole(None)
        because.show_words("No range yet", [
            "Candor has no procedure for this instrument. Add a range and its test points to get a result.",
            "A limit decides pass or fail: the maker's, the owner's, or your shop's. Without one the error is still known.",
        ], "ring")  # fmt: skip
        return
    if step.adjuster is not None and in_hand.pack is not None and not hand.moved:
        again = [sentence for sentence, _ in trims_to_repeat(job, in_hand.pack)]
        done = job.calibrate.done.get(step.key)
        moved = [f"Done, entry {done.number}{moved_words(done)}."] if done else []
        words = [
            *moved,
            *again,
            adjuster_words(in_hand.pack, step.adjuster),
            step.aim,
            f"Usual mistake: {step.mistake}",
        ]
        because.show_words(step.title, words, "half" if again else "full" if moved else "")
    elif result is not None:
        line = in_hand.states.line.get(result.point.key, ())
        because.show_point(result, hand.moved, tuple((r.reading(result.point), r.line_volts) for r in line))
    elif step.key in job.calibrate.skipped:
        entry = job.calibrate.skipped[step.key]
        because.show_words("Left out", [f"{entry.body.reason} (entry {entry.number})"], "skipped")
    elif step.point is not None and step.kind in ("point", "next"):
        what = "No reading at this point yet" if step.kind == "point" else "No reading on this range yet"
        words = [
            f"{what}. Limit: {step.point.limit_words}.",
            asked_for(in_hand, hand),
            "Readings from below and from above tell friction; repeats tell scatter.",
            greatest_words(in_hand.pack, step, frail=False) if in_hand.pack is not None else "",
            *on_hand(in_hand, hand, now.date()),
        ]
        because.show_words("Not measured", list(filter(None, words)), "ring")
    elif (timer := job.calibrate.timer_of(step.key)) is not None:
        words = [f"Started {timer.entry.at.astimezone():%H:%M}, over {timer.ends.astimezone():%H:%M} "
                 f"(entry {timer.entry.number}).", step.aim]  # fmt: skip
        running = timer.left(now) > 0
        because.show_words("Running" if running else "Over", words, "running" if running else "full")
    elif step.key in job.calibrate.done:
        because.show_words("Done", [f"Entry {job.calibrate.done[step.key].number}. Backspace strikes it."], "full")
    else:
        usual = (
            f"Usual for this kind, {in_hand.pack.kind} [common practice, no source]. The manual comes before it, and no "
            "certificate asks for it."
            if step.usual and in_hand.pack is not None
            else ""
        )
        because.show_words(step.title, [step.aim, f"Usual mistake: {step.mistake}", *filter(None, (usual,))])
    run = in_hand.left if step.phase == "as left" else in_hand.found
    because.show_whole(run, job, in_hand.pack)


def on_hand(in_hand: JobInHand, hand: Hand, on: dt.date) -> list[str]:
    """Say which standards would serve the point, the best first, and why the others cannot."""
    if hand.point is None or not hand.point.needs_reference:
        return []
    found = in_hand.candidates(hand.point, on)
    if not found:
        return ["No standard on hand is of this quantity. One is recorded under Standards; a chain may make it."]
    return [
        f"{'Best on hand' if i == 0 and c.serves else 'Also'}: {c.name}. {c.words}" for i, c in enumerate(found[:3])
    ]


def button_words(step: ProcedureStep, hand: Hand, job: Job) -> str:
    """Return what the main button would do at a step."""
    if step.kind in ("point", "adjust"):
        done = hand.is_done(step)
        if done and not hand.moved:
            return "Next point"
        return "Trimmed, take it" if step.kind == "adjust" and not done else "Take the reading"
    if step.kind == "wait" and job.calibrate.timer_of(step.key) is None:
        return "Start the wait"
    if step.kind == "check" and step.key not in job.calibrate.done:
        return "Done"
    return "Take the reading" if step.kind == "next" and (hand.moved or not hand.is_done(step)) else "Go on"


def asked_for(in_hand: JobInHand, hand: Hand) -> str:
    """Say what is still to be read before a reading can be taken."""
    point = hand.point
    if point is None:
        return ""
    kind = hand.draft.read_as(point)
    if kind.figured:
        return (
            f"Nothing is read here: the value is calculated, {point.formula.text}, from "
            f"{', '.join(key for _, key in point.formula.points)}."
        )
    if not kind.has_friction:
        return "" if hand.moved else f"Read as: {kind.title}. Type it, for example “{kind.example(point)}”."
    standard = in_hand.standard(point)
    needle = "" if hand.moved else "Move the needle to where you see it; M puts it on the mark. "
    if not point.needs_reference:
        return needle
    if hand.reference_from:
        return needle + (
            "The source is at its set value."
            if hand.is_set
            else "The reference has been read. Press Space to record."
        )
    name = standard.name if standard else "the reference"
    return f"{needle}Type what {name} shows, or press C if it shows the value in the field."
