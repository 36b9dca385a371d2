"""The shop beside the job in hand: its standards, settings, stock and orders."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import TYPE_CHECKING

from candor.core.quantities.show import show_old
from candor.desktop.bench.shelf_in_hand import Shelf
from candor.notebook.entries.body import Unreadable
from candor.notebook.entries.entry import Entry
from candor.notebook.entries.shop_entries import ShopRecord, shop_record
from candor.notebook.entries.standing_entries import Standing
from candor.notebook.standards.standards import (
    Check,
    HangsOn,
    Standard,
    checks_of,
    chosen_by_job,
    jobs_read_against,
    since_last_good,
    standards_of,
)
from candor.notebook.store import Notebook
from candor.notebook.work.job import Job, fold
from candor.notebook.work.settings import Settings, settings_of

if TYPE_CHECKING:  # loaded where parts are in hand
    from candor.notebook.parts.stock import StockItem
    from candor.notebook.parts.supplies import Order, Supplies
    from candor.notebook.tubes.tubes import TubeShop


class Shop:
    """Asks the notebook what the whole shop has and needs; keeps nothing but the last answer until something is written."""

    def __init__(self, notebook: Notebook, shelf: Shelf) -> None:
        self._notebook, self._shelf = notebook, shelf
        self._supplies: tuple[object, Supplies] | None = None
        self._tubes: tuple[object, TubeShop] | None = None
        self._testers: tuple[object, tuple[tuple[str, str], ...]] | None = None
        self.standards: Mapping[str, Standard] = {}
        self.record = ShopRecord()
        self.unreadable: tuple[Entry[Unreadable], ...] = ()
        self.settings = Settings()
        self.look_again()

    def look_again(self) -> None:
        """Read the shop's own entries anew."""
        entries = self._notebook.entries_of("")
        self.standards = standards_of(entries)
        standing = Standing(entries)
        self.record, self.unreadable = shop_record(standing), standing.unreadable
        self.settings = settings_of(self.record.details)
        show_old(self.settings.units)

    @property
    def name(self) -> str:
        """The name of the shop, or nothing."""
        return self.record.details.get("shop", "")

    @property
    def spares(self) -> tuple[str, str]:
        """The spares policy as it was last written: per cent, and up to what price of one."""
        details = self.record.details
        return details.get("spares", ""), details.get("spares_up_to", "")

    def checks(self, key: str) -> tuple[Check, ...]:
        """Return the checks of a standard against others, in order."""
        return checks_of(self._notebook, key)

    def since_last_good(self, key: str) -> tuple[dt.date | None, tuple[HangsOn, ...]]:
        """Return the day of a standard's last good check, and every reading taken by it since."""
        return since_last_good(self._notebook, key, self.standards)

    def read_against(self, key: str, chains: bool = True) -> tuple[str, ...]:
        """Return the names of the jobs that have not gone home and are read against a standard, alone or, with `chains`, in one."""
        names = {line.job: line.name for line in self._shelf.lines if line.group != "gone home"}
        jobs = jobs_read_against(key, self.standards, chosen_by_job(self._notebook), chains)
        return tuple(names[job] for job in jobs if job in names)

    @property
    def revision(self) -> object:
        """What tells whether anything was written since."""
        return self._notebook.revision()

    def job_names(self) -> Mapping[str, str]:
        """Return what every job is called."""
        return {line.job: line.name for line in self._shelf.lines}

    def in_hand_jobs(self) -> tuple[Job, ...]:
        """Return the jobs that have not gone home, folded."""
        return tuple(
            fold(line.job, self._notebook.entries_of(line.job))
            for line in self._shelf.lines
            if line.group != "gone home"
        )

    def tubes(self) -> TubeShop:
        """Return the tubes on hand with their tests."""
        from candor.notebook.tubes.tubes import tube_shop

        asked = self._notebook.revision()
        if self._tubes is None or self._tubes[0] != asked:
            self._tubes = asked, tube_shop(self._notebook.entries_of(""))
        return self._tubes[1]

    def testers(self) -> tuple[tuple[str, str], ...]:
        """Return job and name of every tube tester that has not gone home."""
        from candor.notebook.tubes.testers import shop_testers

        asked = self._notebook.revision()
        if self._testers is None or self._testers[0] != asked:
            self._testers = asked, shop_testers(self.in_hand_jobs(), self._notebook)
        return self._testers[1]

    def supplies(self) -> Supplies:
        """Return what the whole shop has, needs and awaits."""
        from candor.notebook.parts.supplies import KINDS, supplies

        asked = (self._notebook.revision(), self._shelf.instruments())
        if self._supplies is None or self._supplies[0] != asked:
            self._supplies = asked, supplies(self._notebook.entries_of_kinds(KINDS), asked[1])
        return self._supplies[1]

    def stock(self) -> tuple[StockItem, ...]:
        """Return what is on hand."""
        return self.supplies().stock

    def orders(self) -> tuple[Order, ...]:
        """Return the orders of the shop, the newest first."""
        return self.supplies().orders
