"""The tubes on hand: their tests in order, what their figures come to, who matches whom, and which socket each sits in."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import field
from functools import cached_property

from candor.core.errors import CandorError, RangeError
from candor.core.late_dataclass import dataclass
from candor.core.tubes.correction import Correction, Known, correct_by
from candor.core.tubes.held_line import AtLine
from candor.core.tubes.matching import Matching, Measured, match, tubes_of
from candor.core.tubes.order import FIGURES, Asked, Outcome, OutOfOrder, next_test, out_of_order, tests_of
from candor.core.tubes.tester_reading import LineStamp, Nudge, TubeVerdict, budget_of, judge_tube, own_part
from candor.core.uncertainty.budget import Budget
from candor.core.uncertainty.coverage import cover
from candor.core.worded import worded
from candor.notebook.entries.entry import AnyEntry, Draft, Entry
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.entries.stay_entries import ChangeMade
from candor.notebook.entries.tubes_entries import (
    LineSag,
    NudgeSaid,
    TubeGone,
    TubeKnown,
    TubePlaced,
    TubeRecorded,
    TubeTested,
)
from candor.notebook.tubes.line_of_test import at_its_line

DAYS = 365.25


@dataclass(frozen=True)
class TubeOnHand:
    """A tube with all that was done to it.

    Attributes
    ----------
    entry : Entry of TubeRecorded
    tests : tuple of Entry of TubeTested
        In order.
    known : mapping of section to Entry of TubeKnown
    place : TubePlaced or None
        Where it sits; None on the shelf.
    gone : str
        Why it is no longer on hand, or nothing.
    """

    entry: Entry[TubeRecorded]
    tests: tuple[Entry[TubeTested], ...] = ()
    known: Mapping[str, Entry[TubeKnown]] = field(default_factory=dict)
    place: TubePlaced | None = None
    gone: str = ""

    @property
    def body(self) -> TubeRecorded:
        """What it is."""
        return self.entry.body

    @cached_property
    def asked(self) -> tuple[Asked, ...]:
        """Its tests in order."""
        return tests_of(self.body.generic, len(self.body.sections))

    @cached_property
    def done(self) -> Mapping[str, Outcome]:
        """The newest outcome of each test; a figure is one that was made. A figure of one section alone is half of it."""
        found: dict[str, Outcome] = {}
        for entry in self.tests:
            b = entry.body
            if b.outcome:
                found[b.test] = b.outcome
            elif all(self.newest(b.test, section) for section in self.body.sections):
                found[b.test] = "good"
        return found

    @property
    def next(self) -> Asked | None:
        """The test that comes next."""
        return next_test(self.asked, self.done)

    def out_of_order(self, test: str) -> OutOfOrder | None:
        """Return why a test does not come now, None where it does."""
        return out_of_order(test, self.asked, self.done)

    def newest(self, test: str, section: str = "") -> Entry[TubeTested] | None:
        """Return the newest of a test that gave a figure, of one section."""
        return next(
            (
                e
                for e in reversed(self.tests)
                if e.body.test == test and e.body.section == section and e.body.figure is not None
            ),
            None,
        )

    def figure(self, section: str = "") -> Entry[TubeTested] | None:
        """Return the newest figure of a section: transconductance, else emission."""
        return self.newest("gm", section) or self.newest("emission", section)


@dataclass(frozen=True)
class TubeShop:
    """All tubes, the nudge sheets, and by tester its line empty and loaded."""

    tubes: Mapping[str, TubeOnHand] = field(default_factory=dict)
    nudges: Mapping[tuple[str, str, str], tuple[Nudge, ...]] = field(default_factory=dict)
    sags: Mapping[str, Entry[LineSag]] = field(default_factory=dict)
    corrections: dict[tuple[str, str, dt.date, bool], Correction | RangeError] = field(
        default_factory=dict, compare=False, repr=False
    )

    figures: dict[tuple[str, str], TubeFigure | None] = field(default_factory=dict, compare=False, repr=False)

    @property
    def here(self) -> tuple[TubeOnHand, ...]:
        """Those that are not gone."""
        return tuple(t for t in self.tubes.values() if not t.gone)

    def sheet(self, tube: TubeOnHand, test: TubeTested) -> tuple[Nudge, ...]:
        """Return what a dash of each control is worth for a tube on the tester of a test."""
        return self.nudges.get((tube.body.type, test.tester, test.unit), ())

    def in_socket(self, job: str, socket: str) -> TubeOnHand | None:
        """Return the tube in a socket of a job."""
        wanted = socket.casefold()
        return next(
            (t for t in self.here if t.place and t.place.job == job and t.place.socket.casefold() == wanted), None
        )


def tube_shop(entries: Iterable[AnyEntry]) -> TubeShop:
    """Return the tubes from the entries of the shop."""
    standing = Standing(entries)
    recorded = standing.by(TubeRecorded, lambda b: b.key)
    tests: dict[str, list[Entry[TubeTested]]] = {}
    for entry in standing.of(TubeTested):
        tests.setdefault(entry.body.tube, []).append(entry)
    known: dict[str, dict[str, Entry[TubeKnown]]] = {}
    for one in standing.of(TubeKnown):
        known.setdefault(one.body.tube, {})[one.body.section] = one
    placed = standing.by(TubePlaced, lambda b: b.tube)
    gone = standing.by(TubeGone, lambda b: b.tube)
    nudges: dict[tuple[str, str, str], dict[str, Nudge]] = {}
    for said in standing.of(NudgeSaid):
        b = said.body
        sheet = nudges.setdefault((b.type, b.tester, b.unit), {})
        sheet[b.control] = Nudge(b.control, b.per_dash, b.per_volt)
    tubes = {
        key: TubeOnHand(
            entry=entry,
            tests=tuple(tests.get(key, ())),
            known=known.get(key, {}),
            place=placed[key].body if key in placed and placed[key].body.job else None,
            gone=gone[key].body.reason if key in gone else "",
        )
        for key, entry in recorded.items()
    }
    sheets = {key: tuple(found.values()) for key, found in nudges.items()}
    return TubeShop(tubes, sheets, standing.by(LineSag, lambda b: b.tester))


@dataclass(frozen=True)
class TubeFigure:
    """What a figure of one section comes to.

    Attributes
    ----------
    test : Entry of TubeTested
    budget : Budget
        Of the reading, in its unit.
    value, expanded : float
        Corrected by known tubes where there are enough, else as shown, at the line before the button was pressed where it was read.
    line : AtLine or None
        What was added for the line that fell while it was held; None where nobody read it, or the known tubes were not so read.
    corrected : bool
    why_not : str
        Why it is not corrected, where it is not.
    doubted : tuple of str
        Known tubes that contradict the others where nobody can say which is wrong.
    verdict : TubeVerdict or None
        None where no nominal figure is known.
    """

    test: Entry[TubeTested]
    budget: Budget
    value: float
    expanded: float
    corrected: bool
    why_not: str
    doubted: tuple[str, ...]
    verdict: TubeVerdict | None
    line: AtLine | None = None


def reading_budget(tube: TubeOnHand, test: TubeTested, shop: TubeShop, line: AtLine | None = None) -> Budget:
    """Return what a test's figure is uncertain by, in its unit; `line` is what was added for its line."""
    stamp = None if test.line_age_s is None else LineStamp(test.line_age_s)
    return budget_of(
        test.figure or 0.0, test.test, division=test.division, full_scale=test.full_scale or abs(test.figure or 0.0),
        nudges=shop.sheet(tube, test), stamp=stamp, scale_u=test.scale_u,
        scatter=(test.scatter, test.count) if test.count > 1 else None, u_held=line.u if line is not None else 0.0,
    )  # fmt: skip


