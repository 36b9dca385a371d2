"""The job in hand as the views see it: asks notebook and core, keeps no facts of its own."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import replace
from operator import is_
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from candor.core.calibration.point import TestPoint
from candor.core.calibration.run import RunResult
from candor.core.jot.meaning import RangeJot
from candor.core.jot.range_line import understand_range
from candor.core.reference.chains import Chain
from candor.core.reference.choice import Candidate, propose
from candor.core.reference.reference import Reference
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.desktop.bench.shop_in_hand import Shop
from candor.notebook.entries.entry import AnyEntry
from candor.notebook.parts.parts_list import PartsList, list_parts
from candor.notebook.standards.standard_choice import chosen_for, link_of, offered
from candor.notebook.standards.standards import Standard
from candor.notebook.storage.fault import Fault
from candor.notebook.store import Notebook
from candor.notebook.work.assessment import as_left_run, assess_run
from candor.notebook.work.description import base_of, described, kind_of_job
from candor.notebook.work.history_of import HistoryLine, history
from candor.notebook.work.job import Job, extend, fold
from candor.notebook.work.states import States, states_of
from candor.packs.model import Pack

if TYPE_CHECKING:  # loaded where parts are in hand
    from candor.core.severity import Severity
    from candor.notebook.parts.stock import StockItem


class JobInHand(QObject):
    """The job that is open in this window.

    Signals
    -------
    changed()
        The job was folded anew, or another one was opened.
    """

    changed = Signal()

    def __init__(self, notebook: Notebook, shop: Shop, shelf: Shelf) -> None:
        super().__init__()
        self._notebook, self._shop, self._shelf = notebook, shop, shelf
        self.job: Job | None = None
        self.pack: Pack | None = None
        self._base: tuple[object, Pack] | None = None
        self.found: RunResult | None = None
        self.left: RunResult | None = None
        self.left_read: RunResult | None = None
        self.states = States()
        self.broken: tuple[int, ...] = ()
        self.faults: tuple[
            Fault, ...
        ] = ()  # pack and files that are not what was kept, as far as they were looked at
        self._parts: tuple[object, PartsList] | None = None
        self._deviations: tuple[object, tuple[str, ...]] = (None, ())
        self._sisters: tuple[object, Mapping[str, float]] = (None, {})
        self._ahead: tuple[Job, tuple[str, ...], Job] | None = None  # what the sitting has folded already
        self._candidates: dict[object, tuple[Candidate, ...]] = {}
        self._weighed: object = None
        self._chosen_of: tuple[object, ...] = (None, None, None)
        self._chosen: dict[str, Standard | None] = {}  # by the key of a point

    def take(self, job: Job, readable: bool) -> None:
        """Take another job in hand; who does says so when its place is known. Of one not readable there are only its entries.

        Raises
        ------
        NotebookError
            Where its pack cannot be read; the job in hand stays.
        """
        base = base_of(self._notebook, job) if readable else None
        self._base = (_named(job), base) if base is not None else None
        self.job, self.pack = job, base
        self.found = self.left = self.left_read = None
        self.broken = ()  # until they are looked at
        self.faults = self._notebook.faults_of(job.id, job.entries, files=False)
        self.calculate()

    def add(self, written: Sequence[AnyEntry]) -> None:
        """Fold the job with entries of it that were just written."""
        if self.job is not None:
            self.job = self.folded(written)
            self.calculate()

    def folded(self, written: Sequence[AnyEntry]) -> Job:
        """Return the job in hand with entries of it that were just written."""
        if self.job is None:
            return Job("")
        asked = (self.job, tuple(e.id for e in written))
        if self._ahead is None or self._ahead[0] is not asked[0] or self._ahead[1] != asked[1]:
            self._ahead = (*asked, extend(self.job, written))
        return self._ahead[2]

    def fold_anew(self) -> None:
        """Fold the job from the notebook: others have written."""
        if self.job is not None:
            self.job = fold(self.job.id, self._notebook.entries_of(self.job.id))
            self.calculate()

    def calculate(self) -> None:
        """Work out what the readings say. Nothing about parts is calculated here: readings must not wait for it."""
        if self.job is not None and self._base is not None:
            if self._base[0] != _named(self.job):  # it went over to a pack, or its name was put right
                self._base = _named(self.job), base_of(self._notebook, self.job)
            self.pack = described(self.job, self._base[1])
            known = self._shop.standards
            self.found = assess_run(self.job, self.pack, known, "as found")
            self.left_read = assess_run(self.job, self.pack, known, "as left")
            self.left = as_left_run(self.job, self.pack, self.found, self.left_read)
            self.states = states_of(self.job, self.pack)

    def run(self, phase: str) -> RunResult | None:
        """Return what was read in a phase."""
        return self.left_read if phase == "as left" else self.found

    def standard(self, point: TestPoint | None = None) -> Standard | None:
        """Return the standard the job is read against, at a point that of its quantity."""
        job, known = self.job, self._shop.standards
        if job is None:
            return None
        of = (job.calibrate.standards, known, self.pack)
        if not all(map(is_, of, self._chosen_of)):
            self._chosen_of, self._chosen = of, {}
        key = point.key if point is not None else ""
        if key not in self._chosen:
            self._chosen[key] = chosen_for(job, known, point)
        return self._chosen[key]

    def served(self, point: TestPoint | None) -> Reference | Chain | None:
        """Return what a point is read against: the function of its standard that fits, or a chain; None where none is chosen."""
        standard = self.standard(point) if point is not None else None
        return standard.serving(point) if standard is not None and point is not None else None

    def link(self, point: TestPoint | None) -> str:
        """Return where the meter or source of a point answers; empty where it is read, or set, by hand."""
        return link_of(self.standard(point), self.served(point), self._shop.standards)

    def candidates(self, point: TestPoint | None, on: dt.date) -> tuple[Candidate, ...]:
        """Return the standards on hand that are of a point's quantity, the best TUR first; without a point all there are."""
        known = self._shop.standards
        if point is None:
            rest = (s for s in known.values() if s.current and not s.withdrawn)
            return tuple(
                Candidate(key=s.entry.id, name=s.name, ratio=0, span_ratio=0, words="", serves=True) for s in rest
            )
        of = (tuple(known), on, self.pack.digest if self.pack is not None else "")
        if self._weighed != of:
            self._weighed, self._candidates = of, {}
        if point.key not in self._candidates:
            self._candidates[point.key] = propose(point, offered(known, point), on)
        return self._candidates[point.key]

    def usual_ranges(self) -> Mapping[str, RangeJot]:
        """Return how functions are usually read on such an instrument, by name, the first in front; no maker's figures."""
        kind = kind_of_job(self._notebook, self.job) if self.job is not None else None
        mains = self._shop.settings.mains
        # Where nobody said which mains the shop has, nothing is proposed that stands on it.
        end = "" if mains is None else "120" if mains.volts < 160 else "240"
        lines = [x.replace("{line}", end) for x in kind.usual_ranges if end or "{line}" not in x] if kind else []
        read = (understand_range(line.removeprefix("range ")) for line in lines)
        return {jot.function: jot for jot in read}

    def first_usual(self) -> RangeJot | None:
        """Return how what such an instrument is asked first is read; None where its kind does not say."""
        kind = kind_of_job(self._notebook, self.job) if self.job is not None else None
        if kind is None or not kind.usual_ranges:
            return None
        usual = self.usual_ranges()
        # Which mains the shop has changes where its line mark stands, not that it is read on its mark.
        first = understand_range(kind.usual_ranges[0].removeprefix("range ").replace("{line}", "120"))
        return usual.get(first.function, replace(first, full_scale=0.0))

    @property
    def asks_first(self) -> str:
        """What is read first on such an instrument, and why; empty where its kind does not say."""
        kind = kind_of_job(self._notebook, self.job) if self.job is not None else None
        return kind.asks_first if kind is not None else ""

    def parts(self) -> PartsList | None:
        """Return the parts list of the job, judged anew only when something about its parts was written."""
        job, pack = self.job, self.pack
        if job is None or pack is None:
            return None
        asked = (job.id, pack.digest, job.parts.stamp, self._shop.settings)
        if self._parts is None or self._parts[0] != asked:
            self._parts = (
                asked,
                list_parts(job, pack, mains=self._shop.settings.mains, esr_hertz=self._shop.settings.esr_hertz),
            )
        return self._parts[1]

    def free_stock(self, ref: str) -> tuple[StockItem, ...]:
        """Return what is on hand and not spoken for, seen from a part of the job."""
        return self._shop.supplies().free(self.job.id if self.job else "", ref)

    def money(self) -> tuple[str, Severity]:
        """Say time and parts of the job against the price agreed."""
        from candor.notebook.parts.orders import money_of, say_money

        record, job = (self.job.stay, self.job.id) if self.job else (Job("").stay, "")
        ordered = money_of(job, self._shop.orders())
        return say_money(
            agreed=record.agreed, an_hour=record.an_hour, minutes=record.minutes, money=record.money, ordered=ordered
        )

    def own_items(self, zone: str) -> tuple[str, ...]:
        """Return what the shop has added to a zone's checklist for the pack in hand."""
        return self._shop.record.own_items(self.pack.id, zone) if self.pack else ()

    def earlier_deviations(self) -> tuple[str, ...]:
        """Return what was not as drawn in earlier jobs of the instrument: it stays with it."""
        job = self.job
        if job is None:
            return ()
        asked = (job.id, job.name, job.serial)
        if self._deviations[0] != asked:
            folded = (fold(name, self._notebook.entries_of(name)) for name in self._others(job))
            self._deviations = (
                asked,
                tuple(dict.fromkeys(e.body.text for old in folded for e in old.unit.not_as_drawn)),
            )
        return self._deviations[1]

    def sister_nodes(self) -> Mapping[str, float]:
        """Return what the nodes of healthy ones of this type were at, V: those that have gone home, the newest first."""
        job = self.job
        if job is None:
            return {}
        if self._sisters[0] != (job.id, job.name):
            home = [
                x.job for x in self._shelf.lines if x.name == job.name and x.job != job.id and x.group == "gone home"
            ]
            found: dict[str, float] = {}
            for name in reversed(home):
                found |= {
                    node: e.body.volts for node, e in fold(name, self._notebook.entries_of(name)).trace.read.items()
                }
            self._sisters = (job.id, job.name), found
        return self._sisters[1]

    def _others(self, job: Job) -> tuple[str, ...]:
        return tuple(name for name in self._shelf.same_instrument(job.name, job.serial) if name != job.id)

    def history(self) -> tuple[HistoryLine, ...]:
        """Return what this notebook knows of the instrument, from all its jobs."""
        job = self.job
        if job is None:
            return ()
        return history([job, *(fold(name, self._notebook.entries_of(name)) for name in self._others(job))])


def _named(job: Job) -> tuple[str, str]:
    return job.pack_digest, job.name
