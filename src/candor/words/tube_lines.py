"""Lines about tubes: one for the list, the reasons beside it, sets that match, a tester's correction."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Mapping
from typing import Literal, get_args

from candor.core.errors import CandorError
from candor.core.late_dataclass import dataclass
from candor.core.quantities import engineering, pair
from candor.core.quantities.show import trimmed
from candor.core.tubes.matching import MatchedSet, Measured, balance_of, tubes_of
from candor.core.tubes.order import BY_KEY
from candor.core.tubes.ratings import BY_NAME
from candor.core.tubes.tester_reading import TubeVerdict, own_part
from candor.core.verdict.rules import Outcome
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.tubes_entries import TubeTested, say_figure
from candor.notebook.tubes.tubes import (
    TubeFigure,
    TubeOnHand,
    TubeShop,
    correction_of,
    figure_of,
    match_type,
    reading_budget,
)
from candor.words.tubes_words import say_balance, say_doubted, say_kind, say_tube_verdict

NOT_AT_LINE = "Nothing is added for its line: the known tubes were read with it falling under them, and nobody read how far; so is this one."
NOTE = "It answers whether it emits, not whether it amplifies: a full score is not a transconductance."
Sections = tuple[tuple[str, list[str]], ...]


@dataclass(frozen=True)
class TubeLine:
    """A tube as the list has it: its name, what stands under it, and its outcome; `ended` where it failed for good.

    `verdicts` are its figures against nominal, one a section where one is known.
    """

    key: str
    text: str
    under: str
    outcome: Outcome
    ended: bool
    verdicts: tuple[TubeVerdict, ...] = ()


TubeOrder = Literal["by type", "best first", "weakest first", "next test", "by socket"]
TUBE_ORDERS: tuple[TubeOrder, ...] = get_args(TubeOrder)


def tubes_with(
    shop: TubeShop, jobs: Mapping[str, str], wanted: str = "", order: TubeOrder = "by type"
) -> tuple[TubeOnHand, ...]:
    """Return the tubes on hand, in an order, of which all the words wanted are said; what stands alike in it stands by type.

    Figures are looked at where the order is theirs alone: per cent of nominal, the worst section of a tube.

    Parameters
    ----------
    shop : TubeShop
    jobs : mapping of str to str
        What each job is called.
    wanted : str
    order : TubeOrder
    """
    words, tubes = wanted.casefold().split(), sorted(shop.here, key=lambda t: (t.body.type, t.body.key))
    if words:
        tubes = [
            t for t in tubes if all(w in f"{_named(t)} {' · '.join(_stands(t, jobs))}".casefold() for w in words)
        ]
    keys: Mapping[TubeOrder, Callable[[TubeOnHand], tuple[object, ...]]] = {
        "best first": lambda t: (not (found := _percents(t, shop)), -min(found, default=0.0)),
        "weakest first": lambda t: (not (found := _percents(t, shop)), min(found, default=0.0)),
        "next test": lambda t: (bool(_failed(t)), t.next is None, t.next.title if t.next else ""),
        "by socket": lambda t: (
            t.place is None,
            jobs.get(t.place.job, "") if t.place else "",
            t.place.socket if t.place else "",
        ),
    }
    return tuple(sorted(tubes, key=keys[order])) if order in keys else tuple(tubes)


def _percents(tube: TubeOnHand, shop: TubeShop) -> list[float]:
    """What every section is of its nominal, per cent."""
    figures = (figure_of(tube, shop, section) for section in tube.body.sections)
    return [f.verdict.percent for f in figures if f is not None and f.verdict is not None]


def tube_line(tube: TubeOnHand, shop: TubeShop, jobs: Mapping[str, str]) -> TubeLine:
    """Return a tube on hand as a line: its figures, what comes next, where it is; `jobs` is what each job is called."""
    figures = [f for s in tube.body.sections if (f := figure_of(tube, shop, s)) is not None]
    failed = _failed(tube)
    said = _stands(tube, jobs)
    said[1 if failed else 0 : 0] = [_short(f) for f in figures]
    outcome = Outcome.NOT_MEASURED
    verdicts = [f.verdict.outcome for f in figures if f.verdict is not None]
    if failed or Outcome.FAIL in verdicts:
        outcome = Outcome.FAIL
    elif verdicts and tube.next is None:
        outcome = Outcome.CANNOT_TELL if Outcome.CANNOT_TELL in verdicts else Outcome.PASS
    ended = any(tube.done.get(a.key) == "bad" and a.ends for a in tube.asked)
    judged = tuple(f.verdict for f in figures if f.verdict is not None)
    return TubeLine(
        key=tube.body.key, text=_named(tube), under=" · ".join(said), outcome=outcome, ended=ended, verdicts=judged
    )


def _named(tube: TubeOnHand) -> str:
    b = tube.body
    return f"{b.key} · {b.type}" + (f", {b.generic}" if b.generic else "")


def _failed(tube: TubeOnHand) -> str:
    return next((a.title.lower() for a in tube.asked if tube.done.get(a.key) == "bad"), "")


def _stands(tube: TubeOnHand, jobs: Mapping[str, str]) -> list[str]:
    """What is said of a tube beside its figures."""
    failed, said = _failed(tube), []
    if failed:
        said.append(f"failed {failed}")
    elif tube.next is not None:
        said.append(f"next: {tube.next.title.lower()}")
    said += [f"in {tube.place.socket} of {jobs.get(tube.place.job, 'a job')}"] if tube.place else []
    return [*said, *(["a known tube"] if tube.known else [])]


def _short(found: TubeFigure) -> str:
    b = found.test.body
    section = f"section {b.section} " if b.section else ""
    if found.verdict is not None:
        return f"{section}{found.verdict.percent:.0f} ± {found.verdict.expanded:.0f} %"
    unit = "" if b.unit == "1" else "S"
    return section + (pair(found.value, found.expanded, unit or "1").removeprefix("+"))


def explain_tube(tube: TubeOnHand, shop: TubeShop) -> tuple[str, list[str], Sections]:
    """Return a title, sentences and sections: what it is, its figures with their budget, what comes next, every test."""
    b = tube.body
    said = [f"{tube.gone}."] if tube.gone else []
    upcoming = tube.next
    if upcoming is not None:
        said.append(f"Next: {upcoming.title.lower()}. {upcoming.ask}")
    elif any(tube.done.get(a.key) == "bad" and a.ends for a in tube.asked):
        said.append("It meets no other test.")
    else:
        said.append("All its tests are made.")
    sections: list[tuple[str, list[str]]] = []
    for section in b.sections:
        found = figure_of(tube, shop, section)
        if found is None:
            continue
        parts = [c for c in found.budget.largest_first() if not (found.corrected and c.kind == "common")]
        budget = [f"{c.name}: {_in_unit(c.size, found.test.body.unit)}. {c.reason}" for c in parts]
        if found.corrected:
            budget.insert(
                0, "U is of one more tube by the line through the known ones, with what the reading has itself:"
            )
        why = [f"Not corrected by known tubes: {found.why_not}"] if not found.corrected else []
        why += [say_doubted(found.doubted)] if found.doubted else []
        why += [NOT_AT_LINE] if found.corrected and found.line is None and found.test.body.line_held_volts else []
        why += [NOTE] if found.test.body.test == "emission" else []
        sections.append((f"section {section}" if section else "its figure", [say_figure_found(found), *why, *budget]))
    kind = BY_NAME.get(b.generic)
    if kind is not None:
        sections.append(("what its kind bears", [say_kind(kind)]))
    if tube.known:
        sections.append(("known", _known_words(tube)))
    if tube.tests:
        sections.append(("tests", [_test_words(e) for e in reversed(tube.tests)]))
    if b.looks:
        sections.append(("looks", [b.looks]))
    return f"{b.key}, {b.type}", said, tuple(sections)


def _in_unit(value: float, unit: str) -> str:
    return f"u {engineering(value, unit, 2) if unit != '1' else trimmed(value, 2)}"


def _known_words(tube: TubeOnHand) -> list[str]:
    said = []
    for section, entry in tube.known.items():
        b = entry.body
        head = f"section {section}: " if section else ""
        how = f", {b.how}" if b.how else ""
        figure = pair(b.figure, b.expanded, b.unit).removeprefix("+")
        drift = f"{trimmed(b.drift_percent_per_year)} % a year is allowed for"
        said.append(f"{head}{figure}, k {b.factor:.2f}, {entry.at:%d %b %Y}{how}; {drift}")
    return said


def _test_words(entry: Entry[TubeTested]) -> str:
    b = entry.body
    what = b.outcome if b.figure is None else say_figure(b.figure, b.unit)
    line = ""
    if b.figure is not None:
        line = ", line not stamped" if b.line_age_s is None else f", line {trimmed(b.line_age_s / 60, 2)} min before"
    if b.line_held_volts:
        line += f", {b.line_before_volts:.1f} V before and {b.line_held_volts:.1f} V while held"
    on = f" on {b.tester}" if b.tester else ""
    state = f" ({b.tester_state})" if b.tester_state else ""
    section = f" section {b.section}" if b.section else ""
    held = f", held {trimmed(b.hold_s)} s" if b.hold_s else ""
    settings = f"; {b.settings}" if b.settings else ""
    words = f": {b.words}" if b.words else ""
    return (
        f"{entry.at:%d %b %Y} {BY_KEY[b.test].title.lower()}{section} {what}{words}{on}{state}{line}{held}{settings}"
    )


@dataclass(frozen=True)
class SetLine:
    """Tubes that go together: who, by how much they differ, and whether they can be told apart."""

    tubes: tuple[str, ...]
    under: str
    alike: bool

    @property
    def text(self) -> str:
        """Its tubes."""
        return " + ".join(self.tubes)


def matched(shop: TubeShop, type_: str, size: int) -> tuple[str, tuple[SetLine, ...], tuple[str, ...]]:
    """Return the sitting in words, the sets, and what else there is to say: left over, groups alike, sections out of balance.

    Raises
    ------
    CandorError
        Where there are not enough.
    """
    found, sitting = match_type(shop, type_, size)
    unit = next(e.body.unit for t in shop.here if t.body.type == type_ for s in t.body.sections if (e := t.figure(s)))
    sets = tuple(_set_line(s, unit) for s in sorted(found.sets, key=lambda s: s.mismatch))
    rest = [f"Left over: {', '.join(found.left_over)}."] if found.left_over else []
    rest += [f"Cannot be told apart among themselves: {', '.join(group)}." for group in found.alike if len(group) > 1]
    return sitting, sets, tuple(rest)


def _set_line(found: MatchedSet, unit: str) -> SetLine:
    words = f"apart by {pair(found.mismatch, found.expanded, unit).removeprefix('+')}"
    words += "" if found.told_apart else ": cannot be told apart"
    return SetLine(tuple(sorted(found.tubes)), words, not found.told_apart)


def balance_words(tube: TubeOnHand, shop: TubeShop) -> str:
    """Say whether the sections of a tube are alike, by what their figures are uncertain by; nothing of one section."""
    measured = [
        Measured(tube.body.key, s, e.body.figure, own_part(reading_budget(tube, e.body, shop)))
        for s in tube.body.sections
        if (e := tube.figure(s)) is not None and e.body.figure is not None
    ]
    found = balance_of(tubes_of(measured)[0]) if len(measured) > 1 else None
    return say_balance(found) if found is not None else ""


def correction_words(shop: TubeShop, tester: str, unit: str, on: dt.date) -> str:
    """Say what known tubes make of a tester: its line, its span, and who contradicts."""
    try:
        found = correction_of(shop, tester, unit, on)
    except CandorError as error:
        return f"{tester}: {error}"
    low, high, off, within = (
        say_figure(x, unit) for x in (found.low, found.high, found.intercept, 2 * found.scatter)
    )
    words = f"{tester}: true = {off} + {trimmed(found.slope, 4)} × shown, through {found.count} known tubes; "
    words += f"it holds from {low} to {high}, to ±{within}."
    if found.contradict:
        words += f" Left out, as they contradict the others: {', '.join(found.contradict)}."
    return f"{words} {say_doubted(found.doubted)}".strip()


def say_at_line(found: TubeFigure) -> str:
    """Say what a figure had added for the line that fell while the button was held; empty where nothing was."""
    b, line = found.test.body, found.line
    if line is None:
        return ""
    by = "as it was tried here" if line.tried else "by the usual law"
    how = (
        f"{say_figure(line.added, b.unit)} was added, {by}"
        if line.added >= 0
        else f"{say_figure(-line.added, b.unit)} was taken off, {by}"
    )
    return f", at the line of {b.line_before_volts:.1f} V: {how}, for it stood at {b.line_held_volts:.1f} V while the button was held"


def say_figure_found(found: TubeFigure) -> str:
    """Say a figure: on which tester, corrected or as shown, and what it is of nominal."""
    b = found.test.body
    figure = pair(found.value, found.expanded, b.unit).removeprefix("+")
    words = f"{figure} on {b.tester or 'a tester nobody named'}"
    if found.corrected:
        words += f", corrected by known tubes from {say_figure(b.figure or 0.0, b.unit)}"
    words += say_at_line(found)
    verdict = "No nominal figure is known." if found.verdict is None else say_tube_verdict(found.verdict)
    return f"{words}. {verdict}"