def correction_of(shop: TubeShop, tester: str, unit: str, on: dt.date, held: bool = False) -> Correction:
    """Return the correction of a tester by all known tubes that were tested on it; `held`, each at the line before it was held.

    Raises
    ------
    RangeError
        Where they are too few or alike.
    """
    asked = (tester, unit, on, held)
    if asked not in shop.corrections:
        try:
            shop.corrections[asked] = correct_by(_known_on(shop, tester, unit, on, held))
        except RangeError as error:
            shop.corrections[asked] = error
    found = shop.corrections[asked]
    if isinstance(found, RangeError):
        raise found
    return found


def _known_tests(
    shop: TubeShop, tester: str, unit: str
) -> Iterator[tuple[TubeOnHand, Entry[TubeKnown], Entry[TubeTested]]]:
    for tube in shop.here:
        for section, entry in tube.known.items():
            test = next((e for e in reversed(tube.tests) if _is_of(e.body, tester, unit, section)), None)
            if test is not None and entry.body.unit == unit:
                yield tube, entry, test


def _known_on(shop: TubeShop, tester: str, unit: str, on: dt.date, held: bool) -> list[Known]:
    found = []
    for tube, entry, test in _known_tests(shop, tester, unit):
        years = max((on - entry.at.date()).days, 0) / DAYS
        drift = entry.body.figure * entry.body.drift_percent_per_year / 100 * years / math.sqrt(3)
        line = at_its_line(test.body, shop.sheet(tube, test.body)) if held else None
        own = own_part(reading_budget(tube, test.body, shop, line))
        u = math.hypot(entry.body.expanded / entry.body.factor, drift, own)
        name = f"{tube.body.key} {entry.body.section}".strip()
        found.append(Known(name, line.figure if line is not None else test.body.figure or 0.0, entry.body.figure, u))
    return found


def _is_of(b: TubeTested, tester: str, unit: str, section: str) -> bool:
    return b.figure is not None and (b.tester, b.unit, b.section) == (tester, unit, section)


def figure_of(tube: TubeOnHand, shop: TubeShop, section: str = "") -> TubeFigure | None:
    """Return what the newest figure of a section comes to, None where none was taken."""
    key = (tube.body.key, section)
    if key not in shop.figures:
        shop.figures[key] = _figure_of(tube, shop, section)
    return shop.figures[key]


def _figure_of(tube: TubeOnHand, shop: TubeShop, section: str) -> TubeFigure | None:
    test = tube.figure(section)
    if test is None:
        return None
    b = test.body
    line = at_its_line(b, shop.sheet(tube, b))
    # A tester corrected by known tubes is it with its line falling under them: both are at the line set, or neither is.
    held = line is not None and all(t.body.line_held_volts for _, _, t in _known_tests(shop, b.tester, b.unit))
    why, corrected, doubted = "", True, tuple[str, ...]()
    try:
        correction = correction_of(shop, b.tester, b.unit, test.at.date(), held)
        taken = line if held else None
        budget = reading_budget(tube, b, shop, taken)
        value, expanded = correction.corrected(b.figure or 0.0 if taken is None else taken.figure, own_part(budget))
        line, doubted = taken, correction.doubted
    except RangeError as error:
        why, corrected, budget = str(error), False, reading_budget(tube, b, shop, line)
        value, expanded = b.figure or 0.0 if line is None else line.figure, cover(budget).expanded
    verdict = None
    if tube.body.nominal and tube.body.unit == b.unit:
        whose = tube.body.nominal_from
        verdict = judge_tube(value, float(expanded), tube.body.nominal, tube.body.reject * tube.body.nominal, whose)
    return TubeFigure(
        test=test,
        budget=budget,
        value=value,
        expanded=float(expanded),
        corrected=corrected,
        why_not=why,
        doubted=doubted,
        verdict=verdict,
        line=line,
    )


def match_type(shop: TubeShop, type_: str, size: int = 2) -> tuple[Matching, str]:
    """Return tubes of a type matched over all on hand that sit nowhere, and the sitting they were taken in, in words.

    Of the tester and the day that most were tested on; in one sitting what all share cancels, so each has its own part alone.

    Raises
    ------
    CandorError
        Where there are not enough.
    """
    there = [
        t
        for t in shop.here
        if t.body.type == type_ and t.place is None and not t.known and not any(o == "bad" for o in t.done.values())
    ]
    sittings: dict[tuple[str, str, str, dt.date], list[TubeOnHand]] = {}
    for tube in there:
        tests = [tube.figure(section) for section in tube.body.sections]
        keys = {(e.body.test, e.body.tester, e.body.unit, e.at.date()) for e in tests if e is not None}
        if len(keys) == 1 and None not in tests:
            sittings.setdefault(keys.pop(), []).append(tube)
    if not sittings:
        raise CandorError(worded("tubes.no_on_the_shelf_was_tested", type=type_), value=type_)
    (test, tester, _unit, day), tubes = max(sittings.items(), key=lambda found: (len(found[1]), found[0][3]))
    measured = []
    for tube in tubes:
        for section in tube.body.sections:
            entry = tube.newest(test, section)
            if entry is not None and entry.body.figure is not None:
                own = own_part(reading_budget(tube, entry.body, shop))
                measured.append(Measured(tube.body.key, section, entry.body.figure, own))
    left = len(there) - len(tubes)
    words = worded(
        "tubes.of_on",
        tubes=len(tubes),
        type=type_,
        test=test,
        tester=tester or worded("tubes.a_tester_nobody_named"),
        day=day,
    ) + (worded("tubes.more_were_tested_in_other_sittings", left=left) if left else "")
    return match(tubes_of(measured), size), words


def swap(shop: TubeShop, job: str, socket: str, key: str) -> tuple[Draft, ...]:
    """Return what is written when a tube goes into a socket: the one that was there comes out, and the job has a change.

    Raises
    ------
    CandorError
        Where it is gone, failed, or sits elsewhere.
    """
    tube = shop.tubes.get(key)
    if tube is None or tube.gone:
        raise CandorError(worded("tubes.is_not_on_hand", key=key), value=key, expected=worded("tubes.a_tube_on_hand"))
    if not socket.strip():
        raise CandorError(worded("tubes.which_socket_a_name_such_as"), value=socket, expected="V3")
    if tube.place is not None:
        if (tube.place.job, tube.place.socket.casefold()) == (job, socket.casefold()):
            raise CandorError(worded("tubes.sits_in_already", key=key, socket=socket), value=key)
        raise CandorError(worded("tubes.sits_in_of_a_job_take", key=key, socket=tube.place.socket), value=key)
    ended = next((a.title.lower() for a in tube.asked if tube.done.get(a.key) == "bad" and a.ends), "")
    if ended:
        raise CandorError(worded("tubes.failed_it_goes_into_no_socket", key=key, ended=ended), value=key)
    before = shop.in_socket(job, socket)
    out = f"tube {before.body.key} out, " if before else ""
    drafts = [Draft("", TubePlaced(tube=before.body.key, socket=socket))] if before else []
    change = ChangeMade(
        text=worded("tubes.tube_in", socket=socket, out=out, key=key, type=tube.body.type), part=socket
    )
    return (*drafts, Draft("", TubePlaced(tube=key, job=job, socket=socket)), Draft(job, change))


def take_out(shop: TubeShop, key: str) -> tuple[Draft, ...]:
    """Return what is written when a tube comes out of its socket: the job has a change.

    Raises
    ------
    CandorError
        Where it sits nowhere.
    """
    tube = shop.tubes.get(key)
    if tube is None or tube.place is None:
        raise CandorError(worded("tubes.sits_in_no_socket", key=key), value=key)
    change = ChangeMade(
        text=worded("tubes.tube_out", socket=tube.place.socket, key=key, type=tube.body.type), part=tube.place.socket
    )
    return (Draft("", TubePlaced(tube=key, socket=tube.place.socket)), Draft(tube.place.job, change))


def has_figure(test: str) -> bool:
    """Whether a test gives a figure."""
    return test in FIGURES
